"""`python -m tests [NAME ...]`: all tests, or those whose dotted name contains one of the words.

Ends with a line `N passed, N failed, N skipped`; not zero where one failed or none ran.
"""

import sys
import time
import unittest
import warnings
from collections.abc import Iterator
from pathlib import Path

HERE = Path(__file__).resolve().parent


def _flat(suite: unittest.TestSuite) -> Iterator[unittest.TestCase]:
    for part in suite:
        if isinstance(part, unittest.TestSuite):
            yield from _flat(part)
        else:
            yield part


def main(words: list[str]) -> int:
    """Run and count."""
    warnings.filterwarnings("ignore", message=".*starlette.testclient.*")
    loader = unittest.TestLoader()
    found = list(_flat(loader.discover(str(HERE), top_level_dir=str(HERE.parent))))
    if words:
        found = [test for test in found if any(word in test.id() for word in words)]
    began = time.monotonic()
    result = unittest.TextTestRunner(verbosity=2 if words else 1, buffer=True).run(unittest.TestSuite(found))
    failed = len(result.failures) + len(result.errors) + len(result.unexpectedSuccesses)
    skipped = len(result.skipped) + len(result.expectedFailures)
    passed = max(0, result.testsRun - failed - skipped)
    print(f"in {time.monotonic() - began:.0f} s")
    print(f"{passed} passed, {failed} failed, {skipped} skipped", flush=True)
    return 0 if passed and not failed else 1


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
