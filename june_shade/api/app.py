"""The application: routes, errors, the built interface, and a thread that keeps forecasts fresh."""

import logging
import threading
from collections.abc import AsyncIterator
from contextlib import asynccontextmanager
from datetime import date
from pathlib import Path

import anyio.to_thread
from fastapi import FastAPI, Request
from fastapi.responses import FileResponse, JSONResponse, Response
from fastapi.routing import APIRoute
from fastapi.staticfiles import StaticFiles
from starlette.middleware.gzip import GZipMiddleware

from june_shade import __version__
from june_shade.api import errors
from june_shade.api.bodies import Bodies
from june_shade.api.door import Door
from june_shade.api.gate import Gate
from june_shade.api.round import Round
from june_shade.api.routers import backups, care, drip, log, mulch, planting, sites, soil, stock, trees, weather
from june_shade.outside.forecast import HttpWeatherService, WeatherService
from june_shade.plans import changes, clock, forecast
from june_shade.plans.drip import layouts
from june_shade.plans.work import make_engine, make_sessions, transaction
from june_shade.settings import Settings

RETRY_EVERY_S = 300.0
AT_ONCE_EACH_CORE = 4
"""Requests of a kind that are worked on at a time: some wait for the database while others compute."""
logger = logging.getLogger("june_shade")


def create_app(settings: Settings, service: WeatherService | None = None) -> FastAPI:
    """The application for these settings. service: the weather service, by default the one at settings.forecast_url."""
    at_once = AT_ONCE_EACH_CORE * settings.cores
    connections = len(("entries", "pages")) * at_once + len(("the round", "forecasts", "growth"))
    engine = make_engine(settings.database_url, connections) if settings.database_url else None

    @asynccontextmanager
    async def lifespan(app: FastAPI) -> AsyncIterator[None]:
        anyio.to_thread.current_default_thread_limiter().total_tokens = connections
        stop = threading.Event()
        keeper = threading.Thread(target=_keep_up, args=(app, stop), daemon=True)
        if app.state.weather_service is not None or settings.warm:
            keeper.start()
        yield
        stop.set()
        if engine is not None:
            engine.dispose()

    app = FastAPI(
        title="June Shade",
        version=__version__,
        summary="Water and mulch for newly planted trees, computed from root ball, soil and weather.",
        description="SI units throughout; every name ends in its unit. Errors are problem details (RFC 9457).",
        lifespan=lifespan,
        responses=errors.RESPONSES,
        generate_unique_id_function=_operation_id,
        docs_url=None,
        redoc_url=None,
        openapi_url="/api/openapi.json",
    )
    app.state.settings = settings
    app.state.sessions = make_sessions(engine) if engine is not None else None
    app.state.round = Round(app.state.sessions)
    app.state.weather_service = service or (
        HttpWeatherService(settings.forecast_url, settings.forecast_timeout_s, made_up=settings.forecast_made_up)
        if settings.forecast_url
        else None
    )
    app.add_middleware(GZipMiddleware, minimum_size=2000, compresslevel=4)
    app.add_middleware(Gate, at_once=at_once)
    app.add_middleware(Bodies)
    app.add_middleware(Door, hosts=settings.hosts)
    errors.install(app)
    for part in (trees, planting, drip, mulch, care, log, sites, soil, weather, stock, backups):
        app.include_router(part.router)
    _serve_interface(app, settings.web_dist)
    return app


def _operation_id(route: APIRoute) -> str:
    return route.name


def _keep_up(app: FastAPI, stop: threading.Event) -> None:
    """Fetch each station's forecast every few hours, after a failure sooner; once a day let laid drip grow with the
    roots: what it does, and when it is outgrown; have the round ready before it is asked for."""
    grown_on: date | None = None
    while True:
        try:
            if app.state.weather_service is not None:
                forecast.refresh_all(app.state.sessions, app.state.weather_service)
            if app.state.settings.warm:
                app.state.round.get().result()
            with transaction(app.state.sessions) as session:
                today = clock.now(session).date()
                sites = layouts.sites_with_drip(session) if grown_on != today else []
            for site_id in sites:  # one at a time, so that nobody who logs water waits for all of them
                with transaction(app.state.sessions) as session:
                    changes.grown(session, site_id)
            grown_on = today
        except Exception:
            logger.exception("forecasts or round could not be made ready")
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
            return FileResponse(root / path)
        if "." in path.rsplit("/", 1)[-1]:
            return errors.problem(404, f"there is no file {path}", "not_found")
        if not (root / "index.html").is_file():
            return errors.problem(404, "the interface is not built: run ./june run", "not_found")
        return FileResponse(root / "index.html", headers={"Cache-Control": "no-cache"})
