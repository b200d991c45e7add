"""The book: everything that was done and seen, its numbers, its files, a month of it for the client."""

from collections.abc import Iterator
from typing import Annotated, Any
from uuid import UUID

from fastapi import APIRouter, Depends, Query, Response

from june_shade.api.context import Reading, Retried
from june_shade.api.routers.shape import order_out, routine_out
from june_shade.api.schemas.book import BookKind, BookMonth, BookPage, BookRow, NumbersOut, SheetOut
from june_shade.api.schemas.common import NO_NUL, Called, Day
from june_shade.formats import book_file, sheet_csv
from june_shade.plans import book, clock, sheet
from june_shade.plans.book import KINDS, Asked, Month, Row

router = APIRouter(prefix="/api", tags=["book"], route_class=Retried)
MOST = 500


def _asked(
    site_id: UUID | None = None,
    stop_id: UUID | None = None,
    tree_id: UUID | None = None,
    person_id: UUID | None = None,
    kind: Annotated[list[BookKind] | None, Query(max_length=len(KINDS))] = None,
    first: Day | None = None,
    last: Day | None = None,
    q: Annotated[str, Query(max_length=100, pattern=NO_NUL, description="Words of tag, place or species.")] = "",
    undone: Annotated[bool, Query(description="Also what was taken back.")] = False,
    called: Called = None,
) -> Asked:
    return Asked(site_id, stop_id, tree_id, person_id, tuple(kind or ()), first, last, q, undone, tuple(called or ()))


Filters = Annotated[Asked, Depends(_asked)]


def _row(row: Row) -> BookRow:
    says: dict[str, Any] = dict(row.says)
    if "routine" in says:
        says["routine"] = routine_out(says["routine"])
    own = {name: getattr(row, name) for name in row.__dataclass_fields__ if name != "says"}
    return BookRow.model_validate(own | says)


@router.get("/book")
def get_book(
    session: Reading, asked: Filters, limit: Annotated[int, Query(ge=1, le=MOST)] = 100,
    offset: Annotated[int, Query(ge=0, le=1_000_000)] = 0,
) -> BookPage:  # fmt: skip
    """Rows of the book, the newest first."""
    count, rows = book.page(session, asked, limit, offset)
    return BookPage(count=count, rows=[_row(row) for row in rows])


@router.get("/book/numbers")
def get_numbers(session: Reading, asked: Filters) -> NumbersOut:
    """What days of the book add up to."""
    return NumbersOut.model_validate(book.numbers(session, asked))


@router.get("/book/month")
def get_month(session: Reading, site_id: UUID, month: Day) -> BookMonth:
    """A month of a site for its client.

    month: any day of it.
    """
    return month_out(book.month(session, site_id, month))


def month_out(found: Month) -> BookMonth:
    """A month of a site as it goes out."""
    own = {name: getattr(found, name) for name in ("first", "last", "numbers", "days", "rain_mm", "standing")}
    told = {"site_id": found.site.id, "site_name": found.site.name, "rows": [_row(row) for row in found.rows]}
    return BookMonth.model_validate(own | told)


@router.get("/book/sheet")
def get_sheet(
    session: Reading, first: Day | None = None, last: Day | None = None, site_id: UUID | None = None
) -> SheetOut:  # fmt: skip
    """What was ordered, done and lost, for a client or an authority; the last four weeks where no dates are given."""
    found = sheet.sheet(session, site_id, first, last)
    own = {name: getattr(found, name) for name in SheetOut.model_fields if hasattr(found, name)}
    named = None if found.site is None else found.site.name
    return SheetOut.model_validate(own | {"site_name": named, "orders": [order_out(one) for one in found.orders]})


@router.get("/book/sheet.csv", response_class=Response, responses={200: {"content": {"text/csv": {}}}})
def get_sheet_csv(
    session: Reading, first: Day | None = None, last: Day | None = None, site_id: UUID | None = None
) -> Response:  # fmt: skip
    """The same as CSV, day by day."""
    found = sheet.sheet(session, site_id, first, last)
    return _file(sheet_csv.lines(found), f"water-{found.first}-{found.last}.csv")


CSV, LINES = "text/csv; charset=utf-8", "application/jsonl"


def _file(lines: Iterator[str], name: str, media: str = CSV) -> Response:
    return Response("".join(lines), media_type=media, headers={"Content-Disposition": f"attachment; filename={name}"})


def _of_book(session: Reading, ending: str) -> str:
    return f"book-{clock.now(session).date()}.{ending}"


@router.get("/book.csv", response_class=Response, responses={200: {"content": {"text/csv": {}}}})
def get_book_csv(session: Reading, asked: Filters) -> Response:
    """The book as CSV."""
    return _file(book_file.csv_lines(book.all_rows(session, asked)), _of_book(session, "csv"))


@router.get("/book.jsonl", response_class=Response, responses={200: {"content": {"application/jsonl": {}}}})
def get_book_jsonl(session: Reading, asked: Filters) -> Response:
    """The book as JSON Lines."""
    return _file(book_file.json_lines(book.all_rows(session, asked)), _of_book(session, "jsonl"), LINES)
