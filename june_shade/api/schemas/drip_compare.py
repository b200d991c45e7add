"""Layouts of one tree side by side over two years."""

from datetime import date
from typing import Annotated, Literal

from pydantic import Field

from june_shade.api.schemas.common import In, Out, quantity
from june_shade.api.schemas.drip import AchievementOut, ChoiceIO, ChoiceOut, DripPart, ObstacleIO, RunOut, ShapeOut


class CompareIn(In):
    """What is compared besides the patterns and what lies there. choice: as typed; obstacles null = as stored."""

    choice: ChoiceIO | None = None
    obstacles: Annotated[list[ObstacleIO], Field(max_length=12)] | None = None


class PlaceOut(Out):
    """An emitter and what it wets."""

    x_m: float = quantity("m", "East of the trunk")
    y_m: float = quantity("m", "North of the trunk")
    width_m: float = quantity("m", "Of what it wets")


class TwoYearsOut(Out):
    """What a layout came to over two years."""

    dry_days: int = Field(description="Days with thirst.")
    wet_days: int = Field(description="Days with wet feet.")
    waterings: int
    litres: float = Field(description="All that is poured [L].", json_schema_extra={"unit": "L"})
    run_h: float = quantity("h", "How long its valve is open")
    lay_min: float = quantity("min", "To lay it, and to move it")
    stand_min: float = quantity("min", "At its waterings")
    hands_min: float = quantity("min", "All that somebody works at it")
    moves: int


class ComparedOut(Out):
    """A layout over two years."""

    which: Literal["lies", "typed", "pattern"]
    choice: ChoiceOut
    emitters: list[PlaceOut]
    runs: list[RunOut]
    achievements: list[AchievementOut]
    reach: list[float] = Field(description="Share of the roots' uptake that its water reaches, every ten days.")
    move_on: date | None
    parts: list[DripPart]
    later_parts: list[DripPart] = Field(description="What its moves take.")
    over: TwoYearsOut
    best: bool


class SideBySideOut(Out):
    """Layouts of one tree side by side."""

    today: date
    every_days: int
    half_m: float = quantity("m", "Half the side of what is drawn")
    ball_radius_m: float = quantity("m", "Ball")
    roots_radius_m: float = quantity("m", "Roots now")
    trunk_diameter_m: float = quantity("m", "Trunk")
    shapes: list[ShapeOut]
    layouts: list[ComparedOut]
