"""The plan under limits: what was chosen for each tree, what people pinned or forbade, which trees were let go."""

from datetime import date, datetime
from typing import Any
from uuid import UUID

from sqlalchemy import ARRAY, Boolean, CheckConstraint, Float, ForeignKey, Index, func
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import Mapped, mapped_column

from june_shade.core.water.modes import MODES
from june_shade.store.base import Owned, Signed, one_of

PIN, FORBID, FREE = WISHES = ("pin", "forbid", "free")


class VisitWish(Signed):
    """A visit that somebody wants on a day, or does not, or leaves to the program again; the newest counts."""

    __tablename__ = "visit_wish"
    __table_args__ = (one_of("wish", WISHES), Index("ix_visit_wish_tree_id_day", "tree_id", "day"))

    id: Mapped[UUID] = mapped_column(primary_key=True)
    tree_id: Mapped[UUID] = mapped_column(ForeignKey("tree.id", ondelete="CASCADE"))
    day: Mapped[date]
    wish: Mapped[str]
    person_id: Mapped[UUID | None] = mapped_column(ForeignKey("person.id"))
    said_at: Mapped[datetime] = mapped_column(server_default=func.now())


class LetGo(Signed):
    """A tree that somebody lets go in a drought, by name and day; withdrawn where that was taken back."""

    __tablename__ = "let_go"
    __table_args__ = (Index("ix_let_go_tree_id", "tree_id"),)

    id: Mapped[UUID] = mapped_column(primary_key=True)
    tree_id: Mapped[UUID] = mapped_column(ForeignKey("tree.id", ondelete="CASCADE"))
    day: Mapped[date]
    by_name: Mapped[str]
    said_at: Mapped[datetime] = mapped_column(server_default=func.now())
    withdrawn_at: Mapped[datetime | None]


class ProposedMode(Owned):
    """A mode that the program proposed for a tree and that somebody took: when, and within how many litres a week for
    all trees [L]. It tells of the tree as long as that is its mode."""

    __tablename__ = "proposed_mode"
    __table_args__ = (one_of("mode", MODES), CheckConstraint("within_l >= 0", name="within_l_range"))

    tree_id: Mapped[UUID] = mapped_column(ForeignKey("tree.id", ondelete="CASCADE"), primary_key=True)
    mode: Mapped[str]
    day: Mapped[date]
    within_l: Mapped[float]


class ChosenPlan(Owned):
    """A plan that was chosen: when, from which day on, for which state of each site, and what is told of all of it.

    It is a cache: the newest stands, and another can be made at any time.
    """

    __tablename__ = "chosen_plan"

    id: Mapped[UUID] = mapped_column(primary_key=True)
    made_at: Mapped[datetime]
    first_day: Mapped[date]
    rests_on: Mapped[dict[str, int]] = mapped_column(JSONB)
    told: Mapped[dict[str, Any]] = mapped_column(JSONB)


class ChosenTree(Owned):
    """What the standing plan has for a tree, by day from first_day on: shares of the refill, 0 = no visit,
    litres [L] and minutes [min].

    wanted: the plain plan's visits. harm: beyond the plain plan's [days], none_harm: without any visit; waits_cost: of
    not going today, NULL where it does not wait; dies, none_dies, waits_dies: it may of each of these.
    """

    __tablename__ = "chosen_tree"

    tree_id: Mapped[UUID] = mapped_column(ForeignKey("tree.id", ondelete="CASCADE"), primary_key=True)
    first_day: Mapped[date]
    share: Mapped[list[float]] = mapped_column(ARRAY(Float(53)))
    litres: Mapped[list[float]] = mapped_column(ARRAY(Float(53)))
    minutes: Mapped[list[float]] = mapped_column(ARRAY(Float(53)))
    wanted: Mapped[list[bool]] = mapped_column(ARRAY(Boolean))
    harm: Mapped[float]
    none_harm: Mapped[float]
    waits_cost: Mapped[float | None]
    dies: Mapped[bool]
    none_dies: Mapped[bool]
    waits_dies: Mapped[bool]
    weight: Mapped[float]


class PlansBeside(Owned):
    """What plans beside the standing one come to: other hands and terms, ever fewer litres. A cache, as the plan is."""

    __tablename__ = "plans_beside"

    id: Mapped[UUID] = mapped_column(primary_key=True)
    made_at: Mapped[datetime]
    first_day: Mapped[date]
    told: Mapped[dict[str, Any]] = mapped_column(JSONB)
