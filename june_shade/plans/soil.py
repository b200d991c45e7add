"""A site's soil: the tests taken there and the soil in force, by which every plan of the site goes."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from typing import Any
from uuid import UUID

from june_shade.core.errors import ConflictError, InputError, JuneShadeError, NotFoundError
from june_shade.core.soil import in_force as core
from june_shade.core.soil.by_hand import HEAVY_RAIN_MM
from june_shade.core.soil.in_force import Outcome
from june_shade.plans import changes, clock, weather
from june_shade.plans.changes import Changed, What
from june_shade.store import soil as store
from june_shade.store.session import Session
from june_shade.store.site_tables import Site, SoilTest
from june_shade.store.weather import station_days

EARLIEST = date(1950, 1, 1)
HARDLY_MM = 1.0
CONTENT = ("site_id", "kind", "day", "place", "readings", "used", "note")


@dataclass(frozen=True, slots=True)
class NewTest:
    """A test as the client made it. readings: as the core's outcome takes them; used: plans shall go by it."""

    id: UUID
    site_id: UUID
    kind: str
    day: date
    place: str
    readings: Mapping[str, Any]
    used: bool
    note: str = ""


def tests(session: Session, site_id: UUID) -> Sequence[SoilTest]:
    """All tests of a site, the newest first, withdrawn ones too."""
    return store.of_site(session, site_id)


def outcome(session: Session, site: Site, new: NewTest) -> Outcome:
    """What a test says; a crumble test also hears how much it rained the day before."""
    today = clock.today(session, site.timezone)
    if new.day > today:
        raise InputError(f"{new.day} is still to come (today is {today})", "day")
    if new.day < EARLIEST:
        raise InputError(f"{new.day} is before {EARLIEST.year}", "day")
    return core.outcome(new.kind, new.readings)


def rain_before_mm(session: Session, site: Site, day: date) -> float | None:
    """Measured rain of the day before [mm]; None where it is not known."""
    if site.station_id is None:
        return None
    before = day - timedelta(days=1)
    rows = station_days(session, site.station_id, first=before, last=before)
    return rows[0].rain_mm if rows else None


def dry_on(session: Session, site: Site, today: date) -> date | None:
    """The first coming day with hardly a rain expected, none of weight the day before; None where none is in sight."""
    try:
        days = weather.site_series(session, site, today, today)
    except JuneShadeError:
        return None
    at = days.index(today)
    expected = days.rain_mm * days.rain_share
    for day in range(at + 1, len(days)):
        if expected[day] < HARDLY_MM and expected[day - 1] < HEAVY_RAIN_MM:
            return days.dates[day].item()
    return None


def put(session: Session, new: NewTest) -> SoilTest:
    """Store a test once. The same id with the same body is the same test; with another body ConflictError."""
    site = session.get(Site, new.site_id)
    if site is None:
        raise NotFoundError("there is no such site", "site_id")
    changes.hold(session, [site.id])
    known = session.get(SoilTest, new.id)
    if known is not None:
        different = [name for name in CONTENT if getattr(known, name) != getattr(new, name)]
        if different:
            raise ConflictError(f"another test has this id already (other {', '.join(different)})", "id")
        return known
    found = outcome(session, site, new)
    if new.used and not found.changes_plans:
        raise InputError("this test tells about a day, not about the soil: it is kept, plans don't go by it", "used")
    row = SoilTest(**{name: getattr(new, name) for name in ("id", *CONTENT)})
    session.add(row)
    session.flush()
    session.refresh(row)
    if new.used:
        changes.tell(session, Changed(site.id, What.WATER | What.DRIP))
    return row


def withdraw(session: Session, test_id: UUID) -> SoilTest:
    """Take a test out of force; it stays in the record. Doing so twice changes nothing."""
    row = session.get(SoilTest, test_id)
    if row is None:
        raise NotFoundError("there is no such soil test", "test_id")
    changes.hold(session, [row.site_id])
    if row.withdrawn_at is None:
        row.withdrawn_at = clock.now(session)
        session.flush()
        changes.tell(session, Changed(row.site_id, What.WATER | What.DRIP))
    return row
