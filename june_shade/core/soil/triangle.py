"""USDA texture class from sand, silt and clay [percent], by the inequalities of the Soil Survey Manual [AH18].

On the edges between classes libraries differ; here the manual's own inequalities decide.
"""

from june_shade.core.errors import InputError

SUM_SLACK_PERCENT = 2.0
"""Percentages that sum to 98 to 102 are taken as slips of rounding and scaled to 100; others are refused."""


def normalised(sand: float, silt: float, clay: float) -> tuple[float, float, float]:
    """The three percentages scaled to a sum of 100. Raises InputError where they can't be one soil.

    sand, silt, clay: percent by weight.
    """
    for name, value in (("sand", sand), ("silt", silt), ("clay", clay)):
        if not 0 <= value <= 100:
            raise InputError(f"must lie between 0 and 100 %, not {value:g}", name)
    total = sand + silt + clay
    if abs(total - 100) > SUM_SLACK_PERCENT:
        raise InputError(f"sand, silt and clay sum to {total:g} %, not to 100", "sand")
    return sand * 100 / total, silt * 100 / total, clay * 100 / total


def texture(sand: float, silt: float, clay: float) -> str:
    """USDA class (underscores) of percentages that sum to 100. Source: [AH18] ch. 3.

    sand, silt, clay: percent by weight.
    """
    s, i, c = normalised(sand, silt, clay)
    if i + 1.5 * c < 15:
        return "sand"
    if i + 2 * c < 30:
        return "loamy_sand"
    if (7 <= c < 20 and s > 52) or (c < 7 and i < 50):
        return "sandy_loam"
    if 7 <= c < 27 and 28 <= i < 50 and s <= 52:
        return "loam"
    if (i >= 50 and 12 <= c < 27) or (50 <= i < 80 and c < 12):
        return "silt_loam"
    if i >= 80 and c < 12:
        return "silt"
    if 20 <= c < 35 and i < 28 and s > 45:
        return "sandy_clay_loam"
    if 27 <= c < 40 and 20 < s <= 45:
        return "clay_loam"
    if 27 <= c < 40 and s <= 20:
        return "silty_clay_loam"
    if c >= 35 and s > 45:
        return "sandy_clay"
    if c >= 40 and i >= 40:
        return "silty_clay"
    return "clay"
