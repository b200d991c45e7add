"""The plan of a site's trees: log and weather in, dryness, due days, litres and minutes out.

Computed days are cached, one state a tree each week and yesterday's; a plan restarts from the newest one left.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from typing import Any
from uuid import UUID

import numpy as np
from sqlalchemy.orm import Session

from june_shade.core.errors import NoWeatherError
from june_shade.core.mulch import ring
from june_shade.core.soil.textures import Soil, soil
from june_shade.core.stock import balls, plants
from june_shade.core.water import delivery, explain, planner
from june_shade.core.water import trees as tree_model
from june_shade.core.water.balance import ROOT_GROWTH_M_PER_DAY, State, Trees, growth_factor
from june_shade.core.water.delivery import Delivery, Pour
from june_shade.core.weather import series as weather_series
from june_shade.core.weather.series import Series
from june_shade.core.working import Line
from june_shade.plans import clock
from june_shade.plans import weather as weather_plans
from june_shade.store import log as log_store
from june_shade.store import trees as store
from june_shade.store.tables import Site

HISTORY_DAYS = 30
GROWN_KS = 0.9
"""Roots of a tree entered late are grown from its planting day at this uptake (calibrated)."""
WEEK = 7


@dataclass(frozen=True)
class SitePlan:
    """A site's plan: its rows in stop order, the arrays of the core, and what is needed to explain them.

    known: all days of the site. series: those that were run or asked for; positions in the plan are positions there.
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


def spec_of(row: Any, site: Site, ground: Soil) -> tuple[tree_model.TreeSpec, Delivery]:
    """The core's description of a stored tree and of how it is poured."""
    radius = row.ball_diameter_m / 2
    how = Delivery(
        method=row.method,
        flow_l_h=site.hose_flow_l_per_h,
        basin_diameter_m=row.basin_diameter_m,
        basin_depth_m=row.basin_depth_m,
        bag_capacity_l=row.bag_capacity_l,
        emitters=row.emitter_count,
        emitter_flow_l_h=row.emitter_flow_l_per_h,
        step_l=site.pour_step_l,
    )
    medium = balls.medium(row.kind, ground)
    volume = row.ball_volume_l or balls.ball_volume_l(medium.shape_k, radius, row.ball_height_m)
    mulched = row.mulch_material is not None and row.mulch_outer_radius_m is not None
    floor = plants.NEW_PLANT_FACTOR_HUMID if site.climate == "humid" else plants.NEW_PLANT_FACTOR
    crown = row.crown_diameter_m
    spec = tree_model.TreeSpec(
        kind=row.kind,
        caliper_m=row.caliper_m,
        ball_diameter_m=row.ball_diameter_m,
        ball_height_m=row.ball_height_m,
        ball_volume_l=row.ball_volume_l,
        crown_diameter_m=balls.crown_diameter_from_caliper_m(row.caliper_m) if crown is None else crown,
        soil=ground,
        plant_factor=plants.plant_factor(row.water_need),
        new_plant_factor=floor,
        microclimate=row.microclimate,
        root_depth_max_m=site.root_depth_max_m,
        basin_diameter_m=row.basin_diameter_m,
        mulch_outer_radius_m=row.mulch_outer_radius_m if mulched else 0.0,
        mulch_gap_radius_m=row.caliper_m / 2 + ring.CLEAR_GAP_M if mulched else 0.0,
        surround=row.surround,
        ball_share=delivery.ball_share(how, radius, row.kind, ground.ks_mm_h, medium.awc * volume),
    )
    return spec, how


def plan_site(
    session: Session,
    site: Site,
    *,
    tree_ids: Sequence[UUID] | None = None,
    history_days: int = 0,
    keep_mornings: bool = False,
    use_cache: bool = True,
) -> SitePlan | None:
    """Run a site's trees from their newest known state to 14 days ahead; None where there are no trees.

    history_days: how many past days the caller wants to see. Writes the cache; the caller commits.
    """
    store.lock_site(session, site.id, exclusive=False)
    today = clock.today(session, site.timezone)
    rows = store.plan_rows(session, site.id, tree_ids)
    if not rows:
        return None
    ground = soil(site.texture)
    until = today - timedelta(days=1 + history_days)
    states = store.newest_states(session, site.id, until, tree_ids) if use_cache else {}
    starts = [states[r.id].day + timedelta(days=1) if r.id in states else min(r.opened_on, today) for r in rows]
    series = weather_plans.site_series(session, site, min(starts), today)
    first = max(0, min(series.index(min(starts)), series.index(today) - history_days))

    specs, deliveries = zip(*(spec_of(row, site, ground) for row in rows), strict=True)
    trees = tree_model.build(specs)
    cut = _cut(series, first)
    opening = _opening(rows, states, starts, trees, series, first)
    season = _season(session, site, rows, tree_ids, cut, trees, deliveries, series, first, today)
    pouring = _pouring(rows, deliveries)
    yesterday = season.today - 1
    weekly = {i for i in range(season.today) if cut.dates[i].item().toordinal() % WEEK == 0}
    wanted = frozenset({*weekly, yesterday} - {-1})
    plan = planner.run(trees, opening, season, pouring, keep_mornings=keep_mornings, checkpoint_days=wanted)
    made = SitePlan(site, ground, today, series, cut, rows, trees, tuple(deliveries), pouring, season, plan)
    if use_cache:
        _save_states(session, made, states, opening)
    return made


