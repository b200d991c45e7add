"""The next watering as people pour it, and the sum behind it."""

from dataclasses import dataclass, replace
from datetime import date

import numpy as np

from june_shade.core.errors import NoWeatherError
from june_shade.core.geometry import bulb
from june_shade.core.water import delivery, explain, explain_school, proof
from june_shade.core.water.delivery import Pour
from june_shade.core.working import Step, worked
from june_shade.plans.water.run import SitePlan


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


def visit_on(made: SitePlan, i: int, day: int) -> Visit:
    """The watering planned for tree i on a day of the course."""
    key = "visit", i, day
    if key not in made.remembered:
        made.remembered[key] = _visit_on(made, i, day)
    found: Visit = made.remembered[key]
    return found


def _visit_on(made: SitePlan, i: int, day: int) -> Visit:
    how, gross = made.deliveries[i], float(made.plan.visit_gross_l[day, i])
    radius, intake = float(made.trees.ball_radius_m[i]), made.soil.intake_mm_h
    most = delivery.day_limit(how, radius, intake)
    if made.on_a_line(i):
        metric = us = _on_its_line(made, i, day)
    else:
        metric = delivery.pour(how, gross, radius, intake, delivery.METRIC_STEP_L, most)
        us = delivery.pour(how, gross, radius, intake, delivery.US_STEP_L, most)
    return Visit(
        day=made.series.dates[day].item(),
        gross_l=gross,
        net_l=float(made.plan.visit_net_l[day, i]),
        metric=metric,
        us=us,
        proof_depth_m=proof_of(made, i, day, metric.litres).depth_m,
    )


def _on_its_line(made: SitePlan, i: int, day: int) -> Pour:
    """What comes out at tree i while its line runs: one valve has one program, the one with the most goes."""
    lines = made.pouring.line
    assert lines is not None
    key = "program", int(lines[i]), day
    if key not in made.remembered:
        on = np.flatnonzero((lines == lines[i]) & (made.plan.visit_gross_l[day] > 0))
        made.remembered[key] = max((_by_itself(made, int(k), day) for k in on), key=lambda p: p.goes.count)
    program: Pour = made.remembered[key]
    own = _by_itself(made, i, day)
    goes = replace(program.goes, run_min=own.run_min / program.goes.count, last_min=own.run_min / program.goes.count)
    return replace(own, goes=goes, total_min=program.total_min)


def _by_itself(made: SitePlan, i: int, day: int) -> Pour:
    """How tree i would run with no other on its valve."""
    how = made.deliveries[i]
    minutes = 60.0 * float(made.plan.visit_gross_l[day, i]) / delivery.flow_l_per_h(how)
    return delivery.run(how, minutes, float(made.trees.ball_radius_m[i]), made.soil.intake_mm_h)


@dataclass(frozen=True, slots=True)
class Proof:
    """How deep a watering wets, and what that is reckoned from; emitters 0 = poured onto an area."""

    depth_m: float
    emitters: int
    litres: float
    flow_l_per_h: float
    conductivity_mm_h: float
    net_l: float
    area_m2: float
    missing: float
    most_m: float
    bulb_m: float


def proof_of(made: SitePlan, i: int, day: int, litres: float) -> Proof:
    """Where a rod stops after these litres on a day: what this watering wets, poured this way."""
    how, g = made.deliveries[i], made.plan.now_ground
    most, share = float(g.root_depth_m[i]), float(g.lands[0, i] + g.lands[1, i])
    arrives = delivery.efficiency(how.method) * (1.0 - how.leaching)
    loss = float(made.pouring.loss_l[i] * made.course.mulch_depth_share[day, i])
    net = float(delivery.net_l(litres, arrives, loss)) * share
    if day > made.course.today:
        ball, near = float(made.plan.ball_depletion_l[day - 1, i]), float(made.plan.near_depletion_l[day - 1, i])
    else:
        ball, near = float(made.plan.now.ball_depletion_l[i]), float(made.plan.now.near_depletion_l[i])
    soil_l, area = float(made.trees.ball_volume_l[i] + g.near_volume_l[i]), float(g.area_m2[0, i] + g.area_m2[1, i])
    if how.ring_m2 > 0:  # on the ring alone
        ball, soil_l, area = 0.0, float(g.near_volume_l[i]), float(g.area_m2[1, i])
    missing = (max(0.0, ball) + max(0.0, near)) / soil_l
    count, flow = proof.emitters_of(how), delivery.flow_l_per_h(how)
    ks = made.proven_conductivity_mm_h.get(made.rows[i].id) or bulb.spreads_mm_h(
        made.rows[i].kind, made.soil.conductivity_mm_h
    )
    bulb_m = 0.0
    if count:
        bulb_m = proof.bulb_depth_m(litres, count, flow, ks)
        area = how.wetted_m2 or area
        depth = proof.sunk_depth_m(bulb_m, net, area, missing, most)
    else:
        depth = proof.circle_depth_m(net, area, missing, most)
    return Proof(depth, count, litres, flow, ks, net, area, missing, most, bulb_m)


