"""What the standing plan has for a site's trees, laid into their course: pages go by it, as the balance does."""

from collections.abc import Sequence
from dataclasses import replace
from uuid import UUID

import numpy as np

from june_shade.core.water.course import Course
from june_shade.core.weather.series import Series
from june_shade.store import choices as store
from june_shade.store.choice_tables import ChosenTree
from june_shade.store.facts import TreeFacts
from june_shade.store.log_tables import LogEntry
from june_shade.store.session import Session


def since(row: ChosenTree, first: np.datetime64) -> int:
    """Position of a tree's first chosen day among days that begin on this one; it may lie before them."""
    return int((np.datetime64(row.first_day, "D") - first).astype(int))


AS_PLANNED = 0.25
"""A watering within this share of the litres that were planned is done as planned."""


def was_planned(session: Session, entry: LogEntry) -> bool:
    """Whether a watering is what the standing plan has for its tree and day."""
    of = session.get(ChosenTree, entry.tree_id) if entry.kind == "water" else None
    if of is None or entry.volume_l is None:
        return False
    day = (entry.local_date - of.first_day).days
    planned = of.litres[day] if 0 <= day < len(of.litres) else 0.0
    return planned > 0 and abs(entry.volume_l - planned) <= AS_PLANNED * planned


def chosen(session: Session, site_id: UUID, rows: Sequence[TreeFacts], cut: Series, course: Course) -> Course:
    """The course with the visits that were chosen from today on; days past the plan are the balance's."""
    found = store.of_site(session, site_id)
    if not found:
        return course
    shares = course.chosen.copy()
    for i, row in enumerate(rows):
        of = found.get(row.id)
        if of is None:
            continue
        at = since(of, cut.dates[0])
        first, last = max(at, course.today), min(at + len(of.share), len(course))
        if first < last:
            shares[first:last, i] = of.share[first - at : last - at]
    return replace(course, chosen=shares)
