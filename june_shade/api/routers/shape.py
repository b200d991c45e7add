"""Shaping stored rows into answers that more than one route gives."""

from typing import Any
from uuid import UUID

from fastapi import UploadFile

from june_shade.api.schemas.care import TaskOut
from june_shade.api.schemas.choosing import RestrictionBase, RestrictionOut
from june_shade.api.schemas.log import EntryOut
from june_shade.api.schemas.trees import TreeOut
from june_shade.core.care.cautions import OF_TASKS
from june_shade.core.errors import TooLargeError
from june_shade.core.water.schools import NEEDS, Routine
from june_shade.formats.weather_csv import MOST_BYTES
from june_shade.plans import kinds, log, register, restrictions, routines
from june_shade.plans.care import Due
from june_shade.plans.records import LogEntry, RoutineChoice, Tree
from june_shade.plans.water.followed import COLUMNS
from june_shade.plans.work import Session

TREE_EXTRAS = {"end", "site_name", "stop", "line", "plant", "doubts"}


def read_upload(file: UploadFile, what: str = "the file is over 20 MB; split it") -> bytes:
    """A file that was sent, refused where it is over 20 MB. what: is said then."""
    data = file.file.read(MOST_BYTES + 1)
    if len(data) > MOST_BYTES:
        raise TooLargeError(what, "file")
    return data


def tree_out(row: Tree) -> TreeOut:
    """A stored tree with the names around it."""
    own = {name: getattr(row, name) for name in TreeOut.model_fields if name not in TREE_EXTRAS}
    return TreeOut.model_validate(
        own
        | {
            "site_name": row.site.name,
            "stop": row.stop.name if row.stop else None,
            "line": row.line.name if row.line else None,
            "plant": row.plant,
            "doubts": list(register.doubts(row)),
        }
    )


def entries_out(
    session: Session, entries: list[LogEntry], voided: set[UUID] | None = None, *, beside: bool = False
) -> list[EntryOut]:
    """Entries with the names of who made them, and whether each was voided. beside: they are not all of their day, so
    that others must be looked at to say whether one was logged twice."""
    names: dict[UUID | None, str] = {person.id: person.name for person in kinds.people(session)}
    gone = voided or set()
    all_near = log.beside(session, entries) if beside else entries
    twice = log.twice([entry for entry in all_near if entry.id not in gone])
    own = [name for name in EntryOut.model_fields if name not in ("person", "voided", "twice", "against")]
    against = restrictions.against(session, entries)
    return [
        EntryOut.model_validate(
            {name: getattr(entry, name) for name in own}
            | {
                "person": names.get(entry.person_id),
                "voided": entry.id in gone,
                "twice": entry.id in twice,
                "against": against.get(entry.id, ()),
            }
        )
        for entry in entries
    ]


def task_out(due: Due, site_id: UUID, site_name: str) -> TaskOut:
    """A dated task with its tree and site."""
    task = due.task
    return TaskOut.model_validate({
        "tree_id": due.tree_id, "planting_id": due.planting_id, "site_id": site_id, "site_name": site_name,
        "tag": due.tag, "place": due.place,
        "stop": due.stop, "common": due.common, "kind": task.kind, "key": task.key, "due_on": task.due_on,
        "moved_from": task.moved_from, "reason": task.reason, "part": task.part,
        "detail": task.detail, "numbers": task.numbers, "caution": OF_TASKS.get(task.kind),
    })  # fmt: skip


def routine_out(one: Routine) -> dict[str, Any]:
    """A routine's name and figures; those that it doesn't go by are empty."""
    figures = dict.fromkeys(COLUMNS.values()) | {COLUMNS[name]: getattr(one, name) for name in NEEDS[one.name]}
    return {"name": one.name} | figures


def in_force_out(chosen: RoutineChoice | None) -> dict[str, Any] | None:
    """The routine that a tree follows, None where none was ever chosen."""
    if chosen is None:
        return None
    told = routine_out(routines.routine_of(chosen))
    return {"choice_id": chosen.choice_id, "since": chosen.since, "routine": told}


def order_out(found: restrictions.Shown) -> RestrictionOut:
    """A stored order."""
    row = found.row
    own = {name: getattr(row, name) for name in RestrictionBase.model_fields if name != "sites"}
    return RestrictionOut.model_validate(own | {
        "id": row.id, "sites": list(found.sites), "in_force": found.in_force, "today": found.today,
        "withdrawn": row.withdrawn_at is not None, "version": row.version,
    })  # fmt: skip
