"""The headless rehearsal: one season of one tree under several routines; JSON in, JSON out, SI, unrounded."""

from dataclasses import asdict
from typing import Any

from june_shade.core.checks import Fields
from june_shade.core.looking import rehearse
from june_shade.core.looking.rehearse import Stage
from june_shade.core.water import schools, trees
from june_shade.core.water.schools import ROUTINES, Routine
from june_shade.formats.case_json import read_json, read_setting


def parse(text: str | bytes) -> tuple[Stage, list[Routine]]:
    """A rehearsal from JSON text. Raises InputError naming the dotted field."""
    case = Fields(read_json(text))
    setting = read_setting(case)
    asked = [read_routine(Fields(row, f"routines[{n}]")) for n, row in enumerate(case.list("routines"))]
    case.close()
    above = schools.sky(list(setting.days), setting.tmean_c)
    stage = Stage(
        trees.build([setting.spec]), trees.reach_of([setting.spec]), setting.start, setting.dates, list(setting.days),
        above, setting.efficiency,
    )  # fmt: skip
    return stage, asked


def read_routine(fields: Fields) -> Routine:
    """A routine by name, with what it needs."""
    name = fields.choice("name", ROUTINES)
    given: dict[str, Any] = {}
    if name in ("fixed", "taper", "heat", "bare_root"):
        given["litres"] = fields.number("litres", above=0)
    if name in ("fixed", "deep"):
        given["every_days"] = fields.whole("every_days")
    if name == "rainfall":
        given["mm"] = fields.number("mm", above=0)
    if name == "slow_hose":
        given["flow_l_per_h"] = fields.number("flow_l_h", above=0)
        given["hours"] = fields.number("hours", above=0)
    if name == "when_dry":
        given["limit"] = fields.number("limit", above=0, high=1, hint="a share, not a percentage")
    fields.close()
    return Routine(name, **given)


def run(case: tuple[Stage, list[Routine]]) -> dict[str, Any]:
    """Each routine's season, as plain JSON values."""
    stage, asked = case
    rows = [asdict(found) for found in rehearse.rehearse(stage, asked)]
    for row in rows:
        row["established_on"] = row["established_on"].isoformat() if row["established_on"] else None
    return {"routines": rows}
