"""Crews and their days, orders, and the plan that is chosen under both."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

revision = "0028"
down_revision = "0027"

OF_CREW = {
    "people": "1 AND people <= 50", "starts_min": "0 AND starts_min <= 1439", "hours": "0 AND hours <= 24",
    "break_min": "0 AND break_min <= 480", "hoses": "1 AND hoses <= 20", "tank_l": "1 AND tank_l <= 100000",
    "fill_min": "0 AND fill_min <= 240", "set_up_min": "0 AND set_up_min <= 240",
    "handling_min": "0 AND handling_min <= 60", "yard_latitude_deg": "-90 AND yard_latitude_deg <= 90",
    "yard_longitude_deg": "-180 AND yard_longitude_deg <= 180",
}  # fmt: skip
OF_STOP = {
    "set_up_min": "0 AND set_up_min <= 240", "way_min": "0 AND way_min <= 240",
    "latitude_deg": "-90 AND latitude_deg <= 90", "longitude_deg": "-180 AND longitude_deg <= 180",
}  # fmt: skip


def _range(table: str, name: str, words: str) -> sa.CheckConstraint:
    return sa.CheckConstraint(f"{name} >= {words}", name=op.f(f"ck_{table}_{name}_range"))


def _own(name: str = "organisation_id") -> sa.Column:
    return sa.Column(name, sa.Uuid(), sa.ForeignKey("organisation.id"), nullable=False)


def _tree(**more: bool) -> sa.Column:
    return sa.Column("tree_id", sa.Uuid(), sa.ForeignKey("tree.id", ondelete="CASCADE"), nullable=False, **more)


def _now(name: str) -> sa.Column:
    return sa.Column(name, sa.DateTime(timezone=True), server_default=sa.func.now(), nullable=False)


def upgrade() -> None:
    op.create_table(
        "crew",
        sa.Column("id", sa.Uuid(), primary_key=True),
        _own(),
        sa.Column("name", sa.Text(), nullable=False),
        sa.Column("yard_latitude_deg", sa.Float()),
        sa.Column("yard_longitude_deg", sa.Float()),
        sa.Column("people", sa.Integer(), nullable=False),
        sa.Column("working_days", postgresql.ARRAY(sa.Integer()), nullable=False),
        sa.Column("starts_min", sa.Integer(), nullable=False),
        sa.Column("hours", sa.Float(), nullable=False),
        sa.Column("break_min", sa.Float(), nullable=False),
        sa.Column("hoses", sa.Integer(), nullable=False),
        sa.Column("tank_l", sa.Float()),
        *(sa.Column(name, sa.Float(), nullable=False) for name in ("fill_min", "set_up_min", "handling_min")),
        sa.Column("closed_on", sa.Date()),
        sa.Column("version", sa.Integer(), server_default="1", nullable=False),
        *(_range("crew", name, words) for name, words in OF_CREW.items()),
        sa.CheckConstraint(
            "working_days <@ ARRAY[0, 1, 2, 3, 4, 5, 6]", name=op.f("ck_crew_working_days_known")
        ),
        sa.CheckConstraint(
            "(yard_latitude_deg IS NULL) = (yard_longitude_deg IS NULL)", name=op.f("ck_crew_yard_whole")
        ),
        sa.UniqueConstraint("organisation_id", "name"),
    )
    op.create_table(
        "crew_day",
        sa.Column("crew_id", sa.Uuid(), sa.ForeignKey("crew.id", ondelete="CASCADE"), primary_key=True),
        sa.Column("day", sa.Date(), primary_key=True),
        sa.Column("people_less", sa.Integer(), nullable=False),
        sa.Column("starts_min", sa.Integer()),
        sa.Column("ends_min", sa.Integer()),
        sa.Column("pump_broken", sa.Boolean(), nullable=False),
        _range("crew_day", "people_less", "0 AND people_less <= 50"),
        _range("crew_day", "starts_min", "0 AND starts_min <= 1440"),
        _range("crew_day", "ends_min", "0 AND ends_min <= 1440"),
    )
    op.create_table(
        "site_loan",
        sa.Column("site_id", sa.Uuid(), sa.ForeignKey("site.id", ondelete="CASCADE"), primary_key=True),
        sa.Column("day", sa.Date(), primary_key=True),
        sa.Column("crew_id", sa.Uuid(), sa.ForeignKey("crew.id", ondelete="CASCADE"), nullable=False),
    )
    op.add_column("site", sa.Column("crew_id", sa.Uuid(), sa.ForeignKey("crew.id")))
    op.add_column("site", sa.Column("house_number", sa.Integer()))
    op.add_column("site", sa.Column("wants_revision", sa.BigInteger(), server_default="0", nullable=False))
    op.create_check_constraint(
        op.f("ck_site_house_number_range"), "site", "house_number >= 1 AND house_number <= 1000000"
    )
    for name, words in OF_STOP.items():
        op.add_column("stop", sa.Column(name, sa.Float()))
        op.create_check_constraint(op.f(f"ck_stop_{name}_range"), "stop", f"{name} >= {words}")
    op.create_check_constraint(
        op.f("ck_stop_place_whole"), "stop", "(latitude_deg IS NULL) = (longitude_deg IS NULL)"
    )
    op.create_table(
        "restriction",
        sa.Column("id", sa.Uuid(), primary_key=True),
        _own(),
        sa.Column("name", sa.Text(), nullable=False),
        sa.Column("stage", sa.Integer(), nullable=False),
        sa.Column("first_day", sa.Date()),
        sa.Column("last_day", sa.Date()),
        sa.Column("rules", postgresql.JSONB(), nullable=False),
        sa.Column("week_l", sa.Float()),
        sa.Column("closes_yards", sa.Boolean(), nullable=False),
        sa.Column("words", sa.Text(), nullable=False),
        sa.Column("link", sa.Text(), nullable=False),
        _now("recorded_at"),
        sa.Column("withdrawn_at", sa.DateTime(timezone=True)),
        sa.Column("version", sa.Integer(), server_default="1", nullable=False),
        _range("restriction", "stage", "0 AND stage <= 5"),
        _range("restriction", "week_l", "0 AND week_l <= 100000000"),
    )
    op.create_table(
        "restriction_site",
        sa.Column("restriction_id", sa.Uuid(), sa.ForeignKey("restriction.id", ondelete="CASCADE"), primary_key=True),
        sa.Column("site_id", sa.Uuid(), sa.ForeignKey("site.id", ondelete="CASCADE"), primary_key=True),
    )
    op.create_table(
        "visit_wish",
        sa.Column("id", sa.Uuid(), primary_key=True),
        _tree(),
        sa.Column("day", sa.Date(), nullable=False),
        sa.Column("wish", sa.Text(), nullable=False),
        sa.Column("person_id", sa.Uuid(), sa.ForeignKey("person.id")),
        _now("said_at"),
        sa.CheckConstraint("wish IN ('pin', 'forbid', 'free')", name=op.f("ck_visit_wish_wish_known")),
    )
    op.create_index("ix_visit_wish_tree_id_day", "visit_wish", ["tree_id", "day"])
    op.create_table(
        "let_go",
        sa.Column("id", sa.Uuid(), primary_key=True),
        _tree(),
        sa.Column("day", sa.Date(), nullable=False),
        sa.Column("by_name", sa.Text(), nullable=False),
        _now("said_at"),
        sa.Column("withdrawn_at", sa.DateTime(timezone=True)),
    )
    op.create_index("ix_let_go_tree_id", "let_go", ["tree_id"])
    op.create_table(
        "chosen_plan",
        sa.Column("id", sa.Uuid(), primary_key=True),
        _own(),
        sa.Column("made_at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("first_day", sa.Date(), nullable=False),
        sa.Column("rests_on", postgresql.JSONB(), nullable=False),
        sa.Column("told", postgresql.JSONB(), nullable=False),
    )
    op.create_table(
        "chosen_tree",
        _tree(primary_key=True),
        sa.Column("first_day", sa.Date(), nullable=False),
        sa.Column("share", postgresql.ARRAY(sa.Float()), nullable=False),
        sa.Column("litres", postgresql.ARRAY(sa.Float()), nullable=False),
        sa.Column("minutes", postgresql.ARRAY(sa.Float()), nullable=False),
        sa.Column("wanted", postgresql.ARRAY(sa.Boolean()), nullable=False),
        *(sa.Column(name, sa.Float(), nullable=False) for name in ("harm", "none_harm", "weight")),
        sa.Column("waits_cost", sa.Float()),
        sa.Column("dies", sa.Boolean(), nullable=False),
    )


def downgrade() -> None:
    for name in ("chosen_tree", "chosen_plan", "let_go", "visit_wish", "restriction_site", "restriction"):
        op.drop_table(name)
    op.drop_constraint(op.f("ck_stop_place_whole"), "stop", type_="check")
    for name in OF_STOP:
        op.drop_column("stop", name)
    for name in ("wants_revision", "house_number", "crew_id"):
        op.drop_column("site", name)
    for name in ("site_loan", "crew_day", "crew"):
        op.drop_table(name)
