"""What every route is handed: who asks, a session in one transaction, the settings, the weather service.

A page reads from one moment: it waits for no one and writes nothing."""

import logging
import re
from asyncio import sleep
from collections.abc import Callable, Iterator
from typing import Annotated, Any
from uuid import UUID

from anyio import CapacityLimiter, to_thread
from anyio.lowlevel import RunVar
from fastapi import Depends, Request
from fastapi.routing import APIRoute
from starlette.types import Message, Receive, Scope, Send

from june_shade.api import access
from june_shade.core.errors import InputError
from june_shade.outside.forecast import WeatherService
from june_shade.plans.accounts import late
from june_shade.plans.accounts.known import Known
from june_shade.plans.accounts.roles import Who
from june_shade.plans.work import Session, SessionMaker, is_collision, reading, transaction
from june_shade.settings import Settings

log = logging.getLogger("june_shade")

TRIES, FIRST_PAUSE_S = 4, 0.05
LAST_TRY = "june_shade.last_try"


def with_ids(path: str) -> str:
    """A route's path that only ids fit where it names one: /trees/same is not the tree `same`."""
    return re.sub(r"\{(\w+_id)\}", r"{\1:uuid}", path)


class Retried(APIRoute):
    """A route whose request is done again where its transaction met another one: nothing of it was stored then."""

    def __init__(self, path: str, endpoint: Callable[..., Any], **options: Any) -> None:
        super().__init__(with_ids(path), endpoint, **options)

    async def handle(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Answer a request, at most TRIES times; what brings a file along only once, since it is read as it comes."""
        if _brings_a_file(scope):
            await super().handle({**scope, LAST_TRY: True}, receive, send)
            return
        messages = [await receive()]
        while messages[-1].get("more_body"):
            messages.append(await receive())
        for number in range(TRIES):
            left = iter(messages)

            async def again(left: Iterator[Message] = left) -> Message:
                return next(left, None) or await receive()

            try:
                await super().handle({**scope, LAST_TRY: number == TRIES - 1}, again, send)
                return
            except Exception as error:
                if not is_collision(error) or number == TRIES - 1:
                    raise
                log.warning("%s %s met another write, try %d", scope["method"], scope["path"], number + 1)
            await sleep(FIRST_PAUSE_S * 2**number)


def _brings_a_file(scope: Scope) -> bool:
    return any(name == b"content-type" and value.startswith(b"multipart/") for name, value in scope["headers"])


def is_last_try(request: Request) -> bool:
    """Whether a request that meets another write is not done again."""
    return bool(request.scope.get(LAST_TRY, True))


READS = frozenset({"GET", "HEAD"})


COOKIE = "june_session"
MADE_UNDER = "june-made-under"
"""Header: the id of the sign-in under which something was entered that is sent later."""
AT_THE_DOOR = 2
"""So many are looked up at a time, off the threads and connections of pages and entries."""


_limiter = RunVar[CapacityLimiter]("at the door")


def _at_the_door() -> CapacityLimiter:
    """What counts them, one for each loop of events."""
    try:
        return _limiter.get()
    except LookupError:
        made = CapacityLimiter(AT_THE_DOOR)
        _limiter.set(made)
        return made


async def _who(request: Request) -> Who | None:
    """Who asks; None where they are not signed in and need not be. Raises SignInError, ForbiddenError."""
    people: Known = request.app.state.known
    token = request.cookies.get(COOKIE)
    found = people.remembered(token)
    who = found.who if found is not None else await to_thread.run_sync(people.who, token, limiter=_at_the_door())
    access.check(request.scope["route"].name, request.method in READS, who)
    return who


async def _not_late(request: Request, who: Annotated[Who | None, Depends(_who)]) -> Who | None:
    """The same, where a phone sends what was entered under an earlier sign-in only if that may still come in."""
    said = request.headers.get(MADE_UNDER)
    if said and who is not None and not who.is_open and request.method not in READS:
        try:
            made_under = UUID(said)
        except ValueError:
            raise InputError("must name a sign-in", MADE_UNDER) from None
        await to_thread.run_sync(_let_in, request.app.state.sessions, who, made_under, limiter=_at_the_door())
    return who


def _let_in(sessions: SessionMaker, who: Who, made_under: UUID) -> None:
    with reading(sessions.of(who.organisation_id)) as session:
        late.check(session, who, made_under)


known = Depends(_not_late)
"""Every route rests on this: who may not do what it does comes no further."""
Asking = Annotated[Who | None, known]


def _sessions(request: Request, who: Asking) -> SessionMaker:
    sessions: SessionMaker = request.app.state.sessions
    return sessions.of(who.organisation_id, who.by) if who is not None else sessions.of_nobody()


Sessions = Annotated[SessionMaker, Depends(_sessions)]
"""For a route that reads in several short transactions."""


def _session(request: Request, sessions: Sessions) -> Iterator[Session]:
    with (reading if request.method in READS else transaction)(sessions) as session:
        yield session


def _reading(sessions: Sessions) -> Iterator[Session]:
    with reading(sessions) as session:
        yield session


def _writing(sessions: Sessions) -> Iterator[Session]:
    with transaction(sessions) as session:
        yield session


def _settings(request: Request) -> Settings:
    return request.app.state.settings


def _service(request: Request) -> WeatherService | None:
    return request.app.state.weather_service


# function scope: the transaction commits before the answer leaves, so that what is told is stored
Db = Annotated[Session, Depends(_session, scope="function")]
Reading = Annotated[Session, Depends(_reading, scope="function")]
"""For a route that is handed something and stores none of it."""
Writing = Annotated[Session, Depends(_writing, scope="function")]
"""For a route that is asked like a page and still keeps what it told."""
Config = Annotated[Settings, Depends(_settings)]
Service = Annotated[WeatherService | None, Depends(_service)]


def who_acts(who: Asking) -> Who:
    """Who asks, where somebody must."""
    assert who is not None
    return who


Acting = Annotated[Who, Depends(who_acts)]
