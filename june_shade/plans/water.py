"""The plan of a site's trees: log and weather in, dryness, due days, litres and minutes out.

Computed days are cached, one state a tree each week and yesterday's; a plan restarts from the newest one left.
"""

from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import date, timedelta
from functools import cached_property
from typing import Any
from uuid import UUID

import numpy as np
from sqlalchemy.orm import Session

from june_shade.core.errors import NoWeatherError
from june_shade.core.mulch.materials import material
from june_shade.core.mulch.wasting import DAYS_A_YEAR, depth_share, wasted_depth_m
from june_shade.core.soil.in_force import InForce
from june_shade.core.soil.textures import Soil
from june_shade.core.stock import balls
from june_shade.core.water import delivery, explain, planner
from june_shade.core.water import trees as tree_model
from june_shade.core.water.balance import ROOT_GROWTH_M_PER_DAY, State, Trees, growth_factor
from june_shade.core.water.delivery import Delivery, Pour
from june_shade.core.weather import series as weather_series
from june_shade.core.weather.series import Series
from june_shade.core.working import Line
from june_shade.plans import clock
from june_shade.plans import ground as grounds
from june_shade.plans import weather as weather_plans
from june_shade.plans.describe import facts_of, spec_of
from june_shade.store import log as log_store
from june_shade.store import mulch as mulch_store
from june_shade.store import trees as store
from june_shade.store.tables import Site

HISTORY_DAYS = 30
GROWN_KS = 0.9
"""Roots of a tree entered late are grown from its planting day at this uptake (calibrated)."""
WEEK = 7
LITTLE_OF_A_YEAR = 300
ESTABLISHING_DAYS = 3 * 365
"""How far ahead the day is looked for on which a tree stands on its own."""
FIRST_SEASON_DAYS = 300
"""So long after planting bare-root stock is in its first season, whose leaves wait for a logged bud break."""


@dataclass(frozen=True)
class SitePlan:
    """A site's plan: its rows in stop order, the arrays of the core, and what is needed to explain them.

    known: all days of the site. series: those that were run or asked for, with the days that nobody works closed;
    positions in the plan are positions there.
    """

    site: Site
    soil: Soil
    today: date
    known: Series
    series: Series
    rows: Sequence[Any]
    trees: Trees
    deliveries: tuple[Delivery, ...]
    pouring: planner.Pouring
    season: planner.Season
    plan: planner.Plan

    def index_of(self, tree_id: UUID) -> int:
        """Position of a tree in the arrays."""
        return next(i for i, row in enumerate(self.rows) if row.id == tree_id)

    def day(self, index: int) -> date | None:
        """Date of a position in the series, None for -1."""
        return self.series.dates[index].item() if index >= 0 else None

    def on_a_line(self, i: int) -> bool:
        """Whether tree i gets its water from a valve that it shares."""
        line = self.pouring.line
        return line is not None and bool(line[i] >= 0)

    @cached_property
    def roots_ahead_m(self) -> np.ndarray:
        """How far roots grow [m] by the end of each coming day, three years of them, at last year's temperatures."""
        pace = ROOT_GROWTH_M_PER_DAY * GROWN_KS * growth_factor(self.known.tmean_c[-365:])
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


@dataclass(frozen=True, slots=True)
class Visit:
    """One planned watering of one tree.

    day; exact litres; what to pour in metric steps and in half gallons; depth [m] to which a rod slides after;
    net litres; late: days it has been due; flags as in the core's plan.
    """

    day: date
    gross_l: float
    net_l: float
    metric: Pour
    us: Pour
    proof_depth_m: float


