"""The headless catch test: cups under emitters for a timed run; JSON in, JSON out, SI, unrounded."""

from dataclasses import dataclass
from typing import Any

from june_shade.core.checks import Fields, number
from june_shade.core.drip import catch
from june_shade.formats.case_json import read_json


@dataclass(frozen=True, slots=True)
class CatchCase:
    """minutes: of the run [min]; nominal_l_h: what the emitter is sold as [L/h]; caught_ml: in each cup [mL]."""

    minutes: float
    nominal_l_h: float
    caught_ml: tuple[float, ...]


def parse(text: str | bytes) -> CatchCase:
    """A catch test from JSON text. Raises InputError naming the dotted field."""
    case = Fields(read_json(text))
    minutes = case.number("minutes", above=0, hint="minutes of the run")
    nominal = case.number("nominal_l_h", above=0, hint="litres an hour")
    cups = tuple(number(v, f"caught_ml[{n}]", low=0, hint="millilitres") for n, v in enumerate(case.list("caught_ml")))
    case.close()
    return CatchCase(minutes, nominal, cups)


def run(case: CatchCase) -> dict[str, Any]:
    """What the test says, as plain JSON values."""
    found = catch.caught(case.minutes, case.caught_ml, case.nominal_l_h)
    return {
        "flows_l_h": list(found.flows_l_per_h),
        "mean_l_h": found.mean_l_per_h,
        "low_quarter_l_h": found.low_quarter_l_per_h,
        "distribution_uniformity": found.uniformity,
        "coefficient_of_variation": found.variation,
        "of_nominal": found.of_nominal,
        "blocked": list(found.blocked),
        "weak": list(found.weak),
        "leaking": list(found.leaking),
    }
