"""Pictures of trees."""

from datetime import date, datetime
from typing import Literal
from uuid import UUID

from pydantic import Field

from june_shade.api.schemas.common import Out

Occasion = Literal["tree", "note", "checkup", "planted", "ended"]


class PictureOut(Out):
    """A picture: of which tree, when and at what it was taken; its file is at /api/pictures/{id}/file."""

    id: UUID
    tree_id: UUID
    occasion: Occasion
    entry_id: UUID | None = Field(description="The book's row that it belongs to.")
    day: date
    width_px: int
    height_px: int
    person: str | None
    recorded_at: datetime
