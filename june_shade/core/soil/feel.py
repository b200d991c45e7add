"""What a finger or a trowel says about the water that is left (common practice; [NRCS98])."""

from june_shade.core.errors import InputError

WETNESS = {"wet": 1.0, "moist": 0.75, "drying": 0.5, "dry": 0.2}
"""Share of available water by feel: ball at 10-15 cm down, ring 30 cm out, never the surface."""


def wetness(feel: str) -> float:
    """Share of available water 0..1 for a feel. Raises InputError for another word."""
    try:
        return WETNESS[feel]
    except KeyError:
        raise InputError(f"must be one of {', '.join(WETNESS)}, not {feel!r}", "feel") from None
