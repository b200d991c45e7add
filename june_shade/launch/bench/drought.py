"""Sixty dry days of the demo's trees at half the minutes that they want: the chosen plan against what crews do by hand.

Each morning a plan is chosen anew under a forecast that is off, as the station's own past was off its season; the day
then comes as it was. By hand: due trees in the order of stops; the driest first; a calendar, the best of several.
"""

import time
from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace

import numpy as np

from june_shade.core.choosing import fortnight, harm, offers, paths
from june_shade.core.choosing.offers import PLAN_DAYS, Group, Hands, Limits
from june_shade.core.choosing.patterns import Array
from june_shade.core.water import planner
from june_shade.core.water.course import Course
from june_shade.core.water.ground import ground
from june_shade.core.water.visits import Standing, next_morning
from june_shade.core.water.walk import Opening, opening_state
from june_shade.core.weather.series import Series
from june_shade.demo import scenario
from june_shade.launch import cluster
from june_shade.launch.bench.tell import tell
from june_shade.plans.choosing import given as loading
from june_shade.plans.choosing import groups
from june_shade.plans.water import SitePlan, days
from june_shade.plans.water.run import plan_sites
from june_shade.store import trees as tree_store
from june_shade.store.migrate import upgrade
from june_shade.store.session import make_engine, make_sessions, reading

DAYS, SECONDS, SEED = 60, 6.0, 20261128
STOP_MIN = 11.0
"""Set-up of a stop, and the way between stops of a site (common practice)."""
CALENDARS = (2, 3, 4, 5, 7)


@dataclass(frozen=True, slots=True)
class Site:
    """A site's trees this morning, what does not change of them, the stop of each, by position among all."""

    standing: Standing
    group: Group
    stop: Array


def sites_of(plans: Sequence[SitePlan], given: loading.Given) -> list[Site]:
    """Every site's trees full, sixty days ago, with the roots that they have today."""
    found, first_stop = [], 0
    for made in plans:
        at = made.known.index(made.today)
        cut = days.cut(made.known, at - DAYS)
        cut = cut.days(0, DAYS + PLAN_DAYS)
        leaf, mulch = days.leaf_and_mulch(made.rows, cut, {}, made.mulch_recorded)
        zero, count = np.zeros_like(leaf), len(made.rows)
        course = Course.of(cut, leaf, mulch, zero, zero, np.zeros(count, bool), 0).lengthened(harm.TAIL_DAYS)
        era = replace(made.eras[-1], since=0)
        roots = np.minimum(made.plan.now.root_radius_m, made.trees.established_radius_m)
        state = opening_state(made.trees, era.reach, roots, np.ones(count), np.ones(count), np.zeros(count, bool))
        standing = Standing(made.trees, Opening.of_all(state, fresh=True), course, era, np.full(count, np.nan))
        site = next(one for one in given.sites if one.id == made.site.id)
        wanted = np.zeros((PLAN_DAYS, count), bool)
        group = groups.group_of(made, site, given, wanted)
        x = ground(made.trees, era.reach, roots).establishment
        open_days = np.ones_like(wanted)
        group = replace(
            group, weight=harm.weight(np.array([row.worth for row in made.rows]), x), allowed=open_days,
            pinned=np.zeros_like(wanted), most_l=np.full(wanted.shape, np.inf), crew=np.zeros(wanted.shape, int),
        )  # fmt: skip
        keys = {key: n for n, key in enumerate(dict.fromkeys(row.stop_id for row in made.rows))}
        found.append(Site(standing, group, first_stop + np.array([keys[row.stop_id] for row in made.rows])))
        first_stop += len(keys)
    return found


def ahead(standing: Standing) -> Standing:
    """The days of a plan and its tail, from this morning on, as a course of their own."""
    course = standing.course
    at, end = course.today, course.today + PLAN_DAYS + harm.TAIL_DAYS
    names = ("eto_mm", "rain_mm", "month_c", "five_days_c", "rain_share", "fallen", "workable", "leaf",
             "mulch_depth_share", "thirst", "first_net_l", "second_net_l", "chosen")  # fmt: skip
    cut = {name: getattr(course, name)[at:end] for name in names}
    opening = replace(standing.opening, index=np.zeros(len(standing.trees), int))
    return replace(standing, course=replace(course, **cut, today=0), opening=opening)


