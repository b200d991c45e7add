"""Planting and mulching: batches, mulch as laid and measured, the yard's stock, what was said of dated tasks."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB

revision = "0006"
down_revision = "0005"


def upgrade() -> None:
    op.create_table('stock_move',
    sa.Column('id', sa.Uuid(), nullable=False),
    sa.Column('material', sa.Text(), nullable=False),
    sa.Column('reason', sa.Text(), nullable=False),
    sa.Column('litres', sa.Float(precision=53), nullable=False),
    sa.Column('day', sa.Date(), nullable=False),
    sa.Column('job_id', sa.Uuid()),
    sa.Column('note', sa.Text(), nullable=False),
    sa.Column('recorded_at', sa.DateTime(timezone=True), server_default=sa.text('clock_timestamp()'), nullable=False),
    sa.Column('withdrawn_at', sa.DateTime(timezone=True)),
    sa.CheckConstraint("material IN ('wood_chips', 'bark', 'straw', 'leaves', 'pine_needles', 'seaweed', 'compost', 'gravel', 'coir', 'coarse_sand')", name=op.f('ck_stock_move_material_known')),
    sa.CheckConstraint("reason <> 'counted' OR litres >= 0", name=op.f('ck_stock_move_count_is_positive')),
    sa.CheckConstraint("reason IN ('bought', 'counted', 'used', 'left', 'thrown')", name=op.f('ck_stock_move_reason_known')),
    sa.CheckConstraint("reason NOT IN ('bought', 'left') OR litres >= 0", name=op.f('ck_stock_move_in_is_positive')),
    sa.CheckConstraint("reason NOT IN ('used', 'thrown') OR litres <= 0", name=op.f('ck_stock_move_out_is_negative')),
    sa.CheckConstraint('litres >= -1000000 AND litres <= 1000000', name=op.f('ck_stock_move_litres_range')),
    sa.PrimaryKeyConstraint('id', name=op.f('pk_stock_move'))
    )
    op.create_index('ix_stock_move_material_day', 'stock_move', ['material', 'day'])
    op.create_table('planting',
    sa.Column('id', sa.Uuid(), nullable=False),
    sa.Column('site_id', sa.Uuid(), nullable=False),
    sa.Column('stop', sa.Text(), nullable=False),
    sa.Column('planned_on', sa.Date(), nullable=False),
    sa.Column('plant_id', sa.Uuid(), nullable=False),
    sa.Column('stock_size_id', sa.Uuid()),
    sa.Column('kind', sa.Text(), nullable=False),
    sa.Column('caliper_m', sa.Float(precision=53), nullable=False),
    sa.Column('ball_diameter_m', sa.Float(precision=53), nullable=False),
    sa.Column('ball_height_m', sa.Float(precision=53), nullable=False),
    sa.Column('ball_volume_l', sa.Float(precision=53)),
    sa.Column('flare_below_top_m', sa.Float(precision=53), nullable=False),
    sa.Column('count', sa.Integer(), nullable=False),
    sa.Column('tag', sa.Text(), nullable=False),
    sa.Column('place', sa.Text(), nullable=False),
    sa.Column('microclimate', sa.Float(precision=53), nullable=False),
    sa.Column('surround', sa.Text(), nullable=False),
    sa.Column('method', sa.Text(), nullable=False),
    sa.Column('obstacles', JSONB(), nullable=False),
    sa.Column('choice', JSONB(), nullable=False),
    sa.Column('checks', JSONB(), nullable=False),
    sa.Column('planted_on', sa.Date()),
    sa.Column('first_water_l', sa.Float(precision=53)),
    sa.Column('note', sa.Text(), nullable=False),
    sa.Column('recorded_at', sa.DateTime(timezone=True), server_default=sa.text('now()'), nullable=False),
    sa.Column('withdrawn_at', sa.DateTime(timezone=True)),
    sa.Column('version', sa.Integer(), server_default='1', nullable=False),
    sa.CheckConstraint("kind IN ('container', 'box', 'fabric_bag', 'balled', 'bare_root')", name=op.f('ck_planting_kind_known')),
    sa.CheckConstraint("method IN ('hose', 'bucket', 'tank', 'bag', 'emitters', 'soaker', 'sprinkler', 'wicked')", name=op.f('ck_planting_method_known')),
    sa.CheckConstraint("surround IN ('bare', 'turf', 'paved', 'gravel', 'plastic', 'plastic_holed')", name=op.f('ck_planting_surround_known')),
    sa.CheckConstraint('ball_diameter_m > 0 AND ball_diameter_m <= 5', name=op.f('ck_planting_ball_diameter_m_range')),
    sa.CheckConstraint('ball_height_m > 0 AND ball_height_m <= 3', name=op.f('ck_planting_ball_height_m_range')),
    sa.CheckConstraint('ball_volume_l > 0 AND ball_volume_l <= 20000', name=op.f('ck_planting_ball_volume_l_range')),
    sa.CheckConstraint('caliper_m > 0 AND caliper_m <= 1', name=op.f('ck_planting_caliper_m_range')),
    sa.CheckConstraint('count >= 1 AND count <= 500', name=op.f('ck_planting_count_range')),
    sa.CheckConstraint('flare_below_top_m < ball_height_m', name=op.f('ck_planting_flare_in_ball')),
    sa.CheckConstraint('flare_below_top_m >= 0 AND flare_below_top_m <= 2', name=op.f('ck_planting_flare_below_top_m_range')),
    sa.CheckConstraint('microclimate >= 0.1 AND microclimate <= 3', name=op.f('ck_planting_microclimate_range')),
    sa.ForeignKeyConstraint(['plant_id'], ['plant.id'], name=op.f('fk_planting_plant_id_plant')),
    sa.ForeignKeyConstraint(['site_id'], ['site.id'], name=op.f('fk_planting_site_id_site'), ondelete='CASCADE'),
    sa.ForeignKeyConstraint(['stock_size_id'], ['stock_size.id'], name=op.f('fk_planting_stock_size_id_stock_size')),
    sa.PrimaryKeyConstraint('id', name=op.f('pk_planting'))
    )
    op.create_index('ix_planting_site_id', 'planting', ['site_id'])
    op.create_table('care_act',
    sa.Column('id', sa.Uuid(), nullable=False),
    sa.Column('tree_id', sa.Uuid(), nullable=False),
    sa.Column('key', sa.Text(), nullable=False),
    sa.Column('act', sa.Text(), nullable=False),
    sa.Column('day', sa.Date(), nullable=False),
    sa.Column('reason', sa.Text(), nullable=False),
    sa.Column('recorded_at', sa.DateTime(timezone=True), server_default=sa.text('now()'), nullable=False),
    sa.Column('withdrawn_at', sa.DateTime(timezone=True)),
    sa.CheckConstraint("act = 'done' OR length(reason) > 0", name=op.f('ck_care_act_reason_given')),
    sa.CheckConstraint("act IN ('done', 'moved', 'dismissed')", name=op.f('ck_care_act_act_known')),
    sa.ForeignKeyConstraint(['tree_id'], ['tree.id'], name=op.f('fk_care_act_tree_id_tree'), ondelete='CASCADE'),
    sa.PrimaryKeyConstraint('id', name=op.f('pk_care_act'))
    )
    op.create_index('ix_care_act_tree_id', 'care_act', ['tree_id'])
    op.create_table('care_published',
    sa.Column('tree_id', sa.Uuid(), nullable=False),
    sa.Column('key', sa.Text(), nullable=False),
    sa.Column('kind', sa.Text(), nullable=False),
    sa.Column('due_on', sa.Date(), nullable=False),
    sa.Column('digest', sa.Text(), nullable=False),
    sa.Column('sequence', sa.Integer(), nullable=False),
    sa.Column('gone', sa.Boolean(), nullable=False),
    sa.Column('modified_at', sa.DateTime(timezone=True), nullable=False),
    sa.ForeignKeyConstraint(['tree_id'], ['tree.id'], name=op.f('fk_care_published_tree_id_tree'), ondelete='CASCADE'),
    sa.PrimaryKeyConstraint('tree_id', 'key', name=op.f('pk_care_published'))
    )
    op.create_index('ix_care_published_tree_id', 'care_published', ['tree_id'])
    op.create_table('mulch_entry',
    sa.Column('id', sa.Uuid(), nullable=False),
    sa.Column('tree_id', sa.Uuid(), nullable=False),
    sa.Column('kind', sa.Text(), nullable=False),
    sa.Column('day', sa.Date(), nullable=False),
    sa.Column('material', sa.Text()),
    sa.Column('depth_m', sa.Float(precision=53), nullable=False),
    sa.Column('outer_radius_m', sa.Float(precision=53)),
    sa.Column('clear_gap_m', sa.Float(precision=53), nullable=False),
    sa.Column('loose_l', sa.Float(precision=53)),
    sa.Column('compost_l', sa.Float(precision=53)),
    sa.Column('underlay', sa.Text()),
    sa.Column('readings', JSONB()),
    sa.Column('verdict', sa.Text()),
    sa.Column('job_id', sa.Uuid()),
    sa.Column('before', JSONB(), nullable=False),
    sa.Column('note', sa.Text(), nullable=False),
    sa.Column('recorded_at', sa.DateTime(timezone=True), server_default=sa.text('clock_timestamp()'), nullable=False),
    sa.Column('withdrawn_at', sa.DateTime(timezone=True)),
    sa.CheckConstraint("(kind = 'check') = (readings IS NOT NULL)", name=op.f('ck_mulch_entry_check_has_readings')),
    sa.CheckConstraint("kind IN ('laid', 'check')", name=op.f('ck_mulch_entry_kind_known')),
    sa.CheckConstraint("material IN ('wood_chips', 'bark', 'straw', 'leaves', 'pine_needles', 'seaweed', 'compost', 'gravel')", name=op.f('ck_mulch_entry_material_known')),
    sa.CheckConstraint("underlay IN ('card', 'paper', 'roll')", name=op.f('ck_mulch_entry_underlay_known')),
    sa.CheckConstraint("verdict IN ('fine', 'top_up', 'thin_out', 'pull_back', 'in_stages')", name=op.f('ck_mulch_entry_verdict_known')),
    sa.CheckConstraint('clear_gap_m >= 0 AND clear_gap_m <= 5', name=op.f('ck_mulch_entry_clear_gap_m_range')),
    sa.CheckConstraint('depth_m >= 0 AND depth_m <= 0.6', name=op.f('ck_mulch_entry_depth_m_range')),
    sa.CheckConstraint('loose_l >= 0 AND loose_l <= 100000', name=op.f('ck_mulch_entry_loose_l_range')),
    sa.CheckConstraint('outer_radius_m > 0 AND outer_radius_m <= 15', name=op.f('ck_mulch_entry_outer_radius_m_range')),
    sa.ForeignKeyConstraint(['tree_id'], ['tree.id'], name=op.f('fk_mulch_entry_tree_id_tree'), ondelete='CASCADE'),
    sa.PrimaryKeyConstraint('id', name=op.f('pk_mulch_entry'))
    )
    op.create_index('ix_mulch_entry_tree_id_day', 'mulch_entry', ['tree_id', 'day'])
    op.add_column('drip_layout', sa.Column('move_on', sa.Date()))
    op.add_column('plant', sa.Column('sun_hours', sa.Float(precision=53), server_default='6', nullable=False))
    op.add_column('tree', sa.Column('mulch_clear_gap_m', sa.Float(precision=53), server_default='0.08', nullable=False))
    op.add_column('tree', sa.Column('mulch_wasting_years', sa.Float(precision=53)))
    op.add_column('tree', sa.Column('mulch_choice', JSONB()))
    op.add_column('tree', sa.Column('planting_id', sa.Uuid()))
    op.create_foreign_key(op.f('fk_tree_planting_id_planting'), 'tree', 'planting', ['planting_id'], ['id'], ondelete='SET NULL')
    op.create_check_constraint(op.f("ck_plant_sun_hours_range"), "plant", "sun_hours >= 0 AND sun_hours <= 16")
    op.create_check_constraint(
        op.f("ck_tree_mulch_clear_gap_m_range"), "tree", "mulch_clear_gap_m >= 0 AND mulch_clear_gap_m <= 5"
    )
    op.create_check_constraint(
        op.f("ck_tree_mulch_wasting_years_range"), "tree", "mulch_wasting_years > 0 AND mulch_wasting_years <= 100"
    )


def downgrade() -> None:
    op.drop_constraint("ck_tree_mulch_wasting_years_range", "tree")
    op.drop_constraint("ck_tree_mulch_clear_gap_m_range", "tree")
    op.drop_constraint("ck_plant_sun_hours_range", "plant")
    op.drop_constraint(op.f('fk_tree_planting_id_planting'), 'tree', type_='foreignkey')
    op.drop_column('tree', 'planting_id')
    op.drop_column('tree', 'mulch_choice')
    op.drop_column('tree', 'mulch_wasting_years')
    op.drop_column('tree', 'mulch_clear_gap_m')
    op.drop_column('plant', 'sun_hours')
    op.drop_column('drip_layout', 'move_on')
    op.drop_index('ix_mulch_entry_tree_id_day', table_name='mulch_entry')
    op.drop_table('mulch_entry')
    op.drop_index('ix_care_published_tree_id', table_name='care_published')
    op.drop_table('care_published')
    op.drop_index('ix_care_act_tree_id', table_name='care_act')
    op.drop_table('care_act')
    op.drop_index('ix_planting_site_id', table_name='planting')
    op.drop_table('planting')
    op.drop_index('ix_stock_move_material_day', table_name='stock_move')
    op.drop_table('stock_move')
