"""The end of a tree: dead, removed, stolen or moved away. It leaves every round and plan and stays in the book."""

from datetime import date
from uuid import UUID

from june_shade.core.errors import ConflictError, InputError, NotFoundError
from june_shade.plans import changes, clock, people, register
from june_shade.plans.changes import Changed, What
from june_shade.store import trees as store
from june_shade.store.session import Session
from june_shade.store.tree_tables import ENDS, Tree, TreeEnd

__all__ = ["ENDS", "end", "standing", "withdraw"]


def standing(session: Session, tree_id: UUID) -> TreeEnd | None:
    """How a tree ended, None where it stands."""
    return store.end_of(session, tree_id)


def end(
    session: Session, end_id: UUID, tree_id: UUID, kind: str, day: date | None, cause: str, person_id: UUID | None
) -> TreeEnd:
    """Write down that a tree ended, today where no day is given; sent twice it is one.

    Raises InputError for a day before it was planted or to come, ConflictError where it has ended already.
    """
    tree = register.tree(session, tree_id, ended=True)
    changes.hold(session, [tree.site_id])
    known = session.get(TreeEnd, end_id)
    if known is not None:
        if (known.tree_id, known.kind) != (tree_id, kind):
            raise ConflictError("something else was written down under this id", "id")
        return known
    session.refresh(tree)
    if tree.ended_on is not None:
        raise ConflictError("the tree has ended already: take that back first", "tree_id")
    today = clock.today(session, tree.site.timezone)
    when = day or today
    if not tree.planted_on <= when <= today:
        raise InputError(f"must be from its planting ({tree.planted_on}) to today ({today})", "day")
    row = TreeEnd(
        id=end_id, tree_id=tree_id, kind=kind, day=when, cause=cause, person_id=people.did(session, person_id)
    )
    row.recorded_at = clock.now(session)
    session.add(row)
    _set(session, tree, when)
    return row


def withdraw(session: Session, end_id: UUID) -> TreeEnd:
    """Take an end back: the tree stands as before. Raises ConflictError where another has its tag now."""
    row = session.get(TreeEnd, end_id)
    if row is None:
        raise NotFoundError("there is no such end of a tree", "end_id")
    tree = register.tree(session, row.tree_id, ended=True)
    changes.hold(session, [tree.site_id])
    session.refresh(row)
    if row.withdrawn_at is None:
        if (tree.site_id, tree.tag) in store.tags(session, [tree.site_id]):
            raise ConflictError(f"another tree here is called {tree.tag} now: rename that one first", "tag")
        row.withdrawn_at = clock.now(session)
        _set(session, tree, None)
    return row


def _set(session: Session, tree: Tree, day: date | None) -> None:
    """Whoever shares a line with it gets more or less from today on."""
    tree.ended_on = day
    if tree.line is not None and str(tree.id) in tree.line.closed_gaps:  # its emitters were closed for another end
        tree.line.closed_gaps = [one for one in tree.line.closed_gaps if one != str(tree.id)]
    session.flush()
    mates = tuple(mate for mate in store.on_line(session, tree.line_id) if mate != tree.id) if tree.line_id else ()
    changes.tell(session, Changed(tree.site_id, What.PAGE | What.DRIP_FROM_TODAY if mates else What.PAGE, mates))
