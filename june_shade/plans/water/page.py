"""What the Water page of a tree shows, and of it the round, the register and the drip page: one figure, one place.

Values only, in SI; words, units and drawing are the interface's.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from typing import Any
from uuid import UUID

import numpy as np

from june_shade.core.care import book_rules, cautions
from june_shade.core.care.frost import young_since
from june_shade.core.choosing import harm
from june_shade.core.water import delivery, reach, refill, salts, use
from june_shade.core.water.felt import FAR_ERRORS, FITS_ERRORS, LITTLE, SD
from june_shade.core.water.stores import dryness_sd
from june_shade.core.weather import series as weather_series
from june_shade.plans import describe, forecast, log, register, water
from june_shade.plans.mulch.stands import depth_now_m
from june_shade.plans.water import SitePlan, Visit, remembered
from june_shade.plans.water.log_in import wetness_read
from june_shade.store import choices, routines
from june_shade.store.choice_tables import ProposedMode
from june_shade.store.log_tables import LogEntry
from june_shade.store.planting_tables import Planting
from june_shade.store.session import Session
from june_shade.store.site_tables import Line
from june_shade.store.tree_tables import Tree


@dataclass(frozen=True, slots=True)
class Section:
    """Geometry and fill of the cutaway; available water None where the state is unknown.

    ring_*: the part of the ring that our water reaches, from near_from_m out to near_radius_m; far_*: the rest, which
    only rain reaches.
    reach: share of the uptake that comes from ball and near ring, 0..1.
    """

    caliper_m: float
    crown_diameter_m: float
    ball_radius_m: float
    ball_height_m: float
    kind: str
    root_radius_m: float
    ring_radius_m: float
    root_depth_m: float
    established_radius_m: float
    established_share: float
    established_on: date | None
    basin_diameter_m: float | None
    basin_depth_m: float | None
    mulch_depth_m: float
    mulch_outer_radius_m: float | None
    ball_available_l: float | None
    ball_holds_l: float
    ring_available_l: float | None
    ring_holds_l: float
    far_available_l: float | None
    far_holds_l: float
    near_from_m: float
    near_radius_m: float
    reach: float
    state: str


@dataclass(frozen=True, slots=True)
class Next:
    """The next watering of a tree, how it is poured, and what is wrong with it, if anything. routine: the school's that
    asks for it, None = the balance. ring_from_m, ring_to_m: where round the trunk a tree on its own is watered, None
    else.
    """

    day: date
    method: str
    due_on: date | None
    ready_on: date | None
    late_days: int
    metric: delivery.Pour
    us: delivery.Pour
    proof_depth_m: float
    flags: tuple[str, ...]
    advice: "Advice"
    routine: str | None = None
    ring_from_m: float | None = None
    ring_to_m: float | None = None

    @property
    def largest_l(self) -> float:
        """Litres, whichever unit system they are poured in."""
        return max(self.metric.litres, self.us.litres)


@dataclass(frozen=True, slots=True)
class Advice:
    """What would mend a basin: reach of the water 0..1; how wide it must be to reach the roots, how narrow to waste
    nothing and what a watering takes then; None where nothing is wrong."""

    reach: float
    widen_to_m: float | None
    narrow_to_m: float | None
    narrow_l: float | None


def advice_of(made: SitePlan, i: int) -> Advice:
    """The circle that would serve tree i better, where its own is found too small or too wide."""
    found, g = made.plan.findings, made.plan.now_ground
    reach, widen, narrow, litres = float(g.reach[i]), None, None, None
    if found.outgrown[i]:
        widen = float(refill.width_reaching_m(g, made.trees)[i])
    if found.wide[i]:
        across, net = refill.narrowed(
            made.trees, made.reach, g, made.plan.now, made.course.mulch_depth_share[made.course.today]
        )
        pouring = made.pouring
        gross = delivery.gross_l(net[i], pouring.efficiency[i], pouring.loss_l[i], pouring.leaching[i])
        narrow, litres = float(across[i]), float(gross)
    return Advice(reach, widen, narrow, litres)


@dataclass(frozen=True, slots=True)
class ChartDay:
    """A day on the soil line."""

    day: date
    dryness: float | None
    dryness_sd: float | None
    ks: float | None
    rain_mm: float
    rain_chance: float
    poured_l: float
    planned_l: float
    planned_us_l: float
    eto_mm: float
    basis: str


def _reached_m(made: SitePlan) -> tuple[np.ndarray, np.ndarray]:
    """From and to where our water reaches each tree's ring today [m]; reckoned once a plan."""
    known = made.remembered.get(("reached", 0, 0))
    if known is None:
        known = reach.reached_m(made.trees, made.reach, made.plan.now_ground)
        made.remembered["reached", 0, 0] = known
    return known


