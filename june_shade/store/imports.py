"""Queries on imports, and on the days of a station that each has written."""

from collections.abc import Sequence
from datetime import date
from uuid import UUID

from sqlalchemy import delete, func, select, text, update
from sqlalchemy.orm import Session, undefer

from june_shade.store.import_tables import UNDER_WAY, Import, ReplacedDay
from june_shade.store.weather import QUANTITIES
from june_shade.store.weather_tables import StationDay


def by_id(session: Session, import_id: UUID, *, alone: bool = False) -> Import | None:
    """An import as it is now. alone: nobody else changes it until the transaction ends."""
    query = select(Import).where(Import.id == import_id).execution_options(populate_existing=True)
    return session.scalars(query.with_for_update() if alone else query).first()


def content(session: Session, import_id: UUID) -> bytes | None:
    """The file of an import, None where it was let go."""
    return session.scalars(select(Import.content).where(Import.id == import_id)).first()


def with_before(session: Session, import_id: UUID) -> Import:
    """An import with what undoes it."""
    query = select(Import).where(Import.id == import_id).options(undefer(Import.before))
    return session.scalars(query.execution_options(populate_existing=True)).one()


def stored(session: Session, kinds: Sequence[str], station_id: UUID | None, limit: int) -> Sequence[Import]:
    """The last imports that were stored, undone ones too, the newest first."""
    query = select(Import).where(Import.kind.in_(kinds), Import.stored_at.is_not(None))
    query = query.where(Import.station_id.is_(None) if station_id is None else Import.station_id == station_id)
    return session.scalars(query.order_by(Import.stored_at.desc()).limit(limit)).all()


def under_way(session: Session) -> Sequence[Import]:
    """Imports that wait for the background's work."""
    return session.scalars(select(Import).where(Import.state.in_(UNDER_WAY))).all()


def progress(session: Session, import_id: UUID, state: str, done: int, total: int) -> bool:
    """Write down how far an import is; False where it is not in this state any more: a person has ended it."""
    query = update(Import).where(Import.id == import_id, Import.state == state).values(done=done, total=total)
    return bool(session.execute(query.returning(Import.id)).first())


def let_go_of_files(session: Session, older_h: float) -> None:
    """Forget files that nobody said yes to, so many hours [h] after they came."""
    session.execute(
        update(Import)
        .where(
            Import.content.is_not(None),
            Import.state.not_in(UNDER_WAY),
            Import.created_at < func.now() - text(f"interval '{older_h:g} hours'"),
        )
        .values(content=None)
    )


_VALUES = ", ".join(f"'{name}', d.{name}" for name in QUANTITIES)
_COLUMNS = ", ".join(QUANTITIES)


def remember_days(session: Session, station_id: UUID, import_id: UUID, days: Sequence[date]) -> None:
    """Keep what a station has for these days before an import writes them, and whose that is."""
    session.execute(
        text(
            "INSERT INTO replaced_day (import_id, day, before_id, reading) "
            "SELECT :own, n.day, d.import_id, "
            f"CASE WHEN d.day IS NOT NULL THEN jsonb_build_object({_VALUES}) END "
            "FROM unnest(CAST(:days AS date[])) n (day) "
            "LEFT JOIN station_day d ON d.station_id = :station AND d.day = n.day "
            "ON CONFLICT DO NOTHING"
        ),
        {"own": import_id, "days": list(days), "station": station_id},
    )


def mark_days(session: Session, station_id: UUID, import_id: UUID, days: Sequence[date]) -> None:
    """Say whose these days are now."""
    session.execute(
        update(StationDay)
        .where(StationDay.station_id == station_id, StationDay.day.in_(list(days)))
        .values(import_id=import_id)
    )


def take_out_days(session: Session, station_id: UUID, import_id: UUID) -> date | None:
    """Give a station back what it had before an import; the first day that is another one now, None where none is.

    A day that a later import has written again keeps that; what that one would give back is put right.
    """
    own = {"own": import_id, "station": station_id}
    session.execute(
        text(
            "UPDATE replaced_day later SET before_id = mine.before_id, reading = mine.reading "
            "FROM replaced_day mine "
            "WHERE mine.import_id = :own AND later.before_id = :own AND later.day = mine.day"
        ),
        own,
    )
    first = session.scalar(
        select(func.min(StationDay.day)).where(StationDay.station_id == station_id, StationDay.import_id == import_id)
    )
    session.execute(
        text(
            f"UPDATE station_day d SET ({_COLUMNS}) = "
            f"(SELECT {_COLUMNS} FROM jsonb_populate_record(NULL::station_day, r.reading)), "
            "import_id = r.before_id, recorded_at = clock_timestamp() "
            "FROM replaced_day r WHERE r.import_id = :own AND r.reading IS NOT NULL AND r.day = d.day "
            "AND d.station_id = :station AND d.import_id = :own"
        ),
        own,
    )
    session.execute(
        text("DELETE FROM station_day WHERE station_id = :station AND import_id = :own"),
        own,
    )
    session.execute(delete(ReplacedDay).where(ReplacedDay.import_id == import_id))
    return first


def day_of(session: Session, station_id: UUID, day: date) -> StationDay | None:
    """A measured day of a station."""
    return session.get(StationDay, (station_id, day), populate_existing=True)
