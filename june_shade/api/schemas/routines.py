"""Routines of watering: what they go by, and the one that trees follow."""

from datetime import date
from typing import Literal
from uuid import UUID

from pydantic import Field, model_validator

from june_shade.api.schemas.common import In, Out, quantity
from june_shade.core.water.schools import NEEDS, Routine
from june_shade.plans.water.followed import COLUMNS

RoutineName = Literal[
    "balance", "none", "fixed", "taper", "heat", "rainfall", "slow_hose", "deep", "bare_root", "when_dry",
]  # fmt: skip


class RoutineIn(In):
    """A routine with the figures that it goes by; the others are left out."""

    name: RoutineName
    litres: float | None = quantity("L", "A watering, as poured", None)
    every_days: int | None = quantity("d", "From one watering to the next", None)
    mm: float | None = quantity("mm", "Rain a week that is made up to", None)
    flow_l_per_h: float | None = quantity("L/h", "Of a trickling hose", None)
    hours: float | None = quantity("h", "That it runs", None)
    dry_limit: float | None = Field(None, description="Dryness of the ball above which it waters, 0 to 1.")

    def routine(self) -> Routine:
        """As the core takes it; a figure that is missing is out of its range there."""
        return Routine(self.name, **{name: getattr(self, COLUMNS[name]) or 0 for name in NEEDS[self.name]})


class RoutineOut(Out):
    """A routine with the figures that it goes by."""

    name: RoutineName
    litres: float | None = quantity("L", "A watering, as poured")
    every_days: int | None = quantity("d", "From one watering to the next")
    mm: float | None = quantity("mm", "Rain a week that is made up to")
    flow_l_per_h: float | None = quantity("L/h", "Of a trickling hose")
    hours: float | None = quantity("h", "That it runs")
    dry_limit: float | None = Field(description="Dryness of the ball above which it waters, 0 to 1.")


class InForce(Out):
    """The routine that a tree follows."""

    choice_id: UUID
    since: date
    routine: RoutineOut


class RoutineChoiceIn(In):
    """A routine for a tree, a stop or a whole site, from today on."""

    tree_id: UUID | None = None
    stop_id: UUID | None = None
    site_id: UUID | None = None
    routine: RoutineIn
    person_id: UUID | None = None

    @model_validator(mode="after")
    def _one_of_them(self) -> "RoutineChoiceIn":
        if sum(one is not None for one in (self.tree_id, self.stop_id, self.site_id)) != 1:
            raise ValueError("name one tree, one stop or one site")
        return self


class RoutineChoiceOut(Out):
    """What was chosen."""

    choice_id: UUID
    trees: int
    since: date
    routine: RoutineOut
    withdrawn: bool