def wanted(standing: Standing) -> Array:
    """Whether the balance would visit, array (days, trees)."""
    course = replace(standing.course, chosen=np.full(standing.course.chosen.shape, np.nan))
    plan = planner.run(standing.trees, standing.opening, course, (standing.era,))
    visits: Array = np.nan_to_num(plan.visit_gross_l[:PLAN_DAYS]) > 0
    return visits


Policy = Callable[[int, list[Site], list[Standing], float], list[Array]]
"""What is visited today, an array (trees,) for each site; from the day, the sites, how they are forecast, minutes."""


def by_hand(order: Callable[[int, Site, Array, Array], Array]) -> Policy:
    """Trees in an order until the day is over. order: rank of each tree, NaN = not today; from the day, the site,
    whether the balance wants it today, its dryness."""

    def policy(day: int, sites: list[Site], forecast: list[Standing], most_min: float) -> list[Array]:
        shares = [np.zeros(len(site.stop)) for site in sites]
        rows = []
        for n, (site, seen) in enumerate(zip(sites, forecast, strict=True)):
            _, full = next_morning(seen, np.ones(len(site.stop)))
            _, none = next_morning(seen, np.zeros(len(site.stop)))
            rank = order(day, site, wanted(seen)[0], none.dryness[0])
            minutes = offers.minutes_of(site.group, HANDS, np.arange(len(site.stop)), _padded(full.litres))[0]
            rows += [(rank[i], n, i, minutes[i]) for i in range(len(site.stop)) if not np.isnan(rank[i])]
        left, opened = most_min, set()
        for _, n, i, minutes in sorted(rows):
            stop = int(sites[n].stop[i])
            takes = minutes + (0.0 if stop in opened else STOP_MIN)
            if takes <= left:
                left -= takes
                opened.add(stop)
                on = next(unit for unit in sites[n].group.units if i in unit)
                shares[n][on] = 1.0
        return shares

    return policy


def _padded(litres: Array) -> Array:
    found = np.zeros((PLAN_DAYS, litres.shape[1]))
    found[0] = litres[0]
    return found


HANDS = Hands(np.full((1, PLAN_DAYS), np.inf), np.ones((1, PLAN_DAYS)), np.ones((1, PLAN_DAYS)))


class Chosen:
    """The plan that is chosen each morning, beginning with yesterday's; its first day is driven."""

    def __init__(self, sites: list[Site]) -> None:
        self._before = [np.zeros((PLAN_DAYS, len(site.stop))) for site in sites]

    def __call__(self, day: int, sites: list[Site], forecast: list[Standing], most_min: float) -> list[Array]:
        own = [
            replace(site.group, standing=seen, wanted=wanted(seen)) for site, seen in zip(sites, forecast, strict=True)
        ]
        stops = 1 + max(int(site.stop.max()) for site in sites)
        hands = replace(HANDS, minutes=np.full((1, PLAN_DAYS), most_min))
        limits = Limits(hands, np.full((stops, PLAN_DAYS), STOP_MIN), np.zeros((stops, PLAN_DAYS), int))
        found = fortnight.plan(
            own, [site.stop for site in sites], limits, self._before, seconds=SECONDS, clock=time.monotonic
        )
        self._before = [np.concatenate([of.share[1:], np.zeros((1, of.share.shape[1]))]) for of in found.groups]
        return [of.share[0] for of in found.groups]


@dataclass(frozen=True, slots=True)
class Gone:
    """What sixty days came to: weighted harm of each tree [days], array (trees,); trees, by weight, that had three days
    of hardly any uptake; minutes of work on all days [min]."""

    harms: Array
    dying: float
    minutes: float


