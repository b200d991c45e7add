"""Pictures of trees: brought, shown, taken away."""

from typing import Annotated, Any
from uuid import UUID

from fastapi import APIRouter, Form, Query, Request, Response, UploadFile

from june_shade.api.context import Config, Db, Reading, Retried
from june_shade.api.routers.shape import read_upload
from june_shade.api.schemas.common import Day
from june_shade.api.schemas.pictures import Occasion, PictureOut
from june_shade.plans import kinds, pictures
from june_shade.plans.pictures import TOO_LARGE, NewPicture
from june_shade.plans.records import TreePicture
from june_shade.plans.work import Session

router = APIRouter(prefix="/api", tags=["pictures"], route_class=Retried)
JPEG: dict[int | str, dict[str, Any]] = {
    200: {"content": {"image/jpeg": {}}},
    304: {"description": "The file is as it was."},
}


def _out(session: Session, rows: list[TreePicture]) -> list[PictureOut]:
    names: dict[UUID | None, str] = {person.id: person.name for person in kinds.people(session)}
    own = [name for name in PictureOut.model_fields if name != "person"]
    return [
        PictureOut.model_validate({name: getattr(row, name) for name in own} | {"person": names.get(row.person_id)})
        for row in rows
    ]


@router.put("/pictures/{picture_id}")
def put_picture(
    session: Db, config: Config, picture_id: UUID, file: UploadFile, tree_id: Annotated[UUID, Form()],
    occasion: Annotated[Occasion, Form(description="What it was taken at.")] = "tree",
    entry_id: Annotated[UUID | None, Form(description="The book's row of that; it may come later.")] = None,
    day: Annotated[Day | None, Form(description="When; left out: as its camera says, else today.")] = None,
    person_id: Annotated[UUID | None, Form()] = None,
) -> PictureOut:  # fmt: skip
    """Keep a picture under an id that the client made: turned upright, at most 1600 px, without its camera's data.

    Sent twice it is one; another under the same id: 409.
    """
    new = NewPicture(picture_id, tree_id, occasion, entry_id, day, person_id)
    row = pictures.put(session, pictures.folder_at(config.pictures), new, read_upload(file, TOO_LARGE))
    return _out(session, [row])[0]


@router.get("/pictures/{picture_id}/file", response_class=Response, responses=JPEG)
def get_picture_file(
    session: Reading, config: Config, request: Request, picture_id: UUID,
    small: Annotated[bool, Query(description="At most 320 px, for a list of many.")] = False,
) -> Response:  # fmt: skip
    """The file of a picture."""
    row = pictures.one(session, picture_id)
    headers = {"ETag": f'"{row.sha256}{"-small" if small else ""}"', "Cache-Control": "private, no-cache"}
    if request.headers.get("if-none-match") == headers["ETag"]:
        return Response(status_code=304, headers=headers)
    data = pictures.file_of(row, pictures.folder_at(config.pictures), small=small)
    return Response(data, media_type="image/jpeg", headers=headers)


@router.get("/trees/{tree_id}/pictures")
def list_pictures(session: Reading, tree_id: UUID) -> list[PictureOut]:
    """A tree's pictures, the newest first."""
    return _out(session, list(pictures.of_tree(session, tree_id)))


@router.delete("/pictures/{picture_id}", status_code=204)
def delete_picture(session: Db, picture_id: UUID) -> None:
    """Take a picture away."""
    pictures.remove(session, picture_id)
