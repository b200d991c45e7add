"""The headless learning case: a season as it was logged, with readings; JSON in, JSON out, SI, unrounded."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date
from typing import Any

import numpy as np

from june_shade.core.checks import Fields
from june_shade.core.errors import InputError
from june_shade.core.looking import learn
from june_shade.core.looking.season import Day, Season, corrected, season_of
from june_shade.core.water import felt, trees
from june_shade.core.water.felt import SD, Felt, Weighed
from june_shade.formats.case_json import read_day, read_json, read_setting

OPENINGS = {"planted": felt.PLANTED_SD, "guessed": felt.GUESSED_SD}


@dataclass(frozen=True, slots=True)
class LearnCase:
    """A season, its dates, the dates of its readings, whether its delivery was checked and is good."""

    season: Season
    dates: tuple[date, ...]
    read_on: tuple[date, ...]
    delivery_checked: bool


def parse(text: str | bytes) -> LearnCase:
    """A learning case from JSON text. Raises InputError naming the dotted field."""
    case = Fields(read_json(text))
    setting = read_setting(case)
    at = {day: number for number, day in enumerate(setting.dates)}
    poured = _log(case.object("routine"), at)
    opening = case.choice("opening", OPENINGS, "planted")
    checked = case.yes("delivery_checked", False)
    one = trees.build([setting.spec])
    readings = _readings(case.list("readings", []), at, one)
    case.close()
    season = season_of(
        one, trees.reach_of([setting.spec]), setting.start, setting.days, (poured * setting.efficiency)[:, None],
        _by_moment([reading for _, reading in readings]), OPENINGS[opening],
    )  # fmt: skip
    return LearnCase(season, setting.dates, tuple(day for day, _ in readings), checked)


Read = tuple[int, bool, float, float, float]
"""A reading: the day's position, before its water, wetness of ball and ring (NaN = not read), its error."""


def _by_moment(readings: Sequence[Read]) -> dict[tuple[int, bool], Felt]:
    found: dict[tuple[int, bool], list[tuple[float, float, float]]] = {}
    for day, before, ball, ring, sd in readings:
        found.setdefault((day, before), []).append((ball, ring, sd))
    return {moment: Felt(*(np.array(own)[:, n : n + 1] for n in range(3))) for moment, own in found.items()}


def _log(fields: Fields, at: dict[date, int]) -> np.ndarray:
    """What was poured by day, gross [L]."""
    fields.choice("name", ("log",))
    poured = np.zeros(len(at))
    for number, row in enumerate(fields.list("waterings", [])):
        one = Fields(row, f"routine.waterings[{number}]")
        poured[_position(one, at)] += one.number("litres", low=0)
        one.close()
    fields.close()
    return poured


def _position(fields: Fields, at: dict[date, int]) -> int:
    day = read_day(fields)
    if day not in at:
        raise InputError(f"{day} is not a day of this season", fields.at("date"))
    return at[day]


def _readings(rows: list[Any], at: dict[date, int], one: Any) -> list[tuple[date, Read]]:
    most = {
        "ball_wetness": 1 + float(one.ball_space_l[0] / one.ball_taw_l[0]),
        "ring_wetness": 1 + float(one.soil_drainable[0] / one.soil_awc[0]),
    }
    found: list[tuple[date, Read]] = []
    for number, row in enumerate(rows):
        fields = Fields(row, f"readings[{number}]")
        position = _position(fields, at)
        before = fields.yes("before_water", True)
        sd = SD[fields.choice("how", SD)]
        ball, ring = (fields.maybe_number(name, low=0, high=high) for name, high in most.items())
        if ball is None and ring is None:
            raise InputError("needs ball_wetness or ring_wetness", fields.at("ball_wetness"))
        fields.close()
        if found and (position, not before) < (found[-1][1][0], not found[-1][1][1]):
            raise InputError("is before the reading above it: give them in order of time", fields.at("date"))
        for_ball, for_ring = (np.nan if one is None else one for one in (ball, ring))
        found.append((date.fromisoformat(row["date"]), (position, before, for_ball, for_ring, sd)))
    return found


def run(case: LearnCase) -> dict[str, Any]:
    """The corrected season, how each reading was weighed, what they say; as plain JSON values."""
    days, told = corrected(case.season)
    found = learn.learn(case.season, [case.delivery_checked])[0]
    demand = delivery = None
    if found.demand is not None and found.delivery is not None:
        demand = {
            "multiplier": found.demand.value, "sd": found.demand.sd, "objective": found.demand.objective,
            "objective_at_1": found.objective_at_1,
        }  # fmt: skip
        delivery = {"share": found.delivery.value, "sd": found.delivery.sd, "objective": found.delivery.objective}
    net_l = case.season.course.first_net_l[:, 0]
    return {
        "days": [_row(day, net, one) for day, net, one in zip(case.dates, net_l, days, strict=True)],
        "readings": [
            {"date": day.isoformat(), "ball": _weighed(one.ball), "ring": _weighed(one.ring)}
            for day, one in zip(case.read_on, told, strict=True)
        ],
        "occasions": found.occasions, "demand": demand, "delivery": delivery, "verdict": found.verdict,
    }  # fmt: skip


def _weighed(one: Weighed) -> dict[str, float] | None:
    if np.isnan(one.gain[0]):
        return None
    return {name: float(getattr(one, name)[0]) for name in ("predicted", "gain", "after", "sd_after")}


def _row(day: date, net_l: float, one: Day) -> dict[str, Any]:
    moved, state = one.moved, one.state
    values = {
        "ball_depletion_l": state.ball_depletion_l, "near_depletion_l": state.near_depletion_l,
        "far_depletion_l": state.far_depletion_l, "corrected_l": one.corrected_l, "dryness": moved.dryness,
        "ks": moved.ks, "root_radius_m": state.root_radius_m, "ball_sd": np.sqrt(state.ball_variance),
        "ring_sd": np.sqrt(state.near_variance),
    }  # fmt: skip
    return {"date": day.isoformat(), "net_l": float(net_l)} | {name: float(v[0]) for name, v in values.items()}
