"""The dated tasks of a tree, from all its pages: when each is due and why. It knows no weather and no watering.

A task's key stays the same as long as it is the same task, also when its day changes: what was moved or dismissed
stays so, and calendar programs update the event that they have. Days by common practice.
"""

from calendar import monthrange
from collections.abc import Iterable, Mapping
from dataclasses import dataclass, replace
from datetime import date, timedelta
from functools import lru_cache

from june_shade.core.care.frost import YOUNG_YEARS, Season
from june_shade.core.mulch.look import stage_days
from june_shade.core.mulch.underlay import weeds_held_months
from june_shade.core.planting.fittings import SUPPORT_DAYS, WRAP_DAYS
from june_shade.core.saving.measures import TASKS as OF_SAVINGS

OF_PLANTINGS = ("locate_call", "water_stock")
"""Tasks of a batch that is still to be planted; all others are a tree's."""
OF_CHECKUPS = (
    "expose_flare", "cut_circling", "arborist", "stake_and_firm", "drain_test", "take_tie_off", "guard_trunk",
    "catch_test", "flush_salts", "shade_and_mulch", "identify_pest",
)  # fmt: skip
"""What may come of a check-up."""
OF_CATCHES = ("emitters_clean", "emitters_mend", "emitters_test")
"""What may come of a catch test: the last once the others were done."""
OF_METERS = {
    "stuck_shut": "line_valve", "blocked": "line_test", "clogging": "line_test", "leak": "line_walk",
    "burst": "line_walk",
}  # fmt: skip
"""What a box's meter asks for by what it says of a line's last run."""
OF_PROOFS = tuple(f"prove_{name}" for name in ("dry_spell", "firm", "growth", "flare", "supports_off"))
"""What is to be proven of a tree before it is handed over."""
KINDS = (
    *OF_PLANTINGS, "mulch_first", "emitters_lift", "mulch_pull_back", "mulch_stage", "mulch_thin_out", "mulch_top_up",
    "mulch_check", "weeds_through", "ring_move", "frost_ready", "frost_off", "stake_off", "wrap_check", "wrap_off",
    "flowers_off", "flowers_thin", "feed", "pest_look", "flare_check", "compost", *OF_CHECKUPS,
    *OF_CATCHES, *dict.fromkeys(OF_METERS.values()), *OF_SAVINGS, *OF_PROOFS, "hand_over", "own_look", "look_again",
)  # fmt: skip
AHEAD_DAYS = 400
LINGERS_DAYS, PESTS_LINGER_DAYS = 45, 21
"""A yearly task that nobody did is let go after so long, until its next time."""
YEAR_DAYS = 365
FLARE_YEARS = 3
NO_FEED_DAYS = 42
"""Nothing is fed for six weeks after planting (common practice)."""
LOCATE_DAYS = 4
"""A utility-locating service wants two or three working days' notice (common practice; local rules decide)."""
FROST_READY_DAYS, FROST_OFF_DAYS = 14, 7
"""Covers are at hand so long before the usual first frost, and away so long after the last (common practice)."""
SPRING, AUTUMN, BLOOM, PESTS = (4, 1), (10, 1), (5, 1), (6, 1)
"""Month and day north of the equator; half a year later south of it (common practice)."""
OWN_LOOKS = (6, 15), (8, 15)
"""A tree on its own is looked at twice a season (common practice)."""


@dataclass(frozen=True, slots=True)
class Caught:
    """What the catch test in force found: its day, a word that tells it from others, numbers of the emitters to clean
    or change, and of those to mend."""

    day: date
    test: str
    clean: tuple[int, ...] = ()
    mend: tuple[int, ...] = ()


@dataclass(frozen=True, slots=True)
class Metered:
    """What a box's meter said of the last run of a line: its day, since when it says so in a word that stays."""

    day: date
    since: str
    verdict: str


