"""Everything out as one file, and back into an empty program."""

import os
from tempfile import NamedTemporaryFile

from fastapi import APIRouter, Response, UploadFile
from fastapi.responses import FileResponse
from pydantic import Field
from starlette.background import BackgroundTask

from june_shade.api.context import Acting, Config, Db, Sessions
from june_shade.api.schemas.common import Out
from june_shade.core.errors import ConflictError
from june_shade.plans import backup, clock, organisations, pictures

router = APIRouter(prefix="/api", tags=["backup"])


class Restored(Out):
    """What was brought in."""

    rows: int
    trees: int
    entries: int = Field(description="Entries of the log.")


@router.get("/backup", response_class=Response, responses={200: {"content": {"application/zip": {}}}})
def get_backup(session: Db, sessions: Sessions, who: Acting, config: Config) -> FileResponse:
    """Everything that one organisation has put in, of one moment: a zip of JSON Lines with a manifest, and the
    pictures."""
    day = clock.now(session).date()
    with NamedTemporaryFile(suffix=".zip", delete=False) as out:
        try:
            folder, whose = pictures.folder_at(config.pictures), str(who.organisation_id)
            backup.write(backup.engine_of(sessions), out, folder, whose=whose)
        except BaseException:  # half a copy of everything is not left lying about
            os.unlink(out.name)
            raise
    name = f"june-shade-{day}.zip"
    gone = BackgroundTask(os.unlink, out.name)
    return FileResponse(out.name, media_type="application/zip", filename=name, background=gone)


@router.post("/restore")
def post_restore(sessions: Sessions, who: Acting, config: Config, file: UploadFile) -> Restored:
    """Bring a backup into an empty program: all of it or nothing. Data that is there is never replaced."""
    if not who.is_open:
        raise ConflictError("there are accounts already: bring it in with ./june restore FILE", "file")
    found = backup.restore(backup.engine_of(sessions), file.file, pictures.folder_at(config.pictures))
    organisations.seed(sessions)
    return Restored(
        rows=sum(found.rows.values()), trees=found.rows.get("tree", 0), entries=found.rows.get("log_entry", 0)
    )
