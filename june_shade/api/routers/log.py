"""The log and the round."""

from asyncio import shield, wrap_future
from typing import Annotated
from uuid import UUID

from fastapi import APIRouter, Query, Request, Response

from june_shade.api.context import Acting, Db, Reading, Retried
from june_shade.api.language import in_language, spoken
from june_shade.api.round import older_s
from june_shade.api.routers.shape import entries_out
from june_shade.api.schemas.log import BatchIn, EntryIn, EntryOut, RoundOut
from june_shade.plans import log
from june_shade.plans.log import NewEntry

CORRECTION = {"corrects", "void_id"}
AskAgain = Annotated[
    bool, Query(description="Refuse with code `again` where the tree got the same amount within 10 minutes.")
]
router = APIRouter(prefix="/api", tags=["log"], route_class=Retried)


@router.put(
    "/log/{entry_id}", status_code=201, responses={200: {"model": EntryOut, "description": "It was there already."}}
)
def put_entry(session: Db, entry_id: UUID, body: EntryIn, response: Response, ask_again: AskAgain = False) -> EntryOut:
    """Store an entry once, under the id the client made. New: 201; the same again: 200; another body: 409."""
    made = NewEntry(id=entry_id, **body.model_dump(exclude=CORRECTION))
    entry, new = log.put(session, made, body.corrects, body.void_id, ask_again=ask_again)
    response.status_code = 201 if new else 200
    return entries_out(session, [entry], beside=True)[0]


@router.put("/log")
def put_entries(session: Db, body: BatchIn, ask_again: AskAgain = False) -> list[EntryOut]:
    """Store several entries at once, a whole stop say: all or none, each once; sending it again changes nothing."""
    made = [NewEntry(**entry.model_dump(exclude=CORRECTION)) for entry in body.entries]
    entries = log.put_all(session, made, ask_again=ask_again)
    return entries_out(session, entries, beside=True)


@router.get("/today", response_model=RoundOut, responses={304: {"description": "The round is as it was."}})
async def get_today(request: Request, who: Acting) -> Response:
    """The day's round: stops in order, what each tree wants, what was done. Unchanged since its ETag: 304.

    All of it is of one moment, whatever is written meanwhile: now, or as long ago as Cache-Control's max-age allows,
    at most 2 s.
    """
    asked = request.app.state.rounds.of(who.organisation_id).get(older_s(request.headers.get("cache-control", "")))
    made = await shield(wrap_future(asked))
    headers = _headers(made.etag) | {"Age": f"{made.age_s():.0f}"}
    if request.headers.get("if-none-match") == headers["ETag"]:
        return Response(status_code=304, headers=headers)
    plain = in_language(made.plain)
    zipped = plain is made.plain and "gzip" in request.headers.get("accept-encoding", "")
    headers |= {"Content-Encoding": "gzip"} if zipped else {}
    return Response(made.zipped if zipped else plain, media_type="application/json", headers=headers)


def _headers(etag: str) -> dict[str, str]:
    tag = f'{etag[:-1]}-{spoken()}"'
    return {"ETag": tag, "Cache-Control": "private, no-cache", "Vary": "Accept-Encoding, Accept-Language"}


@router.get(
    "/today/ahead", response_model=list[RoundOut], responses={304: {"description": "The days are as they were."}}
)
def get_days_ahead(request: Request, session: Reading, who: Acting) -> Response:
    """The rounds of the next seven days as they are planned now, for a phone that will have no signal. Unchanged since
    its ETag: 304."""
    etag, days = request.app.state.rounds.of(who.organisation_id).days_ahead(session)
    headers = _headers(etag)
    if request.headers.get("if-none-match") == headers["ETag"]:
        return Response(status_code=304, headers=headers)
    return Response(in_language(days), media_type="application/json", headers=headers)
