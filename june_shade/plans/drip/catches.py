"""Catch tests in the field: kept, taken back, and what each says against the one before."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date
from uuid import UUID

from june_shade.core.drip import catch
from june_shade.core.drip.catch import Catch, Since
from june_shade.core.errors import ConflictError, InputError, NotFoundError
from june_shade.plans import changes, clock, register
from june_shade.plans.changes import Changed, What
from june_shade.plans.drip.layouts import check_day
from june_shade.plans.drip.measured import said
from june_shade.store import drip as store
from june_shade.store.drip_tables import DripCatch
from june_shade.store.session import Session


@dataclass(frozen=True, slots=True)
class Test:
    """A catch test as it is kept, what it says, and against the one before it of the same layout (None = the first);
    whether run times go by it."""

    row: DripCatch
    found: Catch
    since: Since | None
    in_force: bool


def put(
    session: Session, catch_id: UUID, tree_id: UUID, day: date | None, minutes: float, caught_ml: Sequence[float],
    note: str,
) -> Test:  # fmt: skip
    """Keep what a cup under each emitter of a tree caught; run times go by it from now on.

    Raises InputError where no layout lies there, or where there is not a cup for each of its emitters.
    """
    tree = register.tree(session, tree_id)
    changes.hold(session, [tree.site_id])
    known = session.get(DripCatch, catch_id)
    if known is not None:
        if (known.tree_id, known.minutes, known.caught_ml) != (tree_id, minutes, list(caught_ml)):
            raise ConflictError("this test is stored already with other cups", "id")
        return _test(session, known)
    layout = store.layouts_in_force(session, [tree_id]).get(tree_id)
    if layout is None or tree.method != "emitters":
        raise InputError("keep the layout that lies there first: cups are counted by its emitters", "tree_id")
    today = clock.today(session, tree.site.timezone)
    day = day or today
    check_day(day, today, "day")
    if day < layout.laid_on:
        raise InputError(f"{day} is before the layout was laid ({layout.laid_on})", "day")
    if len(caught_ml) != len(layout.emitters):
        raise InputError(f"needs a cup under each of its {len(layout.emitters)} emitters", "caught_ml")
    made = DripCatch(
        id=catch_id,
        tree_id=tree_id,
        layout_id=layout.id,
        day=day,
        minutes=minutes,
        caught_ml=list(caught_ml),
        note=note,
    )
    session.add(made)
    session.flush()
    changes.tell(session, Changed(tree.site_id, What.DRIP_FROM_TODAY, (tree_id,)))
    return _test(session, made)


def withdraw(session: Session, catch_id: UUID) -> Test:
    """Take a test back: it was misread."""
    row = session.get(DripCatch, catch_id)
    if row is None:
        raise NotFoundError("there is no such test", "catch_id")
    if row.withdrawn_at is None:
        tree = register.tree(session, row.tree_id)
        changes.hold(session, [tree.site_id])
        row.withdrawn_at = clock.now(session)
        session.flush()
        changes.tell(session, Changed(tree.site_id, What.DRIP_FROM_TODAY, (tree.id,)))
    return _test(session, row)


def of_tree(session: Session, tree_id: UUID) -> list[Test]:
    """All tests of a tree, the newest first, each against the one before it of its layout that stands."""
    choices = {row.id: row.choice for row in store.layouts_of(session, tree_id)}
    last: dict[UUID, Catch] = {}
    now = store.catches_in_force(session, [tree_id]).get(tree_id)
    told = []
    for row in reversed(store.catches_of(session, tree_id)):
        found, before = said(row, choices[row.layout_id]), last.get(row.layout_id)
        since = None if before is None else catch.since(found, before)
        told.append(Test(row, found, since, row is now))
        if row.withdrawn_at is None:
            last[row.layout_id] = found
    return told[::-1]


def _test(session: Session, row: DripCatch) -> Test:
    return next(one for one in of_tree(session, row.tree_id) if one.row.id == row.id)
