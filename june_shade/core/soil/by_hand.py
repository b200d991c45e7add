"""What a hand says about soil: whether it can be worked, how moist it is, and its texture by ribbon and feel."""

from dataclasses import dataclass

from june_shade.core.errors import InputError

CRUMBLES = ("crumbles", "sticky", "powder")
CLUMPS = ("falls_apart", "holds", "modelling_clay")
RIBBONS = ("no_ball", "no_ribbon", "short", "medium", "long")
"""Ribbon pushed out between thumb and finger before it breaks: under 2.5 cm, to 5 cm, over 5 cm [Thien79]."""
PINCHES = ("gritty", "smooth", "neither")

HEAVY_RAIN_MM = 10.0
"""From so much rain the day before, dry clods on top are no proof of what lies below (common practice)."""

_BY_RIBBON = {
    "short": {"gritty": "sandy_loam", "smooth": "silt_loam", "neither": "loam"},
    "medium": {"gritty": "sandy_clay_loam", "smooth": "silty_clay_loam", "neither": "clay_loam"},
    "long": {"gritty": "sandy_clay", "smooth": "silty_clay", "neither": "clay"},
}


@dataclass(frozen=True, slots=True)
class Workability:
    """Whether the ground can be worked today; code: workable, after_rain, wait, moisten."""

    today: bool
    code: str


def _known(value: str, words: tuple[str, ...], field: str) -> None:
    if value not in words:
        raise InputError(f"must be one of {', '.join(words)}, not {value!r}", field)


def crumble(found: str, rain_before_mm: float = 0.0) -> Workability:
    """The crumble test (common practice): a handful from the depth of the hole, rubbed between the fingers.

    rain_before_mm: rain of the day before [mm], after which dry clods on top prove nothing.
    """
    _known(found, CRUMBLES, "found")
    if found == "sticky":
        return Workability(False, "wait")
    if found == "powder":
        return Workability(False, "moisten")
    if rain_before_mm >= HEAVY_RAIN_MM:
        return Workability(False, "after_rain")
    return Workability(True, "workable")


def clump(found: str) -> str:
    """The squeezed clump in one word: dry, moist or too_wet (common practice)."""
    _known(found, CLUMPS, "found")
    return {"falls_apart": "dry", "holds": "moist", "modelling_clay": "too_wet"}[found]


def ribbon(length: str, pinch: str = "neither") -> str:
    """USDA texture by ribbon length and the feel of a wet pinch. Source: [Thien79] (from memory)."""
    _known(length, RIBBONS, "ribbon")
    _known(pinch, PINCHES, "pinch")
    if length == "no_ball":
        return "sand"
    if length == "no_ribbon":
        return "loamy_sand"
    return _BY_RIBBON[length][pinch]
