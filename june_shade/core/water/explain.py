"""The sum behind a watering: from ball and soil to litres and minutes, line by line, for one tree."""

import numpy as np

from june_shade.core.water import delivery, refill
from june_shade.core.water.balance import cold_factor, demand_l, plant_factor
from june_shade.core.water.delivery import Delivery, Pour
from june_shade.core.water.stores import Trees, dryness, some
from june_shade.core.water.walk import Morning
from june_shade.core.working import CALIBRATED, COMMON_PRACTICE, Line, line

BALANCE = "three-store balance [FAO56] ch. 8"


def of_one(trees: Trees, morning: Morning, i: int) -> tuple[Trees, Morning]:
    """The arrays of one tree out of many, and its morning."""

    at = slice(i, i + 1)
    return some(trees, at), Morning(
        morning.day, morning.active[at], some(morning.state, at), some(morning.ground, at), some(morning.weather, at),
        morning.joined_l[at],
    )  # fmt: skip


def stores(trees: Trees, morning: Morning) -> tuple[Line, ...]:
    """What the ball and the ring hold today and how dry they are."""
    g, state = morning.ground, morning.state
    v = _first
    radius = v(trees.ball_radius_m)
    k = v(trees.ball_volume_l) / (1000 * np.pi * radius**2 * v(trees.ball_height_m))
    return (
        line("ball_volume", "V_b = 1000 k π r_b² h_b", v(trees.ball_volume_l), "L", "[Z60] practice",
             k=(k, ""), r_b=(radius, "m"), h_b=(v(trees.ball_height_m), "m")),
        line("ball_taw", "TAW_b = AWC_b V_b", v(trees.ball_taw_l), "L", "[FAO56] eq. 82",
             AWC_b=(v(trees.ball_awc), ""), V_b=(v(trees.ball_volume_l), "L")),
        line("ball_depletion", "D_b", v(state.ball_depletion_l), "L", BALANCE),
        line("root_radius", "R", v(state.root_radius_m), "m", CALIBRATED,
             R_T=(v(trees.established_radius_m), "m")),
        line("ring_volume", "V_n = φ (1000 π R'² z − V_b)", v(g.near_volume_l), "L", "exact geometry",
             **{"φ": (v(g.near_share), ""), "R'": (v(g.ring_radius_m), "m")},
             z=(v(g.root_depth_m), "m"), V_b=(v(trees.ball_volume_l), "L")),
        line("ring_taw", "TAW_n = AWC_s V_n", v(g.near_taw_l), "L", "[FAO56] eq. 82, table 19",
             AWC_s=(v(trees.soil_awc), ""), V_n=(v(g.near_volume_l), "L")),
        line("ring_depletion", "D_n", v(state.near_depletion_l), "L", BALANCE),
        line("uptake_share", "f_b = V_b / (V_b + 0.25 V_x)", v(g.uptake_from_ball), "", CALIBRATED,
             V_b=(v(trees.ball_volume_l), "L"), V_x=(v(_rooted_l(trees, g, state)), "L")),
        line("reach", "f_b + (1 − f_b) φ", v(g.reach), "", CALIBRATED, f_b=(v(g.uptake_from_ball), ""),
             **{"φ": (v(g.near_share), "")}),
        line("dryness", "(f_b max(0, D_b)/TAW_b + f_n max(0, D_n)/TAW_n) / (f_b + f_n)",
             v(dryness(trees, g, state.ball_depletion_l, state.near_depletion_l)), "", BALANCE,
             f_b=(v(g.uptake_from_ball), ""), f_n=(v(g.uptake_from_near), ""),
             D_b=(v(state.ball_depletion_l), "L"), TAW_b=(v(trees.ball_taw_l), "L"),
             D_n=(v(state.near_depletion_l), "L"), TAW_n=(v(g.near_taw_l), "L")),
    )  # fmt: skip


def _rooted_l(trees: Trees, g, state):
    """Rooted soil outside the ball V_x [L]."""
    beside = state.root_radius_m**2 * g.root_depth_m - trees.ball_radius_m**2 * trees.ball_height_m
    return 1000 * np.pi * beside


