"""A site as plans see it: its facts, its soil in force and its trees, read once while nobody changes them."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date
from uuid import UUID

from june_shade.core.geometry import bulb
from june_shade.core.soil.in_force import InForce
from june_shade.plans import clock, soil_in_force
from june_shade.store import drip as drip_store
from june_shade.store import facts as store
from june_shade.store import locks
from june_shade.store import trees as tree_store
from june_shade.store.facts import FormerWayFacts, SiteFacts, TreeFacts
from june_shade.store.session import Session, is_reading
from june_shade.store.site_tables import Site


def former_ways(session: Session, loaded: "SiteLoaded", since: date) -> dict[UUID, list[FormerWayFacts]]:
    """How the trees that were read were watered before, as far back as a day."""
    wanted = {tree.id for tree in loaded.trees}
    found = store.former_ways(session, loaded.site.id, since)
    return {tree_id: ways for tree_id, ways in found.items() if tree_id in wanted}


def proven_conductivity_mm_h(session: Session, trees: Sequence[TreeFacts]) -> dict[UUID, float]:
    """What proofs in the field say of the ground's conductivity [mm/h] under trees on emitters, by tree."""
    on_drip = [tree.id for tree in trees if tree.method == "emitters"]
    found = drip_store.proofs_in_force(session, on_drip) if on_drip else {}
    return {
        tree_id: bulb.proven_conductivity_mm_h(row.depth_m, row.minutes, row.flow_l_per_h)
        for tree_id, row in found.items()
    }


@dataclass(frozen=True, slots=True)
class SiteLoaded:
    """A site today: facts, soil in force, trees in order of stop and place."""

    site: SiteFacts
    today: date
    soil: InForce
    trees: tuple[TreeFacts, ...]


def load(
    session: Session, site: Site, tree_ids: Sequence[UUID] | None = None, soil: InForce | None = None
) -> SiteLoaded:
    """Read a site as it is at one moment: a session that only reads has that anyway, another shares the site, so that
    nobody can change it until the transaction ends.

    tree_ids: some trees only, with all that share a line with them, since a line waters everyone on it. soil: another
    than the one in force.
    """
    if not is_reading(session):
        locks.lock_site(session, site.id, exclusive=False)
    today = clock.today(session, site.timezone)
    if tree_ids is not None:
        tree_ids = tree_store.line_mates(session, tree_ids)
    trees = store.tree_facts(session, site.id, tree_ids)
    return SiteLoaded(store.site_facts(site), today, soil or soil_in_force.in_force(session, site), trees)
