"""What every route is handed: a session in one transaction, the settings, the weather service."""

from collections.abc import Iterator
from typing import Annotated

from fastapi import Depends, Request

from june_shade.outside.forecast import WeatherService
from june_shade.plans.work import Session, SessionMaker
from june_shade.settings import Settings


def _session(request: Request) -> Iterator[Session]:
    with request.app.state.sessions() as session, session.begin():
        yield session


def _sessions(request: Request) -> SessionMaker:
    return request.app.state.sessions


def _settings(request: Request) -> Settings:
    return request.app.state.settings


def _service(request: Request) -> WeatherService | None:
    return request.app.state.weather_service


# function scope: the transaction commits before the answer leaves, so that what is told is stored
Db = Annotated[Session, Depends(_session, scope="function")]
Sessions = Annotated[SessionMaker, Depends(_sessions)]
"""For a route that reads in several short transactions."""
Config = Annotated[Settings, Depends(_settings)]
Service = Annotated[WeatherService | None, Depends(_service)]
