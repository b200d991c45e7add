"""What the town's people wrote lets the program find what is wrong with its trees: nobody told it."""

import unittest

from june_shade.demo.ends import DEAD, OWN
from june_shade.demo.felt import CHECKUPS, READ
from june_shade.demo.names import name_id
from june_shade.plans import book, register
from june_shade.plans.book import Asked
from june_shade.plans.looking import checks, own, rows, thirst
from june_shade.plans.water import plan_site
from june_shade.store import looking as store
from june_shade.store.session import transaction
from june_shade.store.trees import all_trees as store_trees
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

    def test_two_trees_are_old_enough_to_be_handed_over(self):
        made = plan_site(self.session, register.site(self.session, name_id("site", OWN[0])))
        ready = {tree["id"]: tree["missing"] for tree in own.ready_at(self.session, made)}
        self.assertEqual(set(ready), {name_id("tree", OWN[0], number) for number in (10, 11)})
        proven = {kind for kind, _ in OWN[2]} - {"offered"}
        self.assertEqual(proven & set(ready[name_id("tree", OWN[0], OWN[1])]), set())
        self.assertEqual(len(ready[name_id("tree", OWN[0], 11)]), 5)

    def test_the_one_that_died_is_in_the_book_and_in_the_years_survival_and_another_stands_there(self):
        prefix, number, planted, died, _ = DEAD
        asked = Asked(site_id=name_id("site", prefix), kinds=("ended",))
        _, (row,) = book.page(self.session, asked, 10, 0)
        self.assertEqual((row.tree.tag, row.day, row.subject), (f"{prefix}-{number:02d}", died, "dead"))
        (tree,) = (t for t in store_trees(self.session, name_id("site", prefix)) if t.tag == row.tree.tag)
        self.assertGreater(tree.planted_on, died)
        years = {one.group: one for one in book.numbers(self.session, Asked()).survival["year"]}
        self.assertEqual(years[f"{planted.year}"].lost, 1)
        self.assertLess(years[f"{planted.year}"].share, 1.0)


if __name__ == "__main__":
    unittest.main()
