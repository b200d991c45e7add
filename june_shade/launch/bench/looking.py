"""What readings and check-ups come to on made-up trees, and how long that takes: the core alone."""

import time
from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import date, timedelta

import numpy as np

from june_shade.core.looking import checkup, learn
from june_shade.core.looking.learn import Learned
from june_shade.core.looking.rehearse import Stage, rehearse
from june_shade.core.looking.season import Moment, Season, season_of, walk
from june_shade.core.looking.table import ACTS, BY_THE_PROGRAM, table
from june_shade.core.soil.textures import soil
from june_shade.core.water import felt
from june_shade.core.water.felt import Capacity, Felt, Stood
from june_shade.core.water.routine import Start
from june_shade.core.water.schools import ROUTINES, Routine, sky
from june_shade.core.water.stores import Array
from june_shade.core.water.trees import TreeSpec, build, reach_of
from june_shade.core.water.weather import Weather
from june_shade.launch.bench.tell import tell

DAYS, EVERY_DAYS, LOOK_DAYS = 60, 3, 7
"""A dry season of so many days, watered and looked at so often (invented)."""
RIGHT_WITHIN = 0.5
"""An act is right where it loses at most so much more than the best one for the true cause [days of growth]."""
NEAR_BOOK = 0.1
"""A tree, or a delivery, that is no further off the book is by the book."""


def spec() -> TreeSpec:
    """A two-inch balled tree in loam."""
    return TreeSpec(
        kind="balled", caliper_m=0.0508, ball_diameter_m=0.61, ball_height_m=0.366, crown_diameter_m=1.8,
        soil=soil("loam"), basin_diameter_m=0.9, ball_share=0.6,
    )  # fmt: skip


def season(rng: np.random.Generator, drinks: Array, gets: Array) -> Season:
    """Trees that drink, or get, so much of what the book says, and what a trowel found of each once a week.

    drinks, gets: arrays (trees,).
    """
    count = len(drinks)
    specs = [spec()] * count
    eto_mm = np.clip(rng.normal(5.5, 1.0, DAYS), 2.0, None)
    days = [Weather(eto_mm=float(e), rain_mm=0.0, month_c=24.0, five_days_c=24.0) for e in eto_mm]
    poured_l = np.where(np.arange(DAYS)[:, None] % EVERY_DAYS == 0, rng.uniform(8.0, 20.0, count), 0.0)
    blank = Felt(*np.full((3, 1, count), np.nan))
    looks = {(day, True): blank for day in range(2, DAYS, LOOK_DAYS)}
    told = season_of(build(specs), reach_of(specs), Start(), days, poured_l, looks, felt.PLANTED_SD)
    truth = replace(
        told.course, thirst=np.repeat(drinks[None], DAYS, axis=0), first_net_l=told.course.first_net_l * gets
    )
    read: dict[Moment, Felt] = {}

    def look(moment: Moment, now: Stood, room: Capacity, found: Felt) -> Stood:
        ball, ring = (
            np.clip(1.0 - depletion / taw + rng.normal(0, felt.SD["trowel"], count), 0.0, 1.2)[None]
            for depletion, taw in ((now.ball_depletion_l, room.ball_taw_l), (now.near_depletion_l, room.near_taw_l))
        )
        read[moment] = Felt(ball, ring, np.full((1, count), felt.SD["trowel"]))
        return now

    walk(replace(told, course=truth), range(DAYS), look)
    return replace(told, course=replace(told.course, felt=read))


@dataclass(frozen=True, slots=True)
class Made:
    """A made-up tree, how far it is off the book, what its readings said."""

    drinks: float
    gets: float
    learned: Learned


def made_up(count: int, seed: int = 11) -> list[Made]:
    """Trees with a thirst or a delivery drawn from the prior, in turn."""
    rng = np.random.default_rng(seed)
    drawn, thirsty = rng.normal(1.0, learn.PRIOR_SD, count), np.arange(count) % 2 == 0
    drinks = np.where(thirsty, np.clip(drawn, *learn.DEMAND), 1.0)
    gets = np.where(thirsty, 1.0, np.clip(drawn, *learn.DELIVERY))
    found = learn.learn(season(rng, drinks, gets))
    return [Made(*of) for of in zip(drinks.tolist(), gets.tolist(), found, strict=True)]


def _percent(hits: Sequence[bool]) -> float:
    return 100.0 * sum(hits) / max(1, len(hits))


