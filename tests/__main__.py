"""`python -m tests [WORD ...]`: all tests, or those whose dotted name contains one of the words.

With no word they are handed out class by class, those of the browser first, to a few processes that share a database
server: whoever is done takes the next. Ends with the slowest and a line `N passed, N failed, N skipped`; not zero where
one failed or none ran.
"""

import io
import json
import os
import subprocess
import sys
import time
import unittest
import warnings
from collections.abc import Iterator, Sequence
from concurrent.futures import ThreadPoolExecutor
from contextlib import suppress
from dataclasses import dataclass
from pathlib import Path
from threading import Lock

from june_shade.launch import cluster
from tests import SHARED

HERE = Path(__file__).resolve().parent
LONGEST = (
    "tests.browser.test_views.Views", "tests.api.test_never_500.Fuzzed", "tests.plans.test_record.AnyOrder",
    "tests.api.test_pages_agree.TheTown", "tests.plans.test_plan.Demo", "tests.test_jobs.Work",
)  # fmt: skip
"""What takes minutes by itself begins first, so that nobody waits for it at the end; beside the one that makes the town
two that need none."""
FOLDERS = ("browser", "api", "launch", "plans")
"""Then these, then all others, which take little each."""
ONE_MORE = 1
"""So many processes more than cores: a browser's test waits for the page now and then; yet more only make all wait."""
ONE_THREAD = dict.fromkeys(("OPENBLAS_NUM_THREADS", "OMP_NUM_THREADS"), "1")
"""Processes that share the cores take none of them for one product of matrices."""
SLOWEST = 12
TAKES = "--takes"
"""The word that makes a process one of these."""


def _flat(suite: unittest.TestSuite) -> Iterator[unittest.TestCase]:
    for part in suite:
        if isinstance(part, unittest.TestSuite):
            yield from _flat(part)
        else:
            yield part


def _found() -> list[unittest.TestCase]:
    loader = unittest.TestLoader()
    return list(_flat(loader.discover(str(HERE), top_level_dir=str(HERE.parent))))


class Timed(unittest.TextTestResult):
    """A result that knows how long each test took [s]."""

    def __init__(self, *words, **named) -> None:
        super().__init__(*words, **named)
        self.taken: dict[str, float] = {}

    def startTest(self, test) -> None:  # noqa: N802 - unittest's own name
        self._began = time.monotonic()
        super().startTest(test)

    def stopTest(self, test) -> None:  # noqa: N802
        super().stopTest(test)
        self.taken[test.id()] = time.monotonic() - self._began


@dataclass
class Told:
    """What came of some tests: how many passed, failed and were skipped; how long each took [s]; what failed says."""

    passed: int
    failed: int
    skipped: int
    taken: dict[str, float]
    text: str = ""

    @classmethod
    def of(cls, result: Timed, text: str = "") -> "Told":
        """What a result comes to."""
        failed = len(result.failures) + len(result.errors) + len(result.unexpectedSuccesses)
        skipped = len(result.skipped) + len(result.expectedFailures)
        passed = max(0, result.testsRun - failed - skipped)
        return cls(passed, failed, skipped, result.taken, text if failed else "")

    def __add__(self, more: "Told") -> "Told":
        return Told(
            self.passed + more.passed, self.failed + more.failed, self.skipped + more.skipped, self.taken | more.taken,
            self.text + more.text,
        )  # fmt: skip

    def say(self, seconds: float) -> int:
        """Print it; the exit code."""
        slowest = sorted(self.taken.items(), key=lambda one: -one[1])[:SLOWEST]
        print("slowest: " + ", ".join(f"{name.split('.', 1)[1]} {taken:.1f} s" for name, taken in slowest))
        print(f"in {seconds:.0f} s")
        print(f"{self.passed} passed, {self.failed} failed, {self.skipped} skipped", flush=True)
        return 0 if self.passed and not self.failed else 1


