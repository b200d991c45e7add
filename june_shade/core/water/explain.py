"""The sum behind a watering: from ball and soil to litres and minutes, line by line, for one tree on one day.

Every formula is arithmetic over the inputs beside it: whoever reckons it through gets the figure. What a line rests on
is a line before it, down to measures and weather.
"""

from dataclasses import dataclass

import numpy as np

from june_shade.core.numbers import Numbers
from june_shade.core.stock.balls import COLLAR_M
from june_shade.core.water import balance, delivery, refill
from june_shade.core.water.ahead import Day
from june_shade.core.water.balance import ROOT_GROWTH_M_PER_DAY, SOGGY_GROWTH, Ledger, growth_factor
from june_shade.core.water.delivery import DayLimit, Delivery, Pour
from june_shade.core.water.ground import ROOT_DENSITY_RING, Ground, deepest_m, dryness
from june_shade.core.water.refill import HELPS_THE_BALL, MENDS_DRYNESS, READY_SHARE
from june_shade.core.water.stores import CREEP_M, Reach, State, Trees, some
from june_shade.core.water.use import cold_factor, demand_l, plant_factor
from june_shade.core.water.walk import Passed, looking
from june_shade.core.working import CALIBRATED, COMMON_PRACTICE, Step, worked

BALANCE = "three-store balance [FAO56] ch. 8"
GEOMETRY = "exact geometry"
READ = "what was felt, weighed [Kalman60]"
NEVER = 1e9
"""Stands for no limit."""


@dataclass(frozen=True, slots=True)
class Opened:
    """One tree out of a plan, arrays (1,): itself, how its water lands, a day as it was decided, the day before."""

    trees: Trees
    reach: Reach
    day: Day
    before: Passed | None

    @property
    def ground(self) -> Ground:
        """The morning's ground."""
        return self.day.passed.morning.ground

    @property
    def state(self) -> State:
        """The morning's state with logged water laid in."""
        return self.day.wetted


def _passed(passed: Passed, at: slice) -> Passed:
    m = passed.morning
    morning = type(m)(
        m.day, m.active[at], some(m.state, at), some(m.ground, at), some(m.weather, at), m.joined_l[at], m.read_l[:, at]
    )  # fmt: skip
    felt = None if passed.felt is None else some(passed.felt, at)
    return Passed(morning, passed.first_l[at], passed.second_l[at], felt)


def of_one(trees: Trees, reach: Reach, day: Day, before: Passed | None, i: int) -> Opened:
    """The arrays of one tree out of many on a day."""
    at = slice(i, i + 1)
    return Opened(
        some(trees, at), some(reach, at),
        Day(_passed(day.passed, at), some(day.moved, at), some(day.wetted, at), some(day.wanted, at),
            some(day.without, at), some(day.with_own, at)),
        None if before is None else _passed(before, at),
    )  # fmt: skip


def _v(value: Numbers) -> float:
    return float(np.ravel(value)[0])


def ball(o: Opened) -> tuple[Step, ...]:
    """What the ball holds."""
    trees = o.trees
    radius, height, volume = _v(trees.ball_radius_m), _v(trees.ball_height_m), _v(trees.ball_volume_l)
    k = volume / (1000 * np.pi * radius**2 * height)
    return (
        worked("ball_volume", "V_b = 1000 k π r_b² h_b", volume, "L", "[Z60] practice",
             k=(k, ""), r_b=(radius, "m"), h_b=(height, "m")),
        worked("ball_taw", "TAW_b = AWC_b V_b", _v(trees.ball_taw_l), "L", "[FAO56] eq. 82",
             AWC_b=(_v(trees.ball_awc), ""), V_b=(volume, "L")),
    )  # fmt: skip


