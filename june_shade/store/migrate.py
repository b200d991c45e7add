"""Bring a database to the newest schema."""

from pathlib import Path

from alembic import command
from alembic.config import Config
from alembic.script import ScriptDirectory

from june_shade.store.session import psycopg_url


def config(url: str) -> Config:
    """Alembic's configuration for one database; there is no ini file."""
    made = Config()
    made.set_main_option("script_location", str(Path(__file__).parent / "migrations"))
    made.attributes["url"] = psycopg_url(url)
    return made


def upgrade(url: str) -> None:
    """Run all migrations that are missing."""
    command.upgrade(config(url), "head")


def downgrade(url: str, revision: str = "base") -> None:
    """Take migrations back, to an empty database by default."""
    command.downgrade(config(url), revision)


def revisions() -> set[str]:
    """Every schema that this program has had."""
    return {one.revision for one in ScriptDirectory.from_config(config("")).walk_revisions()}
