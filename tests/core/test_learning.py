"""Readings move the state like a scalar Kalman filter; thirst and delivery are found where they are."""

import json
import unittest
from dataclasses import replace
from datetime import date, timedelta

import numpy as np
from filterpy.kalman import KalmanFilter
from hypothesis import given
from hypothesis import strategies as st
from scipy.optimize import minimize_scalar

from june_shade.core.errors import InputError
from june_shade.core.looking import learn
from june_shade.core.looking.season import corrected, opening_at, walk
from june_shade.core.water import balance, felt
from june_shade.core.water.felt import Capacity, Reading, Stood
from june_shade.core.water.ground import ground
from june_shade.formats import learn_json

FIRST = date(2027, 6, 1)
DAYS = 45
LOOKS = (4, 11, 18, 25, 32, 39)
ROOM = Capacity(*(np.array([v]) for v in (10.0, 20.0, 8.0, 15.0)))


def day(n):
    return (FIRST + timedelta(days=n)).isoformat()


def case(readings=(), **more):
    """A balled tree in loam through six dry weeks, watered every third day; more: parts laid over it."""
    return {
        "tree": {"kind": "balled", "caliper_m": 0.0508, "ball_diameter_m": 0.61, "ball_height_m": 0.366,
                 "crown_diameter_m": 1.8},
        "site": {"texture": "loam", "basin_diameter_m": 0.9}, "mulch_cover": 1.0,
        "routine": {"name": "log", "waterings": [{"date": day(n), "litres": 14} for n in range(0, DAYS, 3)]},
        "weather": [{"date": day(n), "eto_mm": 5.0 + (n % 4) * 0.5, "tmean_c": 24.0} for n in range(DAYS)],
        "readings": list(readings),
    } | more  # fmt: skip


def run(given):
    return learn_json.run(learn_json.parse(json.dumps(given)))


def weather_of(season):
    return [season.course.weather(n) for n in range(len(season.course))]


def truth(drinks=1.0, gets=1.0, **more):
    """What a probe would read before water on the days of LOOKS, of a tree that drinks so and gets so much."""
    looks = [{"date": day(n), "how": "probe", "ball_wetness": 0.5, "ring_wetness": 0.5} for n in LOOKS]
    told = learn_json.parse(json.dumps(case(looks) | more)).season
    course = replace(told.course, thirst=told.course.thirst * drinks, first_net_l=told.course.first_net_l * gets)
    found = []

    def look(moment, now, room, blank):
        wet = [1 - float((d / taw)[0]) for d, taw in ((now.ball_depletion_l, room.ball_taw_l),
                                                     (now.near_depletion_l, room.near_taw_l))]  # fmt: skip
        found.append(looks[len(found)] | {"before_water": True, "ball_wetness": max(0.0, wet[0]),
                                          "ring_wetness": max(0.0, wet[1])})  # fmt: skip
        return now

    walk(replace(told, course=course), range(DAYS), look)
    return found


