"""What people want of the plan: a visit pinned to a day, forbidden on one, or left to the program again; trees let go.

A wish counts at once for its own tree, and for all when the plan is chosen again.
"""

from dataclasses import dataclass, replace
from datetime import date
from uuid import UUID

import numpy as np

from june_shade.core.choosing import outcomes
from june_shade.core.choosing.offers import PLAN_DAYS
from june_shade.core.choosing.outcomes import OfGroup
from june_shade.core.errors import ConflictError, InputError
from june_shade.plans import changes, clock, people, register
from june_shade.plans.changes import Changed, What
from june_shade.plans.choosing import given as loading
from june_shade.plans.choosing import groups
from june_shade.plans.choosing.page import wanted_of
from june_shade.plans.choosing.visits import days_of
from june_shade.plans.water.run import SitePlan, plan_site
from june_shade.store import choices as store
from june_shade.store import jobs as queue
from june_shade.store import trees as tree_store
from june_shade.store.choice_tables import FREE, PIN, ChosenTree, LetGo, VisitWish
from june_shade.store.session import Session


@dataclass(frozen=True, slots=True)
class NewWish:
    """A wish as the client made it. instead_of: the day whose visit is given up for a pinned one, None = none."""

    id: UUID
    tree_id: UUID
    day: date
    wish: str
    instead_of: date | None = None
    person_id: UUID | None = None


def put(session: Session, new: NewWish) -> VisitWish:
    """Write a wish down, once; its tree's days follow it at once, with all that are on its line."""
    tree = register.tree(session, new.tree_id)
    changes.hold(session, [tree.site_id])
    known = session.get(VisitWish, new.id)
    if known is not None:
        if (known.tree_id, known.day, known.wish) != (new.tree_id, new.day, new.wish):
            raise ConflictError("another wish has this id already", "id")
        return known
    new = replace(new, person_id=people.did(session, new.person_id))
    today = clock.today(session, tree.site.timezone)
    for name in ("day", "instead_of"):
        day = getattr(new, name)
        if day is not None and not 0 <= (day - today).days < PLAN_DAYS:
            raise InputError(f"must be one of the {PLAN_DAYS} days of the plan", name)
    row = VisitWish(
        id=new.id, tree_id=new.tree_id, day=new.day, wish=new.wish, person_id=new.person_id, said_at=clock.now(session)
    )
    session.add(row)
    session.flush()
    _follow(session, new, today)
    changes.tell(session, Changed(tree.site_id, What.PAGE | What.LIMITS))
    return row


def _follow(session: Session, new: NewWish, today: date) -> None:
    """Lay a wish into what was chosen for its tree."""
    tree = register.tree(session, new.tree_id)
    made = plan_site(session, tree.site, tree_ids=[tree.id])
    if made is None or new.wish == FREE:
        return
    i = made.index_of(tree.id)
    days = set(days_of(made, i))
    day = (new.day - today).days
    if new.instead_of is not None:
        days.discard((new.instead_of - today).days)
    days = days | {day} if new.wish == PIN else days - {day}
    given = loading.now(session, tree_store.sites(session), tree.site)
    chosen = store.of_trees(session, [row.id for row in made.rows])
    wanted = wanted_of(made, chosen)
    group = groups.group_of(made, tree.site, given, wanted)
    on = next(unit for unit in group.units if i in unit)
    (then,) = outcomes.moved(group, given.hands, i, [sorted(days)])
    _keep(session, made, then, on, wanted, group.weight, chosen)


def _keep(
    session: Session, made: SitePlan, of: OfGroup, on: np.ndarray, wanted: np.ndarray, weight: np.ndarray,
    chosen: dict[UUID, ChosenTree],
) -> None:  # fmt: skip
    for own, i in enumerate(on):
        row = chosen.get(made.rows[i].id) or ChosenTree(tree_id=made.rows[i].id)
        row.first_day = made.today
        row.share, row.minutes = of.share[:, own].tolist(), of.minutes[:, own].tolist()
        row.litres = of.walked.litres[:PLAN_DAYS, own].tolist()
        row.wanted = wanted[:, i].tolist()
        row.harm, row.none_harm = float(of.outcome.harm[own]), float(of.none.harm[own])
        row.dies, row.none_dies = bool(of.outcome.dies[own]), bool(of.none.dies[own])
        row.waits_cost, row.waits_dies, row.weight = None, False, float(weight[i])
        session.add(row)
    session.flush()


def again(session: Session, *, soon: bool = False) -> None:
    """Have the plan chosen again now, however young the last one is. soon: in a few seconds, as well as that goes."""
    queue.choose_now(session, soon=soon)


def put_slack(session: Session, slack: float) -> None:
    """How much more than the least harm a plan may cost that saves water; the plan is chosen again by it now.

    slack: a share.
    """
    sites = [site.id for site in tree_store.sites(session)]
    changes.hold(session, sites)
    store.put_slack(session, slack)
    changes.tell(session, *(Changed(site_id, What.PAGE | What.LIMITS) for site_id in sites))
    again(session)


def let_go(session: Session, let_id: UUID, tree_id: UUID, by_name: str) -> LetGo:
    """Somebody lets a tree go, by name: no water is spent on it from the next plan on."""
    tree = register.tree(session, tree_id)
    changes.hold(session, [tree.site_id])
    known = session.get(LetGo, let_id)
    if known is not None:
        if (known.tree_id, known.by_name) != (tree_id, by_name):
            raise ConflictError("something else has this id already", "id")
        return known
    row = LetGo(
        id=let_id, tree_id=tree_id, by_name=by_name, day=clock.today(session, tree.site.timezone),
        said_at=clock.now(session),
    )  # fmt: skip
    session.add(row)
    changes.tell(session, Changed(tree.site_id, What.PAGE | What.LIMITS))
    return row


def keep_after_all(session: Session, let_id: UUID) -> LetGo:
    """Take back that a tree was let go."""
    row = session.get(LetGo, let_id)
    if row is None:
        raise InputError("names nothing that was let go", "id")
    tree = register.tree(session, row.tree_id)
    changes.hold(session, [tree.site_id])
    if row.withdrawn_at is None:
        row.withdrawn_at = clock.now(session)
        changes.tell(session, Changed(tree.site_id, What.PAGE | What.LIMITS))
    return row
