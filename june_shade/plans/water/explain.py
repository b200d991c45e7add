"""The next watering as people pour it, and the sum behind it."""

from dataclasses import dataclass
from datetime import date

from june_shade.core.errors import NoWeatherError
from june_shade.core.geometry import bulb
from june_shade.core.water import delivery, explain, proof
from june_shade.core.water.delivery import Pour
from june_shade.core.working import Line
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
        proof_depth_m=proof_of(made, i, day, metric.litres).depth_m,
    )


@dataclass(frozen=True, slots=True)
class Proof:
    """How deep a watering wets, and what that is reckoned from; emitters 0 = poured onto an area."""

    depth_m: float
    emitters: int
    litres: float
    flow_l_h: float
    ks_mm_h: float
    net_l: float
    area_m2: float
    missing: float
    most_m: float


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
    soil_l = float(made.trees.ball_volume_l[i] + g.near_volume_l[i])
    missing = (max(0.0, ball) + max(0.0, near)) / soil_l
    area = float(g.area_m2[0, i] + g.area_m2[1, i])
    count, flow = proof.emitters_of(how), delivery.flow_l_h(how)
    ks = made.proven_ks_mm_h.get(made.rows[i].id) or bulb.spreads_mm_h(made.rows[i].kind, made.soil.ks_mm_h)
    if count:
        depth = proof.bulb_depth_m(litres, count, flow, ks, most)
    else:
        depth = proof.circle_depth_m(net, area, missing, most)
    return Proof(depth, count, litres, flow, ks, net, area, missing, most)


def working(made: SitePlan, i: int) -> tuple[Line, ...]:
    """The sum behind the next visit of tree i, or of its state today where no visit is in sight.

    Needs a plan made with keep_mornings.
    """
    if not made.plan.mornings:
        raise NoWeatherError("the working needs a plan that kept its mornings", "tree")
    day = int(made.plan.visit[i])
    trees, morning = explain.of_one(made.trees, made.plan.mornings[max(0, day - made.course.today)], i)
    lines = explain.stores(trees, morning) + explain.demand(trees, morning)
    if day < 0:
        return lines
    chosen = visit_on(made, i, day)
    loss = float(made.pouring.loss_l[i] * made.course.mulch_depth_share[day, i])
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
