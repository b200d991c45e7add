"""What every table rests on: named constraints, aware times, versions, whose rows are, closed words and ranges."""

from collections.abc import Iterable
from datetime import datetime
from typing import Any
from uuid import UUID

from sqlalchemy import CheckConstraint, DateTime, Float, ForeignKey, MetaData, Text, text
from sqlalchemy.orm import DeclarativeBase, Mapped, declared_attr, mapped_column

CONVENTION = {
    "ix": "ix_%(column_0_label)s",
    "uq": "uq_%(table_name)s_%(column_0_N_name)s",
    "ck": "ck_%(table_name)s_%(constraint_name)s",
    "fk": "fk_%(table_name)s_%(column_0_name)s_%(referred_table_name)s",
    "pk": "pk_%(table_name)s",
}


def one_of(column: str, words: Iterable[str]) -> CheckConstraint:
    """A constraint: one of a closed list of words."""
    listed = ", ".join(f"'{word}'" for word in words)
    return CheckConstraint(f"{column} IN ({listed})", name=f"{column}_known")


def within(column: str, low: float | None, high: float | None, *, above: bool = False) -> CheckConstraint:
    """A constraint: a number between two limits; above: the lower one is exclusive."""
    parts = []
    if low is not None:
        parts.append(f"{column} {'>' if above else '>='} {low}")
    if high is not None:
        parts.append(f"{column} <= {high}")
    return CheckConstraint(" AND ".join(parts), name=f"{column}_range")


class Base(DeclarativeBase):
    """Declarative base with named constraints; every time is aware, every fraction double precision."""

    metadata = MetaData(naming_convention=CONVENTION)
    type_annotation_map = {datetime: DateTime(timezone=True), str: Text(), float: Float(53)}


OURS = text("organisation_now()")
"""The organisation that a transaction is of, as the database knows it (store/session.py)."""


class Owned(Base):
    """Rows that are one organisation's. The database itself shows a transaction its own organisation's only, and takes
    none that name another's (migration 0035), whatever a query forgets."""

    __abstract__ = True

    organisation_id: Mapped[UUID] = mapped_column(ForeignKey("organisation.id"), server_default=OURS, deferred=True)


BY = text("account_now()")
"""The account that a transaction is of, as the database knows it; none where the program is open."""


class Signed(Owned):
    """Rows that carry who entered them: the account that was signed in, whoever they say did the work."""

    __abstract__ = True

    entered_by: Mapped[UUID | None] = mapped_column(ForeignKey("account.id"), server_default=BY, deferred=True)


class Versioned:
    """A row that two people may edit: `version` counts its changes, so that a stale write is seen."""

    version: Mapped[int] = mapped_column(default=1, server_default="1")

    @declared_attr.directive
    def __mapper_args__(cls) -> dict[str, Any]:  # noqa: N805 - SQLAlchemy hands in the class
        return {"version_id_col": cls.version}
