"""A season of one tree under several routines side by side, by the plan's own rules: what each would take and cost.

A tree opens as it stood when the season began; in a season before its time, or as a tree of another size, as on
planting day. The days to come are the plan's own, so that its balance and this page's are one.
"""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import date, timedelta
from typing import Any
from uuid import UUID

import numpy as np

from june_shade.core.care import book_rules
from june_shade.core.errors import InputError, NotFoundError, NoWeatherError
from june_shade.core.looking import rehearse as core
from june_shade.core.looking.rehearse import Rehearsed, Seasons
from june_shade.core.looking.season import Season
from june_shade.core.water import delivery, load
from june_shade.core.water import trees as tree_model
from june_shade.core.water.course import Course
from june_shade.core.water.delivery import Delivery
from june_shade.core.water.followed import Followed, sky_since
from june_shade.core.water.planner import Plan
from june_shade.core.water.schools import ROUTINES, Routine
from june_shade.core.water.together import Run
from june_shade.core.water.walk import Era, Opening, opening_state
from june_shade.core.weather.series import MEASURED, Series
from june_shade.plans import describe, register, routines
from june_shade.plans.water import days
from june_shade.plans.water import run as planned
from june_shade.plans.water import ways as ways_of_water
from june_shade.plans.water.run import Prepared
from june_shade.store import routines as store
from june_shade.store import trees as register_store
from june_shade.store.facts import TreeFacts
from june_shade.store.session import Session
from june_shade.store.tree_tables import StockSize, Tree

AHEAD, PAST = "ahead", "past"
PAST_DAYS = 182
"""The past season: half a year up to yesterday."""
MOSTLY_MEASURED = 0.9
"""A stored year is one of which this share of the days was measured."""
LEAST_DAYS = 7
MOST_ROUTINES = 12
USUAL = {"every_days": 3, "deep_days": 14, "mm": 38.0, "flow_l_per_h": 40.0, "hours": 2.5, "heat_l": 6.0, "dry": 0.65}
"""What schools usually say: every third day; every fortnight; an inch and a half of rain a week; a trickle of 10 gal an
hour for two to three hours; a gallon and a half a day in heat; until two thirds of the ball's water are gone (common
practice)."""


@dataclass(frozen=True, slots=True)
class SeasonSpan:
    """A season that can be rehearsed: `ahead`, `past` or a year, its first and its last day."""

    key: str
    first: date
    last: date


@dataclass(frozen=True, slots=True)
class OneRoutine:
    """A routine's season: what it came to; how it fits, as a code; litres beyond the balance's; hours that someone
    stands by; what water and hours cost at the site's prices, None without any; dryness at each day's end 0..1 and
    litres poured on each day."""

    routine: Routine
    season: Rehearsed
    fit: str
    more_l: float
    hours: float
    cost: float | None
    root_radius_m: float
    dryness: tuple[float, ...]
    poured_l: tuple[float, ...]


@dataclass(frozen=True, slots=True)
class Rehearsal:
    """A tree's season under several routines. as_planted: it opens as on planting day."""

    tree: Tree
    span: SeasonSpan
    as_planted: bool
    dates: tuple[date, ...]
    rain_mm: tuple[float, ...]
    limit: float
    routines: tuple[OneRoutine, ...]


@dataclass(frozen=True, slots=True)
class _Stage:
    """A season ready to be run: one tree in arrays, its routines' sky, how it is poured."""

    span: SeasonSpan
    season: Season
    known: Series
    how: Delivery
    intake_mm_h: float
    as_planted: bool


def choices(session: Session, tree_id: UUID) -> dict[str, Any]:
    """What can be rehearsed of a tree: seasons, the routines with usual figures for it, the one that it follows.

    Raises NoWeatherError where no plan can be made.
    """
    tree = register.tree(session, tree_id)
    made, i = _prepared(session, tree, 0)
    row, followed = made.loaded.trees[i], store.in_force(session, tree.site_id, made.loaded.today, [tree.id])
    chosen = followed.get(tree.id)
    spans = seasons(made, i)
    return {
        "tree": tree, "seasons": spans, "usual": usual(row, made.loaded.today),
        "in_force": chosen,
        "wicked": row.method == "wicked", "site_trees": len(register_store.all_trees(session, tree.site_id)),
        "stop_id": tree.stop_id,
        "stop_trees": len(register_store.at_stop(session, tree.stop_id)) if tree.stop_id else 0,
    }  # fmt: skip


