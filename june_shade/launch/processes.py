"""Children of the launcher: started on kernel-given ports, watched while they are needed, and gone when it is gone."""

import ctypes
import logging
import os
import signal
import subprocess
import sys
import threading
from collections.abc import Iterator, Sequence
from contextlib import contextmanager
from typing import Protocol

from june_shade.settings import ROOT, Settings

PR_SET_PDEATHSIG = 1
LOOK_EVERY_S = 1.0
log = logging.getLogger("june_shade")


class Child(Protocol):
    """Something that runs beside the program: its name, whether it still does, and how it is started again."""

    name: str

    def is_alive(self) -> bool:
        """Whether it runs."""

    def start_again(self) -> None:
        """Start it where it was, after it was found gone."""


@contextmanager
def watched(children: Sequence[Child]) -> Iterator[None]:
    """Start again what is found gone, within some seconds, and say so in the log; as long as the block runs."""
    over = threading.Event()

    def look() -> None:
        while not over.wait(LOOK_EVERY_S):
            for child in children:
                if child.is_alive() or over.is_set():
                    continue
                log.error("%s is gone: starting it again", child.name)
                try:
                    child.start_again()
                    log.error("%s runs again", child.name)
                except Exception:
                    log.exception("%s could not be started again; next try in %g s", child.name, LOOK_EVERY_S)

    watcher = threading.Thread(target=look, name="watcher", daemon=True)
    watcher.start()
    try:
        yield
    finally:
        over.set()
        watcher.join(60)


def _die_with_parent() -> None:
    ctypes.CDLL(None).prctl(PR_SET_PDEATHSIG, signal.SIGTERM)
    signal.signal(signal.SIGINT, signal.SIG_IGN)  # the launcher ends it, once


class StandIn:
    """A stand-in that ships: a module of june_shade.standins, with what else it is told."""

    def __init__(self, module: str = "weather_service", *told: str) -> None:
        self.name = f"the stand-in of the {module.replace('_', ' ')}"
        self._module, self._told, self._port = module, told, 0
        self._child: subprocess.Popen[str] | None = None

    @property
    def address(self) -> str:
        """Where it answers; the same after it was started again."""
        return f"http://127.0.0.1:{self._port}"

    def start(self) -> None:
        """Start it and wait until it listens."""
        self._child = subprocess.Popen(
            [sys.executable, "-m", f"june_shade.standins.{self._module}", *self._told, "--port", str(self._port)],
            stdout=subprocess.PIPE, stdin=subprocess.DEVNULL, env={**os.environ, "PYTHONUNBUFFERED": "1"}, text=True,
            preexec_fn=_die_with_parent,
        )  # fmt: skip
        assert self._child.stdout is not None
        port = self._child.stdout.readline().strip()
        if not port:
            raise RuntimeError(f"{self.name} did not start")
        self._port = int(port)

    start_again = start

    def is_alive(self) -> bool:
        """Whether it runs."""
        return self._child is not None and self._child.poll() is None

    def stop(self) -> None:
        """End it."""
        _end(self._child)


class Worker:
    """The process that does the background's jobs."""

    name = "the worker of jobs"

    def __init__(self, settings: Settings) -> None:
        self._settings = settings
        self._child: subprocess.Popen[str] | None = None

    def start(self) -> None:
        """Start it."""
        given = {
            "JUNE_DATABASE_URL": self._settings.database_url, "JUNE_FORECAST_URL": self._settings.forecast_url,
            "JUNE_FORECAST_MADE_UP": str(self._settings.forecast_made_up).lower(),
            "JUNE_PICTURES": str(self._settings.pictures),
        }  # fmt: skip
        self._child = subprocess.Popen(
            [sys.executable, "-m", "june_shade.launch.working"], stdin=subprocess.DEVNULL, env={**os.environ, **given},
            text=True, cwd=ROOT, preexec_fn=_die_with_parent,
        )  # fmt: skip

    start_again = start

    def is_alive(self) -> bool:
        """Whether it runs."""
        return self._child is not None and self._child.poll() is None

    def stop(self) -> None:
        """End it; what it has not done is left to the next one."""
        _end(self._child)


def _end(child: "subprocess.Popen[str] | None") -> None:
    if child is None:
        return
    child.terminate()
    try:
        child.wait(10)
    except subprocess.TimeoutExpired:
        child.kill()
        child.wait()


@contextmanager
def with_forecast(settings: Settings, watch: list[Child]) -> Iterator[Settings]:
    """The settings with a forecast service: the one that they name, or the stand-in, which says that it is made up.

    watch: gets what is to be watched while it is used.
    """
    if settings.forecast_url:
        yield settings
        return
    child = StandIn()
    try:
        child.start()
        watch.append(child)
        yield settings.model_copy(update={"forecast_url": child.address, "forecast_made_up": True})
    finally:
        child.stop()


@contextmanager
def weather_stand_in(seed: int = 7) -> Iterator[str]:
    """The weather service's stand-in for as long as the block runs; its address."""
    child = StandIn("weather_service", "--seed", str(seed))
    try:
        child.start()
        yield child.address
    finally:
        child.stop()
