"""A site's plan as the core chooses for it: which trees go together, what each day allows, what is wanted."""

from collections.abc import Container, Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from uuid import UUID

import numpy as np

from june_shade.core.choosing import harm, offers
from june_shade.core.choosing.hands import open_min
from june_shade.core.choosing.offers import PLAN_DAYS, Group, Limits
from june_shade.core.choosing.patterns import Array
from june_shade.core.limits import hours
from june_shade.core.limits.restriction import Restriction, Watering
from june_shade.core.water import delivery, load
from june_shade.core.water.delivery import Delivery
from june_shade.core.water.visits import Standing
from june_shade.plans.choosing.given import Given
from june_shade.plans.choosing.stops import Stops
from june_shade.plans.water import SitePlan
from june_shade.store.choice_tables import FORBID, PIN
from june_shade.store.facts import TreeFacts
from june_shade.store.site_tables import Site

WAY_OF = {"wicked": "box"}
"""What orders call a way of watering, where it is another word."""
WATER_OF = {"potable": "mains"}
"""What orders call a kind of water."""


@dataclass(frozen=True, slots=True)
class SiteGroup:
    """A site's plan without limits, and its trees as they are chosen for."""

    made: SitePlan
    group: Group


def way_of(method: str) -> str:
    """A way of watering as orders name it."""
    return WAY_OF.get(method, method)


def asked_of(water_source: str, house_number: int | None, planted_on: date, method: str, day: date) -> Watering:
    """A watering of a tree on a day, of any hour and amount, as an order is asked about it."""
    water = WATER_OF.get(water_source, water_source)
    return Watering(day, None, 0.0, way_of(method), None, house_number, planted_on, water)


def group_of(made: SitePlan, site: Site, given: Given, wanted: Array) -> Group:
    """A site's trees as they are chosen for. wanted: the plain plan's visits, array (days, trees) of whether."""
    count, at = len(made.rows), made.course.today
    days = slice(at, at + PLAN_DAYS)
    line = _lines(made)
    units = [np.array([i]) for i in range(count) if line[i] < 0]
    units += [np.flatnonzero(line == number) for number in np.unique(line[line >= 0])]
    methods = [how.method for how in made.deliveries]
    crew, flow, alone, shared = _handled(made, site, given)
    gross = np.where(made.plan.visit_gross_l[at:] > 0, made.plan.visit_gross_l[at:], np.nan)
    asked = np.full(count, np.nan)
    for one in made.followed:
        some = gross[:, one.trees]
        there = np.any(~np.isnan(some), axis=0)
        asked[one.trees[there]] = np.nanmean(some[:, there], axis=0)
    allowed, most = _allowed(made, site, given, methods, alone, flow)
    worth = np.array([0.0 if row.id in given.let_go else row.worth for row in made.rows])
    standing = Standing.of(
        made.trees, made.opening, made.plan.yesterday,
        made.plan.reservoir_l[at - 1] if at else np.zeros(count), made.course.lengthened(harm.TAIL_DAYS),
        made.eras[-1], asked,
    )  # fmt: skip
    pinned = _wished(made, given, site.id, PIN)
    pinned[0] |= made.course.asked_now
    allowed &= ~_wished(made, given, site.id, FORBID)
    workable = np.broadcast_to(made.course.workable[days], allowed.shape)
    step_l = [how.step_l or delivery.US_STEP_L for how in made.deliveries]
    return Group(
        standing, tuple(units), crew, harm.weight(worth, made.plan.now_ground.establishment), flow, alone, shared,
        wanted, allowed & workable, pinned, most, np.where(line < 0, step_l, 0.0),
    )  # fmt: skip


def _lines(made: SitePlan) -> Array:
    """The line of each tree, -1 = none."""
    return made.pouring.line if made.pouring.line is not None else np.full(len(made.rows), -1)


