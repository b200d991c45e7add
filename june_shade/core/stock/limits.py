"""What a tree's measures can be: one table for everything that takes them in. Beyond it lies a slip of the pen."""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from june_shade.core.mulch.ring import CLEAR_GAP_M


@dataclass(frozen=True, slots=True)
class Limits:
    """A range: `above` is exclusive, `low` and `high` inclusive; None = open."""

    above: float | None = None
    low: float | None = None
    high: float | None = None

    def fault(self, value: float) -> str:
        """What is wrong with a value, "" where nothing is."""
        if self.above is not None and not value > self.above:
            return f"must be above {self.above:g}"
        if self.low is not None and value < self.low:
            return f"must be at least {self.low:g}"
        if self.high is not None and value > self.high:
            return f"must be at most {self.high:g}"
        return ""


TREE: dict[str, Limits] = {
    "caliper_m": Limits(above=0, high=0.5),
    "ball_diameter_m": Limits(above=0, high=3),
    "ball_height_m": Limits(above=0, high=2),
    "ball_volume_l": Limits(above=0, high=10000),
    "crown_diameter_m": Limits(low=0, high=30),
    "microclimate": Limits(low=0.5, high=1.4),
    "basin_diameter_m": Limits(above=0, high=6),
    "basin_depth_m": Limits(above=0, high=0.5),
    "emitter_count": Limits(low=0, high=200),
    "emitter_flow_l_per_h": Limits(low=0, high=200),
    "bag_capacity_l": Limits(above=0, high=400),
    "soaker_across_m": Limits(above=0, high=6),
    "soaker_flow_l_per_h_m": Limits(above=0, high=60),
    "sprinkler_across_m": Limits(above=0, high=20),
    "sprinkler_flow_l_per_h": Limits(above=0, high=5000),
    "reservoir_l": Limits(above=0, high=500),
    "mulch_depth_m": Limits(low=0, high=0.6),
    "mulch_outer_radius_m": Limits(above=0, high=10),
    "latitude_deg": Limits(low=-90, high=90),
    "longitude_deg": Limits(low=-180, high=180),
    "row_place": Limits(low=0, high=100000),
}
"""By field: m, L, L/h, degrees (common practice for trees that are planted)."""


def odds(tree: Mapping[str, Any]) -> tuple[str, str] | None:
    """The first thing that does not go together in a tree's fields, as (field, sentence), None where all does."""
    if tree["method"] == "emitters" and not (tree["emitter_count"] >= 1 and tree["emitter_flow_l_per_h"] > 0):
        return "emitter_count", "emitters need a count of 1 or more and a flow above 0 L/h"
    for method, field, words in (
        ("soaker", "soaker_across_m", "a soaker needs the loop's width"),
        ("soaker", "soaker_flow_l_per_h_m", "a soaker needs its flow a meter"),
        ("sprinkler", "sprinkler_across_m", "a sprinkler needs the circle that it wets"),
        ("sprinkler", "sprinkler_flow_l_per_h", "a sprinkler needs its flow"),
        ("wicked", "reservoir_l", "a reservoir box needs what it holds"),
    ):
        if tree["method"] == method and not tree.get(field):
            return field, words
    if tree["mulch_material"] is not None:
        least = tree["caliper_m"] / 2 + CLEAR_GAP_M
        if tree["mulch_outer_radius_m"] is None:
            return "mulch_outer_radius_m", "mulch needs its ring's outer radius"
        if tree["mulch_outer_radius_m"] <= least:
            return "mulch_outer_radius_m", f"must reach past the bare gap round the trunk, {least:.2f} m"
    return None