def plan_site(
    session: Session,
    site: Site,
    *,
    tree_ids: Sequence[UUID] | None = None,
    history_days: int = 0,
    keep_mornings: bool = False,
    use_cache: bool = True,
    ground: InForce | None = None,
) -> SitePlan | None:
    """Run a site's trees from their newest known state to 14 days ahead; None where there are no trees.

    tree_ids: some trees only, with all that share a line with them, since a line waters everyone on it.

    history_days: how many past days the caller wants to see. ground: another soil than the one in force, to see what it
    would change; only without the cache. Writes the cache; the caller commits.
    """
    store.lock_site(session, site.id, exclusive=False)
    today = clock.today(session, site.timezone)
    if tree_ids is not None:
        tree_ids = store.line_mates(session, tree_ids)
    rows = store.plan_rows(session, site.id, tree_ids)
    if not rows:
        return None
    assert ground is None or not use_cache
    found = ground or grounds.in_force(session, site)
    facts = facts_of(site)
    until = today - timedelta(days=1 + history_days)
    states = store.newest_states(session, site.id, until, tree_ids) if use_cache else {}
    starts = [states[r.id].day + timedelta(days=1) if r.id in states else min(r.opened_on, today) for r in rows]
    series = weather_plans.site_series(session, site, min(starts), today)
    first = max(0, min(series.index(min(starts)), series.index(today) - history_days))

    specs, deliveries = zip(*(spec_of(row, facts, found, today) for row in rows), strict=True)
    trees = tree_model.build(specs)
    cut = _with_days_off(_cut(series, first), site.working_days, today)
    opening = _opening(rows, [states.get(row.id) for row in rows], starts, trees, series, first)
    pouring = _pouring(rows, deliveries)
    breaks = log_store.bud_breaks(session, site.id)
    season = _season(session, site, rows, tree_ids, cut, deliveries, pouring, breaks, series.index(today) - first)
    yesterday = season.today - 1
    weekly = {i for i in range(season.today) if cut.dates[i].item().toordinal() % WEEK == 0}
    wanted = frozenset({*weekly, yesterday} - {-1})
    plan = planner.run(trees, opening, season, pouring, keep_mornings=keep_mornings, checkpoint_days=wanted)
    made = SitePlan(site, found.soil, today, series, cut, rows, trees, tuple(deliveries), pouring, season, plan)
    if use_cache:
        _save_states(session, made, states, opening)
    return made


def _cut(series: Series, first: int) -> Series:
    """The series from a position on."""
    return Series(*(getattr(series, name)[first:] for name in Series.__dataclass_fields__))


def _with_days_off(series: Series, working_days: Sequence[int], today: date) -> Series:
    """The series with the days from today on that nobody works (Monday 0) closed for visits."""
    weekday = (series.dates.astype("datetime64[D]").astype(int) + 3) % 7  # 1970-01-01 was a Thursday
    works = np.isin(weekday, working_days) | (series.dates < np.datetime64(today, "D"))
    return replace(series, workable=series.workable & works)


def _positions(series: Series, days) -> np.ndarray:
    """Positions of dates in the series; they may lie outside."""
    base = series.dates[0].item().toordinal()
    return np.array([day.toordinal() - base for day in days])


def _opening(rows, states, starts, trees, series, first) -> planner.Opening:
    """Where each tree begins: its cached state (None where there is none), else its opening day."""
    cached = np.array([state is not None for state in states])
    wetness = [
        np.array([1.0 if value is None else value for value in (getattr(row, name) for row in rows)])
        for name in ("ball_wetness", "ring_wetness")
    ]
    guessed = np.array([row.opening == "guessed" for row in rows])
    earlier = np.array([row.opened_on > row.planted_on for row in rows])
    radius = _root_radius_at_opening(rows, trees, series)
    opened = planner.opening_state(trees, radius, wetness[0], wetness[1], guessed, earlier)
    late, reservoir = np.zeros(len(rows), int), np.zeros(len(rows))
    if cached.any():
        columns = store.STATE_COLUMNS
        nothing = (0.0,) * len(columns)
        known = np.array([nothing if state is None else state[-len(columns) :] for state in states], dtype=float).T
        late = known[columns.index("late_days")].astype(int)
        reservoir = known[columns.index("reservoir_l")]
        opened = State(
            *(np.where(cached, known[columns.index(n)], getattr(opened, n)) for n in State.__dataclass_fields__)
        )
        opened = replace(opened, soggy=opened.soggy.astype(bool))
    return planner.Opening(_positions(series, starts) - first, opened, ~cached, late, reservoir)


def _root_radius_at_opening(rows, trees, series) -> np.ndarray:
    """Root radius [m] on each opening day: the ball's, or grown since planting for trees entered later.

    Days before the first one known are taken like the year that follows it.
    """
    grown = np.concatenate([[0.0], np.cumsum(growth_factor(series.tmean_c))])
    start = _positions(series, (row.planted_on for row in rows))
    end = np.clip(_positions(series, (row.opened_on for row in rows)), 0, len(series))
    year = min(len(series), 365)
    days = grown[end] - grown[np.clip(start, 0, end)] + np.maximum(0, -start) * grown[year] / year
    return np.minimum(trees.established_radius_m, trees.ball_radius_m + ROOT_GROWTH_M_PER_DAY * GROWN_KS * days)