def roots(o: Opened) -> tuple[Step, ...]:
    """How far the roots have got, and how deep."""
    trees, g = o.trees, o.ground
    radius, far = _v(o.state.root_radius_m), _v(trees.established_radius_m)
    lines = []
    if o.before is not None:
        was, weather = o.before.morning.state, o.day.passed.morning.weather
        month = _v(weather.month_c)
        ks, soggy = _v(o.day.passed.morning.state.ks), bool(_v(o.day.passed.morning.state.soggy))
        lines = [
            worked("root_growth", "g = max(0, min(min(1, max(0, (T − 5) / 20))^1.5, (40 − T) / 8, 1))",
                 _v(growth_factor(month)), "", CALIBRATED, T=(month, "degC")),
            worked("root_radius", f"R = min(R_T, R_0 + {ROOT_GROWTH_M_PER_DAY} g Ks v)", radius, "m", CALIBRATED,
                 R_T=(far, "m"), R_0=(_v(was.root_radius_m), "m"), g=(_v(growth_factor(month)), ""), Ks=(ks, ""),
                 v=(SOGGY_GROWTH if soggy else 1.0, "")),
        ]  # fmt: skip
    else:
        lines = [worked("root_radius", "R = r_b + grown", radius, "m", CALIBRATED, r_b=(_v(trees.ball_radius_m), "m"),
                      grown=(radius - _v(trees.ball_radius_m), "m"))]  # fmt: skip
    x, depth = _v(g.establishment), _v(g.root_depth_m)
    r_b, h_b, most = _v(trees.ball_radius_m), _v(trees.ball_height_m), _v(deepest_m(trees, o.reach))
    return (
        *lines,
        worked("established", "x = (R − r_b) / (R_T − r_b)", x, "", CALIBRATED, R=(radius, "m"), r_b=(r_b, "m"),
             R_T=(far, "m")),
        worked("root_depth", "z = h_b + x max(0, z_max − h_b)", depth, "m", CALIBRATED, h_b=(h_b, "m"), x=(x, ""),
             z_max=(most, "m")),
    )  # fmt: skip


def rings(o: Opened) -> tuple[Step, ...]:
    """The soil around: how much of it roots are in, how much of that our water reaches."""
    trees, g, radius = o.trees, o.ground, _v(o.state.root_radius_m)
    r_b, depth, volume_b = _v(trees.ball_radius_m), _v(g.root_depth_m), _v(trees.ball_volume_l)
    outer, whole = _v(g.ring_radius_m), _v(g.near_volume_l) + _v(g.far_volume_l)
    phi, f_b = _v(g.near_share), _v(g.uptake_from_ball)
    rooted = 1000 * np.pi * (radius**2 * depth - r_b**2 * _v(trees.ball_height_m))
    return (
        worked("ring_radius", f"R' = max(R, r_b + {COLLAR_M:g})", outer, "m", CALIBRATED, R=(radius, "m"),
             r_b=(r_b, "m")),
        worked("ring_volume", "V_r = 1000 π R'² z − V_b", whole, "L", GEOMETRY,
             **{"R'": (outer, "m"), "z": (depth, "m"), "V_b": (volume_b, "L")}),
        _phi(o, phi, outer, r_b),
        worked("near_volume", "V_n = φ V_r", _v(g.near_volume_l), "L", GEOMETRY,
             **{"φ": (phi, ""), "V_r": (whole, "L")}),
        worked("ring_taw", "TAW_n = AWC_s V_n", _v(g.near_taw_l), "L", "[FAO56] eq. 82, table 19",
             AWC_s=(_v(trees.soil_awc), ""), V_n=(_v(g.near_volume_l), "L")),
        worked("rooted_volume", "V_x = 1000 π (R² z − r_b² h_b)", rooted, "L", GEOMETRY, R=(radius, "m"),
             z=(depth, "m"), r_b=(r_b, "m"), h_b=(_v(trees.ball_height_m), "m")),
        worked("uptake_share", f"f_b = V_b / (V_b + {ROOT_DENSITY_RING:g} V_x)", f_b, "", CALIBRATED,
             V_b=(volume_b, "L"), V_x=(rooted, "L")),
        worked("near_share", "f_n = (1 − f_b) φ", _v(g.uptake_from_near), "", CALIBRATED, f_b=(f_b, ""),
             **{"φ": (phi, "")}),
        worked("reach", "f_b + f_n", _v(g.reach), "", CALIBRATED, f_b=(f_b, ""), f_n=(_v(g.uptake_from_near), "")),
    )  # fmt: skip