def section(made: SitePlan, i: int) -> Section:
    """The cutaway of tree i as it stands today."""
    row, trees, plan, g = made.rows[i], made.trees, made.plan, made.plan.now_ground
    radius = float(plan.now.root_radius_m[i])
    holds = float(trees.ball_taw_l[i]), float(g.near_taw_l[i]), float(g.far_taw_l[i])
    near_from_m, near_to_m = (float(edge[i]) for edge in _reached_m(made))
    return Section(
        caliper_m=row.caliper_m,
        crown_diameter_m=float(2 * np.sqrt(trees.crown_area_m2[i] / np.pi)),
        ball_radius_m=float(trees.ball_radius_m[i]),
        ball_height_m=row.ball_height_m,
        kind=row.kind,
        root_radius_m=radius,
        ring_radius_m=max(radius, float(trees.collar_radius_m[i])),
        root_depth_m=float(g.root_depth_m[i]),
        established_radius_m=float(trees.established_radius_m[i]),
        established_share=float(g.establishment[i]),
        established_on=_established_on(made, i, radius),
        basin_diameter_m=row.basin_diameter_m,
        basin_depth_m=row.basin_depth_m,
        mulch_depth_m=depth_now_m(row, made.today),
        mulch_outer_radius_m=row.mulch_outer_radius_m if row.mulch_material else None,
        ball_available_l=holds[0] - float(plan.now.ball_depletion_l[i]),
        ball_holds_l=holds[0],
        ring_available_l=holds[1] - float(plan.now.near_depletion_l[i]),
        ring_holds_l=holds[1],
        far_available_l=holds[2] - float(plan.now.far_depletion_l[i]),
        far_holds_l=holds[2],
        near_from_m=near_from_m,
        near_radius_m=near_to_m,
        reach=float(g.reach[i]),
        state=state_of(made, i),
    )


def state_of(made: SitePlan, i: int) -> str:
    """How tree i stands today, in one word of a closed list."""
    plan, today = made.plan, made.course.today
    if plan.visit[i] == today:
        return "late" if plan.late_days[i] > 0 else "due"
    if plan.due[i] == today and not made.course.poured_today[i]:
        return "waits"
    if today > 0 and plan.soggy[today - 1, i]:
        return "too_wet"
    return "ready" if plan.ready[i] == today and not made.course.poured_today[i] else "resting"


def _established_on(made: SitePlan, i: int, radius: float) -> date | None:
    """About when the roots reach the established radius, at the pace of the year's own temperatures."""
    left = float(made.trees.established_radius_m[i]) - radius
    if left <= 1e-9:
        return made.today
    days = int(np.searchsorted(made.roots_ahead_m, left))
    return made.today + timedelta(days=days) if days < len(made.roots_ahead_m) else None


def next_of(made: SitePlan, i: int) -> Next | None:
    """The next watering of tree i, None where none is planned within the plan's days."""
    plan, day = made.plan, int(made.plan.visit[i])
    if day < 0:
        return None
    visit: Visit = water.visit_on(made, i, day)
    flags = [
        name
        for name, found in (
            ("ball_not_refilled", plan.findings.capped[i]),
            ("once_is_not_enough", plan.findings.twice[i]),
            ("daily", plan.findings.daily[i]),
            ("dry_ball", plan.findings.dry_ball[i]),
            ("roots_outgrown", plan.findings.outgrown[i]),
            ("basin_wide", plan.findings.wide[i]),
            ("line_too_wet", plan.findings.drowned[i]),
            ("line_too_dry", plan.findings.starved[i]),
            ("slow_ground", plan.findings.slow[i]),
        )
        if bool(found)
    ]
    flags += [flag for flag in drip_flags(made, i) if flag not in flags]
    on_its_own = made.rows[i].handed_on is not None
    roots = float(max(made.trees.established_radius_m[i], made.trees.collar_radius_m[i]))
    return Next(
        day=visit.day,
        method=made.deliveries[i].method,
        due_on=made.day(int(plan.due[i])),
        ready_on=made.day(int(plan.ready[i])),
        late_days=int(plan.late_days[i]) if day == made.course.today else 0,
        metric=visit.metric,
        us=visit.us,
        proof_depth_m=visit.proof_depth_m,
        flags=tuple(flags),
        advice=advice_of(made, i),
        routine=followed.routine.name if (followed := made.routine_of(i)) else None,
        ring_from_m=reach.DEEP_FROM * roots if on_its_own else None,
        ring_to_m=reach.DEEP_TO * roots if on_its_own else None,
    )


