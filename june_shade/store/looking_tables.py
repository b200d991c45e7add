"""What was looked at in trees and what came of it: answers to what their readings say, check-ups. Kept for good.

`TreeFit` alone follows from the record: what a tree's readings said when they were last gone through.
"""

from datetime import date, datetime
from typing import Any
from uuid import UUID

from sqlalchemy import ARRAY, CheckConstraint, ForeignKey, Index, Text, func
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import Mapped, mapped_column

from june_shade.core.looking.handover import PROOFS
from june_shade.store.base import Owned, Signed, one_of, within

ANSWERS = ("accepted", "refused", "delivery_good", "delivery_mended")


class ThirstAnswer(Signed):
    """What a person answered to what a tree's readings say, from a day on: its thirst holds or is refused, its delivery
    was checked and is good, or was mended, so that readings begin anew."""

    __tablename__ = "thirst_answer"
    __table_args__ = (
        one_of("answer", ANSWERS),
        CheckConstraint("(answer = 'accepted') = (multiplier IS NOT NULL)", name="accepted_has_multiplier"),
        within("multiplier", 0.4, 2.5),
        Index("ix_thirst_answer_tree_id", "tree_id"),
    )

    id: Mapped[UUID] = mapped_column(primary_key=True)
    tree_id: Mapped[UUID] = mapped_column(ForeignKey("tree.id", ondelete="CASCADE"))
    answer: Mapped[str]
    day: Mapped[date]
    multiplier: Mapped[float | None]
    occasions: Mapped[int] = mapped_column(default=0)
    person_id: Mapped[UUID | None] = mapped_column(ForeignKey("person.id"))
    recorded_at: Mapped[datetime] = mapped_column(server_default=func.now())
    withdrawn_at: Mapped[datetime | None]


OWN_ACTS = ("offered", "dry_test", *PROOFS, "handed", "back")


class OwnAct(Signed):
    """A tree's way to stand on its own: offered, left dry for two weeks, a proof, handed over, come back.

    growth_m: of twigs this season. hold_until: up to when a dry test leaves it unwatered.
    """

    __tablename__ = "own_act"
    __table_args__ = (
        one_of("kind", OWN_ACTS),
        CheckConstraint("(kind = 'growth') = (growth_m IS NOT NULL)", name="growth_has_measure"),
        CheckConstraint("(kind = 'dry_test') = (hold_until IS NOT NULL)", name="dry_test_holds"),
        within("growth_m", 0, 3),
        Index("ix_own_act_tree_id", "tree_id"),
    )

    id: Mapped[UUID] = mapped_column(primary_key=True)
    tree_id: Mapped[UUID] = mapped_column(ForeignKey("tree.id", ondelete="CASCADE"))
    kind: Mapped[str]
    day: Mapped[date]
    growth_m: Mapped[float | None]
    hold_until: Mapped[date | None]
    note: Mapped[str] = mapped_column(default="")
    person_id: Mapped[UUID | None] = mapped_column(ForeignKey("person.id"))
    recorded_at: Mapped[datetime] = mapped_column(server_default=func.now())
    withdrawn_at: Mapped[datetime | None]


class TreeFit(Owned):
    """What a tree's readings say, as last gone through: times the book's thirst and share of what is poured, with their
    errors. Deletable at any time."""

    __tablename__ = "tree_fit"

    tree_id: Mapped[UUID] = mapped_column(ForeignKey("tree.id", ondelete="CASCADE"), primary_key=True)
    fitted_at: Mapped[datetime]
    occasions: Mapped[int]
    first_on: Mapped[date]
    last_on: Mapped[date]
    demand: Mapped[float | None]
    demand_sd: Mapped[float | None]
    delivery: Mapped[float | None]
    delivery_sd: Mapped[float | None]
    verdict: Mapped[str]


class TreeCheckup(Signed):
    """A check-up of a tree: answers by question, what they came to, which of its acts are to be done as tasks, to when
    its water is held, when it is looked at again."""

    __tablename__ = "tree_checkup"
    __table_args__ = (Index("ix_tree_checkup_tree_id", "tree_id"),)

    id: Mapped[UUID] = mapped_column(primary_key=True)
    tree_id: Mapped[UUID] = mapped_column(ForeignKey("tree.id", ondelete="CASCADE"))
    day: Mapped[date]
    happened_at: Mapped[datetime]
    findings: Mapped[dict[str, str]] = mapped_column(JSONB)
    in_leaf: Mapped[bool]
    verdict: Mapped[str]
    water_act: Mapped[str | None]
    causes: Mapped[list[list[Any]]] = mapped_column(JSONB)
    tasks: Mapped[list[str]] = mapped_column(ARRAY(Text))
    hold_until: Mapped[date | None]
    look_on: Mapped[date]
    note: Mapped[str] = mapped_column(default="")
    person_id: Mapped[UUID | None] = mapped_column(ForeignKey("person.id"))
    device_id: Mapped[str]
    recorded_at: Mapped[datetime] = mapped_column(server_default=func.now())
    withdrawn_at: Mapped[datetime | None]
