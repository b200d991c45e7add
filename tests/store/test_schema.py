"""The database itself refuses what can't be: the log's trigger, constraints, migrations there and back."""

import unittest
from datetime import date, time

import psycopg
from alembic.autogenerate import compare_metadata
from alembic.migration import MigrationContext
from sqlalchemy import inspect, text
from sqlalchemy.exc import IntegrityError, ProgrammingError

from june_shade.store.base import Base
from june_shade.store.care_tables import CareAct
from june_shade.store.log_tables import LogEntry, Person
from june_shade.store.migrate import downgrade, upgrade
from june_shade.store.mulch_tables import MulchEntry, StockMove
from june_shade.store.planting_tables import Planting
from june_shade.store.session import make_engine, transaction
from june_shade.store.site_tables import Site
from june_shade.store.tree_tables import Tree
from june_shade.store.weather_tables import StationDay
from tests.support import DAY, database, everything, fresh_database, new_id, plant_id, server, small_site


def a_tree(session, **changed) -> Tree:
    site = small_site(session, history_days=0)
    values = {
        "site_id": site.id, "tag": "T-1", "plant_id": plant_id(session), "kind": "balled", "caliper_m": 0.05,
        "ball_diameter_m": 0.61, "ball_height_m": 0.366, "planted_on": DAY, "opened_on": DAY,
    }  # fmt: skip
    tree = Tree(**(values | changed))
    session.add(tree)
    session.flush()
    return tree


def an_entry(tree: Tree, **changed) -> LogEntry:
    from uuid import uuid4

    values = {
        "id": uuid4(), "tree_id": tree.id, "kind": "water", "happened_at": "2026-07-15T06:12:00-06:00",
        "local_date": DAY, "local_time": time(6, 12), "device_id": "d", "volume_l": 20.0,
    }  # fmt: skip
    return LogEntry(**(values | changed))


class AppendOnly(unittest.TestCase):
    def test_the_log_takes_no_update_delete_or_truncate(self):
        with database() as sessions:
            with transaction(sessions) as session:
                session.add(an_entry(a_tree(session)))
            for statement in ("UPDATE log_entry SET volume_l = 1", "DELETE FROM log_entry", "TRUNCATE log_entry"):
                with self.subTest(statement), self.assertRaises(Exception) as caught, transaction(sessions) as session:
                    session.execute(text(statement))
                self.assertIn("append-only", str(caught.exception))
            with sessions() as session:
                self.assertEqual(session.execute(text("SELECT volume_l FROM log_entry")).scalar(), 20.0)


class Constraints(unittest.TestCase):
    def refused(self, make, *, name: str) -> None:
        with database() as sessions, self.assertRaises(IntegrityError) as caught, transaction(sessions) as session:
            session.add(make(session))
            session.flush()
        self.assertIn(name, str(caught.exception))

    def test_trees_that_can_not_be(self):
        for changed, name in (
            ({"caliper_m": -0.05}, "caliper_m_range"),
            ({"ball_diameter_m": 0.0}, "ball_diameter_m_range"),
            ({"planted_on": date(1949, 12, 31)}, "planted_on_range"),
            ({"opened_on": date(2026, 7, 1)}, "opened_after_planting"),
            ({"kind": "boxed"}, "kind_known"),
            ({"method": "emitters"}, "emitters_given"),
            ({"opening": "reading"}, "reading_given"),
            ({"mulch_material": "gold"}, "mulch_material_known"),
        ):
            with self.subTest(name):
                self.refused(lambda s, c=changed: a_tree(s, **c), name=name)

    def test_entries_that_can_not_be(self):
        for changed, name in (
            ({"volume_l": None}, "water_has_volume"),
            ({"volume_l": -1.0}, "volume_l_range"),
            ({"kind": "note", "volume_l": None, "note": ""}, "note_says_something"),
            ({"kind": "void", "volume_l": None}, "void_names_entry"),
            ({"kind": "dance", "volume_l": None}, "kind_known"),
        ):
            with self.subTest(name):
                self.refused(lambda s, c=changed: an_entry(a_tree(s), **c), name=name)

    def test_plantings_mulch_and_moves_that_can_not_be(self):
        planting = {
            "id": new_id(), "planned_on": DAY, "kind": "balled", "caliper_m": 0.05, "ball_diameter_m": 0.6,
            "ball_height_m": 0.36, "tag": "P-1", "count": 3,
        }  # fmt: skip
        for changed, name in (
            ({"count": 0}, "count_range"), ({"flare_below_top_m": 0.4}, "flare_in_ball"), ({"kind": "x"}, "kind_known"),
        ):  # fmt: skip
            with self.subTest(name):
                self.refused(
                    lambda s, c=changed: Planting(
                        **planting | {"site_id": small_site(s, history_days=0).id, "plant_id": plant_id(s)} | c
                    ),
                    name=name,
                )
        entry = {"id": new_id(), "kind": "laid", "day": DAY, "material": "bark", "depth_m": 0.07, "clear_gap_m": 0.08}
        for changed, name in (
            ({"depth_m": -0.01}, "depth_m_range"), ({"material": "gold"}, "material_known"),
            ({"kind": "check"}, "check_has_readings"), ({"underlay": "tin"}, "underlay_known"),
        ):  # fmt: skip
            with self.subTest(name):
                self.refused(lambda s, c=changed: MulchEntry(**entry | {"tree_id": a_tree(s).id} | c), name=name)
        move = {"id": new_id(), "material": "bark", "reason": "used", "litres": -5.0, "day": DAY}
        for changed, name in (
            ({"litres": 5.0}, "out_is_negative"), ({"reason": "left"}, "in_is_positive"),
            ({"reason": "x"}, "reason_known"),
        ):  # fmt: skip
            with self.subTest(name):
                self.refused(lambda s, c=changed: StockMove(**move | c), name=name)

    def test_a_task_is_not_moved_without_a_reason(self):
        self.refused(
            lambda s: CareAct(id=new_id(), tree_id=a_tree(s).id, key="stake_off", act="moved", day=DAY),
            name="reason_given",
        )

    def test_an_entry_is_voided_once(self):
        with database() as sessions, self.assertRaises(IntegrityError), transaction(sessions) as session:
            tree = a_tree(session)
            first = an_entry(tree)
            session.add(first)
            session.flush()
            for _ in range(2):
                session.add(an_entry(tree, kind="void", volume_l=None, voids=first.id))
                session.flush()

    def test_a_tag_is_there_once_in_its_site(self):
        def twice(session):
            tree = a_tree(session)
            return Tree(**{c.name: getattr(tree, c.name) for c in Tree.__table__.columns if c.name != "id"})

        self.refused(twice, name="uq_tree_site_id_tag")

    def test_a_day_whose_night_is_warmer_than_its_noon(self):
        def day(session):
            site = small_site(session, history_days=0)
            return StationDay(station_id=site.station_id, day=DAY, tmin_c=30.0, tmax_c=10.0)

        self.refused(day, name="temperatures_ordered")

    def test_names_are_unique(self):
        def twin(session):
            site = small_site(session, history_days=0)
            return Site(
                name=site.name, timezone="UTC", texture="loam", hose_flow_l_per_h=1.0, latitude_deg=0.0,
                longitude_deg=0.0, elevation_m=0.0,
            )  # fmt: skip

        self.refused(twin, name="uq_site_name")


