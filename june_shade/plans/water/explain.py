"""The next watering as people pour it, and the sum behind it."""

from dataclasses import dataclass
from datetime import date

from june_shade.core.errors import NoWeatherError
from june_shade.core.water import delivery, explain
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