def _cut(series: Series, first: int) -> Series:
    """The series from a position on."""
    return Series(*(getattr(series, name)[first:] for name in Series.__dataclass_fields__))


def _opening(rows, states, starts, trees, series, first) -> planner.Opening:
    """Where each tree begins: its cached state, else its opening day."""
    cached = np.array([row.id in states for row in rows])
    radius = np.array([_root_radius_at_opening(row, i, trees, series) for i, row in enumerate(rows)])
    wetness = [
        np.array([1.0 if value is None else value for value in (getattr(row, name) for row in rows)])
        for name in ("ball_wetness", "ring_wetness")
    ]
    guessed = np.array([row.opening == "guessed" for row in rows])
    earlier = np.array([row.opened_on > row.planted_on for row in rows])
    opened = planner.opening_state(trees, radius, wetness[0], wetness[1], guessed, earlier)
    if cached.any():
        names = State.__dataclass_fields__
        known = State(*(np.array([getattr(states[r.id], n) if r.id in states else 0 for r in rows]) for n in names))
        opened = State(*(np.where(cached, getattr(known, n), getattr(opened, n)) for n in names))
    late = np.array([states[row.id].late_days if row.id in states else 0 for row in rows])
    index = np.array([series.index(day) - first for day in starts])
    return planner.Opening(index, opened, ~cached, late)


def _root_radius_at_opening(row, i, trees, series) -> float:
    """Root radius [m] on the opening day: the ball's, or grown since planting for a tree entered later."""
    start, end = series.index(row.planted_on), series.index(row.opened_on)
    radius = float(trees.ball_radius_m[i])
    if end <= start:
        return radius
    known = series.tmean_c[max(0, start) : end]
    grown = float(np.sum(growth_factor(known)))
    if start < 0:  # planted before the first day known: a year of the days there are stands in for each before
        year = series.tmean_c[: min(len(series), 365)]
        grown += -start * float(np.mean(growth_factor(year)))
    per_day = ROOT_GROWTH_M_PER_DAY * GROWN_KS
    return min(float(trees.established_radius_m[i]), radius + per_day * grown)


def _season(session, site, rows, tree_ids, cut, trees, deliveries, series, first, today) -> planner.Season:
    count, days = len(rows), len(cut)
    leaf = np.empty((days, count))
    depth = np.zeros((days, count))
    since_measured: dict[date, np.ndarray] = {}
    for i, row in enumerate(rows):
        leaf[:, i] = 1.0 if row.evergreen else cut.leaf
        if row.kind == "bare_root" and not row.evergreen and (today - row.planted_on).days < 300:
            leaf[:, i] = np.minimum(leaf[:, i], weather_series.leaf_after_bud_break(cut.dates, row.bud_break_on))
        if row.mulch_material and row.mulch_depth_m > 0:
            measured = row.mulch_measured_on or row.opened_on
            if measured not in since_measured:
                since_measured[measured] = (cut.dates - np.datetime64(measured, "D")).astype(float) / 365.25
            years = ring.material(row.mulch_material).wasting_years or np.inf
            depth[:, i] = ring.depth_share(ring.wasted_depth_m(row.mulch_depth_m, since_measured[measured], years))
    first_net, second_net = np.zeros((days, count)), np.zeros((days, count))
    poured_today = np.zeros(count, bool)
    loss = _losses(rows, deliveries)
    _lay_in_log(session, site, rows, tree_ids, cut, deliveries, loss, depth, first_net, second_net, poured_today, today)
    return planner.Season(cut, leaf, depth, first_net, second_net, poured_today, series.index(today) - first)


