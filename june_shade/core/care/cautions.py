"""Which cautions apply today. Codes only; the interface words them (common practice, [NIOSH], local rules)."""

HOT_HOSE_C = 27.0
"""From this high a hose lying in the sun scalds roots until it has run (common practice)."""
HEAT_C = 32.0
"""From this high the crew's own water, shade and rest come first ([NIOSH] 2016-106; common practice)."""


OF_TASKS = {
    "pest_look": "label", "stake_off": "blades", "wrap_off": "blades", "flowers_off": "blades",
    "flowers_thin": "blades", "mulch_stage": "arborist", "mulch_first": "mold", "mulch_top_up": "mold",
    "expose_flare": "digging", "cut_circling": "blades", "arborist": "arborist", "stake_and_firm": "leaning",
    "drain_test": "digging", "take_tie_off": "blades", "identify_pest": "label", "mulch_pull_back": "mold",
    "mulch_thin_out": "mold", "compost": "mold", "feed": "feed", "ring_move": "digging",
}  # fmt: skip
"""The caution that goes with a dated task (common practice; pesticides: the label is the law where they are used)."""

FREEZES_BELOW_C = 4.0
"""A day with a lower mean can freeze what stands in hoses, valves and boxes overnight (common practice)."""
FROST_MARGIN_C = 1.0
"""Near the ground it gets colder than the forecast says, at least so much (common practice)."""
FREEZES_IN = {"emitters", "soaker", "sprinkler", "wicked", "tank"}


def for_day(
    tmax_c: float,
    workable: bool,
    methods: set[str],
    *,
    tmean_c: float | None = None,
    tonight_c: float | None = None,
    tender_c: float | None = None,
    traffic: bool = False,
) -> tuple[str, ...]:
    """Caution codes for a day with this high and mean [degC], and the ways of pouring that are used.

    tonight_c: the coming night's low; tender_c: from here down frost hurts a young tree that stands here [degC].
    traffic: the work is beside moving traffic.
    """
    found = []
    if not workable:
        found.append("frozen")
    if tmax_c >= HOT_HOSE_C and methods & {"hose", "bag", "soaker", "sprinkler", "wicked"}:
        found.append("hot_hose")
    if tmean_c is not None and tmean_c < FREEZES_BELOW_C and methods & FREEZES_IN:
        found.append("drain_lines")
    if tmax_c >= HEAT_C:
        found.append("heat")
    if tonight_c is not None and tender_c is not None and tonight_c <= tender_c + FROST_MARGIN_C:
        found.append("frost_tonight")
    if traffic:
        found.append("traffic")
    return tuple(found)
