"""What mulch does to the water plan: a season run with it and without it, by the daily balance."""

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from june_shade.core.water import season
from june_shade.core.water.balance import Trees, Weather
from june_shade.core.water.season import Routine, Start
from june_shade.core.water.trees import years_of


@dataclass(frozen=True, slots=True)
class Saving:
    """A season's water poured [L] and how often, with the ring and without; days that were looked at."""

    with_l: float
    without_l: float
    waterings_with: int
    waterings_without: int
    days: int

    @property
    def saved_l(self) -> float:
        """Litres that mulch saves."""
        return self.without_l - self.with_l


def saving(
    trees: Trees, i: int, mulched_m2: float, gap_m2: float, spread_m: float, days: Sequence[Weather],
    depth_share: Sequence[float], efficiency: float, loss_l: float,
) -> Saving:  # fmt: skip
    """Tree i over these days, watered by the balance, with a ring and without.

    mulched_m2, gap_m2: the ring's outer circle and its bare middle. spread_m: roots beyond the ball on the first day.
    depth_share: how much of a full cover lies there each day. loss_l: water that wets a full mulch each time.
    """
    pair = replace(
        years_of(trees, i, 2), mulch_outer_area_m2=np.array([mulched_m2, 0.0]),
        mulch_gap_area_m2=np.array([gap_m2, 0.0]),
        mulch_cover=np.array([np.nan, np.nan]),
    )  # fmt: skip
    weather = [
        replace(day, mulch_depth_share=np.array([share, 0.0])) for day, share in zip(days, depth_share, strict=True)
    ]
    run = season.run(pair, Start(root_spread_beyond_ball_m=spread_m), weather, Routine("balance"), efficiency)
    gross = np.array([day.gross_l for day in run])
    often = np.count_nonzero(gross > 0, axis=0)
    wet = loss_l / efficiency * float(np.sum(np.asarray(depth_share)[gross[:, 0] > 0]))
    poured = np.sum(gross, axis=0)
    return Saving(float(poured[0]) + wet, float(poured[1]), int(often[0]), int(often[1]), len(weather))
