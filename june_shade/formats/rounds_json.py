"""The headless case of a choice among patterns of visits: JSON in, JSON out, litres and minutes."""

import time
from dataclasses import dataclass
from itertools import pairwise
from typing import Any

import numpy as np

from june_shade.core import checks
from june_shade.core.checks import Fields, number
from june_shade.core.choosing import choose, patterns
from june_shade.core.choosing.patterns import Pattern, Period, Problem, Stop, Tree
from june_shade.core.errors import InputError
from june_shade.formats.case_json import read_json

SECONDS = 60.0


@dataclass(frozen=True, slots=True)
class RoundsCase:
    """A problem with the names of its stops, trees and crews (None = one without a name), and how it is solved."""

    problem: Problem
    stops: tuple[str, ...]
    trees: tuple[str, ...]
    harm_slack: float
    seconds: float


def parse(text: str | bytes) -> RoundsCase:
    """A case from JSON text. Raises InputError naming the dotted field."""
    case = Fields(read_json(text))
    days = case.whole("days", low=1)
    slack = case.number("harm_slack", 0.0, low=0)
    seconds = case.number("seconds", SECONDS, above=0)
    crews, minutes = _crews(case, days)
    litres = case.maybe("day_litres", lambda value, at: _limits(value, at, days))
    periods = tuple(_period(row, f"periods[{n}]", days) for n, row in enumerate(case.list("periods", [])))
    stops, of_stops = _stops(case.list("stops", []), crews)
    trees, of_trees = _trees(case.list("trees", []), stops, days)
    case.close()
    problem = Problem.of(of_stops, of_trees, minutes, np.full(days, np.inf) if litres is None else litres, periods)
    return RoundsCase(problem, stops, trees, slack, seconds)


def run(case: RoundsCase) -> dict[str, Any]:
    """The plan chosen, what it comes to, and what is proven of it."""
    found = choose.choose(case.problem, slack=case.harm_slack, seconds=case.seconds, clock=time.monotonic)
    plan = found.plan
    day_minutes = plan.crew_minutes.sum(axis=0)
    return {
        "chosen": {name: int(n) for name, n in zip(case.trees, plan.chosen, strict=True)},
        "deaths": plan.deaths, "harm": plan.harm, "least_harm": found.least_harm, "litres": plan.litres,
        "minutes": plan.minutes,
        "days": [
            {"minutes": float(day_minutes[day]), "litres": float(plan.day_litres[day]),
             "stops": patterns.names(case.stops, plan.open_stops[:, day])}
            for day in range(case.problem.days)
        ],
        "bound": found.bound, "optimal": found.optimal,
    }  # fmt: skip


def _crews(case: Fields, days: int) -> tuple[tuple[str, ...] | None, np.ndarray]:
    """Names of the crews, None where there is one without a name, and minutes by crew and day, infinite = no limit."""
    given = case.maybe("day_minutes", lambda value, at: (value, at))
    if given is None:
        return None, np.full((1, days), np.inf)
    value, at = given
    if not isinstance(value, dict):
        return None, _limits(value, at, days)[None, :]
    if not value:
        raise InputError("must name at least one crew", at)
    return tuple(value), np.stack([_limits(own, f"{at}.{name}", days) for name, own in value.items()])


def _limits(value: Any, at: str, days: int) -> np.ndarray:
    """One limit a day, null = none."""
    if not isinstance(value, list) or len(value) != days:
        raise InputError(f"must be a list of {days}, one for each day", at)
    return np.array([np.inf if v is None else number(v, f"{at}[{n}]", low=0) for n, v in enumerate(value)])


def _day(value: Any, at: str, days: int) -> int:
    found = checks.whole(value, at)
    if found >= days:
        raise InputError(f"must be below {days}: days count from 0", at)
    return found


def _list(value: Any, at: str) -> list[Any]:
    if not isinstance(value, list):
        raise InputError("must be a list", at)
    return value


def _period(value: Any, at: str, days: int) -> Period:
    fields = Fields(value, at)
    own = fields.read("days", lambda v, where: [_day(d, f"{where}[{n}]", days) for n, d in enumerate(_list(v, where))])
    if len(set(own)) != len(own):
        raise InputError("must name each day once", fields.at("days"))
    found = Period(tuple(own), fields.number("litres", low=0))
    fields.close()
    return found


def _stops(rows: list[Any], crews: tuple[str, ...] | None) -> tuple[tuple[str, ...], tuple[Stop, ...]]:
    names: list[str] = []
    found = []
    for n, row in enumerate(rows):
        fields = Fields(row, f"stops[{n}]")
        names.append(_new(fields, names))
        minutes = fields.number("minutes", low=0)
        crew = 0 if crews is None else crews.index(fields.choice("crew", crews))
        fields.close()
        found.append(Stop(minutes, crew))
    return tuple(names), tuple(found)


def _new(fields: Fields, names: list[str]) -> str:
    name = fields.text("name")
    if name in names:
        raise InputError(f"there is another {name!r}", fields.at("name"))
    return name


def _trees(rows: list[Any], stops: tuple[str, ...], days: int) -> tuple[tuple[str, ...], tuple[Tree, ...]]:
    names: list[str] = []
    found = []
    for n, row in enumerate(rows):
        fields = Fields(row, f"trees[{n}]")
        names.append(_new(fields, names))
        stop = fields.text("stop")
        if stop not in stops:
            raise InputError(f"there is no stop {stop!r}", fields.at("stop"))
        weight = fields.number("weight", 1.0, low=0)
        at = fields.at("patterns")
        own = tuple(_pattern(one, f"{at}[{k}]", days) for k, one in enumerate(fields.list("patterns")))
        fields.close()
        if all(pattern.days for pattern in own):
            raise InputError("needs a pattern without visits", at)
        found.append(Tree(stops.index(stop), weight, own))
    return tuple(names), tuple(found)


def _pattern(value: Any, at: str, days: int) -> Pattern:
    fields = Fields(value, at)
    on = fields.read("days", lambda v, where: [_day(d, f"{where}[{n}]", days) for n, d in enumerate(_list(v, where))])
    if any(b <= a for a, b in pairwise(on)):
        raise InputError("must be in order, each day once", fields.at("days"))
    litres, minutes = (
        fields.read(key, lambda v, where: [number(x, f"{where}[{n}]", low=0) for n, x in enumerate(_list(v, where))])
        for key in ("litres", "minutes")
    )
    for key, values in (("litres", litres), ("minutes", minutes)):
        if len(values) != len(on):
            raise InputError(f"must be {len(on)} long, as days is", fields.at(key))
    found = Pattern(tuple(on), tuple(litres), tuple(minutes), fields.number("harm", low=0), fields.yes("dies", False))
    fields.close()
    return found
