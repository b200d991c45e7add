"""What whoever looks after the program asks of its database."""

from alembic.script import ScriptDirectory
from sqlalchemy import text
from sqlalchemy.orm import Session

from june_shade.store import migrate
from june_shade.store.jobs import SCHEMA

STATES = ("todo", "doing")


def newest_schema() -> str:
    """The schema that this program needs."""
    return ScriptDirectory.from_config(migrate.config("")).get_current_head() or ""


def schema(session: Session) -> str:
    """The schema that the database has."""
    return str(session.scalar(text("SELECT version_num FROM alembic_version")))


def jobs(session: Session) -> tuple[dict[str, int], float]:
    """How many jobs wait and are done just now, and how long the oldest that waits has been there [s]."""
    counted = dict.fromkeys(STATES, 0)
    query = f"SELECT status::text, count(*) FROM {SCHEMA}.procrastinate_jobs GROUP BY status"
    for state, count in session.execute(text(query)):
        counted[state] = count
    oldest = session.scalar(text(
        f"SELECT extract(epoch FROM now() - min(e.at)) FROM {SCHEMA}.procrastinate_events e "
        f"JOIN {SCHEMA}.procrastinate_jobs j ON j.id = e.job_id WHERE j.status = 'todo' AND e.type = 'deferred'"
    ))  # fmt: skip
    return counted, float(oldest or 0.0)