def _losses(rows, deliveries) -> list[float]:
    return [
        float(delivery.mulch_loss_l(how, row.ball_diameter_m / 2, row.mulch_outer_radius_m or 0.0, 1.0))
        if row.mulch_material
        else 0.0
        for row, how in zip(rows, deliveries, strict=True)
    ]


def _lay_in_log(session, site, rows, tree_ids, cut, deliveries, loss, depth, first_net, second_net, poured, today):
    """Logged water as net litres on the day each counts for; fills the arrays handed in."""
    at = {row.id: i for i, row in enumerate(rows)}
    since = cut.dates[0].item() - timedelta(days=1)
    morning: set[tuple[UUID, date]] = set()
    for entry in log_store.water(session, site.id, since, tree_ids):
        i = at[entry.tree_id]
        minute = entry.local_time.hour * 60 + entry.local_time.minute
        key = (entry.tree_id, entry.local_date)
        counted, second = planner.days_counted(np.datetime64(entry.local_date, "D"), minute, key in morning)
        if minute < planner.EVENING_MINUTE:
            morning.add(key)
        if entry.local_date == today:
            poured[i] = True
        day = cut.index(counted)
        if not 0 <= day < len(cut):
            continue
        arrives = delivery.efficiency(deliveries[i].method)
        net = float(delivery.net_l(entry.volume_l, arrives, loss[i] * depth[day, i]))
        (second_net if second else first_net)[day, i] += net


def _pouring(rows, deliveries) -> planner.Pouring:
    return planner.Pouring(
        efficiency=np.array([delivery.efficiency(how.method) for how in deliveries]),
        leaching=np.zeros(len(rows)),
        step_l=np.array([how.step_l or delivery.METRIC_STEP_L for how in deliveries]),
        loss_l=np.array(_losses(rows, deliveries)),
    )


def _save_states(session, made: SitePlan, states, opening) -> None:
    """Cache what the run computed of the past: yesterday and once a week, where it is not there already."""
    rows = []
    for day, (state, late) in made.plan.checkpoints.items():
        date_of = made.series.dates[day].item()
        arrays = [getattr(state, name).tolist() for name in State.__dataclass_fields__]
        late_days, index = late.tolist(), opening.index.tolist()
        for i, row in enumerate(made.rows):
            known = states.get(row.id)
            if index[i] <= day and (known is None or known.day < date_of):
                rows.append((row.id, date_of, *(a[i] for a in arrays), late_days[i]))
    if rows:
        store.save_states(session, rows)


def visits(made: SitePlan, tree_id: UUID) -> list[Visit]:
    """All planned waterings of a tree, today's first."""
    i = made.index_of(tree_id)
    return [
        visit_on(made, i, day)
        for day in range(made.season.today, len(made.series))
        if made.plan.visit_gross_l[day, i] > 0
    ]


def visit_on(made: SitePlan, i: int, day: int) -> Visit:
    """The watering planned for tree i on a day of the series."""
    how, gross = made.deliveries[i], float(made.plan.visit_gross_l[day, i])
    radius, intake = float(made.trees.ball_radius_m[i]), made.soil.intake_mm_h
    return Visit(
        day=made.series.dates[day].item(),
        gross_l=gross,
        net_l=float(made.plan.visit_net_l[day, i]),
        metric=delivery.pour(how, gross, radius, intake, delivery.METRIC_STEP_L),
        us=delivery.pour(how, gross, radius, intake, delivery.US_STEP_L),
        proof_depth_m=float(made.plan.now_ground.root_depth_m[i]),
    )


def working(made: SitePlan, i: int) -> tuple[Line, ...]:
    """The sum behind the next visit of tree i, or of its state today where no visit is in sight.

    Needs a plan of that tree alone, made with keep_mornings.
    """
    if len(made.rows) != 1 or not made.plan.mornings:
        raise NoWeatherError("the working is made from a plan of one tree", "tree")
    day = int(made.plan.visit[i])
    morning = made.plan.mornings[max(0, day - made.season.today)]
    lines = explain.stores(made.trees, morning) + explain.demand(made.trees, morning)
    if day < 0:
        return lines
    chosen = visit_on(made, i, day)
    loss = float(made.pouring.loss_l[i] * made.season.mulch_depth_share[day, i])
    return lines + explain.visit(
        made.trees, morning, made.deliveries[i], chosen.metric, chosen.gross_l, loss, made.soil.intake_mm_h
    )
