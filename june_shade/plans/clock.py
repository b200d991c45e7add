"""The one clock: the system's, or the demo's pinned day. Only plans ask it."""

from datetime import UTC, date, datetime, time, timedelta
from zoneinfo import ZoneInfo

from june_shade.core.errors import ConflictError
from june_shade.store.clock_tables import PinnedClock
from june_shade.store.session import Session

DEMO_MORNING = time(6, 10)
DEMO_ZONE = ZoneInfo("America/Denver")
DAY_END = time(21, 0)
KNOWN = "pinned clock"


def now(session: Session) -> datetime:
    """The time it is, aware, in UTC. A pinned day runs on with the real clock but never past its evening."""
    row = _pinned(session)
    if row is None:
        return datetime.now(UTC)
    shown = row.shown_at + max(timedelta(0), datetime.now(UTC) - row.real_at)
    evening = datetime.combine(row.shown_at.astimezone(DEMO_ZONE).date(), DAY_END, DEMO_ZONE)
    return min(shown, evening).astimezone(UTC)


def _pinned(session: Session) -> PinnedClock | None:
    """The pinned clock, read once a session however often it is asked."""
    if KNOWN not in session.info:
        session.info[KNOWN] = session.get(PinnedClock, 1)
    found: PinnedClock | None = session.info[KNOWN]
    return found


def is_pinned(session: Session) -> bool:
    """Whether the day is the demo's."""
    return _pinned(session) is not None


def today(session: Session, zone: str) -> date:
    """The civil date in a site's time zone."""
    return now(session).astimezone(ZoneInfo(zone)).date()


def pin(session: Session, day: date) -> None:
    """Pin the clock to a day's early morning."""
    row = session.get(PinnedClock, 1) or PinnedClock(id=1)
    row.shown_at = datetime.combine(day, DEMO_MORNING, DEMO_ZONE)
    row.real_at = datetime.now(UTC)
    session.add(row)
    session.flush()
    session.info[KNOWN] = row


def pinned_day(session: Session) -> date:
    """The demo's day. Raises ConflictError where the clock is the system's."""
    row = session.get(PinnedClock, 1)
    if row is None:
        raise ConflictError("only the demo's day can be stepped", "clock")
    return row.shown_at.astimezone(DEMO_ZONE).date()