LINE_PROBLEMS = {
    "short_supply": "short_supply", "head_low": "low_pressure", "no_head": "low_pressure", "sheet_whole": "sheet_whole",
}  # fmt: skip
"""What the drip of a tree may have wrong, and the flag that says so wherever the tree is shown."""


def drip_flags(made: SitePlan, i: int) -> tuple[str, ...]:
    """What is wrong with the layout of tree i, for a tree that goes by one; whether its ball is dry, as of today."""
    row = made.rows[i]
    if not describe.is_laid(row):
        return ()
    stored = [LINE_PROBLEMS[code] for code in row.drip_problems or () if code in LINE_PROBLEMS]
    return tuple(dict.fromkeys((["dry_ball"] if made.plan.findings.dry_ball[i] else []) + stored))


def day_cautions(made: SitePlan, tender_c: float | None = None, *, traffic: bool = False) -> tuple[str, ...]:
    """Cautions for today at a site. tender_c: from here down frost hurts a young tree there [degC], None = none.

    traffic: the work is beside moving traffic.
    """
    known, at = made.known, made.known.index(made.today)
    methods = {how.method for how in made.deliveries}
    coming = min(at + 1, len(known) - 1)
    tonight_c = float(2 * known.tmean_c[coming] - known.tmax_c[coming])
    return cautions.for_day(
        float(known.tmax_c[at]), bool(known.workable[at]), methods, tmean_c=float(known.tmean_c[at]),
        tonight_c=tonight_c, tender_c=tender_c, traffic=traffic,
    )  # fmt: skip


@dataclass(frozen=True, slots=True)
class LineShare:
    """What one tree of a line gets in its next run."""

    tree_id: UUID
    tag: str
    litres: float


@dataclass(frozen=True, slots=True)
class LineRun:
    """The line a tree is on: its name, how many trees are on it, the one for which it runs next, None = no run soon.

    wants_l: what this tree itself wants then. shares: what every tree on it gets, to be logged together.
    """

    name: str
    trees: int
    neediest_tag: str | None
    run_min: float | None
    wants_l: float
    shares: tuple[LineShare, ...]


@dataclass(frozen=True, slots=True)
class Reservoir:
    """A wicked box: what it holds and has [L], days until it can't give what the tree takes, None = past sight."""

    holds_l: float
    has_l: float
    reserve_days: int | None


def line_of(session: Session, made: SitePlan, i: int) -> LineRun | None:
    """The line tree i shares, None where it has its own."""
    lines = made.pouring.line
    if lines is None or not made.on_a_line(i):
        return None
    name = made.remembered.get(("name", int(lines[i]), 0))
    if name is None:
        name = made.remembered[("name", int(lines[i]), 0)] = session.get_one(Line, made.rows[i].line_id).name
    neediest, day = int(made.plan.neediest[i]), int(made.plan.visit[i])
    run = water.visit_on(made, i, day).metric.run_min if day >= 0 else None
    tag = made.rows[neediest].tag if neediest >= 0 else None
    key = "shares", int(lines[i]), day
    if key not in made.remembered:
        on = np.flatnonzero((lines == lines[i]) & (made.plan.visit_gross_l[day] > 0)) if day >= 0 else ()
        made.remembered[key] = tuple(
            LineShare(made.rows[k].id, made.rows[k].tag, water.visit_on(made, int(k), day).metric.litres) for k in on
        )
    shares: tuple[LineShare, ...] = made.remembered[key]
    return LineRun(name, int(np.sum(lines == lines[i])), tag, run, float(made.plan.own_gross_l[i]), shares)


def reservoir_of(made: SitePlan, i: int) -> Reservoir | None:
    """The wicked box of tree i, None where it has none."""
    holds = made.deliveries[i].reservoir_l
    if holds <= 0:
        return None
    before = made.plan.reservoir_l[made.course.today - 1, i] if made.course.today > 0 else np.nan
    first = int(made.plan.visit[i])
    days = first - made.course.today if first >= 0 else None
    return Reservoir(holds, float(np.nan_to_num(before)), days)


