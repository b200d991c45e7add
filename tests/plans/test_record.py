"""The record under pressure: races on real PostgreSQL, any order of arrival, daylight saving, waterings twice."""

import itertools
import threading
import unittest
from datetime import datetime, timedelta
from uuid import UUID, uuid4
from zoneinfo import ZoneInfo

from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from sqlalchemy import delete, select

from june_shade.core.errors import ConflictError
from june_shade.plans import clock, log, register, water
from june_shade.plans import weather_days as measured_days
from june_shade.plans.log import NewEntry
from june_shade.plans.water import page
from june_shade.store.log_tables import LogEntry
from june_shade.store.session import transaction
from june_shade.store.site_tables import Site
from june_shade.store.tree_tables import Tree, TreeState
from tests.support import DAY, ZONE, client, database, new_id, plant_id, small_site, tree_body, water_body, weather_days


def at(day, hour, minute=0, zone=ZONE):
    return datetime(day.year, day.month, day.day, hour, minute, tzinfo=zone)


def add_tree(session, site, tag="T-1", planted=DAY - timedelta(days=30)):
    body = tree_body(site.id, plant_id(session), tag=tag) | {
        "site_id": site.id, "plant_id": plant_id(session), "planted_on": planted,
    }  # fmt: skip
    row = register.save_tree(session, body, uuid4()).tree
    row.opened_on = planted  # as if it had been entered on the day it was planted
    row.opening = "full"
    session.flush()
    return row


