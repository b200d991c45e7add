"""The door, before there are accounts: which addresses the program answers at, which pages may write through it, and
what browsers are told about its answers.

Standards: Origin and Fetch Metadata as W3C and WHATWG define them, Content Security Policy level 3, RFC 9111 (caching).
"""

from collections.abc import Sequence
from urllib.parse import urlsplit

from starlette.datastructures import Headers, MutableHeaders
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from june_shade.api.errors import problem

LOOPBACK = ("127.0.0.1", "localhost", "::1")
LONGEST_ADDRESS = 8000
SAFE = frozenset({"GET", "HEAD", "OPTIONS"})
POLICY = "; ".join((
    "default-src 'self'", "script-src 'self'", "style-src 'self'", "style-src-attr 'unsafe-inline'",
    "img-src 'self' data: blob:", "font-src 'self'", "connect-src 'self'", "object-src 'none'", "base-uri 'none'",
    "form-action 'self'", "frame-ancestors 'none'",
))  # fmt: skip
TOLD = {
    "Content-Security-Policy": POLICY,
    "X-Content-Type-Options": "nosniff",
    "X-Frame-Options": "DENY",
    "Referrer-Policy": "same-origin",
    "Cross-Origin-Opener-Policy": "same-origin",
    "Cross-Origin-Resource-Policy": "same-origin",
}
KEPT_FOR_GOOD = "public, max-age=31536000, immutable"


class Door:
    """Middleware. hosts: names the program answers at beside loopback's."""

    def __init__(self, app: ASGIApp, hosts: Sequence[str] = ()) -> None:
        self.app, self.hosts = app, frozenset(host.lower() for host in (*LOOPBACK, *hosts))

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Refuse what comes under a foreign name or from a foreign page; give every answer its headers."""
        if scope["type"] != "http":
            await self.app(scope, receive, send)
            return

        async def told(message: Message) -> None:
            if message["type"] == "http.response.start":
                _tell(scope["path"], MutableHeaders(scope=message))
            await send(message)

        refusal = self._refusal(scope["method"], Headers(scope=scope))
        if "\0" in scope["path"] or b"%00" in scope["query_string"] or b"\0" in scope["query_string"]:
            refusal = 400, "an address can't hold a NUL character", "nul"
        if len(scope["path"]) + len(scope["query_string"]) > LONGEST_ADDRESS:
            refusal = 414, f"the address is over {LONGEST_ADDRESS} characters", "too_long"
        await (problem(*refusal) if refusal else self.app)(scope, receive, told)

    def _refusal(self, method: str, headers: Headers) -> tuple[int, str, str] | None:
        host = headers.get("host", "")
        if _name_of(f"//{host}") not in self.hosts:
            return 421, "this program does not answer at that address; add it to JUNE_HOSTS if it is yours", "host"
        if method in SAFE:
            return None
        origin = headers.get("origin")
        foreign = origin is not None and origin.partition("://")[2].lower() != host.lower()
        if foreign or headers.get("sec-fetch-site", "same-origin") not in ("same-origin", "none"):
            return 403, "only pages of this program may write here", "origin"
        return None


def _name_of(url: str) -> str:
    try:
        return (urlsplit(url).hostname or "").lower()
    except ValueError:
        return ""


def _tell(path: str, headers: MutableHeaders) -> None:
    for name, value in TOLD.items():
        headers.setdefault(name, value)
    if path.startswith("/assets/"):
        headers["Cache-Control"] = KEPT_FOR_GOOD
    elif path.startswith("/api/"):
        headers.setdefault("Cache-Control", "private, no-cache" if "etag" in headers else "no-store")