def water_cautions(made: SitePlan, i: int) -> tuple[str, ...]:
    """Cautions for the site's water, and whether it is too salty for tree i."""
    found = salts.judge(made.site.water_source, made.site.water_ec_ds_m, made.site.water_sar)
    beyond = describe.leaching_of(made.rows[i], made.site, made.today).beyond
    return (*found, *(("salt_beyond",) if beyond else ()))


def chart(made: SitePlan, i: int, poured: dict[date, float]) -> list[ChartDay]:
    """The soil line of tree i: 30 days back, 14 ahead."""
    s, plan = made.series, made.plan
    first = max(0, made.course.today - water.HISTORY_DAYS)
    days = []
    for at in range(first, len(s)):
        planned = water.visit_on(made, i, at) if plan.visit_gross_l[at, i] > 0 else None
        known = not np.isnan(plan.dryness[at, i])
        days.append(
            ChartDay(
                day=s.dates[at].item(),
                dryness=float(plan.dryness[at, i]) if known else None,
                dryness_sd=float(plan.dryness_sd[at, i]) if known else None,
                ks=float(plan.ks[at, i]) if known else None,
                rain_mm=float(s.rain_mm[at]),
                rain_chance=1.0 if s.basis[at] == weather_series.MEASURED else float(s.chance[at]),
                poured_l=poured.get(s.dates[at].item(), 0.0),
                planned_l=planned.metric.litres if planned else 0.0,
                planned_us_l=planned.us.litres if planned else 0.0,
                eto_mm=float(s.eto_mm[at]),
                basis=("measured", "forecast", "neighbours", "normals", "recent")[int(s.basis[at])],
            )
        )
    return days


@dataclass(frozen=True, slots=True)
class ReadingShown:
    """What was felt at a tree: the day, ball and soil beside it, how dry that makes it by where it drinks now 0..1, and
    its ball by itself, None where that was not felt. fits_within, far_beyond: off the plan by so much it fits, or is
    far off; little: a plan that it moves by less of the way is surer than it.
    """

    id: UUID
    day: date
    how: str
    ball_feel: str | None
    ring_feel: str | None
    ball_theta: float | None
    ring_theta: float | None
    dryness: float
    ball_dryness: float | None
    fits_within: float
    far_beyond: float
    little: float = LITTLE


def readings_of(made: SitePlan, i: int, entries: Sequence[LogEntry], voided: set[UUID | None]) -> list[ReadingShown]:
    """Standing readings of tree i, the oldest first."""
    g = made.plan.now_ground
    shares = np.array([float(g.uptake_from_ball[i]), float(g.uptake_from_near[i])])
    found = []
    for entry in reversed(entries):
        if entry.kind != "reading" or entry.id in voided:
            continue
        wet = np.array(wetness_read(entry, made.trees, i))
        there = ~np.isnan(wet)
        dry = np.maximum(0.0, 1.0 - wet)
        weighed = float(np.sum((shares * dry)[there]) / max(float(np.sum(shares[there])), 1e-9))
        found.append(ReadingShown(
            entry.id, entry.local_date, entry.how or "", entry.ball_feel, entry.ring_feel, entry.ball_theta,
            entry.ring_theta, weighed, float(1.0 - wet[0]) if there[0] else None,
            FITS_ERRORS * SD[entry.how or "finger"], FAR_ERRORS * SD[entry.how or "finger"],
        ))  # fmt: skip
    return found


def doubt_of(made: SitePlan, i: int, looked_on: date | None) -> dict[str, Any]:
    """How far off the dryness of tree i may be today (one standard deviation), and how long nobody has looked."""
    g, now = made.plan.now_ground, made.plan.now
    off = float(dryness_sd(g, now.ball_variance, now.near_variance)[i])
    since = looked_on or made.rows[i].opened_on
    return {"dryness_sd": off, "looked_on": looked_on, "days": (made.today - since).days}


