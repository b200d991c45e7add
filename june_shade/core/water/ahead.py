"""The days ahead, a visit where one is due: each coming day decided, then passed.

Due: the day would end too dry, or with too little uptake, and water poured this way would mend it. Ready: half way
there. A visit belongs in between, on a day that can be worked.
"""

from dataclasses import dataclass

import numpy as np

from june_shade.core.water import refill
from june_shade.core.water.amounts import Poured, gross_l, pour
from june_shade.core.water.balance import Fluxes, grow, laid_in, pass_day, pass_where
from june_shade.core.water.course import Course
from june_shade.core.water.deep import Rests
from june_shade.core.water.followed import Schools
from june_shade.core.water.ground import Ground, dryness
from june_shade.core.water.record import Record
from june_shade.core.water.refill import Refill
from june_shade.core.water.stores import Array, State, Trees, pick
from june_shade.core.water.walk import Morning, Passed, Walk

BALL_RULES_RAIN = 0.3
"""While more than this share of the uptake is the ball's, rain that has not fallen puts no visit off."""
NEVER_PUT_OFF_DAYS = 2
TOO_MUCH, TOO_LITTLE = 1.5, 0.7
"""A tree on a line is said to get too much or too little beyond these times what it wants (calibrated)."""


@dataclass(frozen=True, slots=True)
class Findings:
    """What is wrong with a tree's next visit, or with today where none is in sight, arrays (trees,).

    capped: the way of pouring can't refill the ball. twice: once a day is not enough. daily: the limit alone breaks
    every day. outgrown: the water reaches too little of the roots. wide: much of it lands beyond them. dry_ball: it
    leaves the ball dry. drowned, starved: its line runs for another tree, far longer or shorter than this one wants.
    slow: the ground takes only part of it in a day.
    """

    capped: Array
    twice: Array
    daily: Array
    outgrown: Array
    wide: Array
    dry_ball: Array
    drowned: Array
    starved: Array
    slow: Array

    @classmethod
    def none(cls, count: int) -> "Findings":
        """Nothing found yet."""
        return cls(*(np.zeros(count, bool) for _ in cls.__dataclass_fields__))

    def where(self, opens: Array, found: "Findings") -> "Findings":
        """These with what was found of the trees whose visit opens now."""
        return pick(opens, found, self)


@dataclass(frozen=True, slots=True)
class Ahead:
    """The answers, arrays (trees,).

    due, ready, visit: position of the first day, -1 = none in the course. now: today after step 1 and logged water,
    with its ground and dryness. today_ks, today_dryness: how today would end without the planned visit. neediest: the
    tree for which its line runs at the first visit, -1 = no line; own_gross_l: what a tree itself wants then.
    balance_asks: whether the balance would water today, whatever routine a tree follows. days: each day from today on,
    where kept.
    """

    due: Array
    ready: Array
    visit: Array
    now: State
    now_ground: Ground
    now_dryness: Array
    today_ks: Array
    today_dryness: Array
    neediest: Array
    own_gross_l: Array
    balance_asks: Array
    findings: Findings
    days: tuple["Day", ...]


@dataclass(frozen=True, slots=True)
class Day:
    """A coming day as it was decided, arrays (trees,).

    passed: how it was walked; moved: what it came to. wetted: the morning's state with logged water laid in; wanted:
    what refills it. without, with_own: what the day would be without a visit and with that amount, as it was seen when
    due.
    """

    passed: Passed
    moved: Fluxes
    wetted: State
    wanted: Refill
    without: Fluxes
    with_own: Fluxes


@dataclass(frozen=True, slots=True)
class _Trial:
    """A coming day tried without a visit and with the visit's own amount. drawn_l: what a box gave that morning."""

    wetted: State
    first_l: Array
    second_l: Array
    drawn_l: Array
    wanted: Refill
    end: State
    without: Fluxes
    with_own: Fluxes


class _Guard:
    """Rain that has not fallen yet puts off no visit of today or tomorrow: the same trees, had it stayed dry."""

    def __init__(self, walk: Walk) -> None:
        self._walk = walk
        self._state: State | None = None

    def seen(self, morning: Morning, trial: _Trial) -> tuple[Fluxes, Fluxes]:
        """This day without any rain that is only forecast: without a visit and with its own amount."""
        walk = self._walk
        self._weather = walk.course.weather(morning.day, with_forecast_rain=False)
        if self._state is None:  # today: what is forecast has not parted them yet
            self._morning, self._ground = morning.state, morning.ground
        else:
            self._morning, self._ground, _ = grow(walk.trees, walk.reach, self._state, self._weather)
        wanted = refill.refill(self._ground, laid_in(self._ground, self._morning, trial.first_l + trial.second_l))
        without = self._passed(trial.first_l, trial.second_l)[1]
        watered = self._passed(trial.first_l + wanted.net_l, trial.second_l)[1]
        return without, watered

    def evening(self, first_l: Array, second_l: Array) -> None:
        """The same day with what is poured after all."""
        self._state = self._passed(first_l, second_l)[0]

    def _passed(self, first_l: Array, second_l: Array) -> tuple[State, Fluxes]:
        return pass_where(self._walk.trees, self._ground, self._morning, self._weather, first_l, second_l)


