"""A private PostgreSQL cluster on loopback: made, started, adopted when one was left running, stopped.

Debian's own clusters and port 5432 are never touched. As root the server runs as user postgres from a folder
that user may enter; else everything lives in the checkout's `.june`.
"""

import contextlib
import glob
import hashlib
import os
import pwd
import secrets
import shutil
import socket
import subprocess
import tempfile
import time
from dataclasses import dataclass
from pathlib import Path

import psycopg
from psycopg.sql import SQL, Identifier, Literal

from june_shade.settings import ROOT

ADMIN, USER = "june", "june_app"
"""Who makes databases, and who the program is: it owns its database and nothing else."""
PATIENCE_S = 40.0


HAND_OVER = """
SELECT format('ALTER TABLE %%I.%%I OWNER TO %%I', schemaname, tablename, %(to)s::text)
FROM pg_tables WHERE schemaname = 'public' AND tableowner <> %(to)s
UNION ALL
SELECT format('ALTER FUNCTION %%s OWNER TO %%I', oid::regprocedure, %(to)s::text)
FROM pg_proc WHERE pronamespace = 'public'::regnamespace AND proowner <> %(to)s::regrole
"""
"""What makes a database that the admin filled the program's own."""


class ClusterError(Exception):
    """The database could not be started; the text says why and where its log is."""


def binaries() -> Path:
    """Folder of the newest PostgreSQL server installed."""
    found = sorted(glob.glob("/usr/lib/postgresql/*/bin/initdb"), key=lambda p: float(p.split("/")[4]))
    if not found:
        raise ClusterError("no PostgreSQL server is installed (Debian: postgresql)")
    return Path(found[-1]).parent


def _is_root() -> bool:
    return os.geteuid() == 0


def home() -> Path:
    """Folder that holds this checkout's made-up data and the locks of it."""
    if not _is_root():
        return ROOT / ".june"
    return Path("/var/lib/june-shade") / hashlib.sha256(str(ROOT).encode()).hexdigest()[:12]


def folder_of(name: str) -> Path:
    """Where the data of `demo` or `run` lives. What people put into `run` stays where it is when a checkout moves, or
    at JUNE_DATA; made-up data goes with its checkout."""
    if name != "run":
        return home() / name
    if given := os.environ.get("JUNE_DATA"):
        return Path(given).expanduser().resolve()
    if _is_root():
        return Path("/var/lib/june-shade/run")
    return Path(os.environ.get("XDG_DATA_HOME") or Path.home() / ".local/share") / "june-shade"


def _bring_along(folder: Path, name: str) -> None:
    """Data that an earlier version kept with the checkout comes to where it lives now."""
    former = home() / name
    if former != folder and (former / "data" / "PG_VERSION").exists() and not folder.exists():
        folder.parent.mkdir(parents=True, exist_ok=True)
        shutil.move(former, folder)


def free_port() -> int:
    """A port that the kernel says is free on loopback."""
    with socket.socket() as s:
        s.bind(("127.0.0.1", 0))
        return s.getsockname()[1]


def _run(*command: str | Path) -> subprocess.CompletedProcess:
    """Run a server binary, as postgres when root, its streams not shared with ours."""
    words = [str(part) for part in command]
    if _is_root():
        words = ["runuser", "-u", "postgres", "--", *words]
    return subprocess.run(words, cwd="/", stdin=subprocess.DEVNULL, capture_output=True, text=True)


