"""The plan of a whole site, kept in memory as long as nothing changed there: many pages ask for the same one."""

from collections.abc import Sequence
from datetime import date
from uuid import UUID

from june_shade.plans import clock
from june_shade.plans.changes import is_settled
from june_shade.plans.kept import Kept
from june_shade.plans.water.run import SitePlan, plan_site, plan_sites
from june_shade.store.session import Session, database_of
from june_shade.store.site_tables import Site

_plans: Kept[SitePlan | None] = Kept(64)


def of_site(session: Session, site: Site) -> SitePlan | None:
    """The plan of a site's trees as they stand, None where there are none; by its revision and its day."""
    name, stamp = _named(session, site)
    return _plans.get(name, stamp, lambda: plan_site(session, site), keep=is_settled(session))


def make_ready(session: Session, sites: Sequence[Site]) -> None:
    """Have the plans of these sites in memory, those that are not there computed at once."""
    missing = [site for site in sites if known(session, site) is None]
    if len(missing) > 1 and is_settled(session):
        made = plan_sites(session, missing)
        for site in missing:
            if site.id in made:
                _plans.put(*_named(session, site), made[site.id])


def known(session: Session, site: Site) -> SitePlan | None:
    """The same where it is in memory already, None else."""
    return _plans.known(*_named(session, site))


def _named(session: Session, site: Site) -> tuple[tuple[str, UUID], tuple[int, date]]:
    return (database_of(session), site.id), (site.revision, clock.today(session, site.timezone))
