"""The plan: the past as it was logged, then the days ahead with a visit where one is due.

It runs `balance` over one unbroken series for all trees of a site at once. Weather, logged water and the
opening of each tree are handed in as arrays; calendars, people and storage are not known here.
"""

from dataclasses import dataclass, replace

import numpy as np

from june_shade.core.errors import NoWeatherError
from june_shade.core.water import amount, delivery
from june_shade.core.water.balance import (
    Array,
    Fluxes,
    Ground,
    State,
    Trees,
    Weather,
    dryness,
    ground,
    grow,
    pass_day,
)
from june_shade.core.water.pouring import Boxes, Pouring, along_lines, line_ran
from june_shade.core.weather.series import MEASURED, Series

BALL_RULES_RAIN = 0.3
"""While more than this share of the uptake is the ball's, rain that has not fallen puts no visit off."""
NEVER_PUT_OFF_DAYS = 2


@dataclass(frozen=True, slots=True)
class Opening:
    """Where each tree's run begins, arrays (trees,).

    index: position in the series of its first day. state: what stands when that day opens. fresh: True for an
    opening proper (its ring depletion is taken as it stands after that day's step 1), False for a state
    carried over from the evening before. late_days: unwatered due days up to there. reservoir_l: what stands in a
    wicked box, None = empty everywhere.
    """

    index: Array
    state: State
    fresh: Array
    late_days: Array
    reservoir_l: Array | None = None


@dataclass(frozen=True, slots=True)
class Season:
    """Everything that drives the run beside the trees: arrays (days, trees) unless said.

    series: the site's days. leaf, mulch_depth_share. first_net_l, second_net_l: logged water by the day it counts
    on. poured_today (trees,): water was logged on today's date, whenever it counts. today: index of today.
    """

    series: Series
    leaf: Array
    mulch_depth_share: Array
    first_net_l: Array
    second_net_l: Array
    poured_today: Array
    today: int


@dataclass(frozen=True, slots=True)
class Morning:
    """A day after its step 1 and logged water: what a visit is reckoned from."""

    state: State
    ground: Ground
    weather: Weather


@dataclass(frozen=True, slots=True)
class Plan:
    """The run, arrays (days, trees), NaN before a tree's opening, and the answers, arrays (trees,).

    dryness, ks, ball_depletion_l, ring_depletion_l, root_radius_m at each day's end; visit_net_l, visit_gross_l
    planned from today on (0 = none). due, ready, visit: index of the first day, -1 = none in the series.
    late_days: unwatered days before today on which the tree was due. now: today after step 1 and logged water,
    with its ground. today_ks, today_dryness: how today would end without the planned visit.
    yesterday: the state at yesterday's end. capped, twice, daily: at the first visit, the way of
    pouring can't refill the ball; once is not enough; the limit alone breaks every day (also today, where the tree
    is thirsty and no water could be taken in: no visit is planned then). drowned: at its first visit the line runs
    for another tree longer than this one can take. neediest: index of the tree for which its line runs then, -1 = no
    line; own_gross_l: what a tree itself wants then. dry_ball: fault today. reservoir_l at each day's end, 0 without
    a box. mornings: of each day from today on, where kept. checkpoints: state, late days and reservoir at the end of
    the days asked.
    """

    dryness: Array
    ks: Array
    ball_depletion_l: Array
    ring_depletion_l: Array
    root_radius_m: Array
    visit_net_l: Array
    visit_gross_l: Array
    reservoir_l: Array
    due: Array
    ready: Array
    visit: Array
    late_days: Array
    now: State
    now_ground: Ground
    now_dryness: Array
    today_ks: Array
    today_dryness: Array
    yesterday: State
    capped: Array
    twice: Array
    daily: Array
    drowned: Array
    neediest: Array
    own_gross_l: Array
    dry_ball: Array
    soggy: Array
    mornings: tuple[Morning, ...]
    checkpoints: dict[int, tuple[State, Array, Array]]


