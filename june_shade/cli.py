"""The headless commands, installed as `june-shade`.

Bad input: exit code 2 and one line on standard error that names the field.
"""

import csv
import io
import json
import sys
from collections.abc import Callable
from pathlib import Path
from typing import Annotated, Any

import numpy as np
import typer
from typer.exceptions import TyperException

from june_shade.core.errors import InputError, JuneShadeError

app = typer.Typer(add_completion=False, pretty_exceptions_enable=False, help=__doc__)

BAD_INPUT = 2


def _refuse(words: object) -> typer.Exit:
    print(" ".join(str(words).split()), file=sys.stderr)
    return typer.Exit(BAD_INPUT)


def _bytes(path: Path) -> bytes:
    try:
        return sys.stdin.buffer.read() if str(path) == "-" else path.read_bytes()
    except OSError as e:
        raise InputError(e.strerror or "can't be read", str(path)) from None


CaseFile = Annotated[Path, typer.Argument(help="case file (JSON), - for standard input")]


def _answer(case: Path, parse: Callable[[bytes], Any], run: Callable[[Any], dict[str, Any]]) -> None:
    try:
        answer = run(parse(_bytes(case)))
    except JuneShadeError as e:
        raise _refuse(e) from None
    print(json.dumps(answer, allow_nan=False))


@app.command()
def balance(case: CaseFile) -> None:
    """Run one balance case and print its days, summary and findings as JSON (SI units, unrounded)."""
    from june_shade.formats import case_json

    _answer(case, case_json.parse, case_json.run)


@app.command()
def drip(case: CaseFile) -> None:
    """What the emitters of one tree wet: bulbs, share on the ball, wetted root zone, run time, findings, as JSON."""
    from june_shade.formats import drip_json

    _answer(case, drip_json.parse_drip, drip_json.run_drip)


@app.command()
def lateral(case: CaseFile) -> None:
    """Heads and flows in a tree of tubes with loops, its emission uniformity and findings, as JSON."""
    from june_shade.formats import drip_json

    _answer(case, drip_json.parse_lateral, drip_json.run_lateral)


@app.command()
def catch(case: CaseFile) -> None:
    """What cups under the emitters caught: each one's flow, evenness, which are blocked, weak or leak, as JSON."""
    from june_shade.formats import catch_json

    _answer(case, catch_json.parse, catch_json.run)


@app.command()
def mulch(case: CaseFile) -> None:
    """What rings of mulch take: area, settled and loose litres, what carries them, findings, as JSON."""
    from june_shade.formats import mulch_json

    _answer(case, mulch_json.parse, mulch_json.run)


@app.command()
def hole(case: CaseFile) -> None:
    """The planting hole of one ball: measures, volumes, weight, findings, as JSON."""
    from june_shade.formats import hole_json

    _answer(case, hole_json.parse, hole_json.run)


@app.command()
def checkup(case: CaseFile) -> None:
    """What ails a tree by what was found at it: causes, the act on its water, the next test, actions, as JSON."""
    from june_shade.formats import checkup_json

    _answer(case, checkup_json.parse, checkup_json.run)


@app.command()
def learn(case: CaseFile) -> None:
    """A logged season with readings: the corrected days, and what they say of its thirst, as JSON."""
    from june_shade.formats import learn_json

    _answer(case, learn_json.parse, learn_json.run)


@app.command()
def restriction(case: CaseFile) -> None:
    """Whether an order allows waterings, which of its rules they break and which are lifted, as JSON."""
    from june_shade.formats import restriction_json

    _answer(case, restriction_json.parse, restriction_json.run)


@app.command()
def rounds(case: CaseFile) -> None:
    """One pattern of visits a tree within hours and litres: least harm first, and what is proven of it, as JSON."""
    from june_shade.formats import rounds_json

    _answer(case, rounds_json.parse, rounds_json.run)


@app.command()
def rehearse(case: CaseFile) -> None:
    """One season of one tree under several routines side by side, and why each fits or does not, as JSON."""
    from june_shade.formats import rehearse_json

    _answer(case, rehearse_json.parse, rehearse_json.run)


@app.command()
def eto(
    days: Annotated[Path, typer.Argument(help="daily weather file (CSV), - for standard input")],
    latitude: Annotated[float, typer.Option(help="degrees, north positive")],
    elevation: Annotated[float, typer.Option(help="metres above sea level")],
    wind_height: Annotated[float, typer.Option(help="height of the wind gauge, metres")] = 2.0,
    method: Annotated[str, typer.Option(help="auto, penman_monteith or hargreaves")] = "auto",
) -> None:
    """Reference evapotranspiration of a daily file: date, ETo in mm, and how it was made, as CSV."""
    from june_shade.core.weather import daily
    from june_shade.formats import weather_csv

    try:
        reading = weather_csv.read(_bytes(days))
        if error := weather_csv.first_refusal(reading):
            raise error
        result = daily.reference_et(reading.days, latitude, elevation, wind_height, method)
        for line, value in zip(reading.lines, result.eto_mm, strict=True):
            if np.isnan(value):
                raise InputError(
                    "needs both tmin and tmax" + (" or a station's eto" * (method == "auto")), f"line {line}"
                )
    except JuneShadeError as e:
        raise _refuse(e) from None
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow(["date", "eto_mm", "method"])
    for day, value, word in zip(reading.days.dates, result.eto_mm, result.method, strict=True):
        writer.writerow([str(day), repr(float(value)), word])
    print(out.getvalue(), end="")


def main() -> None:
    """Entry point of `june-shade`. A bad option is told in one line too, not in a framed page."""
    try:
        code = app(standalone_mode=False)
    except TyperException as e:
        code = _refuse(f"{e.format_message()} (see june-shade --help)").exit_code
    sys.exit(code or 0)


if __name__ == "__main__":
    main()
