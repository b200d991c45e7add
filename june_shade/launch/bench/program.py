"""The program as people start it, for what is measured of several of it, or of one that is killed."""

import os
import signal
import subprocess
import sys
import time
from collections.abc import Collection
from contextlib import suppress
from pathlib import Path

import httpx

from june_shade.launch import serving
from june_shade.settings import ROOT

LATEST_S = 240.0


def processes_of(command: str, parent: int | None = None) -> list[int]:
    """Processes whose command has these words, of one parent where it is given."""
    found = []
    for folder in Path("/proc").iterdir():
        if not folder.name.isdigit():
            continue
        with suppress(OSError, IndexError):
            words = (folder / "cmdline").read_bytes().replace(b"\0", b" ").decode(errors="replace")
            above = int((folder / "stat").read_text().rpartition(")")[2].split()[1])
            if command in words and (parent is None or above == parent):
                found.append(int(folder.name))
    return found


def kill(pids: Collection[int]) -> None:
    """End processes at once."""
    for pid in pids:
        with suppress(ProcessLookupError):
            os.kill(pid, signal.SIGKILL)


class Program:
    """The demo on a port that stays, on a database that is not its own. folder: where pictures go; more: further
    settings of its environment."""

    def __init__(self, url: str, folder: str, **more: str) -> None:
        listener = serving.listen(0)
        self.port = listener.getsockname()[1]
        listener.close()
        self.address = f"http://127.0.0.1:{self.port}"
        own = {"DATABASE_URL": url, "JUNE_PICTURES": folder, "JUNE_PORT": str(self.port)}
        self._env = {**os.environ, **own, **more}
        self.child: subprocess.Popen[bytes] | None = None

    def start(self) -> None:
        """Start it and wait until it answers."""
        self.child = subprocess.Popen(
            [sys.executable, "-m", "june_shade.launch", "demo"], cwd=ROOT, env=self._env, stdin=subprocess.DEVNULL,
            stdout=subprocess.DEVNULL,
        )  # fmt: skip
        until = time.monotonic() + LATEST_S
        while time.monotonic() < until and self.child.poll() is None:
            with suppress(httpx.HTTPError):
                if httpx.get(f"{self.address}/api/session", timeout=5).status_code == 200:
                    return
            time.sleep(0.2)
        raise RuntimeError("the program did not come up")

    def kill(self) -> None:
        """End it at once, and start it again."""
        assert self.child is not None
        kill([self.child.pid])
        self.child.wait()
        self.start()

    def kill_worker(self) -> None:
        """End what does its jobs; it starts it again by itself."""
        assert self.child is not None
        kill(processes_of("june_shade.launch.working", self.child.pid))

    def stop(self) -> None:
        """End it as a person would."""
        if self.child is not None:
            self.child.terminate()
            self.child.wait(60)
