"""Links for clients, people's own calendars, what others did since one last looked."""

from uuid import UUID

from fastapi import APIRouter, Request, Response
from pydantic import AwareDatetime

from june_shade.api.context import Acting, Db, Reading, Retried
from june_shade.api.language import Language
from june_shade.api.routers.book import month_out
from june_shade.api.routers.care import CALENDAR, calendar, in_own
from june_shade.api.schemas.common import Day, Secret
from june_shade.api.schemas.shares import DoneOut, FeedOut, SharedOut, SharedSite, ShareIn, ShareOut
from june_shade.plans import care, register, shares
from june_shade.plans.accounts import signing
from june_shade.plans.records import Share
from june_shade.plans.work import transaction

router = APIRouter(prefix="/api", tags=["shares"], route_class=Retried)


def _out(row: Share) -> ShareOut:
    own = {name: getattr(row, name) for name in ShareOut.model_fields if name not in ("path", "revoked")}
    return ShareOut.model_validate(own | {"path": _path(row), "revoked": row.revoked_at is not None})


def _path(row: Share) -> str:
    return f"/shared/{row.secret}"


@router.get("/sites/{site_id}/shares")
def list_shares(session: Reading, site_id: UUID) -> list[ShareOut]:
    """Links that show a site to somebody."""
    return [_out(row) for row in shares.of_site(session, site_id)]


@router.put("/shares/{share_id}")
def put_share(session: Db, share_id: UUID, body: ShareIn) -> ShareOut:
    """Show a site to somebody up to a day; written again it changes for whom and until when, not its address."""
    return _out(shares.put(session, share_id, body.site_id, body.name, body.ends_on, body.account_id))


@router.put("/shares/{share_id}/revoked")
def revoke_share(session: Db, share_id: UUID) -> ShareOut:
    """Take a link back: it shows nothing any more."""
    return _out(shares.revoke(session, share_id))


@router.get("/shared")
def list_shared(session: Reading, who: Acting) -> list[SharedSite]:
    """What a client may look at when they sign in."""
    return [
        SharedSite(site=register.site(session, row.site_id).name, path=_path(row), ends_on=row.ends_on)
        for row in shares.of_client(session, who)
    ]


@router.get("/shared/{secret}")
def get_shared(request: Request, response: Response, secret: Secret, month: Day | None = None) -> SharedOut:
    """A site's trees, plan and a month of its book, for whoever was given the link."""
    response.headers["X-Robots-Tag"] = "noindex"
    with transaction(shares.whose(request.app.state.sessions, secret)) as session:
        found = shares.shown(session, secret, month)
        told = month_out(found.month)
        for row in told.rows:
            row.person = None
        told.numbers.cost, told.numbers.survival.planter = None, []
        own = {name: getattr(found, name) for name in SharedOut.model_fields if name != "month"}
        return SharedOut.model_validate(own | {"month": told})


@router.put("/calendar")
def put_own_calendar(session: Db, who: Acting, renew: bool = False) -> FeedOut:
    """The address of one's own calendar, of all sites; renew: another one, and the old one is nobody's any more."""
    secret = shares.feed_secret(session, who, renew=renew)
    return FeedOut(path=in_own(f"/api/calendars/mine/{secret}/care.ics"))


@router.get("/calendars/mine/{secret}/care.ics", response_class=Response, responses=CALENDAR)
def get_own_calendar(request: Request, secret: Secret, language: Language = "en") -> Response:
    """A person's calendar, at the address that only they know."""
    with transaction(shares.whose_feed(request.app.state.sessions, secret)) as session:
        title, url = signing.organisation_name(session), str(request.base_url).rstrip("/")
        return calendar(care.feed_of_all(session, title, language, url), "care.ics")


@router.get("/since")
def get_since(session: Reading, who: Acting, moment: AwareDatetime) -> list[DoneOut]:
    """What others entered and changed since a moment."""
    return [DoneOut(kind=one.kind, by=one.by, count=one.count) for one in shares.since(session, who, moment)]
