"""Every working of the demo adds up: a line's formula, reckoned from the inputs beside it, gives its figure."""

import math
import re
import unittest
from collections import Counter
from uuid import uuid4

from sqlalchemy import select

from june_shade.core.water.schools import NEEDS, Routine
from june_shade.core.working import Step
from june_shade.demo.names import name_id
from june_shade.plans import routines, water
from june_shade.store.session import transaction
from june_shade.store.site_tables import Site
from june_shade.store.trees import all_trees
from tests.support import database

FUNCTIONS = {
    "min": min,
    "max": max,
    "ceil": lambda x: math.ceil(x - 1e-9),
    "floor": lambda x: math.floor(x + 1e-9),
    "sqrt": math.sqrt,
    "π": math.pi,
}
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

    def test_so_it_does_where_a_schools_routine_pours(self):
        figures = {"litres": 9.0, "every_days": 2, "mm": 40.0, "flow_l_per_h": 30.0, "hours": 2.0, "limit": 0.1}
        seen = set()
        with database("demo") as sessions, transaction(sessions) as session:
            trees = all_trees(session, name_id("site", "HL"))[:7]  # by hose
            for tree, name in zip(trees, (n for n in NEEDS if n != "none"), strict=False):
                chosen = Routine(name, **{figure: figures[figure] for figure in NEEDS[name]})
                routines.put(session, uuid4(), [tree], chosen, None)
            made = water.plan_site(session, trees[0].site, history_days=water.HISTORY_DAYS, keep_days=True)
            for tree in trees:
                i = made.index_of(tree.id)
                for one in water.working(made, i):
                    seen.add(one.key)
                    self.assertAlmostEqual(reckoned(one), one.value, 9, f"{made.routine_of(i)} {one.key}")
        self.assertLessEqual({"routine", "routine_day", "gross", "pour"}, seen)

    def test_a_line_that_does_not_add_up_is_caught(self):
        from june_shade.core.working import worked

        wrong = worked("x", "a b / (c − d)", 7.0, "", "arithmetic", a=(2, ""), b=(3, ""), c=(5, ""), d=(4, ""))
        self.assertEqual(reckoned(wrong), 6.0)


if __name__ == "__main__":
    unittest.main()
