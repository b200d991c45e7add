"""The plan of a site's trees: log and weather in, dryness, due days, litres and minutes out.

Computed days are cached, one state a tree each week and yesterday's; a plan restarts from the newest one left.
"""

from collections.abc import Sequence
from contextlib import suppress
from dataclasses import dataclass
from datetime import date, timedelta
from functools import cached_property
from typing import Any
from uuid import UUID

import numpy as np

from june_shade.core.errors import JuneShadeError
from june_shade.core.soil.in_force import InForce
from june_shade.core.soil.textures import Soil
from june_shade.core.water import together
from june_shade.core.water import trees as tree_model
from june_shade.core.water.balance import ROOT_GROWTH_M_PER_DAY, growth_factor
from june_shade.core.water.course import Course
from june_shade.core.water.delivery import Delivery
from june_shade.core.water.followed import Followed
from june_shade.core.water.planner import Plan
from june_shade.core.water.pouring import Pouring
from june_shade.core.water.stores import Reach, Trees
from june_shade.core.water.together import Run
from june_shade.core.water.walk import Era, Opening
from june_shade.core.weather import series as weather_series
from june_shade.core.weather.series import Series
from june_shade.plans import facts
from june_shade.plans import weather as weather_plans
from june_shade.plans.choosing import in_force as in_choice
from june_shade.plans.describe import describe
from june_shade.plans.facts import SiteLoaded
from june_shade.plans.looking import in_force
from june_shade.plans.water import cache, days, followed, log_in, openings, ways
from june_shade.plans.water.openings import GROWN_KS
from june_shade.store import kept_states
from june_shade.store import log as log_store
from june_shade.store import mulch as mulch_store
from june_shade.store.facts import SiteFacts, TreeFacts
from june_shade.store.session import Session
from june_shade.store.site_tables import Site

HISTORY_DAYS = 30
LITTLE_OF_A_YEAR = 300
ESTABLISHING_DAYS = 3 * 365
"""How far ahead the day is looked for on which a tree stands on its own."""


@dataclass(frozen=True)
class SitePlan:
    """A site's plan: its rows in stop order, the arrays of the core, and what is needed to explain them.

    known: all days of the site. series: those that were run or asked for, with the days that nobody works closed;
    positions in the plan are positions there. began_from: the kept states that trees were run from; opening: where
    each tree's run begins.
    """

    site: SiteFacts
    soil: Soil
    today: date
    known: Series
    series: Series
    rows: tuple[TreeFacts, ...]
    trees: Trees
    deliveries: tuple[Delivery, ...]
    eras: tuple[Era, ...]
    course: Course
    followed: tuple[Followed, ...]
    plan: Plan
    mulch_recorded: dict[UUID, list[mulch_store.DepthOfDay]]
    proven_conductivity_mm_h: dict[UUID, float]
    began_from: dict[UUID, kept_states.KeptState]
    opening: Opening

    @cached_property
    def remembered(self) -> dict[tuple[str, int, int], Any]:
        """What was asked of this plan once and is asked again, by what it is and of whom."""
        return {}

    def index_of(self, tree_id: UUID) -> int:
        """Position of a tree in the arrays."""
        return self._positions[tree_id]

    @cached_property
    def _positions(self) -> dict[UUID, int]:
        return {row.id: i for i, row in enumerate(self.rows)}

    def day(self, index: int) -> date | None:
        """Date of a position in the series, None for -1."""
        return self.series.dates[index].item() if index >= 0 else None

    @property
    def pouring(self) -> Pouring:
        """How each tree is poured now."""
        return self.eras[-1].pouring

    @property
    def reach(self) -> Reach:
        """Where each tree's water lands now."""
        return self.eras[-1].reach

    def routine_of(self, i: int) -> Followed | None:
        """The routine that tree i follows, None where it follows the balance."""
        return next((one for one in self.followed if i in one.trees), None)

    def on_a_line(self, i: int) -> bool:
        """Whether tree i gets its water from a valve that it shares."""
        line = self.pouring.line
        return line is not None and bool(line[i] >= 0)

    @cached_property
    def roots_ahead_m(self) -> np.ndarray:
        """How far roots grow [m] by the end of each coming day, three years of them, at last year's temperatures."""
        pace = ROOT_GROWTH_M_PER_DAY * GROWN_KS * growth_factor(self.known.month_c[-365:])
        if len(pace) < LITTLE_OF_A_YEAR:  # too little to go by the season: the pace of the days there are
            daily = np.full(ESTABLISHING_DAYS, np.mean(pace))
        else:
            ahead = len(self.known) - self.known.index(self.today)
            daily = np.resize(np.roll(pace, ahead), ESTABLISHING_DAYS)
        return np.cumsum(daily)

    @property
    def filled(self) -> bool:
        """Whether over 3 of the 14 days before today were filled."""
        return weather_series.filled_too_many(self.known.basis[: max(0, self.known.index(self.today))])


