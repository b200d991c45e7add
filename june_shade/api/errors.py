"""Errors as RFC 9457 problem details: one table from error class to status; each names its field."""

import logging
import re
from datetime import date
from typing import Any, Literal
from uuid import uuid4

from fastapi import FastAPI, Request
from fastapi.exceptions import RequestValidationError
from fastapi.responses import JSONResponse
from pydantic import BaseModel, Field
from starlette.exceptions import HTTPException
from starlette.routing import compile_path

from june_shade.api.context import is_last_try, with_ids
from june_shade.api.language import Sentence, here
from june_shade.core import errors
from june_shade.formats.weather_csv import HeaderError
from june_shade.outside.forecast import ServiceError
from june_shade.plans.work import (
    BusyError,
    OvertakenError,
    RefusedError,
    StatementError,
    UnavailableError,
    constraint_of,
    is_collision,
    is_disk_full,
    is_not_ours,
)

STATUS: dict[type[errors.JuneShadeError], int] = {
    errors.JuneShadeError: 500,
    errors.InputError: 422,
    errors.UnknownKeyError: 422,
    errors.TooLargeError: 413,
    errors.NotFoundError: 404,
    errors.ConflictError: 409,
    errors.StaleError: 409,
    errors.AgainError: 409,
    errors.NoWeatherError: 409,
    errors.NoRoomError: 507,
    errors.SignInError: 401,
    errors.ForbiddenError: 403,
    errors.LateError: 403,
    errors.LateRefusedError: 403,
    errors.TooManyTriesError: 429,
    HeaderError: 422,
    ServiceError: 502,
}
TITLES = {
    401: "Sign in",
    403: "Not yours to do",
    404: "Not found",
    409: "At odds with what is stored",
    413: "Too large",
    429: "Too many tries",
    422: "Something typed can't be",
    500: "Something went wrong here",
    502: "A service outside failed",
    503: "The database does not answer",
    507: "No room on the disk",
}
COME_AGAIN_S = 1
UNFIT = "does not fit what is stored, and nothing was changed: load the page again and check it"
FULL = "the disk is full: nothing was stored. Everything can still be read; make room and try again"
MEDIA_TYPE = "application/problem+json"
log = logging.getLogger("june_shade")


class FieldProblem(BaseModel):
    """One value that was refused."""

    field: str = Field(description="Dotted name of the value.")
    detail: Sentence = Field(description="What is wrong with it and what would be right.")
    rule: Literal["above", "at_least", "at_most"] | None = Field(None, description="Where a number is out of range.")
    limit: float | None = Field(None, description="With rule: the limit, in the field's own unit.")


class Difference(BaseModel):
    """A value that someone else changed meanwhile."""

    field: str
    sent: Any = Field(description="What this write would have stored.")
    stored: Any = Field(description="What is stored now.")


class Problem(BaseModel):
    """Problem details (RFC 9457)."""

    type: str = "about:blank"
    title: Sentence
    status: int
    detail: Sentence
    code: str = Field(description="Stable word for the kind of error.")
    field: str = Field("", description="Dotted name of the value concerned, if one.")
    errors: list[FieldProblem] = Field(
        default_factory=list, description="Every refused value, where there are several."
    )
    differences: list[Difference] = Field(default_factory=list, description="Code stale: what differs.")
    version: int | None = Field(None, description="Code stale: the version stored now; send it to overwrite.")


def problem(
    status: int, detail: str, code: str, field: str = "", found: list[FieldProblem] | None = None, **more: Any
) -> JSONResponse:
    """A problem response."""
    title = TITLES.get(status, "Error")
    body = Problem(title=title, status=status, detail=detail, code=code, field=field, errors=found or [], **more)
    headers = {"Retry-After": str(COME_AGAIN_S)} if status == 503 else None
    return JSONResponse(body.model_dump(mode="json"), status, headers, media_type=MEDIA_TYPE)


def not_answered(request: Request) -> JSONResponse:
    """405 with what an address does answer to, 404 where that is nothing."""
    paths = ((compile_path(with_ids(path))[0], methods) for path, methods in request.app.openapi()["paths"].items())
    allowed = {method.upper() for regex, methods in paths if regex.match(request.url.path) for method in methods}
    if not allowed:
        return problem(404, f"there is nothing at {request.url.path[:100]}", "not_found")
    made = problem(405, f"{request.method} means nothing at {request.url.path[:100]}", "http")
    made.headers["Allow"] = ", ".join(sorted(allowed))
    return made


LIMITS: dict[str, tuple[Literal["above", "at_least", "at_most"], str]] = {
    "greater_than": ("above", "gt"), "greater_than_equal": ("at_least", "ge"), "less_than_equal": ("at_most", "le"),
}  # fmt: skip