class _Record:
    """Day-by-day results as they come; only `run` writes to it."""

    NAMES = (
        "dryness",
        "ks",
        "ball_depletion_l",
        "ring_depletion_l",
        "root_radius_m",
        "visit_net_l",
        "visit_gross_l",
        "reservoir_l",
    )

    def __init__(self, days: int, trees: int) -> None:
        self.rows = {name: np.full((days, trees), np.nan) for name in self.NAMES}
        self.soggy = np.zeros((days, trees), bool)

    def write(
        self, day: int, active: Array, moved: Fluxes, end: State, net: Array, gross: Array, reservoir: Array
    ) -> None:
        values = (
            moved.dryness, moved.ks, end.ball_depletion_l, end.ring_depletion_l, end.root_radius_m, net, gross,
            reservoir,
        )  # fmt: skip
        for name, value in zip(self.NAMES, values, strict=True):
            self.rows[name][day] = np.where(active, value, np.nan)
        self.soggy[day] = active & moved.soggy


def _pick(where: Array, a: State, b: State) -> State:
    """State a where True, else b."""
    return State(*(np.where(where, getattr(a, n), getattr(b, n)) for n in State.__dataclass_fields__))


def _weather(season: Season, day: int, *, with_forecast_rain: bool = True) -> Weather:
    s = season.series
    counted = with_forecast_rain or s.basis[day] == MEASURED
    return Weather(
        eto_mm=s.eto_mm[day],
        rain_mm=s.rain_mm[day],
        tmean_c=s.tmean_c[day],
        leaf=season.leaf[day],
        rain_share=s.rain_share[day] if counted else 0.0,
        mulch_depth_share=season.mulch_depth_share[day],
    )


def _pass(trees: Trees, g: Ground, state: State, weather: Weather, first: Array, second: Array):
    """A day with one or, for the trees that got it, two waterings."""
    end, moved = pass_day(trees, g, state, weather, first)
    if not np.any(second > 0):
        return end, moved
    end2, moved2 = pass_day(trees, g, state, weather, first, second)
    both = second > 0
    fluxes = Fluxes(*(np.where(both, getattr(moved2, n), getattr(moved, n)) for n in Fluxes.__dataclass_fields__))
    return _pick(both, end2, end), fluxes


def _due_in_gap(trees: Trees, state: State, g: Ground, season: Season, day: int, end: State) -> Array:
    """Whether a tree left unwatered today would be due on one of the closed days that follow."""
    due = np.zeros(len(trees), bool)
    none = np.zeros(len(trees))
    later = day + 1
    while later < len(season.series) and not season.series.workable[later]:
        weather = _weather(season, later)
        state, g, _ = grow(trees, end, weather, g)
        end, moved = pass_day(trees, g, state, weather, none)
        due |= amount.breaks(trees, moved)
        later += 1
    return due


