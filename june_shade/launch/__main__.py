"""`python -m june_shade.launch COMMAND`: what `./june` calls once its environment stands."""

import os
import signal
import subprocess
import sys
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor

from june_shade.settings import ROOT


def _python(*words: str) -> int:
    return subprocess.call([sys.executable, *words], cwd=ROOT)


def _web(*words: str) -> int:
    return subprocess.call(list(words), cwd=ROOT / "web")


def _each(*commands: Callable[[], int]) -> int:
    """One after the other until one goes wrong."""
    return next(filter(None, (command() for command in commands)), 0)


def _beside(first: Callable[[], int], second: Callable[[], int]) -> int:
    """Both at a time: on two cores neither waits for the other."""
    with ThreadPoolExecutor(2) as pool:
        return next(filter(None, list(pool.map(lambda command: command(), (first, second)))), 0)


def demo() -> int:
    """The made-up town."""
    from june_shade.launch import serving

    return serving.serve("demo")


def run() -> int:
    """The empty program, with data that is kept."""
    from june_shade.launch import serving

    return serving.serve("run")


def work() -> int:
    """Do the background's jobs of the database at DATABASE_URL, until it is told to stop."""
    from june_shade.launch import working

    return working.one_more()


def dev() -> int:
    """The demo with Vite's development server before it."""
    vite = subprocess.Popen(["npm", "run", "dev"], cwd=ROOT / "web", stdin=subprocess.DEVNULL)
    try:
        return demo()
    finally:
        vite.terminate()
        vite.wait()


def types(*, check: bool = False) -> int:
    """Write the interface's types from the API; with check, only say whether they are fresh."""
    from june_shade.launch import client_types

    return client_types.write(check=check)


def test(*names: str) -> int:
    """All tests, the interface's own too, and whether its types are fresh."""
    if names:
        return _python("-m", "tests", *names)
    return _beside(
        lambda: _python("-m", "tests"),
        lambda: _each(
            lambda: types(check=True),
            lambda: _web("npm", "run", "--silent", "check"),
            lambda: _web("npm", "run", "--silent", "test"),
        ),
    )


def lint() -> int:
    """Ruff, mypy, ESLint and Prettier."""
    return _beside(
        lambda: _each(
            lambda: _python("-m", "ruff", "check", "."),
            lambda: _python("-m", "ruff", "format", "--check", "."),
            lambda: _python("-m", "mypy"),
        ),
        lambda: _web("npm", "run", "--silent", "lint"),
    )


def bench(*parts: str) -> int:
    """Measure; prints `name value unit` lines."""
    return _python("-m", "june_shade.launch.bench", *parts)


def shots(*names: str) -> int:
    """Refresh docs/screenshots from the demo."""
    return _python("-m", "june_shade.launch.shots", *names)


def backup(file: str) -> int:
    """Everything that `run` holds, in one file."""
    from june_shade.launch import backups

    return backups.save(file)


def restore(file: str) -> int:
    """A backup into an empty program."""
    from june_shade.launch import backups

    return backups.bring_back(file)


def owner(*words: str) -> int:
    """The first account, another organisation's, or a new password for an owner."""
    from june_shade.launch import owners

    return owners.manage(list(words))


COMMANDS = {f.__name__: f for f in (demo, run, work, dev, types, test, lint, bench, shots, backup, restore, owner)}


def main() -> int:
    """Run one command; SIGTERM and a lost terminal end it as Ctrl-C does."""
    name, *rest = sys.argv[1:] or ["help"]
    if name not in COMMANDS:
        print(f"usage: ./june {' | '.join(COMMANDS)}", file=sys.stderr)
        return 2

    def stop(*_: object) -> None:
        raise KeyboardInterrupt

    signal.signal(signal.SIGTERM, stop)
    signal.signal(signal.SIGHUP, stop)
    os.environ.setdefault("PYTHONUNBUFFERED", "1")
    if name in ("backup", "restore") and len(rest) != 1:
        print(f"usage: ./june {name} FILE", file=sys.stderr)
        return 2
    try:
        return COMMANDS[name](*rest)
    except KeyboardInterrupt:
        return 130


if __name__ == "__main__":
    sys.exit(main())
