"""What loose material lies in the yard: bought, counted, taken along, brought back. Each move is kept."""

from datetime import date
from typing import Any
from uuid import UUID, uuid5

from june_shade.core.errors import ConflictError, InputError, NotFoundError
from june_shade.core.units import in_l
from june_shade.plans import clock
from june_shade.store import mulch as store
from june_shade.store.mulch_tables import MOVES, STOCKED, StockMove
from june_shade.store.session import Session

OUTWARD = frozenset({"used", "thrown"})
CONTENT = ("material", "reason", "litres", "day")


def on_hand(session: Session) -> dict[str, float]:
    """Loose litres of each material in the yard; a count begins anew."""
    found = dict.fromkeys(STOCKED, 0.0)
    for move in store.moves(session):
        found[move.material] = move.litres if move.reason == "counted" else found[move.material] + move.litres
    return {name: max(0.0, litres) for name, litres in found.items()}


def put(
    session: Session, move_id: UUID, material: str, reason: str, litres: float, day: date, *,
    job_id: UUID | None = None, note: str = "",
) -> StockMove:  # fmt: skip
    """Keep a move. litres: how much, never negative; the reason says which way. Sent twice it is one.

    Raises InputError for more than lies there.
    """
    if material not in STOCKED:
        raise InputError(f"must be one of {', '.join(STOCKED)}, not {material!r}", "material")
    if reason not in MOVES:
        raise InputError(f"must be one of {', '.join(MOVES)}, not {reason!r}", "reason")
    if litres < 0:
        raise InputError(f"must be 0 or more, not {in_l(litres)}", "litres")
    signed = -litres if reason in OUTWARD else litres
    values: dict[str, Any] = {"material": material, "reason": reason, "litres": signed, "day": day}
    known = session.get(StockMove, move_id)
    if known is not None:
        if [name for name in CONTENT if getattr(known, name) != values[name]]:
            raise ConflictError("another move has this id already", "id")
        return known
    if reason in OUTWARD:
        there = on_hand(session)[material]
        if litres > there + 1e-6:
            raise InputError(
                f"is more than the {in_l(there)} that lie in the yard: count it, or say what was bought", "litres"
            )
    row = StockMove(id=move_id, job_id=job_id, note=note, **values)
    session.add(row)
    session.flush()
    return row


def withdraw(session: Session, move_id: UUID) -> StockMove:
    """Take a move back."""
    row = session.get(StockMove, move_id)
    if row is None:
        raise NotFoundError("there is no such move", "move_id")
    row.withdrawn_at = row.withdrawn_at or clock.now(session)
    session.flush()
    return row


def withdraw_job(session: Session, job_id: UUID) -> None:
    """Take back all that a job moved."""
    for move in store.moves_of_job(session, job_id):
        withdraw(session, move.id)


def job_moves(
    session: Session, job_id: UUID, material: str, day: date, bought_l: float, taken_l: float, left_l: float
) -> None:
    """What a day's work did to the yard: bought for it, taken along, brought back. Raises InputError naming which."""
    if left_l > taken_l:
        raise InputError(f"is more than the {in_l(taken_l)} taken along", "left_l")
    for name, reason, litres in (
        ("bought_l", "bought", bought_l),
        ("taken_l", "used", taken_l),
        ("left_l", "left", left_l),
    ):
        if litres > 0:
            try:
                put(session, uuid5(job_id, f"{material}/{reason}"), material, reason, litres, day, job_id=job_id)
            except InputError as e:
                e.field = name
                raise
