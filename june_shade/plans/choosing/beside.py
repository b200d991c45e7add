"""Plans beside the standing one: a hand, an hour, a tank more; the established on hold; ever fewer litres."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from datetime import timedelta
from typing import Any
from uuid import UUID, uuid4

import numpy as np

from june_shade.core.choosing import fortnight, harm, outcomes
from june_shade.core.choosing.fortnight import Prepared
from june_shade.core.choosing.offers import PLAN_DAYS, taken_l
from june_shade.core.choosing.outcomes import OfGroup
from june_shade.core.choosing.patterns import Array
from june_shade.core.errors import JuneShadeError
from june_shade.core.water import modes
from june_shade.plans import clock
from june_shade.plans.choosing import given as loading
from june_shade.plans.choosing import work
from june_shade.plans.choosing.given import CrewGiven, Given
from june_shade.plans.choosing.groups import SiteGroup
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
    """A plan beside the standing one: litres [L], in steps of both systems, and minutes [min] of the fortnight; trees
    by word of harm; weighted harm, that orders plans; how many trees it changes the terms of."""

    name: str
    litres: float
    litres_us: float
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
    """Plans beside the standing one, which each of them begins with; None where nothing limits any site."""
    given = loading.of_day(session, sites)
    plans = run.plan_sites(session, given.limited, limits=False)
    terms = _terms(given, plans)
    if terms is None:
        return None
    stands = [work.standing_shares(session, one, given) for one in terms.sites]

    def under(name: str, own: Terms | None, seconds: float = seconds_each, most_l: float | None = None) -> list[Beside]:
        if own is None:
            return []
        nothing = [np.zeros_like(share) for share in stands]
        chosen = work.chosen_for(
            own.given, own.sites, nothing, start=stands, ready=own.ready, seconds=seconds, most_l=most_l, gap=GAP
        )
        return [_beside(name, own.sites, chosen.fortnight.groups, float(chosen.fortnight.crew_minutes.sum()))]

    told = [_as_it_stands(terms, stands)]
    for name, changed in (("hand", _hand), ("hour", _hour), ("tank", _tank)):
        if name != "tank" or any(crew.tank_l is not None for crew in given.crews):
            told += under(name, _terms(_with_crews(given, changed), plans))
    held, trees = _held(session, given, plans)
    if trees:
        told += [replace(one, trees=trees) for one in under(HOLD, _terms(given, held))]
    caps = []
    for n in range(1, CAPS):
        caps += under("cap", terms, seconds_each * SECONDS_CAP / SECONDS_EACH, told[0].litres * n / CAPS)
    return PlansBeside(
        id=uuid4(), made_at=clock.now(session), first_day=given.first_day,
        told={"plans": [_plain(one) for one in told], "caps": [_plain(one) for one in [*caps, told[0]]]},
    )  # fmt: skip


@dataclass(frozen=True, slots=True)
class Terms:
    """What a plan is chosen from: crews and orders, sites with what their trees want, their groups gone through."""

    given: Given
    sites: list[SiteGroup]
    ready: Prepared


def _terms(given: Given, plans: dict[UUID, SitePlan]) -> Terms | None:
    sites = work.wanting(given, plans)
    return Terms(given, sites, fortnight.prepared([one.group for one in sites], given.hands)) if sites else None


def _as_it_stands(terms: Terms, shares: Sequence[Array]) -> Beside:
    """The standing plan: visits as they were chosen, not another choice that would differ a little."""
    hands = terms.given.hands
    of = [
        outcomes.of_visits(one.group, plain, hands, share)
        for one, plain, share in zip(terms.sites, terms.ready.plains, shares, strict=True)
    ]
    stops = terms.given.stops_ahead
    at = np.concatenate(work.stops_of_trees(terms.sites, stops))
    minutes = np.concatenate([one.minutes for one in of], axis=1)
    crews = len(terms.given.crews)
    all_min = outcomes.crew_minutes(stops.crew_of, stops.minutes, at, minutes, crews)
    return _beside("as_ordered", terms.sites, of, float(all_min.sum()))


def _beside(name: str, sites: Sequence[SiteGroup], of: Sequence[OfGroup], minutes: float) -> Beside:
    """A plan told. minutes: of its fortnight [min]."""
    told: dict[str, int] = dict.fromkeys(harm.WORDS, 0)
    litres = litres_us = weighted = 0.0
    for site, own in zip(sites, of, strict=True):
        poured = own.walked.litres[:PLAN_DAYS]
        litres += float(poured.sum())
        litres_us += float(taken_l(site.group, np.arange(poured.shape[1]), poured).sum())
        weighted += float(np.sum(site.group.weight * own.outcome.harm))
        for h, dies in zip(own.outcome.harm, own.outcome.dies, strict=True):
            word = harm.told(float(h), bool(dies))
            if word is not None:
                told[word] += 1
    return Beside(name, litres, litres_us, minutes, told, weighted)


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
