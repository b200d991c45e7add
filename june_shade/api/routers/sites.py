"""Sites, their rain gauges and modes, people and the clock."""

from typing import Annotated
from uuid import UUID

from fastapi import APIRouter, Query

from june_shade.api.context import Db, Retried, Service
from june_shade.api.schemas.sites import (
    ClockOut,
    ClosedIn,
    ComparisonOut,
    GaugeIn,
    GaugeRow,
    PersonIn,
    PersonOut,
    SiteIn,
    SiteOut,
    SoilOut,
    StopOrder,
    StopOut,
)
from june_shade.core.water import delivery, salts
from june_shade.demo import steps
from june_shade.plans import clock, kinds, modes, places, register, sites, weather_days
from june_shade.plans.records import Site
from june_shade.plans.sites import SiteShown
from june_shade.plans.work import Session

router = APIRouter(prefix="/api", tags=["sites"], route_class=Retried)
GAUGE_DAYS = 14


def _site_out(session: Session, row: Site) -> SiteOut:
    return _shown_out(sites.shown(session, [row])[0])


def _shown_out(found: SiteShown) -> SiteOut:
    row = found.site
    own = {name: getattr(row, name) for name in SiteIn.model_fields}
    return SiteOut.model_validate(
        own
        | {
            "id": row.id,
            "closed_on": row.closed_on,
            "trees": found.trees,
            "stops": [StopOut.model_validate(stop) for stop in found.stops],
            "lines": list(found.lines),
            "station_name": found.station_name,
            "soil": SoilOut.model_validate(found.soil.soil),
            "water_codes": salts.judge(row.water_source, row.water_ec_ds_m, row.water_sar),
            "root_depth_in_force_m": found.soil.root_depth_max_m,
        }
    )


@router.get("/sites")
def list_sites(session: Db, closed: bool = False) -> list[SiteOut]:
    """All sites by name. closed: those that are not cared for any more."""
    return [_shown_out(found) for found in sites.all_shown(session, closed=closed)]


@router.post("/sites", status_code=201)
def post_site(session: Db, body: SiteIn) -> SiteOut:
    """Make a site."""
    return _site_out(session, places.save_site(session, body.model_dump()))


@router.put("/sites/{site_id}")
def put_site(session: Db, site_id: UUID, body: SiteIn) -> SiteOut:
    """Change a site; every plan on it is made anew."""
    return _site_out(session, places.save_site(session, body.model_dump(), site_id))


@router.put("/sites/{site_id}/closed")
def put_closed(session: Db, site_id: UUID, body: ClosedIn) -> SiteOut:
    """Close a site, or open it again: out of rounds and lists, its record kept."""
    return _site_out(session, places.close_site(session, site_id, closed=body.closed))


@router.get("/flow")
def get_flow(
    litres: Annotated[float, Query(description="What the bucket holds [L].")],
    seconds: Annotated[float, Query(description="How long it took to fill.")],
) -> float:
    """Flow [L/h] from timing a bucket."""
    return delivery.timed_flow_l_per_h(litres, seconds)


@router.get("/sites/{site_id}/modes")
def get_modes(session: Db, site_id: UUID, tree_id: UUID | None = None) -> ComparisonOut:
    """The last measured days gone through again in each mode: what it saves in water and costs in growth."""
    return ComparisonOut.model_validate(modes.compare(session, register.site(session, site_id), tree_id))


def _gauge(session: Session, site: Site) -> list[GaugeRow]:
    return [GaugeRow.model_validate(row) for row in weather_days.gauge_and_station(session, site, GAUGE_DAYS)]


@router.get("/sites/{site_id}/gauge")
def get_gauge(session: Db, site_id: UUID) -> list[GaugeRow]:
    """The last two weeks: the site's own rain gauge beside its station, the newest first."""
    return _gauge(session, register.site(session, site_id))


@router.put("/sites/{site_id}/gauge")
def put_gauge(session: Db, site_id: UUID, body: GaugeIn) -> list[GaugeRow]:
    """Write gauge readings; a day that is there is replaced. Plans go by them in place of the station's rain."""
    site = register.site(session, site_id)
    weather_days.save_gauge(session, site, {reading.day: reading.rain_mm for reading in body.readings})
    return _gauge(session, site)


@router.put("/sites/{site_id}/stops")
def put_stop_order(session: Db, site_id: UUID, body: StopOrder) -> SiteOut:
    """Put the stops into the lead's order; the round follows it."""
    return _site_out(session, places.order_stops(session, site_id, body.stops))


@router.get("/people")
def list_people(session: Db) -> list[PersonOut]:
    """Everyone who waters."""
    return [PersonOut.model_validate(p) for p in kinds.people(session)]


@router.put("/people/{person_id}")
def put_person(session: Db, person_id: UUID, body: PersonIn) -> PersonOut:
    """Make a person under an id that the client chose; a name that is there already is that person."""
    return PersonOut.model_validate(kinds.save_person(session, person_id, body.name))


def _clock_out(session: Session) -> ClockOut:
    known = register.sites(session)
    day = clock.today(session, known[0].timezone) if known else clock.now(session).date()
    return ClockOut(now=clock.now(session), pinned=clock.is_pinned(session), day=day)


@router.get("/clock")
def get_clock(session: Db) -> ClockOut:
    """The time the program goes by."""
    return _clock_out(session)


@router.post("/clock/next-day")
def next_day(session: Db, service: Service) -> ClockOut:
    """Demo only: the station reports the day, then it is the next morning."""
    steps.next_day(session, service)
    return _clock_out(session)
