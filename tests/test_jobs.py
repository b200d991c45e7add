"""The background's work: done by whoever works, begun again where one was killed, put in together with its cause."""

import os
import signal
import subprocess
import sys
import time
import unittest
from types import SimpleNamespace
from unittest import mock
from uuid import uuid4

import psycopg

from june_shade.jobs import Choosing, Worker, choose_now
from june_shade.plans import imports
from june_shade.plans.pictures import Folder
from june_shade.plans.work import make_engine, make_sessions, transaction
from june_shade.settings import ROOT
from june_shade.store import jobs
from tests.support import PICTURES, database, everything, fresh_database, small_site

HEAD = "site,tag,species,kind,caliper_m,ball_diameter_m,ball_height_m,planted_on"


class Work(unittest.TestCase):
    def setUp(self):
        self.url = fresh_database()
        engine = make_engine(self.url)
        self.addCleanup(engine.dispose)
        self.sessions = make_sessions(engine)
        with transaction(self.sessions) as session:
            self.site = small_site(session).name

    def brought(self, count, *, stored=True):
        rows = "\n".join(
            f"{self.site},N-{i},Quercus macrocarpa,balled,0.05,0.61,0.366,2026-06-01" for i in range(count)
        )
        with transaction(self.sessions) as session:
            row = imports.bring(session, uuid4(), None, "t.csv", f"{HEAD}\n{rows}\n".encode(), {})
        if stored:
            imports.work(self.sessions, row.id)
            with transaction(self.sessions) as session:
                imports.take(session, row.id)
        return row.id

    def now(self, import_id):
        with transaction(self.sessions) as session:
            row = imports.one(session, import_id)
            return row.state, row.done

    def until(self, found, timeout_s=60.0):
        end = time.monotonic() + timeout_s
        while not found():
            self.assertLess(time.monotonic(), end, "it never came")
            time.sleep(0.05)

    def working(self):
        worker = Worker(self.url, self.sessions, None, Folder(PICTURES), Choosing(by_itself=False))
        worker.start()
        self.addCleanup(worker.stop)
        return worker

    def test_what_is_put_in_is_done(self):
        ours = self.brought(3, stored=False)
        self.working()
        self.until(lambda: self.now(ours)[0] == "read")
        with transaction(self.sessions) as session:
            imports.take(session, ours)
        self.until(lambda: self.now(ours)[0] == "stored")

    def test_a_job_is_there_with_its_cause_or_not_at_all(self):
        with self.assertRaises(ZeroDivisionError), transaction(self.sessions) as session:
            jobs.defer(session, jobs.PLANS, once=jobs.PLANS)
            1 / 0  # noqa: B018
        self.assertEqual(self.queued(), 0)
        with transaction(self.sessions) as session:
            for _ in range(3):
                jobs.defer(session, jobs.PLANS, once=jobs.PLANS)
        self.assertEqual(self.queued(), 1, "one that waits is enough")

    def queued(self):
        with psycopg.connect(self.url) as connection:
            return connection.execute("SELECT count(*) FROM jobs.procrastinate_jobs").fetchone()[0]

    def test_a_worker_that_is_killed_loses_nothing(self):
        """Another process stores a file and is killed in the middle; the next worker stores all of it, once."""
        ours = self.brought(6000)
        child = subprocess.Popen(
            [sys.executable, "-m", "june_shade.launch.working"], cwd=ROOT,
            env={**os.environ, "JUNE_DATABASE_URL": self.url}, stdin=subprocess.DEVNULL,
        )  # fmt: skip
        try:
            self.until(lambda: self.now(ours)[1] > 0)
        finally:
            child.send_signal(signal.SIGKILL)
            child.wait()
        self.assertEqual(self.now(ours)[0], "storing")
        self.working()
        self.until(lambda: self.now(ours)[0] == "stored", 90)
        with everything(self.url) as connection:
            self.assertEqual(connection.execute("SELECT count(*) FROM tree").fetchone()[0], 6000)

    def test_an_import_without_a_job_is_found(self):
        ours = self.brought(3)
        with psycopg.connect(self.url) as connection:
            connection.execute("SET search_path TO jobs")
            connection.execute("DELETE FROM jobs.procrastinate_jobs")
        self.working()
        self.until(lambda: self.now(ours)[0] == "stored")


class Backups(unittest.TestCase):
    def test_the_queue_is_no_part_of_what_is_kept(self):
        from june_shade.store.backup import counts

        with database() as sessions, transaction(sessions) as session:
            kept = counts(session.connection())
        self.assertIn("import", kept)
        self.assertFalse([name for name in kept if "procrastinate" in name])


class Choose(unittest.TestCase):
    def test_who_waits_at_the_truck_has_a_plan_in_five_seconds(self):
        context = SimpleNamespace(additional_context={"sessions": None, "choosing": Choosing()})
        taken = {}
        for soon in (False, True):
            with mock.patch("june_shade.jobs.choosing.work") as worked:
                choose_now(context, soon=soon)
            taken[soon] = worked.call_args.kwargs["seconds"]
        self.assertLess(taken[True], 5.0)
        self.assertGreater(taken[False], taken[True])


if __name__ == "__main__":
    unittest.main()
