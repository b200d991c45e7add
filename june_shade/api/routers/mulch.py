"""Mulch: a tree's page, what is chosen, looks and layings, a day's mulching, the yard."""

from dataclasses import asdict
from typing import Any
from uuid import UUID

from fastapi import APIRouter

from june_shade.api.context import Db, Reading, Retried
from june_shade.api.routers.shape import tree_out
from june_shade.api.schemas.mulch import (
    LookAnswer,
    LookAtRing,
    MoveIn,
    MulchChoiceIn,
    MulchChoiceIO,
    MulchEntryIn,
    MulchEntryOut,
    MulchJobIn,
    MulchPageOut,
    SavingOut,
    YardRow,
)
from june_shade.core.mulch.lay import RingChoice
from june_shade.plans import clock, yard
from june_shade.plans.mulch import page, records
from june_shade.plans.records import MulchEntry

router = APIRouter(prefix="/api", tags=["mulch"], route_class=Retried)


def _entry(row: MulchEntry) -> MulchEntryOut:
    own = {name: getattr(row, name) for name in MulchEntryOut.model_fields if name not in ("withdrawn", "weeds")}
    weeds = bool((row.readings or {}).get("weeds"))
    return MulchEntryOut.model_validate(own | {"withdrawn": row.withdrawn_at is not None, "weeds": weeds})


def _page(page: dict[str, Any]) -> MulchPageOut:
    history = [_entry(row) for row in page["history"]]
    return MulchPageOut.model_validate(page | {"tree": tree_out(page["tree"]), "history": history})


def _look(body: LookAtRing) -> records.Look:
    return records.Look(**body.model_dump() | {"depths_m": tuple(body.depths_m)})


@router.get("/trees/{tree_id}/mulch")
def get_mulch(session: Db, tree_id: UUID) -> MulchPageOut:
    """The Mulch page: what to do and the ring."""
    return _page(page.tree_page(session, tree_id))


@router.post("/trees/{tree_id}/mulch/look")
def look_at_mulch(session: Reading, tree_id: UUID, body: MulchChoiceIO) -> MulchPageOut:
    """What typed measures come to; nothing is stored."""
    return _page(page.tree_look(session, tree_id, RingChoice(**body.model_dump())))


@router.post("/trees/{tree_id}/mulch/saving")
def get_saving(session: Reading, tree_id: UUID, body: MulchChoiceIO) -> SavingOut | None:
    """What such a ring saves over the past year's weather; null: too little is known of it."""
    found = page.tree_saving(session, tree_id, RingChoice(**body.model_dump()))
    if found is None:
        return None
    own = {name: getattr(found[0], name) for name in SavingOut.model_fields if name != "working"}
    return SavingOut.model_validate(own | {"working": found[1]})


@router.post("/trees/{tree_id}/mulch/check")
def judge_ring(session: Reading, tree_id: UUID, body: LookAtRing) -> LookAnswer:
    """What a look at the ring would say; nothing is stored."""
    found, loose = page.look_at(session, tree_id, _look(body))
    return LookAnswer.model_validate(asdict(found) | {"loose_l": loose})


@router.put("/mulch-entries/{entry_id}")
def put_mulch_entry(session: Db, entry_id: UUID, body: MulchEntryIn) -> MulchEntryOut:
    """Keep a look, or that mulch was laid as chosen; sent twice it is one."""
    if body.look is not None:
        return _entry(records.put_look(session, entry_id, body.tree_id, _look(body.look), body.day, body.note))
    return _entry(records.put_laid(session, entry_id, body.tree_id, body.day, body.loose_l, body.note))


@router.post("/mulch-entries/{entry_id}/withdraw")
def withdraw_mulch_entry(session: Db, entry_id: UUID) -> MulchEntryOut:
    """Take an entry back; the tree goes by what stood before it."""
    return _entry(records.withdraw(session, entry_id))


@router.put("/mulch-choices")
def put_mulch_choice(session: Db, body: MulchChoiceIn) -> list[UUID]:
    """Say what is to be laid next, on one tree or many, all or none."""
    choice = None if body.choice is None else RingChoice(**body.choice.model_dump())
    return records.set_choice(session, body.tree_ids, choice)


@router.put("/mulch-jobs/{job_id}")
def put_mulch_job(session: Db, job_id: UUID, body: MulchJobIn) -> list[MulchEntryOut]:
    """Keep a day's mulching; what came back lies in the yard. Sent twice it is one."""
    job = records.Job(**body.model_dump() | {"tree_ids": tuple(body.tree_ids)})
    return [_entry(row) for row in records.put_job(session, job_id, job)]


@router.get("/yard")
def get_yard(session: Db) -> list[YardRow]:
    """What lies in the yard."""
    return [YardRow.model_validate({"material": name, "litres": n}) for name, n in yard.on_hand(session).items()]


@router.put("/yard-moves/{move_id}")
def put_yard_move(session: Db, move_id: UUID, body: MoveIn) -> list[YardRow]:
    """Keep a move in or out of the yard; sent twice it is one."""
    day = body.day or clock.now(session).date()
    yard.put(session, move_id, body.material, body.reason, body.litres, day, note=body.note)
    return get_yard(session)
