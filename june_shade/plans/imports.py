"""A file on its way in: brought, read in the background, looked at by a person, stored in the background, undone.

Whoever brings it chooses its id, so that what is sent twice is one. All of its work can be begun again from the start
where it was killed: what it stores is stored in one transaction.
"""

import logging
from collections.abc import Mapping, Sequence
from datetime import date
from typing import Any
from uuid import UUID

from june_shade.core.errors import ConflictError, InputError, JuneShadeError, NotFoundError
from june_shade.core.weather import admit
from june_shade.core.weather.daily import Days
from june_shade.formats.weather_csv import MOST_BYTES
from june_shade.plans import clock, trees_file, weather, weather_days, weather_import
from june_shade.store import imports as store
from june_shade.store import jobs
from june_shade.store import weather as weather_store
from june_shade.store.import_tables import UNDER_WAY, Import
from june_shade.store.session import (
    BusyError,
    Session,
    SessionMaker,
    UnavailableError,
    is_collision,
    is_disk_full,
    reading,
    transaction,
)

logger = logging.getLogger("june_shade")
SHOWN, KEPT_H = 20, 24.0
"""Imports that a list shows; how long [h] a file waits for a yes."""


class Ended(Exception):  # noqa: N818 - a person's wish, not an error
    """A person has ended the import."""


def one(session: Session, import_id: UUID, *, alone: bool = False) -> Import:
    """An import, or NotFoundError."""
    found = store.by_id(session, import_id, alone=alone)
    if found is None:
        raise NotFoundError("there is no such import", "import_id")
    return found


def stored(session: Session, station_id: UUID | None) -> Sequence[Import]:
    """What was brought into a station, days put right by hand too, or into the register (None); the newest first."""
    kinds = ("trees",) if station_id is None else ("weather", "day")
    return store.stored(session, kinds, station_id, SHOWN)


def bring(
    session: Session, import_id: UUID, station_id: UUID | None, name: str, content: bytes, mapping: Mapping[str, str]
) -> Import:
    """Take a file of trees, or of a station's weather, to be read. Sent again it is the same import."""
    found = store.by_id(session, import_id, alone=True)
    if found is not None:
        if found.station_id != station_id or found.name != name:
            raise ConflictError("another import has this id already", "import_id")
        return found
    if not content:
        raise InputError("is empty", "file")
    if len(content) > MOST_BYTES:
        raise InputError("is over 20 MB; split it", "file")
    if station_id is not None:
        weather.station(session, station_id)
    weather_import.check_mapping(mapping)
    store.let_go_of_files(session, KEPT_H)
    row = Import(
        id=import_id, kind="trees" if station_id is None else "weather", station_id=station_id, name=name,
        mapping=dict(mapping), content=content, state="reading",
    )  # fmt: skip
    session.add(row)
    jobs.bring_in(session, row.id)
    session.refresh(row)
    return row


def read_again(session: Session, import_id: UUID, mapping: Mapping[str, str]) -> Import:
    """Read a file anew, its columns meaning what a person says now."""
    row = one(session, import_id, alone=True)
    if row.state not in ("read", "reading"):
        raise ConflictError("is not waiting to be looked at any more: bring the file again", "import_id")
    weather_import.check_mapping(mapping)
    row.mapping, row.state, row.done, row.total, row.outcome = dict(mapping), "reading", 0, 0, None
    jobs.bring_in(session, row.id)
    return row


def take(session: Session, import_id: UUID) -> Import:
    """Say yes: what was read is stored. Said again it changes nothing."""
    row = one(session, import_id, alone=True)
    if row.state in ("storing", "stored"):
        return row
    if row.state != "read" or store.content(session, import_id) is None:
        raise ConflictError("is not waiting for a yes any more: bring the file again", "import_id")
    if why := (row.outcome or {}).get("refusal"):
        raise InputError(why, "file")
    row.state, row.done = "storing", 0
    jobs.bring_in(session, row.id)
    return row


def cancel(session: Session, import_id: UUID) -> Import:
    """End an import that is not stored yet; nothing of it is."""
    row = one(session, import_id, alone=True)
    if row.stored_at is not None:
        raise ConflictError("is stored already: undo it instead", "import_id")
    if row.state != "cancelled":
        row.state, row.content = "cancelled", None
    return row


def undo(session: Session, import_id: UUID) -> Import:
    """Take an import back whole: days at once, trees in the background. Said again it changes nothing.

    Raises ConflictError where it was never stored.
    """
    row = one(session, import_id, alone=True)
    if row.state in ("undoing", "undone"):
        return row
    if row.state != "stored":
        raise ConflictError("was never stored: there is nothing to undo", "import_id")
    row.problem = row.field = ""
    if row.station_id is None:
        row.state, row.done = "undoing", 0
        jobs.bring_in(session, row.id)
    else:
        weather_days.take_out(session, weather.station(session, row.station_id), row.id)
        _is_undone(session, row)
    return row


def _is_undone(session: Session, row: Import) -> None:
    row.state, row.undone_at, row.before = "undone", clock.now(session), None
    jobs.defer(session, jobs.PLANS, once=jobs.PLANS)


def correct_day(
    session: Session, import_id: UUID, station_id: UUID, day: date, values: Mapping[str, float | None]
) -> Import:
    """Put a station's day right by hand, None for what was not measured; undone like a file. Sent again it is one."""
    found = store.by_id(session, import_id)
    if found is not None:
        if found.station_id != station_id or found.name != str(day):
            raise ConflictError("another import has this id already", "import_id")
        return found
    where = weather.station(session, station_id)
    if all(value is None for value in values.values()):
        raise InputError("has no reading at all", "day")
    admit.readings(values)
    now = clock.now(session)
    row = Import(
        id=import_id, kind="day", station_id=station_id, name=str(day), mapping={}, state="stored", stored_at=now,
        outcome={"days": 1, "first_day": str(day), "last_day": str(day)},
    )  # fmt: skip
    session.add(row)
    session.flush()
    readings = {name: [value] for name, value in values.items()}
    weather_days.store_days(session, where, Days.of([day], **readings), import_id)
    session.refresh(row)
    return row


