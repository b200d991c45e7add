"""The care calendar, its iCalendar feed, and the order and load list."""

from typing import Annotated, Any, Literal
from uuid import UUID

from fastapi import APIRouter, Query, Request, Response

from june_shade.api.context import Db, Retried, Writing
from june_shade.api.language import Language, spoken
from june_shade.api.routers.shape import task_out
from june_shade.api.schemas.care import ActIn, ActOut, CalendarOut, CareList, OrderSheet
from june_shade.api.schemas.common import Day, Secret, StopName
from june_shade.formats.sentences import LANGUAGES
from june_shade.plans import care, clock, orders, register
from june_shade.plans.records import CareAct
from june_shade.plans.work import transaction

router = APIRouter(prefix="/api", tags=["care"], route_class=Retried)
CALENDAR: dict[int | str, dict[str, Any]] = {200: {"content": {"text/calendar": {}}}}


@router.get("/care")
def list_care(session: Db, site_id: UUID | None = None, tree_id: UUID | None = None) -> CareList:
    """Dated tasks of all sites, of one, or of one tree, the soonest first."""
    if tree_id is not None:
        tree = register.tree(session, tree_id)
        found = [task_out(due, tree.site.id, tree.site.name) for due in care.of_site(session, tree.site, [tree_id])]
        return CareList(today=clock.today(session, tree.site.timezone), tasks=found)
    sites = register.sites(session) if site_id is None else [register.site(session, site_id)]
    tasks = [task_out(due, site.id, site.name) for site in sites for due in care.of_site(session, site)]
    today = clock.today(session, sites[0].timezone) if sites else clock.now(session).date()
    return CareList(today=today, tasks=sorted(tasks, key=lambda t: t.due_on))


def _act(row: CareAct) -> ActOut:
    own = {name: getattr(row, name) for name in ActOut.model_fields if name != "withdrawn"}
    return ActOut.model_validate(own | {"withdrawn": row.withdrawn_at is not None})


@router.put("/care-acts/{act_id}")
def put_care_act(session: Db, act_id: UUID, body: ActIn) -> ActOut:
    """Say that a task was done, is moved, or is dismissed; sent twice it is one."""
    whose = care.Subject(body.tree_id, body.planting_id)
    return _act(care.put_act(session, act_id, whose, body.key, body.act, body.day, body.reason))


@router.post("/care-acts/{act_id}/withdraw")
def withdraw_care_act(session: Db, act_id: UUID) -> ActOut:
    """Take back what was said of a task."""
    return _act(care.withdraw(session, act_id))


def calendar(data: bytes, name: str) -> Response:
    """A calendar as it goes out."""
    headers = {"Content-Disposition": f"inline; filename={name}", "Cache-Control": "no-cache"}
    return Response(data, media_type="text/calendar", headers=headers)


@router.get("/sites/{site_id}/care.ics", response_class=Response, responses=CALENDAR)
def get_site_calendar(session: Writing, request: Request, site_id: UUID, language: Language = "en") -> Response:
    """A site's tasks as an iCalendar file."""
    site = register.site(session, site_id)
    return calendar(care.feed(session, site, None, language, str(request.base_url).rstrip("/")), "care.ics")


@router.get("/calendars")
def list_calendars(session: Writing) -> list[CalendarOut]:
    """The address of each site's calendar, for calendar programs to come back to."""
    names = {site.id: site.name for site in register.sites(session)}
    return [
        CalendarOut(site_id=site_id, site_name=names[site_id], path=_path(secret))
        for site_id, secret in care.secrets_of(session).items()
    ]


@router.post("/sites/{site_id}/calendar/renew")
def renew_calendar(session: Db, site_id: UUID) -> CalendarOut:
    """Give a site's calendar another address; the old one is nobody's any more."""
    secret = care.renew_secret(session, site_id)
    return CalendarOut(site_id=site_id, site_name=register.site(session, site_id).name, path=_path(secret))


@router.get("/calendars/{secret}/care.ics", response_class=Response, responses=CALENDAR)
def get_calendar(request: Request, secret: Secret, language: Language = "en") -> Response:
    """A site's tasks as iCalendar, at the address that only those know who were given it."""
    with transaction(care.whose_secret(request.app.state.sessions, secret)) as session:
        site = care.site_of_secret(session, secret)
        return calendar(care.feed(session, site, None, language, str(request.base_url).rstrip("/")), "care.ics")


def _path(secret: str) -> str:
    return in_own(f"/api/calendars/{secret}/care.ics")


def in_own(path: str) -> str:
    """A calendar's address as it is told: its words are in the language of whoever asked for it."""
    return path if spoken() == LANGUAGES[0] else f"{path}?language={spoken()}"


@router.get("/trees/{tree_id}/care.ics", response_class=Response, responses=CALENDAR)
def get_tree_calendar(session: Writing, request: Request, tree_id: UUID, language: Language = "en") -> Response:
    """A tree's tasks as iCalendar."""
    tree = register.tree(session, tree_id)
    return calendar(care.feed(session, tree.site, tree.id, language, str(request.base_url).rstrip("/")), "care.ics")


@router.get("/order")
def get_order(
    session: Db,
    site_id: UUID,
    stop: StopName | None = None,
    planting_id: UUID | None = None,
    tree_id: Annotated[list[UUID] | None, Query(max_length=500)] = None,
    mulch: Annotated[Literal["due", "all"], Query(description="due: thin or none there; all: whatever lacks.")] = "due",
    day: Annotated[Day | None, Query(description="Plantings planned up to it; today where left out.")] = None,
    truck_l: Annotated[float, Query(gt=0, le=100000, description="What a load takes, loose [L].")] = 1500.0,
) -> OrderSheet:
    """The order and load list of a site, a stop, a planting or some trees."""
    scope = orders.Scope(site_id, stop, planting_id, tuple(tree_id or ()), mulch, truck_l, day)
    found = orders.order_list(session, scope)
    return OrderSheet.model_validate({
        "site_id": found.site.id, "site_name": found.site.name, "today": found.today, "truck_l": truck_l,
        "tank_l": found.site.tank_l, "materials": found.materials, "water": found.water, "sheets": found.sheets,
        "roll_m": found.roll_m, "pieces": found.pieces, "spoil_loose_l": found.spoil_loose_l,
        "spoil_loads": found.spoil_loads, "doses": found.doses,
        "mulched": [
            {
                "tree_id": row.tree.id, "tag": row.tree.tag, "place": row.tree.place,
                "stop": row.tree.stop.name if row.tree.stop else None, "material": row.material,
                "settled_l": row.settled_l, "loose_l": row.loose_l, "compost_l": row.compost_l, "sheets": row.sheets,
            }
            for row in found.mulched
        ],
        "plantings": [
            {
                "id": one.planting.id, "stop": one.planting.stop, "common": one.planting.plant.common,
                "planned_on": one.planting.planned_on, "left": one.left, "rejected": one.rejected,
                "count": one.planting.count, "choice": one.choice, "hole": one.figures.hole, "mix": one.figures.mix,
                "first_each_l": one.figures.first.litres, "first_goes": one.figures.first.goes,
                "mulch_settled_l": one.mulch_settled_l, "mulch_loose_l": one.mulch_loose_l,
            }
            for one in found.plantings
        ],
    })  # fmt: skip
