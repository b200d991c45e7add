"""Bringing the program up: cluster, schema, stand-ins, web server; and taking all of it down again."""

import errno
import fcntl
import ipaddress
import logging
import os
import socket
import sys
import threading
from collections.abc import Callable, Iterator
from contextlib import ExitStack, closing, contextmanager, suppress
from pathlib import Path
from types import ModuleType

import uvicorn
from sqlalchemy.exc import ArgumentError

from june_shade.api.app import create_app
from june_shade.api.watching import AsJson
from june_shade.demo import boxes, ground, people, probes, scenario
from june_shade.demo import pictures as of_tree
from june_shade.launch import cluster
from june_shade.launch.processes import Child, StandIn, Worker, watched, with_forecast
from june_shade.plans import organisations
from june_shade.plans.pictures import folder_at
from june_shade.settings import Settings
from june_shade.store import accounts
from june_shade.store.locks import alone_at_start
from june_shade.store.migrate import upgrade
from june_shade.store.session import UnavailableError, make_engine, make_sessions, reading, transaction

USUAL_PORT = 8640


class CannotStart(Exception):  # noqa: N818 - it is an answer, not an error
    """The program can't start; the text says why and what to do."""


class AlreadyRunning(Exception):  # noqa: N818 - it is an answer, not an error
    """The same thing is running already; the text is its address."""


def lock_of(name: str) -> Path:
    """The file that whoever runs this data holds, with the address where it is served."""
    folder = cluster.folder_of(name)
    return folder.with_name(f"{folder.name}.lock")