@dataclass(frozen=True)
class Prepared:
    """A site as it was read and described, ready to be run."""

    loaded: SiteLoaded
    known: Series
    cut: Series
    deliveries: tuple[Delivery, ...]
    run: Run
    mulch_recorded: dict[UUID, list[mulch_store.DepthOfDay]]
    proven_conductivity_mm_h: dict[UUID, float]
    began_from: dict[UUID, kept_states.KeptState]

    def planned(self, plan: Plan) -> SitePlan:
        """The site's plan with what the core made of it."""
        loaded, run = self.loaded, self.run
        return SitePlan(
            loaded.site, loaded.soil.soil, loaded.today, self.known, self.cut, loaded.trees, run.trees,
            self.deliveries, run.eras, run.course, run.followed, plan, self.mulch_recorded,
            self.proven_conductivity_mm_h, self.began_from, run.opening,
        )  # fmt: skip


def plan_site(
    session: Session,
    site: Site,
    *,
    tree_ids: Sequence[UUID] | None = None,
    history_days: int = 0,
    keep_days: bool = False,
    use_cache: bool = True,
    ground: InForce | None = None,
    limits: bool = True,
) -> SitePlan | None:
    """Run a site's trees from their newest known state to 14 days ahead; None where there are no trees.

    tree_ids: some trees only, with all that share a line with them. history_days: how many past days the caller wants
    to see. ground: another soil than the one in force, to see what it would change; only without the cache. limits:
    whether visits are as they were chosen under limits, where they were; else as trees want them. Has the
    computed days kept, but those that were run again only to be seen.
    """
    assert ground is None or not use_cache
    found = prepare(session, site, tree_ids, history_days, use_cache, ground, limits=limits)
    if found is None:
        return None
    made = found.planned(found.run.plan(keep_days=keep_days))
    if use_cache and not history_days:
        cache.keep(session, made, site.revision)
    return made


def plan_sites(session: Session, sites: Sequence[Site], *, limits: bool = True) -> dict[UUID, SitePlan]:
    """The plans of many sites, all run at once, by site; without those that have no trees or can't be planned. limits:
    as of `plan_site`."""
    ready: dict[UUID, Prepared] = {}
    for site in sites:
        with suppress(JuneShadeError):
            found = prepare(session, site, limits=limits)
            if found is not None:
                ready[site.id] = found
    plans = together.plans([one.run for one in ready.values()])
    made = {site_id: one.planned(plan) for (site_id, one), plan in zip(ready.items(), plans, strict=True)}
    for site in sites:
        if site.id in made:
            cache.keep(session, made[site.id], site.revision)
    return made


def prepare(
    session: Session, site: Site, tree_ids: Sequence[UUID] | None = None, history_days: int = 0,
    use_cache: bool = True, ground: InForce | None = None, *, limits: bool = True,
) -> Prepared | None:  # fmt: skip
    """Read a site and describe it; None where there are no trees. Arguments as of `plan_site`."""
    loaded = facts.load(session, site, tree_ids, ground)
    rows, today = loaded.trees, loaded.today
    if not rows:
        return None
    some = None if tree_ids is None else [row.id for row in rows]
    until = today - timedelta(days=1 + history_days)
    states = kept_states.newest_states(session, site.id, until, some) if use_cache else {}
    starts = [states[r.id].day + timedelta(days=1) if r.id in states else min(r.opened_on, today) for r in rows]
    series = weather_plans.site_series(session, site, min(starts), today)
    first = max(0, min(series.index(min(starts)), series.index(today) - history_days))

    described = [describe(row, loaded.site, loaded.soil, today) for row in rows]
    trees = tree_model.build([one.spec for one in described])
    cut = days.with_days_off(days.cut(series, first), site.working_days, today)
    former = facts.former_ways(session, loaded, cut.dates[0].item())
    eras = ways.eras_of(loaded.site, rows, described, former, cut, loaded.soil.soil.intake_mm_h)
    kept = [states.get(row.id) for row in rows]
    opening = openings.opening(rows, kept, starts, trees, eras[0].reach, series, first)
    breaks, recorded = log_store.bud_breaks(session, site.id), mulch_store.depths(session, site.id)
    leaf, depth = days.leaf_and_mulch(rows, cut, breaks, recorded)
    at = series.index(today) - first
    logged = log_in.lay_in(session, site.id, rows, some, cut, eras, depth, at)
    read = log_in.felt_by(session, site.id, rows, some, cut, trees)
    course = Course.of(cut, leaf, depth, *logged, at, read, in_force.factors(session, site.id, rows, cut))
    course = in_force.held(session, site.id, rows, cut, course)
    if limits:
        course = in_choice.chosen(session, site.id, rows, cut, course)
    chosen = followed.followed(session, site.id, rows, series, first, first + at)
    run = Run(trees, opening, course, eras, frozenset(cache.days_to_keep(cut, at)), chosen)
    proven = facts.proven_conductivity_mm_h(session, rows)
    return Prepared(loaded, series, cut, tuple(one.how for one in described), run, recorded, proven, states)
