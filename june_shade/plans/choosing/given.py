"""What a plan is chosen under: crews and their days, orders, wishes; a site without a crew stands for its own."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import date, timedelta
from functools import cached_property
from uuid import UUID
from zoneinfo import ZoneInfo

import numpy as np

from june_shade.core.checks import Fields
from june_shade.core.choosing import hands
from june_shade.core.choosing.hands import CrewHas, DayHas, DayTakes
from june_shade.core.choosing.offers import PLAN_DAYS, Hands
from june_shade.core.choosing.ways import Place
from june_shade.core.limits.restriction import Restriction
from june_shade.formats import restriction_json
from june_shade.plans import clock
from june_shade.plans.choosing.stops import Stops, stops_of
from june_shade.store import boxes, choices, crews, limits
from june_shade.store import log as log_store
from june_shade.store import trees as tree_store
from june_shade.store.choice_tables import VisitWish
from june_shade.store.crew_tables import Crew, CrewDay
from june_shade.store.limit_tables import Restriction as RestrictionRow
from june_shade.store.session import Session
from june_shade.store.site_tables import Site, Stop


@dataclass(frozen=True, slots=True)
class CrewGiven:
    """A crew as plans go by it: its id, or that of the site that stands for its own; what it has; its yard; its tank
    [L] and how long that takes to fill [min]."""

    id: UUID
    name: str
    has: CrewHas
    yard: Place
    tank_l: float | None
    fill_min: float
    of_site: bool


@dataclass(frozen=True, slots=True)
class Order:
    """An order as it is stored, and as the core takes it."""

    row: RestrictionRow
    rules: Restriction


def order_of(row: RestrictionRow) -> Order:
    """An order from its row."""
    told = row.rules | {
        "from": None if row.first_day is None else str(row.first_day),
        "to": None if row.last_day is None else str(row.last_day),
    }
    return Order(row, restriction_json.order_of(Fields(told, "restriction")))


@dataclass(frozen=True)
class Given:
    """All that a plan from a day on is chosen under.

    takes: what days take from crews; lent: the crew, by position, that a site is lent to on a day; orders: those that
    hold for each site; wishes: by site; let_go: trees that nobody spends water on any more; poured_l: litres logged in
    the week before and today, by site and day [L]; now_min: the minute of the first day [min]; slack: how much more
    than the least harm a plan may cost that saves water, a share; by_box: lines that a box runs by itself, by site,
    with the days on which it leaves them to people.
    """

    first_day: date
    sites: tuple[Site, ...]
    crews: tuple[CrewGiven, ...]
    crew_of_site: dict[UUID, int]
    takes: dict[tuple[UUID, date], CrewDay]
    lent: dict[tuple[UUID, date], int]
    orders: dict[UUID, tuple[Order, ...]]
    wishes: dict[UUID, dict[tuple[UUID, date], VisitWish]]
    let_go: frozenset[UUID]
    poured_l: dict[tuple[UUID, date], float]
    now_min: float
    stops: tuple[Stop, ...]
    slack: float
    by_box: dict[UUID, dict[UUID, frozenset[date]]]

    @cached_property
    def stops_ahead(self) -> Stops:
        """The stops of all sites on the days of the plan."""
        return stops_of(self)

    @cached_property
    def days(self) -> tuple[date, ...]:
        """The days of the plan."""
        return tuple(self.first_day + timedelta(days=n) for n in range(PLAN_DAYS))

    def crew_on(self, site_id: UUID, day: date) -> int:
        """The crew that waters a site on a day, by position."""
        return self.lent.get((site_id, day), self.crew_of_site[site_id])

    def taken(self, crew: int, day: date) -> DayTakes:
        """What a day takes from a crew."""
        row = self.takes.get((self.crews[crew].id, day))
        found = hands.NOTHING
        if row is not None:
            found = DayTakes(row.people_less, row.starts_min, row.ends_min, row.pump_broken)
        if day == self.first_day and self.now_min > self.crews[crew].has.starts_min:
            found = replace(found, starts_min=max(found.starts_min or 0.0, self.now_min))
        return found

    @cached_property
    def has(self) -> tuple[tuple[DayHas, ...], ...]:
        """What each crew has on each day."""
        return tuple(
            tuple(hands.on_day(crew.has, day.weekday(), self.taken(n, day)) for day in self.days)
            for n, crew in enumerate(self.crews)
        )

    @cached_property
    def hands(self) -> Hands:
        """The same as arrays (crews, days)."""
        rows = ("minutes", "handling_min", "at_once")
        minutes, handling, at_once = (
            np.array([[getattr(day, name) for day in crew] for crew in self.has]).reshape(-1, PLAN_DAYS)
            for name in rows
        )
        return Hands(minutes, handling, at_once)

    @cached_property
    def limited(self) -> tuple[Site, ...]:
        """Sites at which anything limits what can be done."""
        return tuple(site for site in self.sites if self._is_limited(site))

    def _is_limited(self, site: Site) -> bool:
        return bool(
            site.crew_id or site.crew_hours is not None or self.orders.get(site.id) or self.wishes.get(site.id)
            or any(lent == site.id for lent, _ in self.lent)
        )  # fmt: skip


def load(session: Session, sites: Sequence[Site], first_day: date, now_min: float = 0.0) -> Given:
    """Read all of it. first_day: the plan's; now_min: what minute of it it is [min]."""
    last = first_day + timedelta(days=PLAN_DAYS - 1)
    rows = crews.crews(session)
    found = [_crew(row) for row in rows]
    at = {row.id: n for n, row in enumerate(rows)}
    crew_of_site = {}
    for site in sites:
        if site.crew_id in at:
            crew_of_site[site.id] = at[site.crew_id]
        else:
            crew_of_site[site.id] = len(found)
            found.append(_of_site(site))
    holds = limits.sites_of(session)
    orders = [order_of(row) for row in limits.standing(session)]
    in_time = [one for one in orders if _meets(one.row, first_day, last)]
    return Given(
        first_day, tuple(sites), tuple(found), crew_of_site, crews.days(session, first_day, last),
        {key: at[crew] for key, crew in crews.loans(session, first_day, last).items() if crew in at},
        {site.id: tuple(one for one in in_time if site.id in holds[one.row.id]) for site in sites},
        choices.wishes(session, [site.id for site in sites], first_day, last),
        frozenset(choices.let_go(session)),
        log_store.poured_by_day(session, [site.id for site in sites], first_day - timedelta(days=6), first_day),
        now_min,
        tuple(tree_store.stops(session, [site.id for site in sites])),
        choices.slack(session),
        _by_box(session),
    )  # fmt: skip


