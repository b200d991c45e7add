"""What is wanted of a tree in a dry time, to grow, to hold or to survive: a dryness limit and a floor of uptake."""

from dataclasses import dataclass

from june_shade.core.errors import InputError


@dataclass(frozen=True, slots=True)
class Mode:
    """A day may end no drier than dryness_limit, and with no less uptake than ks_floor of the demand (calibrated)."""

    name: str
    dryness_limit: float
    ks_floor: float


MODES = {m.name: m for m in (Mode("grow", 0.5, 0.9), Mode("hold", 0.65, 0.7), Mode("survive", 0.8, 0.4))}


def mode(name: str) -> Mode:
    """A mode by its name. Raises InputError for another word."""
    try:
        return MODES[name]
    except KeyError:
        raise InputError(f"must be one of {', '.join(MODES)}, not {name!r}", "mode") from None
