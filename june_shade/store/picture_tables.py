"""Pictures of trees: what each shows and where its file is found, by what it holds."""

from datetime import date, datetime
from uuid import UUID

from sqlalchemy import CheckConstraint, ForeignKey, Index, func
from sqlalchemy.orm import Mapped, mapped_column

from june_shade.store.base import Signed, one_of, within

OCCASIONS = ("tree", "note", "checkup", "planted", "ended")
"""What a picture was taken at; but for the first the book's words of its rows."""


class TreePicture(Signed):
    """A picture of a tree. sha256: of its file, in hexadecimal; entry_id: the book's row that it belongs to, which may
    come after it; removed, its row stays and its file goes."""

    __tablename__ = "tree_picture"
    __table_args__ = (
        one_of("occasion", OCCASIONS),
        CheckConstraint("(occasion = 'tree') = (entry_id IS NULL)", name="an_occasion_has_its_row"),
        CheckConstraint("sha256 ~ '^[0-9a-f]{64}$'", name="sha256_written"),
        within("width_px", 1, 1600),
        within("height_px", 1, 1600),
        Index("ix_tree_picture_tree_id", "tree_id"),
        Index("ix_tree_picture_entry_id", "entry_id"),
        Index("ix_tree_picture_sha256", "sha256"),
    )

    id: Mapped[UUID] = mapped_column(primary_key=True)
    tree_id: Mapped[UUID] = mapped_column(ForeignKey("tree.id", ondelete="CASCADE"))
    occasion: Mapped[str]
    entry_id: Mapped[UUID | None]
    day: Mapped[date]
    sha256: Mapped[str]
    width_px: Mapped[int]
    height_px: Mapped[int]
    person_id: Mapped[UUID | None] = mapped_column(ForeignKey("person.id"))
    recorded_at: Mapped[datetime] = mapped_column(server_default=func.now())
    removed_at: Mapped[datetime | None]
