"""The plan over the store: the cache never shows, locks hold, the demo's town is what it says."""

import threading
import unittest
from datetime import date, timedelta
from uuid import uuid4

import numpy as np
from sqlalchemy import delete, func, select

from june_shade.core.stock.balls import KINDS
from june_shade.core.water.delivery import METHODS
from june_shade.demo import scenario, steps
from june_shade.plans import clock, log, register, rounds, water
from june_shade.plans import weather_days as measured_days
from june_shade.plans.log import NewEntry
from june_shade.plans.water import page
from june_shade.store import locks
from june_shade.store.log_tables import LogEntry, Person
from june_shade.store.session import transaction
from june_shade.store.site_tables import GaugeDay, Site, SoilTest
from june_shade.store.tree_tables import Plant, StockSize, Tree, TreeState
from june_shade.store.weather_tables import StationDay
from tests.support import DAY, ZONE, database, plant_id, small_site, tree_body, weather_days


def pour(session, tree: Tree, litres: float, day: date) -> None:
    from datetime import datetime, time

    at = datetime.combine(day, time(6, 30), ZONE)
    log.put(session, NewEntry(uuid4(), tree.id, "water", at, "test", volume_l=litres))


def planned(session, site: Site, *, use_cache: bool) -> dict:
    """All that a plan says, as plain bytes to compare."""
    made = water.plan_site(session, site, use_cache=use_cache)
    names = ("visit_gross_l", "visit_net_l", "dryness", "ks", "ball_depletion_l", "near_depletion_l", "root_radius_m")
    at = made.course.today
    found = {name: getattr(made.plan, name)[at:].tobytes() for name in names}
    return found | {name: getattr(made.plan, name).tobytes() for name in ("late_days", "now_dryness")}


class Cache(unittest.TestCase):
    """Computed days are a cache: with it, without it and after wiping it the plan is the same, bit for bit."""

    def setUp(self):
        self.sessions = self.enterContext(database("demo"))

    def test_wiping_it_gives_the_same_plan(self):
        with transaction(self.sessions) as session:
            for site in session.scalars(select(Site)).all():
                warm = planned(session, site, use_cache=True)
                self.assertGreater(session.scalar(select(func.count()).select_from(TreeState)), 0)
                again = planned(session, site, use_cache=True)
                without = planned(session, site, use_cache=False)
                session.execute(delete(TreeState))
                wiped = planned(session, site, use_cache=True)
                for other in (again, without, wiped):
                    self.assertEqual(other, warm, site.name)

    def test_it_stays_true_as_water_weather_and_edits_come_in_late(self):
        with transaction(self.sessions) as session:
            site = session.scalars(select(Site).where(Site.name.startswith("Hobb"))).one()
            trees = session.scalars(select(Tree).where(Tree.site_id == site.id).order_by(Tree.tag)).all()
            planned(session, site, use_cache=True)

            def check(what: str) -> None:
                session.flush()
                self.assertEqual(planned(session, site, use_cache=True), planned(session, site, use_cache=False), what)

            pour(session, trees[0], 55.0, scenario.DAY - timedelta(days=12))
            check("water logged twelve days late")
            entry = session.scalars(
                select(LogEntry).where(LogEntry.tree_id == trees[1].id, LogEntry.kind == "water")
            ).first()
            at = clock.now(session)
            log.put(session, NewEntry(uuid4(), trees[1].id, "void", at, "test", voids=entry.id))
            check("an old entry undone")
            measured_days.store_days(
                session, site.station, weather_days(DAY - timedelta(9), DAY - timedelta(8), rain_mm=20.0)
            )
            check("two rainy days corrected")
            body = tree_body(
                site.id, trees[2].plant_id, tag=trees[2].tag, planted_on=trees[2].planted_on, caliper_m=0.06
            )
            body |= {"site_id": site.id, "plant_id": trees[2].plant_id}
            register.save_tree(session, body, trees[2].id)
            check("a tree measured again")
            clock.pin(session, scenario.DAY + timedelta(days=3))
            check("three days without any report")
            measured_days.store_days(session, site.station, weather_days(DAY, DAY + timedelta(days=2), high_c=35.0))
            check("the reports come in after all")

    def test_one_tree_alone_is_planned_as_among_all(self):
        with transaction(self.sessions) as session:
            site = session.scalars(select(Site).where(Site.name.startswith("Tamarack"))).one()
            among = water.plan_site(session, site, use_cache=False)
            for row in among.rows[::5]:
                alone = water.plan_site(session, site, tree_ids=[row.id], use_cache=False)
                i, own, at = among.index_of(row.id), alone.index_of(row.id), among.course.today
                np.testing.assert_array_equal(
                    alone.plan.dryness[alone.course.today :, own], among.plan.dryness[at:, i], row.tag
                )


