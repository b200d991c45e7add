"""Which language whoever asks reads: by the header `Accept-Language`, for as long as one request is answered."""

import json
import re
from contextvars import ContextVar
from typing import Annotated, Any, Literal

from fastapi import Query
from pydantic import PlainSerializer
from starlette.datastructures import Headers
from starlette.types import ASGIApp, Receive, Scope, Send

from june_shade.formats.sentences import LANGUAGES, said

_spoken: ContextVar[str] = ContextVar("language", default=LANGUAGES[0])
_WANTED = re.compile(r"\s*([a-zA-Z]{1,8})(?:-[\w-]*)?\s*(?:;\s*q=([\d.]+))?\s*")

LanguageCode = Literal["en", "es"]
Language = Annotated[LanguageCode, Query(description="Of the words in it.")]


def spoken() -> str:
    """The language of the request that is being answered."""
    return _spoken.get()


def here(sentence: str) -> str:
    """A sentence of the program in the language of the request that is being answered."""
    return said(sentence, spoken())


Sentence = Annotated[str, PlainSerializer(here, return_type=str)]
"""What the program says to a person, in the language that they read."""


def wanted(header: str) -> str:
    """The language that an `Accept-Language` wants most of those that are there (RFC 9110, 12.5.4)."""
    best, most = LANGUAGES[0], 0.0
    for part in header.split(","):
        found = _WANTED.fullmatch(part)
        if found is None or found[1].lower() not in LANGUAGES:
            continue
        try:
            weight = float(found[2] or 1)
        except ValueError:
            continue
        if weight > most:
            best, most = found[1].lower(), weight
    return best


class Spoken:
    """Middleware that notes the language for all that answers one request."""

    def __init__(self, app: ASGIApp) -> None:
        self.app = app

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Pass a request on."""
        if scope["type"] != "http":
            await self.app(scope, receive, send)
            return
        token = _spoken.set(wanted(Headers(scope=scope).get("accept-language", "")))
        try:
            await self.app(scope, receive, send)
        finally:
            _spoken.reset(token)


def in_language(body: bytes) -> bytes:
    """A kept answer, made once for all who ask, with its `problem` sentences in the language of this one."""
    if spoken() == LANGUAGES[0] or b'"problem":"' not in body:
        return body
    return json.dumps(_with_problems(json.loads(body)), ensure_ascii=False, separators=(",", ":")).encode()


def _with_problems(told: Any) -> Any:
    if isinstance(told, list):
        return [_with_problems(one) for one in told]
    if not isinstance(told, dict):
        return told
    return {
        name: here(one) if name == "problem" and isinstance(one, str) else _with_problems(one)
        for name, one in told.items()
    }
