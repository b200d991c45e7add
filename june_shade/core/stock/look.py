"""A ball looked at before it is planted: volume, weight, how it is lifted, how it stands against the standard."""

from dataclasses import dataclass

from june_shade.core.soil.textures import soil
from june_shade.core.stock import balls, measures, weight
from june_shade.core.stock.plants import size_doubts

USUAL_SOIL = "loam"
"""What bare roots are taken to stand in where no site is known."""


@dataclass(frozen=True, slots=True)
class Ball:
    """What a ball holds [L], weighs [kg], needs. least_ball_m, least_height_m: by the standard, if it has any."""

    volume_l: float
    weight_kg: float
    soaked_kg: float
    lift: str
    gives_l: float
    least_ball_m: float | None
    least_height_m: float | None
    caliper_height_m: float
    crown_m: float
    doubts: tuple[str, ...]


def ball(kind: str, caliper_m: float, across_m: float, height_m: float, measured_l: float | None = None) -> Ball:
    """A ball from its measures [m]; measured_l overrides the volume of its shape [L]."""
    medium = balls.medium(kind, soil(USUAL_SOIL))
    volume = measured_l or float(balls.ball_volume_l(medium.shape_k, balls.radius_m(kind, across_m), height_m))
    soaked = weight.ball_kg(kind, volume, soaked=True)
    dug = kind == "balled"
    least = measures.least_spread_m(caliper_m) if kind == "bare_root" else measures.least_ball_m(caliper_m)
    return Ball(
        volume_l=volume,
        weight_kg=weight.ball_kg(kind, volume),
        soaked_kg=soaked,
        lift=weight.lift(soaked),
        gives_l=medium.awc * volume,
        least_ball_m=float(least) if dug or kind == "bare_root" else None,
        least_height_m=float(measures.ball_depth_m(across_m)) if dug else None,
        caliper_height_m=measures.caliper_height_m(caliper_m),
        crown_m=balls.crown_diameter_from_caliper_m(caliper_m),
        doubts=size_doubts(kind, caliper_m, across_m, height_m),
    )