def day_as_measured(session: Session, station_id: UUID, day: date) -> dict[str, float | None]:
    """What a station has for a day, by quantity; all None where it has nothing."""
    row = store.day_of(session, weather.station(session, station_id).id, day)
    return {name: getattr(row, name, None) for name in weather_store.QUANTITIES}


# --- in the background ---------------------------------------------------------------------------------------


def go_on(session: Session) -> None:
    """Put in the work of imports that wait for it and have none in the queue, as after the last try of one failed."""
    for row in store.under_way(session):
        jobs.bring_in(session, row.id)


def work(sessions: SessionMaker, import_id: UUID) -> None:
    """Do what an import waits for: read it, store it, undo it. What is wrong with that is written down on it."""
    with transaction(sessions) as session:
        row = store.by_id(session, import_id)
        data = store.content(session, import_id)
    if row is None or row.state not in UNDER_WAY:
        return
    try:
        if row.state == "undoing":
            _undo_trees(sessions, row)
        elif data is None:
            raise InputError("is not here any more: bring it again", "file")
        else:
            _Work(sessions, row, data).do()
    except Ended:
        pass
    except JuneShadeError as e:
        _refuse(sessions, row, e.message, e.field)
    except (UnavailableError, BusyError) as e:
        if not is_disk_full(e):  # a database that is down for a moment: the job is done again
            raise
        _refuse(sessions, row, "the disk is full: nothing was stored", "file")
    except Exception as e:
        if is_collision(e):
            raise
        logger.exception("import %s", import_id)
        _refuse(sessions, row, "could not be read: something went wrong in the program, and it is in its log", "file")


def _storable(shown: Any) -> Any:
    """What is told of a file, without the one character that no database text holds."""
    if isinstance(shown, dict):
        return {_storable(name): _storable(value) for name, value in shown.items()}
    if isinstance(shown, list):
        return [_storable(value) for value in shown]
    return shown.replace("\0", "") if isinstance(shown, str) else shown


def _refuse(sessions: SessionMaker, was: Import, problem: str, field: str) -> None:
    with transaction(sessions) as session:
        row = one(session, was.id, alone=True)
        if row.state == was.state:
            row.state = "stored" if was.state == "undoing" else "refused"
            row.problem, row.field, row.content = _storable(problem), _storable(field), None


def _undo_trees(sessions: SessionMaker, was: Import) -> None:
    with reading(sessions) as session:
        undoing = trees_file.prepare_undo(session, store.with_before(session, was.id).before or {})
    with transaction(sessions) as session:
        row = one(session, was.id, alone=True)
        if row.state == "undoing":
            trees_file.undo(session, undoing)
            _is_undone(session, row)


class _Work:
    """One reading, or one storing, of a file; each step in a transaction of its own."""

    def __init__(self, sessions: SessionMaker, row: Import, data: bytes) -> None:
        self._sessions, self._row, self._data = sessions, row, data

    def do(self) -> None:
        """Read the file; where a person has said yes, store it."""
        if self._row.station_id is None:
            self._trees()
        else:
            self._weather(self._row.station_id)

    def _told(self, done: int, total: int) -> None:
        with transaction(self._sessions) as session:
            if not store.progress(session, self._row.id, self._row.state, done, total):
                raise Ended

    def _trees(self) -> None:
        with reading(self._sessions) as session:
            prepared = trees_file.prepare(session, self._data, self._row.id, self._told)
        if self._row.state == "reading":
            self._was_read(trees_file.told(prepared.outcome), trees_file.refusal(prepared.outcome))
            return
        with transaction(self._sessions) as session:
            row = self._mine(session)
            outcome, before = trees_file.write(session, prepared)
            self._is_stored(session, row, trees_file.told(outcome), before)

    def _weather(self, station_id: UUID) -> None:
        with reading(self._sessions) as session:
            self._told(0, 0)
            preview = weather_import.preview_import(session, station_id, self._data, self._row.mapping)
            shown = weather_import.told(weather.station(session, station_id), preview)
        if self._row.state == "reading":
            self._was_read(shown, weather_import.refusal(preview))
            return
        with transaction(self._sessions) as session:
            row = self._mine(session)
            weather_import.accept_import(session, station_id, preview, self._row.mapping, row.id)
            self._is_stored(session, row, shown, None)

    def _mine(self, session: Session) -> Import:
        """The import, alone, as long as nobody has ended it and no other worker was quicker."""
        row = one(session, self._row.id, alone=True)
        if row.state != self._row.state or (row.state == "reading" and row.mapping != self._row.mapping):
            raise Ended
        return row

    def _was_read(self, shown: dict[str, Any], refusal: str) -> None:
        with transaction(self._sessions) as session:
            row = self._mine(session)
            row.state, row.outcome = "read", _storable(shown | {"refusal": refusal})

    def _is_stored(self, session: Session, row: Import, shown: dict[str, Any], before: dict[str, Any] | None) -> None:
        row.state, row.stored_at, row.content = "stored", clock.now(session), None
        row.outcome, row.before, row.done = _storable(shown), before, row.total
        jobs.defer(session, jobs.PLANS, once=jobs.PLANS)