@dataclass(frozen=True, slots=True)
class Facts:
    """What a tree's tasks follow from. Days; lengths m; volumes L.

    support, wrap: as planted, "none" and False where none or not known. mulch_laid_on, mulch_looked_on: last laid and
    last measured; thin_on: when it will be too thin; underlay: kind under the last mulch; verdict: of the last look.
    emitters: on drip; caught: by its catch test; metered: of the line
    that it is the first tree of; move_on: when its ring is outgrown. fruiting: bears for people.
    leaf_out: month and day.
    mulch_to_come: its planting asks for mulch. feed: somebody means to feed it. pests: what its kind is looked over
    for; frost: when frost usually is, None where it does not hurt the kind. checkups: day of each and what came of it;
    look_on: when the last of them said to look again. offered_on: since when it is to be handed over, with what is not
    proven yet; handed_on: since when it stands on its own. savings: kinds of tasks that save water, with their day.
    """

    planted_on: date
    southern: bool = False
    fruiting: bool = False
    support: str = "none"
    wrap: bool = False
    mulched: bool = False
    mulch_laid_on: date | None = None
    mulch_looked_on: date | None = None
    thin_on: date | None = None
    underlay: str | None = None
    verdict: str | None = None
    emitters: bool = False
    caught: Caught | None = None
    metered: Metered | None = None
    move_on: date | None = None
    leaf_out: tuple[int, int] | None = None
    mulch_to_come: bool = False
    feed: bool = False
    pests: tuple[str, ...] = ()
    frost: Season | None = None
    checkups: tuple[tuple[date, tuple[str, ...]], ...] = ()
    look_on: date | None = None
    offered_on: date | None = None
    unproven: tuple[str, ...] = ()
    handed_on: date | None = None
    savings: tuple[tuple[str, date], ...] = ()


@dataclass(frozen=True, slots=True)
class Act:
    """What was said of a task: done, moved (to a day) or dismissed, and why."""

    kind: str
    day: date
    reason: str = ""


@dataclass(frozen=True, slots=True)
class Task:
    """One dated task: its kind, a key that stays, the day, the day before it was moved, why it was moved; number of a
    part where it comes in parts; what to look for, as codes; numbers of the emitters that it is about."""

    kind: str
    key: str
    due_on: date
    moved_from: date | None = None
    reason: str = ""
    part: int = 0
    detail: tuple[str, ...] = ()
    numbers: tuple[int, ...] = ()


def planting_tasks(
    planned_on: date, kind: str, today: date, acts: Mapping[str, Act], ahead_days: int = AHEAD_DAYS
) -> tuple[Task, ...]:
    """Open tasks before a batch is planted: the call before digging, water on the stock the day before (common
    practice). kind: of stock; bare roots are soaked on the day itself."""
    found = [Task("locate_call", "locate_call", planned_on - timedelta(days=LOCATE_DAYS))]
    if kind != "bare_root":
        found.append(Task("water_stock", "water_stock", planned_on - timedelta(days=1)))
    return _standing(found, acts, today, ahead_days)


def tasks(facts: Facts, today: date, acts: Mapping[str, Act], ahead_days: int = AHEAD_DAYS) -> tuple[Task, ...]:
    """A tree's open tasks, the soonest first: overdue, today's, and those of the coming days (400 by default)."""
    return _open(facts, today, ahead_days) if not acts else _said(facts, today, acts, ahead_days)


@lru_cache(maxsize=4096)
def _open(facts: Facts, today: date, ahead_days: int) -> tuple[Task, ...]:
    """The same where nothing was said yet; trees planted and mulched together have them in common."""
    return _said(facts, today, {}, ahead_days)


def _said(facts: Facts, today: date, acts: Mapping[str, Act], ahead_days: int) -> tuple[Task, ...]:
    return _standing((*_once(facts), *_again(facts, today, acts)), acts, today, ahead_days)