def tell_learning(trees: Sequence[Made]) -> None:
    """How often the truth lies within two of the stated errors, and how often each verdict is right."""
    thirsty = [t for t in trees if t.gets == 1.0 and t.learned.demand]
    fed = [t for t in trees if t.drinks == 1.0 and t.gets != 1.0 and t.learned.delivery]
    within = [abs(t.drinks - t.learned.demand.value) <= 2 * t.learned.demand.sd for t in thirsty if t.learned.demand]
    within += [abs(t.gets - t.learned.delivery.value) <= 2 * t.learned.delivery.sd for t in fed if t.learned.delivery]
    tell("learn_within_two_errors_percent", _percent(within), "%")
    off = {
        "book_holds": lambda t: max(abs(t.drinks - 1), abs(t.gets - 1)) <= NEAR_BOOK,
        "drinks_more": lambda t: t.drinks > 1,
        "drinks_less": lambda t: t.drinks < 1,
        "ask_delivery": lambda t: max(abs(t.drinks - 1), abs(t.gets - 1)) > NEAR_BOOK,
    }
    for verdict, is_so in off.items():
        said = [is_so(t) for t in trees if t.learned.verdict == verdict]
        tell(f"learn_{verdict}_said", len(said), "trees")
        if said:
            tell(f"learn_{verdict}_right_percent", _percent(said), "%")


def draw(rng: np.random.Generator, cause: int) -> dict[str, str]:
    """A tree of a cause: its answer to each question, as likely as the table has it."""
    found = {}
    for name, one in table().findings.items():
        likely = one.likelihood[:, cause]
        found[name] = one.answers[rng.choice(len(one.answers), p=likely / likely.sum())]
    return found


def asked(tree: dict[str, str]) -> tuple[dict[str, str], float]:
    """A check-up of a tree: what the program asks until nothing would change the act. Answers and minutes."""
    found = {name: tree[name] for name in BY_THE_PROGRAM}
    minutes = 0.0
    while (left := checkup.tests_left(found)) and left[0].is_worth_it:
        found[left[0].finding] = tree[left[0].finding]
        minutes += left[0].minutes
    return found, minutes


def checkups(draws: int = 1000) -> None:
    """Trees drawn from the table itself: acts that are right, minutes that they took."""
    rng, spent = np.random.default_rng(7), []
    for cause in ("dry", "dry_ball", "wet", "delivery"):
        at, right = table().causes.index(cause), []
        loss = dict(zip(ACTS, table().loss[:, at], strict=True))
        for _ in range(draws):
            found, minutes = asked(draw(rng, at))
            act, _ = checkup.best_act(checkup.posterior(found), wet_ball=found.get("ball_feel") == "wet")
            right.append(bool(loss[act] <= min(loss.values()) + RIGHT_WITHIN))
            spent.append(minutes)
        tell(f"checkup_{cause}_right_percent", _percent(right), "%")
    tell("checkup_tests_minutes", float(np.mean(spent)), "min")


def rehearse_ms(years: int = 3) -> float:
    """Ten routines over so many years of days, one tree."""
    first = date(2024, 1, 1)
    dates = [first + timedelta(n) for n in range(365 * years)]
    warm = np.array([12.0 - 12.0 * np.cos(2 * np.pi * day.timetuple().tm_yday / 365.25) for day in dates])
    rng = np.random.default_rng(3)
    rain = np.where(rng.random(len(dates)) < 0.15, rng.gamma(1.0, 8.0, len(dates)), 0.0)
    days = [
        Weather(eto_mm=1.0 + 0.22 * float(c), rain_mm=float(r), month_c=float(c), five_days_c=float(c))
        for c, r in zip(warm, rain, strict=True)
    ]
    stage = Stage(build([spec()]), reach_of([spec()]), Start(), dates, days, sky(days, warm), 0.9)
    routines = [Routine(name, 20.0, 7, 25.0, 10.0, 2.0) for name in ROUTINES]
    began = time.perf_counter()
    rehearse(stage, routines)
    return 1000 * (time.perf_counter() - began)


def measure() -> None:
    """All of them."""
    began = time.perf_counter()
    trees = made_up(500)
    tell("learn_500_trees_seconds", time.perf_counter() - began, "s")
    tell_learning(trees[:200])
    checkups()
    tell("rehearse_10_routines_3_years_ms", rehearse_ms(), "ms")
