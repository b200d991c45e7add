"""A tree's visits of the fortnight, as they are poured."""

from dataclasses import dataclass

from june_shade.core.choosing.offers import PLAN_DAYS
from june_shade.core.choosing.patterns import Array
from june_shade.plans import water
from june_shade.plans.choosing.in_force import since
from june_shade.plans.water import SitePlan
from june_shade.store.choice_tables import ChosenTree


@dataclass(frozen=True, slots=True)
class Visit:
    """A visit on a day of the fortnight, from 0: litres in the steps of both systems [L], minutes [min], share of the
    refill."""

    day: int
    litres: float
    litres_us: float
    minutes: float
    share: float


def visits_of(
    made: SitePlan, i: int, chosen: ChosenTree | None = None, minutes: Array | None = None
) -> tuple[Visit, ...]:  # fmt: skip
    """The visits of tree i from today on. minutes: of its days [min], array (days,)."""
    at, found = made.course.today, []
    for day in range(at, min(len(made.series), at + PLAN_DAYS)):
        if made.plan.visit_gross_l[day, i] > 0:
            visit = water.visit_on(made, i, day)
            n = -1 if chosen is None else day - since(chosen, made.series.dates[0])
            share = chosen.share[n] if chosen is not None and 0 <= n < len(chosen.share) else 1.0
            taken = 0.0 if minutes is None else float(minutes[day - at])
            found.append(Visit(day - at, visit.metric.litres, visit.us.litres, taken, share or 1.0))
    return tuple(found)


def days_of(made: SitePlan, i: int) -> list[int]:
    """Days from today on, from 0, on which tree i is visited."""
    at = made.course.today
    return [day - at for day in range(at, min(len(made.series), at + PLAN_DAYS)) if made.plan.visit_gross_l[day, i] > 0]
