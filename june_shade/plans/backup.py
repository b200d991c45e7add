"""Backups: everything in one zip of open formats, of one moment; and back into an empty program, all or nothing.

The zip holds `manifest.json` (format, schema, when it was made, each table's rows and SHA-256) and `tables/NAME.jsonl`
(JSON Lines, a row a line), and `pictures/SHA256.jpg`, each under what it holds.
"""

import json
import logging
import zipfile
import zlib
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from datetime import UTC, datetime
from hashlib import sha256
from typing import IO, Any

from june_shade.core.errors import ConflictError, InputError
from june_shade.plans import pictures
from june_shade.store import backup as store
from june_shade.store import migrate
from june_shade.store.picture_files import Folder, name_of
from june_shade.store.session import ALL, Engine, Session, SessionMaker, is_of

log = logging.getLogger("june_shade")
FORMAT, MANIFEST, PROGRAM = 1, "manifest.json", "June Shade"
LONGEST_LINE, MOST_PICTURE_BYTES = 10_000_000, 20_000_000
Told = Callable[[int, int], None]


@dataclass(frozen=True, slots=True)
class Backup:
    """What a backup holds: when it was made, the database's schema then, rows of each table."""

    made_at: datetime
    schema: str
    rows: dict[str, int]


def engine_of(sessions: SessionMaker) -> Engine:
    """The database behind sessions."""
    bound: Engine = sessions.kw["bind"]
    return bound


def write(
    engine: Engine, out: IO[bytes], folder: Folder, told: Told = lambda done, of: None, whose: str = ALL
) -> Backup:
    """Write everything, as it is at one moment, whoever writes meanwhile. folder: of pictures; told: rows done, rows in
    all; whose: the organisation whose rows they are, or ALL."""
    reading = engine.connect().execution_options(isolation_level="REPEATABLE READ", postgresql_readonly=True)
    with reading as connection, connection.begin(), zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as made:
        is_of(connection, whose)
        counts, done = store.counts(connection), 0
        found = Backup(datetime.now(UTC), store.revision(connection), counts)
        of = sum(counts.values())
        tables: dict[str, Any] = {}
        for name, count in counts.items():
            digest = sha256()
            with made.open(_file(name), "w", force_zip64=True) as file:
                for line in store.rows(connection, name):
                    data = line.encode() + b"\n"
                    digest.update(data)
                    file.write(data)
                    done += 1
                    if done % 5000 == 0:
                        told(done, of)
            tables[name] = {"rows": count, "sha256": digest.hexdigest()}
        manifest = {
            "program": PROGRAM, "format": FORMAT, "schema": found.schema, "made_at": found.made_at.isoformat(),
            "tables": tables,
        }  # fmt: skip
        made.writestr(MANIFEST, json.dumps(manifest, indent=1))
        with Session(connection) as session:
            for name, data in pictures.files(session, folder):
                made.writestr(zipfile.ZipInfo(_picture(name)), data, zipfile.ZIP_STORED)
    told(of, of)
    return found


def restore(engine: Engine, source: IO[bytes], folder: Folder, told: Told = lambda done, of: None) -> Backup:
    """Fill an empty program from a backup, all or nothing. folder: of pictures, which are brought in first.

    Raises InputError for a file that is no whole backup, ConflictError where the program is not empty.
    """
    try:
        with zipfile.ZipFile(source) as file:
            found, expected = _manifest(file)
            with Session(engine) as session:
                if not store.is_empty(session):
                    raise ConflictError("a backup goes into an empty program only: this one has data", "file")
            for name, (count, digest) in expected.items():
                _check(file, name, count, digest)
            tables = {name: _lines(file, name) for name in expected}
            _put_pictures(file, folder)
            store.put_back(engine, found.schema, tables, told, sum(found.rows.values()))
            return found
    except (zipfile.BadZipFile, zlib.error, EOFError, KeyError, UnicodeDecodeError, NotImplementedError) as e:
        raise InputError(f"is no whole backup: {e}", "file") from None
    except store.REFUSED:
        log.exception("a backup was refused")
        raise InputError("holds rows that do not fit together; nothing was brought in", "file") from None


def _file(table: str) -> str:
    return f"tables/{table}.jsonl"


def _picture(name: str) -> str:
    return f"pictures/{name}.jpg"


def _put_pictures(file: zipfile.ZipFile, folder: Folder) -> None:
    """Bring in the pictures of a backup; one that is not what its name says is none."""
    for entry in file.infolist():
        folder_name, _, name = entry.filename.partition("/")
        if folder_name != "pictures" or not name:
            continue
        data = file.read(entry) if entry.file_size <= MOST_PICTURE_BYTES else b""
        if entry.filename != _picture(name_of(data)):
            raise InputError(f"is broken: {entry.filename} is not what it was when the backup was made", "file")
        folder.put(data)


def _manifest(file: zipfile.ZipFile) -> tuple[Backup, dict[str, tuple[int, str]]]:
    try:
        told = json.loads(file.read(MANIFEST))
        program, number, schema = told["program"], told["format"], str(told["schema"])
        expected = {str(n): (int(t["rows"]), str(t["sha256"])) for n, t in told["tables"].items()}
        found = Backup(datetime.fromisoformat(told["made_at"]), schema, {n: rows for n, (rows, _) in expected.items()})
    except (KeyError, TypeError, ValueError, AttributeError, RecursionError):
        raise InputError("is no backup of this program: its manifest is missing or broken", "file") from None
    if program != PROGRAM or number != FORMAT:
        raise InputError(
            f"is a backup of {program} in format {number}; this program reads its own format {FORMAT}", "file"
        )
    if schema not in migrate.revisions():
        raise InputError(f"was made by a newer program (schema {schema}): update this one first", "file")
    return found, expected


def _check(file: zipfile.ZipFile, table: str, count: int, digest: str) -> None:
    seen, rows = sha256(), 0
    for line in _lines(file, table)():
        seen.update(line.encode() + b"\n")
        rows += 1
        if not store.is_json_row(line):
            raise InputError(f"is broken: row {rows} of {_file(table)} is no JSON object", "file")
    if seen.hexdigest() != digest or rows != count:
        raise InputError(f"is broken: {_file(table)} is not what it was when the backup was made", "file")


def _lines(file: zipfile.ZipFile, table: str) -> Callable[[], Iterator[str]]:
    def read() -> Iterator[str]:
        with file.open(_file(table)) as lines:
            while line := lines.readline(LONGEST_LINE):
                yield line.decode().removesuffix("\n")

    return read