def demand(trees: Trees, morning: Morning) -> tuple[Line, ...]:
    """What the tree would drink on the day."""
    v, g, w = _first, morning.ground, morning.weather
    litres = v(demand_l(trees, g, w))
    area = v(trees.crown_area_m2)
    leaf, micro = v(w.leaf), v(trees.microclimate)
    eto = float(w.eto_mm)
    factor, cold = v(plant_factor(trees, g)), v(cold_factor(w.five_days_c))
    return (
        line("demand", "E = ETo × plant factor × microclimate × crown area × leaf × cold", litres, "L",
             "[SLIDE], [S623]",
             **{"ETo": (eto, "mm"), "plant factor": (factor, ""), "microclimate": (micro, ""),
                "crown area": (area, "m2"), "leaf": (leaf, ""), "cold": (cold, "")}),
    )  # fmt: skip


def visit(
    trees: Trees,
    morning: Morning,
    how: Delivery,
    pour: Pour,
    gross: float,
    loss_l: float,
    intake_mm_h: float,
    *,
    line_run: bool = False,
) -> tuple[Line, ...]:
    """How much and how long: net, poured, rounded, minutes, goes. line_run: its line runs for the neediest tree."""
    v, g, state = _first, morning.ground, morning.state
    wanted = refill.refill(g, state)
    share, arriving = v(g.share), delivery.efficiency(how.method)
    lines = [
        line("ball_share", "s = share of the water that lands on the ball", share, "", COMMON_PRACTICE),
        line("net", "N = min(max(N_b, N_n), C)", v(wanted.net_l), "L", BALANCE,
             D_b=(v(state.ball_depletion_l), "L"), D_n=(v(state.near_depletion_l), "L"), s=(share, ""),
             s_n=(v(g.near_lands), ""), C=(min(v(wanted.cap_l), 1e9), "L")),
    ]  # fmt: skip
    if how.leaching > 0:
        lines.append(
            line("leaching", "LR = EC_w / (5 EC_e − EC_w), at most 0.3", how.leaching, "", "[FAO29]")
        )  # fmt: skip
    if how.reservoir_l > 0:
        lines.append(line("reservoir", "what the box holds", how.reservoir_l, "L", COMMON_PRACTICE))
    if line_run:
        lines.append(
            line("line_run", "as long as the neediest tree of the line wants", pour.litres, "L", COMMON_PRACTICE)
        )
    else:
        name, value = (
            ("room in the box", gross * arriving * (1 - how.leaching))
            if how.reservoir_l > 0
            else ("N", v(wanted.net_l))
        )
        inputs = {name: (value, "L"), "mulch wetting": (loss_l, "L"), "efficiency": (arriving, "")}
        if how.leaching > 0:
            inputs["LR"] = (how.leaching, "")
        formula = f"({name} + mulch wetting) / efficiency" + (" / (1 − LR)" if how.leaching > 0 else "")
        lines += [
            line("gross", formula, gross, "L", COMMON_PRACTICE, **inputs),
            line("pour", "rounded up to what can be poured", pour.litres, "L", COMMON_PRACTICE, gross=(gross, "L")),
        ]  # fmt: skip
    if how.method == "emitters":
        lines.append(
            line("minutes", "litres / (emitters × flow)", pour.run_min, "min", "arithmetic",
                 litres=(pour.litres, "L"), emitters=(how.emitters, ""), flow=(how.emitter_flow_l_h, "L/h"))
        )  # fmt: skip
    else:
        lines.append(
            line("minutes", "litres / flow", pour.run_min, "min", "arithmetic",
                 litres=(pour.litres, "L"), flow=(delivery.flow_l_h(how), "L/h"))
        )  # fmt: skip
    if pour.goes.count > 1:
        rate, _, storage = delivery.intensity(how, v(trees.ball_radius_m), intake_mm_h)
        lines.append(
            line("goes", "run S/(a − i), rest S/i", pour.goes.run_min, "min", "[TM5] table 7",
                 S=(storage, "mm"), a=(rate, "mm/h"), i=(intake_mm_h, "mm/h"))
        )  # fmt: skip
    return tuple(lines)


def _first(value) -> float:
    return float(np.ravel(value)[0])
