"""Alembic's environment: one engine from the configuration's URL, migrations in one transaction."""

from alembic import context
from sqlalchemy import create_engine, func, pool, select

from june_shade.store import (  # noqa: F401 - read to be known
    account_tables,
    box_tables,
    care_tables,
    choice_tables,
    clock_tables,
    crew_tables,
    drip_tables,
    ground_tables,
    import_tables,
    limit_tables,
    log_tables,
    mulch_tables,
    organisation_tables,
    picture_tables,
    planting_tables,
    probe_tables,
    site_tables,
    tree_tables,
    weather_tables,
)
from june_shade.store.base import Base

UPGRADE_LOCK = 0x75706772616465
engine = create_engine(
    context.config.attributes["url"], poolclass=pool.NullPool, connect_args={"options": "-c june.organisation=all"}
)  # a change of the schema is of all organisations
with engine.connect() as connection:
    context.configure(connection=connection, target_metadata=Base.metadata, compare_type=True)
    with context.begin_transaction():
        connection.execute(select(func.pg_advisory_xact_lock(UPGRADE_LOCK)))  # several may start at once
        context.run_migrations()
