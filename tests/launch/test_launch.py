"""The start: what happens where packages are missing, and a database server that was left, killed or asked twice."""

import contextlib
import io
import os
import shutil
import signal
import subprocess
import sys
import tempfile
import time
import unittest
import urllib.request
from contextlib import redirect_stderr, redirect_stdout
from pathlib import Path
from unittest import mock

import psycopg

from june_shade.launch import cluster, owners, processes, serving
from june_shade.launch.cluster import Cluster
from june_shade.launch.processes import StandIn, watched, weather_stand_in
from june_shade.settings import ROOT, Settings
from june_shade.store.migrate import upgrade
from tests.support import everything, fresh_database
from tests.support import server as database_server

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

    def test_the_script_knows_every_command_there_is(self):
        from june_shade.launch.__main__ import COMMANDS

        usage = self.run_copy("help").stderr
        for command in COMMANDS:
            self.assertEqual(self.run_copy(command).returncode, 3, command)  # known; its packages are missing
            self.assertRegex(usage, rf"\b{command}\b")

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


def start(name: str, env: dict[str, str], typed: str = "", *words: str) -> subprocess.CompletedProcess:
    """The launcher's answer where it does not start, or is done at once."""
    command = [sys.executable, "-m", "june_shade.launch", name, *words]
    return subprocess.run(command, env=env, cwd=ROOT, capture_output=True, text=True, timeout=60, input=typed)


class Watched(unittest.TestCase):
    def test_a_stand_in_that_was_killed_is_noticed_within_5_s_and_back_at_its_address(self):
        self.assertLess(processes.LOOK_EVERY_S, 5)
        child = StandIn()
        child.start()
        self.addCleanup(child.stop)
        with watched([child]), self.assertLogs("june_shade", "ERROR") as said:
            child._child.kill()
            self.assertEqual(self.answered(lambda: urllib.request.urlopen(f"{child.address}/fail?times=0")), 200)
        self.assertIn("the stand-in of the weather service is gone", said.output[0])

    def test_so_is_the_database_with_its_data_and_the_program_goes_on(self):
        folder = Path(tempfile.mkdtemp(prefix="june-", dir="/tmp"))
        os.chmod(folder, 0o755)
        self.addCleanup(shutil.rmtree, folder, True)
        server = Cluster(folder / "pg", keep=True)
        server.start()
        self.addCleanup(server.stop)
        url = server.ensure_database("kept")
        upgrade(url)
        with serving.background(Settings(database_url=url)) as address, watched([server]):
            sites = f"{address}/api/sites"
            self.assertEqual(urllib.request.urlopen(sites).status, 200)
            os.kill(int((server.data / "postmaster.pid").read_text().splitlines()[0]), signal.SIGKILL)
            with self.assertLogs("june_shade", "ERROR") as said:
                until = time.monotonic() + 60
                while not said.records and time.monotonic() < until:  # a page may still come from what was open
                    time.sleep(0.1)
                self.assertEqual(self.answered(lambda: urllib.request.urlopen(sites)), 200)
        self.assertEqual(server.url("kept"), url)

    def answered(self, ask, within_s: float = 60.0) -> int:
        """The status of the first answer; how long that takes on a busy machine is no fault of the code."""
        until = time.monotonic() + within_s
        while True:
            try:
                return ask().status
            except OSError:
                if time.monotonic() > until:
                    raise
                time.sleep(0.1)


