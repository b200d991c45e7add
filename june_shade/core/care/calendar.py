"""The dated tasks of a tree, from all its pages: when each is due and why. It knows no weather and no watering.

A task's key stays the same as long as it is the same task, also when its day changes: what was moved or dismissed
stays so, and calendar programs update the event that they have. Days by common practice.
"""

from calendar import monthrange
from collections.abc import Iterable, Mapping
from dataclasses import dataclass, replace
from datetime import date, timedelta
from functools import lru_cache

from june_shade.core.mulch.look import stage_days
from june_shade.core.mulch.underlay import weeds_held_months
from june_shade.core.planting.fittings import SUPPORT_DAYS, WRAP_DAYS

KINDS = (
    "emitters_lift", "mulch_pull_back", "mulch_stage", "mulch_thin_out", "mulch_top_up", "mulch_check", "weeds_through",
    "ring_move", "stake_off", "wrap_check", "wrap_off", "flowers_off", "flowers_thin", "flare_check", "compost",
)  # fmt: skip
AHEAD_DAYS = 400
LINGERS_DAYS = 45
"""A yearly task that nobody did is let go after so long, until its next time."""
YEAR_DAYS = 365
FLARE_YEARS = 3
SPRING, AUTUMN, BLOOM = (4, 1), (10, 1), (5, 1)
"""Month and day north of the equator; half a year later south of it (common practice)."""


@dataclass(frozen=True, slots=True)
class Facts:
    """What a tree's tasks follow from. Days; lengths m; volumes L.

    support, wrap: as planted, "none" and False where none or not known. mulch_laid_on, mulch_looked_on: last laid and
    last measured; thin_on: when it will be too thin; underlay: kind under the last mulch; verdict: of the last look.
    emitters: on drip; move_on: when its ring is outgrown. evergreen: no flowers to take off. leaf_out: month and day.
    """

    planted_on: date
    southern: bool = False
    evergreen: bool = False
    support: str = "none"
    wrap: bool = False
    mulched: bool = False
    mulch_laid_on: date | None = None
    mulch_looked_on: date | None = None
    thin_on: date | None = None
    underlay: str | None = None
    verdict: str | None = None
    emitters: bool = False
    move_on: date | None = None
    leaf_out: tuple[int, int] | None = None


@dataclass(frozen=True, slots=True)
class Act:
    """What was said of a task: done, moved (to a day) or dismissed, and why."""

    kind: str
    day: date
    reason: str = ""


@dataclass(frozen=True, slots=True)
class Task:
    """One dated task: its kind, a key that stays, the day, the day before it was moved, why it was moved; number of a
    part where it comes in parts."""

    kind: str
    key: str
    due_on: date
    moved_from: date | None = None
    reason: str = ""
    part: int = 0


def tasks(facts: Facts, today: date, acts: Mapping[str, Act], ahead_days: int = AHEAD_DAYS) -> tuple[Task, ...]:
    """A tree's open tasks, the soonest first: overdue, today's, and those of the coming days (400 by default)."""
    return _open(facts, today, ahead_days) if not acts else _said(facts, today, acts, ahead_days)


@lru_cache(maxsize=4096)
def _open(facts: Facts, today: date, ahead_days: int) -> tuple[Task, ...]:
    """The same where nothing was said yet; trees planted and mulched together have them in common."""
    return _said(facts, today, {}, ahead_days)


def _said(facts: Facts, today: date, acts: Mapping[str, Act], ahead_days: int) -> tuple[Task, ...]:
    found = []
    until = today + timedelta(days=ahead_days)
    for task in (*_once(facts), *_again(facts, today, acts)):
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
    if not facts.evergreen:
        bloom = facts.leaf_out or BLOOM
        shifted = facts.southern and facts.leaf_out is None
        first = next_time(planted + timedelta(days=60), bloom, shifted)
        yield Task("flowers_off", "flowers_off", first)
        yield Task("flowers_thin", "flowers_thin", next_time(first + timedelta(days=1), bloom, shifted))
    for year in range(1, FLARE_YEARS + 1):
        yield Task("flare_check", f"flare_check:{year}", planted + timedelta(days=YEAR_DAYS * year))
    if facts.move_on is not None:
        yield Task("ring_move", f"ring_move:{facts.move_on.year}", facts.move_on)
    yield from _mulch_once(facts)


def _mulch_once(facts: Facts) -> Iterable[Task]:
    laid, looked = facts.mulch_laid_on, facts.mulch_looked_on
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


def _again(facts: Facts, today: date, acts: Mapping[str, Act]) -> Iterable[Task]:
    """Compost under the mulch, each spring and autumn from the first that comes after planting."""
    if not facts.mulched:
        return
    for month_day in (SPRING, AUTUMN):
        since = max(facts.planted_on + timedelta(days=60), today - timedelta(days=LINGERS_DAYS))
        when = next_time(since, month_day, facts.southern)
        act = acts.get(f"compost:{when.year}-{when.month:02d}")
        if act is not None and act.kind != "moved":
            when = next_time(when + timedelta(days=1), month_day, facts.southern)
        yield Task("compost", f"compost:{when.year}-{when.month:02d}", when)


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
