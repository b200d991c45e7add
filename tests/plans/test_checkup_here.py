"""The check-up without signal: the page's own rule against the program's, on thousands of made-up sets of findings."""

import json
import os
import random
import subprocess
import unittest
from datetime import timedelta

from june_shade.api.routers.looking import get_checkup_rule, look_out
from june_shade.core.looking.table import BY_THE_PROGRAM, TRUNK, table
from june_shade.plans.looking import checks
from june_shade.plans.looking.known import Known
from june_shade.settings import ROOT
from tests.support import DAY

CASES, FIGURES = 2_500 * int(os.environ.get("JUNE_CALLS_TIMES", "1")), 9
"""Ten thousand with JUNE_CALLS_TIMES=4. Probabilities and decibels agree to so many decimals; words, their order and
days to the letter."""


def rounded(value):
    """A tree of figures, each to so many decimals."""
    if isinstance(value, float):
        return round(value, FIGURES) + 0.0
    if isinstance(value, dict):
        return {key: rounded(one) for key, one in value.items()}
    return [rounded(one) for one in value] if isinstance(value, list) else value


class Held(unittest.TestCase):
    def test_the_page_s_rule_comes_to_the_same_as_the_program_s(self):
        chance = random.Random(20260715)
        questions = {name: one.answers for name, one in table().findings.items() if name not in BY_THE_PROGRAM}
        cases, expected = [], []
        for _ in range(CASES):
            asked = chance.sample(list(questions), chance.randint(0, len(questions)))
            findings = {name: chance.choice(questions[name]) for name in asked}
            if chance.random() < 0.3:
                findings["trunk"] = chance.choice(TRUNK)
            own = {"first_year": chance.choice(("yes", "no"))}
            if chance.random() < 0.8:
                own["plan_says"] = chance.choice(table().findings["plan_says"].answers)
            known = Known(own, chance.random() < 0.7, chance.random() < 0.2)
            day = DAY + timedelta(days=chance.randint(0, 400))
            told = {"own": own, "in_leaf": known.in_leaf, "dead_before": known.dead_before, "today": str(day)}
            cases.append({"known": told, "findings": findings})
            expected.append(look_out(checks.looked(findings, known, day, {})).model_dump(mode="json"))
        sent = json.dumps({"rule": get_checkup_rule().model_dump(mode="json"), "cases": cases})
        ran = subprocess.run(
            ["node", "tests/rules.mjs"], cwd=ROOT / "web", input=sent, capture_output=True, text=True, check=True
        )
        for case, here, there in zip(cases, json.loads(ran.stdout), expected, strict=True):
            if here != there:
                self.assertEqual(rounded(here), rounded(there), case)
        self.assertGreater(len({one["verdict"] for one in expected}), 10, "the cases must reach most verdicts")
