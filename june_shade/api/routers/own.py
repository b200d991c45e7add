"""Trees that come to stand on their own: proofs, hand-over, and back."""

from uuid import UUID

from fastapi import APIRouter

from june_shade.api.context import Db, Reading, Retried
from june_shade.api.schemas.own import OwnActIn, OwnActOut, OwnPage, ReadyTree
from june_shade.plans.looking import own
from june_shade.plans.looking.own import NewAct
from june_shade.plans.records import OwnAct

router = APIRouter(prefix="/api", tags=["own"], route_class=Retried)


def _act(row: OwnAct) -> OwnActOut:
    told = {name: getattr(row, name) for name in OwnActOut.model_fields if name != "withdrawn"}
    return OwnActOut.model_validate(told | {"withdrawn": row.withdrawn_at is not None})


@router.get("/trees/{tree_id}/own")
def get_own(session: Reading, tree_id: UUID) -> OwnPage:
    """How far a tree is on its way to stand on its own."""
    return OwnPage.model_validate(own.of_tree(session, tree_id))


@router.put("/own-acts/{act_id}")
def put_own_act(session: Db, act_id: UUID, body: OwnActIn) -> OwnActOut:
    """Offer a tree, leave it dry for a test, keep a proof, hand it over or take it back. Sent twice it is one."""
    return _act(own.put(session, NewAct(id=act_id, **body.model_dump())))


@router.post("/own-acts/{act_id}/withdraw")
def withdraw_own_act(session: Db, act_id: UUID) -> OwnActOut:
    """Take such an act back."""
    return _act(own.withdraw(session, act_id))


@router.get("/sites/{site_id}/own")
def get_ready_trees(session: Reading, site_id: UUID) -> list[ReadyTree]:
    """Trees of a site that are far enough to be handed over."""
    return [ReadyTree.model_validate(row) for row in own.ready(session, site_id)]
