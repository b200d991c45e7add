"""Computed days are a cache: a state a week and yesterday's, whatever was asked on the days between."""

import unittest
from datetime import timedelta

from sqlalchemy import select

from june_shade.plans import clock
from june_shade.store.session import transaction
from june_shade.store.tree_tables import TreeState
from tests.support import DAY, client, new_id, plant_id, small_site, tree_body


class Kept(unittest.TestCase):
    def test_yesterdays_state_goes_when_it_is_no_longer_yesterday(self):
        app = self.enterContext(client())
        sessions = app.app.state.sessions
        with transaction(sessions) as session:
            site, plant = small_site(session).id, plant_id(session)
        tree = new_id()
        body = tree_body(
            site, plant, planted_on=(DAY - timedelta(days=20)).isoformat(), feel={"ball": "wet", "ring": "wet"}
        )
        self.assertEqual(app.put(f"/api/trees/{tree}", json=body).status_code, 200)
        for ahead in range(1, 7):
            with transaction(sessions) as session:
                clock.pin(session, DAY + timedelta(days=ahead))
            self.assertEqual(app.get("/api/today").status_code, 200)
            with transaction(sessions) as session:
                days = set(session.scalars(select(TreeState.day)))
            yesterday = DAY + timedelta(days=ahead - 1)
            self.assertIn(yesterday, days)
            self.assertEqual({d for d in days if d.toordinal() % 7} - {yesterday}, set(), ahead)


if __name__ == "__main__":
    unittest.main()