@dataclass
class Cluster:
    """One cluster. keep: its data is kept and guarded by a password; else it is thrown away and fast. tidies: it goes
    through its tables by itself now and then, which hundreds of databases make a work of its own."""

    folder: Path
    keep: bool
    port: int = 0
    tidies: bool = True
    name = "PostgreSQL"

    @property
    def data(self) -> Path:
        return self.folder / "data"

    @property
    def log(self) -> Path:
        return self.folder / "server.log"

    def _password(self) -> str:
        path = self.folder / "password"
        return path.read_text().strip() if self.keep else ""

    def url(self, database: str, user: str = USER) -> str:
        """Address of a database in this cluster, for the program or for another user."""
        secret = f":{self._password()}" if self.keep else ""
        return f"postgresql://{user}{secret}@127.0.0.1:{self.port}/{database}"

    def start(self) -> None:
        """Make it where it is missing, adopt it where it runs, start it else; return when it answers."""
        self._make()
        if self._adopt():
            return
        self._launch()

    def _make(self) -> None:
        if (self.data / "PG_VERSION").exists():
            return
        self.folder.mkdir(parents=True, exist_ok=True)
        if _is_root():
            owner = pwd.getpwnam("postgres")
            os.chmod(self.folder, 0o750)
            os.chown(self.folder, owner.pw_uid, owner.pw_gid)
        secret = self.folder / "password"
        if not secret.exists():
            secret.touch(0o600)
            secret.write_text(secrets.token_urlsafe(24))
            if _is_root():
                os.chown(secret, owner.pw_uid, owner.pw_gid)
        fresh = self.folder / "data.new"
        shutil.rmtree(fresh, ignore_errors=True)
        guard = ["-A", "scram-sha-256", f"--pwfile={secret}"] if self.keep else ["-A", "trust"]
        made = _run(
            binaries() / "initdb", "-D", fresh, "-U", ADMIN, "-E", "UTF8", "--locale=C.UTF-8", "--no-sync", *guard
        )
        if made.returncode:
            raise ClusterError(f"initdb failed: {made.stderr.strip()}")
        fresh.rename(self.data)

    def _adopt(self) -> bool:
        """Take over a server that was left running on this folder; clear the trace of one that was not."""
        trace = self.data / "postmaster.pid"
        try:
            lines = trace.read_text().splitlines()
            pid, folder, port = int(lines[0]), lines[1], int(lines[3])
        except (FileNotFoundError, IndexError, ValueError):
            if trace.exists() and not self._server_of_this_folder(trace):
                trace.unlink(missing_ok=True)
            return False
        if Path(folder) != self.data or not _is_postgres(pid):
            trace.unlink(missing_ok=True)
            return False
        self.port = port
        try:
            self._await()
        except ClusterError:
            self.stop()
            return False
        return True

    def _server_of_this_folder(self, trace: Path) -> bool:
        with contextlib.suppress(OSError, ValueError, IndexError):
            return _is_postgres(int(trace.read_text().splitlines()[0]))
        return False

    def is_alive(self) -> bool:
        """Whether its server process runs."""
        try:
            return _is_postgres(int((self.data / "postmaster.pid").read_text().splitlines()[0]))
        except (OSError, ValueError, IndexError):
            return False

    def start_again(self) -> None:
        """Start it at the port that it had, since others know it by that."""
        (self.data / "postmaster.pid").unlink(missing_ok=True)
        self._launch(self.port)

    def _launch(self, port: int = 0) -> None:
        options = "-c listen_addresses=127.0.0.1 -c unix_socket_directories='' -c log_min_messages=warning"
        if not self.keep:
            options += " -c fsync=off -c synchronous_commit=off -c full_page_writes=off -c max_connections=300"
        if not self.tidies:
            options += " -c autovacuum=off"
        until = time.monotonic() + PATIENCE_S
        while True:
            self.port = port or free_port()
            started = _run(
                binaries() / "pg_ctl", "-D", self.data, "-l", self.log, "-w", "-t", "30",
                "-o", f"-p {self.port} {options}", "start",
            )  # fmt: skip
            if started.returncode == 0:
                break
            if time.monotonic() > until:
                raise ClusterError(f"the database did not start, see {self.log}: {started.stderr.strip()}")
            time.sleep(0.5)  # after a kill the old server's children need a moment to notice and go
        self._await()

    def _await(self) -> None:
        """Wait for a real answer; pg_ctl's word is not enough after a crash."""
        until = time.monotonic() + PATIENCE_S
        while True:
            try:
                with psycopg.connect(self.url("postgres", ADMIN), connect_timeout=3) as connection:
                    connection.execute("SELECT 1")
                return
            except psycopg.OperationalError as e:
                if time.monotonic() > until:
                    raise ClusterError(f"the database does not answer, see {self.log}: {e}") from None
                time.sleep(0.1)

    def ensure_database(self, name: str) -> str:
        """Make a database where it is missing, owned by the program's user; its address."""
        with psycopg.connect(self.url("postgres", ADMIN), autocommit=True) as connection:
            if not connection.execute("SELECT 1 FROM pg_roles WHERE rolname = %s", (USER,)).fetchone():
                connection.execute(f"CREATE ROLE {USER} LOGIN")
            if self.keep:
                connection.execute(SQL("ALTER ROLE {} PASSWORD {}").format(Identifier(USER), Literal(self._password())))
            if not connection.execute("SELECT 1 FROM pg_database WHERE datname = %s", (name,)).fetchone():
                connection.execute(f'CREATE DATABASE "{name}" OWNER {USER}')
                return self.url(name)
            connection.execute(f'ALTER DATABASE "{name}" OWNER TO {USER}')
        with psycopg.connect(self.url(name, ADMIN), autocommit=True) as connection:
            for (command,) in connection.execute(HAND_OVER, {"to": USER}).fetchall():
                connection.execute(command)
        return self.url(name)

    def stop(self) -> None:
        """Stop the server; nothing of it is left running."""
        _run(binaries() / "pg_ctl", "-D", self.data, "-m", "fast", "-w", "-t", "30", "stop")


def _is_postgres(pid: int) -> bool:
    try:
        os.kill(pid, 0)
    except ProcessLookupError:
        return False
    except PermissionError:
        pass
    with contextlib.suppress(OSError):
        return "postgres" in Path(f"/proc/{pid}/cmdline").read_bytes().decode(errors="replace")
    return False


def kept(name: str) -> Cluster:
    """The cluster that keeps the data of `demo` or `run`."""
    folder = folder_of(name)
    _bring_along(folder, name)
    return Cluster(folder, keep=True)


@contextlib.contextmanager
def throw_away(*, durable: bool = False, tidies: bool = True):
    """A cluster for tests, gone afterwards: its folder is taken away behind the caller's back, as hundreds of databases
    are many files. durable: what it says is stored stands a kill, as in one that is kept.
    tidies: as a Cluster does."""
    parent = Path(tempfile.mkdtemp(prefix="june-", dir="/tmp"))
    os.chmod(parent, 0o755)
    cluster = Cluster(parent / "pg", keep=durable, tidies=tidies)
    try:
        cluster.start()
        yield cluster
    finally:
        cluster.stop()
        subprocess.Popen(["rm", "-rf", "--", parent], start_new_session=True, stdin=subprocess.DEVNULL)