def _season(session, site, rows, tree_ids, cut, deliveries, pouring, breaks, today: int) -> planner.Season:
    leaf = np.repeat(cut.leaf[:, None], len(rows), axis=1)
    depth = np.zeros((len(cut), len(rows)))
    depths: dict[tuple, np.ndarray] = {}
    recorded = mulch_store.depths(session, site.id)
    by_dates: dict[tuple, np.ndarray] = {}
    for i, row in enumerate(rows):
        if row.evergreen:
            leaf[:, i] = 1.0
        else:
            dates = (row.leaf_out, row.leaf_fall)
            if dates not in by_dates:
                by_dates[dates] = weather_series.leaf_by_dates(cut.dates, *dates) if all(dates) else cut.leaf
            leaf[:, i] = _leaf(row, cut, by_dates[dates], row.bud_break_on or breaks.get(row.id))
        if row.id in recorded:
            depth[:, i] = _recorded_depth_share(cut, row, recorded[row.id])
        elif row.mulch_material and row.mulch_depth_m > 0:
            key = (row.mulch_measured_on or row.opened_on, row.mulch_material, row.mulch_depth_m, None)
            if key not in depths:
                depths[key] = mulch_depth_share(cut, *key)
            depth[:, i] = depths[key]
    first_net, second_net = np.zeros_like(depth), np.zeros_like(depth)
    poured_today = np.zeros(len(rows), bool)
    _lay_in_log(session, site, rows, tree_ids, cut, pouring, depth, first_net, second_net, poured_today, today)
    return planner.Season(cut, leaf, depth, first_net, second_net, poured_today, today)


def _leaf(row, cut: Series, leaf: np.ndarray, bud_break: date | None) -> np.ndarray:
    """Leaf of a tree that drops it; bare-root stock waits for its own bud break in its first season."""
    if row.kind != "bare_root":
        return leaf
    since_planting = (cut.dates - np.datetime64(row.planted_on, "D")).astype(int)
    waiting = np.minimum(leaf, weather_series.leaf_after_bud_break(cut.dates, bud_break))
    return np.where(since_planting < FIRST_SEASON_DAYS, waiting, leaf)


def awaits_bud_break(session: Session, row: Any, today: date) -> bool:
    """Whether a bare-root tree of its first season has shown no broken buds yet."""
    if row.kind != "bare_root" or row.bud_break_on or (today - row.planted_on).days >= FIRST_SEASON_DAYS:
        return False
    return row.id not in log_store.bud_breaks(session, row.site_id)


def mulch_depth_share(
    cut: Series, measured: date, name: str | None, depth_m: float, own_years: float | None
) -> np.ndarray:
    """How much of a full cover is there each day, wasting since it was measured; own_years: the tree's own pace."""
    if name is None:
        return np.zeros(len(cut))
    years = (cut.dates - np.datetime64(measured, "D")).astype(float) / DAYS_A_YEAR
    return depth_share(wasted_depth_m(depth_m, years, own_years or material(name).wasting_years or np.inf))


def _recorded_depth_share(cut: Series, row: Any, entries: Sequence[Any]) -> np.ndarray:
    """The same for a tree whose mulch was laid and measured on days of its record: each goes until the next."""
    before, own = entries[0].before, row.mulch_wasting_years
    measured = date.fromisoformat(before["mulch_measured_on"]) if before.get("mulch_measured_on") else row.opened_on
    share = mulch_depth_share(cut, measured, before.get("mulch_material"), before.get("mulch_depth_m") or 0.0, None)
    said = [(entry.day, entry.material, entry.depth_m) for entry in entries]
    if row.mulch_measured_on is not None and row.mulch_measured_on > said[-1][0]:  # typed anew since
        said.append((row.mulch_measured_on, row.mulch_material, row.mulch_depth_m))
    for day, name, depth_m in said:
        later = cut.dates >= np.datetime64(day, "D")
        share = np.where(later, mulch_depth_share(cut, day, name, depth_m, own), share)
    return share


def _losses(rows, deliveries) -> list[float]:
    return [
        float(
            delivery.mulch_loss_l(
                how, balls.radius_m(row.kind, row.ball_diameter_m), row.mulch_outer_radius_m or 0.0, 1.0
            )
        )
        if row.mulch_material
        else 0.0
        for row, how in zip(rows, deliveries, strict=True)
    ]