def _standing(some: Iterable[Task], acts: Mapping[str, Act], today: date, ahead_days: int) -> tuple[Task, ...]:
    """Those of some tasks that are open, each on the day that was said, the soonest first."""
    found = []
    until = today + timedelta(days=ahead_days)
    for task in some:
        act = acts.get(task.key)
        if act is None:
            if task.due_on <= until and not lingers(task, today):
                found.append(task)
        elif act.kind == "moved" and act.day <= until:
            found.append(replace(task, due_on=act.day, moved_from=task.due_on, reason=act.reason))
    return tuple(sorted(found, key=lambda t: (t.due_on, KINDS.index(t.kind), t.part)))


def _once(facts: Facts) -> Iterable[Task]:
    """Tasks that come once, each from one thing that was done or seen."""
    planted = facts.planted_on
    if facts.support != "none":
        yield Task("stake_off", "stake_off", planted + timedelta(days=SUPPORT_DAYS))
    if facts.wrap:
        yield Task("wrap_check", "wrap_check", planted + timedelta(days=YEAR_DAYS))
        yield Task("wrap_off", "wrap_off", planted + timedelta(days=WRAP_DAYS))
    if facts.feed:
        yield Task("feed", "feed", planted + timedelta(days=NO_FEED_DAYS))
    if facts.fruiting:
        bloom = facts.leaf_out or BLOOM
        shifted = facts.southern and facts.leaf_out is None
        first = next_time(planted + timedelta(days=60), bloom, shifted)
        yield Task("flowers_off", "flowers_off", first)
        yield Task("flowers_thin", "flowers_thin", next_time(first + timedelta(days=1), bloom, shifted))
    for year in range(1, FLARE_YEARS + 1):
        yield Task("flare_check", f"flare_check:{year}", planted + timedelta(days=YEAR_DAYS * year))
    if facts.move_on is not None:
        yield Task("ring_move", f"ring_move:{facts.move_on.year}", facts.move_on)
    for day, tasks_then in facts.checkups:
        for kind in tasks_then:
            yield Task(kind, f"{kind}:{day}", day)
    for kind, day in facts.savings:
        yield Task(kind, f"{kind}:{day}", day)
    if facts.look_on is not None:
        yield Task("look_again", f"look_again:{facts.look_on}", facts.look_on)
    if facts.offered_on is not None and facts.handed_on is None:
        for name in facts.unproven:
            yield Task(f"prove_{name}", f"prove_{name}:{facts.offered_on}", facts.offered_on)
        if not facts.unproven:
            yield Task("hand_over", f"hand_over:{facts.offered_on}", facts.offered_on)
    yield from _mulch_once(facts)


def _mulch_once(facts: Facts) -> Iterable[Task]:
    laid, looked = facts.mulch_laid_on, facts.mulch_looked_on
    if facts.mulch_to_come and not facts.mulched and laid is None:
        yield Task("mulch_first", "mulch_first", facts.planted_on)
    if laid is not None:
        if facts.emitters:
            yield Task("emitters_lift", f"emitters_lift:{laid}", laid)
        if looked is None or looked <= laid:
            weeds = laid + timedelta(days=round(weeds_held_months(facts.underlay) * 30.44))
            yield Task("weeds_through", f"weeds_through:{laid}", weeds)
    anchor = max((day for day in (laid, looked) if day is not None), default=None)
    if anchor is None:
        return
    if facts.verdict == "pull_back":
        yield Task("mulch_pull_back", f"mulch_pull_back:{anchor}", anchor)
    elif facts.verdict == "thin_out":
        yield Task("mulch_thin_out", f"mulch_thin_out:{anchor}", anchor)
    elif facts.verdict == "in_stages":
        for part, day in enumerate(stage_days(anchor), 1):
            yield Task("mulch_stage", f"mulch_stage:{anchor}:{part}", day, part=part)
    if facts.mulched:
        if facts.thin_on is not None:
            since = f"laid:{laid}" if laid is not None else f"seen:{anchor}"
            yield Task("mulch_top_up", f"mulch_top_up:{since}", facts.thin_on)
        yield Task("mulch_check", f"mulch_check:{anchor}", anchor + timedelta(days=YEAR_DAYS))


