"""The soil that a plan goes by: the table's for the texture typed, with every accepted test laid over it.

For each quantity the newest test that gives it counts; a measured value beats a table's. A test of the hand or of the
hole never undoes what another kind measured: they give different quantities.
"""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field
from datetime import date
from typing import Any

from june_shade.core.errors import InputError
from june_shade.core.soil import by_hand, field_tests, pedotransfer, triangle
from june_shade.core.soil.textures import Soil, override, soil

KINDS = ("crumble", "clump", "jar", "ribbon", "percentages", "drain_hole", "infiltration", "hardpan")
DENSITY_FACTORS = {"loose": 0.9, "usual": 1.0, "firm": 1.1, "compacted": 1.2}
"""How hard ground is packed, as bulk density over the usual one of the soil [SR06]; words are this program's."""
RESTRICTING_G_CM3 = {
    "sand": 1.80, "loamy_sand": 1.80, "sandy_loam": 1.80, "loam": 1.80, "sandy_clay_loam": 1.75, "clay_loam": 1.75,
    "silt": 1.65, "silt_loam": 1.65, "silty_clay_loam": 1.65, "sandy_clay": 1.58, "silty_clay": 1.58, "clay": 1.47,
}  # fmt: skip
"""Bulk density from which roots hardly get through. Source: [NRCSSQ] (from memory)."""
SHALLOW_M = 0.45
"""Over rock or hardpan nearer than this a ball of usual depth stands in a tub (common practice)."""
LEAST_DEPTH_M = 0.05


@dataclass(frozen=True, slots=True)
class Outcome:
    """What a test says.

    measured: values by name of `Soil` or root_depth_max_m, which the plan goes by once the test is accepted.
    figures: everything else worth telling, numbers by name with their units in it. codes: judgements and doubts.
    texture: USDA class where it gives one, neighbour: the class beside it that it may be as well.
    """

    measured: Mapping[str, float] = field(default_factory=dict)
    figures: Mapping[str, float] = field(default_factory=dict)
    codes: tuple[str, ...] = ()
    texture: str | None = None
    neighbour: str | None = None
    drain_cap: float | None = None
    hole_class: str | None = None

    @property
    def changes_plans(self) -> bool:
        """Whether a plan can go by it at all."""
        return bool(self.measured) or self.texture is not None or self.drain_cap is not None


@dataclass(frozen=True, slots=True)
class SoilTest:
    """An accepted test: its kind, the day it was taken, what was read."""

    kind: str
    day: date
    readings: Mapping[str, Any]


@dataclass(frozen=True, slots=True)
class Origin:
    """Which test a value comes from: its kind and day."""

    kind: str
    day: date


@dataclass(frozen=True, slots=True)
class InForce:
    """The soil and depth that a plan goes by; origin: the test behind each quantity that has one."""

    soil: Soil
    root_depth_max_m: float
    origin: Mapping[str, Origin] = field(default_factory=dict)


def _percentages(sand: float, silt: float, clay: float, readings: Mapping[str, Any]) -> Outcome:
    """A soil from its percentages; by [SR06] where organic matter or packing is known, else by its class."""
    sand, silt, clay = triangle.normalised(sand, silt, clay)
    texture = triangle.texture(sand, silt, clay)
    figures = {"sand_percent": sand, "silt_percent": silt, "clay_percent": clay}
    organic, packing = readings.get("organic_percent"), readings.get("packing")
    if organic is None and packing is None:
        return Outcome(figures=figures, texture=texture)
    if packing is not None and packing not in DENSITY_FACTORS:
        raise InputError(f"must be one of {', '.join(DENSITY_FACTORS)}, not {packing!r}", "packing")
    usual = 2.5 if organic is None else organic
    factor = DENSITY_FACTORS[packing or "usual"]
    made = pedotransfer.water(sand, clay, usual, factor)
    at_usual = pedotransfer.water(sand, clay, usual)
    if not made.awc > 0.01:
        raise InputError("these percentages leave no water for roots: read them again", "clay_percent")
    # packed ground takes water in slower as it conducts slower (calibrated)
    intake = soil(texture).intake_mm_h * min(1.0, made.conductivity_mm_h / at_usual.conductivity_mm_h)
    measured = {
        "wilting_point": made.wilting_point, "awc": made.awc, "drainable": max(0.02, made.drainable),
        "conductivity_mm_h": max(made.conductivity_mm_h, 0.01), "intake_mm_h": max(intake, 0.1),
    }  # fmt: skip
    codes = ("roots_stopped",) if made.bulk_density >= RESTRICTING_G_CM3[texture] else ()
    return Outcome(measured, figures | {"bulk_density_g_cm3": made.bulk_density}, codes, texture)


