"""What every route is handed: a session in one transaction, the settings, the weather service.

A page reads from one moment: it waits for no one and writes nothing."""

from collections.abc import Iterator
from typing import Annotated

from fastapi import Depends, Request

from june_shade.outside.forecast import WeatherService
from june_shade.plans.work import Session, SessionMaker, reading, transaction
from june_shade.settings import Settings

READS = frozenset({"GET", "HEAD"})


def _session(request: Request) -> Iterator[Session]:
    with (reading if request.method in READS else transaction)(request.app.state.sessions) as session:
        yield session


def _reading(request: Request) -> Iterator[Session]:
    with reading(request.app.state.sessions) as session:
        yield session


def _writing(request: Request) -> Iterator[Session]:
    with transaction(request.app.state.sessions) as session:
        yield session


def _sessions(request: Request) -> SessionMaker:
    return request.app.state.sessions


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
Sessions = Annotated[SessionMaker, Depends(_sessions)]
"""For a route that reads in several short transactions."""
Config = Annotated[Settings, Depends(_settings)]
Service = Annotated[WeatherService | None, Depends(_service)]