def of_catch(caught: Caught, acts: Mapping[str, Act]) -> Iterable[Task]:
    """What a catch test asks for, also what was done of it; once all of that was done, to test again."""
    asked = [
        Task(kind, f"{kind}:{caught.test}", caught.day, numbers=numbers)
        for kind, numbers in zip(OF_CATCHES, (caught.clean, caught.mend), strict=False) if numbers
    ]  # fmt: skip
    yield from asked
    done = [act.day for task in asked if (act := acts.get(task.key)) is not None and act.kind == "done"]
    if asked and len(done) == len(asked):
        yield Task(OF_CATCHES[-1], f"{OF_CATCHES[-1]}:{caught.test}", max(done))


def _again(facts: Facts, today: date, acts: Mapping[str, Act]) -> Iterable[Task]:
    """What comes each year: compost under the mulch in spring and autumn, a look for pests, covers against frost; and
    what follows from what was done."""
    if facts.caught is not None:
        yield from of_catch(facts.caught, acts)
    if facts.metered is not None and (kind := OF_METERS.get(facts.metered.verdict)) is not None:
        yield Task(kind, f"{kind}:{facts.metered.since}", facts.metered.day)
    settled = facts.planted_on + timedelta(days=60)
    if facts.mulched:
        for month_day in (SPRING, AUTUMN):
            yield _yearly("compost", month_day, facts.southern, settled, today, acts)
    if facts.handed_on is not None:
        for month_day in OWN_LOOKS:
            yield _yearly("own_look", month_day, facts.southern, facts.handed_on, today, acts)
    if facts.pests:
        look = _yearly("pest_look", PESTS, facts.southern, settled, today, acts, PESTS_LINGER_DAYS)
        yield replace(look, detail=facts.pests)
    if facts.frost is not None:
        young_until = facts.planted_on + timedelta(days=YEAR_DAYS * YOUNG_YEARS)
        for kind, frost, days in (
            ("frost_ready", facts.frost.first, -FROST_READY_DAYS), ("frost_off", facts.frost.last, FROST_OFF_DAYS),
        ):  # fmt: skip
            when = next_time(date(2001, 1, 1), frost, False) + timedelta(days=days)
            task = _yearly(kind, (when.month, when.day), False, facts.planted_on, today, acts)
            if task.due_on <= young_until:
                yield task


def _yearly(
    kind: str,
    month_day: tuple[int, int],
    southern: bool,
    since: date,
    today: date,
    acts: Mapping[str, Act],
    lingers_days: int = LINGERS_DAYS,
) -> Task:
    """The next time of what comes each year, the one after where that was done or let go already."""
    when = next_time(max(since, today - timedelta(days=lingers_days)), month_day, southern)
    act = acts.get(f"{kind}:{when.year}-{when.month:02d}")
    if act is not None and act.kind != "moved":
        when = next_time(when + timedelta(days=1), month_day, southern)
    return Task(kind, f"{kind}:{when.year}-{when.month:02d}", when)


def lingers(task: Task, today: date) -> bool:
    """Whether a yearly look that nobody took is past its time."""
    return task.kind in ("flare_check", "flowers_off", "flowers_thin") and today - task.due_on > timedelta(
        days=LINGERS_DAYS
    )


def next_time(since: date, month_day: tuple[int, int], southern: bool) -> date:
    """The first such day of the year on or after a day; half a year later south of the equator.

    A day that a year's month has not, such as February 29, is that month's last.
    """
    month, day = month_day
    if southern:
        month = (month + 5) % 12 + 1
    this, following = (date(year, month, min(day, monthrange(year, month)[1])) for year in (since.year, since.year + 1))
    return this if this >= since else following
