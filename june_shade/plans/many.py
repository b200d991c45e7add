"""Many trees stored at once, as they were sketched beforehand: the sites are held for the writing alone."""

from collections.abc import Sequence
from datetime import date
from typing import Any
from uuid import UUID

from june_shade.core.errors import ConflictError, JuneShadeError
from june_shade.plans import changes
from june_shade.plans.changes import Changed, What
from june_shade.plans.register import Saving, Sketch
from june_shade.store import many_trees
from june_shade.store import trees as store
from june_shade.store import ways as ways_store
from june_shade.store.session import Session
from june_shade.store.site_tables import Line, Stop


def write(session: Session, sketches: Sequence[Sketch]) -> dict[UUID, JuneShadeError]:
    """Store what was sketched. What changed meanwhile is looked at again; returns what is refused then, by tree."""
    sites = {sketch.values["site_id"] for sketch in sketches}
    changes.hold(session, sites)
    now = store.versions(session, [sketch.tree_id for sketch in sketches if sketch.version is not None])
    there = store.are_there(session, [sketch.tree_id for sketch in sketches if sketch.version is None])
    singly = [
        sketch for sketch in sketches
        if sketch.singly or sketch.tree_id in there
        or (sketch.version is not None and now.get(sketch.tree_id) != sketch.version)
    ]  # fmt: skip
    apart = {sketch.tree_id for sketch in singly}
    saving = Saving(session, [(sketch.tree_id, sketch.values) for sketch in singly], sites=sites)
    refused: dict[UUID, JuneShadeError] = {}
    for sketch in singly:
        try:
            if sketch.tree_id in there:
                raise ConflictError("is the id of a tree that ended, or whose planting was undone", "id")
            saving.save(sketch.tree_id, sketch.values)
        except JuneShadeError as e:
            refused[sketch.tree_id] = e
    saving.done()
    new, different, told = [], [], []
    former: dict[date, dict[UUID, dict[str, Any] | None]] = {}
    for sketch in sketches:
        site_id = sketch.values["site_id"]
        if sketch.tree_id in apart:
            continue
        if sketch.version is None and saving.tag_of(site_id, sketch.values["tag"]) is not None:
            refused[sketch.tree_id] = ConflictError(f"{sketch.values['tag']!r} is taken already", "tag")
            continue
        columns = sketch.columns | {
            "stop_id": saving.place_id(Stop, site_id, sketch.values.get("stop")),
            "line_id": saving.place_id(Line, site_id, sketch.values.get("line")),
        }
        if sketch.version is None:
            new.append(columns)
        else:
            different.append((sketch.tree_id, columns))
        if sketch.past:
            told.append(Changed(site_id, What.WATER, (sketch.tree_id,)))
        if sketch.new_way is not None:
            former.setdefault(sketch.new_way, {})[sketch.tree_id] = sketch.former
            told.append(Changed(site_id, What.WATER, (sketch.tree_id,), sketch.new_way))
        if sketch.limited:
            told.append(Changed(site_id, What.LIMITS))
        if sketch.on_drip:
            told.append(Changed(site_id, What.DRIP, (sketch.tree_id,)))
    many_trees.insert_many(session, new)
    for day, of_trees in former.items():
        ways_store.keep_many(session, day, of_trees)
    many_trees.write_columns(session, different)
    changes.tell(session, *told, *(Changed(site_id, What.PAGE) for site_id in sites))
    return refused
