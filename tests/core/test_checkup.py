"""The check-up against an independent naive Bayes, its acts and tests by their rules, made-up trees by their cause."""

import json
import math
import unittest

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st
from sklearn.naive_bayes import CategoricalNB

from june_shade.core.errors import InputError
from june_shade.core.looking import checkup
from june_shade.core.looking.table import ACTS, BY_THE_PROGRAM, table
from june_shade.formats import checkup_json
from june_shade.launch.bench.looking import asked, draw

TABLE = table()
ANSWERS = {name: one.answers for name, one in TABLE.findings.items()}
FOUND = st.fixed_dictionaries({}, optional={name: st.sampled_from(answers) for name, answers in ANSWERS.items()})


def likely(found):
    return dict(zip(TABLE.causes, checkup.posterior(found), strict=True))


class Causes(unittest.TestCase):
    @given(FOUND)
    @settings(max_examples=60)
    def test_probabilities_are_those_of_a_naive_bayes_of_another_library(self, found):
        names = list(ANSWERS)
        model = CategoricalNB(alpha=1e-10, class_prior=TABLE.prior / TABLE.prior.sum())
        sizes = [len(ANSWERS[name]) for name in names]
        model.fit(np.zeros((len(TABLE.causes), len(names)), int), np.arange(len(TABLE.causes)))
        model.feature_log_prob_ = [np.log(TABLE.findings[name].likelihood.T) for name in names]
        # a question that was not asked is one whose every answer is as likely under every cause
        for i, name in enumerate(names):
            if name not in found:
                model.feature_log_prob_[i] = np.zeros((len(TABLE.causes), sizes[i]))
        row = np.array([[ANSWERS[name].index(found.get(name, ANSWERS[name][0])) for name in names]])
        model.n_categories_ = np.array(sizes)
        np.testing.assert_allclose(checkup.posterior(found), model.predict_proba(row)[0], atol=1e-9)

    def test_rows_of_a_finding_and_priors_sum_to_one(self):
        self.assertAlmostEqual(TABLE.prior.sum(), 1.0)
        for name, one in TABLE.findings.items():
            np.testing.assert_allclose(one.likelihood.sum(axis=0), 1.0, atol=1e-9, err_msg=name)

    def test_evidence_is_the_odds_that_one_answer_alone_makes(self):
        for cause in ("wet", "dry", "deep"):
            at = TABLE.causes.index(cause)
            prior = TABLE.prior[at]
            odds = likely({"ball_feel": "wet"})[cause]
            ratio = (odds / (1 - odds)) / (prior / (1 - prior))
            self.assertAlmostEqual(checkup.evidence("ball_feel", "wet")[at], 10 * math.log10(ratio))

    def test_what_was_found_points_where_the_trade_says(self):
        # common practice: same leaf, two causes; the soil tells them apart
        dry = checkup.checkup({"leaf": "droop", "ball_feel": "dry", "ring_feel": "dry"})
        wet = checkup.checkup({"leaf": "droop", "ball_feel": "wet", "ring_feel": "wet"})
        self.assertIn(dry.water_act, ("water_now", "water_on_ball"))
        self.assertEqual(wet.water_act, "stop_water")
        self.assertIn(wet.verdict, ("wet", "drowning"))
        ball = checkup.checkup({"leaf": "crisp_edge", "ball_feel": "dry", "ring_feel": "moist", "first_year": "yes"})
        self.assertEqual((ball.causes[0].cause, ball.water_act), ("dry_ball", "water_on_ball"))
        self.assertEqual(checkup.checkup({"flare": "buried", "leaf": "small_early"}).causes[0].cause, "deep")


