"""What proves that a tree stands on its own: what was written down for it, and what check-ups brought along."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date
from uuid import UUID

from june_shade.core.looking import handover
from june_shade.core.looking.handover import PROOFS
from june_shade.store.looking_tables import OwnAct, TreeCheckup


@dataclass(frozen=True, slots=True)
class Proof:
    """What proves that a tree stands on its own: since when, whether a check-up brought it, its act (None: none)."""

    name: str
    proven_on: date | None
    by_checkup: bool
    act_id: UUID | None
    growth_m: float | None


def proofs(acts: Sequence[OwnAct], checkups: Sequence[TreeCheckup]) -> list[Proof]:
    """Each proof with what stands for it, the newest of acts and check-ups."""
    found = []
    for name in PROOFS:
        own = next((act for act in reversed(acts) if act.kind == name), None)
        question, answer = handover.BY_CHECKUP.get(name, ("", ""))
        looked = next((one for one in checkups if question in one.findings), None)
        by_checkup = looked is not None and looked.findings[question] == answer
        if looked is not None and by_checkup and (own is None or looked.day >= own.day):
            found.append(Proof(name, looked.day, True, None, None))
        elif looked is not None and not by_checkup and own is not None and looked.day > own.day:
            found.append(Proof(name, None, True, None, None))  # it was so, and is not any more
        else:
            found.append(Proof(
                name, own.day if own else None, False, own.id if own else None, own.growth_m if own else None
            ))  # fmt: skip
    return found


def proven(known: Sequence[Proof]) -> dict[str, date]:
    """Days of the proofs that there are."""
    return {one.name: one.proven_on for one in known if one.proven_on is not None}


def missing_of(acts: Sequence[OwnAct], checkups: Sequence[TreeCheckup], today: date) -> tuple[str, ...]:
    """Proofs that a tree lacks."""
    return handover.missing(proven(proofs(acts, checkups)), today)
