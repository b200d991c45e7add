"""What looking at trees puts into their plan: thirsts that were accepted, water that a check-up holds."""

from collections.abc import Sequence
from dataclasses import replace
from datetime import date
from uuid import UUID

import numpy as np

from june_shade.core.looking.fading import thirst
from june_shade.core.water.course import Course
from june_shade.core.weather.series import Series
from june_shade.store import log as log_store
from june_shade.store import looking as store
from june_shade.store.facts import TreeFacts
from june_shade.store.session import Session


def factors(session: Session, site_id: UUID, rows: Sequence[TreeFacts], cut: Series) -> np.ndarray | None:
    """How many times the book each tree drinks on each day, arrays (days, trees), None where all go by the book."""
    accepted = {
        tree_id: [one for one in said if one.answer == "accepted"]
        for tree_id, said in store.answers(session, site_id, [row.id for row in rows]).items()
    }
    accepted = {tree_id: said for tree_id, said in accepted.items() if said}
    if not accepted:
        return None
    read = store.days_read(session, accepted)
    whole = np.ones((len(cut), len(rows)))
    day = cut.dates.astype("datetime64[D]").astype(int)
    for i, row in enumerate(rows):
        for said in accepted.get(row.id, ()):
            since = ordinal(said.day)
            looks = np.array(sorted({since, *(ordinal(one) for one in read.get(row.id, ()) if one >= said.day)}))
            last = looks[np.maximum(0, np.searchsorted(looks, day, side="right") - 1)]
            assert said.multiplier is not None
            holds = thirst(np.full(len(day), said.multiplier), day - last)
            whole[:, i] = np.where(day >= since, holds, whole[:, i])
    return whole


def ordinal(day: date) -> int:
    """A day's number, as arrays of dates have it."""
    return int(np.datetime64(day, "D").astype(int))


def _later(one: dict[UUID, date], other: dict[UUID, date]) -> dict[UUID, date]:
    return {tree: max(one.get(tree, date.min), other.get(tree, date.min)) for tree in {**one, **other}}


def _last_water(known: dict[UUID, date], rows: Sequence[TreeFacts], cut: Series, course: Course) -> np.ndarray:
    """Position of each tree's last day with water, those of trees on their own by the log, however long ago."""
    found, base = course.last_water.copy(), ordinal(cut.dates[0].item())
    for i, row in enumerate(rows):
        if row.id in known:
            found[i] = max(found[i], ordinal(known[row.id]) - base)
    return found


def held(session: Session, site_id: UUID, rows: Sequence[TreeFacts], cut: Series, course: Course) -> Course:
    """A site's days with those closed, for a tree, up to which its water is held: by a check-up, by a dry test; and
    with a visit today where a check-up says to water. Trees on their own rest from the last water in the log on."""
    today = cut.dates[course.today].item()
    until = _later(store.holds(session, site_id, today), store.dry_tests(session, site_id, today))
    asked = store.asked_for_water(session, site_id, today)
    if asked:
        course = replace(course, asked_now=np.array([row.id in asked for row in rows]))
    own = [row.id for row in rows if row.handed_on is not None]
    if own:
        course = replace(course, last_water=_last_water(log_store.last_watered(session, own, today), rows, cut, course))
    if not until:
        return course
    open_days = np.repeat(course.workable, len(rows), axis=1) if course.workable.shape[1] == 1 else course.workable
    open_days = open_days.copy()
    for i, row in enumerate(rows):
        if row.id in until:
            closed = (cut.dates < np.datetime64(until[row.id], "D")) & (np.arange(len(cut)) >= course.today)
            open_days[closed, i] = False
    return replace(course, workable=open_days)