class Acts(unittest.TestCase):
    @given(FOUND)
    def test_a_wet_ball_is_never_watered_and_the_act_loses_least(self, found):
        made = checkup.checkup(found)
        losses = dict(zip(ACTS, TABLE.loss @ checkup.posterior(found), strict=True))
        if found.get("ball_feel") == "wet":
            self.assertNotIn(made.water_act, ("water_now", "water_on_ball"))
            losses = {act: losses[act] for act in ("carry_on", "stop_water")}
        self.assertAlmostEqual(made.expected_loss, min(losses.values()))
        if made.verdict != "dead":
            self.assertAlmostEqual(losses[made.water_act], made.expected_loss)

    def test_a_brown_scratch_is_dead_and_is_looked_at_again_before_it_goes(self):
        first = checkup.checkup({"scratch": "brown", "leaf": "fine"})
        self.assertEqual((first.verdict, first.water_act, first.look_again_days), ("dead", None, 14))
        self.assertEqual(first.actions, ("look_again_before_removal",))
        again = checkup.checkup({"scratch": "brown"}, dead_before=True)
        self.assertEqual(again.actions, ("remove_and_replant",))

    def test_what_was_seen_is_acted_on_in_its_order_and_once(self):
        made = checkup.checkup({"trunk": "gnawed", "push": "moves", "flare": "buried", "circling": "girdle"})
        seen = [a for a in made.actions if a in ("expose_flare", "cut_circling", "stake_and_firm", "guard_trunk")]
        self.assertEqual(seen, ["expose_flare", "cut_circling", "stake_and_firm", "guard_trunk"])
        self.assertEqual(len(set(made.actions)), len(made.actions))

    @given(FOUND)
    @settings(max_examples=40)
    def test_after_a_watering_or_a_stop_someone_looks_soon(self, found):
        made = checkup.checkup(found)
        if made.water_act in ("water_now", "water_on_ball"):
            self.assertLessEqual(made.look_again_days, 2)
        if made.water_act == "stop_water":
            self.assertLessEqual(made.look_again_days, 3)

    def test_answers_that_are_none_are_named(self):
        for found, field in (({"ball_feel": "soggy"}, "findings.ball_feel"), ({"aura": "blue"}, "findings")):
            with self.assertRaises(InputError) as refused:
                checkup.checkup(found)
            self.assertEqual(refused.exception.field, field)


class NextTest(unittest.TestCase):
    @given(FOUND)
    @settings(max_examples=25)
    def test_a_test_saves_what_its_answers_save_on_average(self, found):
        for test in checkup.tests_left(found)[:3]:
            one = TABLE.findings[test.finding]
            now = checkup.posterior(found)
            chances = one.likelihood @ now
            later = [checkup.checkup(found | {test.finding: answer}).expected_loss for answer in one.answers]
            bits = [
                -np.sum(p * np.log2(p)) for p in (checkup.posterior(found | {test.finding: a}) for a in one.answers)
            ]
            self.assertAlmostEqual(test.loss_saved, checkup.checkup(found).expected_loss - chances @ later)
            self.assertAlmostEqual(test.bits, -np.sum(now * np.log2(now)) - chances @ bits)

    def test_the_most_saved_a_minute_comes_first_and_nothing_is_asked_twice(self):
        found = {"leaf": "droop"}
        left = checkup.tests_left(found)
        self.assertEqual(left[0].finding, "ball_feel")
        pace = [round(t.loss_saved / t.minutes, 9) for t in left]
        self.assertEqual(pace, sorted(pace, reverse=True))
        self.assertNotIn("leaf", [t.finding for t in left])
        self.assertEqual(set(BY_THE_PROGRAM) & {t.finding for t in left}, set())

    def test_made_up_trees_are_treated_right_in_little_time(self):
        """The goals set for trees drawn from the table itself: an act within half a day of the best for their cause."""
        rng = np.random.default_rng(7)
        goals = {"dry": 0.95, "dry_ball": 0.95, "wet": 0.85, "delivery": 0.75}
        spent = []
        for cause, least in goals.items():
            at, right = TABLE.causes.index(cause), 0
            for _ in range(150):
                found, minutes = asked(draw(rng, at))
                act = checkup.checkup(found | {"scratch": "green"}).water_act
                loss = dict(zip(ACTS, TABLE.loss[:, at], strict=True))
                right += loss[act] <= min(loss.values()) + 0.5
                spent.append(minutes)
            self.assertGreaterEqual(right / 150, least - 0.06, cause)  # 150 draws: within two standard errors
        self.assertLess(sum(spent) / len(spent), 1.5)


class Command(unittest.TestCase):
    def run_case(self, case):
        return checkup_json.run(checkup_json.parse(json.dumps(case)))

    def test_it_answers_in_its_own_words(self):
        found = self.run_case({"findings": {"ball_feel": "wet", "trunk": "wound"}})
        self.assertEqual(
            list(found), ["causes", "next", "verdict", "water_act", "expected_loss", "actions", "look_again_days"]
        )
        self.assertEqual(set(found["causes"][0]), {"cause", "probability", "evidence"})
        self.assertEqual([e["finding"] for e in found["causes"][0]["evidence"]], ["ball_feel"])
        self.assertAlmostEqual(sum(c["probability"] for c in found["causes"]), 1.0)

    def test_bad_input_names_its_field(self):
        for case, field in (
            ({}, "findings"), ({"findings": {"leaf": "green"}}, "findings.leaf"),
            ({"findings": {"x": 1}}, "findings.x"),
            ({"findings": {}, "dead_before": "no"}, "dead_before"), ({"findings": {}, "more": 1}, "more"),
        ):  # fmt: skip
            with self.assertRaises(InputError) as refused:
                self.run_case(case)
            self.assertEqual(refused.exception.field, field)


if __name__ == "__main__":
    unittest.main()
