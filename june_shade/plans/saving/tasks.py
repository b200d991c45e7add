"""Tasks made of what would save water: put on trees' lists, carried into the tree when they are done, and judged."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import date
from typing import Any
from uuid import UUID, uuid5

import numpy as np

from june_shade.core.errors import ConflictError, InputError
from june_shade.core.saving.measures import BAG, BASIN_NARROW, BASIN_WIDE, BOX, TURF
from june_shade.core.soil.in_force import InForce
from june_shade.plans import changes, clock, register
from june_shade.plans.changes import Changed, What
from june_shade.plans.saving import tried
from june_shade.plans.water import SitePlan
from june_shade.store import log as log_store
from june_shade.store import savings as store
from june_shade.store.facts import TreeFacts
from june_shade.store.saving_tables import SavingTask
from june_shade.store.session import Session

CARRIED = (BASIN_NARROW, BASIN_WIDE, BAG, BOX, TURF)
"""Done, these change the tree by themselves; mulch and drip are entered on their own pages, with what was laid."""
JUDGED_DAYS = 14
"""After so many days the page says what a change really saved."""


def key_of(row: SavingTask) -> str:
    """The key of its dated task."""
    return f"save_{row.measure}:{row.made_on}"


def made_before(session: Session, batch_id: UUID, measure: str, tree_ids: Sequence[UUID]) -> list[SavingTask]:
    """What was made already under this id, empty where nothing was. Raises ConflictError for another measure."""
    found = list(store.known(session, [uuid5(batch_id, str(tree_id)) for tree_id in tree_ids]).values())
    if any(row.measure != measure for row in found):
        raise ConflictError("other tasks were made under this id", "id")
    return found


def make(session: Session, batch_id: UUID, gains: Sequence[tried.Gain]) -> list[SavingTask]:
    """Make tasks of a change at these trees; each id follows from the batch's.

    Raises InputError where it saves nothing at any of them.
    """
    if not gains:
        raise InputError("none of these trees would save water by it any more", "tree_ids")
    ids = [uuid5(batch_id, str(gain.row.id)) for gain in gains]
    site_ids = {gain.row.site_id for gain in gains}
    changes.hold(session, site_ids)
    today = {site_id: clock.today(session, register.site(session, site_id).timezone) for site_id in site_ids}
    made = [_new(row_id, gain, today[gain.row.site_id]) for row_id, gain in zip(ids, gains, strict=True)]
    session.add_all(made)
    changes.tell(session, *(Changed(site_id, What.PAGE) for site_id in site_ids))
    return made


def _new(row_id: UUID, gain: tried.Gain, today: date) -> SavingTask:
    fields = {name: value for name, value in gain.change.fields.items() if name != "line_id"}
    before = {name: getattr(gain.row, name) for name in fields}
    return SavingTask(
        id=row_id, tree_id=gain.row.id, measure=gain.change.measure, fields=fields, before=before,
        low_l=float(np.min(gain.litres)), high_l=float(np.max(gain.litres)), made_on=today,
    )  # fmt: skip


def said_done(session: Session, tree_id: UUID, key: str, *, undone: bool = False) -> None:
    """A task of this key was done at a tree, or that was taken back: the tree is as it then is, from today on."""
    measure, _, day = key.removeprefix("save_").partition(":")
    if not key.startswith("save_") or measure not in CARRIED:
        return
    row = store.of_key(session, tree_id, measure, date.fromisoformat(day))
    if row is not None:
        register.change_trees(session, [tree_id], row.before if undone else row.fields)


@dataclass(frozen=True, slots=True)
class Proved:
    """What a change really saved: since when, litres a week that were poured [L] and that it would have taken without
    it, by the days' own weather."""

    row: SavingTask
    tree: TreeFacts
    since: date
    days: int
    poured_l: float
    without_l: float

    @property
    def saved_l(self) -> float:
        """Litres a week [L]; below 0 where more was poured."""
        return self.without_l - self.poured_l


def proved(session: Session, made: SitePlan, ground: InForce, hands: tried.Hands) -> list[Proved]:
    """Changes of a site that were made two weeks ago or more, with what they really saved."""
    done = store.done_on(session, made.site.id)
    found = []
    for tree_id, rows in store.of_site(session, made.site.id).items():
        for row in rows:
            since = done.get((tree_id, key_of(row)))
            if since is not None and (made.today - since).days >= JUDGED_DAYS:
                found.append(_proved(session, made, ground, hands, row, since))
    return [one for one in found if one is not None]


def _proved(
    session: Session, made: SitePlan, ground: InForce, hands: tried.Hands, row: SavingTask, since: date
) -> Proved | None:  # fmt: skip
    i = made.index_of(row.tree_id)
    tree = replace(made.rows[i], **_facts(row.before), line_id=None)
    first, end = made.known.index(since), made.known.index(made.today)
    if first < 0:
        return None
    poured = sum(
        one.volume_l for one in log_store.water(session, made.site.id, since, [row.tree_id])
        if one.local_date < made.today
    )  # fmt: skip
    without = tried.as_it_was(made, ground, tree, i, (first, end), hands)
    weeks = (end - first) / 7.0
    return Proved(row, made.rows[i], since, end - first, poured / weeks, without / weeks)


def _facts(before: Mapping[str, Any]) -> dict[str, Any]:
    names = TreeFacts.__dataclass_fields__
    return {name: value for name, value in before.items() if name in names}
