"""A hedge or a bed on lines along it, as one long root zone: its dose per metre, and what is lost where a plant died.

Places along the row are metres from the valve.
"""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np


@dataclass(frozen=True, slots=True)
class Strip:
    """The strip that the roots of a hedge's plants lie in.

    from_m, length_m: along the row, with the places of plants that are gone; width_m: as wide as their roots reach.
    flow_l_per_h_m: what its living plants' emitters give, dose_l_m: in one run, per metre of the strip.
    """

    from_m: float
    length_m: float
    width_m: float
    flow_l_per_h_m: float
    dose_l_m: float


def strip(
    places_m: Sequence[float], spacings_m: Sequence[float], root_radii_m: Sequence[float],
    flows_l_per_h: Sequence[float], run_min: float,
) -> Strip:  # fmt: skip
    """A hedge's strip (docs/devices.md).

    places_m, spacings_m: of all places along the row, those of plants that are gone too, arrays (places,).
    root_radii_m, flows_l_per_h: of the plants that live, arrays (plants,); run_min: of the line.
    """
    length = float(np.sum(spacings_m))
    flow = float(np.sum(flows_l_per_h)) / length
    begins = places_m[0] - spacings_m[0] / 2
    return Strip(begins, length, 2 * float(np.max(root_radii_m)), flow, flow * run_min / 60)


def lost_share(
    emitters_m: np.ndarray, gap_m: float, neighbours_m: Sequence[float], root_radii_m: Sequence[float]
) -> float:
    """How much of what a gap's emitters give no plant's roots lie under, 0..1.

    emitters_m: their places beside the plant that is gone, along the row and across it, array (emitters, 2); gap_m:
    where that stood; neighbours_m, root_radii_m: of the plants that live, arrays (plants,).
    """
    if not len(emitters_m):
        return 0.0
    along = gap_m + emitters_m[:, 0][:, None] - np.asarray(neighbours_m)[None, :]
    reached = np.hypot(along, emitters_m[:, 1][:, None]) <= np.asarray(root_radii_m)[None, :]
    return float(np.mean(~np.any(reached, axis=1)))
