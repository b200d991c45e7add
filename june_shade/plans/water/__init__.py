"""The water plan of a site: what its trees want, when, how much, and why."""

from june_shade.plans.water.days import awaits_bud_break, mulch_depth_share
from june_shade.plans.water.explain import Visit, visit_on, working
from june_shade.plans.water.run import HISTORY_DAYS, SitePlan, plan_site

__all__ = [
    "HISTORY_DAYS",
    "SitePlan",
    "Visit",
    "awaits_bud_break",
    "mulch_depth_share",
    "plan_site",
    "visit_on",
    "working",
]
