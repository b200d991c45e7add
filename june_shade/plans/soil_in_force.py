"""The soil in force at a site: what is typed for it with every accepted test laid over it. Plans go by it."""

from collections.abc import Mapping, Sequence
from datetime import date
from typing import Any, Protocol

from june_shade.core.soil import in_force as core
from june_shade.core.soil.in_force import InForce
from june_shade.store import soil as store
from june_shade.store.session import Session
from june_shade.store.site_tables import Site


class Coming(Protocol):
    """A test not stored yet."""

    @property
    def kind(self) -> str: ...
    @property
    def day(self) -> date: ...
    @property
    def readings(self) -> Mapping[str, Any]: ...


def in_force(session: Session, site: Site, coming: Coming | None = None, *, until: date | None = None) -> InForce:
    """The soil that plans of a site go by; coming: a test not stored yet, taken as if it were used.

    until: tests of later days left out.
    """
    tests: list[Coming] = list(store.used(session, [site.id], until).get(site.id, ()))
    return by_tests(site, tests if coming is None else [*tests, coming])


def by_tests(site: Site, tests: Sequence[Coming]) -> InForce:
    """The soil of a site with these tests laid over what is typed."""
    known = [core.SoilTest(row.kind, row.day, row.readings) for row in tests]
    return core.in_force(site.texture, site.root_depth_max_m, known)