class _Firsts:
    """The first day of each kind for each tree; none is looked for past its first visit."""

    def __init__(self, count: int) -> None:
        self.due, self.ready, self.visit = (np.full(count, -1) for _ in range(3))

    def note(self, day: int, due: Array, ready: Array, visit: Array) -> None:
        """A day's answers.

        due, ready, visit: arrays (trees,) of whether.
        """
        open_still = self.visit < 0
        for name, found in (("due", due), ("ready", ready), ("visit", visit)):
            known = getattr(self, name)
            setattr(self, name, np.where(found & (known < 0) & open_still, day, known))


def plan(walk: Walk, course: Course, record: Record, owed: Schools, *, keep_days: bool = False) -> Ahead:
    """Walk from today to the course's end, deciding each day. The walk stands at yesterday's evening.

    owed: what routines want that trees follow, up to then.
    """
    count = len(walk.trees)
    guard, firsts, findings = _Guard(walk), _Firsts(count), Findings.none(count)
    neediest, own_l = np.full(count, -1), np.zeros(count)
    days: list[Day] = []
    balance_asks, rests = np.zeros(count, bool), Rests(walk.reach_ahead, course)
    today: tuple[Morning, _Trial] | None = None
    for day in range(course.today, len(course)):
        logged_l = course.first_net_l[day] + course.second_net_l[day]
        morning = walk.felt_today(walk.morning(day), logged_l)
        trial = _try(walk, course, morning)
        today = today or (morning, trial)
        due, ready, seen = _wanted(walk, course, morning, trial, guard)
        due, ready = rests.asks(day, due, ready, morning.weather.leaf)
        if day == course.today:
            balance_asks = due
        asked_l = _asked_l(walk, course, morning, trial, owed)
        due, ready = (np.where(owed.there, asked_l > 0, balance) for balance in (due, ready))
        visits = _as_chosen(course, morning, trial, _on_this_day(walk, course, morning, trial, due, ready))
        poured = pour(walk, course, morning, trial.wanted.net_l, visits, asked_l)
        opens = poured.visit & (firsts.visit < 0)
        firsts.note(day, due, ready, poured.visit)
        if day == course.today or np.any(opens):
            found = _found(walk, morning, trial, poured, owed.there)
            findings = findings.where(opens, found) if day > course.today else found
            neediest = np.where(opens, poured.neediest, neediest)
            own_l = np.where(opens, poured.own_l, own_l)
        moved = walk.evening(morning, trial.first_l + poured.net_l, trial.second_l)
        if keep_days:
            passed = Passed(morning, trial.first_l + poured.net_l, trial.second_l)
            days.append(Day(passed, moved, trial.wetted, trial.wanted, *seen))
        exact = np.where(poured.visit, poured.exact_l, 0.0)
        record.write(day, morning.active, moved, walk.state, morning.ground, poured.net_l, exact, walk.boxes.level_l)
        had = (trial.first_l + trial.second_l > 0) | (course.poured_today & (day == course.today))
        owed.close(day, asked_l, poured.visit | had)
        rests.note(day, poured.visit | had)
        if day < course.today + NEVER_PUT_OFF_DAYS:
            guard.evening(trial.first_l + poured.net_l, trial.second_l)
    assert today is not None
    first, tried = today
    return Ahead(
        due=firsts.due,
        ready=firsts.ready,
        visit=firsts.visit,
        now=tried.wetted,
        now_ground=first.ground,
        now_dryness=_dryness(walk.trees, first.ground, tried.wetted),
        today_ks=tried.without.ks,
        today_dryness=tried.without.dryness,
        neediest=neediest,
        own_gross_l=own_l,
        balance_asks=balance_asks,
        findings=findings,
        days=tuple(days),
    )


def _dryness(trees: Trees, g: Ground, state: State) -> Array:
    return dryness(trees, g, state.ball_depletion_l, state.near_depletion_l)


def _try(walk: Walk, course: Course, morning: Morning) -> _Trial:
    """The day without a visit, and with the one that would refill what logged water leaves wanting."""
    trees, g, state, weather = walk.trees, morning.ground, morning.state, morning.weather
    logged = course.first_net_l[morning.day], course.second_net_l[morning.day]
    first, second, drawn = walk.boxes.draw(state, *logged)
    wetted = laid_in(g, state, first + second)
    wanted = refill.refill(g, wetted)
    end, without = pass_where(trees, g, state, weather, first, second)
    with_own = pass_where(trees, g, state, weather, first + wanted.net_l, second)[1]
    return _Trial(wetted, first, second, drawn, wanted, end, without, with_own)


