"""The book: what was done, seen and lost, row by row; what it adds up to; a month of it for the client."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from datetime import date, timedelta
from typing import Any
from uuid import UUID

from june_shade.core.book import survival
from june_shade.core.book.survival import Survival
from june_shade.core.errors import InputError, JuneShadeError
from june_shade.core.water import load
from june_shade.core.weather.series import MEASURED
from june_shade.plans import clock, devices, kinds, pictures, register, routines
from june_shade.plans import weather as weather_plans
from june_shade.store import book as store
from june_shade.store import trees as tree_store
from june_shade.store.book import KINDS, Asked, Found, TreeNamed
from june_shade.store.picture_tables import OCCASIONS
from june_shade.store.session import Session
from june_shade.store.site_tables import Site

__all__ = ["KINDS", "Asked", "Month", "Numbers", "Row", "all_rows", "month", "numbers", "page"]
AT_ONCE = 1000
SAYS: dict[str, tuple[str, ...]] = {
    "water": ("volume_l", "duration_min"), "note": ("note", "seen"),
    "reading": ("how", "ball_feel", "ring_feel", "ball_theta", "ring_theta"),
    "skip": ("reason", "note"), "checkup": ("verdict", "water_act", "note"), "thirst": ("answer", "multiplier"),
    "mulch": ("material", "depth_m", "note"), "care": ("act", "reason"), "layout": ("flow_l_per_h", "note"),
    "proof": ("minutes", "depth_m", "note"), "catch": ("minutes", "note"), "planted": (),
    "ended": ("cause",), "soil": ("note",), "routine": (), "changed": ("method",), "own": ("growth_m", "note"),
}  # fmt: skip
"""What is told of each kind, as it is stored."""


@dataclass(frozen=True, slots=True)
class Row:
    """A row of the book. zone: the site's; says: what it tells, by name; subject: what it is of its kind (which test,
    which task, which end); pictures: that were taken at it."""

    kind: str
    id: UUID
    day: date
    at: Any
    zone: str
    site_id: UUID
    site_name: str
    tree: TreeNamed | None
    person: str | None
    undone: bool
    subject: str
    says: dict[str, Any]
    pictures: tuple[UUID, ...] = ()


def page(session: Session, asked: Asked, limit: int, offset: int) -> tuple[int, list[Row]]:
    """How many rows there are, and some of them, the newest first."""
    _check(session, asked)
    return store.count(session, asked), _told(session, store.rows(session, asked, limit, offset))


def all_rows(session: Session, asked: Asked) -> Iterator[Row]:
    """Every row, the newest first, a piece at a time."""
    _check(session, asked)
    found = store.rows(session, asked, None)
    for first in range(0, len(found), AT_ONCE):
        yield from _told(session, found[first : first + AT_ONCE])


def _check(session: Session, asked: Asked) -> None:
    unknown = [kind for kind in asked.kinds if kind not in KINDS]
    if unknown:
        raise InputError(f"must be of {', '.join(KINDS)}, not {unknown[0]!r}", "kind")
    if asked.first and asked.last and asked.first > asked.last:
        raise InputError("must not be after the last day", "first")
    if asked.tree_id is not None:
        register.tree(session, asked.tree_id, ended=True)
    if asked.site_id is not None:
        register.site(session, asked.site_id)


def _told(session: Session, found: Sequence[Found]) -> list[Row]:
    said = store.details(session, found)
    trees = store.trees(session, {row.tree_id for row in found if row.tree_id is not None})
    names: dict[UUID | None, str] = {person.id: person.name for person in kinds.people(session)}
    sites = {site.id: site for closed in (False, True) for site in tree_store.sites(session, closed=closed)}
    shown = pictures.of_entries(session, {row.id for row in found if row.kind in OCCASIONS})
    told = []
    for row in found:
        stored, site = said.get((row.kind, row.id, row.day)), sites.get(row.site_id)
        if stored is None or site is None:
            continue
        tree = trees.get(row.tree_id) if row.tree_id is not None else None
        says = {name: getattr(stored, name) for name in SAYS[row.kind]}
        if row.kind == "routine":
            says["routine"] = routines.routine_of(stored)
            row = row._replace(id=stored.choice_id)
        if row.kind in ("layout", "catch"):
            says["emitters"] = len(stored.emitters if row.kind == "layout" else stored.caught_ml)
        who = names.get(row.person_id) or devices.named(str(getattr(stored, "device_id", "")))
        told.append(Row(
            row.kind, row.id, row.day, row.at, site.timezone, site.id, site.name, tree, who, row.undone,
            _subject(row.kind, stored), says, tuple(shown.get(row.id, ())),
        ))  # fmt: skip
    return told


def _subject(kind: str, stored: Any) -> str:
    if kind == "care":
        return str(stored.key).partition(":")[0]
    return str(getattr(stored, "kind", "")) if kind in ("mulch", "ended", "soil", "planted", "own") else ""


@dataclass(frozen=True, slots=True)
class Numbers:
    """What days add up to: litres and minutes at trees (written down with the water), waterings, trees that had water,
    days worked, rows of each kind; cost at the site's prices, None without any; day by day; survival of the trees
    planted then, by what they are grouped by."""

    first: date
    last: date
    litres: float
    hours: float
    waterings: int
    trees: int
    days: int
    counts: dict[str, int]
    cost: float | None
    by_month: list[dict[str, Any]]
    survival: dict[str, list[Survival]]


GROUPS = ("kind", "stock", "planter", "year")


def numbers(session: Session, asked: Asked) -> Numbers:
    """What the days asked for add up to; without days, all of them."""
    _check(session, asked)
    worked = store.worked(session, asked)
    litres, minutes = sum(day.volume_l for day in worked), sum(day.minutes for day in worked)
    span, counts = store.spanned(session, replace(asked, undone=False))
    today = clock.now(session).date()
    first, last = asked.first or (span[0] or today), asked.last or (span[1] or today)
    site = register.site(session, asked.site_id) if asked.site_id is not None else None
    cost = None if site is None else load.cost(site.water_price_per_m3, site.hour_price, litres, minutes / 60)
    return Numbers(
        first, last, litres, minutes / 60, sum(day.waterings for day in worked), store.watered_trees(session, asked),
        len(worked), counts, cost, _by_month(worked), _survival(session, asked),
    )  # fmt: skip


def _by_month(worked: Sequence[store.Worked]) -> list[dict[str, Any]]:
    months: dict[str, dict[str, Any]] = {}
    for day in worked:
        of = months.setdefault(f"{day.day:%Y-%m}", {"litres": 0.0, "hours": 0.0, "waterings": 0})
        of["litres"] += day.volume_l
        of["hours"] += day.minutes / 60
        of["waterings"] += day.waterings
    return [{"month": month} | of for month, of in months.items()]


def _survival(session: Session, asked: Asked) -> dict[str, list[Survival]]:
    planted = store.planted(session, asked)
    names: dict[UUID | None, str] = {person.id: person.name for person in kinds.people(session)}
    groups = {
        "kind": [(tree.common, tree.end) for tree in planted],
        "stock": [(tree.stock or tree.kind, tree.end) for tree in planted],
        "planter": [(names.get(tree.planter_id, ""), tree.end) for tree in planted],
        "year": [(f"{tree.planted_on.year}", tree.end) for tree in planted],
    }
    return {name: survival.survival(rows) for name, rows in groups.items()}


@dataclass(frozen=True, slots=True)
class MonthDay:
    """A day of a month: water poured [L]; rain [mm], None where it was not measured."""

    day: date
    poured_l: float
    rain_mm: float | None


@dataclass(frozen=True, slots=True)
class Month:
    """A month of a site for its client: its numbers, its days, what was seen and done, how many trees stand."""

    site: Site
    first: date
    last: date
    numbers: Numbers
    days: list[MonthDay]
    rain_mm: float
    standing: int
    rows: list[Row]


WORTH_TELLING = ("note", "checkup", "mulch", "care", "layout", "planted", "ended", "soil", "routine", "changed", "own")


def month(session: Session, site_id: UUID, first: date) -> Month:
    """A month of a site. first: its first day. Raises InputError for a month that has not begun."""
    site = register.site(session, site_id)
    today = clock.today(session, site.timezone)
    first = first.replace(day=1)
    if first > today:
        raise InputError("has not begun yet", "month")
    last = min(today, (first.replace(day=28) + timedelta(days=4)).replace(day=1) - timedelta(days=1))
    asked = Asked(site_id=site_id, first=first, last=last)
    worked = {day.day: day.volume_l for day in store.worked(session, asked)}
    rain = _rain(session, site, first, last)
    days = [first + timedelta(days=n) for n in range((last - first).days + 1)]
    told = [MonthDay(day, worked.get(day, 0.0), rain.get(day)) for day in days]
    rows = list(all_rows(session, replace(asked, kinds=WORTH_TELLING)))
    return Month(
        site, first, last, numbers(session, asked), told, sum(rain.values()),
        tree_store.tree_counts(session, [site.id]).get(site.id, 0), rows,
    )  # fmt: skip


def _rain(session: Session, site: Site, first: date, last: date) -> dict[date, float]:
    """Measured rain by day."""
    try:
        series = weather_plans.site_series(session, site, first, clock.today(session, site.timezone))
    except JuneShadeError:
        return {}
    found = {}
    for n in range((last - first).days + 1):
        at = series.index(first + timedelta(days=n))
        if 0 <= at < len(series) and series.basis[at] == MEASURED:
            found[first + timedelta(days=n)] = float(series.rain_mm[at])
    return found
