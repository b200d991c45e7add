"""Backups: what comes back is what was there, of one moment, or nothing at all."""

import io
import json
import threading
import unittest
import zipfile
from hashlib import sha256

from sqlalchemy import create_engine, text
from sqlalchemy.exc import DBAPIError

from june_shade.core.errors import ConflictError, InputError
from june_shade.plans import backup, log
from june_shade.plans.log import NewEntry
from june_shade.store import backup as store
from june_shade.store.picture_files import Folder
from june_shade.store.session import ALL, is_of, psycopg_url
from tests.support import PICTURES, database, fresh_database

FOLDER = Folder(PICTURES)


def tables(engine) -> dict[str, list[str]]:
    """Every row of every table as the database writes it."""
    with engine.connect() as connection:
        is_of(connection, ALL)
        names = connection.execute(text("SELECT tablename FROM pg_tables WHERE schemaname = 'public'")).scalars().all()
        return {
            name: sorted(connection.execute(text(f'SELECT t::text FROM "{name}" t')).scalars().all()) for name in names
        }


class RoundTrip(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        cls.stack = database("demo")
        cls.sessions = cls.stack.__enter__()
        cls.addClassCleanup(cls.stack.__exit__, None, None, None)
        cls.engine = backup.engine_of(cls.sessions)
        out = io.BytesIO()
        cls.made, cls.data = backup.write(cls.engine, out, FOLDER), out.getvalue()

    def empty(self):
        engine = create_engine(psycopg_url(fresh_database()))
        self.addCleanup(engine.dispose)
        return engine

    def changed(self, change) -> io.BytesIO:
        """The backup with its files as `change` makes them of {name: bytes}."""
        with zipfile.ZipFile(io.BytesIO(self.data)) as file:
            parts = {name: file.read(name) for name in file.namelist()}
        change(parts)
        out = io.BytesIO()
        with zipfile.ZipFile(out, "w") as file:
            for name, data in parts.items():
                file.writestr(name, data)
        return io.BytesIO(out.getvalue())

    def test_it_comes_back_to_the_last_digit(self):
        other, told = self.empty(), []
        found = backup.restore(other, io.BytesIO(self.data), FOLDER, lambda done, of: told.append((done, of)))
        self.assertEqual(tables(other), tables(self.engine))
        self.assertEqual(found, self.made)
        self.assertEqual(told[-1][0], told[-1][1])
        again = io.BytesIO()
        backup.write(other, again, FOLDER)
        with zipfile.ZipFile(again) as one, zipfile.ZipFile(io.BytesIO(self.data)) as two:
            read = lambda file: json.loads(file.read("manifest.json"))["tables"]  # noqa: E731
            self.assertEqual(read(one), read(two))

    def test_the_rules_of_the_database_hold_afterwards(self):
        other = self.empty()
        backup.restore(other, io.BytesIO(self.data), FOLDER)
        for statement in ("DELETE FROM log_entry", "UPDATE tree SET site_id = gen_random_uuid()", "DELETE FROM site"):
            with self.assertRaises(DBAPIError, msg=statement), other.begin() as connection:
                is_of(connection, ALL)
                connection.execute(text(statement))

    def test_a_program_with_data_takes_none(self):
        before = tables(self.engine)
        with self.assertRaises(ConflictError):
            backup.restore(self.engine, io.BytesIO(self.data), FOLDER)
        self.assertEqual(tables(self.engine), before)

    def test_a_broken_file_restores_nothing(self):
        def cut_row(parts):
            lines = parts["tables/tree.jsonl"].split(b"\n")
            parts["tables/tree.jsonl"] = b"\n".join(lines[1:])

        def other_digit(parts):
            parts["tables/site.jsonl"] = parts["tables/site.jsonl"].replace(b"0", b"1", 1)

        def no_sites(parts):  # every hash is right, but rows refer to what is not there
            manifest = json.loads(parts["manifest.json"])
            del manifest["tables"]["site"]
            parts["manifest.json"] = json.dumps(manifest).encode()

        def newer(parts):
            parts["manifest.json"] = parts["manifest.json"].replace(b'"schema": "0', b'"schema": "9')

        def lost(parts):
            del parts["tables/log_entry.jsonl"]

        broken = {
            "cut": io.BytesIO(self.data[: len(self.data) // 2]), "nothing": io.BytesIO(b""),
            "text": io.BytesIO(b"a" * 99), "no manifest": self.changed(lambda parts: parts.pop("manifest.json")),
        }  # fmt: skip
        for change in (cut_row, other_digit, no_sites, newer, lost):
            broken[change.__name__] = self.changed(change)
        other = self.empty()
        before = tables(other)
        for name, source in broken.items():
            with self.subTest(name):
                with self.assertRaises(InputError) as caught:
                    backup.restore(other, source, FOLDER)
                self.assertNotIn("psycopg", caught.exception.message)
                self.assertEqual(tables(other), before)
        backup.restore(other, io.BytesIO(self.data), FOLDER)

    def test_an_older_backup_is_brought_to_the_schema_of_today(self):
        def older(parts):
            manifest = json.loads(parts["manifest.json"])
            manifest["schema"] = "0015"
            newer = (
                "calendar_feed", "thirst_answer", "tree_fit", "tree_checkup", "tree_end", "own_act", "crew", "crew_day",
                "restriction", "restriction_site",
            )  # fmt: skip
            for name in newer:
                del manifest["tables"][name]
            there_were_none_yet = {
                "log_entry": lambda row: row["kind"] == "reading", "tree": lambda row: row["ended_on"],
            }  # fmt: skip
            for name, is_new in there_were_none_yet.items():
                rows = parts[f"tables/{name}.jsonl"].splitlines(keepends=True)
                kept = [row for row in rows if not is_new(json.loads(row))]
                parts[f"tables/{name}.jsonl"] = b"".join(kept)
                told = manifest["tables"][name]
                told["rows"], told["sha256"] = len(kept), sha256(b"".join(kept)).hexdigest()
            parts["manifest.json"] = json.dumps(manifest).encode()

        other = self.empty()
        backup.restore(other, self.changed(older), FOLDER)
        with other.connect() as connection, self.engine.connect() as here:
            is_of(connection, ALL)
            is_of(here, ALL)
            self.assertEqual(store.revision(connection), store.revision(here))
            self.assertEqual(store.counts(connection)["tree"], store.counts(here)["tree"] - 1)  # the one that died

    def test_it_is_of_one_moment_whoever_writes_meanwhile(self):
        from uuid import uuid4

        from june_shade.plans import clock
        from june_shade.store.session import transaction
        from june_shade.store.tree_tables import Tree

        with database("demo") as sessions:
            stop = threading.Event()

            def write():
                while not stop.is_set():
                    with transaction(sessions) as session:
                        tree = session.query(Tree).first()
                        water = NewEntry(uuid4(), tree.id, "water", clock.now(session), "d", volume_l=1.0)
                        log.put(session, water)
                        log.put(session, NewEntry(uuid4(), tree.id, "void", clock.now(session), "d", voids=water.id))

            writer = threading.Thread(target=write)
            writer.start()
            try:
                out = io.BytesIO()
                backup.write(backup.engine_of(sessions), out, FOLDER)
            finally:
                stop.set()
                writer.join()
        with zipfile.ZipFile(out) as file:
            entries = [json.loads(line) for line in file.read("tables/log_entry.jsonl").splitlines()]
        known = {entry["id"] for entry in entries}
        fresh = [entry for entry in entries if entry["device_id"] == "d"]
        self.assertEqual({e["voids"] for e in fresh if e["voids"]}, {e["id"] for e in fresh if not e["voids"]})
        self.assertLessEqual({e["voids"] for e in entries if e["voids"]}, known)


if __name__ == "__main__":
    unittest.main()