def _wanted(
    walk: Walk, course: Course, morning: Morning, trial: _Trial, guard: _Guard
) -> tuple[Array, Array, tuple[Fluxes, Fluxes]]:
    """Who is due this day, who is ready, and the day without and with a visit as that was seen."""
    trees, g, boxes = walk.trees, morning.ground, walk.boxes
    can_take = trial.wanted.net_l > 0
    without, with_own = trial.without, trial.with_own
    if morning.day < course.today + NEVER_PUT_OFF_DAYS:
        guarded = can_take & (g.uptake_from_ball > BALL_RULES_RAIN) & ~boxes.there
        without, with_own = (
            pick(guarded, a, b) for a, b in zip(guard.seen(morning, trial), (without, with_own), strict=True)
        )
    due = can_take & refill.mends(trees, without, with_own)
    due |= can_take & _asked_now(course, morning)
    due = morning.active & (due | boxes.last_day(trial.drawn_l))
    ready = morning.active & can_take & refill.is_ready(trees, g, trial.wetted)
    ready |= due | (morning.active & boxes.there & (boxes.room_l() > refill.READY_SHARE * boxes.holds_l))
    return due, ready, (without, with_own)


def _asked_now(course: Course, morning: Morning) -> Array:
    """Whom someone who looked says to water this day."""
    return course.asked_now & (morning.day == course.today)


def _on_this_day(walk: Walk, course: Course, morning: Morning, trial: _Trial, due: Array, ready: Array) -> Array:
    """Whose visit falls on this day: who is due, and before closed days also who is ready and would be due then."""
    workable = course.workable
    if morning.day + 1 < len(course) and np.any(ready & ~due & workable[morning.day] & ~workable[morning.day + 1]):
        due = due | (ready & _due_in_gap(walk, course, morning, trial))
    return due & workable[morning.day]


def _as_chosen(course: Course, morning: Morning, trial: _Trial, visits: Array) -> Array:
    """The day's visits as a plan under limits has them; who looked and says to water today is heard all the same."""
    chosen = course.chosen[morning.day]
    ruled = ~np.isnan(chosen) & ~(_asked_now(course, morning) & visits)
    if not np.any(ruled):
        return visits
    kept = (chosen > 0) & morning.active & (trial.wanted.net_l > 0) & course.workable[morning.day]
    return np.where(ruled, kept, visits)


def _due_in_gap(walk: Walk, course: Course, morning: Morning, trial: _Trial) -> Array:
    """Whether a tree left unwatered today would be due on one of the closed days that follow at once."""
    trees, end = walk.trees, trial.end
    none, due = np.zeros(len(trees)), np.zeros(len(trees), bool)
    later = morning.day + 1
    closed = ~course.workable[later]
    while np.any(closed):
        weather = course.weather(later)
        state, g, _ = grow(trees, walk.reach, end, weather)
        end, without = pass_day(trees, g, state, weather, none)
        net = refill.refill(g, state).net_l
        due |= closed & (net > 0) & refill.mends(trees, without, pass_day(trees, g, state, weather, net)[1])
        later += 1
        if later == len(course):
            break
        closed = closed & ~course.workable[later]
    return due


def _asked_l(walk: Walk, course: Course, morning: Morning, trial: _Trial, owed: Schools) -> Array:
    """What the routines ask that trees follow [L], NaN for trees that follow the balance."""
    if not owed.any:
        return np.full(len(walk.trees), np.nan)
    refill_l = gross_l(walk, morning, trial.wanted.net_l)
    asked = owed.asks_l(walk.trees, morning, trial.wetted, refill_l)
    asked = np.where((asked <= 0) & _asked_now(course, morning), refill_l, asked)
    return np.where(morning.active | np.isnan(asked), asked, 0.0)


def _found(walk: Walk, morning: Morning, trial: _Trial, poured: Poured, by_school: Array) -> Findings:
    """What is to be said of the visits that open on this day; of the refill nothing where a routine pours."""
    trees, g = walk.trees, morning.ground
    full = refill.full_day(trees, g, morning.state, morning.weather)
    shared = (poured.neediest >= 0) & poured.visit
    return Findings(
        capped=refill.ball_not_refilled(g, trial.wanted) & ~by_school,
        twice=refill.once_is_not_enough(trees, g, full) & ~by_school,
        daily=(full.ks >= trees.ks_floor * full.air) & (full.dryness > trees.dryness_limit)
        & (g.reach >= refill.OUTGROWN_REACH) & ~by_school,
        outgrown=refill.roots_outgrown(trees, g, full),
        wide=refill.basin_wide(g),
        dry_ball=refill.dry_ball(g, trial.with_own),
        drowned=shared & (poured.gross_l > TOO_MUCH * np.maximum(poured.own_l, 1e-9)),
        starved=shared & (poured.gross_l < TOO_LITTLE * poured.own_l),
        slow=poured.slow,
    )  # fmt: skip
