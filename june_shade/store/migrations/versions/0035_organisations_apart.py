"""Every row is an organisation's, and a transaction sees its own organisation's only."""

import sqlalchemy as sa
from alembic import op

from june_shade.store.migrations.apart import FIRST, keep_apart, let_together

revision = "0035"
down_revision = "0034"

PERSON, TREE, SITE = {"person_id": "person"}, {"tree_id": "tree"}, {"site_id": "site"}
TABLES = {
    "person": {}, "plant": {}, "station": {}, "stock_move": {}, "stock_size": {}, "chosen_plan": {}, "crew": {},
    "part_price": {}, "plans_beside": {}, "restriction": {},
    "forecast_day": {"station_id": "station"}, "import": {"station_id": "station"},
    "crew_day": {"crew_id": "crew"}, "replaced_day": {"before_id": "import", "import_id": "import"},
    "site": {"station_id": "station", "crew_id": "crew"},
    "station_day": {"station_id": "station", "import_id": "import"},
    "calendar_feed": SITE, "gauge_day": SITE, "line": SITE, "soil_test": SITE, "stop": SITE,
    "planting": SITE | {"plant_id": "plant", "stock_size_id": "stock_size"},
    "restriction_site": SITE | {"restriction_id": "restriction"}, "site_loan": SITE | {"crew_id": "crew"},
    "tree": SITE | {
        "planting_id": "planting", "line_id": "line", "stop_id": "stop", "plant_id": "plant",
        "stock_size_id": "stock_size", "layout_id": "drip_layout",
    },
    "care_act": TREE | {"planting_id": "planting"}, "care_published": TREE | {"planting_id": "planting"},
    "chosen_tree": TREE, "drip_layout": TREE, "drip_proof": TREE, "let_go": TREE, "log_entry": TREE | PERSON,
    "mulch_entry": TREE, "own_act": TREE | PERSON, "proposed_mode": TREE, "routine_choice": TREE | PERSON,
    "saving_task": TREE, "thirst_answer": TREE | PERSON, "tree_checkup": TREE | PERSON, "tree_end": TREE | PERSON,
    "tree_fit": TREE, "tree_picture": TREE | PERSON, "tree_state": TREE, "visit_wish": TREE | PERSON,
    "former_way": TREE | {"layout_id": "drip_layout"},
}  # fmt: skip
HAD_IT = {"site", "crew", "restriction", "chosen_plan", "plans_beside", "part_price"}
NAMES = (("site", "name"), ("station", "name"), ("person", "name"), ("plant", "botanical"), ("stock_size", "label"))


def upgrade() -> None:
    op.execute("""
        CREATE FUNCTION organisation_now() RETURNS uuid LANGUAGE sql STABLE PARALLEL SAFE AS
        $$ SELECT nullif(nullif(current_setting('june.organisation', true), ''), 'all')::uuid $$
    """)
    op.execute("""
        CREATE FUNCTION organisations_all() RETURNS boolean LANGUAGE sql STABLE PARALLEL SAFE AS
        $$ SELECT coalesce(current_setting('june.organisation', true) = 'all', false) $$
    """)
    for table in TABLES:
        if table not in HAD_IT:
            # a plain value, so that no row is written anew and the log's trigger has nothing to refuse
            op.add_column(
                table, sa.Column("organisation_id", sa.Uuid(), server_default=FIRST, nullable=False)
            )  # fmt: skip
            op.create_foreign_key(
                op.f(f"fk_{table}_organisation_id_organisation"), table, "organisation", ["organisation_id"], ["id"]
            )
        op.alter_column(table, "organisation_id", server_default=sa.text("organisation_now()"))
    for table, column in NAMES:
        op.drop_constraint(f"uq_{table}_{column}", table)
        op.create_unique_constraint(op.f(f"uq_{table}_{column}"), table, ["organisation_id", column])
    keep_apart("organisation", {}, own="id")
    for table, points in TABLES.items():
        keep_apart(table, points)


def downgrade() -> None:
    for table, points in TABLES.items():
        let_together(table, points)
    let_together("organisation", {})
    for table, column in NAMES:
        op.drop_constraint(f"uq_{table}_{column}", table)
        op.create_unique_constraint(op.f(f"uq_{table}_{column}"), table, [column])
    for table in TABLES:
        op.alter_column(table, "organisation_id", server_default=None)
        if table not in HAD_IT:
            op.drop_column(table, "organisation_id")
    op.execute("DROP FUNCTION organisation_now()")
    op.execute("DROP FUNCTION organisations_all()")
