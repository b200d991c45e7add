"""Bodies are read up to a limit: 1 MB, 20 MB and a little for what carries a file; more is refused while it comes."""

from starlette.datastructures import Headers
from starlette.exceptions import HTTPException
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from june_shade.api.errors import problem
from june_shade.formats.picture import TOO_LARGE
from june_shade.formats.weather_csv import MOST_BYTES as MOST_FILE_BYTES

MOST_BYTES, MOST_BACKUP_BYTES = 1_000_000, 4_000_000_000
AROUND_A_FILE_BYTES = 100_000


class Bodies:
    """Middleware that ends a request whose body is too large."""

    def __init__(self, app: ASGIApp) -> None:
        self.app = app

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Pass a request on, counting what it brings."""
        if scope["type"] != "http":
            await self.app(scope, receive, send)
            return
        headers = Headers(scope=scope)
        is_file = headers.get("content-type", "").startswith("multipart/")
        most = MOST_FILE_BYTES + AROUND_A_FILE_BYTES if is_file else MOST_BYTES
        words = "the file is over 20 MB; split it" if is_file else "the request is over 1 MB"
        if scope["path"].startswith("/api/pictures/"):
            words = TOO_LARGE
        if scope["path"] == "/api/restore":
            most, words = MOST_BACKUP_BYTES, "the backup is over 4 GB: bring it in with ./june restore FILE"
        said, read = headers.get("content-length", ""), 0

        async def counted() -> Message:
            nonlocal read
            message = await receive()
            read += len(message.get("body", b""))
            if read > most:
                raise HTTPException(413, words)
            return message

        if said.isdigit() and int(said) > most:
            await problem(413, words, "too_large", "file" if is_file else "")(scope, receive, send)
            return
        await self.app(scope, counted, send)
