"""A site held or shared until a transaction ends, and how often it changed."""

from collections.abc import Iterator
from contextlib import contextmanager
from datetime import date
from uuid import UUID

from sqlalchemy import BigInteger, bindparam, func, select, update
from sqlalchemy.orm import Session

from june_shade.store.base import Base
from june_shade.store.session import SessionMaker, transaction
from june_shade.store.site_tables import Site

START_LOCK = 0x7374617274


@contextmanager
def alone_at_start(sessions: SessionMaker) -> Iterator[None]:
    """Fill what is missing while nobody else does: several may start on one database at once."""
    with transaction(sessions) as session:
        session.execute(select(func.pg_advisory_xact_lock(START_LOCK)))
        yield


def lock_site(session: Session, site_id: UUID, *, exclusive: bool) -> None:
    """Hold until the transaction ends: plans share a site, whoever changes what a plan rests on has it alone.

    Without it a plan that read yesterday's log could cache a state that a log entry has just made wrong.
    """
    key = site_id.int & 0x7FFFFFFFFFFFFFFF
    lock = func.pg_advisory_xact_lock if exclusive else func.pg_advisory_xact_lock_shared
    session.connection().execute(select(lock(bindparam("key", key, BigInteger))))


def share_unchanged(session: Session, site_id: UUID, revision: int) -> bool:
    """Share a site as `lock_site` does if nobody has it alone just now; whether it still is at this revision."""
    key = site_id.int & 0x7FFFFFFFFFFFFFFF
    if not session.scalar(select(func.pg_try_advisory_xact_lock_shared(key))):
        return False
    return session.scalar(select(Site.revision).where(Site.id == site_id)) == revision


def bump(session: Session, site_id: UUID, *, wants: bool = False) -> None:
    """Count a site's revision up: whatever was computed of it before is of yesterday. wants: what its trees want has
    changed, so that the plan under limits is too."""
    site = Base.metadata.tables[Site.__tablename__]
    session.connection().execute(
        update(site).where(site.c.id == bindparam("of", site_id))
        .values(revision=site.c.revision + 1, wants_revision=site.c.wants_revision + int(wants))
    )  # fmt: skip


def mark_grown(session: Session, site_id: UUID, day: date) -> None:
    """Write down that a site's laid drip is as its roots have grown by this day."""
    site = Base.metadata.tables[Site.__tablename__]
    session.connection().execute(update(site).where(site.c.id == site_id).values(grown_on=day))
