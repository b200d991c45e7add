"""The headless balance case: JSON in, JSON out, SI, unrounded. Unknown keys are refused."""

import json
from dataclasses import dataclass, replace
from datetime import date, timedelta
from typing import Any

import numpy as np

from june_shade.core import checks
from june_shade.core.checks import Fields
from june_shade.core.errors import InputError
from june_shade.core.soil import textures
from june_shade.core.stock.balls import KINDS, ball_volume_l
from june_shade.core.water import routine, trees
from june_shade.core.water.balance import thirsty
from june_shade.core.water.schools import Routine
from june_shade.core.water.weather import Weather
from june_shade.core.weather.series import COLD_DAYS, MONTH_DAYS, running_mean

ROUTINES = ("balance", "fixed", "none")

FINDING_TEXT = {
    "ball_not_refilled": "this way of pouring can't refill the ball: bring the water onto the ball, not more of it",
    "dry_ball": "watered so, the ball is left with under half of what it can give: bring the water onto the ball",
    "once_is_not_enough": "one watering a day can't keep this tree drinking: water twice, shade it or mulch more",
    "roots_outgrown": "the water reaches too little of the roots: widen the basin or move the ring out",
    "basin_wide": "much of the water lands beyond the roots: narrow the basin",
}


@dataclass(frozen=True, slots=True)
class Case:
    """A parsed case: one tree, a start, a routine, days with their dates, efficiency of the delivery."""

    spec: trees.TreeSpec
    start: routine.Start
    routine: Routine
    dates: tuple[date, ...]
    days: tuple[Weather, ...]
    efficiency: float


def _refuse_constant(word: str) -> None:
    raise InputError(f"{word} is not a number of this format", "case")


def read_json(text: str | bytes) -> Any:
    """What a case file holds. Raises InputError where it is no JSON of finite numbers."""
    try:
        return json.loads(text, parse_constant=_refuse_constant)
    except UnicodeDecodeError as e:
        raise InputError("is not UTF-8 text", "case") from e
    except (ValueError, RecursionError) as e:
        raise InputError(f"is not JSON: {e}", "case") from e


@dataclass(frozen=True, slots=True)
class Setting:
    """What every case of one tree over a season has: the tree, where it opens, its days and their mean temperatures
    [degC], array (days,), efficiency of the delivery."""

    spec: trees.TreeSpec
    start: routine.Start
    dates: tuple[date, ...]
    days: tuple[Weather, ...]
    tmean_c: np.ndarray
    efficiency: float


def parse(text: str | bytes) -> Case:
    """A case from JSON text. Raises InputError naming the dotted field."""
    case = Fields(read_json(text))
    setting = read_setting(case)
    followed = _routine(case.object("routine"))
    case.close()
    return Case(setting.spec, setting.start, followed, setting.dates, setting.days, setting.efficiency)


def read_setting(case: Fields) -> Setting:
    """Tree, site, delivery, start and weather of a case; what else it has is the caller's to read and to close."""
    tree, site = case.object("tree"), case.object("site")
    delivery, start = case.object("delivery", optional=True), case.object("start", optional=True)
    spec = trees.TreeSpec(
        kind=tree.choice("kind", KINDS),
        caliper_m=tree.number("caliper_m", above=0, hint="metres"),
        ball_diameter_m=tree.number("ball_diameter_m", above=0, hint="metres"),
        ball_height_m=tree.number("ball_height_m", above=0, hint="metres"),
        crown_diameter_m=tree.number("crown_diameter_m", low=0, hint="metres"),
        ball_volume_l=tree.maybe_number("ball_volume_l", above=0, hint="litres"),
        plant_factor=tree.number("plant_factor", 0.5, low=0),
        microclimate=tree.number("microclimate", 1.0, low=0),
        depletion_fraction=tree.number(
            "depletion_fraction", trees.DEPLETION_FRACTION, above=0, below=1, hint="a share, not a percentage"
        ),
        soil=textures.soil(site.choice("texture", textures.textures(), loose=True)),
        root_depth_max_m=site.number("root_depth_max_m", 0.6, above=0, hint="metres"),
        basin_diameter_m=site.maybe_number("basin_diameter_m", above=0, hint="metres"),
        mulch_cover=case.number("mulch_cover", 0.0, low=0, high=1, hint="a share, not a percentage"),
        surround=case.choice("surround", trees.SURROUNDS, "bare"),
        dryness_limit=case.number("dryness_limit", 0.5, above=0, high=1, hint="a share, not a percentage"),
        ks_floor=case.number("ks_floor", 0.9, low=0, high=1, hint="a share, not a percentage"),
        ball_share=delivery.maybe_number("ball_share", low=0, high=1, hint="a share"),
        ring_wetted_share=delivery.maybe_number("ring_wetted_share", low=0, high=1, hint="a share"),
    )
    efficiency = delivery.number("efficiency", 1.0, above=0, high=1, hint="a share, not a percentage")
    opened = routine.Start(
        start.number("ball_depletion_l", 0.0),
        start.number("near_depletion_l", 0.0),
        start.number("far_depletion_l", 0.0),
        start.number("root_spread_beyond_ball_m", 0.0, low=0),
        start.number("outside_depletion_fraction", 0.0, low=0, high=1),
    )
    opening = replace(opened, most_ball_depletion_l=_most_of_lifted_roots_l(spec))
    dates, days, tmean_c = _weather(case.list("weather"))
    for part in (tree, site, delivery, start):
        part.close()
    return Setting(spec, opening, dates, days, tmean_c, efficiency)


