"""Modes that the program chooses for trees within litres, on request; a person takes them or leaves them."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Any
from uuid import UUID

import numpy as np

from june_shade.core.choosing import harm, offers, terms
from june_shade.core.choosing.offers import PLAN_DAYS
from june_shade.core.errors import JuneShadeError
from june_shade.core.water import modes
from june_shade.core.water.visits import walked
from june_shade.plans import clock, register
from june_shade.plans.choosing import given as loading
from june_shade.plans.choosing import groups
from june_shade.plans.choosing.given import Given
from june_shade.plans.water import run
from june_shade.plans.water.run import Prepared
from june_shade.store import choices
from june_shade.store import trees as tree_store
from june_shade.store.facts import TreeFacts
from june_shade.store.session import Session
from june_shade.store.site_tables import Site

WEEKS = PLAN_DAYS / 7
NAMES = tuple(modes.MODES)
"""The modes from what takes most water to what takes least."""


@dataclass(frozen=True, slots=True)
class OnTerms:
    """A site's trees on each mode, arrays (trees, modes): litres of the fortnight [L], harm beyond that of growing
    [days], whether it may be proposed; weight and mode of each, arrays (trees,); positions of those that are watered
    together, who are on one mode."""

    site: Site
    rows: tuple[TreeFacts, ...]
    litres: np.ndarray
    harm: np.ndarray
    allowed: np.ndarray
    weight: np.ndarray
    now: np.ndarray
    units: tuple[np.ndarray, ...]

    @property
    def choice(self) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
        """What is chosen among: litres [L], weighted harm [days] and whether it is allowed, by unit and mode."""
        litres = terms.together(self.litres, self.units)
        hurt = terms.together(self.weight[:, None] * self.harm, self.units)
        return litres, hurt, terms.together(~self.allowed, self.units) == 0

    def of_trees(self, chosen: np.ndarray) -> np.ndarray:
        """Of each tree what was chosen for its unit, arrays (trees,), (units,)."""
        found = self.now.copy()
        for on, mode in zip(self.units, chosen, strict=True):
            found[on] = mode
        return found


@dataclass(frozen=True, slots=True)
class Changed:
    """A tree whose mode would change, what it costs it in a word."""

    id: UUID
    tag: str
    place: str
    site: str
    word: str | None


@dataclass(frozen=True, slots=True)
class Change:
    """Trees that would go from one mode to another; litres a week that this saves [L], below 0 = takes."""

    now: str
    then: str
    saves_l: float
    trees: tuple[Changed, ...]


def propose(session: Session, week_l: float) -> dict[str, Any]:
    """The modes that harm least within so many litres a week, and the trees that they would change."""
    sites = tree_store.sites(session)
    given = loading.of_day(session, sites) if sites else None
    found = [] if given is None else [one for site in sites if (one := _on_terms(session, site, given)) is not None]
    blank = {"week_l": week_l, "litres": 0.0, "now_l": 0.0, "least_l": 0.0, "fits": True, "modes": {}, "changes": []}
    if not found:
        return blank
    unit_l, unit_harm, may = (np.concatenate(parts) for parts in zip(*(one.choice for one in found), strict=True))
    chosen = terms.within(unit_l, unit_harm, may, week_l * WEEKS)
    ends = np.cumsum([len(one.units) for one in found])[:-1]
    then = np.concatenate([
        one.of_trees(own) for one, own in zip(found, np.split(chosen.chosen, ends), strict=True)
    ])  # fmt: skip
    rows = [(one.site, row) for one in found for row in one.rows]
    litres, hurt, now = (np.concatenate([getattr(one, name) for one in found]) for name in ("litres", "harm", "now"))
    every = np.arange(len(rows))
    return blank | {
        "litres": chosen.litres / WEEKS, "now_l": float(litres[every, now].sum()) / WEEKS, "fits": chosen.fits,
        "least_l": float(np.sum(np.min(np.where(may, unit_l, np.inf), axis=1))) / WEEKS,
        "modes": {name: int(np.sum(then == n)) for n, name in enumerate(NAMES)},
        "changes": _changes(rows, now, then, litres, hurt),
    }  # fmt: skip


def _changes(
    rows: Sequence[tuple[Site, TreeFacts]], now: np.ndarray, then: np.ndarray, litres: np.ndarray, hurt: np.ndarray
) -> list[Change]:  # fmt: skip
    """Trees that change, by what from and to, what saves most first."""
    found = []
    for a, b in {(int(a), int(b)) for a, b in zip(now, then, strict=True) if a != b}:
        on = np.flatnonzero((now == a) & (then == b))
        trees = tuple(
            Changed(row.id, row.tag, row.place, site.name, harm.told(float(hurt[i, b]), dies=False))
            for i in on.tolist() for site, row in [rows[i]]
        )  # fmt: skip
        found.append(Change(NAMES[a], NAMES[b], float(np.sum(litres[on, a] - litres[on, b])) / WEEKS, trees))
    return sorted(found, key=lambda one: (-one.saves_l, one.now))


def use(session: Session, wanted: Mapping[UUID, str], within_l: float | None) -> list[UUID]:
    """Have plans go by these modes, all or none; said twice it changes nothing. Raises NotFoundError for a tree.

    within_l: litres a week for all trees within which the program proposed them [L], None where it did not.
    """
    changed: list[UUID] = []
    for name in NAMES:
        trees = [tree_id for tree_id, mode in wanted.items() if mode == name]
        for row in register.change_trees(session, trees, {"mode": name}) if trees else ():
            changed.append(row.id)
            if within_l is not None:
                day = clock.today(session, row.site.timezone)
                choices.put_proposed_mode(session, row.id, name, day, within_l)
    return changed


def _on_terms(session: Session, site: Site, given: Given) -> OnTerms | None:
    """A site's trees on each mode, without limits; None where it has no plan. No mode is proposed of which a tree may
    die that would not growing."""
    try:
        ready = run.prepare(session, site, limits=False)
    except JuneShadeError:
        return None
    if ready is None:
        return None
    litres, hurt, dies = [], [], []
    for mode in modes.MODES.values():
        made = _by(ready, mode)
        at = made.course.today
        wanted = np.nan_to_num(made.plan.visit_gross_l[at : at + PLAN_DAYS]) > 0
        wanted = np.concatenate([wanted, np.zeros((PLAN_DAYS - len(wanted), len(made.rows)), bool)])
        group = groups.group_of(made, site, given, wanted)
        found = walked(group.standing, wanted.astype(float))
        plain = offers.plain_of(found)
        litres.append(found.litres[:PLAN_DAYS].sum(axis=0))
        hurt.append(plain.harm)
        dies.append(plain.dies)
    beyond = np.maximum(0.0, np.array(hurt) - hurt[0]).T
    now = np.array([NAMES.index(row.mode or site.mode) for row in made.rows])
    allowed = terms.may_be_proposed(beyond, np.array(dies).T)
    gone = np.array([row.id in given.let_go for row in made.rows])
    allowed[gone] = np.arange(len(NAMES)) == now[gone][:, None]  # nobody spends water on them: they stay as they are
    return OnTerms(site, tuple(made.rows), np.array(litres).T, beyond, allowed, group.weight, now, group.units)


def _by(ready: Prepared, mode: modes.Mode) -> run.SitePlan:
    """A site's plan with all of its trees on a mode."""
    count = len(ready.run.trees)
    trees = replace(
        ready.run.trees, dryness_limit=np.full(count, mode.dryness_limit), ks_floor=np.full(count, mode.ks_floor)
    )
    own = replace(ready, run=replace(ready.run, trees=trees))
    return own.planned(own.run.plan())
