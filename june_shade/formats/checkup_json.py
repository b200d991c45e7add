"""The headless check-up: what was found at one tree; JSON in, JSON out."""

from dataclasses import asdict, dataclass
from typing import Any

from june_shade.core.checks import Fields
from june_shade.core.looking import checkup
from june_shade.core.looking.table import TRUNK, table
from june_shade.formats.case_json import read_json


@dataclass(frozen=True, slots=True)
class CheckupCase:
    """Answers by finding, in the order given; whether an earlier look called the tree dead."""

    findings: dict[str, str]
    dead_before: bool


def parse(text: str | bytes) -> CheckupCase:
    """A check-up from JSON text. Raises InputError naming the dotted field."""
    data = read_json(text)
    case = Fields(data)
    given = case.object("findings")
    answers = {name: one.answers for name, one in table().findings.items()} | {"trunk": TRUNK}
    findings = {name: given.choice(name, answers[name]) for name in data["findings"] if name in answers}
    given.close()
    dead_before = case.yes("dead_before", False)
    case.close()
    return CheckupCase(findings, dead_before)


def run(case: CheckupCase) -> dict[str, Any]:
    """The check-up as plain JSON values."""
    found = asdict(checkup.checkup(case.findings, dead_before=case.dead_before))
    return {name: found[name] for name in (
        "causes", "next", "verdict", "water_act", "expected_loss", "actions", "look_again_days",
    )}  # fmt: skip
