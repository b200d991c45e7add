"""Plans beside the standing one: a hand, an hour, a tank more; the established on hold; ever fewer litres."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from datetime import timedelta
from typing import Any
from uuid import UUID, uuid4

import numpy as np

from june_shade.core.choosing import harm
from june_shade.core.choosing.offers import PLAN_DAYS
from june_shade.core.errors import JuneShadeError
from june_shade.core.water import modes
from june_shade.plans import clock
from june_shade.plans.choosing import given as loading
from june_shade.plans.choosing import work
from june_shade.plans.choosing.given import CrewGiven, Given
from june_shade.plans.choosing.work import Chosen
from june_shade.plans.water import run
from june_shade.plans.water.run import SitePlan
from june_shade.store import choices as store
from june_shade.store import trees as tree_store
from june_shade.store.choice_tables import PlansBeside
from june_shade.store.session import Session, SessionMaker, reading, transaction
from june_shade.store.site_tables import Site

SECONDS_EACH, SECONDS_CAP, GAP = 5.0, 2.5, 0.05
"""How long each plan beside may take, and how near its bound is near enough to compare."""
CAPS = 10
LEAST_BETWEEN = timedelta(hours=1)
ESTABLISHED = 0.75
"""From this share of establishment on a tree stands on more than its ball (calibrated)."""
HOLD = "hold"


@dataclass(frozen=True, slots=True)
class Beside:
    """A plan beside the standing one: litres [L] and minutes [min] of the fortnight, trees by word of harm, weighted
    harm that orders plans, how many trees it changes the terms of."""

    name: str
    litres: float
    minutes: float
    words: dict[str, int]
    harm: float
    trees: int = 0


def is_due(session: Session) -> bool:
    """Whether plans are to be compared: the standing one is newer than the comparison, by an hour or of another day."""
    plan, last = store.standing(session), store.beside(session)
    if plan is None or "weeks" not in plan.told:
        return False
    if last is None or last.first_day != plan.first_day:
        return True
    return last.made_at < plan.made_at and clock.now(session) - last.made_at >= LEAST_BETWEEN


def work_on(sessions: SessionMaker, *, seconds_each: float = SECONDS_EACH) -> None:
    """Choose all of them and keep what they come to."""
    with reading(sessions) as session:
        sites = tree_store.sites(session)
        found = compare(session, sites, seconds_each=seconds_each) if sites else None
    if found is not None:
        with transaction(sessions) as session:
            store.put_beside(session, found)


def compare(session: Session, sites: Sequence[Site], *, seconds_each: float) -> PlansBeside | None:
    """Plans beside the standing one; None where nothing limits any site."""
    given = loading.of_day(session, sites)
    plans = run.plan_sites(session, given.limited, limits=False)
    make = _Maker(given, plans, seconds_each)
    ordered = make("as_ordered")
    if ordered is None:
        return None
    told = [ordered]
    for name, changed in (("hand", _hand), ("hour", _hour), ("tank", _tank)):
        if name != "tank" or any(crew.tank_l is not None for crew in given.crews):
            told += make.found(name, _with_crews(given, changed), plans)
    held, trees = _held(session, given, plans)
    if trees:
        told += [replace(one, trees=trees) for one in make.found(HOLD, given, held)]
    return PlansBeside(
        id=uuid4(), made_at=clock.now(session), first_day=given.first_day,
        told={"plans": [_plain(one) for one in told], "caps": [_plain(one) for one in make.caps(ordered)]},
    )  # fmt: skip


class _Maker:
    """Makes plans under other terms, from the same trees and crews."""

    def __init__(self, given: Given, plans: dict[UUID, SitePlan], seconds_each: float) -> None:
        self._given, self._plans, self._seconds = given, plans, seconds_each

    def __call__(self, name: str) -> Beside | None:
        found = self.found(name, self._given, self._plans)
        return found[0] if found else None

    def found(self, name: str, given: Given, plans: dict[UUID, SitePlan], most_l: float | None = None) -> list[Beside]:
        """One plan, none where nothing limits any site. most_l: litres of the fortnight [L]."""
        wanting = work.wanting(given, plans)
        if not wanting:
            return []
        nothing = [np.zeros((PLAN_DAYS, len(one.made.rows)), bool) for one in wanting]
        seconds = self._seconds if most_l is None else self._seconds * SECONDS_CAP / SECONDS_EACH
        return [_beside(name, work.chosen_for(given, wanting, nothing, seconds=seconds, most_l=most_l, gap=GAP))]

    def caps(self, ordered: Beside) -> list[Beside]:
        """The least harm with ever more litres, up to those of the plan as ordered."""
        found: list[Beside] = []
        for n in range(1, CAPS):
            found += self.found("cap", self._given, self._plans, ordered.litres * n / CAPS)
        return [*found, ordered]


def _beside(name: str, chosen: Chosen) -> Beside:
    told: dict[str, int] = dict.fromkeys(harm.WORDS, 0)
    litres = weighted = 0.0
    for one, of in zip(chosen.sites, chosen.fortnight.groups, strict=True):
        litres += float(of.walked.litres[:PLAN_DAYS].sum())
        weighted += float(np.sum(one.group.weight * of.outcome.harm))
        for h, dies in zip(of.outcome.harm, of.outcome.dies, strict=True):
            word = harm.told(float(h), bool(dies))
            if word is not None:
                told[word] += 1
    return Beside(name, litres, float(chosen.fortnight.crew_minutes.sum()), told, weighted)


def _plain(one: Beside) -> dict[str, Any]:
    return {name: getattr(one, name) for name in Beside.__dataclass_fields__}


def _with_crews(given: Given, changed: Callable[[CrewGiven], CrewGiven]) -> Given:
    return replace(given, crews=tuple(changed(crew) for crew in given.crews))


def _hand(crew: CrewGiven) -> CrewGiven:
    """A crew with one hand more: set-up and handling are quicker, one more hose runs if there is one."""
    has, share = crew.has, crew.has.people / (crew.has.people + 1)
    has = replace(
        has, people=has.people + 1, set_up_min=share * has.set_up_min, handling_min=share * has.handling_min
    )  # fmt: skip
    return replace(crew, has=has)


def _hour(crew: CrewGiven) -> CrewGiven:
    """A crew that works an hour longer."""
    hours = crew.has.hours
    return replace(crew, has=replace(crew.has, hours=None if hours is None else min(24.0, hours + 1.0)))


def _tank(crew: CrewGiven) -> CrewGiven:
    """A crew with a second tank like its own."""
    return replace(crew, tank_l=None if crew.tank_l is None else 2.0 * crew.tank_l)


def _held(
    session: Session, given: Given, plans: dict[UUID, SitePlan]
) -> tuple[dict[UUID, SitePlan], int]:  # fmt: skip
    """Plans with the established on hold, and how many trees that are."""
    hold = modes.mode(HOLD)
    found, count = {}, 0
    for site in given.limited:
        made = plans.get(site.id)
        if made is None:
            continue
        stands = (made.plan.now_ground.establishment >= ESTABLISHED) & (made.trees.dryness_limit < hold.dryness_limit)
        count += int(np.sum(stands))
        found[site.id] = _on_terms(session, site, stands, hold) or made
    return found, count


def _on_terms(session: Session, site: Site, some: np.ndarray, mode: modes.Mode) -> SitePlan | None:
    """A site's plan with some of its trees on other terms, None where it can't be made."""
    try:
        ready = run.prepare(session, site, limits=False)
    except JuneShadeError:
        return None
    if ready is None:
        return None
    trees = replace(
        ready.run.trees, dryness_limit=np.where(some, mode.dryness_limit, ready.run.trees.dryness_limit),
        ks_floor=np.where(some, mode.ks_floor, ready.run.trees.ks_floor),
    )  # fmt: skip
    ready = replace(ready, run=replace(ready.run, trees=trees))
    return ready.planned(ready.run.plan())
