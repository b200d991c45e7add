"""What each mode would cost and save at a site: the same trees, the same past weather, three ways of going on."""

from dataclasses import dataclass
from uuid import UUID

import numpy as np

from june_shade.core.errors import NoWeatherError
from june_shade.core.water.modes import MODES
from june_shade.core.water.stores import some
from june_shade.plans import water
from june_shade.plans.water import again
from june_shade.store.session import Session
from june_shade.store.site_tables import Site

SEASON_DAYS = 120
"""The last so many measured days are gone through again: about a growing season's worth."""


@dataclass(frozen=True, slots=True)
class ModeOutcome:
    """A mode over the days gone through, all trees together.

    poured_l; waterings; drinks: mean share of what the trees would drink that they got, 0..1; roots_m: mean growth of
    the root radius; worst_ks: the least uptake share of any tree on any day.
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
    made = water.plan_site(session, site, tree_ids=None if tree_id is None else [tree_id])
    if made is None:
        raise NoWeatherError("no tree stands here yet", "site_id")
    chosen = np.arange(len(made.rows)) if tree_id is None else np.array([made.index_of(tree_id)])
    at = made.known.index(made.today)
    if at < 1:
        raise NoWeatherError("no day before today is known: bring in a file of past days", "weather")
    count = again.measured_days(made, SEASON_DAYS)
    outcomes = [_gone_through(mode.name, made, count, chosen) for mode in MODES.values()]
    tender = tuple(made.rows[i].tag for i in chosen if made.rows[i].drought_tolerance == "low")
    return Comparison(count, len(chosen), tuple(outcomes), tender)


def _gone_through(name: str, made: water.SitePlan, count: int, chosen: np.ndarray) -> ModeOutcome:
    mode = MODES[name]
    trees = again.with_terms(some(made.trees, chosen), mode.dryness_limit, mode.ks_floor)
    run = again.run(made, count, chosen, trees)
    return ModeOutcome(
        name=name,
        poured_l=float(np.sum(run.poured_l)),
        waterings=int(np.sum(run.waterings)),
        drinks=float(np.mean(run.ks)),
        roots_m=float(np.mean(run.root_radius_m - made.plan.now.root_radius_m[chosen])),
        worst_ks=float(np.min(run.ks)),
    )
