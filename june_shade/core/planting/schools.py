"""How deep and with what: the schools that practitioners hold, and how each fits this soil, climate and stock.

All are supported; the one chosen by default says why. Raises m, shares 0..1. Source: common practice.
"""

from dataclasses import dataclass
from functools import cache

from june_shade.core import tables
from june_shade.core.errors import InputError
from june_shade.core.soil.textures import SANDS, Soil
from june_shade.core.units import within

FIRMINGS = ("in_layers", "lightly")
"""Firmed in layers so that it can't settle, or hardly at all to keep air: both agree never to tread wet soil."""
DEPTHS = ("proud", "high", "level", "sunken")
BACKFILLS = ("as_dug", "third_compost", "coir_sand", "half_compost")
CLAYS = frozenset({"clay", "silty_clay", "sandy_clay", "clay_loam", "silty_clay_loam"})
LARGE_BALL_M = 0.40
"""Only stock from about this wide on is planted into amended soil (common practice: large stock only)."""


@dataclass(frozen=True, slots=True)
class Judged:
    """What a school is judged against: the soil in force, climate dry or humid, whether it bears heavy fruit."""

    soil: Soil
    climate: str
    thirsty_fruit: bool = False

    @property
    def texture(self) -> str:
        """USDA texture."""
        return self.soil.texture

    @property
    def slow(self) -> bool:
        """Whether water goes down badly."""
        return self.soil.drains == "slow"

    @property
    def free(self) -> bool:
        """Whether water runs through freely."""
        return self.soil.drains == "free"


@dataclass(frozen=True, slots=True)
class Depth:
    """A school of depth: the raise of the flare over grade [m] and its range, how it fits, why it is or isn't chosen.

    fit: suits, possible or poor. because: why it fits so, a code. chosen: by default for this ground.
    """

    school: str
    raise_m: float
    low_m: float
    high_m: float
    fit: str
    because: str
    chosen: bool


@dataclass(frozen=True, slots=True)
class Backfill:
    """A school of backfill: shares of what is mixed in, how it fits, why. barred: not done with this stock at all."""

    school: str
    compost_share: float
    coir_share: float
    sand_share: float
    fit: str
    because: str
    chosen: bool
    barred: bool


@cache
def _rows(name: str) -> dict[str, dict[str, str]]:
    return {row["school"]: row for row in tables.read(name)}


def _depth_fit(school: str, ground: Judged) -> tuple[str, str]:
    if school == "high":
        return ("suits", "slow_ground") if ground.slow else ("possible", "drains_well_enough")
    if school == "level":
        if ground.free:
            return "suits", "free_and_thirsty" if ground.thirsty_fruit else "free_draining"
        return ("poor", "slow_ground_drowns") if ground.slow else ("possible", "settles_below_grade")
    if school == "sunken":
        if ground.climate == "dry" and ground.free:
            return "possible", "arid_and_free"
        return "poor", "rots_without_free_drainage"
    return ("possible", "slow_ground_wants_more") if ground.slow else ("suits", "settles_to_grade")


BARE_RAISE_M = 0.04
BARE_LOW_M, BARE_HIGH_M = 0.025, 0.05
"""Bare roots stand on a small dome with the flare 1 to 2 in above grade, whatever the ground (common practice)."""


def depths(ground: Judged, kind: str = "balled") -> tuple[Depth, ...]:
    """The schools for this ground. High is chosen on slow ground, else proud; a sunken basin never is.

    Bare roots have one rule of their own: on a dome, flare 1 to 2 in above grade.
    """
    if kind == "bare_root":
        return (Depth("proud", BARE_RAISE_M, BARE_LOW_M, BARE_HIGH_M, "suits", "bare_on_a_dome", True),)
    best = "high" if ground.slow else "proud"
    raised = "raise_humid_m" if ground.climate == "humid" else "raise_m"
    found = []
    for school in DEPTHS:
        row, n = _rows("depth_schools")[school], tables.number
        fit, because = _depth_fit(school, ground)
        found.append(Depth(
            school, n(row, raised), n(row, "low_m"), n(row, "high_m"), fit, because, school == best
        ))  # fmt: skip
    return tuple(found)