def run(
    trees: Trees,
    opening: Opening,
    season: Season,
    pouring: Pouring,
    *,
    keep_mornings: bool = False,
    checkpoint_days: frozenset[int] = frozenset(),
) -> Plan:
    """Run the series and plan the visits from today on. checkpoint_days: past days whose evening is wanted."""
    series, count = season.series, len(trees)
    none = np.zeros(count)
    record = _Record(len(series), count)
    first_of = {name: np.full(count, -1) for name in ("due", "ready", "visit")}
    flags = {name: np.zeros(count, bool) for name in ("capped", "twice", "daily", "drowned")}
    neediest_of, own_of = np.full(count, -1), np.zeros(count)
    boxes = Boxes(pouring, opening.reservoir_l, count)
    late = opening.late_days.astype(int)
    checkpoints: dict[int, tuple[State, Array, Array]] = {}
    state, shadow = opening.state, opening.state
    before = shadow_before = ground(trees, state.root_radius_m, season.mulch_depth_share[0])
    yesterday = state
    mornings: list[Morning] = []
    now = now_ground = today_trial = None

    for day in range(int(np.min(opening.index)), len(series)):
        starting = opening.index == day
        if np.any(starting):
            state = _pick(starting, opening.state, state)
            before = ground(trees, state.root_radius_m, season.mulch_depth_share[day])
        if day == season.today:
            yesterday, shadow, shadow_before = state, state, before
        weather = _weather(season, day)
        state, g, _ = grow(trees, state, weather, before)
        fresh = starting & opening.fresh
        if np.any(fresh):
            state = replace(
                state, ring_depletion_l=np.where(fresh, opening.state.ring_depletion_l, state.ring_depletion_l)
            )
        active = opening.index <= day
        first, second, drawn = boxes.draw(state, season.first_net_l[day], season.second_net_l[day])

        if day < season.today:
            could_take = amount.refill(trees, g, state).net_l > 0
            state, moved = _pass(trees, g, state, weather, first, second)
            unwatered = amount.breaks(trees, moved) & (first + second <= 0) & could_take
            late = np.where(active, np.where(unwatered, late + 1, 0), late)
            if day in checkpoint_days:
                checkpoints[day] = (state, late, boxes.level_l)
            record.write(day, active, moved, state, none, none, boxes.level_l)
            before = g
            continue

        wetted = _with_water(state, g, first + second)
        if day == season.today:
            now, now_ground = wetted, g
        if keep_mornings:
            mornings.append(Morning(wetted, g, weather))
        trial_end, trial = _pass(trees, g, state, weather, first, second)
        if day == season.today:
            today_trial = trial
        due = amount.breaks(trees, trial)
        dry_weather = _weather(season, day, with_forecast_rain=False)
        guarded = day < season.today + NEVER_PUT_OFF_DAYS
        if guarded:
            shadow, shadow_g, _ = grow(trees, shadow, dry_weather, shadow_before)
            if np.any(fresh):
                shadow = _pick(fresh, state, shadow)
            dry_due = amount.breaks(trees, _pass(trees, shadow_g, shadow, dry_weather, first, second)[1])
            due = np.where((g.uptake_from_ball > BALL_RULES_RAIN) & ~boxes.there, dry_due, due)
        wanted = amount.refill(trees, g, wetted)
        thirsty = due & active
        room = boxes.room_l()
        due = (thirsty & (wanted.net_l > 0)) | (active & boxes.last_day(drawn))
        ready = active & (wanted.net_l > 0) & (amount.is_ready(trees, g, wetted) | due)
        ready |= due | (active & boxes.there & (room > 0.5 * boxes.holds_l))
        visit = due
        if day + 1 < len(series) and not series.workable[day + 1]:
            visit = due | (ready & _due_in_gap(trees, state, g, season, day, trial_end))
        visit = visit & bool(series.workable[day])
        loss = pouring.loss_l * season.mulch_depth_share[day]
        poured = np.where(boxes.there, room, wanted.net_l)
        exact = delivery.gross_l(poured, pouring.efficiency, loss, pouring.leaching)
        rounded = np.ceil(exact / pouring.step_l - 1e-9) * pouring.step_l
        gross = np.where(visit, np.maximum(rounded, pouring.step_l), 0.0)
        had = line_ran(pouring, season.poured_today & (day == season.today))
        own_gross = np.where(visit | (wanted.net_l > 0), exact, 0.0)
        visit, gross, neediest = along_lines(pouring, visit & ~had, gross)
        visit, gross = visit & active, np.where(active, gross, 0.0)
        exact = np.where(neediest >= 0, gross, exact)
        net = np.where(visit, delivery.net_l(gross * (1.0 - pouring.leaching), pouring.efficiency, loss), 0.0)
        net = np.where(boxes.there, boxes.fill(visit, wanted.net_l), net)

        nothing_helps = thirsty & ~due & (day == season.today)
        opens = (visit | nothing_helps) & (first_of["visit"] < 0)
        for name, found in (("due", due), ("ready", ready), ("visit", visit)):
            first_of[name] = np.where(found & (first_of[name] < 0) & (first_of["visit"] < 0), day, first_of[name])
        if np.any(opens):
            full = amount.full_day(trees, g, state, weather)
            flags["capped"] |= opens & wanted.capped
            flags["drowned"] |= opens & (neediest >= 0) & (net > wanted.cap_l + 1e-9)
            neediest_of = np.where(opens, neediest, neediest_of)
            own_of = np.where(opens, own_gross, own_of)
            flags["twice"] |= opens & (full.ks < trees.ks_floor)
            flags["daily"] |= opens & (full.ks >= trees.ks_floor) & (full.dryness > trees.dryness_limit)

        state, moved = _pass(trees, g, state, weather, first + net, second)
        record.write(day, active, moved, state, net, np.where(visit, exact, 0.0), boxes.level_l)
        before = g
        if guarded:
            shadow, _ = _pass(trees, shadow_g, shadow, dry_weather, first + net, second)
            shadow_before = shadow_g

    if now is None or now_ground is None or today_trial is None:
        raise NoWeatherError("the days known do not reach today", "weather")
    return Plan(
        **record.rows,
        due=first_of["due"],
        ready=first_of["ready"],
        visit=first_of["visit"],
        late_days=late,
        now=now,
        now_ground=now_ground,
        now_dryness=dryness(trees, now_ground, now.ball_depletion_l, now.ring_depletion_l),
        today_ks=today_trial.ks,
        today_dryness=today_trial.dryness,
        yesterday=yesterday,
        **flags,
        neediest=neediest_of,
        own_gross_l=own_of,
        dry_ball=amount.dry_ball_fault(now_ground),
        soggy=record.soggy,
        mornings=tuple(mornings),
        checkpoints=checkpoints,
    )