def book(made: SitePlan, i: int, *, deep: bool, limited: bool) -> dict[str, Any]:
    """The books' rules for tree i, the plan's week beside them, why they part.

    deep: its flare is under grade; limited: hours or orders cost it something.
    """
    row, plan, at, s = made.rows[i], made.plan, made.course.today, made.series
    week = slice(at, at + 7)
    found = book_rules.rules(row.caliper_m, (made.today - row.planted_on).days)
    poured = plan.visit_gross_l[week, i]
    per_week = 7 / len(poured)
    weekly = float(np.sum(np.ceil(poured))) * per_week
    visits = poured[poured > 0]
    rain_mm = float(np.sum(s.rain_mm[max(0, at - 7) : at]) + np.sum(s.rain_mm[week] * s.rain_share[week]))
    g, pouring = plan.now_ground, made.pouring
    drinks_m2 = float(np.pi * plan.now.root_radius_m[i] ** 2)
    asked = book_rules.Week(
        weekly_l=weekly, waterings=len(visits) * per_week, eto_mm=float(np.mean(s.eto_mm[week])),
        microclimate=float(made.trees.microclimate[i]), plant_factor=float(use.plant_factor(made.trees, g)[i]),
        rain_l=rain_mm * drinks_m2, uptake_from_ball=float(g.uptake_from_ball[i]),
        ball_takes_l=float(made.trees.ball_taw_l[i] * made.trees.dryness_limit[i] / max(0.05, g.share[i])),
        arrives=float(pouring.efficiency[i] * (1 - pouring.leaching[i])),
        behind_l=max(0.0, float(visits[0] - np.mean(visits[1:]))) if len(visits) > 1 else 0.0,
        saving=(row.mode or made.site.mode) != "grow", capped=bool(plan.findings.capped[i]),
        shared=bool(plan.findings.drowned[i] or plan.findings.starved[i]), wide=bool(plan.findings.wide[i]),
        limited=limited,
    )  # fmt: skip
    reasons = book_rules.parting(found, asked)
    return {"rules": found, "weekly_l": weekly, "reasons": reasons, "can_drown": made.soil.drains == "slow" or deep}


def _planted_deep(session: Session, tree: Tree) -> bool:
    planting = session.get(Planting, tree.planting_id) if tree.planting_id else None
    return planting is not None and (planting.choice or {}).get("raise_m", 0.0) < 0


def _is_limited(session: Session, tree_id: UUID) -> bool:
    chosen = choices.of_trees(session, [tree_id]).get(tree_id)
    return chosen is not None and harm.told(chosen.harm, dies=False) is not None


def _mode_proposed(session: Session, tree: Tree) -> ProposedMode | None:
    """What the program proposed, where that is the tree's mode still."""
    found = choices.proposed_mode(session, tree.id)
    return found if found is not None and found.mode == tree.mode else None


def of_tree(session: Session, tree_id: UUID) -> dict[str, Any]:
    """The Water page of a tree. Raises NoWeatherError where no plan can be made."""
    tree = register.tree(session, tree_id)
    made = remembered.with_history(session, tree.site, tree.id)
    i = made.index_of(tree.id)
    entries = log.of_tree(session, tree.id)
    voided = {entry.voids for entry in entries}
    poured: dict[date, float] = {}
    for entry in entries:
        if entry.kind == "water" and entry.id not in voided and entry.volume_l:
            poured[entry.local_date] = poured.get(entry.local_date, 0.0) + entry.volume_l
    station = tree.site.station
    at = made.course.today
    reads = readings_of(made, i, entries, voided)
    tender_c = tree.plant.frost_c if tree.planted_on >= young_since(made.today) else None
    return {
        "tree": tree,
        "today": made.today,
        "section": section(made, i),
        "dryness": float(made.plan.now_dryness[i]),
        "dryness_limit": float(made.trees.dryness_limit[i]),
        "next": next_of(made, i),
        "poured_today_l": poured.get(made.today, 0.0),
        "chart": chart(made, i, poured),
        "working": water.working(made, i),
        "book": book(made, i, deep=_planted_deep(session, tree), limited=_is_limited(session, tree.id)),
        "cautions": (*day_cautions(made, tender_c, traffic=tree.site.traffic), *water_cautions(made, i)),
        "mode": tree.mode or tree.site.mode,
        "mode_proposed": _mode_proposed(session, tree),
        "line": line_of(session, made, i),
        "reservoir": reservoir_of(made, i),
        "drip_flags": drip_flags(made, i),
        "awaits_bud_break": water.awaits_bud_break(session, tree, made.today),
        "high_c": float(made.series.tmax_c[at]),
        "zone": tree.site.timezone,
        "guessed": tree.opening == "guessed" and not reads,
        "routine": routines.in_force(session, tree.site_id, made.today, [tree.id]).get(tree.id),
        "readings": reads,
        "doubt": doubt_of(made, i, reads[-1].day if reads else None),
        "filled": made.filled,
        "forecast": forecast.standing(session, station, made.series, made.today),
    }