class Weighing(unittest.TestCase):
    @given(st.lists(st.tuples(st.floats(0.25, 0.95), st.sampled_from(sorted(felt.SD))), min_size=1, max_size=8))
    def test_gain_and_error_are_those_of_a_kalman_filter_of_another_library(self, readings):
        other = KalmanFilter(dim_x=1, dim_z=1)
        other.x, other.F, other.H = np.array([[0.8]]), np.eye(1), np.eye(1)
        other.P, other.Q = np.array([[felt.GUESSED_SD**2]]), np.array([[felt.A_DAY_SD**2]])
        stood = Stood(np.array([2.0]), np.array([0.0]), np.array([felt.GUESSED_SD**2]), np.array([0.0025]))
        for wetness, how in readings:
            other.predict()
            other.update(wetness, R=felt.SD[how] ** 2)
            stood = replace(stood, ball_variance=felt.a_day_on(stood.ball_variance))
            stood, ball, ring = felt.weigh(stood, ROOM, Reading(wetness, np.nan, felt.SD[how]))
            self.assertAlmostEqual(ball.gain[0], other.K[0, 0])
            self.assertAlmostEqual(ball.after[0], other.x[0, 0])
            self.assertAlmostEqual(ball.sd_after[0] ** 2, other.P[0, 0])
            self.assertTrue(np.isnan(ring.gain[0]))

    def test_full_says_nothing_against_fuller_and_dust_nothing_against_drier(self):
        for wetness, read in ((1.3, 1.0), (0.1, 0.2)):
            stood = Stood((1 - np.array([wetness])) * 10.0, np.array([0.0]), np.array([0.04]), np.array([0.04]))
            after, told, _ = felt.weigh(stood, ROOM, Reading(read, np.nan, 0.2))
            self.assertEqual(after.ball_depletion_l[0], stood.ball_depletion_l[0])
            self.assertLess(told.sd_after[0], 0.2)

    def test_doubt_grows_by_the_day_and_ends_where_a_store_is_brim_full(self):
        variance = np.array([felt.PLANTED_SD**2])
        for _ in range(100):
            variance = felt.a_day_on(variance)
        self.assertAlmostEqual(float(variance[0]), felt.MOST_SD**2)
        self.assertAlmostEqual(float(felt.known_again(variance, np.array([-0.1]))[0]), felt.KNOWN_SD**2)
        self.assertEqual(float(felt.known_again(variance, np.array([0.1]))[0]), float(variance[0]))


class Season(unittest.TestCase):
    def test_readings_pull_the_line_and_water_still_closes(self):
        seen = [{"date": day(n), "before_water": n % 2 == 0, "how": "trowel", "ball_wetness": 0.4,
                 "ring_wetness": None if n == 11 else 0.9} for n in LOOKS]  # fmt: skip
        parsed = learn_json.parse(json.dumps(case(seen)))
        days, told = corrected(parsed.season)
        trees, reach, weathers = parsed.season.trees, parsed.season.eras[0].reach, weather_of(parsed.season)
        self.assertEqual(len(told), len(LOOKS))
        for before, after, weather in zip(days, days[1:], weathers[1:], strict=False):
            _, g, joined = balance.grow(trees, reach, before.state, weather)
            held = lambda s, near, far: (  # noqa: E731
                trees.ball_taw_l - s.ball_depletion_l + near - s.near_depletion_l + far - s.far_depletion_l
            )  # fmt: skip
            was = ground(trees, reach, before.state.root_radius_m, weather.mulch_depth_share)
            moved = after.moved
            change = held(after.state, g.near_taw_l, g.far_taw_l) - held(before.state, was.near_taw_l, was.far_taw_l)
            in_out = (joined + moved.net_l * (g.share + g.near_lands) + moved.rain_l + after.corrected_l
                      - moved.drained_l - moved.transpired_l - moved.evaporated_l)  # fmt: skip
            self.assertAlmostEqual(float(change[0]), float(in_out[0]), 9)
        for one in told:
            low, high = sorted((float(one.ball.predicted[0]), 0.4))
            self.assertTrue(low - 1e-9 <= float(one.ball.after[0]) <= high + 1e-9)

    def test_a_reading_after_water_is_of_the_watered_ball(self):
        reading = {"date": day(12), "how": "finger", "ball_wetness": 1.0, "ring_wetness": None}
        before, after = (run(case([reading | {"before_water": b}]))["readings"][0]["ball"] for b in (True, False))
        self.assertGreater(after["predicted"], before["predicted"])

    def test_nobody_looked_and_the_doubt_is_told(self):
        rows = run(case(opening="guessed", routine={"name": "log", "waterings": []}))["days"]
        self.assertAlmostEqual(rows[0]["ball_sd"], felt.GUESSED_SD)
        self.assertTrue(all(row["ball_sd"] <= felt.MOST_SD + 1e-12 for row in rows))


