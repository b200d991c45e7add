"""The last measured days gone through again under other terms, by the plan's own rules: what would it have cost?"""

from dataclasses import dataclass, replace

import numpy as np

from june_shade.core.mulch.saving import Saving
from june_shade.core.water import planner
from june_shade.core.water.balance import thirsty
from june_shade.core.water.course import Course
from june_shade.core.water.pouring import Pouring
from june_shade.core.water.stores import State, Trees, some
from june_shade.core.water.walk import Era, Opening, opening_state
from june_shade.core.weather.series import Series
from june_shade.plans.water import days
from june_shade.plans.water.run import SitePlan


@dataclass(frozen=True, slots=True)
class Again:
    """A run over past days, all visits the plan's: arrays (days, trees) of litres at the tap, uptake share, thirst,
    what transpired share would be; root radius at the end (trees,)."""

    gross_l: np.ndarray
    ks: np.ndarray
    thirsty: np.ndarray
    root_radius_m: np.ndarray

    @property
    def waterings(self) -> np.ndarray:
        """Visits a tree (trees,)."""
        return np.count_nonzero(self.gross_l > 0, axis=0)

    @property
    def poured_l(self) -> np.ndarray:
        """Litres a tree (trees,)."""
        return np.sum(self.gross_l, axis=0)


@dataclass(frozen=True, slots=True)
class Ring:
    """A ring of mulch to be tried: outer circle and bare middle [m2], depth share on each day (days,), water that wets
    it each time at full depth [L]."""

    outer_m2: float
    gap_m2: float
    depth_share: np.ndarray
    loss_l: float


def measured_days(made: SitePlan, most: int) -> int:
    """How many days before today are known, at most so many."""
    return min(most, made.known.index(made.today))


def _past(made: SitePlan, count: int) -> Series:
    """The last known days before today, as the crew works them."""
    at = made.known.index(made.today)
    cut = days.cut(made.known, at - count)
    cut = cut.days(0, count)
    return days.with_days_off(cut, made.site.working_days, cut.dates[0].item())


def run(
    made: SitePlan, count: int, chosen: np.ndarray, trees: Trees, *, depth: np.ndarray | None = None,
    era: Era | None = None,
) -> Again:  # fmt: skip
    """Go through the last `count` days with these trees, from full stores and today's roots, watered as now.

    chosen: positions of the trees in the plan, in the order of `trees` (a tree may stand there more than once). depth:
    another depth share of mulch on each day (days, trees), else as the plan's wasting has it. era: another way of
    watering than today's.
    """
    cut = _past(made, count)
    leaf, wasted = _drivers(made, cut, chosen)
    era = era or _of_some(made.eras[-1], chosen)
    return over(cut, leaf, wasted if depth is None else depth, trees, era, made.plan.now.root_radius_m[chosen])


def over(
    cut: Series, leaf: np.ndarray, mulch: np.ndarray, trees: Trees, era: Era, roots_m: np.ndarray,
    thirst: np.ndarray | None = None,
) -> Again:  # fmt: skip
    """Go through these days from full stores, every visit the plan's own.

    leaf, mulch: shares on each day, arrays (days, trees); roots_m: where roots begin [m], array (trees,); thirst: how
    many times the book's demand, array (days, trees), None = the book's.
    """
    zero, full = np.zeros_like(leaf), np.ones(len(trees))
    course = Course.of(cut, leaf, mulch, zero, zero, np.zeros(len(trees), bool), 0, thirst=thirst)
    roots = np.minimum(roots_m, trees.established_radius_m)
    state: State = opening_state(trees, era.reach, roots, full, full, np.zeros(len(trees), bool))
    plan = planner.run(trees, Opening.of_all(state, fresh=True), course, (era,))
    gross = np.nan_to_num(plan.visit_gross_l)
    return Again(gross, plan.ks, thirsty(leaf, plan.ks, 1.0), plan.root_radius_m[-1])


def mulched_and_bare(made: SitePlan, i: int, count: int, ring: Ring) -> Saving:
    """Tree i, with all that share its line, gone through twice: with this ring of mulch and with none."""
    line = made.pouring.line
    mates = np.flatnonzero(line == line[i]) if line is not None and made.on_a_line(i) else np.array([i])
    own = int(np.flatnonzero(mates == i)[0])
    chosen, n = np.concatenate([mates, mates]), len(mates)
    outer, gap = made.trees.mulch_outer_area_m2[chosen], made.trees.mulch_gap_area_m2[chosen]
    for at, area in ((own, ring.outer_m2), (n + own, 0.0)):
        outer[at], gap[at] = area, ring.gap_m2 if area else 0.0
    trees = replace(some(made.trees, chosen), mulch_outer_area_m2=outer, mulch_gap_area_m2=gap)
    pouring = _apart(some(made.pouring, chosen), n)
    loss = pouring.loss_l.copy()
    loss[own], loss[n + own] = ring.loss_l, 0.0
    era = Era(0, some(made.reach, chosen), replace(pouring, loss_l=loss))
    depth = _drivers(made, _past(made, count), chosen)[1]
    depth[:, own], depth[:, n + own] = ring.depth_share, 0.0
    found = run(made, count, chosen, trees, depth=depth, era=era)
    wetting = ring.loss_l / float(pouring.efficiency[own]) * ring.depth_share * (found.gross_l[:, own] > 0)
    return Saving(
        float(found.poured_l[own]), float(found.poured_l[n + own]), int(found.waterings[own]),
        int(found.waterings[n + own]), count, float(np.sum(wetting)),
    )  # fmt: skip


def _apart(pouring: Pouring, n: int) -> Pouring:
    """The second half of the trees on lines of their own."""
    if pouring.line is None:
        return pouring
    line = pouring.line.copy()
    line[n:] = np.where(line[n:] >= 0, line[n:] + 1 + np.max(line), -1)
    return replace(pouring, line=line)


def _of_some(era: Era, chosen: np.ndarray) -> Era:
    return Era(0, some(era.reach, chosen), some(era.pouring, chosen))


def _drivers(made: SitePlan, cut: Series, chosen: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
    """Leaf and mulch of the chosen trees on the days gone through."""
    rows = [made.rows[i] for i in chosen]
    leaf, depth = days.leaf_and_mulch(rows, cut, {}, made.mulch_recorded)
    return leaf, depth


def with_terms(trees: Trees, dryness_limit: float, ks_floor: float) -> Trees:
    """The same trees with another limit and floor."""
    ones = np.ones(len(trees))
    return replace(trees, dryness_limit=ones * dryness_limit, ks_floor=ones * ks_floor)
