"""The start: what happens where packages are missing, and a database server that was left, killed or asked twice."""

import contextlib
import os
import shutil
import signal
import subprocess
import tempfile
import time
import unittest
import urllib.request
from pathlib import Path
from unittest import mock

import psycopg

from june_shade.launch import cluster, serving
from june_shade.launch.cluster import Cluster
from june_shade.launch.processes import weather_stand_in
from june_shade.settings import ROOT
from tests.support import fresh_database

SCRIPT = ROOT / "june"
BASICS = [
    "bash",
    "env",
    "dirname",
    "readlink",
    "sed",
    "tr",
    "cat",
    "grep",
    "id",
    "sha256sum",
    "cut",
    "find",
    "sort",
    "xargs",
    "mkdir",
    "flock",
    "tail",
]


class Script(unittest.TestCase):
    def setUp(self):
        self.folder = Path(tempfile.mkdtemp(prefix="june-"))
        self.addCleanup(shutil.rmtree, self.folder)

    def run_copy(self, *words: str) -> subprocess.CompletedProcess:
        """The script alone in a folder, on a machine that has neither Python nor Node.js."""
        (self.folder / "bin").mkdir(exist_ok=True)
        for name in BASICS:
            found = shutil.which(name)
            if found and not (self.folder / "bin" / name).exists():
                (self.folder / "bin" / name).symlink_to(found)
        home = self.folder / "checkout"
        home.mkdir(exist_ok=True)
        shutil.copy(SCRIPT, home / "june")
        return subprocess.run(
            ["bash", str(home / "june"), *words],
            env={"PATH": str(self.folder / "bin"), "JUNE_NO_INSTALL": "1"}, capture_output=True, text=True,
        )  # fmt: skip

    def test_missing_packages_are_named_at_once_and_nothing_is_begun(self):
        for command in ("demo", "test", "run", "balance"):
            answer = self.run_copy(command)
            self.assertEqual(answer.returncode, 3, answer.stderr)
            self.assertIn("python3-venv", answer.stderr)
            self.assertEqual(answer.stdout, "")
            left = [p.name for p in (self.folder / "checkout").iterdir()]
            self.assertEqual(left, ["june"], "nothing half done")
        self.assertIn("nodejs", self.run_copy("demo").stderr)
        self.assertNotIn("nodejs", self.run_copy("balance").stderr, "a headless command needs no interface")

    def test_a_word_that_is_no_command_lists_those_that_are(self):
        answer = self.run_copy("dance")
        self.assertEqual(answer.returncode, 2)
        self.assertIn("./june demo", answer.stderr)


class KeptCluster(unittest.TestCase):
    def setUp(self):
        folder = Path(tempfile.mkdtemp(prefix="june-", dir="/tmp"))
        os.chmod(folder, 0o755)
        self.addCleanup(shutil.rmtree, folder, True)
        self.server = Cluster(folder / "pg", keep=True)
        self.server.start()
        self.addCleanup(lambda: self.server.stop())

    def pid(self) -> int:
        return int((self.server.data / "postmaster.pid").read_text().splitlines()[0])

    def test_it_asks_for_a_password(self):
        url = self.server.url("postgres", cluster.ADMIN)
        with psycopg.connect(url) as connection:
            self.assertEqual(connection.execute("SELECT 1").fetchone(), (1,))
        without = url.replace(url.split("@")[0].split("//")[1], cluster.ADMIN)
        with self.assertRaises(psycopg.OperationalError):
            psycopg.connect(without, connect_timeout=3)

    def test_one_left_running_is_adopted(self):
        second = Cluster(self.server.folder, keep=True)
        second.start()
        self.assertEqual(second.port, self.server.port)

    def test_after_a_kill_it_starts_again_with_its_data(self):
        url = self.server.ensure_database("kept")
        with psycopg.connect(url, autocommit=True) as connection:
            connection.execute("CREATE TABLE oak (rings int)")
            connection.execute("INSERT INTO oak VALUES (42)")
        killed = self.pid()
        os.kill(killed, signal.SIGKILL)
        with contextlib.suppress(ProcessLookupError):
            while True:
                os.kill(killed, 0)
                time.sleep(0.01)
        self.server = Cluster(self.server.folder, keep=True)
        self.server.start()
        with psycopg.connect(self.server.url("kept")) as connection:
            self.assertEqual(connection.execute("SELECT rings FROM oak").fetchone(), (42,))

    def test_a_trace_of_a_server_that_is_gone_is_no_hindrance(self):
        self.server.stop()
        (self.server.data / "postmaster.pid").write_text(f"{os.getpid()}\n{self.server.data}\n1\n5432\n\n127.0.0.1\n")
        self.server = Cluster(self.server.folder, keep=True)
        self.server.start()
        self.assertNotEqual(self.server.port, 5432)


class Serving(unittest.TestCase):
    def test_the_same_thing_is_not_started_twice(self):
        with (
            tempfile.TemporaryDirectory() as folder,
            mock.patch.object(cluster, "home", return_value=Path(folder)),
            serving.only_one("demo") as lock,
        ):
            lock.write_text("http://127.0.0.1:8640")
            with self.assertRaises(serving.AlreadyRunning) as caught, serving.only_one("demo"):
                pass
            self.assertIn("8640", str(caught.exception))

    def test_a_port_that_is_taken_is_not_waited_for(self):
        first = serving.listen(0)
        self.addCleanup(first.close)
        second = serving.listen(first.getsockname()[1])
        self.addCleanup(second.close)
        self.assertNotEqual(first.getsockname()[1], second.getsockname()[1])
        self.assertEqual(second.getsockname()[0], "127.0.0.1")

    def test_a_database_of_your_own_is_used_as_it_is(self):
        url = fresh_database()
        with mock.patch.dict(os.environ, {"DATABASE_URL": url}), serving.database("run") as found:
            self.assertEqual(found, url)
        with psycopg.connect(url) as connection:  # and it is left running
            self.assertEqual(connection.execute("SELECT count(*) FROM site").fetchone(), (0,))

    def test_the_stand_in_ends_with_its_block(self):
        with weather_stand_in() as address, urllib.request.urlopen(f"{address}/fail?times=0") as answer:
            self.assertEqual(answer.status, 200)
        with self.assertRaises(OSError):
            urllib.request.urlopen(f"{address}/fail?times=0", timeout=2)


if __name__ == "__main__":
    unittest.main()