def _lay_in_log(session, site, rows, tree_ids, cut, pouring, depth, first_net, second_net, poured, today: int):
    """Logged water as net litres on the day each counts for; fills the arrays handed in."""
    at = {row.id: i for i, row in enumerate(rows)}
    arrives, loss = pouring.efficiency * (1.0 - pouring.leaching), pouring.loss_l
    first_day = cut.dates[0].item().toordinal()
    local_today = cut.dates[today].item()
    morning: set[tuple[UUID, date]] = set()
    for entry in log_store.water(session, site.id, cut.dates[0].item() - timedelta(days=1), tree_ids):
        i = at[entry.tree_id]
        minute = entry.local_time.hour * 60 + entry.local_time.minute
        key = (entry.tree_id, entry.local_date)
        days_later, second = planner.days_counted(minute, key in morning)
        if minute < planner.EVENING_MINUTE:
            morning.add(key)
        if entry.local_date == local_today:
            poured[i] = True
        day = entry.local_date.toordinal() + days_later - first_day
        if 0 <= day < len(cut):
            net = float(delivery.net_l(entry.volume_l, arrives[i], loss[i] * depth[day, i]))
            (second_net if second else first_net)[day, i] += net


def _pouring(rows, deliveries) -> planner.Pouring:
    pairs = list(zip(rows, deliveries, strict=True))
    sharing = Counter(row.line_id for row, how in pairs if row.line_id and how.on_a_valve)
    numbers = {key: number for number, (key, trees) in enumerate(sharing.items()) if trees > 1}
    return planner.Pouring(
        efficiency=np.array([delivery.efficiency(how.method) for how in deliveries]),
        leaching=np.array([how.leaching for how in deliveries]),
        step_l=np.array([how.step_l or delivery.METRIC_STEP_L for how in deliveries]),
        loss_l=np.array(_losses(rows, deliveries)),
        line=np.array([numbers.get(row.line_id, -1) if how.on_a_valve else -1 for row, how in pairs]),
        flow_l_h=np.array([delivery.flow_l_h(how) for how in deliveries]),
        reservoir_l=np.array([how.reservoir_l for how in deliveries]),
    )


def _save_states(session, made: SitePlan, states, opening) -> None:
    """Cache what the run computed of the past: yesterday and once a week, where it is not there already."""
    rows = []
    for day, (state, late, reservoir) in made.plan.checkpoints.items():
        date_of = made.series.dates[day].item()
        arrays = [getattr(state, name).tolist() for name in State.__dataclass_fields__]
        late_days, index, boxes = late.tolist(), opening.index.tolist(), reservoir.tolist()
        for i, row in enumerate(made.rows):
            known = states.get(row.id)
            if index[i] <= day and (known is None or known.day < date_of):
                rows.append((row.id, date_of, *(a[i] for a in arrays), late_days[i], boxes[i]))
    if rows:
        store.save_states(session, rows)


def visit_on(made: SitePlan, i: int, day: int) -> Visit:
    """The watering planned for tree i on a day of the series."""
    how, gross = made.deliveries[i], float(made.plan.visit_gross_l[day, i])
    radius, intake = float(made.trees.ball_radius_m[i]), made.soil.intake_mm_h
    if made.on_a_line(i):
        metric = us = delivery.run(how, 60.0 * gross / delivery.flow_l_h(how), radius, intake)
    else:
        metric = delivery.pour(how, gross, radius, intake, delivery.METRIC_STEP_L)
        us = delivery.pour(how, gross, radius, intake, delivery.US_STEP_L)
    return Visit(
        day=made.series.dates[day].item(),
        gross_l=gross,
        net_l=float(made.plan.visit_net_l[day, i]),
        metric=metric,
        us=us,
        proof_depth_m=float(made.plan.now_ground.root_depth_m[i]),
    )


def working(made: SitePlan, i: int) -> tuple[Line, ...]:
    """The sum behind the next visit of tree i, or of its state today where no visit is in sight.

    Needs a plan made with keep_mornings.
    """
    if not made.plan.mornings:
        raise NoWeatherError("the working needs a plan that kept its mornings", "tree")
    day = int(made.plan.visit[i])
    trees, morning = explain.of_one(made.trees, made.plan.mornings[max(0, day - made.season.today)], i)
    lines = explain.stores(trees, morning) + explain.demand(trees, morning)
    if day < 0:
        return lines
    chosen = visit_on(made, i, day)
    loss = float(made.pouring.loss_l[i] * made.season.mulch_depth_share[day, i])
    on_a_line = made.on_a_line(i)
    return lines + explain.visit(
        trees,
        morning,
        made.deliveries[i],
        chosen.metric,
        chosen.gross_l,
        loss,
        made.soil.intake_mm_h,
        line_run=on_a_line,
    )
