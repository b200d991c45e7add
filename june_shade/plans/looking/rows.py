"""What readings say of the trees of a row, together."""

from typing import Any
from uuid import UUID

import numpy as np

from june_shade.core.looking import rows
from june_shade.plans import register
from june_shade.plans.looking import thirst
from june_shade.store import looking as store
from june_shade.store import trees as tree_store
from june_shade.store.session import Session
from june_shade.store.tree_tables import Tree


def of_site(session: Session, site_id: UUID) -> list[dict[str, Any]]:
    """Rows of a site in which at least one tree was read often enough, in the order of its stops."""
    site = register.site(session, site_id)
    trees = tree_store.all_trees(session, site.id)
    fits = store.fits(session, [tree.id for tree in trees])
    said = store.answers(session, site.id)
    stops: dict[UUID | None, list[Tree]] = {}
    for tree in trees:
        if tree.id in fits and fits[tree.id].demand is not None:
            stops.setdefault(tree.stop_id, []).append(tree)
    found = []
    for here in stops.values():
        demand = np.array([fits[tree.id].demand for tree in here], float)
        odd = rows.odd(demand, np.array([fits[tree.id].demand_sd for tree in here], float))
        found.append({
            "stop": here[0].stop.name if here[0].stop else None, "usual": float(np.median(demand)),
            "trees": [
                {
                    "id": tree.id, "tag": tree.tag, "place": tree.place, "fit": thirst.shown(fits[tree.id]),
                    "state": thirst.state_of(fits[tree.id], said.get(tree.id, ())), "odd": bool(parts),
                }
                for tree, parts in zip(here, odd, strict=True)
            ],
        })  # fmt: skip
    return found
