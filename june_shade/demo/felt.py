"""A month of readings and check-ups in the made-up town: trees that do not all drink, or get, what the books say.

What a hand felt follows from a truth that the program is not told: the same balance with another thirst, or with less
of the water arriving, read to the nearest word with a hand's error.
"""

from dataclasses import dataclass, replace
from datetime import date, datetime, time, timedelta
from uuid import UUID
from zoneinfo import ZoneInfo

import numpy as np
from sqlalchemy.orm import Session

from june_shade.core.looking.season import Day, walk
from june_shade.core.water.felt import FEEL
from june_shade.core.water.walk import Walk
from june_shade.demo.names import name_id
from june_shade.plans import clock, log, register
from june_shade.plans.log import NewEntry
from june_shade.plans.looking import checks, thirst
from june_shade.plans.looking.checks import NewCheckup
from june_shade.store.session import SessionMaker, transaction


@dataclass(frozen=True, slots=True)
class Read:
    """Trees of a site that were felt once a week. odd: the one among them that drinks, or gets, so much of the book."""

    prefix: str
    trees: tuple[int, ...]
    odd: int
    drinks: float = 1.0
    gets: float = 1.0
    checked: bool = False


READ = (
    Read("HL", (12, 13, 14, 15), odd=12, drinks=1.6, checked=True),
    Read("RT", (22, 23, 24, 25), odd=22, gets=0.3),
)
"""One drinks 1.6 times the book, its delivery checked and good; on one line an emitter is blocked."""
CHECKUPS = (
    ("SO", 2, 3, {"ball_feel": "wet", "leaf": "soft_yellow", "smell": "sour", "push": "firm"}, True, ("drain_test",)),
    (
        "SO",
        5,
        9,
        {"leaf": "small_early", "flare": "buried", "circling": "some", "ball_feel": "moist"},
        False,
        ("expose_flare",),
    ),
)
"""Check-ups: site, tree, how many days ago, what was found, water held, what is to be done: one drowned, one deep."""
WEEKS = (29, 22, 15, 8, 1)
"""Days ago on which somebody went round."""
AT = time(6, 5)
HAND_SD = 0.06
DEVICE = "yard-tablet"


def fill(sessions: SessionMaker, today: date, zone: str, people: tuple[str, ...]) -> None:
    """Put them into the town as its log stands."""
    person = name_id("person", people[0])
    for of in READ:
        with transaction(sessions) as session:
            clock.pin(session, today)
            _feel(session, of, today, ZoneInfo(zone), person)
        with transaction(sessions) as session:
            if of.checked:
                answer = name_id("answer", of.prefix, of.odd)
                thirst.put(session, answer, name_id("tree", of.prefix, of.odd), "delivery_good", None, person)
    with transaction(sessions) as session:
        for prefix, number, ago, findings, hold, tasks in CHECKUPS:
            at = datetime.combine(today - timedelta(days=ago), AT, ZoneInfo(zone))
            checks.put(session, NewCheckup(
                name_id("checkup", prefix, number), name_id("tree", prefix, number), at, DEVICE, findings, tasks, hold,
                person_id=person,
            ))  # fmt: skip
    for prefix in dict.fromkeys(of.prefix for of in READ):
        thirst.work(sessions, name_id("site", prefix))


def _feel(session: Session, of: Read, today: date, zone: ZoneInfo, person: UUID) -> None:
    ids = [name_id("tree", of.prefix, number) for number in of.trees]
    site = register.tree(session, ids[0]).site
    found = thirst.season_of(session, site, ids)
    assert found is not None
    season, made, wanted, _ = found
    odd = np.array([made.loaded.trees[i].id == name_id("tree", of.prefix, of.odd) for i in wanted])
    course = season.course
    gets = np.where(odd, of.gets, 1.0)
    truth = replace(
        season, course=replace(
            course, thirst=np.where(odd, of.drinks, 1.0) * np.ones((len(course), 1)),
            first_net_l=course.first_net_l * gets, second_net_l=course.second_net_l * gets,
        )
    )  # fmt: skip
    rng = np.random.Generator(np.random.PCG64(of.odd))
    days = {made.run.course.today - ago: ago for ago in WEEKS}

    def keep(number: int, day: Day, walked: Walk) -> None:
        ago = days.get(number + 1)  # the morning after this evening
        if ago is None:
            return
        at = datetime.combine(today - timedelta(days=ago), AT, zone)
        ball = 1.0 - day.state.ball_depletion_l / walked.trees.ball_taw_l
        near_taw_l = walked.trees.soil_awc * day.state.near_volume_l
        ring = 1.0 - day.state.near_depletion_l / near_taw_l
        for n, i in enumerate(wanted):
            tree_id = made.loaded.trees[i].id
            feels = [_word(float(of_store[n] + rng.normal(0, HAND_SD))) for of_store in (ball, ring)]
            log.put(session, NewEntry(
                name_id("reading", tree_id, ago), tree_id, "reading", at, DEVICE, person, how="trowel",
                ball_feel=feels[0], ring_feel=feels[1],
            ))  # fmt: skip

    walk(truth, range(int(np.min(season.opening.index)), made.run.course.today), None, keep)


def _word(wetness: float) -> str:
    return min(FEEL, key=lambda word: abs(FEEL[word] - wetness))