class Migrations(unittest.TestCase):
    def test_there_and_back_and_there_again(self):
        url = server().ensure_database("migrations")
        upgrade(url)
        upgrade(url)
        engine = make_engine(url)
        self.assertIn("log_entry", inspect(engine).get_table_names())
        downgrade(url)
        self.assertEqual(set(inspect(engine).get_table_names()) - {"alembic_version"}, set())
        upgrade(url)
        self.assertIn("log_entry", inspect(engine).get_table_names())
        engine.dispose()

    def test_the_migrations_make_the_tables_that_the_code_has(self):
        engine = make_engine(fresh_database())
        with engine.connect() as connection:
            difference = compare_metadata(MigrationContext.configure(connection), Base.metadata)
        engine.dispose()
        self.assertEqual(difference, [])

    def test_what_was_kept_in_older_words_is_read_in_the_new_ones(self):
        url = fresh_database("demo")

        def asked(words: str):
            with everything(url) as connection:
                return connection.execute(words).fetchone()[0]

        soil = '{"soil": {"texture": "loam", "conductivity_mm_h": 13.2}, "climate": "dry"}'
        with everything(url) as connection:
            connection.execute("UPDATE planting SET planted_in = %s::jsonb", (soil,))
        laid = asked("SELECT count(*) FROM drip_layout WHERE choice ? 'flow_l_per_h'")
        before = asked("SELECT jsonb_agg(choice ORDER BY id) FROM drip_layout")
        soils = asked("SELECT jsonb_agg(planted_in ORDER BY id) FROM planting WHERE planted_in IS NOT NULL")
        self.assertTrue(laid and soils)
        downgrade(url, "0010")
        self.assertEqual(asked("SELECT count(*) FROM drip_layout WHERE choice ? 'flow_l_h'"), laid)
        self.assertEqual(asked("SELECT count(*) FROM planting WHERE planted_in -> 'soil' ? 'conductivity_mm_h'"), 0)
        upgrade(url)
        self.assertEqual(asked("SELECT jsonb_agg(choice ORDER BY id) FROM drip_layout"), before)
        kept = asked("SELECT jsonb_agg(planted_in ORDER BY id) FROM planting WHERE planted_in IS NOT NULL")
        self.assertEqual(kept, soils)
        self.assertEqual(asked("SELECT count(*) FROM forecast_day"), 0, "made up, and nobody said so")
        self.assertTrue(asked("SELECT bool_and(made_up_forecast) FROM station"))


class Sessions(unittest.TestCase):
    def test_a_failed_transaction_leaves_nothing(self):
        with database() as sessions:
            with self.assertRaises(ProgrammingError), transaction(sessions) as session:
                session.add(Person(name="Half"))
                session.flush()
                session.execute(text("SELECT nonsense FROM nowhere"))
            with sessions() as session:
                self.assertEqual(session.query(Person).count(), 0)

    def test_the_kept_cluster_is_guarded_by_a_password(self):
        from june_shade.launch.cluster import ADMIN, Cluster

        throw_away = server()
        self.assertNotIn(":@", throw_away.url("x"))
        self.assertTrue(Cluster(throw_away.folder, keep=False).url("x").startswith("postgresql://june_app@127.0.0.1"))
        with psycopg.connect(throw_away.url("postgres", ADMIN)) as connection:
            listening = connection.execute("SHOW listen_addresses").fetchone()
            sockets = connection.execute("SHOW unix_socket_directories").fetchone()
        self.assertEqual((listening[0], sockets[0]), ("127.0.0.1", ""))


if __name__ == "__main__":
    unittest.main()
