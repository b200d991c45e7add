"""The headless drip and lateral cases: JSON in, JSON out, SI, unrounded. Unknown keys are refused."""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

import numpy as np
from shapely.geometry import Polygon

from june_shade.core.checks import Fields
from june_shade.core.drip import judge, network
from june_shade.core.drip.network import INLET, Emitter, Tube
from june_shade.core.drip.tubes import Friction
from june_shade.core.errors import InputError
from june_shade.core.geometry import bulb, wetting
from june_shade.formats.case_json import read_json
from june_shade.formats.pieces_json import findings, polygon


@dataclass(frozen=True, slots=True)
class DripCase:
    """One tree and its emitters, arrays (emitters,): lengths m, flows L/h, pace mm/h, one watering in L."""

    ball_radius_m: float
    roots_radius_m: float
    trunk_diameter_m: float
    volume_l: float
    conductivity_mm_h: float
    intake_mm_h: float
    uptake_from_ball: float
    x_m: np.ndarray
    y_m: np.ndarray
    flow_l_per_h: np.ndarray
    obstacles: tuple[Polygon, ...]


def parse_drip(text: str | bytes) -> DripCase:
    """A drip case from JSON text. Raises InputError naming the dotted field."""
    case = Fields(read_json(text))
    lengths = {
        name: case.number(name, above=0, hint=unit)
        for name, unit in (
            ("ball_radius_m", "metres"), ("roots_radius_m", "metres"), ("volume_l", "litres"),
            ("intake_mm_h", "millimetres an hour"),
        )
    }  # fmt: skip
    conductivity = case.number("ks_mm_h", above=0, hint="millimetres an hour")
    trunk = case.number("trunk_diameter_m", 0.0, low=0, hint="metres")
    uptake = case.number("uptake_from_ball", 1.0, low=0, high=1, hint="a share, not a percentage")
    places = []
    for n, row in enumerate(case.list("emitters")):
        fields = Fields(row, f"emitters[{n}]")
        places.append((fields.number("x_m"), fields.number("y_m"), fields.number("flow_l_h", above=0, hint="L/h")))
        fields.close()
    obstacles = tuple(polygon(v, f"obstacles[{n}]") for n, v in enumerate(case.list("obstacles", [])))
    case.close()
    x, y, flow = np.array(places).T
    return DripCase(
        trunk_diameter_m=trunk,
        uptake_from_ball=uptake,
        conductivity_mm_h=conductivity,
        x_m=x,
        y_m=y,
        flow_l_per_h=flow,
        obstacles=obstacles,
        **lengths,
    )


def run_drip(case: DripCase) -> dict[str, Any]:
    """What these emitters wet, as plain JSON values."""
    total = float(np.sum(case.flow_l_per_h))
    each_l = case.volume_l * case.flow_l_per_h / total
    width = bulb.diameter_m(each_l, case.flow_l_per_h, case.conductivity_mm_h)
    depth = bulb.depth_m(each_l, case.flow_l_per_h, case.conductivity_mm_h)
    dry = wetting.dry_radius_m(case.trunk_diameter_m, case.ball_radius_m)
    zone = wetting.root_zone(case.roots_radius_m, dry, case.obstacles)
    wet = wetting.wet(case.x_m, case.y_m, case.flow_l_per_h, width, case.ball_radius_m, zone)
    minutes = 60.0 * case.volume_l / total
    found = [
        *judge.of_ball(wet.ball_share, case.uptake_from_ball),
        *judge.of_wetted(wet.fraction),
        *judge.of_run(minutes),
        *judge.of_rate(total / wet.union_m2, case.intake_mm_h),
        *judge.of_shallow(bool(np.any(bulb.is_shallow(width, depth)))),
        *judge.of_places(case.x_m, case.y_m, case.trunk_diameter_m),
    ]
    return {
        "wetted": [{"diameter_m": float(w), "depth_m": float(z)} for w, z in zip(width, depth, strict=True)],
        "ball_share": wet.ball_share,
        "wetted_fraction": 0.0 if np.isnan(wet.fraction) else wet.fraction,
        "run_minutes": minutes,
        "findings": findings(found),
    }