def _phi(o: Opened, phi: float, outer: float, r_b: float) -> Step:
    """How much of the ring our water reaches, by the circle or by drip's wetted ground."""
    circle = _v(o.reach.circle_m2)
    area = np.pi * outer**2 - np.pi * r_b**2
    if o.reach.wetted_m2 is not None and not np.isnan(o.reach.wetted_m2[0, 0]):
        wetted = phi * area
        return worked("phi", "φ = wetted ground of the ring / (π R'² − π r_b²)", phi, "", GEOMETRY,
                    **{"wetted ground of the ring": (wetted, "m2"), "R'": (outer, "m"), "r_b": (r_b, "m")})  # fmt: skip
    if np.isnan(circle):
        return worked("phi", "φ = all", phi, "", COMMON_PRACTICE, all=(1.0, ""))
    r_w = float(np.sqrt(circle / np.pi))
    return worked("phi", f"φ = min(1, max(0.05, ((r_w + {CREEP_M:g})² − r_b²) / (R'² − r_b²)))", phi, "", CALIBRATED,
                **{"r_w": (r_w, "m"), "r_b": (r_b, "m"), "R'": (outer, "m")})  # fmt: skip


def depletions(o: Opened) -> tuple[Step, ...]:
    """What is missing from ball and soil, and how that came to be over the day before."""
    state, morning = o.state, o.day.passed.morning
    found: list[Step] = []
    laid = [_v(morning.state.ball_depletion_l), _v(morning.state.near_depletion_l)]
    if o.before is not None:
        book = _booked(o, o.before)
        for number, name in ((0, "ball"), (1, "near")):
            found.append(_came_to_be(name, book, number))
        evening = float(np.ravel(book.end_l)[1])
        joined = laid[1] - evening + float(morning.read_l[1, 0])
        found.append(
            worked("near_joined", "D_n = evening + taken in", evening + joined, "L", BALANCE, evening=(evening, "L"),
                 **{"taken in": (joined, "L")})
        )  # fmt: skip
    for name, key, number in (("D_b", "ball_read", 0), ("D_n", "near_read", 1)):
        if read := float(morning.read_l[number, 0]):
            found.append(
                worked(key, f"{name} = as reckoned − what was felt", laid[number], "L", READ,
                     **{"as reckoned": (laid[number] + read, "L"), "what was felt": (read, "L")})
            )  # fmt: skip
    now = [_v(state.ball_depletion_l), _v(state.near_depletion_l)]
    for name, key, number in (("D_b", "ball_depletion", 0), ("D_n", "ring_depletion", 1)):
        found.append(
            worked(key, f"{name} = morning − poured today", now[number], "L", BALANCE, morning=(laid[number], "L"),
                 **{"poured today": (laid[number] - now[number], "L")})
        )  # fmt: skip
    g, trees = o.ground, o.trees
    f_b, f_n = _v(g.uptake_from_ball), _v(g.uptake_from_near)
    found.append(
        worked("dryness", "(f_b max(0, D_b) / TAW_b + f_n max(0, D_n) / TAW_n) / (f_b + f_n)",
             _v(dryness(trees, g, state.ball_depletion_l, state.near_depletion_l)), "", BALANCE,
             f_b=(f_b, ""), D_b=(now[0], "L"), TAW_b=(_v(trees.ball_taw_l), "L"), f_n=(f_n, ""), D_n=(now[1], "L"),
             TAW_n=(_v(g.near_taw_l), "L"))
    )  # fmt: skip
    return tuple(found)