def in_threads(*works):
    """Run at the same time; what each gave or raised."""
    found: list = [None] * len(works)
    barrier = threading.Barrier(len(works))

    def one(i, work):
        barrier.wait()
        try:
            found[i] = work()
        except Exception as e:
            found[i] = e

    threads = [threading.Thread(target=one, args=(i, work)) for i, work in enumerate(works)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join(20)
    return found


class Races(unittest.TestCase):
    def setUp(self):
        self.sessions = self.enterContext(database())
        with transaction(self.sessions) as session:
            site = small_site(session)
            self.tree_id = add_tree(session, site).id

    def put(self, entry, **correction):
        with transaction(self.sessions) as session:
            stored, new = log.put(session, entry, **correction)
            return stored.id, new

    def entry(self, litres=40.0, **changed):
        values = {"id": uuid4(), "tree_id": self.tree_id, "kind": "water", "happened_at": at(DAY, 6), "device_id": "a"}
        return NewEntry(**(values | {"volume_l": litres} | changed))

    def standing(self):
        with self.sessions() as session:
            return [e for e in log.on_day(session, session.get(Tree, self.tree_id).site_id, DAY) if e.kind == "water"]

    def test_the_same_entry_from_two_connections_is_stored_once(self):
        entry = self.entry()
        found = in_threads(*[lambda: self.put(entry)] * 4)
        self.assertEqual({f[0] for f in found}, {entry.id})
        self.assertEqual(sorted(f[1] for f in found), [False, False, False, True])
        self.assertEqual(len(self.standing()), 1)

    def test_two_entries_under_one_id_leave_one_and_a_conflict(self):
        one, two = self.entry(), self.entry(41.0)
        two = NewEntry(**{n: getattr(two, n) for n in two.__slots__} | {"id": one.id})
        found = in_threads(lambda: self.put(one), lambda: self.put(two))
        self.assertEqual(sum(isinstance(f, ConflictError) for f in found), 1)
        self.assertEqual(len(self.standing()), 1)

    def test_two_undo_one_entry_and_both_get_the_undo_that_stands(self):
        entry = self.entry()
        self.put(entry)
        voids = [self.entry(None, kind="void", voids=entry.id) for _ in range(2)]
        found = in_threads(*[lambda v=v: self.put(v) for v in voids])
        self.assertEqual(len({f[0] for f in found}), 1, found)
        self.assertEqual(self.standing(), [])

    def test_two_correct_one_entry_and_one_of_them_is_told(self):
        wrong = self.entry()
        self.put(wrong)
        better = [self.entry(litres) for litres in (50.0, 60.0)]
        found = in_threads(*[lambda e=e: self.put(e, correcting=wrong.id, void_id=uuid4()) for e in better])
        self.assertEqual(sum(isinstance(f, ConflictError) for f in found), 1, found)
        self.assertEqual(len(self.standing()), 1)


class AnyOrder(unittest.TestCase):
    """Entries from phones come late and in any order; the state they leave is the same."""

    @settings(max_examples=8, deadline=None, suppress_health_check=list(HealthCheck))
    @given(st.permutations(range(5)), st.integers(0, 4))
    def test_state_is_the_same_and_an_undo_restores_it_exactly(self, order, undone):
        if not hasattr(AnyOrder, "sessions"):
            AnyOrder.sessions = self.enterClassContext(database())
            with transaction(AnyOrder.sessions) as session:
                AnyOrder.site_id = small_site(session).id
            AnyOrder.numbers = itertools.count()
        with transaction(self.sessions) as session:
            site = session.get_one(Site, self.site_id)
            pair = [add_tree(session, site, f"{next(self.numbers)}-{i}") for i in range(2)]
            poured = [(DAY - timedelta(days=20 - 4 * i), 6 + 3 * i, 15.0 + 10 * i) for i in range(5)]
            ids: list[UUID] = []
            for tree, sequence in zip(pair, (range(5), order), strict=True):
                for i in sequence:
                    day, hour, litres = poured[i]
                    entry = NewEntry(uuid4(), tree.id, "water", at(day, hour), "a", volume_l=litres)
                    ids.append(log.put(session, entry)[0].id)
                    water.plan_site(session, site, tree_ids=[tree.id])  # caches in between
            first, second = (self.state(session, site, tree.id) for tree in pair)
            self.assertEqual(first, second)
            day, hour, _ = poured[undone]
            extra = NewEntry(uuid4(), pair[0].id, "water", at(day, hour, 30), "a", volume_l=99.0)
            log.put(session, extra)
            self.state(session, site, pair[0].id)
            log.put(session, NewEntry(uuid4(), pair[0].id, "void", at(DAY, 6), "a", voids=extra.id))
            self.assertEqual(self.state(session, site, pair[0].id), first)
            session.execute(delete(TreeState))
            self.assertEqual(self.state(session, site, pair[0].id), first)
            for tree in pair:
                tree.opened_on = DAY

    @staticmethod
    def state(session, site, tree_id):
        made = water.plan_site(session, site, tree_ids=[tree_id])
        now = made.plan.now
        return [float(getattr(now, n)[0]) for n in ("ball_depletion_l", "near_depletion_l", "root_radius_m")]


class DaylightSaving(unittest.TestCase):
    ZONE = ZoneInfo("America/Denver")  # clocks go back on 2026-11-01, forward on 2026-03-08

    def days_of(self, day, *moments):
        with database() as sessions, transaction(sessions) as session:
            site = small_site(session, today=day + timedelta(days=2))
            tree = add_tree(session, site, planted=day - timedelta(days=20))
            entries = []
            for moment in moments:
                entry = NewEntry(uuid4(), tree.id, "water", datetime.fromisoformat(moment), "a", volume_l=10.0)
                entries.append(log.put(session, entry)[0])
            made = water.plan_site(session, site, tree_ids=[tree.id])
            counted = {
                made.series.dates[i].item(): float(made.course.first_net_l[i, 0] + made.course.second_net_l[i, 0])
                for i in range(len(made.series))
            }
            return [e.local_date for e in entries], counted

    def test_the_hour_that_comes_twice_is_one_day(self):
        day = datetime(2026, 11, 1).date()
        local, counted = self.days_of(day, "2026-11-01T07:30:00+00:00", "2026-11-01T08:30:00+00:00")
        self.assertEqual(local, [day, day])
        self.assertGreater(counted[day], 0)

    def test_the_last_and_first_minute_of_a_long_day(self):
        day = datetime(2026, 11, 1).date()
        local, counted = self.days_of(day, "2026-11-01T06:00:00+00:00", "2026-11-02T06:59:00+00:00")
        self.assertEqual(local, [day, day])
        self.assertGreater(counted[day], 0, "just after midnight counts the same day")

    def test_a_short_day_has_its_own_date_too(self):
        day = datetime(2026, 3, 8).date()
        local, _ = self.days_of(day, "2026-03-08T07:00:00+00:00", "2026-03-09T05:59:00+00:00")
        self.assertEqual(local, [day, day])


class Crew(unittest.TestCase):
    """Whole stops, skips, what was seen, the wrong tree, two devices."""

    def setUp(self):
        self.client = self.enterContext(client())
        with transaction(self.client.app.state.sessions) as session:
            site = small_site(session)
            self.site_id, plant = site.id, plant_id(session)
            other = small_site(session).id
        self.trees = [new_id() for _ in range(3)]
        for i, tree in enumerate(self.trees):
            body = tree_body(self.site_id, plant, tag=f"T-{i}", planted_on="2026-06-10", stop="Row")
            body |= {"feel": {"ball": "dry", "ring": "dry"}}
            self.assertEqual(self.client.put(f"/api/trees/{tree}", json=body).status_code, 200)
        self.elsewhere = new_id()
        self.client.put(f"/api/trees/{self.elsewhere}", json=tree_body(other, plant))

    def put(self, body, entry=None):
        return self.client.put(f"/api/log/{entry or new_id()}", json=body)

    def log(self, tree):
        return self.client.get(f"/api/trees/{tree}/log").json()

    def row(self, tree):
        stops = [s for site in self.client.get("/api/today").json()["sites"] for s in site["stops"]]
        return next(t for stop in stops for t in stop["trees"] if t["id"] == tree)

    def test_a_whole_stop_all_or_none_and_once(self):
        entries = [water_body(tree, 20.0) | {"id": new_id()} for tree in self.trees]
        for _ in range(2):
            answer = self.client.put("/api/log", json={"entries": entries})
            self.assertEqual((answer.status_code, len(answer.json())), (200, 3))
        self.assertEqual([len(self.log(tree)) for tree in self.trees], [1, 1, 1])
        more = [water_body(tree, 5.0) | {"id": new_id()} for tree in self.trees]
        more[2]["tree_id"] = new_id()
        self.assertEqual(self.client.put("/api/log", json={"entries": more}).status_code, 404)
        self.assertEqual([len(self.log(tree)) for tree in self.trees], [1, 1, 1])

    def test_a_skip_has_a_reason_and_is_undone(self):
        tree = self.trees[0]
        base = {k: v for k, v in water_body(tree, 1).items() if k != "volume_l"}
        self.assertEqual(self.put(base | {"kind": "skip"}).status_code, 422)
        self.assertEqual(self.put(base | {"kind": "skip", "reason": "bored"}).status_code, 422)
        skip = self.put(base | {"kind": "skip", "reason": "no_access"})
        self.assertEqual(skip.status_code, 201)
        self.assertTrue(self.row(tree)["skipped"])
        before = self.client.get(f"/api/trees/{tree}/water").json()["dryness"]
        self.assertEqual(self.put(base | {"kind": "void", "voids": skip.json()["id"]}).status_code, 201)
        self.assertFalse(self.row(tree)["skipped"])
        self.assertEqual(self.client.get(f"/api/trees/{tree}/water").json()["dryness"], before, "a skip moves no water")

    def test_what_was_seen_needs_no_words(self):
        base = {k: v for k, v in water_body(self.trees[0], 1).items() if k != "volume_l"} | {"kind": "note"}
        self.assertEqual(self.put(base | {"seen": "wilting"}).status_code, 201)
        self.assertEqual(self.put(base | {"seen": "ghosts"}).status_code, 422)
        self.assertEqual(self.put(base).status_code, 422)
        self.assertEqual(self.log(self.trees[0])[0]["seen"], "wilting")

    def test_water_at_the_wrong_tree_moves_in_one_step(self):
        wrong, right = self.trees[:2]
        dry = {tree: self.client.get(f"/api/trees/{tree}/water").json()["dryness"] for tree in (wrong, right)}
        entry = new_id()
        self.put(water_body(wrong, 40.0), entry)
        move = water_body(right, 40.0) | {"corrects": entry, "void_id": new_id()}
        self.assertEqual(self.put(move).status_code, 201)
        self.assertEqual(self.client.get(f"/api/trees/{wrong}/water").json()["dryness"], dry[wrong])
        self.assertLess(self.client.get(f"/api/trees/{right}/water").json()["dryness"], dry[right])
        self.assertTrue(next(e for e in self.log(wrong) if e["id"] == entry)["voided"])
        away = water_body(self.elsewhere, 40.0) | {"corrects": self.log(right)[0]["id"], "void_id": new_id()}
        self.assertEqual(self.put(away).json()["field"], "corrects", "not into another site")

    def test_two_devices_within_the_hour_are_both_kept_and_marked(self):
        tree = self.trees[0]
        self.put(water_body(tree, 20.0, at="05:10"))
        self.put(water_body(tree, 20.0, at="05:50"))
        self.assertEqual([e["twice"] for e in self.log(tree)], [False, False], "one device may pour in goes")
        other = self.put(water_body(tree, 20.0, at="05:30") | {"device_id": "another"}).json()["id"]
        self.assertEqual([e["twice"] for e in self.log(tree)], [True] * 3)
        self.assertEqual(self.client.get(f"/api/trees/{tree}/water").json()["poured_today_l"], 60.0)
        base = {k: v for k, v in water_body(tree, 1).items() if k != "volume_l"}
        self.put(base | {"kind": "void", "voids": other})
        self.assertEqual({e["twice"] for e in self.log(tree) if e["kind"] == "water"}, {False})


class Gaps(unittest.TestCase):
    def test_days_without_weather_are_filled_said_and_mended(self):
        with database() as sessions, transaction(sessions) as session:
            site = small_site(session, history_days=60)
            tree = add_tree(session, site)
            clock.pin(session, DAY + timedelta(days=6))
            sheet = page.of_tree(session, tree.id)
            self.assertTrue(sheet["filled"])
            filled = [d for d in sheet["chart"] if d.basis == "neighbours" and d.day < sheet["today"]]
            self.assertEqual(len(filled), 6)
            self.assertEqual({d.rain_mm for d in filled}, {0.0}, "rain is never invented")
            measured_days.store_days(session, site.station, weather_days(DAY, DAY + timedelta(days=5)))
            self.assertFalse(page.of_tree(session, tree.id)["filled"])

    def test_every_newcomers_first_day_is_sane(self):
        with database() as sessions, transaction(sessions) as session:
            site = small_site(session, history_days=400)
            for i, days in enumerate((0, 1, 10, 100, 400, 3000)):
                body = tree_body(site.id, plant_id(session), tag=f"T-{i}") | {
                    "site_id": site.id, "plant_id": plant_id(session), "planted_on": DAY - timedelta(days=days),
                }  # fmt: skip
                tree = register.save_tree(session, body, uuid4()).tree
                sheet = page.of_tree(session, tree.id)
                self.assertTrue(0 <= sheet["dryness"] <= 0.5, days)
                if sheet["next"]:
                    self.assertTrue(1 <= sheet["next"].metric.litres <= 400, days)
                self.assertEqual(sheet["guessed"], days > 0)
            self.assertEqual(len(session.scalars(select(LogEntry)).all()), 0)


if __name__ == "__main__":
    unittest.main()
