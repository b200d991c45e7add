"""Seasons rehearsed under several routines, and the routine that trees follow."""

from uuid import UUID

from fastapi import APIRouter

from june_shade.api.context import Db, Reading, Retried
from june_shade.api.routers.shape import in_force_out, routine_out, tree_out
from june_shade.api.schemas.rehearse import (
    RehearsalChoices,
    RehearsalIn,
    RehearsalOut,
)
from june_shade.api.schemas.routines import RoutineChoiceIn, RoutineChoiceOut
from june_shade.plans import rehearse, routines
from june_shade.plans.records import RoutineChoice

router = APIRouter(prefix="/api", tags=["routines"], route_class=Retried)


def _chosen(rows: list[RoutineChoice]) -> RoutineChoiceOut:
    first = rows[0]
    return RoutineChoiceOut.model_validate({
        "choice_id": first.choice_id, "trees": len(rows), "since": min(row.since for row in rows),
        "routine": routine_out(routines.routine_of(first)), "withdrawn": first.withdrawn_at is not None,
    })  # fmt: skip


@router.get("/trees/{tree_id}/rehearsal")
def get_rehearsal_choices(session: Reading, tree_id: UUID) -> RehearsalChoices:
    """What can be rehearsed of a tree: seasons, routines with usual figures, and the one that it follows."""
    found = rehearse.choices(session, tree_id)
    return RehearsalChoices.model_validate(found | {
        "tree": tree_out(found["tree"]), "usual": [routine_out(one) for one in found["usual"]],
        "in_force": in_force_out(found["in_force"]),
    })  # fmt: skip


@router.post("/trees/{tree_id}/rehearsal")
def rehearse_season(session: Reading, tree_id: UUID, body: RehearsalIn) -> RehearsalOut:
    """A season of a tree under each of these routines; nothing is stored."""
    asked = [one.routine() for one in body.routines]
    found = rehearse.rehearse(session, tree_id, body.season, asked, body.stock_size_id)
    told = [
        {name: getattr(one.season, name) for name in one.season.__dataclass_fields__}
        | {name: getattr(one, name) for name in one.__dataclass_fields__}
        | {"routine": routine_out(one.routine)}
        for one in found.routines
    ]
    own = {name: getattr(found, name) for name in ("as_planted", "dates", "rain_mm", "limit")}
    return RehearsalOut.model_validate(own | {"season": found.span, "routines": told})


@router.put("/routines/{choice_id}")
def put_routine(session: Db, choice_id: UUID, body: RoutineChoiceIn) -> RoutineChoiceOut:
    """A tree, a stop or a site follows a routine from today on. Sent twice it is one."""
    trees = routines.trees_of(session, body.tree_id, body.stop_id, body.site_id)
    return _chosen(routines.put(session, choice_id, trees, body.routine.routine(), body.person_id))


@router.post("/routines/{choice_id}/withdraw")
def withdraw_routine(session: Db, choice_id: UUID) -> RoutineChoiceOut:
    """Take a choice back: its trees follow what they did before."""
    return _chosen(routines.withdraw(session, choice_id))
