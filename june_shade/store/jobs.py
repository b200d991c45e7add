"""The queue of the background's jobs, in the same database: a job is there when what it is about is, or neither."""

from typing import Any
from uuid import UUID

from procrastinate import App, SyncPsycopgConnector
from procrastinate.exceptions import AlreadyEnqueued as AlreadyEnqueued
from sqlalchemy import text
from sqlalchemy.orm import Session

from june_shade.store.session import organisation_of

SCHEMA, QUEUE = "jobs", "june"
IMPORT, FORECASTS, GROWTH, PLANS, LEARN = "import", "forecasts", "growth", "plans", "learn"
CHOOSE, CHOOSE_NOW, COMPARE, SWEEP = "choose", "choose now", "compare", "sweep"
BOXES, PROBES = "boxes", "probes"
"""Names of the tasks; what they do stands in june_shade/jobs.py."""

_app = App(connector=SyncPsycopgConnector())  # is never opened: each job is put in through a session's own connection


def conninfo(url: str) -> str:
    """A database's address as its own client library takes it."""
    return url.replace("postgresql+psycopg://", "postgresql://", 1)


def defer(session: Session, task: str, *, once: str | None = None, lock: str | None = None, **given: Any) -> None:
    """Have a task done once this transaction is through.

    once: a name, while a job of it waits no other is put in. lock: jobs of one lock are done one after another.
    """
    session.flush()
    raw = session.connection().connection.driver_connection
    asked = _app.configure_task(task, connection=raw, queueing_lock=once, lock=lock, queue=QUEUE)
    try:
        with session.begin_nested():
            session.execute(text(f"SET LOCAL search_path TO {SCHEMA}"))
            asked.defer(**given)
            session.execute(text("SET LOCAL search_path TO DEFAULT"))
    except AlreadyEnqueued:
        pass


def choose_now(session: Session, *, soon: bool) -> None:
    """Have the plan under limits chosen again once this transaction is through, however young the last one is.

    soon: somebody waits for it at the truck: a good plan in a few seconds.
    """
    ours = organisation_of(session)
    defer(session, CHOOSE_NOW, once=f"{CHOOSE_NOW} {ours} {soon}", lock=CHOOSE, organisation=str(ours), soon=soon)


def learn(session: Session, site_id: UUID) -> None:
    """Have the readings of a site gone through once this transaction is through."""
    name, ours = f"learn {site_id}", organisation_of(session)
    defer(session, LEARN, once=name, lock=name, organisation=str(ours), site_id=str(site_id))


def bring_in(session: Session, import_id: UUID) -> None:
    """Have an import worked on once this transaction is through."""
    name, ours = f"import {import_id}", organisation_of(session)
    defer(session, IMPORT, once=name, lock=name, organisation=str(ours), import_id=str(import_id))