def _booked(o: Opened, before: Passed) -> Ledger:
    m = before.morning
    look = None if before.felt is None else looking(before.felt, o.trees, m.ground)
    return balance.ledger(o.trees, m.ground, m.state, m.weather, before.first_l, before.second_l, look)


def _came_to_be(name: str, book: Ledger, number: int) -> Step:
    """One store's day before: depletion at its end from that of its morning."""

    def part(values: Numbers) -> tuple[float, str]:
        return float(np.broadcast_to(values, book.start_l.shape)[number, 0]), "L"

    felt = {"felt": part(book.read_l)} if part(book.read_l)[0] else {}
    return worked(
        f"{name}_evening", "start − poured − rain + drained + crept + drunk + evaporated" + " − felt" * bool(felt),
        part(book.end_l)[0], "L", BALANCE, start=part(book.start_l), poured=part(book.poured_l),
        rain=part(book.rain_l), drained=part(book.left_l), crept=part(book.crept_l), drunk=part(book.drunk_l),
        evaporated=part(book.evaporated_l), **felt,
    )  # fmt: skip


def demand(o: Opened) -> tuple[Step, ...]:
    """What the tree would drink on the day."""
    trees, g, w = o.trees, o.ground, o.day.passed.morning.weather
    base, least, x = _v(trees.plant_factor), _v(trees.new_plant_factor), _v(g.establishment)
    factor, cold = _v(plant_factor(trees, g)), _v(cold_factor(w.five_days_c))
    return (
        worked("plant_factor", "PF + max(0, least − PF) (1 − x)", factor, "", "[SLIDE], [S623]; calibrated",
             PF=(base, ""), least=(least, ""), x=(x, "")),
        worked("cold", "min(1, max(0.1, T / 10))", cold, "", CALIBRATED, T=(_v(w.five_days_c), "degC")),
        worked("demand", "E = ETo × plant factor × microclimate × thirst × crown area × leaf × cold",
             _v(demand_l(trees, g, w)), "L", "[SLIDE], [S623]",
             **{"ETo": (_v(w.eto_mm), "mm"), "plant factor": (factor, ""), "microclimate": (_v(trees.microclimate), ""),
                "thirst": (_v(w.thirst), ""),
                "crown area": (_v(trees.crown_area_m2), "m2"), "leaf": (_v(w.leaf), ""), "cold": (cold, "")}),
    )  # fmt: skip


def why_ready(o: Opened) -> Step:
    """Why the tree is ready on this day."""
    dry = _v(dryness(o.trees, o.ground, o.state.ball_depletion_l, o.state.near_depletion_l))
    ready = float(refill.is_ready(o.trees, o.ground, o.state)[0])
    return worked("ready_day", f"dryness > {READY_SHARE:g} × limit", ready, "yes", BALANCE, dryness=(dry, ""),
                limit=(_v(o.trees.dryness_limit), ""))  # fmt: skip


def why_due(o: Opened) -> Step:
    """Why the tree is due on this day: what the day would be without a visit, and what one would mend."""
    day, trees = o.day, o.trees
    due = _v(day.wanted.net_l) > 0 and bool(refill.mends(trees, day.without, day.with_own)[0])
    return worked(
        "due_day", f"(dry > limit and dry − watered > {MENDS_DRYNESS:g}) or Ks < floor × Ks watered", float(due), "yes",
        BALANCE,
        **{"dry": (_v(day.without.dryness), ""), "limit": (_v(trees.dryness_limit), ""),
           "watered": (_v(day.with_own.dryness), ""), "Ks": (_v(day.without.ks), ""), "floor": (_v(trees.ks_floor), ""),
           "Ks watered": (_v(day.with_own.ks), "")},
    )  # fmt: skip


