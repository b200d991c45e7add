"""The next watering of a tree: when, how much, what is wrong with it; its line, its box, cautions of the day."""

from dataclasses import dataclass
from datetime import date
from uuid import UUID

import numpy as np

from june_shade.core.care import cautions
from june_shade.core.water import delivery, reach, refill, salts
from june_shade.plans import describe, water
from june_shade.plans.water import SitePlan, Visit
from june_shade.store.session import Session
from june_shade.store.site_tables import Line


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


def next_of(made: SitePlan, i: int, on: int | None = None) -> Next | None:
    """The next watering of tree i, or the one on a day of the course; None where none is planned within the plan's
    days."""
    plan, day = made.plan, int(made.plan.visit[i]) if on is None else on
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


def day_cautions(
    made: SitePlan, tender_c: float | None = None, *, traffic: bool = False, ahead_days: int = 0
) -> tuple[str, ...]:
    """Cautions for today at a site, or for a day to come. tender_c: from here down frost hurts a young tree there
    [degC], None = none.

    traffic: the work is beside moving traffic.
    """
    known = made.known
    at = min(known.index(made.today) + ahead_days, len(known) - 1)
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


def line_of(session: Session, made: SitePlan, i: int, on: int | None = None) -> LineRun | None:
    """The line tree i shares and its next run, or the one on a day of the course; None where it has its own."""
    lines = made.pouring.line
    if lines is None or not made.on_a_line(i):
        return None
    name = made.remembered.get(("name", int(lines[i]), 0))
    if name is None:
        name = made.remembered[("name", int(lines[i]), 0)] = session.get_one(Line, made.rows[i].line_id).name
    neediest, day = int(made.plan.neediest[i]), int(made.plan.visit[i]) if on is None else on
    run = water.visit_on(made, i, day).metric.run_min if day >= 0 else None
    tag = made.rows[neediest].tag if neediest >= 0 else None
    key = "shares", int(lines[i]), day
    if key not in made.remembered:
        of = np.flatnonzero((lines == lines[i]) & (made.plan.visit_gross_l[day] > 0)) if day >= 0 else ()
        made.remembered[key] = tuple(
            LineShare(made.rows[k].id, made.rows[k].tag, water.visit_on(made, int(k), day).metric.litres) for k in of
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
