"""What whoever looks after the program asks it: whether it lives, whether it is ready, what it has done.

Metrics are in the Prometheus text format, version 0.0.4; none names a person, a tree or an address. They are told on
loopback only, or to whoever brings the word that JUNE_METRICS_WORD holds.
"""

import hmac
import json
import logging
import time
from datetime import UTC, datetime

from fastapi import APIRouter, Request, Response
from fastapi.responses import JSONResponse
from prometheus_client import CONTENT_TYPE_LATEST, CollectorRegistry, Counter, Gauge, Histogram, generate_latest
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from june_shade.api import errors
from june_shade.plans import watching
from june_shade.plans.work import BusyError, UnavailableError, reading

router = APIRouter(include_in_schema=False)
LOOPBACK = frozenset({"127.0.0.1", "::1", "testclient"})
OTHER = "other"


class Metrics:
    """What this process has answered, and what waits in the database's queue."""

    def __init__(self) -> None:
        self.registry = CollectorRegistry()
        self.answers = Counter(
            "june_answers", "Requests answered.", ["method", "route", "status"], registry=self.registry
        )
        self.seconds = Histogram(
            "june_answer_seconds", "How long an answer took [s].", ["route"], registry=self.registry,
            buckets=(0.01, 0.03, 0.1, 0.3, 1.0, 3.0, 10.0, 30.0),
        )  # fmt: skip
        self.jobs = Gauge("june_jobs", "Jobs of the background, by state.", ["state"], registry=self.registry)
        self.waiting = Gauge("june_oldest_job_seconds", "How long the oldest waits [s].", registry=self.registry)


class Watched:
    """Middleware: counts answers by route, and writes a line of JSON for each, without anything of a person."""

    def __init__(self, app: ASGIApp, metrics: Metrics, *, log: bool = False) -> None:
        self.app, self.metrics, self.log = app, metrics, log

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Pass a request on and time its answer."""
        if scope["type"] != "http":
            await self.app(scope, receive, send)
            return
        began, status = time.monotonic(), 500

        async def seen(message: Message) -> None:
            nonlocal status
            if message["type"] == "http.response.start":
                status = message["status"]
            await send(message)

        try:
            await self.app(scope, receive, seen)
        finally:
            took_s = time.monotonic() - began
            route = _name_of(scope)
            self.metrics.answers.labels(scope["method"], route, str(status)).inc()
            self.metrics.seconds.labels(route).observe(took_s)
            if self.log:
                said = {"method": scope["method"], "route": route, "status": status, "ms": round(took_s * 1000, 1)}
                logging.getLogger("june_shade.answers").info("answered", extra={"said": said})


def _name_of(scope: Scope) -> str:
    """A route's name, never the address that was asked, which holds ids."""
    return getattr(scope.get("route"), "name", OTHER)


class AsJson(logging.Formatter):
    """A line of a log as one JSON object: time, level, logger, words, what belongs to them; a fault with its place."""

    def format(self, record: logging.LogRecord) -> str:
        """The line."""
        line = {
            "at": datetime.fromtimestamp(record.created, UTC).isoformat(timespec="milliseconds"),
            "level": record.levelname.lower(), "of": record.name, "words": record.getMessage(),
            **getattr(record, "said", {}),
        }  # fmt: skip
        if record.exc_info:
            line["fault"] = self.formatException(record.exc_info)
        return json.dumps(line, default=str)


@router.get("/api/alive")
def get_alive() -> dict[str, str]:
    """Whether this process lives."""
    return {"status": "alive"}


@router.get("/api/ready")
def get_ready(request: Request) -> JSONResponse:
    """Whether this process can do its work: the database answers and has the schema that the program needs."""
    try:
        with reading(request.app.state.sessions.of_nobody()) as session:
            missing = watching.missing_schema(session)
    except (UnavailableError, BusyError):
        return JSONResponse({"status": "the database does not answer"}, 503)
    if missing:
        return JSONResponse({"status": "the database waits for a newer schema"}, 503)
    return JSONResponse({"status": "ready"})


@router.get("/api/metrics")
def get_metrics(request: Request) -> Response:
    """What this process has done, in the Prometheus text format."""
    word = request.app.state.settings.metrics_word
    given = request.headers.get("authorization", "").removeprefix("Bearer ")
    here = request.client is not None and request.client.host in LOOPBACK and not request.headers.get("x-forwarded-for")
    if not (hmac.compare_digest(given.encode(), word.encode()) if word else here):
        return errors.problem(403, "metrics are told on this machine only, or with JUNE_METRICS_WORD", "forbidden")
    metrics: Metrics = request.app.state.metrics
    with reading(request.app.state.sessions.of_nobody()) as session:
        states, oldest_s = watching.queue(session)
    for state, count in states.items():
        metrics.jobs.labels(state).set(count)
    metrics.waiting.set(oldest_s)
    return Response(generate_latest(metrics.registry), media_type=CONTENT_TYPE_LATEST)
