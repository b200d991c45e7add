"""Where each tree's run begins: the state that is kept, else its opening day."""

from collections.abc import Sequence
from dataclasses import replace
from datetime import date

import numpy as np

from june_shade.core.water import planner
from june_shade.core.water.balance import ROOT_GROWTH_M_PER_DAY, growth_factor
from june_shade.core.water.stores import Reach, State, Trees
from june_shade.core.water.walk import Opening, opening_state
from june_shade.core.weather.series import Series
from june_shade.plans.water.days import positions
from june_shade.store import kept_states
from june_shade.store.facts import TreeFacts

GROWN_KS = 0.9
"""Roots of a tree entered late are grown from its planting day at this uptake (calibrated)."""


def opening(
    rows: Sequence[TreeFacts], states: Sequence[kept_states.KeptState | None], starts: Sequence[date], trees: Trees,
    reach: Reach, series: Series, first: int,
) -> Opening:  # fmt: skip
    """Where each tree begins: its kept state (None where there is none), else its opening day."""
    cached = np.array([state is not None for state in states])
    guess = planner.guessed_wetness(trees)
    guessed = np.array([row.opening == "guessed" for row in rows])
    ball, ring = (
        np.where(guessed, guess, [1.0 if value is None else value for value in (getattr(row, name) for row in rows)])
        for name in ("ball_wetness", "ring_wetness")
    )
    earlier = np.array([row.opened_on > row.planted_on for row in rows])
    radius = _root_radius_at_opening(rows, trees, series)
    opened = opening_state(trees, reach, radius, ball, ring, earlier)
    late, reservoir = np.zeros(len(rows), int), np.zeros(len(rows))
    if cached.any():
        columns = kept_states.STATE_COLUMNS
        nothing = (0.0,) * len(columns)
        known = np.array([nothing if state is None else state.values for state in states], dtype=float).T
        late = known[columns.index("late_days")].astype(int)
        reservoir = known[columns.index("reservoir_l")]
        opened = State(
            *(np.where(cached, known[columns.index(n)], getattr(opened, n)) for n in State.__dataclass_fields__)
        )
        opened = replace(opened, soggy=opened.soggy.astype(bool))
    return Opening(positions(series, starts) - first, opened, ~cached, late, reservoir)


def _root_radius_at_opening(rows: Sequence[TreeFacts], trees: Trees, series: Series) -> np.ndarray:
    """Root radius [m] on each opening day: the ball's, or grown since planting for trees entered later.

    Days before the first one known are taken like the year that follows it.
    """
    grown = np.concatenate([[0.0], np.cumsum(growth_factor(series.month_c))])
    start = positions(series, (row.planted_on for row in rows))
    end = np.clip(positions(series, (row.opened_on for row in rows)), 0, len(series))
    year = min(len(series), 365)
    days = grown[end] - grown[np.clip(start, 0, end)] + np.maximum(0, -start) * grown[year] / year
    return np.minimum(trees.established_radius_m, trees.ball_radius_m + ROOT_GROWTH_M_PER_DAY * GROWN_KS * days)
