"""The valve box's protocol (docs/devices.md) as a contract, run against the stand-in that ships and its faults."""

import unittest
from datetime import UTC, datetime, timedelta

import httpx
from fastapi.testclient import TestClient

from june_shade.core.devices import box as core
from june_shade.core.devices.box import Run
from june_shade.core.errors import InputError
from june_shade.outside.forecast import ServiceError
from june_shade.outside.valve_box import HttpValveBox, Schedule
from june_shade.standins import valve_box

NOW = datetime(2026, 7, 15, 4, 0, tzinfo=UTC)


class Clock:
    def __init__(self) -> None:
        self.at = NOW

    def __call__(self) -> datetime:
        return self.at

    def goes_on(self, minutes: float) -> None:
        self.at += timedelta(minutes=minutes)


class BoxTest(unittest.TestCase):
    def setUp(self):
        self.clock = Clock()
        client = self.enterContext(TestClient(valve_box.create(valve_box.Box({1: 4.0, 2: 2.0}, self.clock))))
        self.web, self.box = client, HttpValveBox("http://testserver", client=client)

    def fails(self, **faults) -> None:
        self.assertEqual(self.web.put("/faults", json=faults).status_code, 200)

    def run_at(self, minutes: float, outlet: int = 1, **more) -> Run:
        return Run(f"run-{outlet}", outlet, self.clock.at + timedelta(minutes=minutes), 10.0, **more)


class Contract(BoxTest):
    def test_a_schedule_is_kept_read_back_run_and_told_event_by_event(self):
        run = self.run_at(60, goes=2, rest_min=20.0)
        self.assertEqual(self.box.send(Schedule(1, (run,))), Schedule(1, (run,)))
        self.assertEqual(self.box.schedule(), Schedule(1, (run,)))
        self.clock.goes_on(65)
        now = self.box.status()
        self.assertEqual([(one.is_open, one.run_id) for one in now.outlets], [(True, "run-1"), (False, "")])
        self.assertAlmostEqual(now.flow_l_per_min, 4.0)
        self.clock.goes_on(60)
        events, more = self.box.events(0)
        self.assertEqual([one.kind for one in events], ["opened", "shut", "opened", "shut"])
        self.assertFalse(more)
        found = core.metered(run, events, self.clock.at)
        self.assertAlmostEqual(found.litres, 2 * 10 * 4.0, places=2)
        self.assertEqual(self.box.events(4), ([], False))

    def test_sent_again_it_is_the_same_and_an_older_one_is_refused(self):
        one, other = Schedule(3, (self.run_at(60),)), Schedule(3, (self.run_at(90),))
        self.assertEqual(self.box.send(one), self.box.send(one))
        for stale in (other, Schedule(2, ())):
            with self.assertRaises(ServiceError):
                self.box.send(stale)
        self.assertEqual(self.box.schedule(), one)
        self.assertEqual(self.box.send(Schedule(4, ())).runs, ())

    def test_what_has_begun_goes_on_under_the_next_schedule(self):
        begun = self.run_at(0)
        self.box.send(Schedule(1, (begun, self.run_at(30, 2))))
        self.clock.goes_on(5)
        self.assertEqual(self.box.send(Schedule(2, ())).runs, (begun,))
        self.clock.goes_on(60)
        self.assertEqual([one.outlet for one in self.box.events(0)[0]], [1, 1])

    def test_a_run_that_it_can_not_keep_is_refused_by_name(self):
        for run, field in ((self.run_at(-5), "starts_at"), (self.run_at(5, 9), "outlet")):
            with self.assertRaises(InputError) as refused:
                self.box.send(Schedule(1, (run,)))
            self.assertEqual(refused.exception.field, f"runs[0].{field}")
        self.assertEqual(self.box.schedule(), Schedule(0, ()))

    def test_a_stopped_run_is_over_and_its_other_goes_are_dropped(self):
        self.box.send(Schedule(1, (self.run_at(0, goes=3, rest_min=5.0), self.run_at(0, 2))))
        self.clock.goes_on(4)
        self.assertEqual([one.is_open for one in self.box.stop(1).outlets], [False, True])
        self.clock.goes_on(120)
        mine = [one.kind for one in self.box.events(0)[0] if one.outlet == 1]
        self.assertEqual(mine, ["opened", "shut", "stopped"])
        self.box.send(Schedule(2, (Run("next", 1, self.clock.at, 10.0),)))
        self.clock.goes_on(1)
        self.assertFalse(any(one.is_open for one in self.box.stop(None).outlets))

    def test_events_come_in_pages_each_once(self):
        for n in range(300):
            self.box.send(Schedule(n + 1, (Run(f"r{n}", 1, self.clock.at, 1.0),)))
            self.clock.goes_on(2)
        seen, more = [], True
        while more:  # page by page
            events, more = self.box.events(len(seen))
            seen += [one.seq for one in events]
        self.assertEqual(seen, list(range(1, 601)))


