"""The application: routes, errors, the built interface, and what this process does beside answering."""

import logging
import threading
from collections.abc import AsyncIterator
from contextlib import asynccontextmanager
from functools import cache
from pathlib import Path

import anyio.to_thread
from fastapi import APIRouter, FastAPI, Request
from fastapi.responses import FileResponse, JSONResponse, Response
from fastapi.routing import APIRoute
from fastapi.staticfiles import StaticFiles
from starlette.middleware.gzip import GZipMiddleware
from starlette.routing import BaseRoute

from june_shade import __version__
from june_shade.api import errors, watching
from june_shade.api.bodies import Bodies
from june_shade.api.context import AT_THE_DOOR, known
from june_shade.api.door import Door
from june_shade.api.gate import Gate
from june_shade.api.language import Spoken
from june_shade.api.round import Rounds
from june_shade.api.routers import (
    accounts,
    backups,
    book,
    boxes,
    care,
    choosing,
    drip,
    ground,
    imports,
    log,
    looking,
    mulch,
    own,
    pictures,
    planting,
    probes,
    rehearse,
    saving,
    shares,
    sites,
    soil,
    stock,
    trees,
    weather,
)
from june_shade.api.watching import Metrics, Watched
from june_shade.jobs import Choosing, Worker
from june_shade.outside.forecast import WeatherService, service_at
from june_shade.plans.accounts.known import Known
from june_shade.plans.pictures import folder_at
from june_shade.plans.work import make_engine, make_sessions
from june_shade.settings import Settings

RETRY_EVERY_S = 300.0
NOT_OLD = {"Cache-Control": "no-cache"}
ASKED_ANEW = frozenset({"sw.js", "manifest.webmanifest"})
"""Files by which a phone that has the program along notices that there is a newer one."""
AT_ONCE_EACH_CORE = 4
"""Requests of a kind that are worked on at a time: some wait for the database while others compute."""
logger = logging.getLogger("june_shade")


def create_app(settings: Settings, service: WeatherService | None = None) -> FastAPI:
    """The application for these settings. service: the weather service, by default the one at settings.forecast_url."""
    at_once = AT_ONCE_EACH_CORE * settings.cores
    connections = len(("entries", "pages")) * at_once + len(("the round", "a job", "another"))
    engine = make_engine(settings.database_url, connections) if settings.database_url else None
    door = make_engine(settings.database_url, AT_THE_DOOR) if settings.database_url else None

    @asynccontextmanager
    async def lifespan(app: FastAPI) -> AsyncIterator[None]:
        anyio.to_thread.current_default_thread_limiter().total_tokens = connections
        stop = threading.Event()
        if settings.warm:
            threading.Thread(target=_keep_warm, args=(app, stop), daemon=True).start()
        worker = None
        if settings.works and engine is not None:
            worker = Worker(
                settings.database_url, app.state.sessions, app.state.weather_service, folder_at(settings.pictures),
                Choosing(settings.chooses, settings.choose_seconds),
            )  # fmt: skip
            worker.start()
        yield
        stop.set()
        if worker is not None:
            worker.stop()
        if engine is not None:
            engine.dispose()
        if door is not None:
            door.dispose()

    app = FastAPI(
        title="June Shade",
        version=__version__,
        summary="Water and mulch for newly planted trees, computed from root ball, soil and weather.",
        description="SI units throughout; every name ends in its unit. Errors are problem details (RFC 9457).",
        lifespan=lifespan,
        generate_unique_id_function=_operation_id,
        docs_url=None,
        redoc_url=None,
        openapi_url="/api/openapi.json",
    )
    app.state.settings = settings
    app.state.sessions = make_sessions(engine) if engine is not None else None
    app.state.door = door
    app.state.known = Known(door) if door is not None else None
    app.state.rounds = Rounds(app.state.sessions)
    app.state.weather_service = service or service_at(
        settings.forecast_url, settings.forecast_timeout_s, made_up=settings.forecast_made_up
    )
    app.add_middleware(GZipMiddleware, minimum_size=2000, compresslevel=4)
    app.add_middleware(Gate, at_once=at_once)
    app.add_middleware(Bodies)
    app.add_middleware(Door, hosts=settings.hosts)
    app.state.metrics = Metrics()
    app.add_middleware(Watched, metrics=app.state.metrics, log=settings.log_json)
    app.add_middleware(Spoken)
    errors.install(app)
    app.router.routes.extend(_routes())
    app.include_router(watching.router)
    _serve_interface(app, settings.web_dist)
    return app


@cache
def _routes() -> tuple[BaseRoute, ...]:
    """All that is asked for, read once a process: that takes longer than all else in making an application."""
    api = APIRouter(responses=errors.RESPONSES, dependencies=[known], generate_unique_id_function=_operation_id)
    parts = (
        imports, trees, planting, drip, mulch, care, log, looking, rehearse, book, own, sites, soil, weather,
        stock, backups, choosing, saving, pictures, accounts, shares, boxes, probes, ground,
    )  # fmt: skip
    for part in parts:
        api.include_router(part.router)
    return tuple(api.routes)


def _operation_id(route: APIRoute) -> str:
    return route.name


def _keep_warm(app: FastAPI, stop: threading.Event) -> None:
    """Have the round ready before it is asked for."""
    while True:
        try:
            app.state.rounds.make_ready()
        except Exception:
            logger.exception("the round could not be made ready")
        if stop.wait(RETRY_EVERY_S):
            return


def _serve_interface(app: FastAPI, dist: Path) -> None:
    """The built interface: hashed assets for good, real files as they are, any other path is the page."""
    root = dist.resolve()
    files = {str(file.relative_to(root)) for file in root.rglob("*") if file.is_file()}
    if (root / "assets").is_dir():
        app.mount("/assets", StaticFiles(directory=root / "assets"), name="assets")

    @app.get("/api/{path:path}", include_in_schema=False)
    def unknown(request: Request) -> JSONResponse:
        return errors.not_answered(request)

    @app.get("/{path:path}", include_in_schema=False)
    def page(path: str, request: Request) -> Response:
        if path in files:
            return FileResponse(root / path, headers=NOT_OLD if path in ASKED_ANEW else None)
        if "." in path.rsplit("/", 1)[-1]:
            return errors.problem(404, f"there is no file {path}", "not_found")
        if not (root / "index.html").is_file():
            return errors.problem(404, "the interface is not built: run ./june run", "not_found")
        return FileResponse(root / "index.html", headers=NOT_OLD)