def _handled(made: SitePlan, site: Site, given: Given) -> tuple[Array, Array, Array, Array]:
    """Of each tree the crew on each day, its flow [L/h], whether water runs on by itself there, and how many trees a
    visit's minutes are shared by."""
    line = _lines(made)
    shared = load.shared_by(line, by_box(made.rows, made.deliveries, given.by_box.get(site.id, {})))
    alone = np.array([load.runs_alone(how.method, bool(n >= 0)) for how, n in zip(made.deliveries, line, strict=True)])
    flow = np.array([delivery.flow_l_per_h(how) for how in made.deliveries])
    crew = np.repeat(np.array([given.crew_on(site.id, day) for day in given.days])[:, None], len(line), axis=1)
    return crew, flow, alone, shared


def by_box(rows: Sequence[TreeFacts], ways: Sequence[Delivery], lines: Container[UUID | None]) -> Array:
    """Whether a box opens each tree's valve, array (trees,). lines: those that a box runs."""
    pairs = zip(rows, ways, strict=True)
    return np.array([row.line_id in lines and how.on_a_valve for row, how in pairs], bool)


def from_tank(made: SitePlan) -> Array:
    """Whether each tree is poured from a tank, array (trees,): where the site has one, all but what a valve runs."""
    return np.array([made.site.tank_l is not None and not how.on_a_valve for how in made.deliveries], bool)


def minutes_of(made: SitePlan, site: Site, given: Given) -> Array:
    """Minutes of the plan's visits as they stand [min], array (days, trees)."""
    at = made.course.today
    litres = np.zeros((PLAN_DAYS, len(made.rows)))
    planned = np.nan_to_num(made.plan.visit_gross_l[at : at + PLAN_DAYS])
    litres[: len(planned)] = planned
    crew, flow, alone, shared = _handled(made, site, given)
    found = offers.visit_minutes(given.hands, crew, flow, alone, shared, litres)
    if left := given.by_box.get(site.id):  # what a box leaves to people takes them as long as if there were none
        shared = load.shared_by(_lines(made), np.zeros(len(made.rows), bool))
        by_people = offers.visit_minutes(given.hands, crew, flow, alone, shared, litres)
        of = [left.get(row.line_id, frozenset()) if row.line_id else frozenset() for row in made.rows]
        is_left = np.array([[day in days for days in of] for day in given.days], bool)
        found = np.where(is_left, by_people, found)
    return found


def _allowed(
    made: SitePlan, site: Site, given: Given, methods: list[str], alone: Array, flow_l_per_h: Array
) -> tuple[Array, Array]:
    """Whether each tree may be watered on each day by orders and pumps, and with how many litres at most, arrays
    (days, trees)."""
    count = len(made.rows)
    allowed, most = np.ones((PLAN_DAYS, count), bool), np.full((PLAN_DAYS, count), np.inf)
    orders = [one.rules for one in given.orders[site.id]]
    for d, day in enumerate(given.days):
        crew = given.crew_on(site.id, day)
        shut = [one for one in given.orders[site.id] if one.row.closes_yards and one.rules.in_force(day)]
        if given.crews[crew].tank_l is not None and (shut or given.taken(crew, day).pump_broken):
            allowed[d] &= ~from_tank(made)
        known: dict[tuple[object, ...], tuple[bool, float]] = {}
        for i, row in enumerate(made.rows if orders else ()):
            key = methods[i], row.planted_on, bool(alone[i]), float(flow_l_per_h[i])
            if key not in known:
                known[key] = _ruled(
                    given, orders, site, row, methods[i], day, crew, d, alone=bool(alone[i]), flow=key[3]
                )
            may, most[d, i] = known[key]
            allowed[d, i] &= may
    return allowed, most


