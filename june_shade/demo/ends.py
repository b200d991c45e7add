"""A tree of the town that died and was planted anew, and one on its way to stand on its own."""

from datetime import date, timedelta

from june_shade.demo.names import name_id
from june_shade.plans import clock
from june_shade.plans.looking import own
from june_shade.plans.looking.own import NewAct
from june_shade.store.session import SessionMaker, transaction
from june_shade.store.tree_tables import Tree, TreeEnd

DEAD = ("HL", 8, date(2025, 5, 14), date(2025, 9, 2), "dry")
"""Where a tree stood before the one that stands there now: tag, planted, died, of what."""
OWN = ("TS", 10, (("offered", None), ("supports_off", None), ("growth", 0.14)))
"""A tree that is to be handed over, and what is proven of it so far (twig growth in m)."""
OFTEN_ENOUGH_DAYS = 3


def fill(sessions: SessionMaker, today: date, people: tuple[str, ...]) -> None:
    """Put them into the town."""
    prefix, number, planted, died, cause = DEAD
    with transaction(sessions) as session:
        stands = session.get_one(Tree, name_id("tree", prefix, number))
        kept = {c.name: getattr(stands, c.name) for c in Tree.__table__.columns if c.name not in ("id", "version")}
        former = kept | {
            "id": name_id("tree", prefix, number, "before"), "planted_on": planted, "opened_on": planted,
            "mulch_measured_on": planted, "planting_id": None, "layout_id": None, "ended_on": died,
        }  # fmt: skip
        session.add(Tree(**former))
        session.flush()
        session.add(TreeEnd(
            id=name_id("end", prefix, number), tree_id=former["id"], kind="dead", day=died, cause=cause,
            person_id=name_id("person", people[0]),
        ))  # fmt: skip
    prefix, number, acts = OWN
    for nth, (kind, growth_m) in enumerate(acts):
        with transaction(sessions) as session:
            clock.pin(session, today - timedelta(days=OFTEN_ENOUGH_DAYS * (len(acts) - 1 - nth)))
            own.put(session, NewAct(
                name_id("own", prefix, number, kind), name_id("tree", prefix, number), kind, growth_m,
                person_id=name_id("person", people[0]),
            ))  # fmt: skip
    with transaction(sessions) as session:
        clock.pin(session, today)
