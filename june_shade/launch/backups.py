"""`./june backup FILE` and `./june restore FILE`: the data of `run`, or of DATABASE_URL, out and in, running or not."""

import sys
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from june_shade.core.errors import JuneShadeError
from june_shade.launch import cluster, serving
from june_shade.plans import backup, organisations, pictures
from june_shade.store.migrate import upgrade
from june_shade.store.session import DATABASE_FAILED, make_engine, make_sessions


@contextmanager
def reached() -> Iterator[str]:
    """The database of `run`, left running where it runs."""
    try:
        with serving.only_one("run"), serving.database("run") as url:
            yield url
    except serving.AlreadyRunning:
        server = cluster.kept("run")
        server.start()  # adopts the one that runs
        url = server.url("june")
        upgrade(url)
        yield url


def _told(done: int, of: int) -> None:
    if sys.stderr.isatty():
        print(f"\r{done:,} of {of:,} rows", end="" if done < of else "\n", file=sys.stderr, flush=True)


def why(e: BaseException) -> str:
    """What went wrong, in words of our own: no message of a database reaches a person."""
    if isinstance(e, DATABASE_FAILED):
        return "the database stopped answering"
    return str(getattr(e, "message", e))


def save(name: str) -> int:
    """Write a backup; a file that is there is replaced only once the new one is whole."""
    path = Path(name).expanduser()
    part = path.with_name(path.name + ".part")
    try:
        with reached() as url, part.open("wb") as out:
            found = backup.write(make_engine(url), out, pictures.folder_at(serving.pictures_of("run")), _told)
        part.replace(path)
    except (OSError, serving.CannotStart, cluster.ClusterError, *DATABASE_FAILED) as e:
        print(f"No backup was made: {why(e)}", file=sys.stderr)
        return 1
    finally:
        part.unlink(missing_ok=True)
    print(f"{path}: {sum(found.rows.values()):,} rows, {path.stat().st_size / 1e6:.1f} MB")
    return 0


def bring_back(name: str) -> int:
    """Fill the empty program from a backup."""
    try:
        with Path(name).expanduser().open("rb") as source, reached() as url:
            engine = make_engine(url)
            found = backup.restore(engine, source, pictures.folder_at(serving.pictures_of("run")), _told)
            organisations.seed(make_sessions(engine))
    except (OSError, JuneShadeError, serving.CannotStart, cluster.ClusterError, *DATABASE_FAILED) as e:
        print(f"Nothing was brought in: {name}: {why(e)}", file=sys.stderr)
        return 1
    print(f"Brought in: {sum(found.rows.values()):,} rows from {found.made_at:%Y-%m-%d %H:%M} UTC")
    return 0
