"""The soil probe's protocol (docs/devices.md) as a contract, run against the stand-in that ships and its faults."""

import unittest
from datetime import UTC, datetime, timedelta
from itertools import pairwise

import httpx
import numpy as np
from fastapi.testclient import TestClient

from june_shade.core.devices import probe as core
from june_shade.outside.forecast import ServiceError
from june_shade.outside.soil_probe import HttpSoilProbe
from june_shade.standins import soil_probe

NOW = datetime(2026, 7, 15, 5, 30, tzinfo=UTC)
SATURATED = 0.44


class ProbeTest(unittest.TestCase):
    def setUp(self):
        self.at = NOW
        device = soil_probe.Probe((0.1, 0.2, 0.4), lambda: self.at)
        self.web = self.enterContext(TestClient(soil_probe.create(device)))
        self.probe = HttpSoilProbe("http://testserver", client=self.web)

    def goes_on(self, hours: float) -> None:
        self.at += timedelta(hours=hours)

    def fails(self, **faults) -> None:
        self.assertEqual(self.web.put("/faults", json=faults).status_code, 200)

    def arrays(self) -> tuple[np.ndarray, np.ndarray]:
        """All its hours: water content and temperature, arrays (hours, depths)."""
        found, _ = self.probe.readings(0)
        return np.array([one.theta_m3_m3 for one in found]), np.array([one.temperature_c for one in found])

    def doubted(self) -> set[str]:
        theta, warm = self.arrays()
        none = np.zeros(len(theta), bool)
        return set(core.doubts(theta, warm, np.full(len(theta), 0.2), none, SATURATED).ravel().tolist())


class Contract(ProbeTest):
    def test_it_tells_an_hour_after_the_other_each_once(self):
        self.goes_on(30)
        first, more = self.probe.readings(0)
        self.assertEqual([one.seq for one in first], list(range(1, 31)))
        self.assertFalse(more)
        self.assertEqual({b.at - a.at for a, b in pairwise(first)}, {timedelta(hours=1)})
        self.assertEqual(first[0].depths_m, (0.1, 0.2, 0.4))
        self.goes_on(2)
        self.assertEqual([one.seq for one in self.probe.readings(30)[0]], [31, 32])
        self.assertEqual(self.probe.status().last_seq, 32)

    def test_its_clock_is_set_and_it_lives_through_what_it_skipped(self):
        self.goes_on(2)
        self.assertEqual(self.probe.set_clock(self.at + timedelta(days=1)).clock, self.at + timedelta(days=1))
        ahead = self.probe.readings(0)[0]
        self.assertEqual(len(ahead), 26)
        self.probe.set_clock(self.at)
        self.goes_on(2)
        self.assertEqual([one.at.hour for one in self.probe.readings(26)[0]], [8, 9])

    def test_it_dries_by_day_most_of_all_on_top_and_is_wet_after_a_soaking(self):
        self.goes_on(72)
        theta, _ = self.arrays()
        lost = theta[0] - theta[-1]
        self.assertTrue(np.all(np.diff(lost) < 0) and np.all(lost > 0))
        self.assertEqual(self.doubted(), {""})
        self.web.put("/soak", json={"mm": 40})
        self.goes_on(1)
        self.assertGreater(self.arrays()[0][-1][0], theta[-1][0] + 0.05)

    def test_pages_of_many_hours(self):
        self.goes_on(1500)
        seen, more = [], True
        while more:
            found, more = self.probe.readings(len(seen))
            seen += [one.seq for one in found]
        self.assertEqual(seen, list(range(1, 1501)))


class Faults(ProbeTest):
    def test_each_is_seen_in_what_it_says(self):
        for faults, code in (({"spikes": True}, "spike"), ({"stuck": True}, "stuck"), ({"on_mars": True}, "mars")):
            with self.subTest(code):
                self.setUp()
                self.fails(**faults)
                self.goes_on(80)
                self.assertIn(code, self.doubted())

    def test_a_gap_is_hours_that_are_not_there(self):
        self.fails(gap_hours=5)
        self.goes_on(48)
        hours = [one.at.hour for one in self.probe.readings(0)[0]]
        self.assertEqual(min(hours), 5)
        self.assertEqual([one.seq for one in self.probe.readings(0)[0]], list(range(1, len(hours) + 1)))

    def test_one_that_is_off_by_as_much_is_put_right_by_one_point(self):
        self.goes_on(1)
        true = self.arrays()[0][-1][0]
        self.fails(offset_m3_m3=0.06)
        self.goes_on(1)
        read = self.arrays()[0][-1][0]
        self.assertAlmostEqual(float(core.calibrated(read, [(read, true)])), true)
        self.assertAlmostEqual(read - true, 0.06, delta=0.01)

    def test_a_silent_one_and_one_that_says_what_can_t_be_are_the_same(self):
        self.fails(silent=True)
        for ask in (self.probe.status, lambda: self.probe.readings(0)):
            with self.assertRaises(ServiceError):
                ask()
        hour = {"seq": 1, "at": NOW.isoformat(), "depths": [{"depth_m": -1, "theta_m3_m3": 0.2, "temperature_c": 9}]}
        for answer in ([], {"readings": [hour]}, {"readings": [{**hour, "at": "now", "depths": []}]}, {"readings": 3},
                       {"readings": [{**hour, "seq": 4, "depths": []}]}):  # fmt: skip
            client = httpx.Client(transport=httpx.MockTransport(lambda _, told=answer: httpx.Response(200, json=told)))
            with self.assertRaises(ServiceError):
                HttpSoilProbe("http://probe.invalid", client=client).readings(0)


if __name__ == "__main__":
    unittest.main()
