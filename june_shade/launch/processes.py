"""Children of the launcher: started on kernel-given ports, and gone when the launcher is gone."""

import ctypes
import os
import signal
import subprocess
import sys
from collections.abc import Iterator
from contextlib import contextmanager

PR_SET_PDEATHSIG = 1


def _die_with_parent() -> None:
    ctypes.CDLL(None).prctl(PR_SET_PDEATHSIG, signal.SIGTERM)
    signal.signal(signal.SIGINT, signal.SIG_IGN)  # the launcher ends it, once


@contextmanager
def weather_stand_in(seed: int = 7) -> Iterator[str]:
    """The weather service's stand-in for as long as the block runs; its address."""
    child = subprocess.Popen(
        [sys.executable, "-m", "june_shade.standins.weather_service", "--seed", str(seed)],
        stdout=subprocess.PIPE,
        stdin=subprocess.DEVNULL,
        env={**os.environ, "PYTHONUNBUFFERED": "1"},
        text=True,
        preexec_fn=_die_with_parent,
    )
    try:
        assert child.stdout is not None
        port = child.stdout.readline().strip()
        if not port:
            raise RuntimeError("the weather stand-in did not start")
        yield f"http://127.0.0.1:{port}"
    finally:
        child.terminate()
        try:
            child.wait(10)
        except subprocess.TimeoutExpired:
            child.kill()
            child.wait()