def _with_water(state: State, g: Ground, net: Array) -> State:
    """The morning's state with water already poured that day laid in, nothing drained yet."""
    return replace(
        state,
        ball_depletion_l=state.ball_depletion_l - net * g.ball_share,
        ring_depletion_l=state.ring_depletion_l - net * (1.0 - g.ball_share),
    )


def days_counted(minute_of_day: int, watered_before_noon: bool) -> tuple[int, bool]:
    """How many days later water counts, and whether as a second watering.

    Before 14:00 local: that day, first. After: the next morning, unless it is the second of two that day.
    """
    if minute_of_day < EVENING_MINUTE:
        return 0, False
    return (0, True) if watered_before_noon else (1, False)


EVENING_MINUTE = 14 * 60
"""Water given after 14:00 local counts with the next morning's."""


def opening_state(
    trees: Trees,
    root_radius_m: Array,
    ball_wetness: Array,
    ring_wetness: Array,
    guessed: Array,
    in_ground_before: Array,
) -> State:
    """State in which trees open, arrays (trees,).

    ball_wetness, ring_wetness: share of available water there, 0..1; where `guessed` both stand at half their
    limit. in_ground_before: True for trees planted earlier, whose surroundings open as dry as their ring.
    """
    g = ground(trees, root_radius_m)
    guess = amount.READY_SHARE * trees.dryness_limit
    ball = np.where(guessed, guess, 1.0 - ball_wetness)
    ring = np.where(guessed, guess, 1.0 - ring_wetness)
    count = len(trees)
    return State(
        root_radius_m=root_radius_m,
        ball_depletion_l=ball * trees.ball_taw_l,
        ring_depletion_l=ring * g.ring_taw_l,
        outside_depletion_mm=np.where(in_ground_before, np.maximum(0.0, ring), 0.0) * trees.outside_taw_mm,
        ks=np.ones(count),
        soggy=np.zeros(count, bool),
        rain_before_mm=np.zeros(count),
    )
