"""What would save most, tasks made of it, prices of parts."""

from uuid import UUID

from fastapi import APIRouter

from june_shade.api.context import Db, Reading, Retried
from june_shade.api.schemas.saving import PricesIn, PricesOut, ProvedOut, SavingsOut, SavingTaskOut, SavingTasksIn
from june_shade.plans.saving import page, tasks

router = APIRouter(prefix="/api", tags=["what would save most"], route_class=Retried)


@router.get("/savings")
def get_savings(session: Reading) -> SavingsOut:
    """What each change would save over the whole contract, gone through by the balance."""
    found = page.of_all(session)
    return SavingsOut.model_validate(found | {"proved": [_proved(one) for one in found["proved"]]})


def _proved(one: tasks.Proved) -> ProvedOut:
    own = {name: getattr(one, name) for name in ("since", "days", "poured_l", "without_l", "saved_l")}
    row = one.row
    return ProvedOut.model_validate(own | {
        "tree_id": one.tree.id, "tag": one.tree.tag, "measure": row.measure, "low_l": row.low_l, "high_l": row.high_l,
    })  # fmt: skip


@router.put("/savings/tasks/{batch_id}", status_code=201)
def put_saving_tasks(session: Db, batch_id: UUID, body: SavingTasksIn) -> list[SavingTaskOut]:
    """Put a change on the lists of these trees. Sent twice it is one."""
    made = page.make_tasks(session, batch_id, body.measure, body.tree_ids)
    return [SavingTaskOut.model_validate(row, from_attributes=True) for row in made]


@router.put("/part-prices")
def put_prices(session: Db, body: PricesIn) -> PricesOut:
    """Say what parts cost; null takes a price back."""
    return PricesOut.model_validate(page.put_prices(session, body.model_dump(exclude_unset=True)))
