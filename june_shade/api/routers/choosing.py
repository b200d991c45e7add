"""The plan under limits: the fortnight, moves and wishes; crews and their days; orders."""

from uuid import UUID

from fastapi import APIRouter

from june_shade.api.context import Db, Reading, Retried
from june_shade.api.routers.shape import order_out
from june_shade.api.schemas.choosing import (
    DroughtOut,
    FortnightOut,
    LetGoIn,
    LetGoOut,
    ModesAskedIn,
    ModesIn,
    ModesProposedOut,
    PlanOut,
    RestrictionIn,
    RestrictionOut,
    SlackIn,
    TryIn,
    TryOut,
    WishIn,
    WishOut,
    WithdrawnIn,
)
from june_shade.api.schemas.common import Day
from june_shade.api.schemas.crews import (
    CrewDayIn,
    CrewDayOut,
    CrewIn,
    CrewLearnedOut,
    CrewOut,
    LentIn,
    LoanOut,
    StopIn,
    StopKnown,
    StopSeenOut,
)
from june_shade.plans import crews, restrictions
from june_shade.plans.choosing import drought, learned, page, terms, wishes
from june_shade.plans.choosing.wishes import NewWish
from june_shade.plans.records import Crew
from june_shade.plans.work import Session

router = APIRouter(prefix="/api", tags=["the plan under limits"], route_class=Retried)


@router.get("/fortnight")
def get_fortnight(session: Reading, site_id: UUID | None = None) -> FortnightOut:
    """Every tree by day for a fortnight, of all sites or of one."""
    return FortnightOut.model_validate(page.of_all(session, site_id))


@router.get("/plan")
def get_plan(session: Reading) -> PlanOut:
    """The standing plan: when it was chosen, how sure it is, whether something changed since."""
    return PlanOut.model_validate(page.standing(session))


@router.post("/fortnight/try")
def try_days(session: Reading, body: TryIn) -> TryOut:
    """What it would come to if a tree were visited on these days and no others; nothing is stored."""
    return TryOut.model_validate(page.tried(session, body.tree_id, body.days))


@router.post("/fortnight/again", status_code=202)
def choose_again(session: Db, soon: bool = False) -> None:
    """Have the plan chosen again now; soon: a good one in a few seconds."""
    wishes.again(session, soon=soon)


@router.put("/plan/slack")
def put_slack(session: Db, body: SlackIn) -> PlanOut:
    """Say how much more than the least harm a plan may cost that saves water; it is chosen again by it."""
    wishes.put_slack(session, body.slack)
    return PlanOut.model_validate(page.standing(session))


@router.post("/modes/proposed")
def propose_modes(session: Reading, body: ModesAskedIn) -> ModesProposedOut:
    """What would be wanted of each tree within some litres a week; nothing is stored."""
    return ModesProposedOut.model_validate(terms.propose(session, body.week_l))


@router.put("/modes")
def put_modes(session: Db, body: ModesIn) -> list[UUID]:
    """Have plans go by these modes, all or none; sent twice it changes nothing."""
    return terms.use(session, body.trees, body.week_l)


@router.put("/wishes/{wish_id}")
def put_wish(session: Db, wish_id: UUID, body: WishIn) -> WishOut:
    """Pin a visit to a day, forbid one, or leave a day to the program again. Sent twice it is one."""
    return WishOut.model_validate(wishes.put(session, NewWish(id=wish_id, **body.model_dump())))


@router.put("/let-go/{let_id}")
def put_let_go(session: Db, let_id: UUID, body: LetGoIn) -> LetGoOut:
    """Let a tree go, by name: no water is spent on it from the next plan on. Sent twice it is one."""
    return LetGoOut.model_validate(wishes.let_go(session, let_id, body.tree_id, body.by_name))


@router.post("/let-go/{let_id}/withdraw")
def withdraw_let_go(session: Db, let_id: UUID) -> LetGoOut:
    """Keep a tree after all."""
    return LetGoOut.model_validate(wishes.keep_after_all(session, let_id))


def _crew_out(session: Session, row: Crew) -> CrewOut:
    own = {name: getattr(row, name) for name in CrewIn.model_fields}
    sites = [site.name for site in crews.sites_of(session, row.id)]
    return CrewOut.model_validate(own | {"id": row.id, "closed_on": row.closed_on, "sites": sites})