def usual(row: TreeFacts, today: date) -> list[Routine]:
    """Each school's routine with the figures that it usually has: litres a watering and a week by the caliper, as
    extension services give them."""
    said = {rule.key: rule for rule in book_rules.rules(row.caliper_m, (today - row.planted_on).days)}
    each, weekly = said["uf"], said["csu"]
    litres = float(max(1, round((each.litres_low + each.litres_high) / 2)))
    weekly_l = float(max(1, round(weekly.litres_low)))
    given: dict[str, dict[str, Any]] = {
        "fixed": {"litres": litres, "every_days": int(USUAL["every_days"])}, "taper": {"litres": litres},
        "heat": {"litres": USUAL["heat_l"]}, "rainfall": {"mm": USUAL["mm"]},
        "slow_hose": {"flow_l_per_h": USUAL["flow_l_per_h"], "hours": USUAL["hours"]},
        "deep": {"every_days": int(USUAL["deep_days"])}, "bare_root": {"litres": weekly_l},
        "when_dry": {"limit": USUAL["dry"]},
    }  # fmt: skip
    return [Routine(name, **given.get(name, {})) for name in ROUTINES]


def seasons(made: Prepared, i: int) -> list[SeasonSpan]:
    """The seasons of a tree: the days ahead, the last half year, every stored year."""
    known, today = made.known, made.loaded.today
    at, dates = known.index(today), known.dates
    found = [SeasonSpan(AHEAD, today, dates[-1].item())]
    opened = max(0, known.index(made.loaded.trees[i].opened_on), at - PAST_DAYS)
    if at - opened >= LEAST_DAYS:
        found.append(SeasonSpan(PAST, dates[opened].item(), today - timedelta(days=1)))
    south = made.loaded.site.latitude_deg < 0
    for year in range(today.year, dates[0].item().year - 1, -1):
        first, last = date(year, 7 if south else 1, 1), date(year + south, 6 if south else 12, 30 if south else 31)
        a, b = known.index(first), known.index(last) + 1
        if a >= 0 and b <= at and np.mean(known.basis[a:b] == MEASURED) >= MOSTLY_MEASURED:
            found.append(SeasonSpan(f"{year}", first, last))
    return found


def rehearse(
    session: Session, tree_id: UUID, season: str, asked: Sequence[Routine], stock_size_id: UUID | None = None
) -> Rehearsal:
    """A tree's season under each of these routines, in their order. stock_size_id: as a tree of this size, planted when
    the season begins. Raises InputError for a season that it hasn't, NoWeatherError where no plan can be made."""
    if not 0 < len(asked) <= MOST_ROUTINES:
        raise InputError(f"must be 1 to {MOST_ROUTINES} routines", "routines")
    for number, routine in enumerate(asked):
        routines.check(routine, f"routines[{number}].")
    tree = register.tree(session, tree_id)
    if tree.method == "wicked":
        raise InputError("a box with wicks waters by itself: there is nothing to rehearse", "tree_id")
    size = session.get(StockSize, stock_size_id) if stock_size_id is not None else None
    if stock_size_id is not None and size is None:
        raise NotFoundError("there is no such size", "stock_size_id")
    stage = _staged(session, tree, season, size)
    plan = _run(stage, asked)
    limit = float(stage.season.trees.dryness_limit[0])
    return _told(stage, tree, asked, plan, limit)


def _prepared(session: Session, tree: Tree, history_days: int) -> tuple[Prepared, int]:
    made = planned.prepare(session, tree.site, [tree.id], history_days)
    if made is None:
        raise NoWeatherError("no plan can be made for it yet", "tree_id")
    return made, next(i for i, row in enumerate(made.loaded.trees) if row.id == tree.id)


def _staged(session: Session, tree: Tree, season: str, size: StockSize | None) -> _Stage:
    made, i = _prepared(session, tree, 0)
    spans = {one.key: one for one in seasons(made, i)}
    if season not in spans:
        raise InputError(f"must be one of {', '.join(spans)}, not {season!r}", "season")
    span = spans[season]
    row = made.loaded.trees[i]
    if size is not None or row.opened_on > span.first:
        return _as_planted(made, row if size is None else _of_size(row, size), i, span)
    if season != AHEAD:
        made, i = _prepared(session, tree, (made.loaded.today - span.first).days)
    course, first = made.run.course, made.cut.index(span.first)
    if season != AHEAD:
        open_days = days.with_days_off(made.cut, made.loaded.site.working_days, span.first).workable
        course = course.rehearsed(first, made.cut.index(span.last) + 1, open_days)
    whole = Season(made.run.trees, made.run.opening, course, made.run.eras)
    return _stage(span, whole.of_some(np.array([i])), made, made.deliveries[i], as_planted=False)


