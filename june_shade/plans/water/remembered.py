"""Plans kept in memory as long as nothing changed at their site: many pages ask for the same ones.

A site's revision and its day say which plan it is. Only a session that reads one moment may have a plan of some trees
from here; one that writes plans what it has just changed.
"""

from collections.abc import Iterable, Sequence
from datetime import date
from typing import Any
from uuid import UUID

from june_shade.core.errors import NotFoundError
from june_shade.plans import clock
from june_shade.plans.kept import Kept, is_settled
from june_shade.plans.water.run import HISTORY_DAYS, SitePlan, plan_site, plan_sites
from june_shade.store.session import Session, database_of, is_reading
from june_shade.store.site_tables import Site

_plans: Kept[SitePlan | None] = Kept(64)
_of_some: Kept[SitePlan | None] = Kept(64)


def of_site(session: Session, site: Site) -> SitePlan | None:
    """The plan of a site's trees as they stand, None where there are none."""
    name, stamp = _named(session, site)
    if not is_settled(session):
        return plan_site(session, site)
    return _plans.get(name, stamp, lambda: plan_site(session, site))


def make_ready(session: Session, sites: Sequence[Site]) -> None:
    """Have the plans of these sites in memory, those that are not there computed at once."""
    missing = [site for site in sites if known(session, site) is None]
    if missing and is_settled(session):
        made = plan_sites(session, missing)
        for site in missing:
            if site.id in made:
                _plans.put(*_named(session, site), made[site.id])


def known(session: Session, site: Site) -> SitePlan | None:
    """The plan of a whole site where it is in memory already, None else."""
    return _plans.known(*_named(session, site)) if is_settled(session) else None


def around(session: Session, site: Site, tree_ids: Iterable[UUID]) -> SitePlan:
    """The plan that these trees are in, of the whole site if it is in memory. Raises NoWeatherError where there is
    none."""
    ids = sorted(tree_ids, key=str)
    return known(session, site) or _some(session, site, ids, {})


def with_history(session: Session, site: Site, tree_id: UUID) -> SitePlan:
    """The plan of a tree and all on its line, with the days behind it and how each coming day was decided.

    Raises NoWeatherError where none can be made.
    """
    return _some(session, site, [tree_id], {"history_days": HISTORY_DAYS, "keep_days": True})


def _some(session: Session, site: Site, ids: list[UUID], options: dict[str, Any]) -> SitePlan:
    (database, site_id), stamp = _named(session, site)
    name = database, site_id, tuple(ids), bool(options)
    if is_reading(session):
        made = _of_some.get(name, stamp, lambda: plan_site(session, site, tree_ids=ids, **options))
    else:
        made = plan_site(session, site, tree_ids=ids, **options)
    if made is None:
        raise NotFoundError("there is no such tree", "tree_id")
    return made


def _named(session: Session, site: Site) -> tuple[tuple[str, UUID], tuple[int, date]]:
    return (database_of(session), site.id), (site.revision, clock.today(session, site.timezone))
