"""The log and the round."""

from uuid import UUID

from fastapi import APIRouter, Response

from june_shade.api.context import Db
from june_shade.api.routers.shape import entries_out, task_out
from june_shade.api.schemas.log import BatchIn, EntryIn, EntryOut, RoundOut
from june_shade.plans import log, rounds
from june_shade.plans.log import NewEntry

CORRECTION = {"corrects", "void_id"}
router = APIRouter(prefix="/api", tags=["log"])


@router.put(
    "/log/{entry_id}", status_code=201, responses={200: {"model": EntryOut, "description": "It was there already."}}
)
def put_entry(session: Db, entry_id: UUID, body: EntryIn, response: Response) -> EntryOut:
    """Store an entry once, under the id the client made. New: 201; the same again: 200; another body: 409."""
    values = body.model_dump(exclude=CORRECTION)
    entry, new = log.put(session, NewEntry(id=entry_id, **values), body.corrects, body.void_id)
    response.status_code = 201 if new else 200
    return entries_out(session, [entry])[0]


@router.put("/log")
def put_entries(session: Db, body: BatchIn) -> list[EntryOut]:
    """Store several entries at once, a whole stop say: all or none, each once; sending it again changes nothing."""
    entries = log.put_all(session, [NewEntry(**entry.model_dump(exclude=CORRECTION)) for entry in body.entries])
    return entries_out(session, entries)


@router.get("/today")
def get_today(session: Db) -> RoundOut:
    """The day's round: stops in order, what each tree wants, what was done."""
    found = rounds.round_of_today(session)
    trees = [tree for site in found["sites"] for stop in site["stops"] for tree in stop["trees"]]
    shaped = {e.id: e for e in entries_out(session, [entry for tree in trees for entry in tree["entries"]])}
    for tree in trees:
        tree["entries"] = [shaped[entry.id] for entry in tree["entries"]]
    for site in found["sites"]:
        site["care"] = [task_out(due, site["id"], site["name"]) for due in site["care"]]
    return RoundOut.model_validate(found)