def depth_school(school: str, raise_m: float) -> None:
    """Refuse a raise that is no part of its school."""
    if school not in DEPTHS:
        raise InputError(f"must be one of {', '.join(DEPTHS)}, not {school!r}", "depth_school")
    row = _rows("depth_schools")[school]
    low, high = tables.number(row, "low_m"), tables.number(row, "high_m")
    if not low - 1e-9 <= raise_m <= high + 1e-9:
        raise InputError(within(raise_m, low, high, "m", f" for {school} planting"), "raise_m")


def bare_at_rule(raise_m: float) -> bool:
    """Whether bare roots stand as they should: flare 1 to 2 in above grade."""
    return BARE_LOW_M - 1e-9 <= raise_m <= BARE_HIGH_M + 1e-9


def school_of(raise_m: float, meant: str) -> str:
    """The school of a planting as it came out: the one that was meant where the raise [m] is part of it, else its own.

    Raises InputError where no school plants so high or deep.
    """
    for school in (meant, *DEPTHS):
        try:
            depth_school(school, raise_m)
        except InputError:
            continue
        return school
    rows = _rows("depth_schools").values()
    low, high = min(tables.number(r, "low_m") for r in rows), max(tables.number(r, "high_m") for r in rows)
    raise InputError(within(raise_m, low, high, "m"), "raise_m")


def _backfill_fit(school: str, ground: Judged, kind: str, ball_m: float) -> tuple[str, str, bool]:
    if school == "as_dug":
        return "suits", "roots_leave_a_plain_hole", False
    if kind == "bare_root":
        return "poor", "never_bare_root", True
    if ball_m < LARGE_BALL_M:
        return "poor", "small_stock", False
    clay, sand = ground.texture in CLAYS, ground.texture in SANDS
    if school == "half_compost":
        return ("possible", "sterile_sand", False) if sand else ("poor", "only_in_sand", False)
    if not clay:
        return "poor", "only_in_clay", False
    return ("possible", "opens_clay", False) if school == "coir_sand" else ("possible", "goes_airless_in_clay", False)


def backfills(ground: Judged, kind: str, ball_diameter_m: float) -> tuple[Backfill, ...]:
    """The schools of backfill for this ground and stock; soil as dug is chosen."""
    found = []
    for school in BACKFILLS:
        row, n = _rows("backfill_schools")[school], tables.number
        fit, because, barred = _backfill_fit(school, ground, kind, ball_diameter_m)
        found.append(Backfill(
            school, n(row, "compost_share"), n(row, "coir_share"), n(row, "sand_share"), fit, because,
            school == "as_dug", barred,
        ))  # fmt: skip
    return tuple(found)


@dataclass(frozen=True, slots=True)
class Mix:
    """What goes back into one hole [L]: the soil that was dug, compost, soaked coir, coarse sand; what is left over.

    poured_through_l: water that washes the mix before it stands open to the air.
    """

    soil_l: float
    compost_l: float
    coir_l: float
    sand_l: float
    spoil_l: float
    poured_through_l: float = 0.0

    @property
    def amendments_l(self) -> float:
        """All that is brought."""
        return self.compost_l + self.coir_l + self.sand_l


def mix(school: str, backfill_l: float, spoil_l: float) -> Mix:
    """A hole's backfill by school: shares by volume; what is mixed in leaves as much soil over."""
    if school not in BACKFILLS:
        raise InputError(f"must be one of {', '.join(BACKFILLS)}, not {school!r}", "backfill_school")
    row = _rows("backfill_schools")[school]
    compost, coir, sand = (tables.number(row, f"{name}_share") * backfill_l for name in ("compost", "coir", "sand"))
    mixed = compost + coir + sand
    return Mix(backfill_l - mixed, compost, coir, sand, spoil_l + mixed, tables.number(row, "poured_through_l"))
