"""A tree, a stop or a site takes up a routine: a school's, or the balance again."""

from collections.abc import Sequence
from datetime import timedelta
from uuid import UUID, uuid5

from june_shade.core.errors import ConflictError, InputError, NotFoundError
from june_shade.core.water.schools import NEEDS, RANGES, Routine
from june_shade.plans import changes, clock, people, register
from june_shade.plans.changes import Changed, What
from june_shade.plans.water.followed import COLUMNS, routine_of
from june_shade.store import routines as store
from june_shade.store import trees as register_store
from june_shade.store.routine_tables import RoutineChoice
from june_shade.store.session import Session
from june_shade.store.site_tables import Stop
from june_shade.store.tree_tables import Tree

__all__ = ["check", "put", "routine_of", "withdraw"]


def check(routine: Routine, where: str = "") -> None:
    """Refuse figures that a routine can't have. Raises InputError naming them. where: begins the field's name."""
    for name in NEEDS[routine.name]:
        low, high = RANGES[name]
        if not low <= getattr(routine, name) <= high:
            raise InputError(f"must lie between {low:g} and {high:g}", f"{where}{COLUMNS[name]}")


def trees_of(session: Session, tree_id: UUID | None, stop_id: UUID | None, site_id: UUID | None) -> Sequence[Tree]:
    """The trees that a choice is for: one, those at a stop, or all of a site. Raises NotFoundError."""
    if tree_id is not None:
        return [register.tree(session, tree_id)]
    if stop_id is not None:
        if session.get(Stop, stop_id) is None:
            raise NotFoundError("there is no such stop", "stop_id")
        return register_store.at_stop(session, stop_id)
    assert site_id is not None
    return register_store.all_trees(session, register.site(session, site_id).id)


def put(
    session: Session, choice_id: UUID, trees: Sequence[Tree], routine: Routine, person_id: UUID | None
) -> list[RoutineChoice]:
    """These trees follow a routine from today on; sent twice it is one choice. trees: of one site.

    Trees on wicked boxes, that water themselves, are left out. Raises InputError for figures that it can't have, and
    where no tree is left.
    """
    check(routine)
    if not trees:
        raise InputError("no tree stands there", "tree_id")
    site = trees[0].site
    changes.hold(session, [site.id])
    known = store.of_choice(session, choice_id)
    if known:
        if routine_of(known[0]) != routine:
            raise ConflictError("something else was chosen under this id", "id")
        return known
    person_id = people.did(session, person_id)
    trees = [tree for tree in trees if tree.method != "wicked" or routine.name == "balance"]
    if not trees:
        raise InputError("a box with wicks waters by itself: no routine fits it", "tree_id")
    today, figures = clock.today(session, site.timezone), {name: COLUMNS[name] for name in NEEDS[routine.name]}
    rows = [
        RoutineChoice(
            id=uuid5(choice_id, str(tree.id)), choice_id=choice_id, tree_id=tree.id, since=max(today, tree.opened_on),
            name=routine.name, person_id=person_id, recorded_at=clock.now(session),
            **{column: getattr(routine, name) for name, column in figures.items()},
        )
        for tree in trees
    ]  # fmt: skip
    session.add_all(rows)
    _tell(session, site.id, rows)
    return rows


def withdraw(session: Session, choice_id: UUID) -> list[RoutineChoice]:
    """Take a choice back: each tree follows what it did before."""
    rows = store.of_choice(session, choice_id)
    if not rows:
        raise NotFoundError("no such routine was chosen", "choice_id")
    tree = register.tree(session, rows[0].tree_id, ended=True)
    changes.hold(session, [tree.site_id])
    if any(row.withdrawn_at is None for row in rows):
        for row in rows:
            row.withdrawn_at = row.withdrawn_at or clock.now(session)
        _tell(session, tree.site_id, rows)
    return rows


def _tell(session: Session, site_id: UUID, rows: Sequence[RoutineChoice]) -> None:
    """Kept days say for how long a visit has been due: by the routine from its first day on."""
    since = min(row.since for row in rows) - timedelta(days=1)
    changes.tell(session, Changed(site_id, What.WATER, tuple(row.tree_id for row in rows), since))