def landing(o: Opened, how: Delivery) -> tuple[Step, ...]:
    """Where poured water lands: on the ball, in the ring that it reaches."""
    g, r_b = o.ground, _v(o.trees.ball_radius_m)
    share, lands, circle = _v(g.share), _v(g.near_lands), _v(o.reach.circle_m2)
    if np.isnan(_v(o.reach.share)) and not np.isnan(circle):
        ring = np.pi * _v(g.ring_radius_m) ** 2
        return (
            worked("ball_share", "s = min(1, π r_b² / A)", share, "", GEOMETRY, r_b=(r_b, "m"), A=(circle, "m2")),
            worked("ring_share", "s_n = max(0, min(A, A_R) − π r_b²) / A", lands, "", GEOMETRY, A=(circle, "m2"),
                 A_R=(ring, "m2"), r_b=(r_b, "m")),
        )  # fmt: skip
    flow = delivery.flow_l_per_h(how)
    return (
        worked("ball_share", "s = on the ball / all", share, "", GEOMETRY,
             **{"on the ball": (share * flow, "L/h"), "all": (flow, "L/h")}),
        worked("ring_share", "s_n = 1 − s", lands, "", GEOMETRY, s=(share, "")),
    )  # fmt: skip


def amount(o: Opened) -> tuple[Step, ...]:
    """The net water that refills ball and ring."""
    g, state = o.ground, o.state
    wanted = refill.refill(g, state)
    s, s_n = _v(g.share), _v(g.near_lands)
    d_b, d_n = _v(state.ball_depletion_l), _v(state.near_depletion_l)
    ball, near = max(0.0, d_b), max(0.0, d_n)
    inputs = {"D_b": (ball, "L"), "D_n": (near, "L"), "s": (s, ""), "s_n": (s_n, "")}
    helps = f"(D_b + {HELPS_THE_BALL:g} D_n) / (s + {HELPS_THE_BALL:g} s_n)"
    if s <= 0:
        for_ball, formula = 0.0, "N_b = 0 × D_b"
    elif s_n * ball <= near * s:
        for_ball, formula = ball / s, "N_b = D_b / s"
    else:
        for_ball, formula = (ball + HELPS_THE_BALL * near) / (s + HELPS_THE_BALL * s_n), f"N_b = {helps}"
    whole = s_n > 0 and s * near <= ball * s_n
    for_near = near / s_n if whole else (ball + near) / (s + s_n)
    cap = min(_v(wanted.cap_l), NEVER)
    lines = [
        worked("for_ball", formula, for_ball, "L", BALANCE, **inputs),
        worked("for_near", "N_n = D_n / s_n" if whole else "N_n = (D_b + D_n) / (s + s_n)", for_near, "L", BALANCE,
             **inputs),
    ]  # fmt: skip
    if cap < NEVER:
        lines.append(
            worked("cap", "C = max(0, (D_b + D_n) / (s + s_n), (D_n + 0.5 X_n) / s_n)", cap, "L", CALIBRATED,
                 D_b=(d_b, "L"), D_n=(d_n, "L"), s=(s, ""), s_n=(s_n, ""), X_n=(_v(g.near_space_l), "L"))
        )  # fmt: skip
    lines.append(
        worked("net", "N = min(max(N_b, N_n), C)", _v(wanted.net_l), "L", BALANCE, N_b=(for_ball, "L"),
             N_n=(for_near, "L"), C=(cap, "L"))
    )  # fmt: skip
    return tuple(lines)


@dataclass(frozen=True, slots=True)
class Poured:
    """What is known of a visit beside its tree: litres before rounding, the pour, the step, water that wets mulch [L].

    room_l: in a wicked box, None without one. line_min: minutes that its line runs for its neediest tree, None without.
    limit: what the ground takes in a day, None where it takes all. asked: what a school's routine pours, None where
    that is what refills the tree.
    """

    gross_l: float
    pour: Pour
    step_l: float
    loss_l: float
    intake_mm_h: float
    room_l: float | None = None
    line_min: float | None = None
    limit: DayLimit | None = None
    asked: Step | None = None