class Verdicts(unittest.TestCase):
    def test_a_tree_by_the_book_is_left_as_it_is(self):
        found = run(case(truth()))
        self.assertEqual(found["verdict"], "book_holds")
        self.assertAlmostEqual(found["demand"]["multiplier"], 1.0, 2)

    def test_a_thirst_within_reason_is_believed_and_a_great_one_after_a_delivery_check(self):
        little = run(case(truth(drinks=1.25)))
        self.assertAlmostEqual(little["demand"]["multiplier"], 1.25, delta=2 * little["demand"]["sd"])
        daily = {"name": "log", "waterings": [{"date": day(n), "litres": 9} for n in range(DAYS)]}
        much = case(truth(drinks=1.6, routine=daily), routine=daily)
        self.assertEqual(run(much)["verdict"], "ask_delivery")
        checked = run(much | {"delivery_checked": True})
        self.assertEqual(checked["verdict"], "drinks_more")
        self.assertAlmostEqual(checked["demand"]["multiplier"], 1.6, delta=2 * checked["demand"]["sd"])

    def test_water_that_never_arrived_is_asked_after(self):
        found = run(case(truth(gets=0.4)))
        self.assertEqual(found["verdict"], "ask_delivery")
        self.assertAlmostEqual(found["delivery"]["share"], 0.4, delta=0.1)

    def test_few_occasions_and_a_first_without_the_ball_tell_nothing(self):
        self.assertEqual(run(case(truth()[:3]))["verdict"], "too_few")
        ringed = [one | {"ball_wetness": None} if n == 0 else one for n, one in enumerate(truth())]
        found = run(case(ringed))
        self.assertEqual((found["verdict"], found["demand"], found["delivery"]), ("too_few", None, None))

    def test_the_least_is_the_one_that_scipy_finds(self):
        season = learn_json.parse(json.dumps(case(truth(drinks=1.25)))).season
        (found,) = learn.learn(season)
        begins, weathers = opening_at(season, np.array([LOOKS[0]])), weather_of(season)
        probed = {moment[0]: read for moment, read in season.course.felt.items()}
        reach = season.eras[0].reach

        def objective(m):
            """One run at a time, from the first occasion on, by the day."""
            tree = replace(season.trees, microclimate=season.trees.microclimate * m)
            state, total = begins.state, 0.0
            for n in range(LOOKS[0], LOOKS[-1] + 1):
                state, g, _ = balance.grow(tree, reach, state, weathers[n])
                if n in probed:
                    ball, ring = float(probed[n].ball[0, 0]), float(probed[n].ring[0, 0])
                    if n == LOOKS[0]:
                        state = replace(state, ball_depletion_l=(1 - ball) * tree.ball_taw_l,
                                        near_depletion_l=(1 - ring) * g.near_taw_l)  # fmt: skip
                    else:
                        for z, held, taw in ((ball, state.ball_depletion_l, tree.ball_taw_l),
                                             (ring, state.near_depletion_l, g.near_taw_l)):  # fmt: skip
                            w = 1 - float(held[0] / taw[0])
                            nothing = (z >= 1 and w >= z) or (z <= 0.2 and w <= z)
                            total += 0.0 if nothing else ((z - w) / felt.SD["probe"]) ** 2
                state, _ = balance.pass_day(tree, g, state, weathers[n], season.course.first_net_l[n])
            return total + ((m - 1) / 0.3) ** 2

        self.assertAlmostEqual(objective(1.0), found.objective_at_1, 6)
        other = minimize_scalar(objective, bounds=(0.9, 1.6), method="bounded", options={"xatol": 1e-5})
        self.assertAlmostEqual(found.demand.value, other.x, 3)
        self.assertLessEqual(found.demand.objective, other.fun + 1e-4)

    def test_readings_that_can_not_be_name_their_field(self):
        good = truth()[0]
        for changed, field in (
            ({"ball_wetness": None, "ring_wetness": None}, "readings[0].ball_wetness"),
            ({"ball_wetness": 3.0}, "readings[0].ball_wetness"), ({"how": "nose"}, "readings[0].how"),
            ({"date": "2031-01-01"}, "readings[0].date"), ({"before_water": "yes"}, "readings[0].before_water"),
        ):  # fmt: skip
            with self.assertRaises(InputError) as refused:
                run(case([good | changed]))
            self.assertEqual(refused.exception.field, field)
        with self.assertRaises(InputError) as refused:
            run(case(truth()[::-1]))
        self.assertEqual(refused.exception.field, "readings[1].date")


if __name__ == "__main__":
    unittest.main()
