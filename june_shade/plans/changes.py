"""The one place that knows what a change sets off: locks, cached states, layouts, the site's revision.

A use case takes hold of the sites it is about to change (`hold`), changes what it came for, and says so once
(`tell`). Nobody else drops a state, computes a layout anew, or takes a site for itself; what only reads shares it
(plans/facts.py).
"""

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import date
from enum import Flag, auto
from uuid import UUID

from june_shade.plans import clock
from june_shade.plans.drip import lines
from june_shade.plans.kept import unsettle
from june_shade.store import kept_states, locks
from june_shade.store.session import Session


class What(Flag):
    """What a change touches: the page only, the water balance, the layouts of drip, these always or from today on; what
    can be done (crews, orders, wishes)."""

    PAGE = auto()
    WATER = auto()
    DRIP = auto()
    DRIP_FROM_TODAY = auto()
    LIMITS = auto()


@dataclass(frozen=True, slots=True)
class Changed:
    """Something changed at a site. trees: which, None = all of them; since: the day it counts from, None = always."""

    site_id: UUID
    what: What
    trees: tuple[UUID, ...] | None = None
    since: date | None = None


WATER_OF_SITE = frozenset({
    "timezone", "climate", "texture", "root_depth_max_m", "mode", "water_source", "water_ec_ds_m", "station_id",
})  # fmt: skip
"""Columns of a site that its water balance rests on."""
DRIP_OF_SITE = frozenset({"texture", "root_depth_max_m", "hose_flow_l_per_h", "climate", "mode", "station_id"})
"""Columns of a site that its layouts rest on: soil, supply of trees on no line, how much is poured at a time."""
LIMITS_OF_SITE = frozenset({"crew_id", "house_number", "crew_hours", "working_days", "tank_l", "hose_flow_l_per_h"})
"""Columns of a site that say what can be done there."""


def of_site(site_id: UUID, columns: Iterable[str]) -> Changed:
    """What a change of these columns of a site's row comes to."""
    names, what = frozenset(columns), What.PAGE
    if names & WATER_OF_SITE:
        what |= What.WATER
    if names & DRIP_OF_SITE:
        what |= What.DRIP
    if names & LIMITS_OF_SITE:
        what |= What.LIMITS
    return Changed(site_id, what)


HELD = "sites held"


def hold(session: Session, site_ids: Iterable[UUID]) -> None:
    """Have these sites alone until the transaction ends, taken in one order so that nobody waits in a ring.

    A use case that touches several sites takes them all at once: one more later may be out of order.
    """
    held: set[UUID] = session.info.setdefault(HELD, set())
    for site_id in sorted(set(site_ids) - held, key=str):
        locks.lock_site(session, site_id, exclusive=True)
        held.add(site_id)


def tell(session: Session, *changed: Changed, as_planned: bool = False) -> None:
    """Say what changed: states that rest on it go, layouts are computed anew, each site's revision goes up once.

    as_planned: it was done as the plan under limits has it, which therefore stands.
    """
    hold(session, (one.site_id for one in changed))
    session.flush()
    unsettle(session)
    for one in _together([each for each in changed if What.WATER in each.what]):
        _drop(session, one)
    for site_id in dict.fromkeys(one.site_id for one in changed):
        here = [one for one in changed if one.site_id == site_id]
        for what in (What.DRIP, What.DRIP_FROM_TODAY):
            _lay_anew(session, site_id, [one for one in here if what in one.what], always=what is What.DRIP)
        matters = any(one.what & (What.WATER | What.LIMITS) for one in here) and not as_planned
        locks.bump(session, site_id, wants=matters)


def _together(changed: Iterable[Changed]) -> list[Changed]:
    """Changes that differ in their trees only, as one each."""
    alike: dict[tuple[UUID, date | None], list[UUID]] = {}
    whole = [one for one in changed if one.trees is None]
    for one in changed:
        alike.setdefault((one.site_id, one.since), []).extend(one.trees or ())
    of_some = [Changed(site_id, What.WATER, tuple(trees), since) for (site_id, since), trees in alike.items() if trees]
    return whole + of_some


def _drop(session: Session, one: Changed) -> None:
    if one.trees is None:
        kept_states.drop_states(session, site_ids=[one.site_id], since=one.since)
    elif one.trees:
        kept_states.drop_states(session, tree_ids=one.trees, since=one.since)


def _lay_anew(session: Session, site_id: UUID, changed: list[Changed], *, always: bool) -> None:
    """Compute what layouts do, once for the site; the balance goes by what they do, always or from today on."""
    if not changed:
        return
    whole = any(one.trees is None for one in changed)
    trees = None if whole else [tree for one in changed for tree in one.trees or ()]
    touched = lines.refresh(session, site_id, trees, always=always)
    if touched and always:
        kept_states.drop_states(session, tree_ids=touched)


def grown(session: Session, site_id: UUID) -> None:
    """A day has passed: laid drip meets roots that have grown. Where it does what it did nothing has changed."""
    hold(session, [site_id])
    unsettle(session)
    if lines.refresh(session, site_id, always=False):
        locks.bump(session, site_id)
    locks.mark_grown(session, site_id, clock.now(session).date())