def _jar(r: Mapping[str, Any]) -> Outcome:
    found = field_tests.jar(r["sand_top_m"] * 1000, r["silt_top_m"] * 1000, r["clay_top_m"] * 1000)
    doubts = field_tests.jar_doubts(r.get("sand_after_s"), r.get("silt_after_h"), r.get("clay_after_h"))
    made = _percentages(found.sand_percent, found.silt_percent, found.clay_percent, r)
    other = found.less_clay if found.less_clay != found.texture else None
    return Outcome(made.measured, made.figures, (*doubts, *made.codes), found.texture, other)


def _lab(r: Mapping[str, Any]) -> Outcome:
    return _percentages(r["sand_percent"], r["silt_percent"], r["clay_percent"], r)


def _hole(r: Mapping[str, Any]) -> Outcome:
    found = field_tests.drain_hole(r["first_depth_m"], r["last_depth_m"], r["minutes"] / 60, r["across_m"] / 2)
    figures = {"fall_mm_h": found.fall_mm_h, "conductivity_mm_h": found.conductivity_mm_h}
    measured = {"conductivity_mm_h": max(found.conductivity_mm_h, 0.01)}
    return Outcome(
        measured, figures, (f"drains_{found.klass}",), drain_cap=found.drain_share_cap, hole_class=found.klass
    )


def _infiltration(r: Mapping[str, Any]) -> Outcome:
    intake = field_tests.intake_mm_h(r["fallen_m"], r["minutes"])
    if intake < 0.1:
        return Outcome({"intake_mm_h": 0.1}, {"intake_mm_h": intake}, ("takes_nothing",))
    return Outcome({"intake_mm_h": intake}, {"intake_mm_h": intake})


def _hardpan(r: Mapping[str, Any]) -> Outcome:
    depth = r["depth_m"]
    if depth < LEAST_DEPTH_M:
        raise InputError(f"must be at least {LEAST_DEPTH_M:g}", "depth_m")
    return Outcome({"root_depth_max_m": depth}, {"depth_m": depth}, ("shallow",) if depth < SHALLOW_M else ())


def _ribbon(r: Mapping[str, Any]) -> Outcome:
    return Outcome(texture=by_hand.ribbon(r["ribbon"], r.get("pinch") or "neither"))


def _crumble(r: Mapping[str, Any]) -> Outcome:
    return Outcome(codes=(by_hand.crumble(r["found"], r.get("rain_before_mm") or 0.0).code,))


def _clump(r: Mapping[str, Any]) -> Outcome:
    return Outcome(codes=(f"clump_{by_hand.clump(r['found'])}",))


_READ: dict[str, Callable[[Mapping[str, Any]], Outcome]] = {
    "crumble": _crumble, "clump": _clump, "jar": _jar, "ribbon": _ribbon, "percentages": _lab, "drain_hole": _hole,
    "infiltration": _infiltration, "hardpan": _hardpan,
}  # fmt: skip


_TYPED_AS = {
    "sand_top_mm": "sand_top_m", "silt_top_mm": "silt_top_m", "clay_top_mm": "clay_top_m", "hours": "minutes",
    "radius_m": "across_m", "sand": "sand_percent", "silt": "silt_percent", "clay": "clay_percent",
    "organic_matter": "organic_percent",
}  # fmt: skip
"""Names under which readings are typed, by those of the rules they go into."""


def outcome(kind: str, readings: Mapping[str, Any]) -> Outcome:
    """What a test of a kind says from its readings. Raises InputError for readings that can't be."""
    if kind not in _READ:
        raise InputError(f"must be one of {', '.join(KINDS)}, not {kind!r}", "kind")
    try:
        return _READ[kind](readings)
    except InputError as e:
        e.field = _TYPED_AS.get(e.field, e.field)
        raise


def in_force(texture: str, root_depth_max_m: float, tests: Sequence[SoilTest]) -> InForce:
    """The soil typed, with accepted tests laid over it; of two that give the same quantity the later one counts.

    A new texture brings the whole table row with it and forgets values that an older texture test computed, but not
    what a hole, a ring or a probe measured.
    """
    base, depth = soil(texture), root_depth_max_m
    origin: dict[str, Origin] = {}
    computed: dict[str, float] = {}
    measured: dict[str, float] = {}
    cap: float | None = None
    hole_class: str | None = None
    for test in sorted(tests, key=lambda t: t.day):
        found, mark = outcome(test.kind, test.readings), Origin(test.kind, test.day)
        if found.texture is not None:
            base = soil(found.texture)
            origin = {name: known for name, known in origin.items() if name not in computed or name in measured}
            computed = dict(found.measured)
            origin |= dict.fromkeys(("texture", *(n for n in computed if n not in measured)), mark)
        else:
            measured |= found.measured
            origin |= dict.fromkeys(found.measured, mark)
        if test.kind == "drain_hole":
            cap, hole_class = found.drain_cap, found.hole_class
            origin.pop("drain_share", None)
            if cap is not None:
                origin["drain_share"] = mark
    values = computed | measured
    depth = values.pop("root_depth_max_m", depth)
    if cap is not None:
        values["drain_share"] = min(base.drain_share, cap)
    return InForce(override(base, hole_class=hole_class, **values), depth, origin)
