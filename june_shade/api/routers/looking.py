"""Looking at trees: the Checks page, check-ups, what readings say and what is answered to it."""

from uuid import UUID

from fastapi import APIRouter

from june_shade.api.context import Db, Reading, Retried
from june_shade.api.routers.shape import tree_out
from june_shade.api.schemas.looking import (
    ChecksPage,
    CheckupIn,
    CheckupKnown,
    CheckupLook,
    CheckupOut,
    CheckupRule,
    FindingsIn,
    RowOut,
    ThirstIn,
    ThirstOut,
)
from june_shade.core.care.calendar import OF_CHECKUPS
from june_shade.core.looking import checkup
from june_shade.core.looking.table import ACTS, BY_THE_PROGRAM, TRUNK, WATERINGS, table
from june_shade.plans import kinds
from june_shade.plans.looking import checks, rows, thirst
from june_shade.plans.looking.checks import Looked, NewCheckup
from june_shade.plans.records import ThirstAnswer, TreeCheckup

router = APIRouter(prefix="/api", tags=["looking"], route_class=Retried)


def _checkup(row: TreeCheckup, names: dict[UUID | None, str]) -> CheckupOut:
    own = {name: getattr(row, name) for name in CheckupOut.model_fields if name not in ("person", "withdrawn")}
    causes = [{"cause": cause, "probability": p} for cause, p in row.causes]
    told = {"person": names.get(row.person_id), "withdrawn": row.withdrawn_at is not None, "causes": causes}
    return CheckupOut.model_validate(own | told)


def look_out(looked: Looked) -> CheckupLook:
    """What a check-up says so far, as it goes out."""
    found = looked.found
    asked = [{"finding": name, "answers": answers, "worth": worth} for name, answers, worth in looked.asked]
    return CheckupLook.model_validate({
        "verdict": found.verdict, "water_act": found.water_act, "causes": found.causes, "asked": asked,
        "enough": looked.enough, "actions": found.actions, "tasks": checks.tasks_of(found),
        "look_on": looked.look_on, "own": looked.own, "felt_now": looked.felt_now, "in_leaf": looked.in_leaf,
    })  # fmt: skip


def _answer(row: ThirstAnswer) -> ThirstOut:
    own = {name: getattr(row, name) for name in ThirstOut.model_fields if name != "withdrawn"}
    return ThirstOut.model_validate(own | {"withdrawn": row.withdrawn_at is not None})


def _names(session: Db) -> dict[UUID | None, str]:
    return {person.id: person.name for person in kinds.people(session)}


@router.get("/trees/{tree_id}/checks")
def get_checks(session: Db, tree_id: UUID) -> ChecksPage:
    """The Checks page of a tree: what was felt, what it says, check-ups."""
    found, names = checks.of_tree(session, tree_id), _names(session)
    accepted = found["accepted"]
    return ChecksPage.model_validate(found | {
        "tree": tree_out(found["tree"]), "checkups": [_checkup(row, names) for row in found["checkups"]],
        "accepted": None if accepted is None else _answer(accepted),
    })  # fmt: skip


@router.get("/checkup-rule")
def get_checkup_rule() -> CheckupRule:
    """What the check-up's rule rests on: the program's own, the same for all."""
    known = table()
    return CheckupRule.model_validate({
        "causes": known.causes, "prior": known.prior, "look_again_days": known.look_again_days.astype(int),
        "acts": ACTS, "waterings": [act for act in ACTS if act in WATERINGS], "loss": known.loss.tolist(),
        "findings": [
            {"finding": one.name, "answers": one.answers, "likelihood": one.likelihood.tolist(), "minutes": one.minutes}
            for one in known.findings.values()
        ],
        "trunk": TRUNK, "by_the_program": sorted(BY_THE_PROGRAM), "of_leaves": sorted(checks.OF_LEAVES),
        "sure": checkup.SURE, "groups": checkup.GROUPS, "catch": checkup.CATCH, "enough_days": checkup.ENOUGH_DAYS,
        "decimals": checkup.SAME, "fine_decimals": checkup.EQUAL,
        "seen": [{"finding": f, "answer": a, "action": action} for (f, a), action in checkup.SEEN.items()],
        "by_verdict": checkup.BY_VERDICT, "look_again": checkup.LOOK_AGAIN,
        "after_water_days": checkup.AFTER_WATER, "after_stop_days": checkup.AFTER_STOP, "tasks": sorted(OF_CHECKUPS),
    })  # fmt: skip


@router.get("/trees/{tree_id}/checkup")
def get_checkup_known(session: Reading, tree_id: UUID) -> CheckupKnown:
    """What the program knows of a tree by itself, for a check-up without signal."""
    today, own = checks.known_of(session, tree_id)
    return CheckupKnown.model_validate({
        "today": today, "own": own.findings, "in_leaf": own.in_leaf, "dead_before": own.dead_before,
    })  # fmt: skip


@router.post("/trees/{tree_id}/checkup/look")
def look_at_tree(session: Reading, tree_id: UUID, body: FindingsIn) -> CheckupLook:
    """What a check-up would say so far, and what to ask next; nothing is stored."""
    return look_out(checks.look(session, tree_id, {str(k): v for k, v in body.findings.items()}))


@router.put("/checkups/{checkup_id}")
def put_checkup(session: Db, checkup_id: UUID, body: CheckupIn) -> CheckupOut:
    """Keep a check-up; what was felt goes into the log too. Sent twice it is one."""
    given = body.model_dump() | {"tasks": tuple(body.tasks), "findings": {str(k): v for k, v in body.findings.items()}}
    return _checkup(checks.put(session, NewCheckup(id=checkup_id, **given)), _names(session))


@router.post("/checkups/{checkup_id}/withdraw")
def withdraw_checkup(session: Db, checkup_id: UUID) -> CheckupOut:
    """Take a check-up back, with what was felt at it and what came of it."""
    return _checkup(checks.withdraw(session, checkup_id), _names(session))


@router.put("/thirst-answers/{answer_id}")
def put_thirst_answer(session: Db, answer_id: UUID, body: ThirstIn) -> ThirstOut:
    """Accept or refuse what readings say, or say how the delivery was found. Sent twice it is one."""
    return _answer(thirst.put(session, answer_id, body.tree_id, body.answer, body.multiplier, body.person_id))


@router.post("/thirst-answers/{answer_id}/withdraw")
def withdraw_thirst_answer(session: Db, answer_id: UUID) -> ThirstOut:
    """Take an answer back."""
    return _answer(thirst.withdraw(session, answer_id))


@router.get("/sites/{site_id}/thirst")
def get_thirst_of_site(session: Db, site_id: UUID) -> list[RowOut]:
    """What readings say, row by row, the odd ones marked."""
    return [RowOut.model_validate(row) for row in rows.of_site(session, site_id)]