def _ruled(
    given: Given, orders: list[Restriction], site: Site, row: TreeFacts, method: str, day: date, crew: int, d: int, *,
    alone: bool, flow: float,
) -> tuple[bool, float]:  # fmt: skip
    """Whether orders leave a day to a tree, and litres a watering; what drips has to fit into the longest open hours.

    flow: what runs there [L/h].
    """
    asked = asked_of(site.water_source, site.house_number, row.planted_on, method, day)
    if hours.closed_by(orders, asked):
        return False, np.inf
    left = hours.open_hours(orders, asked)
    has = given.has[crew][d]
    may = len(left) > 0 if alone else open_min(left, has.starts_min, has.ends_min) > 0
    most = hours.most_l(orders, asked)
    if method == "emitters" and len(left):
        most = min(most, flow * float(np.max(left[:, 1] - left[:, 0])) / 60.0)
    return may, most


def _wished(made: SitePlan, given: Given, site_id: UUID, wish: str) -> Array:
    """Where somebody said so, array (days, trees)."""
    found = np.zeros((PLAN_DAYS, len(made.rows)), bool)
    positions = {row.id: i for i, row in enumerate(made.rows)}
    for (tree_id, day), row in given.wishes[site_id].items():
        if row.wish == wish and tree_id in positions and 0 <= (day - given.first_day).days < PLAN_DAYS:
            found[(day - given.first_day).days, positions[tree_id]] = True
    return found


def limits_of(given: Given, found: list[SiteGroup]) -> tuple[Limits, Stops]:
    """What all crews have together for these sites, and the stops of the plan."""
    stops = given.stops_ahead
    limits = Limits(given.hands, stops.minutes, stops.crew_of, _periods(given, found), _closings(given, found))
    return limits, stops


def _periods(
    given: Given, found: list[SiteGroup]
) -> tuple[tuple[tuple[int, ...], float, tuple[tuple[int, ...], ...]], ...]:  # fmt: skip
    """Weeks of litres that orders allow all their sites together; a week starts on a day of the order's."""
    orders = {one.row.id: one for own in given.orders.values() for one in own if one.row.week_l is not None}
    periods = []
    for order in orders.values():
        begins = order.row.first_day or given.first_day
        weeks: dict[int, list[int]] = {}
        for d, day in enumerate(given.days):
            if order.rules.in_force(day):
                weeks.setdefault((day - begins).days // 7, []).append(d)
        trees = tuple(
            tuple(range(len(one.made.rows))) if order in given.orders[one.made.site.id] else () for one in found
        )
        for week, days in weeks.items():
            start = begins + timedelta(days=7 * week)
            poured = sum(
                litres for (site_id, day), litres in given.poured_l.items()
                if day >= start and order in given.orders[site_id]
            )  # fmt: skip
            left = float(order.row.week_l or 0.0) - (poured if days[0] == 0 else 0.0)
            periods.append((tuple(days), max(0.0, left), trees))
    return tuple(periods)


def _closings(given: Given, found: list[SiteGroup]) -> tuple[tuple[int, float, int, tuple[int, ...]], ...]:
    """Hours that orders leave those of a site who need the crew: one limit for trees that have the same hours."""
    closings = []
    for n, one in enumerate(found):
        site = next(site for site in given.sites if site.id == one.made.site.id)
        orders = [order.rules for order in given.orders[site.id]]
        if not any(order.windows is not None for order in orders):
            continue
        for d, day in enumerate(given.days):
            crew = given.crew_on(site.id, day)
            has = given.has[crew][d]
            groups: dict[float, list[int]] = {}
            for i, row in enumerate(one.made.rows):
                if not one.group.alone[i]:
                    asked = asked_of(
                        site.water_source, site.house_number, row.planted_on, one.made.deliveries[i].method, day
                    )
                    left = open_min(hours.open_hours(orders, asked), has.starts_min, has.ends_min)
                    groups.setdefault(left, []).append(i)
            whole = has.ends_min - has.starts_min
            closings += [(d, left, n, tuple(trees)) for left, trees in groups.items() if left < whole]
    return tuple(closings)
