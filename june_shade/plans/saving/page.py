"""What would save most, over the whole contract: what each change brings, takes and when it has paid, best first."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Any
from uuid import UUID

import numpy as np

from june_shade.core.errors import JuneShadeError
from june_shade.core.limits import hours
from june_shade.core.saving import measures, worth
from june_shade.core.saving.worth import Prices
from june_shade.plans import clock, soil_in_force
from june_shade.plans.choosing import given as loading
from june_shade.plans.choosing.given import Given
from june_shade.plans.choosing.groups import asked_of
from june_shade.plans.kept import Kept, is_settled
from june_shade.plans.saving import standing, tasks, tried
from june_shade.plans.saving.tried import Gain, Hands
from june_shade.plans.water.run import SitePlan, plan_site
from june_shade.store import care as care_store
from june_shade.store import savings as store
from june_shade.store import trees as tree_store
from june_shade.store.saving_tables import SavingTask
from june_shade.store.session import Session, database_of
from june_shade.store.site_tables import Site

METHOD_OF = {measures.BAG: "bag", measures.DRIP: "emitters", measures.BOX: "wicked"}
"""The way of watering that a change turns to, as plans name it."""


@dataclass(frozen=True, slots=True)
class Tried:
    """A site gone through: its plan, hands, what each change saves at each tree; `seasons`: how many were looked at."""

    made: SitePlan
    hands: Hands
    gains: tuple[Gain, ...]
    seasons: int


@dataclass(frozen=True, slots=True)
class OfTree:
    """One change at one tree: litres a week that it saves now, least and most over the seasons [L]; minutes a week;
    minutes and money that it takes, None = no price; days until it has paid, None = never; whether it is open work."""

    id: UUID
    tag: str
    place: str
    litres: float
    low_l: float
    high_l: float
    minutes_a_week: float
    minutes: float
    cost: float | None
    pays_days: float | None
    tasked: bool


@dataclass(frozen=True, slots=True)
class Offer:
    """One change at a site: the same for all its trees together, its parts by name; days of the fortnight on which an
    order leaves these trees water now and after the change, None without an order; allowed: as an order says of the
    way that it turns to."""

    measure: str
    site_id: UUID
    site: str
    trees: tuple[OfTree, ...]
    litres: float
    low_l: float
    high_l: float
    minutes_a_week: float
    minutes: float
    parts: dict[str, float]
    cost: float | None
    pays_days: float | None
    open_days_now: int | None
    open_days_then: int | None

    @property
    def allowed(self) -> bool:
        """Whether any order leaves a day to it."""
        return self.open_days_then is None or self.open_days_then > 0


_tried: Kept[Tried | None] = Kept(64)


def of_all(session: Session) -> dict[str, Any]:
    """What the page shows."""
    sites = tree_store.sites(session)
    prices = store.prices(session)
    told: dict[str, Any] = {"offers": [], "proved": [], "prices": prices, "best": None, "seasons": 0, "problems": []}
    if not sites:
        return told
    given = loading.of_day(session, sites)
    offers: list[Offer] = []
    proved: list[tasks.Proved] = []
    gains: list[Gain] = []
    for site in sites:
        try:
            found = tried_at(session, site, given)
        except JuneShadeError as e:
            told["problems"].append({"site": site.name, "words": e.message})
            continue
        if found is None:
            continue
        told["seasons"] = max(told["seasons"], found.seasons)
        offers += _offers(session, site, given, found, prices)
        proved += tasks.proved(session, found.made, soil_in_force.in_force(session, site), found.hands)
        gains += found.gains
    hours = {site.id: site.hour_price for site in sites}
    order = worth.rank([_taken(one, hours[one.site_id]) for one in offers])
    return told | {"offers": [offers[n] for n in order], "proved": proved, "best": _best(gains)}


def tried_at(session: Session, site: Site, given: Given) -> Tried | None:
    """What changes would save at a site, kept as long as nothing changes there; None where nothing stands."""
    if not is_settled(session):
        return _tried_anew(session, site, given)
    stamp = site.revision, clock.today(session, site.timezone)
    return _tried.get((database_of(session), site.id), stamp, lambda: _tried_anew(session, site, given))


def _tried_anew(session: Session, site: Site, given: Given) -> Tried | None:
    made = plan_site(session, site, limits=False)
    if made is None:
        return None
    crew = given.hands
    n = given.crew_on(site.id, given.first_day)
    works = Hands(
        float(crew.handling_min[n].max()), float(max(1.0, crew.at_once[n].max())),
        frozenset(given.by_box.get(site.id, ())),
    )  # fmt: skip
    ground = soil_in_force.in_force(session, site)
    gains = tried.of_site(made, ground, standing.of_site(session, made), works)
    return Tried(made, works, tuple(gains), len(tried.spans(made)))


def gains_of(session: Session, measure: str, tree_ids: Sequence[UUID]) -> list[Gain]:
    """What one change saves at these trees, those at which it saves something."""
    wanted = set(tree_ids)
    sites = tree_store.sites(session)
    given = loading.of_day(session, sites) if sites else None
    found = []
    for site in sites:
        here = wanted & {tree.id for tree in tree_store.all_trees(session, site.id)}
        of = tried_at(session, site, given) if here and given is not None else None
        found += [] if of is None else [g for g in of.gains if g.change.measure == measure and g.row.id in here]
    return found


def _offers(session: Session, site: Site, given: Given, found: Tried, parts: dict[str, float]) -> list[Offer]:
    """Each change at a site with all the trees that it suits."""
    prices = Prices(site.hour_price, site.water_price_per_m3, parts)
    said = care_store.acts(session, site.id)
    tasked = {
        (tree_id, row.measure) for tree_id, rows in store.of_site(session, site.id).items() for row in rows
        if (act := said.get(tree_id, {}).get(tasks.key_of(row))) is None or act.act == "moved"
    }  # fmt: skip
    offers = []
    for measure in measures.MEASURES:
        gains = [gain for gain in found.gains if gain.change.measure == measure]
        if gains:
            offers.append(_offer(site, given, measure, gains, prices, tasked))
    return offers


def _offer(
    site: Site, given: Given, measure: str, gains: list[Gain], prices: Prices, tasked: set[tuple[UUID, str]]
) -> Offer:  # fmt: skip
    trees = [_of_tree(gain, prices, (gain.row.id, measure) in tasked) for gain in gains]
    order = worth.rank([_taken(one, prices.hour) for one in trees])
    litres = np.sum([gain.litres for gain in gains], axis=0)
    weekly = float(sum(gain.minutes[0] for gain in gains))
    minutes = sum(gain.change.minutes for gain in gains)
    needs: dict[str, float] = {}
    for gain in gains:
        for name, count in gain.change.parts.items():
            needs[name] = needs.get(name, 0.0) + count
    spent = _spent(measure, minutes, needs, prices)
    now, then = _open_days(site, given, measure, gains)
    return Offer(
        measure, site.id, site.name, tuple(trees[n] for n in order), float(litres[0]), float(litres.min()),
        float(litres.max()), weekly, minutes, needs, spent,
        _pays(measure, float(litres[0]), weekly, minutes, spent, prices), now, then,
    )  # fmt: skip


def _of_tree(gain: Gain, prices: Prices, tasked: bool) -> OfTree:
    change, row = gain.change, gain.row
    litres, weekly = float(gain.litres[0]), float(gain.minutes[0])
    spent = _spent(change.measure, change.minutes, change.parts, prices)
    return OfTree(
        row.id, row.tag, row.place, litres, float(gain.litres.min()), float(gain.litres.max()), weekly, change.minutes,
        spent, _pays(change.measure, litres, weekly, change.minutes, spent, prices), tasked,
    )  # fmt: skip


def _taken(of: OfTree | Offer, hour: float | None) -> worth.Taken:
    """What a change takes. hour: its price in money, None = nobody said."""
    return worth.Taken(of.litres, of.minutes_a_week, of.minutes, of.cost, hour)


def _spent(measure: str, minutes: float, parts: Any, prices: Prices) -> float | None:
    """What a change costs; other water costs what its supplier asks, which is not known here."""
    return None if measure == measures.OTHER_WATER else worth.cost(minutes, parts, prices)


def _pays(
    measure: str, litres: float, weekly_min: float, minutes: float, spent: float | None, prices: Prices
) -> float | None:  # fmt: skip
    if measure == measures.OTHER_WATER:
        return None
    return worth.days_to_pay(litres, weekly_min, minutes, spent, prices)


def _open_days(site: Site, given: Given, measure: str, gains: list[Gain]) -> tuple[int | None, int | None]:
    """Days of the fortnight that orders leave these trees as they are watered now, and after the change."""
    orders = [one.rules for one in given.orders[site.id]]
    if not orders:
        return None, None
    rows = {(gain.row.planted_on, gain.row.method) for gain in gains}

    def left(method: str | None, water: str | None) -> int:
        """Of the tree that they leave fewest."""
        asked = (
            [asked_of(site.water_source, site.house_number, planted, method or own, day) for day in given.days]
            for planted, own in rows
        )
        return min(
            sum(not hours.closed_by(orders, one if water is None else replace(one, water=water)) for one in every)
            for every in asked
        )

    other = measures.RECLAIMED if measure == measures.OTHER_WATER else None
    return left(None, None), left(METHOD_OF.get(measure), other)


def _best(gains: Sequence[Gain]) -> dict[str, Any] | None:
    """One thing at each tree, the one that saves most for its minutes: trees, litres a week [L], minutes it takes."""
    best: dict[UUID, Gain] = {}
    for gain in gains:
        if gain.change.measure == measures.OTHER_WATER:
            continue
        known = best.get(gain.row.id)
        if known is None or _each(gain) > _each(known):
            best[gain.row.id] = gain
    if not best:
        return None
    alike = min(len(gain.litres) for gain in best.values())
    seasons = np.sum([gain.litres[:alike] for gain in best.values()], axis=0)
    return {
        "trees": len(best), "litres": float(seasons[0]), "low_l": float(seasons.min()),
        "high_l": float(seasons.max()), "minutes": sum(gain.change.minutes for gain in best.values()),
        "minutes_a_week": float(sum(gain.minutes[0] for gain in best.values())),
    }  # fmt: skip


def _each(gain: Gain) -> float:
    return float(gain.litres[0]) / max(gain.change.minutes, 1.0)


def make_tasks(session: Session, batch_id: UUID, measure: str, tree_ids: Sequence[UUID]) -> Sequence[SavingTask]:
    """Put a change on the lists of these trees. Sent twice it is one. Raises InputError where it saves nothing."""
    again = tasks.made_before(session, batch_id, measure, tree_ids)
    return again or tasks.make(session, batch_id, gains_of(session, measure, tree_ids))


def put_prices(session: Session, new: dict[str, float | None]) -> dict[str, float]:
    """Price parts; None takes a price back. Returns all that are known."""
    measures.check_prices(new)
    store.put_prices(session, new)
    return store.prices(session)
