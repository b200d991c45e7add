"""The headless hole case: one ball and how it is set; JSON in, JSON out, SI, unrounded."""

from dataclasses import dataclass
from typing import Any

from june_shade.core.checks import Fields
from june_shade.core.planting import hole
from june_shade.core.planting.hole import USUAL_RATIO, Ball
from june_shade.core.stock.balls import KINDS
from june_shade.formats.case_json import read_json
from june_shade.formats.pieces_json import findings

FIGURES = (
    "top_diameter_m", "base_diameter_m", "depth_m", "hole_l", "ball_buried_l", "backfill_l", "spoil_l", "ball_volume_l",
    "ball_weight_kg", "stake_mark_m",
)  # fmt: skip


@dataclass(frozen=True, slots=True)
class HoleCase:
    """A ball, how far its flare is raised over grade [m], the hole's width over the ball's."""

    ball: Ball
    raise_m: float
    width_ratio: float


def parse(text: str | bytes) -> HoleCase:
    """A hole case from JSON text. Raises InputError naming the dotted field."""
    case = Fields(read_json(text))
    ball = Ball(
        kind=case.choice("kind", KINDS),
        diameter_m=case.number("ball_diameter_m", above=0, hint="metres"),
        height_m=case.number("ball_height_m", above=0, hint="metres"),
        flare_below_top_m=case.number("flare_below_top_m", 0.0, low=0, hint="metres"),
    )
    raised = case.number("raise_m", 0.0, hint="metres")
    ratio = case.number("width_ratio", USUAL_RATIO, above=0)
    case.close()
    return HoleCase(ball, raised, ratio)


def run(case: HoleCase) -> dict[str, Any]:
    """The hole's figures, as plain JSON values."""
    made = hole.hole(case.ball, case.raise_m, case.width_ratio)
    return {name: float(getattr(made, name)) for name in FIGURES} | {"findings": findings(made.findings)}