def working(made: SitePlan, i: int) -> tuple[Step, ...]:
    """The sum behind the next visit of tree i, or of its state today where no visit is in sight.

    Needs a plan made with keep_days.
    """
    if not made.plan.days:
        raise NoWeatherError("the working needs a plan that kept its days", "tree")
    visit = int(made.plan.visit[i])
    day = visit if visit >= 0 else made.course.today
    o = _opened(made, i, day)
    lines = [*explain.ball(o), *explain.roots(o), *explain.rings(o), *explain.depletions(o), *explain.demand(o)]
    if visit >= 0:
        lines += _when(made, i) + _how_much(made, i, visit, o)
    of_day = made.series.dates[day].item()
    return tuple(replace(one, day=one.day or of_day) for one in lines)


def _opened(made: SitePlan, i: int, day: int) -> explain.Opened:
    """Tree i on a day from today on, with the day before where there is one."""
    days, at = made.plan.days, day - made.course.today
    before = days[at - 1].passed if at > 0 else made.plan.last
    if before is not None and not before.morning.active[i]:
        before = None
    return explain.of_one(made.trees, made.reach, days[at], before, i)


def _when(made: SitePlan, i: int) -> list[Step]:
    """Why the tree is ready and due on its days."""
    if (followed := made.routine_of(i)) is not None:
        visit = int(made.plan.visit[i])
        return [replace(explain_school.why(followed, visit), day=made.day(visit))]
    found = []
    for first, why in ((made.plan.ready[i], explain.why_ready), (made.plan.due[i], explain.why_due)):
        if first >= made.course.today:
            found.append(replace(why(_opened(made, i, int(first))), day=made.day(int(first))))
    return found


def _how_much(made: SitePlan, i: int, day: int, o: explain.Opened) -> list[Step]:
    """How much and how long: where it lands, what refills, what is poured, how deep it wets."""
    how, chosen = made.deliveries[i], visit_on(made, i, day)
    intake = made.soil.intake_mm_h
    line_min = None
    if made.on_a_line(i):
        line_min = 60.0 * chosen.gross_l / delivery.flow_l_per_h(how)
    room = chosen.gross_l * delivery.efficiency(how.method) * (1 - how.leaching) if how.reservoir_l > 0 else None
    followed = made.routine_of(i)
    asked = None if followed is None else explain_school.asked(followed, day, o.ground, chosen.gross_l)
    poured = explain.Poured(
        chosen.gross_l, chosen.metric, how.step_l or delivery.METRIC_STEP_L,
        float(made.pouring.loss_l[i] * made.course.mulch_depth_share[day, i]), intake, room, line_min,
        delivery.day_limit(how, float(made.trees.ball_radius_m[i]), intake), asked,
    )  # fmt: skip
    amount = explain.amount(o) if asked is None else ()
    lines = [*explain.landing(o, how), *amount, *explain.visit(o, how, poured)]
    return [*lines, *_proof_lines(proof_of(made, i, day, chosen.metric.litres))]


def _proof_lines(found: Proof) -> list[Step]:
    """How deep the watering wets, by bulbs or over an area."""
    z, lines = (found.most_m, "m"), []
    formula, inputs = "min(z, lands / (1000 × A × missing))", {}
    if found.emitters:
        lines.append(worked(
            "proof_bulb", "29.2 × (V / n)^0.63 × (Ks / 3600000 / (q / n))^0.45", found.bulb_m, "m", "[SZ86]",
            V=(found.litres, "L"), n=(found.emitters, ""), q=(found.flow_l_per_h, "L/h"),
            Ks=(found.conductivity_mm_h, "mm/h"),
        ))  # fmt: skip
        formula, inputs = "min(z, max(bulb, lands / (1000 × A × missing)))", {"bulb": (found.bulb_m, "m")}
    if found.missing <= 0:
        return [*lines, worked("proof_area", "z", found.depth_m, "m", "arithmetic", z=z)]
    area = {"lands": (found.net_l, "L"), "A": (found.area_m2, "m2"), "missing": (found.missing, "")}
    return [*lines, worked("proof_area", formula, found.depth_m, "m", "arithmetic", z=z, **inputs, **area)]
