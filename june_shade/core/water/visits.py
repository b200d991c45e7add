"""Trees walked through the coming days with visits on given days, whatever the balance would want."""

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from june_shade.core.water import refill
from june_shade.core.water.amounts import pour
from june_shade.core.water.balance import Fluxes, laid_in
from june_shade.core.water.course import Course
from june_shade.core.water.pouring import Pouring
from june_shade.core.water.stores import Array, State, Trees, pick, some
from june_shade.core.water.walk import Era, Opening, Walk


@dataclass(frozen=True, slots=True)
class Walked:
    """What comes of visits, arrays (days, trees), the first of them today.

    litres: poured at the tap [L], 0 where the soil took none; dryness, ks at each day's end; soggy: stood in water;
    leaf 0..1.
    """

    litres: Array
    dryness: Array
    ks: Array
    soggy: Array
    leaf: Array

    def of_some(self, chosen: slice) -> "Walked":
        """Some of the trees. chosen: their positions."""
        return Walked(*(getattr(self, name)[:, chosen] for name in Walked.__dataclass_fields__))


@dataclass(frozen=True, slots=True)
class Standing:
    """Trees as they stand this morning, with the days ahead of them.

    course: its days until yesterday do not count any more. asked_l: what a routine pours that a tree follows [L], NaN
    for the balance's refill, array (trees,).
    """

    trees: Trees
    opening: Opening
    course: Course
    era: Era
    asked_l: Array

    @classmethod
    def of(
        cls, trees: Trees, opening: Opening, yesterday: State, reservoir_l: Array, course: Course, era: Era,
        asked_l: Array,
    ) -> "Standing":  # fmt: skip
        """Trees by their plan: as they opened, or as they stood at yesterday's end; reservoir_l: boxes then [L]."""
        begun = opening.index < course.today
        state = pick(begun, yesterday, opening.state)
        index = np.maximum(opening.index, course.today)
        level = np.where(begun, np.nan_to_num(reservoir_l), 0.0)
        now = Opening(index, state, opening.fresh & ~begun, opening.late_days, level)
        return cls(trees, now, course, era, asked_l)

    def of_some(self, chosen: Array, groups: Array) -> "Standing":
        """Some of the trees in this order, one may be there many times.

        chosen: positions; groups: trees of one group share their line as it is, those of another have their own.
        """
        era = Era(0, some(self.era.reach, chosen), _grouped(some(self.era.pouring, chosen), groups))
        opening = replace(some(self.opening, chosen), state=some(self.opening.state, chosen))
        return Standing(
            some(self.trees, chosen), opening, self.course.of_some(chosen), era,
            self.asked_l[chosen],
        )  # fmt: skip

    def under(self, eto_times: Array, rain_mm: Array) -> "Standing":
        """The same under other weather from today on.

        eto_times: how many times the demand that is forecast; rain_mm: rain that falls [mm], NaN = as forecast; arrays
        (days ahead, trees).
        """
        course = self.course
        at, wide = slice(course.today, course.today + len(eto_times)), np.ones(eto_times.shape[1])
        eto, rain, share = (values * wide for values in (course.eto_mm, course.rain_mm, course.rain_share))
        eto[at] *= eto_times
        told = ~np.isnan(rain_mm)
        rain[at], share[at] = np.where(told, rain_mm, rain[at]), np.where(told, 1.0, share[at])
        return replace(self, course=replace(course, eto_mm=eto, rain_mm=rain, rain_share=share))


def _grouped(pouring: Pouring, groups: Array) -> Pouring:
    if pouring.line is None:
        return pouring
    _, line = np.unique(np.stack([groups, pouring.line]), axis=1, return_inverse=True)
    return replace(pouring, line=np.where(pouring.line >= 0, np.ravel(line), -1))


def walked(standing: Standing, share: Array) -> Walked:
    """Walk trees through the days ahead with these visits.

    share: of the refill that is poured, 0 = no visit, array (days ahead, trees); days after these have no visit.
    """
    whole = standing.course
    chosen = np.zeros_like(whole.chosen)
    chosen[whole.today : whole.today + len(share)] = share
    course = replace(whole, chosen=chosen)
    walk = Walk(standing.trees, course, standing.opening, (standing.era,))
    rows: Sequence[list[Array]] = ([], [], [], [])
    for day in range(course.today, len(course)):
        poured, moved = _through(walk, course, day, standing.asked_l)
        for row, value in zip(rows, (poured, moved.dryness, moved.ks, moved.soggy), strict=True):
            row.append(value)
    litres, dryness, ks, soggy = (np.array(row) for row in rows)
    return Walked(litres, dryness, ks, soggy, course.leaf[course.today :])


def _through(walk: Walk, course: Course, day: int, asked_l: Array) -> tuple[Array, Fluxes]:
    """A day walked with the visits that were chosen for it; litres poured, and what moved."""
    logged = course.first_net_l[day], course.second_net_l[day]
    morning = walk.felt_today(walk.morning(day), logged[0] + logged[1])
    first, second, _ = walk.boxes.draw(morning.state, *logged)
    net = np.zeros_like(first)
    poured = net
    if np.any(course.chosen[day] > 0):
        wanted = refill.refill(morning.ground, laid_in(morning.ground, morning.state, first + second)).net_l
        visit = (course.chosen[day] > 0) & morning.active & ((wanted > 0) | walk.boxes.there)
        found = pour(walk, course, morning, wanted, visit, asked_l)
        net, poured = found.net_l, found.gross_l
    return poured, walk.evening(morning, first + net, second)


def next_morning(standing: Standing, share: Array) -> tuple[Standing, Walked]:
    """Today walked with these visits: how the trees stand tomorrow, and what came of today.

    share: of the refill that is poured, 0 = no visit, array (trees,).
    """
    course = standing.course
    chosen = np.zeros_like(course.chosen)
    chosen[course.today] = share
    walk = Walk(standing.trees, replace(course, chosen=chosen), standing.opening, (standing.era,))
    poured, moved = _through(walk, walk.course, course.today, standing.asked_l)
    begun = standing.opening.index <= course.today
    now = Opening(
        np.maximum(standing.opening.index, course.today + 1), walk.state, standing.opening.fresh & ~begun,
        standing.opening.late_days, walk.boxes.level_l,
    )  # fmt: skip
    today = Walked(*(v[None] for v in (poured, moved.dryness, moved.ks, moved.soggy, course.leaf[course.today])))
    return replace(standing, opening=now, course=replace(course, today=course.today + 1)), today
