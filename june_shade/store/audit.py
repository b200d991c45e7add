"""Who did what to settings: noted by itself whenever a session writes a row of one, from what to what."""

from datetime import date, datetime, time
from decimal import Decimal
from typing import Any
from uuid import UUID

from sqlalchemy import event, insert, inspect
from sqlalchemy.orm import Session, UOWTransaction

from june_shade.store.account_tables import Account, AuditEntry, LateAsk
from june_shade.store.base import Base
from june_shade.store.box_tables import ValveBox
from june_shade.store.crew_tables import Crew
from june_shade.store.limit_tables import Restriction
from june_shade.store.log_tables import Person
from june_shade.store.organisation_tables import Organisation
from june_shade.store.probe_tables import SoilProbe
from june_shade.store.session import SessionMaker, account_of
from june_shade.store.site_tables import Line, Site, Stop
from june_shade.store.tree_tables import Plant, StockSize, Tree
from june_shade.store.weather_tables import Station

SETTINGS = (
    Organisation,
    Account,
    Site,
    Station,
    Stop,
    Line,
    Plant,
    StockSize,
    Crew,
    Restriction,
    Person,
    Tree,
    LateAsk,
    ValveBox,
    SoilProbe,
)
ENTERED_ELSEWHERE = (Tree, Person, StockSize, LateAsk)
"""Rows that come in by the thousand, or by themselves: only what changes of them is noted."""
COUNTERS = frozenset({
    "version", "revision", "wants_revision", "grown_on", "forecast_fetched_at", "forecast_failed_at", "forecast_error",
    "forecast_made_up", "organisation_id", "id", "seen_at", "said_at", "said_by", "items", "asked_at",
})  # fmt: skip
SECRET = frozenset({"password_hash", "pin_hash"})
LONGEST = 200


def listen(sessions: SessionMaker) -> None:
    """Have every session note what it changes of settings."""
    event.listen(sessions, "after_flush", _note)


def _note(session: Session, flushed: UOWTransaction) -> None:
    if account_of(session) is None:  # nobody to name
        return
    rows = [_row(session, one, None, _values(one)) for one in session.new if _is_noted(one, new=True)]
    for one in session.dirty:
        if _is_noted(one, new=False):
            before, after = _changed(one)
            if after:
                rows.append(_row(session, one, before, after))
    rows += [_row(session, one, _values(one), None) for one in session.deleted if _is_noted(one, new=False)]
    if rows:
        session.connection().execute(insert(AuditEntry), rows)


def _is_noted(row: object, *, new: bool) -> bool:
    return isinstance(row, SETTINGS) and not (new and isinstance(row, ENTERED_ELSEWHERE))


def _row(session: Session, of: Any, before: dict[str, Any] | None, after: dict[str, Any] | None) -> dict[str, Any]:
    name = next((str(getattr(of, n)) for n in ("name", "tag", "common", "sign_in", "label") if hasattr(of, n)), "")
    return {
        "account_id": account_of(session), "what": type(of).__tablename__, "of_id": str(of.id), "name": name,
        "before": before, "after": after,
    }  # fmt: skip


def _changed(row: Base) -> tuple[dict[str, Any], dict[str, Any]]:
    before, after = {}, {}
    for attribute in inspect(row).mapper.column_attrs:
        history = inspect(row).attrs[attribute.key].history
        if attribute.key in COUNTERS or not history.has_changes():
            continue
        was, now = (history.deleted or [None])[0], (history.added or [None])[0]
        if was != now:
            before[attribute.key], after[attribute.key] = _told(attribute.key, was), _told(attribute.key, now)
    return before, after


def _values(row: Base) -> dict[str, Any]:
    loaded = inspect(row).dict
    return {
        attribute.key: _told(attribute.key, loaded[attribute.key]) for attribute in inspect(row).mapper.column_attrs
        if attribute.key in loaded and attribute.key not in COUNTERS and loaded[attribute.key] is not None
    }  # fmt: skip


def _told(name: str, value: Any) -> Any:
    if name in SECRET:
        return None if value is None else "(secret)"
    if isinstance(value, UUID | date | datetime | time | Decimal):
        return str(value)
    if isinstance(value, str):
        return value[:LONGEST]
    return value
