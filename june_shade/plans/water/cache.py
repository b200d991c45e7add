"""Computed days kept: one state a tree each week and yesterday's. Never a record: deletable at any time."""

from collections.abc import Mapping
from typing import TYPE_CHECKING
from uuid import UUID

from june_shade.core.water.stores import State
from june_shade.core.water.walk import Opening
from june_shade.core.weather.series import Series
from june_shade.store import trees as store
from june_shade.store.session import Session

if TYPE_CHECKING:
    from june_shade.plans.water.run import SitePlan

WEEK = 7


def days_to_keep(series: Series, today: int) -> set[int]:
    """Positions of the days whose evening is kept: one a week, and yesterday."""
    weekly = {i for i in range(today) if series.dates[i].item().toordinal() % WEEK == 0}
    return {*weekly, today - 1} - {-1}


def save(session: Session, made: "SitePlan", states: Mapping[UUID, store.KeptState], opening: Opening) -> None:
    """Cache what the run computed of the past: yesterday and once a week, where it is not there already."""
    rows, outdated = [], set()
    for day, point in made.plan.checkpoints.items():
        date_of = made.series.dates[day].item()
        arrays = [getattr(point.state, name).tolist() for name in State.__dataclass_fields__]
        late_days, index, boxes = point.late_days.tolist(), opening.index.tolist(), point.reservoir_l.tolist()
        for i, row in enumerate(made.rows):
            known = states.get(row.id)
            if index[i] <= day and (known is None or known.day < date_of):
                rows.append((row.id, date_of, *(a[i] for a in arrays), late_days[i], boxes[i]))
                if known is not None and known.day.toordinal() % WEEK:
                    outdated.add(known.day)
    if rows:
        store.save_states(session, rows)
    if outdated:  # what was yesterday until now
        store.forget_days(session, [row.id for row in made.rows], outdated)
