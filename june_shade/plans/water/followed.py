"""Which trees of a site follow a school's routine, as the core takes it."""

from collections.abc import Sequence
from uuid import UUID

import numpy as np

from june_shade.core.water.followed import Followed, sky_since
from june_shade.core.water.schools import NEEDS, Routine
from june_shade.core.weather.series import Series
from june_shade.plans.water import days
from june_shade.store import log as log_store
from june_shade.store import routines as store
from june_shade.store.facts import TreeFacts
from june_shade.store.routine_tables import RoutineChoice
from june_shade.store.session import Session

COLUMNS = {name: "dry_limit" if name == "limit" else name for figures in NEEDS.values() for name in figures}
"""Figures of a routine, and the columns that keep them."""


def routine_of(row: RoutineChoice) -> Routine:
    """A routine as it was chosen."""
    return Routine(row.name, **{name: getattr(row, COLUMNS[name]) for name in NEEDS[row.name]})


def followed(
    session: Session, site_id: UUID, rows: Sequence[TreeFacts], known: Series, first: int, today: int
) -> tuple[Followed, ...]:
    """The routines that some of these trees follow today, the balance left out. known: all days; first: the position
    there at which the course begins; today: where today is."""
    day = known.dates[today].item()
    chosen = store.in_force(session, site_id, day, [row.id for row in rows])
    alike: dict[tuple[Routine, int, int], list[int]] = {}
    for i, row in enumerate(rows):
        choice = chosen.get(row.id)
        if choice is None or choice.name == "balance":
            continue
        alone = i if choice.name == "bare_root" else -1  # goes by the tree's own leaves
        alike.setdefault((routine_of(choice), known.index(choice.since), alone), []).append(i)
    if not alike:
        return ()
    breaks = log_store.bud_breaks(session, site_id)
    found = []
    for (routine, since, alone), trees in alike.items():
        leaf = known.leaf[max(0, since) :]
        if alone >= 0:
            leaf = days.leaf_and_mulch([rows[alone]], days.cut(known, max(0, since)), breaks, {})[0][:, 0]
        found.append(Followed(routine, since - first, sky_since(known, since, leaf), np.array(trees)))
    return tuple(found)
