"""What the town's people wrote lets the program find what is wrong with its trees: nobody told it."""

import unittest

from june_shade.demo.felt import CHECKUPS, READ
from june_shade.demo.names import name_id
from june_shade.plans.looking import checks, rows, thirst
from june_shade.store import looking as store
from june_shade.store.session import transaction
from tests.support import database


class Found(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        sessions = cls.enterClassContext(database("demo"))
        cls.session = cls.enterClassContext(transaction(sessions))

    def fits(self, of):
        ids = {number: name_id("tree", of.prefix, number) for number in of.trees}
        fits = store.fits(self.session, ids.values())
        return {number: fits[tree_id] for number, tree_id in ids.items()}

    def test_the_one_that_drinks_more_is_found_with_its_measure(self):
        (of,) = (read for read in READ if read.drinks != 1)
        found = self.fits(of)
        self.assertEqual(found[of.odd].verdict, "drinks_more")
        self.assertLess(abs(found[of.odd].demand - of.drinks), 2 * found[of.odd].demand_sd + 0.05)
        said = store.answers(self.session, name_id("site", of.prefix))
        self.assertEqual(thirst.state_of(found[of.odd], said[name_id("tree", of.prefix, of.odd)]), "open")

    def test_the_blocked_emitter_is_asked_after_and_its_neighbors_are_not(self):
        (of,) = (read for read in READ if read.gets != 1)
        found = self.fits(of)
        self.assertEqual(found[of.odd].verdict, "ask_delivery")
        self.assertLess(found[of.odd].delivery, 0.6)
        self.assertEqual({found[number].verdict for number in of.trees if number != of.odd}, {"book_holds"})

    def test_the_odd_ones_are_named_in_their_rows(self):
        for of in READ:
            odd = {t["tag"] for row in rows.of_site(self.session, name_id("site", of.prefix)) for t in row["trees"]
                   if t["odd"]}  # fmt: skip
            self.assertEqual(odd, {f"{of.prefix}-{of.odd}"})

    def test_check_ups_came_to_a_drowned_and_a_deep_tree(self):
        verdicts = []
        for prefix, number, _, _, hold, tasks in CHECKUPS:
            page = checks.of_tree(self.session, name_id("tree", prefix, number))
            (kept,) = page["checkups"]
            verdicts.append((kept.verdict, kept.tasks == list(tasks), kept.hold_until is not None, hold))
        self.assertEqual(verdicts, [("wet", True, True, True), ("deep", True, False, False)])


if __name__ == "__main__":
    unittest.main()
