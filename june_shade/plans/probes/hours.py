"""A probe's hours as arrays, put on its calibration, with what is no reading among them."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta
from zoneinfo import ZoneInfo

import numpy as np

from june_shade.core.devices import probe as core
from june_shade.core.soil.textures import Soil
from june_shade.core.stock import balls
from june_shade.core.stock.balls import Medium
from june_shade.plans import soil_in_force
from june_shade.plans.water import SitePlan, remembered
from june_shade.plans.water.section import section
from june_shade.store import log as log_store
from june_shade.store import probes as store
from june_shade.store.probe_tables import SoilProbe
from june_shade.store.session import Session
from june_shade.store.tree_tables import Tree

HOUR = timedelta(hours=1)
RAIN_MM = 1.0
"""A day with so much rain may have wetted the soil at any of its hours."""


@dataclass(frozen=True, slots=True)
class Ground:
    """The store that a probe stands in: its soil or medium, from the surface to bottom_m; made: the tree's plan with
    the days behind it."""

    medium: Soil | Medium
    bottom_m: float
    made: SitePlan

    @property
    def saturation_m3_m3(self) -> float:
        """All that its pores hold."""
        return float(self.medium.wilting_point + self.medium.awc + self.medium.drainable)


@dataclass(frozen=True, slots=True)
class Hours:
    """Hours one after the other: moments of each, its depths; values as told and calibrated, what each is instead of a
    reading, arrays (hours, depths), NaN where nothing was told; share: of the store that each depth stands for."""

    moments: list[datetime]
    depths_m: tuple[float, ...]
    raw: np.ndarray
    theta_m3_m3: np.ndarray
    temperature_c: np.ndarray
    doubted: np.ndarray
    share: np.ndarray


def ground(session: Session, row: SoilProbe, tree: Tree) -> Ground:
    """What a probe stands in. Raises JuneShadeError where nothing can be planned for its tree."""
    made = remembered.with_history(session, tree.site, tree.id)
    cut = section(made, made.index_of(tree.id))
    soil = soil_in_force.in_force(session, tree.site).soil
    if row.store == "ball":
        return Ground(balls.medium(tree.kind, soil), cut.ball_height_m, made)
    return Ground(soil, cut.root_depth_m, made)


def points(row: SoilProbe) -> list[tuple[float, float]]:
    """What a probe read and what was true, the wet one first."""
    known = [row.points[kind] for kind in ("wet", "felt") if kind in row.points]
    return [(float(one["read_m3_m3"]), float(one["true_m3_m3"])) for one in known]


def until(session: Session, row: SoilProbe, tree: Tree, of: Ground, last: datetime, hours: int) -> Hours | None:
    """The hours up to a moment, on the full hour, None where it told nothing in them."""
    first = last - (hours - 1) * HOUR
    told = store.hours(session, row.id, first - HOUR / 2, last + HOUR / 2)
    if not told:
        return None
    depths = tuple(told[-1].depths_m)
    raw, warm = np.full((hours, len(depths)), np.nan), np.full((hours, len(depths)), np.nan)
    for one in told:
        at = round((one.at - first) / HOUR)
        if 0 <= at < hours and tuple(one.depths_m) == depths:
            raw[at], warm[at] = one.theta_m3_m3, one.temperature_c
    moments = [first + n * HOUR for n in range(hours)]
    theta = core.calibrated(raw, points(row))
    eto, wetted = _air_and_water(session, tree, of.made, moments)
    return Hours(
        moments, depths, raw, theta, warm, core.doubts(theta, warm, eto, wetted, of.saturation_m3_m3),
        core.shares(depths, 0.0, of.bottom_m),
    )  # fmt: skip


def _air_and_water(
    session: Session, tree: Tree, made: SitePlan, moments: Sequence[datetime]
) -> tuple[np.ndarray, np.ndarray]:
    """What the air took in each hour [mm], and whether rain or a watering fell in it; arrays (hours,)."""
    zone = ZoneInfo(tree.site.timezone)
    eto, wetted = np.zeros(len(moments)), np.zeros(len(moments), bool)
    for n, moment in enumerate(moments):
        at = made.known.index(moment.astimezone(zone).date())
        if 0 <= at < len(made.known):
            eto[n] = made.known.eto_mm[at] / 24
            wetted[n] = made.known.rain_mm[at] >= RAIN_MM
    begins = moments[0].astimezone(zone).date()
    for poured in log_store.water(session, tree.site_id, begins, [tree.id]):
        when = datetime.combine(poured.local_date, poured.local_time, zone)
        at = int((when - moments[0]) / HOUR)
        if 0 <= at < len(moments):
            wetted[at] = True
    return eto, wetted