def gone_through(sites: list[Site], policy: Policy, most_min: float, known: Series, first: int) -> Gone:
    """Sixty days gone through."""
    rng = np.random.Generator(np.random.PCG64(SEED))
    now = [site.standing for site in sites]
    rows: list[list[tuple[Array, Array, Array]]] = [[] for _ in sites]
    minutes = 0.0
    for day in range(DAYS):
        path = paths.drawn(known, first + day, rng, 1)
        forecast = []
        for seen in map(ahead, now):
            count = len(seen.trees)
            if path is not None:
                times = np.repeat(path.eto_times, count, axis=1)
                times[0] = 1.0
                seen = seen.under(times, np.repeat(path.rain_mm, count, axis=1))
            forecast.append(seen)
        shares = policy(day, sites, forecast, most_min)
        opened: set[int] = set()
        for n, (site, share) in enumerate(zip(sites, shares, strict=True)):
            now[n], today = next_morning(now[n], share)
            rows[n].append((today.ks[0], today.soggy[0], today.leaf[0]))
            poured = today.litres[0] > 0
            minutes += float(
                np.sum(offers.minutes_of(site.group, HANDS, np.arange(len(poured)), _padded(today.litres))[0])
            )
            opened |= set(site.stop[poured].tolist())
        minutes += STOP_MIN * len(opened)
    harms, dying = [], 0.0
    for site, own in zip(sites, rows, strict=True):
        ks, soggy, leaf = (np.array([row[k] for row in own]) for k in range(3))
        harms.append(site.group.weight * harm.of_days(ks, soggy, leaf, DAYS))
        dying += float(site.group.weight @ harm.is_dying(ks, leaf))
    return Gone(np.concatenate(harms), dying, minutes)


def everything(day: int, sites: list[Site], forecast: list[Standing], most_min: float) -> list[Array]:
    """All that the balance wants."""
    return [wanted(seen)[0].astype(float) for seen in forecast]


def in_stop_order(day: int, site: Site, due: Array, dryness: Array) -> Array:
    """Those due, stop by stop."""
    return np.where(due, site.stop + np.arange(len(due)) / 1e4, np.nan)


def driest_first(day: int, site: Site, due: Array, dryness: Array) -> Array:
    """Those due, the driest first."""
    return np.where(due, -dryness, np.nan)


def calendar(every: int) -> Callable[[int, Site, Array, Array], Array]:
    """Each stop every so many days, whatever its trees want."""
    return lambda day, site, due, dryness: np.where((site.stop + day) % every == 0, site.stop.astype(float), np.nan)


def measure() -> None:
    """All of it."""
    with cluster.throw_away() as server:
        url = server.ensure_database("drought")
        upgrade(url)
        engine = make_engine(url)
        sessions = make_sessions(engine)
        scenario.fill(sessions)
        with reading(sessions) as session:
            rows = tree_store.sites(session)
            given = loading.of_day(session, rows)
            plans = list(plan_sites(session, rows, limits=False).values())
        known, first = plans[0].known, plans[0].known.index(plans[0].today) - DAYS
        sites = sites_of(plans, given)
        free = gone_through(sites, everything, np.inf, known, first)
        half = free.minutes / DAYS / 2
        tell("drought_minutes_wanted_a_day", free.minutes / DAYS, "min")
        by_hands: dict[str, Policy] = {"stop_order": by_hand(in_stop_order), "dryness_order": by_hand(driest_first)}
        by_hands |= {f"calendar_{every}_days": by_hand(calendar(every)) for every in CALENDARS}
        found = {}
        policies: list[tuple[str, Policy]] = [*by_hands.items(), ("chosen", Chosen(sites))]
        for name, policy in policies:
            gone = gone_through(sites, policy, half, known, first)
            found[name] = float(np.sum(np.maximum(0.0, gone.harms - free.harms)))
            tell(f"drought_{name}_harm", found[name], "weighted days")
            tell(f"drought_{name}_dying", gone.dying, "weighted trees")
            tell(f"drought_{name}_minutes_a_day", gone.minutes / DAYS, "min")
        best = min(found[name] for name in by_hands)
        tell("drought_chosen_of_best_by_hand_percent", 100 * found["chosen"] / best, "%")
        engine.dispose()
