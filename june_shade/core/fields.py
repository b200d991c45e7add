"""What people type of a tree: a row a field, here alone.

What takes fields in or shows them follows from it: limits, the file's columns, what an empty cell means, what a form
begins with, and how much of the plan rests on each.

The typed classes and the columns of the database are written out; a test holds them to these rows.
"""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any, Literal

from june_shade.core.choosing.harm import WORTH
from june_shade.core.mulch.materials import materials
from june_shade.core.mulch.ring import CLEAR_GAP_M
from june_shade.core.stock.balls import KINDS
from june_shade.core.units import in_m
from june_shade.core.water.delivery import METHODS
from june_shade.core.water.modes import MODES
from june_shade.core.water.trees import SURROUNDS


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


LEAST = {"m": 1e-3, "L": 1e-2, "L/h": 1e-2, "L/h/m": 1e-2, "mm": 1e-2, "min": 1e-3, "h": 1e-3, "deg": 0.0}
"""The least that a measure other than 0 can be, by unit: below what any tape, can or watch tells."""


def least_of(unit: str) -> float:
    """The least that a number of this unit can be unless it is 0."""
    return LEAST.get(unit, 1e-6)


PLACES = (("deep_shade", 0.5), ("shade", 0.7), ("open", 1.0), ("hot_or_windy", 1.2), ("hot_wall", 1.4))
"""Demand of a place over that of open ground, by what it looks like. Source: [Costello2000] (from memory)."""
GIVEN = "must be given"
"""Stands where a field has no value that it could mean when it is left out."""


@dataclass(frozen=True, slots=True)
class TreeField:
    """One field of a tree.

    name: as a file's column and a person's word; column: in the database, where that is another (a site has a name
    and an id). unit: m, L, L/h, L/h/m, deg, "" for none. named: values that have a name of their own. empty: what it
    means left out, GIVEN = it can't be. usual: what a form begins with, None = nothing. rests: what of the plan rests
    on it: all of a tree's computed past, the way it is watered from a day on, the plan under limits, or only what
    pages show. filed: whether
    it stands in the register's file.
    """

    name: str
    kind: Literal["words", "day", "choice", "number", "whole"]
    unit: str = ""
    limits: Limits | None = None
    choices: tuple[str, ...] = ()
    named: tuple[tuple[str, float], ...] = ()
    longest: int | None = None
    empty: Any = None
    usual: Any = None
    rests: Literal["past", "way", "limits", "page"] = "page"
    column: str = ""
    filed: bool = True


def _words(name: str, longest: int = 200, **more: Any) -> TreeField:
    return TreeField(name, "words", longest=longest, **{"empty": "", "usual": more.get("empty", "")} | more)


def _day(name: str, **more: Any) -> TreeField:
    return TreeField(name, "day", **{"rests": "past"} | more)


def _choice(name: str, choices: Any, **more: Any) -> TreeField:
    return TreeField(name, "choice", choices=tuple(choices), **{"rests": "past"} | more)


def _number(name: str, unit: str, high: float, *, low: float | None = None, **more: Any) -> TreeField:
    """low: the least it can be; None = above 0."""
    limits = Limits(above=0, high=high) if low is None else Limits(low=low, high=high)
    return TreeField(name, "number", unit, limits, **{"rests": "past"} | more)


