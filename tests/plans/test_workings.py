"""Every working of the demo adds up: a line's formula, reckoned from the inputs beside it, gives its figure."""

import math
import re
import unittest
from collections import Counter

from sqlalchemy import select

from june_shade.core.working import Step
from june_shade.plans import water
from june_shade.store.session import transaction
from june_shade.store.site_tables import Site
from tests.support import database

FUNCTIONS = {"min": min, "max": max, "ceil": lambda x: math.ceil(x - 1e-9), "sqrt": math.sqrt, "π": math.pi}
SIGNS = (("×", "*"), ("−", "-"), ("²", "**2"), ("^", "**"))


def reckoned(one: Step) -> float:
    """What a line's formula comes to with its own inputs."""
    text = one.formula.split(" = ", 1)[-1]
    for sign, plain in SIGNS:
        text = text.replace(sign, plain)
    names = sorted((i.symbol for i in one.inputs), key=len, reverse=True)
    values = {f"v{n}": i.value for n, symbol in enumerate(names) for i in one.inputs if i.symbol == symbol}
    for n, symbol in enumerate(names):
        text = re.sub(rf"(?<![\w']){re.escape(symbol)}(?![\w'])", f"v{n}", text)
    words = text.replace("and", "&").replace("or", "|")
    words = re.sub(r"(?<=[\w)])\s+(?=[\w(])", " * ", words)  # a b means a times b
    text = words.replace("&", "and").replace("|", "or")
    return float(eval(text, {"__builtins__": {}}, FUNCTIONS | values))


class Demo(unittest.TestCase):
    def test_every_formula_gives_its_figure_for_every_tree(self):
        seen: Counter[str] = Counter()
        with database("demo") as sessions, transaction(sessions) as session:
            for site in session.scalars(select(Site)):
                made = water.plan_site(session, site, history_days=water.HISTORY_DAYS, keep_days=True)
                for i, row in enumerate(made.rows):
                    for one in water.working(made, i):
                        seen[one.key] += 1
                        self.assertTrue(one.inputs, f"{one.key} has no inputs")
                        self.assertTrue(one.source and one.day, one.key)
                        found = reckoned(one)
                        close = abs(found - one.value) <= 1e-9 * max(1.0, abs(one.value))
                        self.assertTrue(close, f"{row.tag} {one.key}: {one.formula} gives {found}, not {one.value}")
        for key in ("net", "gross", "pour", "minutes", "line_run", "goes", "proof_bulb", "proof_area", "due_day",
                    "ready_day", "ball_evening", "near_evening", "leaching", "cap"):  # fmt: skip
            self.assertGreater(seen[key], 0, key)

    def test_a_line_that_does_not_add_up_is_caught(self):
        from june_shade.core.working import worked

        wrong = worked("x", "a b / (c − d)", 7.0, "", "arithmetic", a=(2, ""), b=(3, ""), c=(5, ""), d=(4, ""))
        self.assertEqual(reckoned(wrong), 6.0)


if __name__ == "__main__":
    unittest.main()
