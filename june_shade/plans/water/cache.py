"""Computed days kept: one state a tree each week and yesterday's. Never a record: deletable at any time."""

from dataclasses import dataclass
from datetime import date
from functools import partial
from typing import TYPE_CHECKING, Any
from uuid import UUID

from june_shade.core.water.stores import State
from june_shade.core.weather.series import Series
from june_shade.store import kept_states, locks
from june_shade.store.session import Session, afterwards

if TYPE_CHECKING:
    from june_shade.plans.water.run import SitePlan

WEEK = 7


def days_to_keep(series: Series, today: int) -> set[int]:
    """Positions of the days whose evening is kept: one a week, and yesterday."""
    weekly = {i for i in range(today) if series.dates[i].item().toordinal() % WEEK == 0}
    return {*weekly, today - 1} - {-1}


def keep(session: Session, made: "SitePlan", revision: int) -> None:
    """Keep what a plan computed of the past: yesterday and once a week, where it is not there already.

    revision: of the site as the plan has it. What was read from one moment is kept afterwards, if nothing has changed.
    """
    found = rows_of(made)
    if found.rows:
        afterwards(session, partial(_write, site_id=made.site.id, revision=revision, found=found))


@dataclass(frozen=True, slots=True)
class Found:
    """States to keep, (tree_id, day, *STATE_COLUMNS), and what was yesterday until now: trees and days."""

    rows: list[tuple[Any, ...]]
    trees: list[UUID]
    outdated: set[date]


def rows_of(made: "SitePlan") -> Found:
    """What of a plan is worth keeping."""
    rows, outdated = [], set()
    for day, point in made.plan.checkpoints.items():
        date_of = made.series.dates[day].item()
        arrays = [getattr(point.state, name).tolist() for name in State.__dataclass_fields__]
        late_days, index, boxes = point.late_days.tolist(), made.opening.index.tolist(), point.reservoir_l.tolist()
        for i, row in enumerate(made.rows):
            known = made.began_from.get(row.id)
            if index[i] <= day and (known is None or known.day < date_of):
                rows.append((row.id, date_of, *(a[i] for a in arrays), late_days[i], boxes[i]))
                if known is not None and known.day.toordinal() % WEEK:
                    outdated.add(known.day)
    return Found(rows, [row.id for row in made.rows], outdated)


def _write(session: Session, *, site_id: UUID, revision: int, found: Found) -> None:
    if not locks.share_unchanged(session, site_id, revision):
        return
    kept_states.save_states(session, found.rows)
    if found.outdated:
        kept_states.forget_days(session, found.trees, found.outdated)