@dataclass(frozen=True, slots=True)
class LateralCase:
    """A tree of tubes with its emitters, the inlet's head [m], and how uniform the maker's emitters are."""

    inlet_head_m: float
    friction: Friction
    tubes: tuple[Tube, ...]
    emitters: tuple[Emitter, ...]
    cv: float
    per_tree: int


def parse_lateral(text: str | bytes) -> LateralCase:
    """A lateral case from JSON text. Raises InputError naming the dotted field."""
    raw = read_json(text)
    case = Fields(raw)
    head = case.number("inlet_head_m", low=0, hint="metres of water")
    temperature = case.number("temperature_c", 20.0, low=0, high=60, hint="degrees Celsius")
    friction = Friction(_hazen_williams(case, raw), temperature)
    tubes = []
    for n, row in enumerate(case.list("tubes")):
        fields = Fields(row, f"tubes[{n}]")
        tubes.append(Tube(
            fields.text("from"), fields.text("to"), fields.number("length_m", above=0, hint="metres"),
            fields.number("inside_diameter_mm", above=0, high=1000, hint="millimetres") / 1000,
            fields.number("rise_m", 0.0),
        ))  # fmt: skip
        fields.close()
    if not any(INLET in (tube.start, tube.end) for tube in tubes):
        raise InputError(f"one tube must begin at {INLET!r}", "tubes")
    emitters = [_emitter(Fields(row, f"emitters[{n}]")) for n, row in enumerate(case.list("emitters"))]
    cv = case.number("emitter_cv", 0.0, low=0, high=1, hint="a share, not a percentage")
    per_tree = case.whole("emitters_per_tree", 1)
    case.close()
    return LateralCase(head, friction, tuple(tubes), tuple(emitters), cv, per_tree)


def _hazen_williams(case: Fields, raw: Any) -> float | None:
    if isinstance(raw.get("friction"), Mapping):
        fields = case.object("friction")
        c = fields.number("hazen_williams", above=0)
        fields.close()
        return c
    case.choice("friction", ("darcy_weisbach",), "darcy_weisbach")
    return None


def _emitter(fields: Fields) -> Emitter:
    node = fields.text("node")
    flow = fields.maybe_number("flow_l_h", above=0, hint="L/h")
    if flow is None:
        made = Emitter(
            node, k_l_per_h=fields.number("k_l_h", above=0), exponent=fields.number("exponent", low=0, high=2)
        )
    else:
        least = fields.number("min_head_m", above=0, hint="metres of water")
        made = Emitter(
            node, flow_l_per_h=flow, min_head_m=least, max_head_m=fields.maybe_number("max_head_m", low=least)
        )
    fields.close()
    return made


def run_lateral(case: LateralCase) -> dict[str, Any]:
    """Heads and flows, as plain JSON values. Raises InputError for a node that can't be reached."""
    flowing = network.solve(case.tubes, case.emitters, case.inlet_head_m, case.friction)
    nodes = zip(flowing.nodes, flowing.head_m, flowing.outflow_l_per_h, strict=True)
    tubes = zip(flowing.flow_l_per_h, flowing.velocity_m_s, flowing.loss_m, strict=True)
    return {
        "nodes": {node: {"head_m": float(head), "outflow_l_h": float(out)} for node, head, out in nodes},
        "tubes": [{"flow_l_h": float(q), "velocity_m_s": float(v), "loss_m": float(h)} for q, v, h in tubes],
        "emission_uniformity_percent": network.uniformity_of(case.emitters, flowing, case.cv, case.per_tree),
        "findings": findings(judge.of_flow(list(case.tubes), list(case.emitters), flowing)),
    }
