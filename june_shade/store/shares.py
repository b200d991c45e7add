"""Queries on what is shown to clients, and on people's own calendars."""

from collections.abc import Sequence
from datetime import datetime
from typing import Any
from uuid import UUID

from sqlalchemy import ColumnElement, func, literal, select

from june_shade.store.account_tables import Account, AuditEntry
from june_shade.store.care_tables import CareAct
from june_shade.store.log_tables import LogEntry, Person
from june_shade.store.looking_tables import TreeCheckup
from june_shade.store.mulch_tables import MulchEntry
from june_shade.store.session import Session
from june_shade.store.share_tables import PersonFeed, Share
from june_shade.store.tree_tables import TreeEnd

SIGNED = {"care": CareAct, "checkup": TreeCheckup, "mulch": MulchEntry, "ended": TreeEnd}


def shares(session: Session, site_id: UUID | None = None, account_id: UUID | None = None) -> Sequence[Share]:
    """Links that were made, the newest first: of a site, to an account."""
    query = select(Share).order_by(Share.made_at.desc(), Share.id)
    if site_id is not None:
        query = query.where(Share.site_id == site_id)
    if account_id is not None:
        query = query.where(Share.account_id == account_id)
    return session.scalars(query).all()


def share_of(session: Session, secret: str) -> Share | None:
    """The link with a secret, whatever its state."""
    return session.scalars(select(Share).where(Share.secret == secret)).first()


def share_organisation(session: Session, secret: str) -> UUID | None:
    """The organisation that a link is of."""
    return session.scalar(select(Share.organisation_id).where(Share.secret == secret))


def person_feed(session: Session, account_id: UUID) -> PersonFeed | None:
    """A person's own calendar, where they have one."""
    return session.get(PersonFeed, account_id)


def feed_person(session: Session, secret: str) -> tuple[UUID, UUID] | None:
    """The organisation and the account whose calendar has a secret; an account that is closed has none."""
    query = (
        select(PersonFeed.organisation_id, PersonFeed.account_id)
        .join(Account, Account.id == PersonFeed.account_id)
        .where(PersonFeed.secret == secret, Account.closed_at.is_(None))
    )
    row = session.execute(query).first()
    return None if row is None else (row[0], row[1])


def entered_since(session: Session, since: datetime, but: UUID | None) -> list[tuple[str, str | None, int]]:
    """What others entered since a moment: kind, by whom, how often. but: the account whose own entries are left out."""
    found: list[tuple[str, str | None, int]] = []
    tables: list[tuple[ColumnElement[str], Any]] = [(literal(name), table) for name, table in SIGNED.items()]
    for kind, table in ((LogEntry.kind.expression, LogEntry), *tables):
        query = (
            select(kind, Person.name, func.count())
            .select_from(table)
            .outerjoin(Account, Account.id == table.entered_by)
            .outerjoin(Person, Person.id == Account.person_id)
            .where(table.recorded_at > since)
            .group_by(kind, Person.name)
        )
        if but is not None:
            query = query.where(table.entered_by.is_distinct_from(but))
        found += [(row[0], row[1], row[2]) for row in session.execute(query)]
    return found


def settings_since(session: Session, since: datetime, but: UUID | None) -> list[tuple[str, str | None, int]]:
    """Settings that others changed since a moment: what, by whom, how often."""
    query = (
        select(AuditEntry.what, Person.name, func.count())
        .outerjoin(Account, Account.id == AuditEntry.account_id)
        .outerjoin(Person, Person.id == Account.person_id)
        .where(AuditEntry.at > since)
        .group_by(AuditEntry.what, Person.name)
    )
    if but is not None:
        query = query.where(AuditEntry.account_id.is_distinct_from(but))
    return [(row[0], row[1], row[2]) for row in session.execute(query)]
