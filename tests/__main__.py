"""`python -m tests [WORD ...]`: all tests, or those whose dotted name contains one of the words.

With no word they run in five lanes, the browser's two, the API's two and all others, three at a time, each a process;
they share a database server. `--lane NAME` runs one of them. Ends with the slowest and a line
`N passed, N failed, N skipped`; not zero where one failed or none ran.
"""

import os
import re
import subprocess
import sys
import tempfile
import time
import unittest
import warnings
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path

from june_shade.launch import cluster
from tests import SHARED

HERE = Path(__file__).resolve().parent


def _flat(suite: unittest.TestSuite) -> Iterator[unittest.TestCase]:
    for part in suite:
        if isinstance(part, unittest.TestSuite):
            yield from _flat(part)
        else:
            yield part


LANES = ("browser_2", "api_2", "browser_1", "api_1", "rest")
"""In the order in which they begin."""
HALVES = {"browser": "test_j", "api": "test_n"}
"""From which module on a folder's second half goes."""
AT_ONCE = 3
"""Lanes that run at a time: on two cores one more only makes all wait."""
SLOWEST = 8


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


def lane_of(test: unittest.TestCase) -> str:
    """The lane that a test runs in, by its folder; the browser's and the API's half by half."""
    _, folder, module, *_ = test.id().split(".")
    if folder not in HALVES:
        return LANES[-1]
    return f"{folder}_{1 if module < HALVES[folder] else 2}"


def all_lanes() -> int:
    """Run the lanes side by side; what each said, one after the other, and the sum."""
    began = time.monotonic()
    with tempfile.TemporaryDirectory() as folder, cluster.throw_away() as server:
        shared = {**os.environ, SHARED: str(server.folder)}

        def run(lane: str) -> int:
            command = [sys.executable, "-m", "tests", "--lane", lane]
            with Path(folder, lane).open("w") as said:
                return subprocess.call(command, stdout=said, stderr=subprocess.STDOUT, env=shared)

        with ThreadPoolExecutor(AT_ONCE) as pool:
            codes = list(pool.map(run, LANES))
        texts = [Path(folder, lane).read_text() for lane in LANES]
    print("\n".join(texts))
    counts = [re.findall(r"^(\d+) passed, (\d+) failed, (\d+) skipped$", text, re.M) for text in texts]
    passed, failed, skipped = (sum(int(one[-1][k]) for one in counts if one) for k in range(3))
    print(f"all lanes in {time.monotonic() - began:.0f} s")
    print(f"{passed} passed, {failed} failed, {skipped} skipped", flush=True)
    return max(codes)


def main(words: list[str]) -> int:
    """Run and count."""
    if not words:
        return all_lanes()
    lane = words[1] if words[0] == "--lane" else ""
    words = [] if lane else words
    warnings.filterwarnings("ignore", message=".*starlette.testclient.*")
    loader = unittest.TestLoader()
    found = list(_flat(loader.discover(str(HERE), top_level_dir=str(HERE.parent))))
    if words:
        found = [test for test in found if any(word in test.id() for word in words)]
    if lane:
        found = [test for test in found if lane_of(test) == lane]
    began = time.monotonic()
    runner = unittest.TextTestRunner(verbosity=2 if words else 1, buffer=True, resultclass=Timed)
    result = runner.run(unittest.TestSuite(found))
    slowest = sorted(result.taken.items(), key=lambda one: -one[1])[:SLOWEST]
    print("slowest: " + ", ".join(f"{name.split('.', 1)[1]} {taken:.1f} s" for name, taken in slowest))
    failed = len(result.failures) + len(result.errors) + len(result.unexpectedSuccesses)
    skipped = len(result.skipped) + len(result.expectedFailures)
    passed = max(0, result.testsRun - failed - skipped)
    print(f"in {time.monotonic() - began:.0f} s")
    print(f"{passed} passed, {failed} failed, {skipped} skipped", flush=True)
    return 0 if passed and not failed else 1


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