def _run(tests: Sequence[unittest.TestCase], **how) -> Timed:
    runner = unittest.TextTestRunner(buffer=True, resultclass=Timed, **how)
    return runner.run(unittest.TestSuite(tests))


def takes() -> None:
    """Run the classes whose names come line by line; a line of what came of it for each. Other output goes where errors
    go."""
    answers = os.fdopen(os.dup(1), "w", buffering=1)
    os.dup2(2, 1)
    for line in sys.stdin:
        said = io.StringIO()
        tests = list(_flat(unittest.TestLoader().loadTestsFromName(line.strip())))
        answers.write(json.dumps(vars(Told.of(_run(tests, stream=said), said.getvalue()))) + "\n")


def _in_order(tests: Sequence[unittest.TestCase]) -> list[str]:
    """The classes of tests, what takes long first."""
    names = dict.fromkeys(test.id().rsplit(".", 1)[0] for test in tests)
    longest, folders = list(LONGEST), list(FOLDERS)

    def rank(name: str) -> tuple[int, int]:
        folder = name.split(".")[1]
        return (
            longest.index(name) if name in longest else len(longest),
            folders.index(folder) if folder in folders else len(folders),
        )

    return sorted(names, key=rank)


def _with_browser(name: str) -> bool:
    return name.split(".")[1] == FOLDERS[0]


class _Taker:
    """A process that runs the classes that it is told. environment: its own."""

    def __init__(self, environment: dict[str, str]) -> None:
        command = [sys.executable, "-m", "tests", TAKES]
        self._process = subprocess.Popen(
            command, stdin=subprocess.PIPE, stdout=subprocess.PIPE, text=True, bufsize=1, env=environment
        )
        self.drives_a_browser = self.is_gone = False

    def take(self, name: str) -> Told:
        """What came of a class; where the process ended over it, that."""
        self.drives_a_browser |= _with_browser(name)
        try:
            self._process.stdin.write(name + "\n")
            answer = self._process.stdout.readline()
        except BrokenPipeError:
            answer = ""
        self.is_gone = not answer
        return Told(**json.loads(answer)) if answer else Told(0, 1, 0, {}, f"{name}: its process ended over it\n")

    def end(self) -> None:
        """Let it go home."""
        with suppress(BrokenPipeError):
            self._process.stdin.close()
        self._process.wait()
        self._process.stdout.close()


def everything() -> Told:
    """All tests, handed out to processes; what each failed one said is printed as it comes."""
    left, one_takes = iter(_in_order(_found())), Lock()

    def hand_out(environment: dict[str, str]) -> Told:
        told, process = Told(0, 0, 0, {}), _Taker(environment)
        try:
            while True:
                with one_takes:
                    name = next(left, None)
                if name is None:
                    return told
                # no other test may meet the event loop of a browser's
                if process.is_gone or (process.drives_a_browser and not _with_browser(name)):
                    process.end()
                    process = _Taker(environment)
                more = process.take(name)
                seconds = sum(more.taken.values())
                print(
                    f"{name}: {more.passed} passed, {more.failed} failed, {seconds:.0f} s\n{more.text}",
                    end="",
                    flush=True,
                )
                told += more
        finally:
            process.end()

    with cluster.throw_away(tidies=False) as server:
        count = ONE_MORE + (os.cpu_count() or 1)
        environments = [{**os.environ, SHARED: str(server.folder), **ONE_THREAD}] * count
        with ThreadPoolExecutor(count) as pool:
            return sum(pool.map(hand_out, environments), Told(0, 0, 0, {}))


def main(words: list[str]) -> int:
    """Run and count."""
    warnings.filterwarnings("ignore", message=".*starlette.testclient.*")
    if words == [TAKES]:
        takes()
        return 0
    began = time.monotonic()
    if words:
        tests = [test for test in _found() if any(word in test.id() for word in words)]
        told = Told.of(_run(tests, verbosity=2))
    else:
        told = everything()
    return told.say(time.monotonic() - began)


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
