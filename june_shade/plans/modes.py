"""What each mode would cost and save at a site: the same trees, the same past weather, three ways of going on."""

from dataclasses import dataclass, replace
from uuid import UUID

import numpy as np
from sqlalchemy.orm import Session

from june_shade.core.errors import NoWeatherError
from june_shade.core.water import season
from june_shade.core.water.balance import State, Trees, Weather
from june_shade.core.water.modes import MODES
from june_shade.plans import water
from june_shade.store.tables import Site

SEASON_DAYS = 120
"""The last so many measured days are gone through again: about a growing season's worth."""


@dataclass(frozen=True, slots=True)
class ModeOutcome:
    """A mode over the days gone through, all trees together.

    poured_l; waterings; drinks: share of what the trees would drink that they got, 0..1; roots_m: mean growth of the
    root radius; worst_ks: the least uptake share of any tree on any day.
    """

    name: str
    poured_l: float
    waterings: int
    drinks: float
    roots_m: float
    worst_ks: float


@dataclass(frozen=True, slots=True)
class Comparison:
    """The modes of a site, or of one tree, over the same days. tender: tags of trees that stand little drought."""

    days: int
    trees: int
    modes: tuple[ModeOutcome, ...]
    tender: tuple[str, ...]


def compare(session: Session, site: Site, tree_id: UUID | None = None) -> Comparison:
    """Go through the last measured days once in each mode, from full stores and today's roots.

    Raises NoWeatherError where nothing stands there or no day is known.
    """
    made = water.plan_site(session, site, tree_ids=None if tree_id is None else [tree_id], history_days=SEASON_DAYS)
    if made is None:
        raise NoWeatherError("no tree stands here yet", "site_id")
    chosen = np.arange(len(made.rows)) if tree_id is None else np.array([made.index_of(tree_id)])
    at = made.known.index(made.today)
    first = max(0, at - SEASON_DAYS)
    if at - first < 1:
        raise NoWeatherError("no day before today is known: bring in a file of past days", "weather")
    trees = _some(made.trees, chosen)
    known = made.known
    days = [
        Weather(
            eto_mm=known.eto_mm[i], rain_mm=known.rain_mm[i], tmean_c=known.tmean_c[i], leaf=_leaf(made, i)[chosen],
            rain_share=1.0, mulch_depth_share=1.0,
        )
        for i in range(first, at)
    ]  # fmt: skip
    radius = made.plan.now.root_radius_m[chosen]
    efficiency = made.pouring.efficiency[chosen] * (1.0 - made.pouring.leaching[chosen])
    outcomes = []
    for mode in MODES.values():
        ones = np.ones(len(trees))
        own = replace(trees, dryness_limit=ones * mode.dryness_limit, ks_floor=ones * mode.ks_floor)
        outcomes.append(_gone_through(mode.name, own, radius, days, efficiency))
    tender = tuple(made.rows[i].tag for i in chosen if made.rows[i].drought_tolerance == "low")
    return Comparison(len(days), len(chosen), tuple(outcomes), tender)


def _leaf(made: water.SitePlan, i: int) -> np.ndarray:
    """Leaf of every tree on a known day; the plan's own where it reaches back so far, else the station's."""
    back = i - (len(made.known) - len(made.series))
    return made.season.leaf[back] if back >= 0 else np.full(len(made.rows), made.known.leaf[i])


def _some(trees: Trees, chosen: np.ndarray) -> Trees:
    return Trees(**{name: getattr(trees, name)[chosen] for name in Trees.__dataclass_fields__})


def _gone_through(name: str, trees: Trees, radius: np.ndarray, days: list[Weather], efficiency) -> ModeOutcome:
    count = len(trees)
    zero = np.zeros(count)
    state = State(radius, zero, zero, zero, np.ones(count), np.zeros(count, bool), zero)
    run = season.run_from(trees, state, days, season.Routine("balance"), efficiency)
    transpired = np.sum([d.moved.transpired_l for d in run], axis=0)
    wanted = np.sum([d.moved.transpired_l / np.maximum(d.moved.ks, 1e-9) for d in run], axis=0)
    poured = np.sum([d.gross_l for d in run], axis=0)
    return ModeOutcome(
        name=name,
        poured_l=float(np.sum(poured)),
        waterings=int(np.sum([np.count_nonzero(d.gross_l > 0) for d in run])),
        drinks=float(np.sum(transpired) / np.sum(wanted)) if np.sum(wanted) > 0 else 1.0,
        roots_m=float(np.mean(run[-1].state.root_radius_m - radius)),
        worst_ks=float(min(np.min(d.moved.ks) for d in run)),
    )
