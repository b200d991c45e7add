"""The check-up's table: how likely each answer is under each cause, and what each act on water loses there.

Calibrated to the direction of published diagnosis keys and to common practice; the rows of one finding sum to 1 for
each cause.
"""

from dataclasses import dataclass
from functools import cache

import numpy as np

from june_shade.core import tables

ACTS = ("carry_on", "water_now", "water_on_ball", "stop_water")
"""What can be done about a tree's water; of two that lose as much the first one."""
WATERINGS = frozenset({"water_now", "water_on_ball"})
BY_THE_PROGRAM = frozenset({"plan_says", "first_year"})
"""Findings that the program answers itself."""
TRUNK = ("sound", "wound", "tie_biting", "gnawed")
"""What is seen of the trunk: it tells no cause, it is acted on."""
NOT_A_ROW = ("finding", "value", "minutes", "source")


@dataclass(frozen=True, slots=True)
class Finding:
    """A question: its answers, how likely each is under each cause, array (answers, causes), minutes that it takes."""

    name: str
    answers: tuple[str, ...]
    likelihood: np.ndarray
    minutes: float


@dataclass(frozen=True, slots=True)
class Table:
    """causes in their order; prior (causes,); look_again_days (causes,); loss: days of growth that an act on water
    loses where a cause is so, array (acts, causes); findings by name, in the table's order."""

    causes: tuple[str, ...]
    prior: np.ndarray
    look_again_days: np.ndarray
    loss: np.ndarray
    findings: dict[str, Finding]


@cache
def table() -> Table:
    """The table as it ships."""
    rows = tables.read("checkup")
    causes = tuple(name for name in rows[0] if name not in NOT_A_ROW)
    values = {(row["finding"], row["value"]): np.array([float(row[c]) for c in causes]) for row in rows}
    minutes = {row["finding"]: row["minutes"] for row in rows}
    findings = {}
    for name in dict.fromkeys(finding for finding, _ in values):
        if minutes[name]:
            answers = tuple(value for finding, value in values if finding == name)
            findings[name] = Finding(name, answers, np.stack([values[name, a] for a in answers]), float(minutes[name]))
    loss = np.stack([values["loss", act] for act in ACTS])
    return Table(causes, values["prior", ""], values["look_again_days", ""], loss, findings)
