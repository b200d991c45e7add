"""Pictures of trees: kept, shown, taken away; their files lie beside the database."""

from collections.abc import Collection, Iterable, Sequence
from dataclasses import dataclass, replace
from datetime import date, timedelta
from pathlib import Path
from uuid import UUID

from june_shade.core.errors import ConflictError, InputError, NotFoundError
from june_shade.formats import picture as formats
from june_shade.formats.picture import TOO_LARGE
from june_shade.plans import changes, clock, people, register
from june_shade.store import pictures as store
from june_shade.store.picture_files import Folder, name_of
from june_shade.store.picture_tables import TreePicture
from june_shade.store.session import Session

__all__ = [
    "TOO_LARGE",
    "Folder",
    "NewPicture",
    "files",
    "folder_at",
    "of_entries",
    "of_tree",
    "one",
    "put",
    "remove",
    "sweep",
]
KEPT_AFTER = timedelta(days=1)
"""So long a file stays that no picture needs: somebody may just now be bringing it again."""


@dataclass(frozen=True, slots=True)
class NewPicture:
    """A picture as it comes. id: the client's own; occasion: what it was taken at; entry_id: the book's row of that;
    day: when, None = as its camera says, else today."""

    id: UUID
    tree_id: UUID
    occasion: str
    entry_id: UUID | None = None
    day: date | None = None
    person_id: UUID | None = None


def folder_at(path: Path) -> Folder:
    """Where files of pictures are."""
    return Folder(path)


def put(session: Session, folder: Folder, new: NewPicture, data: bytes) -> TreePicture:
    """Keep a picture; sent twice it is one.

    Raises InputError for what is no picture, for a day before the tree was planted or to come; ConflictError where
    another is kept under this id.
    """
    tree = register.tree(session, new.tree_id, ended=True)
    if (new.occasion == "tree") != (new.entry_id is None):
        raise InputError("must name the row that the picture belongs to, or none for one of the tree", "entry_id")
    new = replace(new, person_id=people.did(session, new.person_id))
    made = formats.ready(data)
    changes.hold(session, [tree.site_id])  # the same one may come twice at a time
    store.hold(session, alone=False)
    known = session.get(TreePicture, new.id)
    if known is not None:
        same = known.tree_id, known.occasion, known.entry_id, known.sha256
        if same != (new.tree_id, new.occasion, new.entry_id, name_of(made.jpeg)):
            raise ConflictError("another picture is kept under this id", "id")
        return known
    today = clock.today(session, tree.site.timezone)
    day = new.day
    if day is None:
        of_camera = made.taken_on
        day = of_camera if of_camera is not None and tree.planted_on <= of_camera <= today else today
    elif not tree.planted_on <= day <= today:
        raise InputError(f"must be from its planting ({tree.planted_on}) to today ({today})", "day")
    row = TreePicture(
        id=new.id, tree_id=new.tree_id, occasion=new.occasion, entry_id=new.entry_id, day=day,
        sha256=folder.put(made.jpeg), width_px=made.width_px, height_px=made.height_px, person_id=new.person_id,
        recorded_at=clock.now(session),
    )  # fmt: skip
    session.add(row)
    session.flush()
    return row


def one(session: Session, picture_id: UUID) -> TreePicture:
    """A picture that is kept, or NotFoundError."""
    row = session.get(TreePicture, picture_id)
    if row is None or row.removed_at is not None:
        raise NotFoundError("there is no such picture", "picture_id")
    return row


def file_of(row: TreePicture, folder: Folder, *, small: bool) -> bytes:
    """The file of a picture. small: for a list of many. Raises NotFoundError where it is not in its folder."""
    data = folder.get(row.sha256)
    if data is None:
        raise NotFoundError("the file of this picture is missing: it was not in the backup, or was removed", "file")
    return formats.small(data) if small else data


def of_tree(session: Session, tree_id: UUID) -> Sequence[TreePicture]:
    """A tree's pictures, the newest first."""
    register.tree(session, tree_id, ended=True)
    return store.of_tree(session, tree_id)


def of_entries(session: Session, entry_ids: Collection[UUID]) -> dict[UUID, list[UUID]]:
    """Pictures of rows of the book by row."""
    return store.of_entries(session, entry_ids)


def remove(session: Session, picture_id: UUID) -> None:
    """Take a picture away: it is not shown any more, and its file goes in the next days. Sent twice it is once."""
    row = session.get(TreePicture, picture_id)
    if row is None:
        raise NotFoundError("there is no such picture", "picture_id")
    if row.removed_at is None:
        row.removed_at = clock.now(session)


def sweep(session: Session, folder: Folder) -> list[str]:
    """Let files go of pictures that were taken away, where no other needs them; their names.

    A file that nothing here speaks of stays: the folder may be another database's too.
    """
    store.hold(session, alone=True)
    since = clock.now(session) - KEPT_AFTER
    over = store.let_go(session, since) - store.needed(session, since)
    gone = [name for name in folder.older(KEPT_AFTER.total_seconds()) if name in over]
    folder.drop_parts(KEPT_AFTER.total_seconds())
    for name in gone:
        folder.remove(name)
    return gone


def files(session: Session, folder: Folder) -> Iterable[tuple[str, bytes]]:
    """The file of every picture that is kept, by name; those that are missing left out."""
    for name in sorted(store.needed(session, None)):
        data = folder.get(name)
        if data is not None:
            yield name, data