@contextmanager
def only_one(name: str) -> Iterator[Callable[[str], object]]:
    """Be the only one that runs our own cluster; the address that is told goes to a second caller. A database at
    DATABASE_URL is nobody's alone: any number may run on it."""
    if os.environ.get("DATABASE_URL"):
        yield lambda address: None
        return
    path = lock_of(name)
    path.parent.mkdir(parents=True, exist_ok=True)
    with path.open("a+") as file:
        try:
            fcntl.flock(file, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except BlockingIOError:
            raise AlreadyRunning(path.read_text().strip() or "(starting)") from None
        file.truncate(0)
        yield path.write_text


LOOPBACK = "127.0.0.1"


def is_loopback(host: str) -> bool:
    """Whether only this machine reaches an address."""
    with suppress(ValueError):
        return ipaddress.ip_address(host).is_loopback
    return host == "localhost"


def listen(port: int, host: str = LOOPBACK) -> socket.socket:
    """A listening socket, on loopback or where it is told; 0 = a free port. Raises CannotStart where the port is
    another's, or the address is none of this machine's."""
    made = socket.socket(socket.AF_INET6 if ":" in host else socket.AF_INET)
    made.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
    try:
        made.bind((host, port))
    except OSError as e:
        made.close()
        if e.errno == errno.EADDRINUSE:
            raise CannotStart(f"port {port} is taken: end what uses it, or set JUNE_PORT to another") from None
        raise CannotStart(f"it can't listen at {host}, port {port}: {e.strerror}; see JUNE_HOST") from None
    made.listen(128)  # from here on a browser may knock: it waits until the server is up
    return made


def upgraded(url: str) -> str:
    """The address of a database of somebody's own, with the newest schema. Raises CannotStart where it does not
    answer."""
    try:
        upgrade(url)
    except (UnavailableError, ArgumentError) as e:
        why = str(getattr(e, "orig", e)).strip().splitlines()[0]
        raise CannotStart(f"the database at DATABASE_URL does not answer: {why}") from None
    return url


@contextmanager
def database(name: str, watch: list[Child] | None = None) -> Iterator[str]:
    """Address of a database with the newest schema: the one at DATABASE_URL, or our own cluster's.

    watch: gets what is to be watched while it is used. Raises CannotStart where it does not answer.
    """
    own = os.environ.get("DATABASE_URL", "")
    if own:
        yield upgraded(own)
        return
    server = cluster.kept(name)
    server.start()
    try:
        url = server.ensure_database("june")
        upgrade(url)
        if watch is not None:
            watch.append(server)
        yield url
    finally:
        server.stop()


def pictures_of(name: str) -> Path:
    """The folder of pictures that go with the data of `demo` or `run`: at JUNE_PICTURES, else beside its database."""
    given = os.environ.get("JUNE_PICTURES")
    return Path(given).expanduser().resolve() if given else cluster.folder_of(name) / "pictures"


def prepare(url: str, demo: bool, pictures: Path | None = None, *, with_people: bool = False) -> None:
    """Fill what every database has, and the demo's scenario where it is missing. pictures: their folder, None = as in
    the settings; with_people: the demo's people sign in."""
    engine = make_engine(url)
    sessions = make_sessions(engine)
    with alone_at_start(sessions):
        organisations.seed(sessions)
        with transaction(sessions) as session:
            empty = not scenario.is_there(session)
        if demo and empty:
            print("Making up a town, its weather and a month of work …", file=sys.stderr, flush=True)
            scenario.fill(sessions)
            of_tree.fill(sessions, folder_at(pictures or Settings().pictures))
            ground.fill(sessions, folder_at(pictures or Settings().pictures))
        if demo and with_people:
            people.fill(sessions, with_trees=True)
    engine.dispose()


def serve(name: str, *, port: int = USUAL_PORT) -> int:
    """Run `demo` or `run` until it is told to stop."""
    demo = name == "demo"
    try:
        with ExitStack() as stack:
            tell = stack.enter_context(only_one(name))
            at, host = int(os.environ.get("JUNE_PORT", port)), os.environ.get("JUNE_HOST", "") or LOOPBACK
            if is_loopback(host):
                listener = stack.enter_context(closing(listen(at, host)))
            children: list[Child] = []
            url = stack.enter_context(database(name, children))
            settings = Settings(
                database_url=url, demo=demo, warm=True, works=False, pictures=pictures_of(name)
            )  # fmt: skip
            settings = stack.enter_context(with_forecast(settings, children))
            prepare(url, demo, settings.pictures, with_people=True)
            if demo:
                for module, of in (("valve_box", boxes), ("soil_probe", probes)):
                    stack.enter_context(_with_device(url, module, of, children))
            if not is_loopback(host):
                _refuse_without_an_owner(url, host)
                listener = stack.enter_context(closing(listen(at, host)))
            worker = Worker(settings)
            stack.callback(worker.stop)
            worker.start()
            children.append(worker)
            stack.enter_context(watched(children))
            shown = f"[{host}]" if ":" in host else host
            address = f"http{'s' if settings.certificate else ''}://{shown}:{listener.getsockname()[1]}"
            tell(address)
            print(f"June Shade: {address}   (Ctrl-C stops it)", flush=True)
            if not os.environ.get("DATABASE_URL"):
                print(f"Its data is in {cluster.folder_of(name)}", flush=True)
            uvicorn.Server(_config(settings)).run(sockets=[listener])
    except AlreadyRunning as e:
        print(f"June Shade is running already: {e}")
    except KeyboardInterrupt:
        pass
    except (cluster.ClusterError, CannotStart) as e:
        print(f"June Shade can't start: {e}", file=sys.stderr)
        return 3
    return 0


@contextmanager
def _with_device(url: str, module: str, of: ModuleType, watch: list[Child]) -> Iterator[None]:
    """A device of the demo, for as long as the block runs. module: its stand-in's; of: what tells it, and knows it."""
    engine = make_engine(url)
    sessions = make_sessions(engine)
    given = of.told(sessions)
    child = StandIn(module, *given)
    try:
        if given:
            child.start()
            watch.append(child)
            of.fill(sessions, child.address)
        engine.dispose()
        yield
    finally:
        child.stop()


def _refuse_without_an_owner(url: str, host: str) -> None:
    engine = make_engine(url)
    try:
        with reading(make_sessions(engine).of_all()) as session:
            if not accounts.are_there(session):
                raise CannotStart(
                    f"JUNE_HOST is {host}, which others reach, and nobody signs in yet: make the "
                    "owner's account first, with ./june owner"
                )  # fmt: skip
    finally:
        engine.dispose()


def log_as_json() -> None:
    """Have all that is logged be lines of JSON."""
    lines = logging.StreamHandler()
    lines.setFormatter(AsJson())
    logging.basicConfig(level=logging.INFO, handlers=[lines], force=True)


TURN_S = 0.0005
"""So long one thread computes while another could go on: an entry need not wait for a plan that is being made."""


KEPT_OPEN_S = 75
"""A connection stays open for so long: one that ends sooner may end just as a phone sends its next entry on it."""


def _config(settings: Settings) -> uvicorn.Config:
    sys.setswitchinterval(TURN_S)
    if settings.log_json:
        log_as_json()
    return uvicorn.Config(
        create_app(settings), log_level="warning", timeout_graceful_shutdown=3, timeout_keep_alive=KEPT_OPEN_S,
        ssl_certfile=settings.certificate or None, ssl_keyfile=settings.key or None,
    )  # fmt: skip


@contextmanager
def background(settings: Settings, service=None, port: int = 0) -> Iterator[str]:
    """The application in a thread, for tests, pictures and measurements; its address. port: 0 = a free one."""
    listener = listen(port)
    sys.setswitchinterval(TURN_S)
    config = uvicorn.Config(
        create_app(settings, service), log_level="warning", timeout_graceful_shutdown=1, timeout_keep_alive=KEPT_OPEN_S
    )
    server = uvicorn.Server(config)
    thread = threading.Thread(target=server.run, kwargs={"sockets": [listener]}, daemon=True)
    thread.start()
    while not server.started:
        thread.join(0.02)
        if not thread.is_alive():
            raise RuntimeError("the server did not start")
    try:
        yield f"http://127.0.0.1:{listener.getsockname()[1]}"
    finally:
        server.should_exit = True
        thread.join(10)
