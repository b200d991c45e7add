"""A site's soil: tests, what they say, what they would change, and the soil in force."""

from typing import Any
from uuid import UUID, uuid4

from fastapi import APIRouter

from june_shade.api.context import Db, Reading, Retried
from june_shade.api.schemas.sites import SoilOut
from june_shade.api.schemas.soil import (
    ChangeOut,
    OutcomeOut,
    SoilInForceOut,
    SoilPage,
    SoilTestIn,
    SoilTestOut,
    SoilTestPreview,
)
from june_shade.core.soil import in_force as core
from june_shade.core.soil.textures import soil as table_soil
from june_shade.plans import clock, register, soil, soil_in_force, whatif
from june_shade.plans.records import SoilTest
from june_shade.plans.work import Session

router = APIRouter(prefix="/api", tags=["soil"], route_class=Retried)


def _new(test_id: UUID, site_id: UUID, body: SoilTestIn) -> soil.NewTest:
    reading = body.reading
    given: dict[str, Any] = reading.readings() if reading.kind == "jar" else reading.model_dump(exclude={"kind"})
    kept = {name: value for name, value in given.items() if value is not None}
    return soil.NewTest(test_id, site_id, reading.kind, body.day, body.place, kept, body.used, body.note)


def _in_force(found: core.InForce) -> SoilInForceOut:
    return SoilInForceOut.model_validate(found)


def _test_out(row: SoilTest) -> SoilTestOut:
    own = {name: getattr(row, name) for name in SoilTestOut.model_fields if name != "outcome"}
    said = OutcomeOut.model_validate(core.outcome(row.kind, row.readings))
    return SoilTestOut.model_validate(own | {"outcome": said})


def _page(session: Session, site_id: UUID) -> SoilPage:
    site = register.site(session, site_id)
    today = clock.today(session, site.timezone)
    found = soil_in_force.in_force(session, site)
    return SoilPage(
        site_id=site.id, name=site.name, today=today, texture_typed=site.texture, in_force=_in_force(found),
        table=SoilOut.model_validate(table_soil(found.soil.texture)),
        tests=[_test_out(row) for row in soil.tests(session, site_id)],
        rain_before_mm=soil.rain_before_mm(session, site, today), dry_on=soil.dry_on(session, site, today),
    )  # fmt: skip


@router.get("/sites/{site_id}/soil")
def get_soil(session: Db, site_id: UUID) -> SoilPage:
    """The soil in force at a site, where each value comes from, and every test that was kept."""
    return _page(session, site_id)


@router.post("/sites/{site_id}/soil-tests/preview")
def preview_soil_test(session: Reading, site_id: UUID, body: SoilTestIn) -> SoilTestPreview:
    """What a test says, and what it would change in the plan of the site; nothing is stored."""
    site = register.site(session, site_id)
    new = _new(uuid4(), site_id, body)
    said = soil.outcome(session, site, new)
    after = soil_in_force.in_force(session, site, new) if said.changes_plans else None
    change = whatif.other_soil(session, site, after) if after is not None else None
    return SoilTestPreview(
        outcome=OutcomeOut.model_validate(said),
        after=_in_force(after) if after is not None else None,
        change=ChangeOut.model_validate(change) if change is not None else None,
    )


@router.put("/sites/{site_id}/soil-tests/{test_id}")
def put_soil_test(session: Db, site_id: UUID, test_id: UUID, body: SoilTestIn) -> SoilPage:
    """Keep a test under an id that the client made; sending it twice keeps one. used: plans go by it from now on."""
    soil.put(session, _new(test_id, site_id, body))
    return _page(session, site_id)


@router.post("/soil-tests/{test_id}/withdraw")
def withdraw_soil_test(session: Db, test_id: UUID) -> SoilPage:
    """Take a test out of force; it stays in the record."""
    return _page(session, soil.withdraw(session, test_id).site_id)