def _of_size(row: TreeFacts, size: StockSize) -> TreeFacts:
    """The tree as one of a size of stock."""
    return replace(
        row, kind=size.kind, caliper_m=size.caliper_m, ball_diameter_m=size.ball_diameter_m,
        ball_height_m=size.ball_height_m, ball_volume_l=None, crown_diameter_m=None, drip_ball_share=None,
        drip_profile_m2=None, drip_emitters=None,
    )  # fmt: skip


def _as_planted(made: Prepared, row: TreeFacts, i: int, span: SeasonSpan) -> _Stage:
    """The tree as if it were planted when the season begins, full, watered as now."""
    known, site = made.known, made.loaded.site
    first, end = known.index(span.first), known.index(span.last) + 1
    cut = days.cut(known, first)
    cut = cut.days(0, end - first)
    cut = days.with_days_off(cut, site.working_days, span.first)
    row = replace(row, planted_on=span.first, opened_on=span.first)
    found = describe.describe(row, site, made.loaded.soil, span.first)
    trees = tree_model.build([found.spec])
    leaf, depth = days.leaf_and_mulch([row], cut, {}, {})
    zero = np.zeros_like(leaf)
    course = Course.of(cut, leaf, depth, zero, zero, np.zeros(1, bool), 0)
    eras = ways_of_water.eras_of(site, [row], [found], {}, cut, made.loaded.soil.soil.intake_mm_h)
    full = np.ones(1)
    state = opening_state(trees, eras[0].reach, trees.ball_radius_m.copy(), full, full, np.zeros(1, bool))
    season = Season(trees, Opening.of_all(state, fresh=True), course, (eras[-1],))
    return _stage(span, season, made, found.how, as_planted=True)


def _stage(span: SeasonSpan, season: Season, made: Prepared, how: Delivery, *, as_planted: bool) -> _Stage:
    return _Stage(span, season, made.known, how, made.loaded.soil.soil.intake_mm_h, as_planted)


def _run(stage: _Stage, asked: Sequence[Routine]) -> Plan:
    """All routines at once, each a copy of the tree; then the balance and none, to compare with."""
    every = [*asked, Routine("balance"), Routine("none")]
    season = stage.season.of_some(np.zeros(len(every), int))
    eras = tuple(
        Era(era.since, era.reach, replace(era.pouring, line=None, flow_l_per_h=None)) for era in season.eras
    )  # fmt: skip
    today = season.course.today
    since = stage.known.index(stage.span.first)
    sky = sky_since(stage.known, since, season.course.leaf[today:, 0])
    followed = tuple(
        Followed(routine, today, sky, np.array([column]))
        for column, routine in enumerate(every)
        if routine.name != "balance"
    )
    return Run(season.trees, season.opening, season.course, eras, followed=followed).plan(keep_days=True)


def _told(stage: _Stage, tree: Tree, asked: Sequence[Routine], plan: Plan, limit: float) -> Rehearsal:
    today = stage.season.course.today
    dates = [stage.span.first + timedelta(days=n) for n in range(len(plan.days))]
    gross = np.nan_to_num(plan.visit_gross_l[today:])
    found = Seasons.of_days(
        dates, [day.passed.morning.weather.leaf for day in plan.days], list(gross), [day.moved for day in plan.days],
        [day.passed.morning.ground for day in plan.days],
    )  # fmt: skip
    *judged, balance = core.judge(found, [*(routine.name for routine in asked), "balance"])
    rain = stage.season.course.rain_mm[today:, 0]
    told = []
    for column, (routine, season) in enumerate(zip(asked, judged, strict=True)):
        hours = sum(_standing_h(stage, routine, float(litres)) for litres in gross[:, column] if litres > 0)
        told.append(OneRoutine(
            routine, season, core.fit(season, balance), season.gross_l - balance.gross_l, hours,
            load.cost(tree.site.water_price_per_m3, tree.site.hour_price, season.gross_l, hours),
            float(plan.root_radius_m[-1, column]), tuple(map(float, plan.dryness[today:, column])),
            tuple(map(float, gross[:, column])),
        ))  # fmt: skip
    return Rehearsal(tree, stage.span, stage.as_planted, tuple(dates), tuple(map(float, rain)), limit, tuple(told))


def _standing_h(stage: _Stage, routine: Routine, litres: float) -> float:
    """Hours that someone stands by while so much is poured; a trickle is left to run."""
    if routine.name == "slow_hose":
        return float(load.visit_min(True, 0.0)) / 60
    radius = float(stage.season.trees.ball_radius_m[0])
    pour = delivery.pour(stage.how, litres, radius, stage.intake_mm_h, delivery.METRIC_STEP_L)
    return float(load.visit_min(load.runs_alone(stage.how.method, False), pour.run_min)) / 60