def _by_box(session: Session) -> dict[UUID, dict[UUID, frozenset[date]]]:
    found: dict[UUID, dict[UUID, frozenset[date]]] = {}
    for site_id, line_id, state in boxes.relied_on(session):
        left = frozenset(date.fromisoformat(one["day"]) for one in state.left_over if one["line_id"] == str(line_id))
        found.setdefault(site_id, {})[line_id] = left
    return found


def of_day(session: Session, sites: Sequence[Site], also: Site | None = None) -> Given:
    """All of it from this morning on. sites: at least one; also: one that may be closed."""
    sites = _with(sites, also)
    return load(session, sites, clock.today(session, sites[0].timezone))


def now(session: Session, sites: Sequence[Site], also: Site | None = None) -> Given:
    """All of it from this minute on. sites: at least one; also: one that may be closed."""
    sites = _with(sites, also)
    at = clock.now(session).astimezone(ZoneInfo(sites[0].timezone))
    return load(session, sites, at.date(), 60.0 * at.hour + at.minute)


def _with(sites: Sequence[Site], also: Site | None) -> Sequence[Site]:
    return sites if also is None or any(site.id == also.id for site in sites) else [*sites, also]


def _meets(row: RestrictionRow, first: date, last: date) -> bool:
    return (row.first_day is None or row.first_day <= last) and (row.last_day is None or row.last_day >= first)


def _crew(row: Crew) -> CrewGiven:
    has = CrewHas(
        row.people, row.starts_min, row.hours, row.break_min, row.hoses, row.set_up_min, row.handling_min,
        tuple(row.working_days),
    )  # fmt: skip
    yard = Place(row.yard_latitude_deg, row.yard_longitude_deg)
    return CrewGiven(row.id, row.name, has, yard, row.tank_l, row.fill_min, of_site=False)


def _of_site(site: Site) -> CrewGiven:
    """A site's own numbers in place of a crew's: its hours are those of work."""
    has = CrewHas(people=1, hours=site.crew_hours, break_min=0.0, working_days=tuple(site.working_days))
    return CrewGiven(site.id, site.name, has, Place(), site.tank_l, hands.FILL_MIN, of_site=True)
