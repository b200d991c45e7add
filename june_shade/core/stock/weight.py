"""What a ball weighs and how it is lifted (common practice; employers' and local rules come first)."""

from june_shade.core.stock.balls import FIELD_SOIL_KINDS

FIELD_SOIL_KG_L, CONTAINER_MIX_KG_L = 1.7, 1.0
"""Moist field soil with roots; wet container mix (common practice)."""
SOAKED_FIELD_SHARE = 1.15
"""A soaked ball of field soil over a moist one (common practice: 10 to 15 % more)."""
LIFTS_KG = ((23.0, "one_person"), (45.0, "two_people"), (100.0, "cart_or_sling"))
HEAVIEST_LIFT = "machine"


def ball_kg(kind: str, ball_volume_l: float, *, soaked: bool = False) -> float:
    """Weight of a ball [kg] without its tree. Bare-root stock has none."""
    if kind == "bare_root":
        return 0.0
    if kind in FIELD_SOIL_KINDS:
        return ball_volume_l * FIELD_SOIL_KG_L * (SOAKED_FIELD_SHARE if soaked else 1.0)
    return ball_volume_l * CONTAINER_MIX_KG_L


def lift(kg: float) -> str:
    """How a weight is lifted: one_person, two_people, cart_or_sling or machine.

    kg: weight of what is lifted [kg].
    """
    for most, word in LIFTS_KG:
        if kg <= most:
            return word
    return HEAVIEST_LIFT
