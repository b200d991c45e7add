"""The search for a plan: it is taken apart and put together again, some stops at a time, thousands of times.

It goes on from worse plans too, ever less so, and keeps the best [SchrimpfEtAl00]. It ends after so many rounds where
there is time for them.
"""

from collections.abc import Callable

import numpy as np

from june_shade.core.choosing import moves
from june_shade.core.choosing.offers import PLAN_DAYS
from june_shade.core.choosing.patterns import Array

SEED = 14
WARMTH = 0.01
"""A plan that is worse by some such share of the best is gone on with too, by an ever smaller one."""
ROUNDS_AT_ONCE = 50
"""Time is looked at after so many rounds."""


def _beside(board: moves.Board) -> tuple[Array, Array]:
    """For each stop that has units those that are under any limit that it is under too, itself among them."""
    there = np.flatnonzero(np.diff(board.units_from) > 0)
    under = np.zeros((len(board.stop_minutes), len(board.most) + 1), bool)
    for limits in (board.minute_limits, board.litre_limits):
        under[board.stop[:, None, None], limits] = True
    under = under[there, :-1] & np.isfinite(board.most)
    shares = under.astype(int) @ under.T.astype(int) + np.eye(len(there), dtype=int) > 0
    found = [there[row] for row in shares]
    return np.cumsum([0, *map(len, found)]), np.concatenate(found)


def searched(
    board: moves.Board, visits: Array, *, rounds: int, deaths_count: float, seconds: float, clock: Callable[[], float]
) -> Array:
    """The best visits that were found, array (units, days).

    visits: to begin with, the same; rounds: how often a plan is taken apart; deaths_count: how many days of harm a
    death counts; seconds: how long it may take at most; clock: what time it is [s].
    """
    ends = clock() + seconds
    plan = moves.InHand(
        np.zeros(visits.shape, bool), np.zeros(board.stop_minutes.shape, int), board.most.astype(float),
        np.ascontiguousarray(board.spells[:, :, 0, PLAN_DAYS]), np.array([SEED], np.uint64),
    )  # fmt: skip
    if not len(visits):
        return plan.visits
    beside_from, beside = _beside(board)
    worths = np.full(2, moves.begin(board, plan, visits, deaths_count))
    best = plan.visits.copy()
    for done in range(0, rounds, ROUNDS_AT_ONCE):
        some, colder = min(ROUNDS_AT_ONCE, rounds - done), 1.0 - done / rounds
        warmth = WARMTH * colder * abs(worths[1])
        moves.rounds_of(board, plan, beside_from, beside, best, worths, warmth, some, deaths_count)
        if clock() > ends:
            break
    return best


def compile_all() -> None:
    """Compile the search, where that was not done on this machine yet: a search of one tree at one stop."""
    ends = PLAN_DAYS + 1
    one, days = np.ones((1, 2, ends, ends)), np.zeros((1, PLAN_DAYS, 1), int)
    board = moves.Board(
        np.array([0, 1]), np.array([0, 1]), np.array([0]), np.array([[1.0, 0.0, 3.0, 3.0]]), one, one,
        np.ones((1, PLAN_DAYS), bool), np.zeros((1, PLAN_DAYS)), np.ones((1, PLAN_DAYS)), np.ones(1), days,
        days[:, :, :0], days,
    )  # fmt: skip
    none = np.zeros((1, PLAN_DAYS), bool)
    searched(board, none, rounds=1, deaths_count=1.0, seconds=0.0, clock=lambda: 0.0)
