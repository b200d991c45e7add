"""The headless case of an order: what it says, waterings that are asked about; JSON in, JSON out."""

import re
from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

from june_shade.core import checks
from june_shade.core.checks import Fields, number
from june_shade.core.errors import InputError
from june_shade.core.limits import restriction as core
from june_shade.core.limits.restriction import DAY_MIN, ByNumber, Exemption, Restriction, Watering, Window
from june_shade.formats.case_json import read_json

TIME = re.compile(r"([01]\d|2[0-3]):([0-5]\d)")
ENDS = "24:00"


@dataclass(frozen=True, slots=True)
class RestrictionCase:
    """An order and waterings."""

    order: Restriction
    asked: tuple[Watering, ...]


def parse(text: str | bytes) -> RestrictionCase:
    """A case from JSON text. Raises InputError naming the dotted field."""
    case = Fields(read_json(text))
    order = order_of(case.object("restriction"))
    asked = tuple(_watering(row, f"queries[{n}]") for n, row in enumerate(case.list("queries", [])))
    case.close()
    return RestrictionCase(order, asked)


def run(case: RestrictionCase) -> dict[str, Any]:
    """What the order says to each watering."""
    found = [core.rule(case.order, one) for one in case.asked]
    return {
        "answers": [
            {"in_force": one.in_force, "allowed": one.allowed, "broken": list(one.broken),
             "exempted": list(one.exempted)}
            for one in found
        ]
    }  # fmt: skip


def order_of(fields: Fields) -> Restriction:
    """An order from the fields of a case, or as it is stored. Raises InputError naming the dotted field."""
    first, last = (fields.maybe(key, checks.day) for key in ("from", "to"))
    if first is not None and last is not None and last < first:
        raise InputError("must not be before from", fields.at("to"))
    found = Restriction(
        first, last, fields.maybe("weekdays", _weekdays),
        fields.maybe("windows", lambda value, at: tuple(_window(v, f"{at}[{n}]") for n, v in _each(value, at))),
        fields.maybe("methods", _ways), fields.maybe_number("event_l", low=0),
        fields.maybe("exempt", lambda value, at: tuple(_exemption(v, f"{at}[{n}]") for n, v in _each(value, at))) or (),
    )  # fmt: skip
    fields.close()
    return found


def _each(value: Any, at: str) -> list[tuple[int, Any]]:
    if not isinstance(value, list):
        raise InputError("must be a list", at)
    return list(enumerate(value))


def _some(of: Callable[[Any, str], Any]) -> Callable[[Any, str], frozenset[Any]]:
    return lambda value, at: frozenset(of(one, f"{at}[{n}]") for n, one in _each(value, at))


def _one_of(options: tuple[str, ...]) -> Callable[[Any, str], str]:
    def read(value: Any, at: str) -> str:
        if value not in options:
            raise InputError(f"must be one of {', '.join(options)}, not {value!r}", at)
        return str(value)

    return read


_ways = _some(_one_of(core.WAYS))


def _text(value: Any, at: str) -> str:
    if not isinstance(value, str) or not value.strip():
        raise InputError("must be text", at)
    return value


def _weekday(value: Any, at: str) -> int:
    found = number(value, at, low=1, high=7)
    if found != int(found):
        raise InputError("must be a weekday, 1 (Monday) to 7", at)
    return int(found)


def _weekdays(value: Any, at: str) -> frozenset[int] | ByNumber:
    if isinstance(value, list):
        return _some(_weekday)(value, at)
    fields = Fields(value, at)
    found = ByNumber(*(fields.maybe(key, _some(_weekday)) for key in ("even", "odd")))
    fields.close()
    return found


def _minute(value: Any, at: str) -> int:
    told = TIME.fullmatch(value) if isinstance(value, str) else None
    if told is None:
        raise InputError(f"must be a time from 00:00 to 23:59, not {value!r}", at)
    return 60 * int(told[1]) + int(told[2])


def _window(value: Any, at: str) -> Window:
    if not isinstance(value, list) or len(value) != 2:
        raise InputError('must be a start and an end, as ["18:00", "10:00"]', at)
    end = DAY_MIN if value[1] == ENDS else _minute(value[1], f"{at}[1]")
    return Window(_minute(value[0], f"{at}[0]"), end)


def _exemption(value: Any, at: str) -> Exemption:
    fields = Fields(value, at)
    found = Exemption(
        fields.maybe("rules", _some(_one_of(core.RULES))) or frozenset(), fields.maybe("methods", _ways),
        fields.maybe("planted_within_days", checks.whole), fields.maybe("water", _some(_text)),
    )  # fmt: skip
    fields.close()
    return found


def _watering(value: Any, at: str) -> Watering:
    fields = Fields(value, at)
    found = Watering(
        fields.read("date", checks.day), fields.maybe("start", _minute),
        fields.maybe_number("minutes", low=0) or 0.0, fields.maybe("method", _one_of(core.WAYS)),
        fields.maybe_number("litres", low=0), fields.maybe("house_number", checks.whole),
        fields.maybe("planted_on", checks.day), fields.maybe("water", _text),
    )  # fmt: skip
    fields.close()
    return found
