"""Sites run as one and pages read from one moment: the same figures as one by one, and nobody waits for a page."""

import threading
import unittest
from dataclasses import fields, is_dataclass
from datetime import timedelta
from uuid import uuid4

import numpy as np
from sqlalchemy import delete, func, select

from june_shade.core.water import planner, together
from june_shade.plans import changes, clock, register, water
from june_shade.plans.changes import Changed, What
from june_shade.plans.water.run import plan_sites, prepare
from june_shade.store import trees as tree_store
from june_shade.store.session import UnavailableError, reading, transaction
from june_shade.store.site_tables import Site
from june_shade.store.tree_tables import TreeState
from tests.support import DAY, database, plant_id, small_site, tree_body


def figures(value, count: int, path: str = "") -> dict[str, list]:
    """Every figure of a plan by its path, each tree's own whether it is shared by all of its site or not."""
    if isinstance(value, np.ndarray):
        return {path: np.broadcast_to(value, (*value.shape[:-1], count)).tolist()}
    if is_dataclass(value):
        parts = ((f"{path}.{f.name}", getattr(value, f.name)) for f in fields(value))
    elif isinstance(value, dict):
        parts = ((f"{path}[{key}]", each) for key, each in value.items())
    else:
        one_for_all = value is None or isinstance(value, (bool, int, tuple))
        return {path: value if one_for_all else np.full(count, value).tolist()}
    return {name: each for at, part in parts for name, each in figures(part, count, at).items()}


class AsOne(unittest.TestCase):
    def test_each_site_gets_the_plan_that_it_gets_alone(self):
        with database("demo") as sessions, transaction(sessions) as session:
            sites = tree_store.sites(session)
            clock.pin(session, clock.today(session, sites[0].timezone) + timedelta(days=1))
            alone = {site.id: water.plan_site(session, site, use_cache=False) for site in sites}
            made = plan_sites(session, sites)
            self.assertEqual(set(made), {site_id for site_id, one in alone.items() if one})
            runs = {site.id: prepare(session, site).run for site in sites if alone[site.id]}
            lines = 0
            for site_id, run in runs.items():
                with self.subTest(site=alone[site_id].site.name):
                    count = len(run.trees)
                    expected = planner.run(
                        run.trees, run.opening, run.course, run.eras, checkpoint_days=run.checkpoint_days
                    )
                    found = together.plans(list(runs.values()))[list(runs).index(site_id)]
                    np.testing.assert_equal(figures(found, count), figures(expected, count))
                    at, today = made[site_id].course.today, alone[site_id].course.today
                    np.testing.assert_array_equal(
                        made[site_id].plan.visit_gross_l[at:], alone[site_id].plan.visit_gross_l[today:]
                    )
                    lines += int(np.sum(expected.neediest >= 0))
            self.assertGreater(lines, 0, "the demo must have trees on lines that run")


class OneMoment(unittest.TestCase):
    """A page reads what was there when it began."""

    def setUp(self):
        self.sessions = self.enterContext(database())
        with transaction(self.sessions) as session:
            site = small_site(session)
            plant = plant_id(session)
            body = tree_body(site.id, plant, planted_on=DAY - timedelta(days=20))
            body |= {"site_id": site.id, "plant_id": plant, "opened_on": DAY - timedelta(days=20)}
            self.site_id, self.tree_id = site.id, register.save_tree(session, body, uuid4()).tree.id
            clock.pin(session, DAY + timedelta(days=2))
            session.execute(delete(TreeState))

    def kept(self) -> int:
        with transaction(self.sessions) as session:
            return session.scalar(select(func.count()).select_from(TreeState))

    def test_a_page_does_not_wait_for_an_entry_that_is_being_written(self):
        held, release, told = threading.Event(), threading.Event(), []

        def write():
            with transaction(self.sessions) as session:
                changes.hold(session, [self.site_id])
                held.set()
                told.append(release.wait(20))

        writer = threading.Thread(target=write)
        writer.start()
        self.assertTrue(held.wait(5))
        with reading(self.sessions) as session:
            self.assertIsNotNone(water.plan_site(session, session.get_one(Site, self.site_id)))
        self.assertEqual(told, [], "the page was there while the entry was still being written")
        self.assertEqual(self.kept(), 0, "and left the site to whoever had it")
        release.set()
        writer.join(5)
        self.assertEqual(told, [True])

    def test_what_a_page_worked_out_is_kept_if_nothing_has_changed_since(self):
        with reading(self.sessions) as session:
            water.plan_site(session, session.get_one(Site, self.site_id))
        self.assertGreater(self.kept(), 0)

    def test_it_is_let_go_if_something_changed_meanwhile(self):
        with reading(self.sessions) as session:
            water.plan_site(session, session.get_one(Site, self.site_id))
            with transaction(self.sessions) as other:
                changes.hold(other, [self.site_id])
                changes.tell(other, Changed(self.site_id, What.WATER, (self.tree_id,)))
        self.assertEqual(self.kept(), 0, "states of what was read before the change would be wrong")

    def test_a_page_sees_one_revision_of_everything(self):
        with reading(self.sessions) as session:
            before = session.get_one(Site, self.site_id).revision
            with transaction(self.sessions) as other:
                changes.hold(other, [self.site_id])
                changes.tell(other, Changed(self.site_id, What.PAGE))
            session.expire_all()
            self.assertEqual(session.get_one(Site, self.site_id).revision, before)

    def test_it_writes_nothing(self):
        with self.assertRaises(Exception) as caught, reading(self.sessions) as session:
            session.get_one(Site, self.site_id).name = "Written by a page"
            session.flush()
        self.assertNotIsInstance(caught.exception, UnavailableError)
        with transaction(self.sessions) as session:
            self.assertNotEqual(session.get_one(Site, self.site_id).name, "Written by a page")