TREE: tuple[TreeField, ...] = (
    _words("site", empty=GIVEN, column="site_id"),
    _words("tag", 80, empty=GIVEN),
    _words("place"),
    _words("side"),
    _words("note_for_crew", 300),
    _words("stop", empty=None, column="stop_id"),
    TreeField("row_place", "whole", limits=Limits(low=0, high=100000), empty=0, usual=0),
    _words("line", empty=None, column="line_id", rests="past"),
    _words("species", empty=GIVEN, column="plant_id", rests="past"),
    _words("stock_size_id", filed=False, empty=None),
    _choice("kind", KINDS, empty=GIVEN, usual="balled"),
    _number("caliper_m", "m", 0.5, empty=GIVEN),
    _number("ball_diameter_m", "m", 3, empty=GIVEN),
    _number("ball_height_m", "m", 2, empty=GIVEN),
    _number("ball_volume_l", "L", 10000),
    _number("crown_diameter_m", "m", 30, low=0),
    _day("planted_on", empty=GIVEN),
    _day("bud_break_on"),
    _number("microclimate", "", 1.4, low=0.5, empty=1.0, usual=1.0, named=PLACES),
    _choice("surround", SURROUNDS, empty="bare", usual="bare"),
    _choice("method", METHODS, empty="hose", usual="hose", rests="way"),
    _number("basin_diameter_m", "m", 6, usual=0.9, rests="way"),
    _number("basin_depth_m", "m", 0.5, usual=0.08, rests="way"),
    TreeField("emitter_count", "whole", limits=Limits(low=0, high=200), empty=0, usual=4, rests="way"),
    _number("emitter_flow_l_per_h", "L/h", 200, low=0, empty=0.0, usual=4.0, rests="way"),
    _number("bag_capacity_l", "L", 400, empty=75.0, usual=75.0, rests="way"),
    _number("soaker_across_m", "m", 6, usual=0.3, rests="way"),
    _number("soaker_flow_l_per_h_m", "L/h/m", 60, usual=5.0, rests="way"),
    _number("sprinkler_across_m", "m", 20, usual=2.0, rests="way"),
    _number("sprinkler_flow_l_per_h", "L/h", 5000, usual=60.0, rests="way"),
    _number("reservoir_l", "L", 500, usual=55.0, rests="way"),
    _choice("mode", MODES),
    _number("worth", "", 2, low=0.5, empty=1.0, usual=1.0, named=tuple(WORTH.items()), rests="limits"),
    _choice("mulch_material", materials()),
    _number("mulch_depth_m", "m", 0.6, low=0, empty=0.0, usual=0.075),
    _number("mulch_outer_radius_m", "m", 10, usual=0.75),
    _day("mulch_measured_on"),
    _number("edging_m", "m", 3, low=0, empty=0.0, usual=0.0, rests="page"),
    _number("latitude_deg", "deg", 90, low=-90, rests="page"),
    _number("longitude_deg", "deg", 180, low=-180, rests="page"),
)
"""Every field, in the order of the file's columns. Limits and usual values: common practice for planted trees."""
BY_NAME: dict[str, TreeField] = {field.name: field for field in TREE}
EMPTY: dict[str, Any] = {field.name: field.empty for field in TREE if field.filed and field.empty is not GIVEN}
"""What each field means where a file's cell is empty or nobody was asked; those that are not here must be given."""


def limits_of(name: str) -> Limits:
    """The range of a number among a tree's fields. Raises KeyError for what is none."""
    limits = BY_NAME[name].limits
    if limits is None:
        raise KeyError(name)
    return limits


def fault(name: str, value: float) -> str:
    """What is wrong with a number of a tree, "" where nothing is. value: in the field's own unit [m, L, L/h, deg]."""
    least = least_of(BY_NAME[name].unit)
    return limits_of(name).fault(value) or (f"must be at least {least:g}" if 0 < abs(value) < least else "")


def columns(*, resting: str | None = None) -> tuple[str, ...]:
    """Columns of the database that people's fields fill; resting: only those of which so much of the plan rests."""
    return tuple(field.column or field.name for field in TREE if resting in (None, field.rests))


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
    if tree.get("worth", 1.0) not in WORTH.values():
        return "worth", "must be 0.5 where it could be spared, 1, or 2 where it is kept for something"
    if tree["mulch_material"] is not None:
        least = tree["caliper_m"] / 2 + CLEAR_GAP_M
        if tree["mulch_outer_radius_m"] is None:
            return "mulch_outer_radius_m", "mulch needs its ring's outer radius"
        if tree["mulch_outer_radius_m"] <= least:
            return "mulch_outer_radius_m", f"must reach past the bare gap round the trunk, {in_m(least)}"
    return None
