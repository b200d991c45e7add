"""How a tree is watered holds from a day on: what it was until then is kept when it changes."""

from collections.abc import Mapping
from datetime import date
from typing import Any

from june_shade.plans.describe import leaching_of
from june_shade.store import drip as drip_store
from june_shade.store import ways as store
from june_shade.store.facts import WAY_COLUMNS
from june_shade.store.session import Session
from june_shade.store.tree_tables import Tree

FROM_TODAY, ALWAYS = "today", "always"
"""Since when a change of the way holds: from today on, or it was always so and was typed wrong."""


def way_of(tree: Tree) -> dict[str, Any]:
    """How a tree is watered now, by column."""
    return {name: getattr(tree, name) for name in WAY_COLUMNS}


def changed(session: Session, tree: Tree, was: Mapping[str, Any], today: date, since: str = FROM_TODAY) -> date | None:
    """A tree's way was changed. Keeps what it was until today, or forgets all of it where it was always so.

    Returns the day from which the past is another: today, or None for all of it.
    """
    if since == ALWAYS:
        store.forget(session, tree.id)
        return None
    until(session, tree, was, today)
    return today


def until(session: Session, tree: Tree, was: Mapping[str, Any], day: date) -> None:
    """Keep how a tree was watered until a day; nothing is kept of a day before its record opened."""
    store.forget(session, tree.id, after=day)
    values = former(session, tree, was, day)
    if values is not None:
        store.keep(session, tree.id, day, values)


def former(session: Session, tree: Tree, was: Mapping[str, Any], day: date) -> dict[str, Any] | None:
    """How a tree was watered until a day, as it is kept; None where its record was not open before that day."""
    if day <= tree.opened_on:
        return None
    values = dict(was) | {"leaching": leaching_of(_Salts(tree), tree.site, day).share}
    values["on_its_own"] = tree.handed_on is not None
    layout_id = was.get("layout_id")
    if was["method"] == "emitters" and layout_id is not None:
        layout = drip_store.layout(session, layout_id)
        if layout is not None:
            values |= {"drip_ball_share": layout.ball_share, "drip_profile_m2": layout.profile_m2}
    return values


def restore(session: Session, tree: Tree, day: date) -> bool:
    """Put back how a tree was watered until a day, where that is kept; whether it was."""
    former = store.of_day(session, tree.id, day)
    if former is None:
        return False
    for name in WAY_COLUMNS:
        setattr(tree, name, getattr(former, name))
    session.flush()
    store.take_back(session, former)
    return True


class _Salts:
    """What leaching asks of a tree: its kind's tolerance and its planting day."""

    def __init__(self, tree: Tree) -> None:
        self.salt_tolerance, self.planted_on = tree.plant.salt_tolerance, tree.planted_on