class Serving(unittest.TestCase):
    def test_the_same_thing_is_not_started_twice(self):
        with (
            tempfile.TemporaryDirectory() as folder,
            mock.patch.object(cluster, "home", return_value=Path(folder)),
            serving.only_one("demo") as tell,
        ):
            tell("http://127.0.0.1:8640")
            with self.assertRaises(serving.AlreadyRunning) as caught, serving.only_one("demo"):
                pass
            self.assertIn("8640", str(caught.exception))

    def test_a_port_that_is_taken_is_said_and_no_other_one_is_taken_for_it(self):
        first = serving.listen(0)
        self.addCleanup(first.close)
        taken = str(first.getsockname()[1])
        with tempfile.TemporaryDirectory() as folder:
            env = {**os.environ, "JUNE_PORT": taken, "JUNE_DATA": f"{folder}/data"}
            done = start("run", env)
        self.assertEqual(done.returncode, 3)
        self.assertEqual(len(done.stderr.strip().splitlines()), 1, done.stderr)
        self.assertIn(f"port {taken} is taken", done.stderr)

    def test_nobody_else_is_let_near_before_there_is_an_owner(self):
        """An address that others reach is refused until somebody signs in; then it listens there."""
        url = fresh_database()
        with tempfile.TemporaryDirectory() as folder:
            own = {"DATABASE_URL": url, "JUNE_DATA": f"{folder}/data"}
            done = start("run", {**os.environ, **own, "JUNE_PORT": "0", "JUNE_HOST": "0.0.0.0"})
            self.assertEqual(done.returncode, 3, done.stderr)
            self.assertIn("make the owner's account first", done.stderr)
            self.assertEqual(done.stdout, "")
            self.enterContext(mock.patch.dict(os.environ, own))
            typed = "Curlew Trees\nAda\nada\neleven crows on a gate\n"
            self.assertEqual(self.owner(typed), (0, "Ada owns Curlew Trees: sign in as ada.\n", ""))
            serving._refuse_without_an_owner(url, "0.0.0.0")
            self.assertIn("there is an owner already", self.owner(typed)[2])
            self.assertEqual(self.owner(typed.replace("Curlew", "Nightjar").replace("ada", "eva"), "--another")[0], 0)
            self.assertIn("signs in once with", self.owner("", "--reset", "ADA")[1])
            self.assertEqual(self.owner("", "--reset", "nobody")[0], 1)
            self.assertEqual(self.owner("", "--dance")[0], 2)
        with self.assertRaises(serving.CannotStart) as caught:
            serving.listen(0, "192.0.2.1")
        self.assertIn("JUNE_HOST", str(caught.exception))

    def owner(self, typed: str, *words: str) -> tuple[int, str, str]:
        """What `./june owner` gives back and says, with these lines typed."""
        out, wrong = io.StringIO(), io.StringIO()
        with mock.patch("sys.stdin", io.StringIO(typed)), redirect_stdout(out), redirect_stderr(wrong):
            code = owners.manage(list(words))
        return code, out.getvalue(), wrong.getvalue()

    def test_what_is_loopback(self):
        for host, is_one in (("127.0.0.1", True), ("::1", True), ("localhost", True), ("0.0.0.0", False),
                             ("10.1.2.3", False), ("june.example.org", False)):  # fmt: skip
            self.assertIs(serving.is_loopback(host), is_one, host)

    def test_a_database_that_is_down_is_said_in_a_sentence(self):
        with tempfile.TemporaryDirectory() as folder:
            for url in ("postgresql://june@127.0.0.1:1/none", "nonsense"):
                env = {**os.environ, "JUNE_PORT": "0", "JUNE_DATA": f"{folder}/data", "DATABASE_URL": url}
                done = start("run", env)
                self.assertEqual(done.returncode, 3, done.stderr)
                self.assertEqual(len(done.stderr.strip().splitlines()), 1, done.stderr)
                self.assertIn("DATABASE_URL does not answer", done.stderr)

    def test_data_stays_where_it_is_when_a_checkout_moves(self):
        with mock.patch.object(cluster, "ROOT", Path("/somewhere/else")):
            moved = cluster.folder_of("run"), cluster.folder_of("demo")
        self.assertEqual(cluster.folder_of("run"), moved[0])
        self.assertNotEqual(cluster.folder_of("demo"), moved[1])
        with mock.patch.dict(os.environ, {"JUNE_DATA": "/mnt/trees"}):
            self.assertEqual(cluster.folder_of("run"), Path("/mnt/trees"))

    def test_a_database_of_your_own_is_used_as_it_is(self):
        url = fresh_database()
        with mock.patch.dict(os.environ, {"DATABASE_URL": url}), serving.database("run") as found:
            self.assertEqual(found, url)
        with everything(url) as connection:  # and it is left running
            self.assertEqual(connection.execute("SELECT count(*) FROM site").fetchone(), (0,))

    def test_any_number_runs_on_a_database_of_your_own(self):
        """Two start on an empty one at the same time, on ports of their own, and one more that only does jobs."""
        self.enterContext(mock.patch.dict(os.environ, {"DATABASE_URL": database_server().ensure_database("shared")}))
        with tempfile.TemporaryDirectory() as folder:
            env = {**os.environ, "JUNE_PORT": "0", "JUNE_PICTURES": folder}
            words = ("run", "run", "work")
            children = [
                subprocess.Popen([sys.executable, "-m", "june_shade.launch", word], env=env, cwd=ROOT, text=True,
                                 stdin=subprocess.DEVNULL, stdout=subprocess.PIPE, stderr=subprocess.PIPE)
                for word in words
            ]  # fmt: skip
            try:
                said = [child.stdout.readline() for child in children]
                addresses = [line.split()[2] for line in said[:2]]
                self.assertEqual(len(set(addresses)), 2)
                for address in addresses:
                    with urllib.request.urlopen(f"{address}/api/ready") as answer:
                        self.assertEqual(answer.status, 200)
                self.assertIn("does jobs", said[2])
            finally:
                for child in children:
                    child.terminate()
                codes = [child.wait(60) for child in children]
                wrong = [child.communicate()[1] for child in children]
        self.assertEqual((codes, wrong), ([0, 0, 0], [""] * 3))

    def test_jobs_alone_want_a_database(self):
        env = {name: value for name, value in os.environ.items() if name != "DATABASE_URL"}
        done = start("work", env)
        self.assertEqual((done.returncode, len(done.stderr.splitlines())), (3, 1))
        self.assertIn("DATABASE_URL", done.stderr)

    def test_the_stand_in_ends_with_its_block(self):
        with weather_stand_in() as address, urllib.request.urlopen(f"{address}/fail?times=0") as answer:
            self.assertEqual(answer.status, 200)
        with self.assertRaises(OSError):
            urllib.request.urlopen(f"{address}/fail?times=0", timeout=2)


if __name__ == "__main__":
    unittest.main()