class Locks(unittest.TestCase):
    def test_a_plan_waits_for_an_entry_that_is_being_written(self):
        with database() as sessions:
            with transaction(sessions) as session:
                site_id = small_site(session).id
            held, release, planned_at = threading.Event(), threading.Event(), []

            def write():
                with transaction(sessions) as session:
                    locks.lock_site(session, site_id, exclusive=True)
                    held.set()
                    release.wait(5)

            def plan():
                with transaction(sessions) as session:
                    water.plan_site(session, session.get_one(Site, site_id))
                planned_at.append(release.is_set())

            writer = threading.Thread(target=write)
            writer.start()
            self.assertTrue(held.wait(5))
            planner = threading.Thread(target=plan)
            planner.start()
            planner.join(0.3)
            self.assertEqual(planned_at, [], "the plan must not read while the entry is half written")
            release.set()
            writer.join(5)
            planner.join(5)
            self.assertEqual(planned_at, [True])


class Openings(unittest.TestCase):
    def test_roots_of_a_tree_entered_late_have_grown_since_it_was_planted(self):
        with database() as sessions, transaction(sessions) as session:
            site = small_site(session, history_days=400)
            plant = plant_id(session)
            radius = {}
            for tag, planted in (
                ("a", DAY),
                ("b", DAY - timedelta(60)),
                ("c", DAY - timedelta(120)),
                ("d", date(2016, 5, 1)),
            ):
                body = tree_body(site.id, plant, tag=tag) | {
                    "site_id": site.id, "plant_id": plant, "planted_on": planted,
                }  # fmt: skip
                tree = register.save_tree(session, body, uuid4()).tree
                made = water.plan_site(session, site, tree_ids=[tree.id])
                radius[tag] = float(made.plan.now.root_radius_m[0])
            self.assertTrue(radius["a"] < radius["b"] < radius["c"] < radius["d"])
            self.assertAlmostEqual(radius["d"], 0.305 + 14.5 * 0.0508, places=9, msg="ten years on it is established")

    def test_a_tree_planted_in_spring_before_the_first_known_day_is_planned(self):
        with database() as sessions, transaction(sessions) as session:
            site = small_site(session, history_days=5)
            body = tree_body(site.id, plant_id(session)) | {
                "site_id": site.id, "plant_id": plant_id(session), "planted_on": date(2026, 4, 2),
            }  # fmt: skip
            tree = register.save_tree(session, body, uuid4()).tree
            sheet = page.of_tree(session, tree.id)
            self.assertTrue(sheet["guessed"])
            self.assertGreater(sheet["section"].root_radius_m, 0.305)


class Demo(unittest.TestCase):
    def test_the_town(self):
        with database("demo") as sessions, transaction(sessions) as session:
            count = lambda table: session.scalar(select(func.count()).select_from(table))  # noqa: E731
            self.assertEqual((count(Site), clock.pinned_day(session)), (4, date(2026, 7, 15)))
            self.assertTrue(90 <= count(Tree) <= 110)
            self.assertEqual(count(StationDay), 2205, "six years of weather")
            self.assertGreaterEqual(count(Plant), 38)
            self.assertGreaterEqual(count(StockSize), 15)
            self.assertEqual(count(Person), 3)
            days = session.scalars(select(func.distinct(LogEntry.local_date))).all()
            self.assertTrue(25 <= len(days) <= 31, "a month of log")
            kinds = set(session.scalars(select(func.distinct(Tree.kind))))
            self.assertEqual(kinds, set(KINDS), "every kind of stock")
            methods = set(session.scalars(select(func.distinct(Tree.method))))
            self.assertEqual(methods, set(METHODS) - {"bucket"}, "every way of pouring but the plainest")
            self.assertGreaterEqual(count(SoilTest), 7)
            self.assertGreaterEqual(count(GaugeDay), 3)
            self.assertEqual(len(set(session.scalars(select(func.distinct(Site.texture))))), 4)

    def test_it_has_work_today_and_no_tree_in_an_unknown_state(self):
        with database("demo") as sessions, transaction(sessions) as session:
            found = rounds.round_of_today(session)
            due = [tree for site in found["sites"] for stop in site["stops"] for tree in stop["trees"] if tree["next"]]
            self.assertTrue(5 <= len(due) <= 60, len(due))
            self.assertEqual([site["problem"] for site in found["sites"]], [None] * 4)

    def test_filling_it_is_the_same_every_time(self):
        with database("demo") as a, database() as b:
            scenario.fill(b)
            rows = []
            for sessions in (a, b):
                with transaction(sessions) as session:
                    rows.append(
                        session.execute(
                            select(LogEntry.id, LogEntry.volume_l, LogEntry.local_date).order_by(LogEntry.id)
                        ).all()
                    )
            self.assertEqual(rows[0], rows[1])

    def test_a_day_on(self):
        with database("demo") as sessions, transaction(sessions) as session:
            steps.next_day(session, None)
            self.assertEqual(clock.pinned_day(session), date(2026, 7, 16))
            self.assertEqual([s["problem"] for s in rounds.round_of_today(session)["sites"]], [None] * 4)


if __name__ == "__main__":
    unittest.main()
