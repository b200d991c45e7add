"""Queries on the plan under limits: the standing one, its trees, wishes of people, trees that were let go."""

from collections.abc import Collection, Iterable, Sequence
from datetime import date
from typing import Any
from uuid import UUID

from sqlalchemy import delete, insert, select
from sqlalchemy.dialects.postgresql import distinct_on
from sqlalchemy.orm import Session

from june_shade.store.choice_tables import FREE, ChosenPlan, ChosenTree, LetGo, PlansBeside, ProposedMode, VisitWish
from june_shade.store.log_tables import Person
from june_shade.store.organisation_tables import Organisation
from june_shade.store.session import organisation_of
from june_shade.store.tree_tables import Tree


def standing(session: Session) -> ChosenPlan | None:
    """The newest plan, None where none was made."""
    return session.scalars(select(ChosenPlan).order_by(ChosenPlan.made_at.desc()).limit(1)).first()


def of_site(session: Session, site_id: UUID) -> dict[UUID, ChosenTree]:
    """What the standing plan has for the trees of a site."""
    query = select(ChosenTree).join(Tree, Tree.id == ChosenTree.tree_id).where(Tree.site_id == site_id)
    return {row.tree_id: row for row in session.scalars(query)}


def of_trees(session: Session, tree_ids: Iterable[UUID]) -> dict[UUID, ChosenTree]:
    """What the standing plan has for these trees."""
    query = select(ChosenTree).where(ChosenTree.tree_id.in_(list(tree_ids)))
    return {row.tree_id: row for row in session.scalars(query)}


def people(session: Session) -> dict[UUID, str]:
    """Names of people by id."""
    return dict(session.execute(select(Person.id, Person.name)).all())


def put(session: Session, plan: ChosenPlan, trees: Sequence[dict[str, Any]]) -> None:
    """A plan stands in place of all before it. trees: columns of what it has for each."""
    session.execute(delete(ChosenPlan))
    session.execute(delete(ChosenTree))
    session.add(plan)
    session.flush()
    if trees:
        session.execute(insert(ChosenTree), list(trees))


def slack(session: Session) -> float:
    """How much more than the least harm a plan may cost that saves water, a share."""
    return session.get_one(Organisation, organisation_of(session)).harm_slack


def put_slack(session: Session, slack: float) -> None:
    """The same from now on. slack: a share."""
    session.get_one(Organisation, organisation_of(session)).harm_slack = slack
    session.flush()


def proposed_mode(session: Session, tree_id: UUID) -> ProposedMode | None:
    """What the program last proposed for a tree and somebody took, None where that was never so."""
    return session.get(ProposedMode, tree_id)


def put_proposed_mode(session: Session, tree_id: UUID, mode: str, day: date, within_l: float) -> None:
    """The same from now on. within_l: litres a week for all trees [L]."""
    session.merge(ProposedMode(tree_id=tree_id, mode=mode, day=day, within_l=within_l))
    session.flush()


def wishes(
    session: Session, site_ids: Collection[UUID], first: date, last: date
) -> dict[UUID, dict[tuple[UUID, date], VisitWish]]:  # fmt: skip
    """What people want of days from first to last at each of these sites, the newest of each tree and day; what was
    left free is not there."""
    query = (
        select(Tree.site_id, VisitWish)
        .join(Tree, Tree.id == VisitWish.tree_id)
        .where(Tree.site_id.in_(site_ids), VisitWish.day >= first, VisitWish.day <= last)
        .ext(distinct_on(VisitWish.tree_id, VisitWish.day))
        .order_by(VisitWish.tree_id, VisitWish.day, VisitWish.said_at.desc(), VisitWish.id)
    )
    found: dict[UUID, dict[tuple[UUID, date], VisitWish]] = {site_id: {} for site_id in site_ids}
    for site_id, row in session.execute(query):
        if row.wish != FREE:
            found[site_id][row.tree_id, row.day] = row
    return found


def let_go(session: Session) -> dict[UUID, LetGo]:
    """Trees that somebody let go, by tree."""
    query = select(LetGo).where(LetGo.withdrawn_at.is_(None)).order_by(LetGo.said_at)
    return {row.tree_id: row for row in session.scalars(query)}


def beside(session: Session) -> PlansBeside | None:
    """What plans beside the standing one come to, None where they were not compared yet."""
    return session.scalars(select(PlansBeside).order_by(PlansBeside.made_at.desc()).limit(1)).first()


def put_beside(session: Session, found: PlansBeside) -> None:
    """A comparison stands in place of all before it."""
    session.execute(delete(PlansBeside))
    session.add(found)
