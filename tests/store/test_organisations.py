"""Organisations are kept apart by the database itself, whatever a query forgets."""

import unittest
from uuid import UUID, uuid4

from sqlalchemy import func, select, text, update
from sqlalchemy.exc import IntegrityError, ProgrammingError

from june_shade.plans import kinds
from june_shade.store import backup
from june_shade.store.base import Base
from june_shade.store.log_tables import LogEntry, Person
from june_shade.store.organisation_tables import FIRST_ORGANISATION, Organisation
from june_shade.store.session import SessionMaker, is_not_ours, transaction
from june_shade.store.site_tables import Site, Stop
from june_shade.store.tree_tables import Plant, Tree
from tests.store.test_schema import a_tree, an_entry
from tests.support import database

EVERYONE_S = {"pinned_clock", "sign_in_try"}
OWN_ROW = {"log_entry.voids"}
"""A policy can't look into its own table."""


def another(sessions: SessionMaker, name: str = "Nightjar Landscape") -> SessionMaker:
    """Sessions of a new organisation that has the usual kinds of tree."""
    made = Organisation(id=uuid4(), name=name)
    with transaction(sessions.of_all()) as session:
        session.add(made)
    with transaction(sessions.of(made.id)) as session:
        kinds.seed_tables(session)
    return sessions.of(made.id)


class EveryTable(unittest.TestCase):
    def setUp(self):
        self.sessions = self.enterContext(database())

    def asked(self, words: str) -> set:
        with self.sessions() as session:
            return set(session.execute(text(words)).scalars())

    def test_each_is_guarded_also_from_the_program_that_owns_it(self):
        guarded = self.asked("SELECT relname FROM pg_class WHERE relrowsecurity AND relforcerowsecurity")
        self.assertEqual(set(Base.metadata.tables) - guarded, EVERYONE_S)

    def test_each_column_that_names_a_row_is_guarded_too(self):
        """A foreign key sees all rows: without this a tree could be put on another organisation's site."""
        guarded = self.asked("SELECT tablename || '.' || policyname FROM pg_policies WHERE permissive = 'RESTRICTIVE'")
        named = {
            f"{table.name}.{key.parent.name}"
            for table in Base.metadata.sorted_tables for key in table.foreign_keys
            if key.column.table.name != "organisation"
        }  # fmt: skip
        self.assertEqual({name.removesuffix("_is_ours") for name in guarded}, named - OWN_ROW)

    def test_the_program_s_own_user_can_not_look_past_it(self):
        words = "SELECT rolname FROM pg_roles WHERE rolname = current_user AND NOT rolsuper AND NOT rolbypassrls"
        self.assertTrue(self.asked(words))


class Apart(unittest.TestCase):
    def setUp(self):
        self.ours = self.enterContext(database())
        self.theirs = another(self.ours)
        with transaction(self.ours) as session:
            self.tree = a_tree(session)
            session.add(an_entry(self.tree))
            session.add(Person(name="Ada"))

    def refused(self, make, sessions: SessionMaker) -> None:
        with self.assertRaises(ProgrammingError) as caught, transaction(sessions) as session:
            session.add(make(session))
            session.flush()
        self.assertTrue(is_not_ours(caught.exception))

    def test_nothing_of_another_is_seen_by_rows_joins_counts_or_plain_words(self):
        with self.theirs() as session:
            self.assertIsNone(session.get(Tree, self.tree.id))
            for kind in (Tree, Site, LogEntry, Person):
                self.assertEqual(session.scalar(select(func.count()).select_from(kind)), 0)
            self.assertEqual(session.execute(text("SELECT count(*) FROM tree JOIN site ON true")).scalar(), 0)
            self.assertEqual(session.scalars(select(Organisation.name)).all(), ["Nightjar Landscape"])
            lines = list(backup.rows(session.connection(), "log_entry"))
            self.assertEqual(lines, [])
        with self.ours() as session:
            self.assertEqual(len(list(backup.rows(session.connection(), "log_entry"))), 1)
            self.assertEqual(session.scalars(select(Organisation.id)).all(), [FIRST_ORGANISATION])

    def test_nothing_of_another_is_changed_or_taken_away(self):
        with transaction(self.theirs) as session:
            session.execute(update(Tree).values(tag="T-9"))
            session.execute(text("DELETE FROM person"))
        with self.ours() as session:
            self.assertEqual(session.get(Tree, self.tree.id).tag, "T-1")
            self.assertEqual(session.scalar(select(func.count()).select_from(Person)), 1)

    def test_a_row_can_not_name_another_s_nor_be_given_away(self):
        def plant(session) -> UUID:
            return session.scalars(select(Plant.id).limit(1)).one()

        self.refused(lambda session: Stop(site_id=self.tree.site_id, name="Gate", position=1), self.theirs)
        self.refused(lambda session: an_entry(self.tree), self.theirs)
        self.refused(lambda session: a_tree(session, site_id=self.tree.site_id), self.theirs)
        self.refused(lambda session: Person(name="Bo", organisation_id=FIRST_ORGANISATION), self.theirs)
        with self.theirs() as session:
            self.assertNotEqual(plant(session), self.tree.plant_id)
            their_plant = plant(session)
        with self.assertRaises(ProgrammingError), transaction(self.ours) as session:
            session.execute(update(Tree).values(plant_id=their_plant))

    def test_an_entry_s_id_that_another_has_is_refused_without_a_word_of_it(self):
        with self.ours() as session:
            taken = session.scalars(select(LogEntry.id)).one()
        with transaction(self.theirs) as session:
            their_tree = a_tree(session)
        with self.assertRaises(IntegrityError), transaction(self.theirs) as session:
            session.add(an_entry(their_tree, id=taken))

    def test_two_may_use_one_name(self):
        with self.ours() as session:
            name = session.scalars(select(Site.name)).one()
        with transaction(self.theirs) as session:
            site = session.get(Site, a_tree(session).site_id)
            site.name = name
            session.add(Person(name="Ada"))

    def test_a_connection_forgets_whose_it_was(self):
        engine = self.ours.kw["bind"]
        with engine.connect() as connection:
            self.assertEqual(connection.execute(text("SELECT count(*) FROM tree")).scalar(), 0, "nobody's")
        for _ in range(3):
            for sessions, trees in ((self.ours, 1), (self.theirs, 0), (self.ours.of_all(), 1)):
                with sessions() as session:
                    self.assertEqual(session.scalar(select(func.count()).select_from(Tree)), trees)
                    session.rollback()
                    self.assertEqual(session.scalar(select(func.count()).select_from(Tree)), trees)


if __name__ == "__main__":
    unittest.main()