def visit(o: Opened, how: Delivery, poured: Poured) -> tuple[Step, ...]:
    """How much is poured and how long that takes: poured, rounded, minutes, goes."""
    net, pour = _v(o.day.wanted.net_l), poured.pour
    arriving, flow = delivery.efficiency(how.method), delivery.flow_l_per_h(how)
    lines = []
    if how.leaching > 0 and poured.asked is None:
        lines.append(worked("leaching", "LR", how.leaching, "", "[FAO29]", LR=(how.leaching, "")))
    if poured.line_min is not None:
        lines.append(
            worked("line_run", "minutes × flow / 60", pour.litres, "L", COMMON_PRACTICE,
                 minutes=(poured.line_min, "min"), flow=(flow, "L/h"))
        )  # fmt: skip
    else:
        lines += _rounded(net, how, poured, arriving)
    lines.append(
        worked("minutes", "60 × litres / flow", pour.run_min, "min", "arithmetic", litres=(pour.litres, "L"),
             flow=(flow, "L/h"))
    )  # fmt: skip
    if pour.goes.count > 1:
        lines += _goes(o, how, poured)
    return tuple(lines)


def _goes(o: Opened, how: Delivery, poured: Poured) -> list[Step]:
    """Cycle and soak: how long a go may be, how long it is, how long it rests."""
    rate, intake, storage = delivery.intensity(how, _v(o.trees.ball_radius_m), poured.intake_mm_h)
    run, goes = poured.pour.run_min, poured.pour.goes
    each = worked("goes", "minutes / goes", goes.run_min, "min", "arithmetic", minutes=(run, "min"),
                goes=(goes.count, ""))  # fmt: skip
    if poured.line_min is not None:  # one valve, one program: the rest is what its slowest tree needs
        return [each, worked("rest", "of the line", goes.rest_min, "min", COMMON_PRACTICE,
                           **{"of the line": (goes.rest_min, "min")})]  # fmt: skip
    return [
        worked("go_longest", "60 S / (a − i)", delivery.longest_go_min(rate, intake, storage), "min", "[TM5] table 7",
             S=(storage, "mm"), a=(rate, "mm/h"), i=(intake, "mm/h")),
        each,
        worked("rest", "go × (a − i) / i", goes.rest_min, "min", "[TM5] table 7", go=(goes.run_min, "min"),
             a=(rate, "mm/h"), i=(intake, "mm/h")),
    ]  # fmt: skip


def _rounded(net: float, how: Delivery, poured: Poured, arriving: float) -> list[Step]:
    name, value = ("N", net) if poured.room_l is None else ("room in the box", poured.room_l)
    inputs = {name: (value, "L"), "mulch wetting": (poured.loss_l, "L"), "efficiency": (arriving, "")}
    formula = f"({name} + mulch wetting) / efficiency"
    if how.leaching > 0:
        inputs["LR"] = (how.leaching, "")
        formula += " / (1 − LR)"
    gross = poured.asked or worked("gross", formula, poured.gross_l, "L", COMMON_PRACTICE, **inputs)
    if poured.limit is not None and poured.gross_l > poured.limit.litres:
        most, step = poured.limit, poured.step_l
        return [
            gross,
            worked("day_most", "flow × go × goes / 60", most.litres, "L", CALIBRATED,
                 flow=(delivery.flow_l_per_h(how), "L/h"), go=(most.run_min, "min"), goes=(most.goes, "")),
            worked("pour_today", "step × max(1, floor(most / step))", poured.pour.litres, "L", COMMON_PRACTICE,
                 most=(most.litres, "L"), step=(step, "L")),
        ]  # fmt: skip
    return [
        gross,
        worked("pour", "step × ceil(gross / step)", poured.pour.litres, "L", COMMON_PRACTICE,
             gross=(poured.gross_l, "L"), step=(poured.step_l, "L")),
    ]  # fmt: skip
