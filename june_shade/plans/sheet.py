"""The sheet for a client or an authority: what was ordered, done and lost, and what it took, over any dates."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from uuid import UUID

from june_shade.core.errors import InputError
from june_shade.plans import book, clock, register, restrictions
from june_shade.plans.book import Asked
from june_shade.plans.choosing.given import Order, order_of
from june_shade.plans.restrictions import Against
from june_shade.store import book as book_store
from june_shade.store import limits as limit_store
from june_shade.store import log as log_store
from june_shade.store import trees as tree_store
from june_shade.store.session import Session
from june_shade.store.site_tables import Site

WEEK_DAYS, USUAL_DAYS, MOST_DAYS = 7, 28, 3 * 366


@dataclass(frozen=True, slots=True)
class Week:
    """Days from first to last, a week or what is left of one: water poured [L], hours written down with it, waterings;
    litres that the order with least room allowed, and those that count against it; None without such an order."""

    first: date
    last: date
    litres: float
    hours: float
    waterings: int
    allowed_l: float | None
    counted_l: float | None


@dataclass(frozen=True, slots=True)
class Done:
    """What was done on a day at a site: water [L], hours, waterings, trees; orders in force there by name."""

    day: date
    site: str
    litres: float
    hours: float
    waterings: int
    trees: int
    orders: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class Broken:
    """A watering against an order: its day, tree, litres, and what it went against."""

    day: date
    site: str
    tag: str
    litres: float
    against: tuple[Against, ...]


@dataclass(frozen=True, slots=True)
class Lost:
    """A tree that ended: how, and of what."""

    day: date
    site: str
    tag: str
    place: str
    common: str
    end: str
    cause: str


@dataclass(frozen=True, slots=True)
class Sheet:
    """All of it. trees: that stand there now; watered: how many had water; site: None = all sites."""

    site: Site | None
    first: date
    last: date
    orders: tuple[restrictions.Shown, ...]
    weeks: tuple[Week, ...]
    done: tuple[Done, ...]
    broken: tuple[Broken, ...]
    lost: tuple[Lost, ...]
    litres: float
    hours: float
    waterings: int
    watered: int
    trees: int


def sheet(session: Session, site_id: UUID | None, first: date | None, last: date | None) -> Sheet:
    """A sheet of one site, or of all, of the last four weeks where no dates are given.

    Raises InputError for dates out of order, too far apart or still to come.
    """
    sites = tree_store.sites(session) if site_id is None else [register.site(session, site_id)]
    today = clock.today(session, sites[0].timezone) if sites else clock.now(session).date()
    last = last or today
    first = first or last - timedelta(days=USUAL_DAYS - 1)
    if first > last:
        raise InputError(f"must not be before {first}", "last")
    if (last - first).days >= MOST_DAYS:
        raise InputError("must be within three years of the first day", "last")
    if first > today:
        raise InputError(f"{first} is still to come (today is {today})", "first")
    last = min(last, today)
    orders = _orders(session, sites, first, last)
    done = [one for site in sites for one in _done(session, site, first, last, orders)]
    return Sheet(
        None if site_id is None else sites[0], first, last,
        _in_time([one for one in restrictions.every(session) if one.row.id in {order.row.id for order, _ in orders}]),
        tuple(_weeks(done, sites, first, last, orders)), tuple(sorted(done, key=lambda one: (one.day, one.site))),
        tuple(_broken(session, sites, first, last)), tuple(_lost(session, site_id, first, last)),
        sum(one.litres for one in done), sum(one.hours for one in done), sum(one.waterings for one in done),
        book_store.watered_trees(session, Asked(site_id=site_id, first=first, last=last)),
        sum(tree_store.tree_counts(session, [site.id for site in sites]).values()),
    )  # fmt: skip


Orders = Sequence[tuple[Order, frozenset[UUID]]]


def _orders(session: Session, sites: Sequence[Site], first: date, last: date) -> Orders:
    """Orders that held for any of these sites on any of these days, with the sites that each holds for."""
    own = {site.id for site in sites}
    holds = limit_store.sites_of(session)
    found = [(order_of(row), frozenset(holds[row.id])) for row in limit_store.standing(session)]
    days = [first + timedelta(days=n) for n in range((last - first).days + 1)]
    return [(one, at) for one, at in found if at & own and any(one.rules.in_force(day) for day in days)]


def _in_time(orders: Sequence[restrictions.Shown]) -> tuple[restrictions.Shown, ...]:
    """Orders as they came, one after the other."""
    return tuple(sorted(orders, key=lambda one: one.row.first_day or date.min))


def _done(session: Session, site: Site, first: date, last: date, orders: Orders) -> list[Done]:
    worked = book_store.worked(session, Asked(site_id=site.id, first=first, last=last))
    return [
        Done(
            day.day, site.name, float(day.volume_l), float(day.minutes) / 60.0, day.waterings, day.trees,
            tuple(one.row.name for one, at in orders if site.id in at and one.rules.in_force(day.day)),
        )
        for day in worked
    ]  # fmt: skip


def _weeks(done: Sequence[Done], sites: Sequence[Site], first: date, last: date, orders: Orders) -> list[Week]:
    names = {site.id: site.name for site in sites}
    found = []
    for start in range(0, (last - first).days + 1, WEEK_DAYS):
        begins = first + timedelta(days=start)
        ends = min(last, begins + timedelta(days=WEEK_DAYS - 1))
        days = [begins + timedelta(days=n) for n in range((ends - begins).days + 1)]
        of = [one for one in done if begins <= one.day <= ends]
        limits = _limits(orders, days, of, names)
        allowed, counted = min(limits, key=lambda one: one[0] - one[1]) if limits else (None, None)
        found.append(Week(
            begins, ends, sum(one.litres for one in of), sum(one.hours for one in of),
            sum(one.waterings for one in of), allowed, counted,
        ))  # fmt: skip
    return found


def _limits(
    orders: Orders, days: Sequence[date], done: Sequence[Done], names: dict[UUID, str]
) -> list[tuple[float, float]]:  # fmt: skip
    """Litres that orders allowed on days of a week, and those that were poured [L]; an order that changed on one of
    them counts as one."""
    of: dict[frozenset[UUID], list[tuple[Order, set[date]]]] = {}
    for order, at in orders:
        own = {day for day in days if order.rules.in_force(day)}
        if order.row.week_l is not None and at <= set(names) and own:
            of.setdefault(at, []).append((order, own))
    found = []
    for at, parts in of.items():
        whole = [[part] for part in parts if len(part[1]) == len(days)]
        rest = [part for part in parts if len(part[1]) < len(days)]
        after_another = len(set().union(*(own for _, own in rest))) == sum(len(own) for _, own in rest) == len(days)
        for chain in (*whole, *([rest] if after_another else [])):
            allowed = sum((order.row.week_l or 0.0) * len(own) / WEEK_DAYS for order, own in chain)
            poured = sum(one.litres for one in done if one.site in {names[site_id] for site_id in at})
            found.append((allowed, poured))
    return found


def _broken(session: Session, sites: Sequence[Site], first: date, last: date) -> list[Broken]:
    entries = log_store.waterings_between(session, [site.id for site in sites], first, last)
    against = restrictions.against(session, entries)
    trees = tree_store.asked(session, {one.tree_id for one in entries if one.id in against})
    return [
        Broken(
            one.local_date, trees[one.tree_id].site_name, trees[one.tree_id].tag, one.volume_l or 0.0, against[one.id]
        )
        for one in entries if one.id in against
    ]  # fmt: skip


def _lost(session: Session, site_id: UUID | None, first: date, last: date) -> list[Lost]:
    rows = book.all_rows(session, Asked(site_id=site_id, first=first, last=last, kinds=("ended",)))
    return [
        Lost(
            row.day, row.site_name, row.tree.tag, row.tree.place, row.tree.common, row.subject, row.says["cause"] or ""
        )
        for row in rows if row.tree is not None
    ]  # fmt: skip