@router.get("/crews")
def list_crews(session: Reading) -> list[CrewOut]:
    """All crews by name."""
    return [_crew_out(session, row) for row in crews.every(session)]


@router.put("/crews/{crew_id}")
def put_crew(session: Db, crew_id: UUID, body: CrewIn) -> CrewOut:
    """Make a crew under an id that the client chose, or change it."""
    return _crew_out(session, crews.put(session, crew_id, body.model_dump()))


@router.put("/crews/{crew_id}/closed")
def put_crew_closed(session: Db, crew_id: UUID, body: WithdrawnIn) -> CrewOut:
    """There is no such crew any more, or there is again."""
    return _crew_out(session, crews.close(session, crew_id, closed=body.withdrawn))


@router.get("/crews/{crew_id}/days/{day}")
def get_crew_day(session: Reading, crew_id: UUID, day: Day) -> CrewDayOut:
    """What a day takes from a crew."""
    return CrewDayOut.model_validate(crews.day_of(session, crew_id, day))


@router.put("/crews/{crew_id}/days/{day}")
def put_crew_day(session: Db, crew_id: UUID, day: Day, body: CrewDayIn) -> CrewDayOut:
    """What a day takes from a crew: hands missing, a late start, an early end, a broken pump."""
    return CrewDayOut.model_validate(crews.put_day(session, crew_id, day, body.model_dump()))


@router.get("/loans")
def list_loans(session: Reading) -> list[LoanOut]:
    """Sites that are lent to another crew on days from today on."""
    return [LoanOut.model_validate(one) for one in crews.loans(session)]


@router.put("/sites/{site_id}/lent/{day}")
def put_lent(session: Db, site_id: UUID, day: Day, body: LentIn) -> None:
    """Have another crew water a site on a day."""
    crews.lend(session, site_id, day, body.crew_id)


@router.get("/crews/{crew_id}/learned")
def get_learned(session: Reading, crew_id: UUID) -> CrewLearnedOut:
    """What a crew's log says of its minutes: at a tree beside the water, and to set up at a stop."""
    return CrewLearnedOut.model_validate(learned.of_crew(session, crew_id))


@router.get("/sites/{site_id}/stops")
def list_stops(session: Reading, site_id: UUID) -> list[StopSeenOut]:
    """A site's stops in order, with what the log says that coming there takes."""
    return [
        StopSeenOut.model_validate(
            {name: getattr(one.row, name) for name in StopKnown.model_fields}
            | {"trees": one.trees, "arriving": one.arriving}
        )
        for one in learned.stops_of(session, site_id)
    ]


@router.put("/stops/{stop_id}")
def put_stop(session: Db, stop_id: UUID, body: StopIn) -> StopKnown:
    """What is known of a stop: minutes to set up and on the way there, where it is."""
    return StopKnown.model_validate(crews.put_stop(session, stop_id, body.model_dump()))


@router.get("/drought")
def get_drought(session: Reading) -> DroughtOut:
    """Orders, what is wanted, allowed and chosen by week, and the trees that go without."""
    found = drought.of_all(session)
    return DroughtOut.model_validate(found | {"orders": [order_out(one) for one in found["orders"]]})


@router.get("/restrictions")
def list_restrictions(session: Reading) -> list[RestrictionOut]:
    """All orders that stand, the strictest first."""
    return [order_out(found) for found in restrictions.every(session)]


@router.put("/restrictions/{order_id}")
def put_restriction(session: Db, order_id: UUID, body: RestrictionIn) -> RestrictionOut:
    """Enter an order under an id that the client chose, or change it. Its own words decide."""
    values = body.model_dump()
    sites, changes_from = values.pop("sites"), values.pop("changes_from")
    return order_out(restrictions.put(session, order_id, values, sites, changes_from))


@router.put("/restrictions/{order_id}/withdrawn")
def put_withdrawn(session: Db, order_id: UUID, body: WithdrawnIn) -> RestrictionOut:
    """Take an order back, or have it stand again."""
    return order_out(restrictions.withdraw(session, order_id, withdrawn=body.withdrawn))
