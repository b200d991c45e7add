"""A page of the register: trees with how each stands, in orders that the database or only the plan knows."""

from collections.abc import Sequence
from dataclasses import dataclass
from uuid import UUID

import numpy as np

from june_shade.core.errors import JuneShadeError
from june_shade.plans import register
from june_shade.plans.water import SitePlan, remembered, watering
from june_shade.plans.water.section import Section, section, state_of
from june_shade.store import trees as store
from june_shade.store.session import Session
from june_shade.store.site_tables import Site
from june_shade.store.tree_tables import Tree
from june_shade.store.trees import Wanted

ENDED = "ended"


@dataclass(frozen=True, slots=True)
class Listed:
    """A tree of the register with its plan, where there is one."""

    tree: Tree
    dryness: float | None
    next: watering.Next | None
    section: Section | None
    drip_flags: tuple[str, ...] = ()


def listed(
    session: Session, wanted: Wanted, sort: str, state: str | None, limit: int, offset: int
) -> tuple[int, list[Listed]]:
    """A page of the register, planned. sort: one of the store's or `dry`, `next`; state: only trees that stand so,
    or those that died or went."""
    if state == ENDED:
        trees, count = store.ended(session, wanted, limit, offset)
        return count, [Listed(tree, None, None, None) for tree in trees]
    if state is None and sort in store.SORTS:
        trees, count = store.search(session, wanted, sort, limit, offset)
        return count, planned(session, trees)
    order = _by_plan(session, wanted, sort, state)
    page = store.with_names(session, order[offset : offset + limit])
    return len(order), planned(session, page)


def planned(session: Session, trees: Sequence[Tree]) -> list[Listed]:
    """Trees as they stand in the water plan."""
    by_site: dict[UUID, list[Tree]] = {}
    for tree in trees:
        by_site.setdefault(tree.site_id, []).append(tree)
    shown: dict[UUID, Listed] = {}
    for _, group in sorted(by_site.items(), key=lambda one: str(one[0])):
        made = _plan_or_none(session, group[0].site, [tree.id for tree in group])
        at = {row.id: i for i, row in enumerate(made.rows)} if made else {}
        for tree in group:
            if made is None:
                shown[tree.id] = Listed(tree, None, None, None)
            else:
                i = at[tree.id]
                shown[tree.id] = Listed(
                    tree, float(made.plan.now_dryness[i]), watering.next_of(made, i), section(made, i),
                    watering.drip_flags(made, i),
                )  # fmt: skip
    return [shown[tree.id] for tree in trees]


def _by_plan(session: Session, wanted: Wanted, sort: str, state: str | None) -> list[UUID]:
    """Ids of all matching trees in an order, or with a state, that only the plan knows."""
    matching = store.matching_ids(session, wanted, sort if sort in store.SORTS else "place")
    by_site: dict[UUID, list[UUID]] = {}
    for tree_id, site_id in matching:
        by_site.setdefault(site_id, []).append(tree_id)
    stands: dict[UUID, tuple[str, dict[str, float]]] = {}
    for site_id, ids in sorted(
        by_site.items(), key=lambda one: str(one[0])
    ):  # in the order in which writers take sites
        made = _whole_or_none(session, register.site(session, site_id))
        if made is None:
            continue
        wanted_here = set(ids)
        for i, row in enumerate(made.rows):
            if row.id not in wanted_here:
                continue
            visit = int(made.plan.visit[i])
            away = visit - made.course.today if visit >= 0 else np.inf
            stands[row.id] = (state_of(made, i), {"dry": -float(made.plan.now_dryness[i]), "next": away})
    nothing: tuple[str, dict[str, float]] = ("unknown", {})
    kept = [tree_id for tree_id, _ in matching if state is None or stands.get(tree_id, nothing)[0] == state]
    return sorted(kept, key=lambda tree_id: stands.get(tree_id, nothing)[1].get(sort, np.inf))


def _whole_or_none(session: Session, site: Site) -> SitePlan | None:
    try:
        return remembered.of_site(session, site)
    except JuneShadeError:
        return None


def _plan_or_none(session: Session, site: Site, tree_ids: list[UUID]) -> SitePlan | None:
    try:
        return remembered.around(session, site, tree_ids)
    except JuneShadeError:
        return None