def _field_problem(error: dict) -> FieldProblem:
    """One of Pydantic's errors, in our words."""
    field = ".".join(str(part) for part in error["loc"] if part not in ("body", "query", "path"))
    rule, key = LIMITS.get(error["type"], (None, ""))
    sentence = _sentence(error)
    if error["type"] == "value_error" and (named := re.match(r"(\w+): (.*)", sentence, re.S)):
        field, sentence = f"{field}.{named[1]}".removeprefix("."), named[2]
    limit = error["ctx"][key] if rule else None
    if not isinstance(limit, (int, float)):
        rule = limit = None
    return FieldProblem(field=field, detail=sentence, rule=rule, limit=limit)


def _sentence(error: dict) -> str:
    limits = error.get("ctx", {})
    given = error.get("input")
    if isinstance(given, float):
        given = float(f"{given:.6g}")
    shown = f", not {given!r}" if isinstance(given, (int, float, str)) and len(str(given)) < 40 else ""
    if error["type"] in LIMITS:
        rule, key = LIMITS[error["type"]]
        limit = limits[key]
        return f"must be {rule.replace('_', ' ')} {limit if isinstance(limit, (date, str)) else f'{limit:g}'}{shown}"
    match error["type"]:
        case "missing":
            return "is required"
        case "float_parsing" | "float_type" | "int_parsing" | "int_type" | "int_from_float":
            return f"must be a number{shown}"
        case "extra_forbidden":
            return "is not known here"
        case "value_error":
            return str(limits.get("error", error["msg"]))
        case _:
            return error["msg"][:1].lower() + error["msg"][1:] + shown


def install(app: FastAPI) -> None:
    """Attach the handlers."""

    @app.exception_handler(errors.JuneShadeError)
    def ours(_: Request, error: errors.JuneShadeError) -> JSONResponse:
        status = next(STATUS[kind] for kind in type(error).__mro__ if kind in STATUS)
        if isinstance(error, errors.StaleError):
            found = [Difference(field=f, sent=sent, stored=stored) for f, sent, stored in error.differences]
            return problem(status, error.message, error.code, error.field, differences=found, version=error.version)
        made = problem(status, error.message, error.code, error.field)
        if isinstance(error, errors.TooManyTriesError):
            made.headers["Retry-After"] = str(error.wait_s)
        return made

    @app.exception_handler(RequestValidationError)
    def invalid(_: Request, error: RequestValidationError) -> JSONResponse:
        found = [_field_problem(item) for item in error.errors()]
        first = found[0]
        return problem(422, f"{first.field} {here(first.detail)}".strip(), "invalid_input", first.field, found)

    @app.exception_handler(HTTPException)
    def http(request: Request, error: HTTPException) -> JSONResponse:
        if error.status_code == 405:
            return not_answered(request)
        made = problem(error.status_code, str(error.detail), "http")
        made.headers.update(error.headers or {})
        return made

    @app.exception_handler(RefusedError)
    def refused_by_database(_: Request, error: RefusedError) -> JSONResponse:
        log.warning("refused by the database: %s", constraint_of(error))
        return problem(409, UNFIT, "conflict")

    @app.exception_handler(StatementError)
    def not_ours(request: Request, error: StatementError) -> JSONResponse:
        if not is_not_ours(error):
            return unforeseen(request, error)
        log.warning("names a row that is another organisation's, or nobody's")
        return problem(409, UNFIT, "conflict")

    @app.exception_handler(OvertakenError)
    def overtaken(_: Request, error: OvertakenError) -> JSONResponse:
        log.warning("overtaken: %s", error)
        return problem(409, "someone else changed this at the same moment: load it again", "conflict")

    @app.exception_handler(UnavailableError)
    def no_database(request: Request, error: UnavailableError) -> JSONResponse:
        if is_collision(error):
            if not is_last_try(request):
                raise error
            return busy(error)
        if is_disk_full(error):
            log.error("disk full: %s", error)
            return problem(507, FULL, "disk_full")
        log.error("database: %s", error)
        return problem(503, "the database does not answer; try again in a moment", "database_unavailable")

    @app.exception_handler(BusyError)
    def none_free(_: Request, error: BusyError) -> JSONResponse:
        log.warning("no connection was free: %s", error)
        return problem(503, "too many are asking at this moment; try again", "busy")

    def busy(error: Exception) -> JSONResponse:
        log.warning("met other writes again and again: %s", error)
        return problem(503, "others were writing here at the same moment; try again", "busy")

    @app.exception_handler(Exception)
    def unforeseen(_: Request, error: Exception) -> JSONResponse:
        if is_collision(error):
            return busy(error)
        number = uuid4().hex[:8]
        log.exception("error %s", number, exc_info=error)
        return problem(500, f"an error that was not foreseen, number {number}; nothing was stored", "unforeseen")


RESPONSES: dict[int | str, dict] = {
    "4XX": {"model": Problem, "description": "What was wrong, as problem details", "content": {MEDIA_TYPE: {}}},
}