def _most_of_lifted_roots_l(spec: trees.TreeSpec) -> float | None:
    """What the whole soil round lifted roots can give [L]; None for other stock."""
    if spec.kind != "bare_root":
        return None
    return spec.soil.awc * float(ball_volume_l(1.0, spec.ball_diameter_m / 2, spec.ball_height_m))


def _routine(fields: Fields) -> Routine:
    name = fields.choice("name", ROUTINES)
    litres, every = 0.0, 1
    if name == "fixed":
        litres = fields.number("litres", above=0)
        every = fields.whole("every_days")
    fields.close()
    return Routine(name, litres, every)


def read_day(fields: Fields, key: str = "date") -> date:
    """A date like 2027-05-01."""
    return fields.read(key, checks.day)


def _weather(rows: list[Any]) -> tuple[tuple[date, ...], tuple[Weather, ...], np.ndarray]:
    dates: list[date] = []
    given: list[dict[str, float]] = []
    for number, row in enumerate(rows):
        fields = Fields(row, f"weather[{number}]")
        day = read_day(fields)
        if dates and day != dates[-1] + timedelta(days=1):
            raise InputError(f"{day} does not follow {dates[-1]} by one day", fields.at("date"))
        dates.append(day)
        given.append(
            {
                "eto_mm": fields.number("eto_mm", low=0),
                "rain_mm": fields.number("rain_mm", 0.0, low=0),
                "tmean_c": fields.number("tmean_c", low=-90, high=60, hint="degrees Celsius"),
                "leaf": fields.number("leaf", 1.0, low=0, high=1, hint="a share"),
            }
        )
        fields.close()
    tmean_c = np.array([one["tmean_c"] for one in given])
    month_c, five_days_c = running_mean(tmean_c, MONTH_DAYS), running_mean(tmean_c, COLD_DAYS)
    days = [
        Weather(one["eto_mm"], one["rain_mm"], float(month), float(five), one["leaf"])
        for one, month, five in zip(given, month_c, five_days_c, strict=True)
    ]
    return tuple(dates), tuple(days), tmean_c


def run(case: Case) -> dict[str, Any]:
    """Run a case; the answer as plain JSON values."""
    one = trees.build([case.spec])
    days = routine.run(one, trees.reach_of([case.spec]), case.start, list(case.days), case.routine, case.efficiency)
    rows: list[dict[str, Any]] = []
    first_seen: dict[str, date] = {}
    for day, result in zip(case.dates, days, strict=True):
        rows.append(_row(day, result, one))
        for code, where in result.findings.items():
            if bool(where[0]):
                first_seen.setdefault(code, day)
    total = lambda name: float(sum(row[name] for row in rows))  # noqa: E731
    return {
        "days": rows,
        "summary": {
            "waterings": sum(row["net_l"] > 0 for row in rows),
            "gross_l": total("gross_l"),
            "drained_l": total("drained_l"),
            "thirsty_days": sum(
                bool(thirsty(weather.leaf, result.moved.ks, result.moved.air)[0])
                for weather, result in zip(case.days, days, strict=True)
            ),
            "soggy_days": sum(row["soggy"] for row in rows),
        },
        "findings": [{"code": code, "message": f"{day} {FINDING_TEXT[code]}"} for code, day in first_seen.items()],
    }


def _row(day: date, result: routine.RoutineDay, one: Any) -> dict[str, Any]:
    moved, state, g = result.moved, result.state, result.ground
    values = {
        "net_l": moved.net_l,
        "gross_l": result.gross_l,
        "rain_l": moved.rain_l,
        "ball_depletion_l": state.ball_depletion_l,
        "near_depletion_l": state.near_depletion_l,
        "far_depletion_l": state.far_depletion_l,
        "dryness": moved.dryness,
        "ks": moved.ks,
        "ks_with_water": result.with_water.ks,
        "soggy": moved.soggy,
        "drained_l": moved.drained_l,
        "outside_l": moved.outside_l,
        "transpired_l": moved.transpired_l,
        "evaporated_l": moved.evaporated_l,
        "joined_l": result.joined_l,
        "root_radius_m": state.root_radius_m,
        "uptake_from_ball": g.uptake_from_ball,
        "reach": g.reach,
        "outside_depletion_fraction": state.outside_depletion_mm / one.outside_taw_mm,
    }
    return {"date": day.isoformat()} | {name: np.asarray(value)[0].item() for name, value in values.items()}
