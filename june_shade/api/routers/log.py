"""The log and the round."""

from collections.abc import Hashable, Sequence
from functools import partial
from hashlib import sha256
from uuid import UUID

from fastapi import APIRouter, Request, Response

from june_shade.api.context import Db, Retried, Sessions
from june_shade.api.routers.shape import entries_out, task_out
from june_shade.api.schemas.log import BatchIn, EntryIn, EntryOut, RoundOut, RoundSite
from june_shade.plans import log, rounds
from june_shade.plans.kept import Kept
from june_shade.plans.log import NewEntry
from june_shade.plans.records import Site
from june_shade.plans.water import remembered
from june_shade.plans.work import Session, SessionMaker, reading

CORRECTION = {"corrects", "void_id"}
router = APIRouter(prefix="/api", tags=["log"], route_class=Retried)


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


@router.get("/today", response_model=RoundOut, responses={304: {"description": "The round is as it was."}})
def get_today(sessions: Sessions, request: Request) -> Response:
    """The day's round: stops in order, what each tree wants, what was done. Unchanged since its ETag: 304.

    All of it is of one moment, whatever is written meanwhile.
    """
    with reading(sessions) as session:
        sites, head = rounds.stamps(session), rounds.head(session)
        made_of = [str(head["day"]), *(f"{site.id}{stamp}" for site, stamp in sites)]
        etag = f'"{sha256(" ".join(made_of).encode()).hexdigest()[:24]}"'
        if request.headers.get("if-none-match") == etag:
            return Response(status_code=304, headers={"ETag": etag})
        parts = _parts(session, request.app.state.kept, sites)
    body = b'{"day":"%s","sites":[%s],"trees":%d}' % (str(head["day"]).encode(), b",".join(parts), head["trees"])
    return Response(body, media_type="application/json", headers={"ETag": etag, "Cache-Control": "no-cache"})


def make_round(sessions: SessionMaker, kept: Kept[bytes]) -> None:
    """Have the round ready before anyone asks for it."""
    with reading(sessions) as session:
        _parts(session, kept, rounds.stamps(session))


def _parts(session: Session, kept: Kept[bytes], sites: Sequence[tuple[Site, Hashable]]) -> list[bytes]:
    missing = [site for site, stamp in sites if kept.known(("today", site.id), stamp) is None]
    remembered.make_ready(session, missing)
    return [kept.get(("today", site.id), stamp, partial(_site_json, session, site)) for site, stamp in sites]


def _site_json(session: Session, site: Site) -> bytes:
    """A site's part of the round as it goes out."""
    found = rounds.round_of_site(session, site)
    trees = [tree for stop in found["stops"] for tree in stop["trees"]]
    shaped = {e.id: e for e in entries_out(session, [entry for tree in trees for entry in tree["entries"]])}
    for tree in trees:
        tree["entries"] = [shaped[entry.id] for entry in tree["entries"]]
    found["care"] = [task_out(due, site.id, site.name) for due in found["care"]]
    return RoundSite.model_validate(found).model_dump_json().encode()
