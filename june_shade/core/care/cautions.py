"""Which cautions apply today. Codes only; the interface words them (common practice, [NIOSH], local rules)."""

HOT_HOSE_C = 27.0
"""From this high a hose lying in the sun scalds roots until it has run (common practice)."""
HEAT_C = 32.0
"""From this high the crew's own water, shade and rest come first ([NIOSH] 2016-106; common practice)."""


FREEZES_BELOW_C = 4.0
"""A day with a lower mean can freeze what stands in hoses, valves and boxes overnight (common practice)."""
FREEZES_IN = {"emitters", "soaker", "sprinkler", "wicked", "tank"}


def for_day(tmax_c: float, workable: bool, methods: set[str], *, tmean_c: float | None = None) -> tuple[str, ...]:
    """Caution codes for a day with this high and mean [degC], and the ways of pouring that are used."""
    found = []
    if not workable:
        found.append("frozen")
    if tmax_c >= HOT_HOSE_C and methods & {"hose", "bag", "soaker", "sprinkler", "wicked"}:
        found.append("hot_hose")
    if tmean_c is not None and tmean_c < FREEZES_BELOW_C and methods & FREEZES_IN:
        found.append("drain_lines")
    if tmax_c >= HEAT_C:
        found.append("heat")
    return tuple(found)
