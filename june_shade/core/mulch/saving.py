"""What a ring of mulch saves: the same days gone through with it and without it, by the plan's own rules."""

from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class Saving:
    """A season's water poured [L] and how often, with the ring and without; days that were looked at.

    wetting_l: what of it only wet the mulch.
    """

    with_l: float
    without_l: float
    waterings_with: int
    waterings_without: int
    days: int
    wetting_l: float = 0.0

    @property
    def saved_l(self) -> float:
        """Litres that mulch saves, never under 0."""
        return max(0.0, self.without_l - self.with_l)

    @property
    def none_because(self) -> str | None:
        """Why it saves nothing, as a code: `mulch_drinks` where each pouring wets it first, `little_evaporates` else;
        None where it saves."""
        if self.without_l > self.with_l:
            return None
        return "mulch_drinks" if self.wetting_l > 0 else "little_evaporates"
