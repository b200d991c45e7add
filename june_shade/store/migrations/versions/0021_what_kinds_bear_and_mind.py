"""Kinds know fruit, frost and pests; three more mulches; plantings know way and line; sites know traffic; trees know
their edging ring; tasks can be a planting's."""

import json

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB

revision = "0021"
down_revision = "0020"

OLD = ("wood_chips", "bark", "straw", "leaves", "pine_needles", "seaweed", "compost", "gravel")
NEW = ("wood_chips", "bark", "cypress", "cedar", "straw", "leaves", "clippings", "pine_needles", "seaweed", "compost",
       "gravel")
MIXED = ("coir", "coarse_sand")
SHIPPED = (
    ('Acer palmatum', 'none', None, 'borers'),
    ('Acer platanoides', 'none', None, 'borers'),
    ('Acer rubrum', 'none', None, 'borers'),
    ('Acer saccharum', 'none', None, 'borers'),
    ('Amelanchier × grandiflora', 'none', None, 'fire_blight'),
    ('Betula nigra', 'none', None, 'aphids leafminer'),
    ('Cercis canadensis', 'none', None, 'borers'),
    ('Cornus florida', 'none', None, 'borers'),
    ('Crataegus viridis', 'none', None, 'fire_blight'),
    ('Cupressus sempervirens', 'none', None, 'mites bagworms'),
    ('Gleditsia triacanthos var. inermis', 'none', None, 'borers mites'),
    ('Juniperus virginiana', 'none', None, 'mites bagworms'),
    ('Lagerstroemia indica', 'none', None, 'aphids scale'),
    ('Liriodendron tulipifera', 'none', None, 'aphids scale'),
    ('Magnolia grandiflora', 'none', None, 'scale'),
    ('Malus (crabapple hybrids)', 'none', None, 'fire_blight borers'),
    ('Olea europaea', 'heavy', -5, 'scale'),
    ('Picea pungens', 'none', None, 'mites bagworms'),
    ('Pinus halepensis', 'none', None, 'borers'),
    ('Pinus ponderosa', 'none', None, 'borers'),
    ('Prunus serrulata', 'none', None, 'borers aphids'),
    ('Pyrus calleryana', 'none', None, 'fire_blight'),
    ('Quercus agrifolia', 'none', None, 'borers'),
    ('Quercus rubra', 'none', None, 'borers'),
    ('Taxodium distichum', 'none', None, 'bagworms mites'),
    ('Tilia cordata', 'none', None, 'aphids'),
)
"""Kinds that came with the program: what they bear, from where down frost hurts them young [degC], what plagues them."""


def _materials(words: tuple[str, ...]) -> None:
    for table, column, known in (("tree", "mulch_material", words), ("mulch_entry", "material", words),
                                 ("stock_move", "material", (*words, *MIXED))):
        name = op.f(f"ck_{table}_{column}_known")
        op.drop_constraint(name, table, type_="check")
        listed = ", ".join(f"'{word}'" for word in known)
        op.create_check_constraint(name, table, f"{column} IN ({listed})")


def upgrade() -> None:
    op.add_column("plant", sa.Column("fruit", sa.Text(), server_default="none", nullable=False))
    op.add_column("plant", sa.Column("frost_c", sa.Float(precision=53)))
    op.add_column("plant", sa.Column("pests", JSONB(), server_default="[]", nullable=False))
    op.create_check_constraint(op.f("ck_plant_fruit_known"), "plant", "fruit IN ('none', 'small', 'heavy')")
    op.create_check_constraint(op.f("ck_plant_frost_c_range"), "plant", "frost_c >= -30 AND frost_c <= 5")
    for botanical, fruit, frost_c, pests in SHIPPED:
        op.get_bind().execute(
            sa.text("UPDATE plant SET fruit = :fruit, frost_c = :frost_c, pests = CAST(:pests AS jsonb) "
                    "WHERE botanical = :botanical"),
            {"botanical": botanical, "fruit": fruit, "frost_c": frost_c, "pests": json.dumps(pests.split())},
        )
    _materials(NEW)
    op.add_column("planting", sa.Column("way", JSONB(), server_default="{}", nullable=False))
    op.add_column("planting", sa.Column("line", sa.Text(), server_default="", nullable=False))
    op.add_column("site", sa.Column("traffic", sa.Boolean(), server_default="false", nullable=False))
    op.add_column("tree", sa.Column("edging_m", sa.Float(precision=53), server_default="0", nullable=False))
    op.create_check_constraint(op.f("ck_tree_edging_m_range"), "tree", "edging_m >= 0 AND edging_m <= 3")
    op.execute("UPDATE tree SET edging_m = (planting.choice ->> 'edging_m')::float FROM planting "
               "WHERE planting.id = tree.planting_id AND planting.choice ? 'edging_m'")
    _of_plantings("care_act")
    op.create_index("ix_care_act_planting_id", "care_act", ["planting_id"])
    op.add_column("care_published", sa.Column("id", sa.Uuid(), server_default=sa.text("gen_random_uuid()"),
                                              nullable=False))
    op.alter_column("care_published", "id", server_default=None)
    op.drop_constraint(op.f("pk_care_published"), "care_published", type_="primary")
    op.create_primary_key(op.f("pk_care_published"), "care_published", ["id"])
    _of_plantings("care_published")
    op.drop_index("ix_care_published_tree_id", "care_published")
    for column in ("tree_id", "planting_id"):
        op.create_unique_constraint(op.f(f"uq_care_published_{column}_key"), "care_published", [column, "key"])


def _of_plantings(table: str) -> None:
    op.alter_column(table, "tree_id", nullable=True)
    op.add_column(table, sa.Column("planting_id", sa.Uuid()))
    op.create_foreign_key(op.f(f"fk_{table}_planting_id_planting"), table, "planting", ["planting_id"], ["id"],
                          ondelete="CASCADE")
    op.create_check_constraint(op.f(f"ck_{table}_of_tree_or_planting"), table,
                               "num_nonnulls(tree_id, planting_id) = 1")


def downgrade() -> None:
    for column in ("tree_id", "planting_id"):
        op.drop_constraint(op.f(f"uq_care_published_{column}_key"), "care_published", type_="unique")
    op.execute("DELETE FROM care_act WHERE tree_id IS NULL")
    op.execute("DELETE FROM care_published WHERE tree_id IS NULL")
    op.create_index("ix_care_published_tree_id", "care_published", ["tree_id"])
    op.drop_index("ix_care_act_planting_id", "care_act")
    for table in ("care_act", "care_published"):
        op.drop_constraint(op.f(f"ck_{table}_of_tree_or_planting"), table, type_="check")
        op.drop_column(table, "planting_id")
        op.alter_column(table, "tree_id", nullable=False)
    op.drop_constraint(op.f("pk_care_published"), "care_published", type_="primary")
    op.drop_column("care_published", "id")
    op.create_primary_key(op.f("pk_care_published"), "care_published", ["tree_id", "key"])
    op.drop_column("tree", "edging_m")
    op.drop_column("site", "traffic")
    op.drop_column("planting", "line")
    op.drop_column("planting", "way")
    for table, column in (("tree", "mulch_material"), ("mulch_entry", "material"), ("stock_move", "material")):
        op.execute(f"UPDATE {table} SET {column} = 'bark' WHERE {column} IN ('cypress', 'cedar')")
        op.execute(f"UPDATE {table} SET {column} = 'leaves' WHERE {column} = 'clippings'")
    _materials(OLD)
    for column in ("pests", "frost_c", "fruit"):
        op.drop_column("plant", column)
