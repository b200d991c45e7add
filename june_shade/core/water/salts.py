"""Salty and reclaimed water: how much more is poured to wash salts down, and when the water is beyond the tree.

Electrical conductivity in dS/m: EC_w of the water, EC_e of the saturated soil extract that a plant tolerates.
"""

import math
from dataclasses import dataclass
from functools import cache

from june_shade.core.errors import InputError

SOURCES = ("potable", "well", "reclaimed", "pond")
ASSUMED_EC_DS_M = {"reclaimed": 1.2}
"""Taken where nothing was measured: the middle of 0.8 to 1.6 (from memory)."""
MAX_ECE_DS_M = {"very_sensitive": 1.5, "sensitive": 3.0, "moderate": 5.0, "tolerant": 7.0, "very_tolerant": 9.0}
"""Middle of each class of ornamental trees. Source: [FAO61] after Maas 1986 (from memory)."""
TOLERANCES = tuple(MAX_ECE_DS_M)
NEW_DAYS = 365
"""A tree stands salt one class worse than its kind for so long after planting (common practice)."""
MOST_LEACHING = 0.3
"""From this share on the water is beyond the tree: leaching more only drowns it (common practice)."""
SLIGHT_FROM_EC, SEVERE_FROM_EC = 0.7, 3.0
SAR_BANDS = ((3.0, 0.7, 0.2), (6.0, 1.2, 0.3), (12.0, 1.9, 0.5), (20.0, 2.9, 1.3), (40.0, 5.0, 2.9))
"""Up to this SAR; EC from which intake does not suffer; EC under which it suffers badly. Source: [FAO29] table 1."""


@dataclass(frozen=True, slots=True)
class Leaching:
    """share of the water that only washes salts down, 0..0.3; what the soil may reach; whether it is too salty."""

    share: float
    ece_ds_m: float
    beyond: bool


def requirement(ecw_ds_m: float, ece_ds_m: float) -> float:
    """Leaching requirement EC_w / (5 EC_e - EC_w), inf where no leaching would do. Source: [FAO29] after Rhoades."""
    if ecw_ds_m < 0:
        raise InputError(f"must be at least 0, not {ecw_ds_m:g}", "water_ec_ds_m")
    left = 5 * ece_ds_m - ecw_ds_m
    return ecw_ds_m / left if left > 0 else math.inf


@cache
def for_tree(ecw_ds_m: float, tolerance: str, *, newly_planted: bool) -> Leaching:
    """Leaching for a tree of a tolerance class; in its first year it counts one class lower (common practice)."""
    if tolerance not in MAX_ECE_DS_M:
        raise InputError(f"must be one of {', '.join(TOLERANCES)}, not {tolerance!r}", "salt_tolerance")
    place = TOLERANCES.index(tolerance) - int(newly_planted)
    ece = MAX_ECE_DS_M[TOLERANCES[max(0, place)]]
    if ecw_ds_m < SLIGHT_FROM_EC:
        return Leaching(0.0, ece, False)
    wanted = requirement(ecw_ds_m, ece)
    return Leaching(min(wanted, MOST_LEACHING), ece, wanted >= MOST_LEACHING)


def judge(source: str, ec_ds_m: float | None, sar_ratio: float | None) -> tuple[str, ...]:
    """What is to be said of a water, as codes: reclaimed, pond, salty, very_salty, ec_assumed, seals, may_seal.

    sar_ratio: sodium adsorption ratio [-], None = not known.
    """
    if source not in SOURCES:
        raise InputError(f"must be one of {', '.join(SOURCES)}, not {source!r}", "water_source")
    found = [source] if source in ("reclaimed", "pond") else []
    ec = conductivity(source, ec_ds_m)
    if ec_ds_m is None and ec > 0:
        found.append("ec_assumed")
    if ec >= SEVERE_FROM_EC:
        found.append("very_salty")
    elif ec >= SLIGHT_FROM_EC:
        found.append("salty")
    if sar_ratio is not None and ec_ds_m is not None:
        fine, bad = next(((a, b) for most, a, b in SAR_BANDS if sar_ratio <= most), SAR_BANDS[-1][1:])
        if ec_ds_m < bad:
            found.append("seals")
        elif ec_ds_m < fine:
            found.append("may_seal")
    return tuple(found)


def conductivity(source: str, ec_ds_m: float | None) -> float:
    """The measured conductivity [dS/m], else what is assumed of the source, 0 where nothing is known of it."""
    return ec_ds_m if ec_ds_m is not None else ASSUMED_EC_DS_M.get(source, 0.0)
