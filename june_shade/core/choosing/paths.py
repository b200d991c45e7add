"""Other weather than the forecast's: paths drawn from a station's own past, and whether a plan holds on them."""

from dataclasses import dataclass

import numpy as np

from june_shade.core.choosing import harm, offers
from june_shade.core.choosing.offers import PLAN_DAYS, Group
from june_shade.core.choosing.outcomes import OfGroup
from june_shade.core.choosing.patterns import Array
from june_shade.core.water.visits import walked
from june_shade.core.weather.series import Series

PATHS, LEAST_PAST = 20, 5
SEASON_DAYS = 30
"""Past fortnights are taken from so many days to each side of today, of any year."""
SURE_AT_FIRST = 0.3
"""Of how far a past fortnight was off its season the first day takes so much, the last all of it (calibrated)."""
RAIN_KNOWN_DAYS = 4
"""So many days rain is as it is forecast; later as it was then (calibrated)."""


@dataclass(frozen=True, slots=True)
class Paths:
    """Weather that may come, arrays (days, paths): how many times the demand that is forecast; rain [mm], NaN = as
    forecast."""

    eto_times: Array
    rain_mm: Array


def drawn(known: Series, today: int, rng: np.random.Generator, paths: int = PATHS) -> Paths | None:
    """Paths from a station's past; None where too little of it is known.

    today: position of today in the days known; paths: how many.
    """
    days = np.arange(PLAN_DAYS)
    starts = np.arange(0, max(0, today - PLAN_DAYS + 1))
    apart = np.abs((today - starts + 182) % 365 - 182)
    starts = starts[apart <= SEASON_DAYS]
    if len(starts) < LEAST_PAST:
        return None
    windows = starts[:, None] + days
    usual = np.mean(known.eto_mm[windows])
    taken = windows[rng.integers(0, len(starts), paths)]
    off = known.eto_mm[taken] / max(usual, 1e-9) - 1.0
    sure = np.linspace(SURE_AT_FIRST, 1.0, PLAN_DAYS)
    rain = np.where(days < RAIN_KNOWN_DAYS, np.nan, known.rain_mm[taken])
    return Paths(np.maximum(0.1, 1.0 + sure * off).T, rain.T)


def holds(group: Group, of: OfGroup, on: Paths) -> Array:
    """On which paths no tree of a group falls to a worse word than by the plan as it was made, array (paths,)."""
    trees, count = len(group.weight), on.eto_times.shape[1]
    at, path = np.tile(np.arange(trees), count), np.repeat(np.arange(count), trees)
    standing = group.standing.of_some(at, path).under(on.eto_times[:, path], on.rain_mm[:, path])
    found = walked(standing, np.tile(of.share, (1, count)))
    plain = np.tile(of.plain.harm, count), np.tile(of.plain.dies, count)
    come = offers.outcome(found.ks, found.soggy, found.leaf, *plain)
    worse = harm.rank(come.harm, come.dies) > np.tile(harm.rank(of.outcome.harm, of.outcome.dies), count)
    kept: Array = ~np.any(worse.reshape(count, trees), axis=1)
    return kept
