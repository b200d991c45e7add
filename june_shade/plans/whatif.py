"""Two plans of one site side by side: what a change would do before anyone accepts it."""

from dataclasses import dataclass
from datetime import date
from uuid import UUID

import numpy as np

from june_shade.core.errors import JuneShadeError
from june_shade.core.soil.in_force import InForce
from june_shade.plans import water
from june_shade.plans.water import SitePlan
from june_shade.store.session import Session
from june_shade.store.site_tables import Site

SHOWN = 6


@dataclass(frozen=True, slots=True)
class NextPour:
    """The next watering of a tree: its day and litres in metric and US steps."""

    day: date
    metric_l: float
    us_l: float


@dataclass(frozen=True, slots=True)
class TreeChange:
    """A tree whose next watering would be another; None = none in sight."""

    tree_id: UUID
    tag: str
    common: str
    before: NextPour | None
    after: NextPour | None


@dataclass(frozen=True, slots=True)
class Difference:
    """What a change does to a site's plan.

    days: how far the plans look. litres: poured in them, before and after. waterings: how many visits. changed: trees
    whose next watering is on another day or of another amount; most: the first of them.
    """

    days: int
    trees: int
    changed: int
    litres_before: float
    litres_after: float
    waterings_before: int
    waterings_after: int
    most: tuple[TreeChange, ...]


def _next(made: SitePlan, i: int) -> NextPour | None:
    day = int(made.plan.visit[i])
    if day < 0 or made.plan.visit_gross_l[day, i] <= 0:
        return None
    visit = water.visit_on(made, i, day)
    return NextPour(visit.day, visit.metric.litres, visit.us.litres)


def other_soil(session: Session, site: Site, ground: InForce) -> Difference | None:
    """What another soil would change in the plan of a site; None where no plan can be made or nothing stands there."""
    try:
        before = water.plan_site(session, site, use_cache=False)
        after = water.plan_site(session, site, use_cache=False, ground=ground)
    except JuneShadeError:
        return None
    return compare(before, after) if before and after else None


def compare(before: SitePlan, after: SitePlan) -> Difference:
    """What lies between two plans of the same trees made on the same day."""
    gross = [made.plan.visit_gross_l[made.course.today :] for made in (before, after)]
    counts = [int(np.sum(g > 0)) for g in gross]
    changes = []
    for i, row in enumerate(before.rows):
        pair = _next(before, i), _next(after, after.index_of(row.id))
        if pair[0] != pair[1]:
            changes.append(TreeChange(row.id, row.tag, row.common, *pair))
    return Difference(
        days=len(gross[0]),
        trees=len(before.rows),
        changed=len(changes),
        litres_before=float(np.nansum(gross[0])),
        litres_after=float(np.nansum(gross[1])),
        waterings_before=counts[0],
        waterings_after=counts[1],
        most=tuple(changes[:SHOWN]),
    )