class Faults(BoxTest):
    def given(self, minutes: float = 30.0) -> core.Verdict:
        """A run of the first line as its meter has it, against 240 L/h."""
        run = Run("given", 1, self.clock.at, minutes)
        self.box.send(Schedule(self.box.status().revision + 1, (run,)))
        self.clock.goes_on(minutes + 1)
        events, _ = self.box.events(0)
        return core.judged(core.metered(run, events, self.clock.at), 240.0)

    def test_what_is_wrong_is_seen_in_what_the_meter_says(self):
        for faults, code in (({}, "fine"), ({"stuck_shut": [1]}, "stuck_shut"), ({"clogged_share": 0.15}, "clogging"),
                             ({"clogged_share": 0.5}, "blocked"), ({"leak_l_per_min": 1.0}, "leak"),
                             ({"leak_l_per_min": 5.0}, "burst")):  # fmt: skip
            with self.subTest(faults):
                self.setUp()
                self.fails(**faults)
                found = self.given()
                self.assertEqual(found.code, code)
                self.assertAlmostEqual(found.off_l_per_h, 60 * faults.get("leak_l_per_min", 0), delta=241)

    def test_a_leak_is_told_by_its_size(self):
        self.fails(leak_l_per_min=1.0)
        self.assertAlmostEqual(self.given().off_l_per_h, 60.0, places=1)

    def test_one_stuck_open_flows_with_all_shut(self):
        self.fails(stuck_open=[2])
        now = self.box.status()
        self.assertFalse(any(one.is_open for one in now.outlets))
        self.assertEqual(core.idle(now.flow_l_per_min, 15, {1: 240.0, 2: 120.0}), core.Idle(2, 120.0))

    def test_a_meter_that_runs_backwards_is_not_believed(self):
        self.fails(backwards=True)
        run = Run("given", 1, self.clock.at, 30.0)
        self.box.send(Schedule(1, (run,)))
        self.clock.goes_on(31)
        self.assertFalse(core.metered(run, self.box.events(0)[0], self.clock.at).believed)

    def test_a_silent_one_and_one_that_says_what_can_t_be_are_the_same(self):
        self.fails(silent=True)
        for ask in (self.box.status, self.box.schedule, lambda: self.box.events(0), lambda: self.box.stop(None)):
            with self.assertRaises(ServiceError):
                ask()
        bad = {"id": "b", "clock": "2026-07-15T04:00:00", "total_l": 1, "flow_l_per_min": 0, "revision": 0,
               "outlets": [], "last_seq": 0}  # fmt: skip
        for answer in (bad, {**bad, "clock": "soon"}, {**bad, "outlets": [3]}, [], "no"):
            client = httpx.Client(transport=httpx.MockTransport(lambda _, told=answer: httpx.Response(200, json=told)))
            with self.assertRaises(ServiceError):
                HttpValveBox("http://box.invalid", client=client).status()
        skipped = {"seq": 5, "at": NOW.isoformat(), "kind": "opened", "outlet": 1, "run_id": "", "total_l": 0}
        skips = {"events": [skipped], "more": False}
        client = httpx.Client(transport=httpx.MockTransport(lambda _: httpx.Response(200, json=skips)))
        with self.assertRaises(ServiceError):
            HttpValveBox("http://box.invalid", client=client).events(0)

    def test_its_clock_is_set_and_may_be_off_all_the_same(self):
        self.assertEqual(self.box.set_clock(NOW + timedelta(minutes=7)).clock, NOW + timedelta(minutes=7))
        self.fails(clock_off_min=25)
        self.assertEqual(self.box.set_clock(NOW).clock, NOW + timedelta(minutes=25))
        self.assertEqual({one.kind for one in self.box.events(0)[0]}, {"clock_set"})

    def test_set_forward_it_has_lived_through_what_it_skipped_and_set_back_it_runs_nothing_twice(self):
        run = self.run_at(60)
        self.box.send(Schedule(1, (run,)))
        self.box.set_clock(NOW + timedelta(hours=5))
        self.box.set_clock(NOW)
        self.clock.goes_on(120)
        events, _ = self.box.events(0)
        self.assertEqual([one.kind for one in events], ["opened", "shut", "clock_set", "clock_set"])
        self.assertAlmostEqual(core.metered(run, events, run.ends_at).litres, 40.0, places=2)

    def test_one_that_forgets_says_so_and_keeps_nothing(self):
        self.box.send(Schedule(5, (self.run_at(60),)))
        self.fails(forgets=True)
        self.assertEqual(self.box.schedule(), Schedule(0, ()))
        self.assertEqual(self.box.events(0)[0][-1].kind, "restarted")


if __name__ == "__main__":
    unittest.main()
