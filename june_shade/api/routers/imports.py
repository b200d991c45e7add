"""Files come in: brought, watched, looked at, stored, undone. A day put right by hand is one of them."""

import json
from typing import Annotated, Any
from uuid import UUID

from fastapi import APIRouter, Form, Query, UploadFile

from june_shade.api.context import Db, Retried
from june_shade.api.routers.shape import read_upload
from june_shade.api.schemas.common import Day
from june_shade.api.schemas.imports import DayIn, DayOut, ImportBrief, ImportOut, MappingIn
from june_shade.core.errors import InputError
from june_shade.plans import imports
from june_shade.plans.records import Import

router = APIRouter(prefix="/api", tags=["imports"], route_class=Retried)
OWN = ("id", "kind", "station_id", "name", "state", "done", "total", "problem", "field", "created_at", "stored_at",
       "undone_at")  # fmt: skip


BRIEF = ("id", "kind", "name", "state", "stored_at", "undone_at", "problem")


def _out(row: Import) -> ImportOut:
    shown: dict[str, Any] = {name: getattr(row, name) for name in OWN}
    for kind in ("trees", "weather"):
        shown[kind] = row.outcome if row.kind == kind else None
    return ImportOut.model_validate(shown)


@router.put("/imports/{import_id}")
def put_import(
    session: Db,
    import_id: UUID,
    file: UploadFile,
    station_id: Annotated[UUID | None, Query(description="Of a weather file; left out for the register.")] = None,
    mapping: Annotated[str, Form(description="JSON, header -> meaning.")] = "",
) -> ImportOut:
    """Bring a file under an id that the client chose; it is read in the background and nothing is stored yet."""
    name = (file.filename or "")[:200].replace("\0", "")
    return _out(imports.bring(session, import_id, station_id, name, read_upload(file), _mapping(mapping)))


@router.get("/imports")
def list_imports(
    session: Db,
    station_id: Annotated[UUID | None, Query(description="Left out: files of the register.")] = None,
) -> list[ImportBrief]:
    """What was brought in and stored, undone ones too, the newest first."""
    rows = imports.stored(session, station_id)
    told = ("first_day", "last_day", "days", "new", "changed")
    return [
        ImportBrief.model_validate(
            {name: (row.outcome or {}).get(name) for name in told} | {name: getattr(row, name) for name in BRIEF}
        )
        for row in rows
    ]


@router.get("/imports/{import_id}")
def get_import(session: Db, import_id: UUID) -> ImportOut:
    """How far an import is, and what it brings."""
    return _out(imports.one(session, import_id))


@router.post("/imports/{import_id}/read")
def read_import(session: Db, import_id: UUID, body: MappingIn) -> ImportOut:
    """Read the file anew with other meanings of its columns."""
    return _out(imports.read_again(session, import_id, body.mapping))


@router.post("/imports/{import_id}/store")
def store_import(session: Db, import_id: UUID) -> ImportOut:
    """Say yes: it is stored in the background, and counts from the moment when all is there."""
    return _out(imports.take(session, import_id))


@router.post("/imports/{import_id}/cancel")
def cancel_import(session: Db, import_id: UUID) -> ImportOut:
    """End an import that is not stored yet."""
    return _out(imports.cancel(session, import_id))


@router.post("/imports/{import_id}/undo")
def undo_import(session: Db, import_id: UUID) -> ImportOut:
    """Take an import back whole, in the background; `problem` says why not where trees were worked on since."""
    return _out(imports.undo(session, import_id))


@router.get("/stations/{station_id}/days/{day}")
def get_day(session: Db, station_id: UUID, day: Day) -> DayOut:
    """A station's day as it was measured."""
    return DayOut.model_validate(imports.day_as_measured(session, station_id, day) | {"day": day})


@router.put("/stations/{station_id}/days/{day}/corrections/{import_id}")
def put_day(session: Db, station_id: UUID, day: Day, import_id: UUID, body: DayIn) -> ImportOut:
    """Put a station's day right by hand, under an id that the client chose; it is undone like an import."""
    return _out(imports.correct_day(session, import_id, station_id, day, body.model_dump()))


def _mapping(text: str) -> dict[str, str]:
    try:
        value = json.loads(text or "{}")
    except (ValueError, RecursionError):
        raise InputError("is not JSON", "mapping") from None
    if not isinstance(value, dict) or not all(isinstance(v, str) for v in value.values()):
        raise InputError("must give a meaning for each header", "mapping")
    return value
