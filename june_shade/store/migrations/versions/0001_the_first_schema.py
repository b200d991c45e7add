"""The first schema."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

revision = '0001'
down_revision = None


LOG_IS_APPEND_ONLY = """
CREATE FUNCTION refuse_log_change() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    RAISE EXCEPTION 'the log is append-only: void an entry instead' USING ERRCODE = 'restrict_violation';
END $$;
CREATE TRIGGER log_entry_append_only BEFORE UPDATE OR DELETE ON log_entry
    FOR EACH ROW EXECUTE FUNCTION refuse_log_change();
CREATE TRIGGER log_entry_never_emptied BEFORE TRUNCATE ON log_entry
    FOR EACH STATEMENT EXECUTE FUNCTION refuse_log_change();
"""


def upgrade() -> None:
    op.create_table('person',
    sa.Column('id', sa.Uuid(), nullable=False),
    sa.Column('name', sa.Text(), nullable=False),
    sa.PrimaryKeyConstraint('id', name=op.f('pk_person')),
    sa.UniqueConstraint('name', name=op.f('uq_person_name'))
    )
    op.create_table('pinned_clock',
    sa.Column('id', sa.Integer(), nullable=False),
    sa.Column('shown_at', sa.DateTime(timezone=True), nullable=False),
    sa.Column('real_at', sa.DateTime(timezone=True), nullable=False),
    sa.CheckConstraint('id = 1', name=op.f('ck_pinned_clock_one_row')),
    sa.PrimaryKeyConstraint('id', name=op.f('pk_pinned_clock'))
    )
    op.create_table('plant',
    sa.Column('id', sa.Uuid(), nullable=False),
    sa.Column('botanical', sa.Text(), nullable=False),
    sa.Column('common', sa.Text(), nullable=False),
    sa.Column('water_need', sa.Text(), nullable=False),
    sa.Column('evergreen', sa.Boolean(), nullable=False),
    sa.Column('mature_height_m', sa.Float(precision=53), nullable=False),
    sa.Column('mature_spread_m', sa.Float(precision=53), nullable=False),
    sa.Column('source', sa.Text(), nullable=False),
    sa.CheckConstraint("water_need IN ('very_low', 'low', 'moderate', 'high')", name=op.f('ck_plant_water_need_known')),
    sa.PrimaryKeyConstraint('id', name=op.f('pk_plant')),
    sa.UniqueConstraint('botanical', name=op.f('uq_plant_botanical'))
    )
    op.create_table('station',
    sa.Column('id', sa.Uuid(), nullable=False),
    sa.Column('name', sa.Text(), nullable=False),
    sa.Column('latitude_deg', sa.Float(precision=53), nullable=False),
    sa.Column('longitude_deg', sa.Float(precision=53), nullable=False),
    sa.Column('elevation_m', sa.Float(precision=53), nullable=False),
    sa.Column('wind_height_m', sa.Float(precision=53), nullable=False),
    sa.Column('monthly_eto_mm', sa.ARRAY(sa.Float(precision=53)), nullable=True),
    sa.Column('column_mapping', postgresql.JSONB(astext_type=sa.Text()), nullable=False),
    sa.Column('forecast_fetched_at', sa.DateTime(timezone=True), nullable=True),
    sa.Column('forecast_failed_at', sa.DateTime(timezone=True), nullable=True),
    sa.Column('forecast_error', sa.Text(), nullable=True),
    sa.CheckConstraint('elevation_m >= -500 AND elevation_m <= 9000', name=op.f('ck_station_elevation_m_range')),
    sa.CheckConstraint('latitude_deg >= -90 AND latitude_deg <= 90', name=op.f('ck_station_latitude_deg_range')),
    sa.CheckConstraint('monthly_eto_mm IS NULL OR cardinality(monthly_eto_mm) = 12', name=op.f('ck_station_monthly_eto_mm_twelve')),
    sa.CheckConstraint('wind_height_m > 0.1 AND wind_height_m <= 200', name=op.f('ck_station_wind_height_m_range')),
    sa.PrimaryKeyConstraint('id', name=op.f('pk_station')),
    sa.UniqueConstraint('name', name=op.f('uq_station_name'))
    )
    op.create_table('stock_size',
    sa.Column('id', sa.Uuid(), nullable=False),
    sa.Column('kind', sa.Text(), nullable=False),
    sa.Column('label', sa.Text(), nullable=False),
    sa.Column('caliper_m', sa.Float(precision=53), nullable=False),
    sa.Column('ball_diameter_m', sa.Float(precision=53), nullable=False),
    sa.Column('ball_height_m', sa.Float(precision=53), nullable=False),
    sa.Column('volume_l_low', sa.Float(precision=53), nullable=True),
    sa.Column('volume_l_high', sa.Float(precision=53), nullable=True),
    sa.Column('source', sa.Text(), nullable=False),
    sa.CheckConstraint("kind IN ('container', 'balled', 'bare_root')", name=op.f('ck_stock_size_kind_known')),
    sa.PrimaryKeyConstraint('id', name=op.f('pk_stock_size')),
    sa.UniqueConstraint('label', name=op.f('uq_stock_size_label'))
    )
    op.create_table('forecast_day',
    sa.Column('station_id', sa.Uuid(), nullable=False),
    sa.Column('day', sa.Date(), nullable=False),
    sa.Column('issued_at', sa.DateTime(timezone=True), nullable=False),
    sa.Column('tmin_c', sa.Float(precision=53), nullable=False),
    sa.Column('tmax_c', sa.Float(precision=53), nullable=False),
    sa.Column('rh_percent', sa.Float(precision=53), nullable=True),
    sa.Column('wind_m_s', sa.Float(precision=53), nullable=True),
    sa.Column('radiation_mj_m2', sa.Float(precision=53), nullable=True),
    sa.Column('rain_mm', sa.Float(precision=53), nullable=False),
    sa.Column('rain_chance', sa.Float(precision=53), nullable=False),
    sa.CheckConstraint('rain_chance >= 0 AND rain_chance <= 1', name=op.f('ck_forecast_day_rain_chance_range')),
    sa.CheckConstraint('rain_mm >= 0', name=op.f('ck_forecast_day_rain_mm_range')),
    sa.CheckConstraint('tmin_c <= tmax_c', name=op.f('ck_forecast_day_temperatures_ordered')),
    sa.ForeignKeyConstraint(['station_id'], ['station.id'], name=op.f('fk_forecast_day_station_id_station'), ondelete='CASCADE'),
    sa.PrimaryKeyConstraint('station_id', 'day', name=op.f('pk_forecast_day'))
    )
    op.create_table('site',
    sa.Column('id', sa.Uuid(), nullable=False),
    sa.Column('name', sa.Text(), nullable=False),
    sa.Column('timezone', sa.Text(), nullable=False),
    sa.Column('latitude_deg', sa.Float(precision=53), nullable=False),
    sa.Column('longitude_deg', sa.Float(precision=53), nullable=False),
    sa.Column('elevation_m', sa.Float(precision=53), nullable=False),
    sa.Column('climate', sa.Text(), nullable=False),
    sa.Column('texture', sa.Text(), nullable=False),
    sa.Column('root_depth_max_m', sa.Float(precision=53), nullable=False),
    sa.Column('hose_flow_l_per_h', sa.Float(precision=53), nullable=False),
    sa.Column('pour_step_l', sa.Float(precision=53), nullable=False),
    sa.Column('station_id', sa.Uuid(), nullable=True),
    sa.CheckConstraint("climate IN ('dry', 'humid')", name=op.f('ck_site_climate_known')),
    sa.CheckConstraint("texture IN ('sand', 'loamy_sand', 'sandy_loam', 'loam', 'silt_loam', 'silt', 'sandy_clay_loam', 'clay_loam', 'silty_clay_loam', 'sandy_clay', 'silty_clay', 'clay')", name=op.f('ck_site_texture_known')),
    sa.CheckConstraint('hose_flow_l_per_h > 0 AND hose_flow_l_per_h <= 20000', name=op.f('ck_site_hose_flow_l_per_h_range')),
    sa.CheckConstraint('latitude_deg >= -90 AND latitude_deg <= 90', name=op.f('ck_site_latitude_deg_range')),
    sa.CheckConstraint('pour_step_l >= 0 AND pour_step_l <= 1000', name=op.f('ck_site_pour_step_l_range')),
    sa.CheckConstraint('root_depth_max_m >= 0.05 AND root_depth_max_m <= 3', name=op.f('ck_site_root_depth_max_m_range')),
    sa.ForeignKeyConstraint(['station_id'], ['station.id'], name=op.f('fk_site_station_id_station')),
    sa.PrimaryKeyConstraint('id', name=op.f('pk_site')),
    sa.UniqueConstraint('name', name=op.f('uq_site_name'))
    )
    op.create_table('station_day',
    sa.Column('station_id', sa.Uuid(), nullable=False),
    sa.Column('day', sa.Date(), nullable=False),
    sa.Column('tmin_c', sa.Float(precision=53), nullable=True),
    sa.Column('tmax_c', sa.Float(precision=53), nullable=True),
    sa.Column('rain_mm', sa.Float(precision=53), nullable=True),
    sa.Column('dew_point_c', sa.Float(precision=53), nullable=True),
    sa.Column('rh_percent', sa.Float(precision=53), nullable=True),
    sa.Column('rh_min_percent', sa.Float(precision=53), nullable=True),
    sa.Column('rh_max_percent', sa.Float(precision=53), nullable=True),
    sa.Column('wind_m_s', sa.Float(precision=53), nullable=True),
    sa.Column('sun_h', sa.Float(precision=53), nullable=True),
    sa.Column('radiation_mj_m2', sa.Float(precision=53), nullable=True),
    sa.Column('eto_station_mm', sa.Float(precision=53), nullable=True),
    sa.Column('recorded_at', sa.DateTime(timezone=True), server_default=sa.text('now()'), nullable=False),
    sa.CheckConstraint('rain_mm >= 0', name=op.f('ck_station_day_rain_mm_range')),
    sa.CheckConstraint('rh_percent >= 0 AND rh_percent <= 100', name=op.f('ck_station_day_rh_percent_range')),
    sa.CheckConstraint('tmin_c <= tmax_c', name=op.f('ck_station_day_temperatures_ordered')),
    sa.ForeignKeyConstraint(['station_id'], ['station.id'], name=op.f('fk_station_day_station_id_station'), ondelete='CASCADE'),
    sa.PrimaryKeyConstraint('station_id', 'day', name=op.f('pk_station_day'))
    )
    op.create_table('stop',
    sa.Column('id', sa.Uuid(), nullable=False),
    sa.Column('site_id', sa.Uuid(), nullable=False),
    sa.Column('name', sa.Text(), nullable=False),
    sa.Column('position', sa.Integer(), nullable=False),
    sa.ForeignKeyConstraint(['site_id'], ['site.id'], name=op.f('fk_stop_site_id_site'), ondelete='CASCADE'),
    sa.PrimaryKeyConstraint('id', name=op.f('pk_stop')),
    sa.UniqueConstraint('site_id', 'name', name=op.f('uq_stop_site_id_name'))
    )
    op.create_table('tree',
    sa.Column('id', sa.Uuid(), nullable=False),
    sa.Column('site_id', sa.Uuid(), nullable=False),
    sa.Column('stop_id', sa.Uuid(), nullable=True),
    sa.Column('tag', sa.Text(), nullable=False),
    sa.Column('place', sa.Text(), nullable=False),
    sa.Column('row_place', sa.Integer(), nullable=False),
    sa.Column('plant_id', sa.Uuid(), nullable=False),
    sa.Column('stock_size_id', sa.Uuid(), nullable=True),
    sa.Column('kind', sa.Text(), nullable=False),
    sa.Column('caliper_m', sa.Float(precision=53), nullable=False),
    sa.Column('ball_diameter_m', sa.Float(precision=53), nullable=False),
    sa.Column('ball_height_m', sa.Float(precision=53), nullable=False),
    sa.Column('ball_volume_l', sa.Float(precision=53), nullable=True),
    sa.Column('crown_diameter_m', sa.Float(precision=53), nullable=True),
    sa.Column('planted_on', sa.Date(), nullable=False),
    sa.Column('opened_on', sa.Date(), nullable=False),
    sa.Column('opening', sa.Text(), nullable=False),
    sa.Column('ball_wetness', sa.Float(precision=53), nullable=True),
    sa.Column('ring_wetness', sa.Float(precision=53), nullable=True),
    sa.Column('bud_break_on', sa.Date(), nullable=True),
    sa.Column('microclimate', sa.Float(precision=53), nullable=False),
    sa.Column('surround', sa.Text(), nullable=False),
    sa.Column('method', sa.Text(), nullable=False),
    sa.Column('basin_diameter_m', sa.Float(precision=53), nullable=True),
    sa.Column('basin_depth_m', sa.Float(precision=53), nullable=True),
    sa.Column('emitter_count', sa.Integer(), nullable=False),
    sa.Column('emitter_flow_l_per_h', sa.Float(precision=53), nullable=False),
    sa.Column('bag_capacity_l', sa.Float(precision=53), nullable=False),
    sa.Column('mulch_material', sa.Text(), nullable=True),
    sa.Column('mulch_depth_m', sa.Float(precision=53), nullable=False),
    sa.Column('mulch_outer_radius_m', sa.Float(precision=53), nullable=True),
    sa.Column('mulch_measured_on', sa.Date(), nullable=True),
    sa.CheckConstraint("kind IN ('container', 'balled', 'bare_root')", name=op.f('ck_tree_kind_known')),
    sa.CheckConstraint("method <> 'emitters' OR (emitter_count >= 1 AND emitter_flow_l_per_h > 0)", name=op.f('ck_tree_emitters_given')),
    sa.CheckConstraint("method IN ('hose', 'bucket', 'bag', 'emitters')", name=op.f('ck_tree_method_known')),
    sa.CheckConstraint("mulch_material IN ('wood_chips', 'bark', 'straw', 'leaves', 'pine_needles', 'seaweed', 'compost', 'gravel')", name=op.f('ck_tree_mulch_material_known')),
    sa.CheckConstraint("opening <> 'reading' OR (ball_wetness IS NOT NULL AND ring_wetness IS NOT NULL)", name=op.f('ck_tree_reading_given')),
    sa.CheckConstraint("opening IN ('full', 'reading', 'guessed')", name=op.f('ck_tree_opening_known')),
    sa.CheckConstraint("planted_on >= DATE '1950-01-01'", name=op.f('ck_tree_planted_on_range')),
    sa.CheckConstraint("surround IN ('bare', 'turf', 'paved')", name=op.f('ck_tree_surround_known')),
    sa.CheckConstraint('ball_diameter_m > 0 AND ball_diameter_m <= 5', name=op.f('ck_tree_ball_diameter_m_range')),
    sa.CheckConstraint('ball_height_m > 0 AND ball_height_m <= 3', name=op.f('ck_tree_ball_height_m_range')),
    sa.CheckConstraint('ball_volume_l > 0 AND ball_volume_l <= 20000', name=op.f('ck_tree_ball_volume_l_range')),
    sa.CheckConstraint('ball_wetness >= 0 AND ball_wetness <= 1', name=op.f('ck_tree_ball_wetness_range')),
    sa.CheckConstraint('ring_wetness >= 0 AND ring_wetness <= 1', name=op.f('ck_tree_ring_wetness_range')),
    sa.CheckConstraint('basin_diameter_m > 0 AND basin_diameter_m <= 10', name=op.f('ck_tree_basin_diameter_m_range')),
    sa.CheckConstraint('caliper_m > 0 AND caliper_m <= 1', name=op.f('ck_tree_caliper_m_range')),
    sa.CheckConstraint('crown_diameter_m >= 0 AND crown_diameter_m <= 40', name=op.f('ck_tree_crown_diameter_m_range')),
    sa.CheckConstraint('microclimate >= 0.1 AND microclimate <= 3', name=op.f('ck_tree_microclimate_range')),
    sa.CheckConstraint('mulch_depth_m >= 0 AND mulch_depth_m <= 1', name=op.f('ck_tree_mulch_depth_m_range')),
    sa.CheckConstraint('mulch_outer_radius_m > 0 AND mulch_outer_radius_m <= 15', name=op.f('ck_tree_mulch_outer_radius_m_range')),
    sa.CheckConstraint('opened_on >= planted_on', name=op.f('ck_tree_opened_after_planting')),
    sa.ForeignKeyConstraint(['plant_id'], ['plant.id'], name=op.f('fk_tree_plant_id_plant')),
    sa.ForeignKeyConstraint(['site_id'], ['site.id'], name=op.f('fk_tree_site_id_site')),
    sa.ForeignKeyConstraint(['stock_size_id'], ['stock_size.id'], name=op.f('fk_tree_stock_size_id_stock_size')),
    sa.ForeignKeyConstraint(['stop_id'], ['stop.id'], name=op.f('fk_tree_stop_id_stop'), ondelete='SET NULL'),
    sa.PrimaryKeyConstraint('id', name=op.f('pk_tree')),
    sa.UniqueConstraint('site_id', 'tag', name=op.f('uq_tree_site_id_tag'))
    )
    op.create_index('ix_tree_stop_id', 'tree', ['stop_id'], unique=False)
    op.create_table('log_entry',
    sa.Column('id', sa.Uuid(), nullable=False),
    sa.Column('tree_id', sa.Uuid(), nullable=False),
    sa.Column('kind', sa.Text(), nullable=False),
    sa.Column('happened_at', sa.DateTime(timezone=True), nullable=False),
    sa.Column('local_date', sa.Date(), nullable=False),
    sa.Column('local_time', sa.Time(), nullable=False),
    sa.Column('recorded_at', sa.DateTime(timezone=True), server_default=sa.text('now()'), nullable=False),
    sa.Column('person_id', sa.Uuid(), nullable=True),
    sa.Column('device_id', sa.Text(), nullable=False),
    sa.Column('volume_l', sa.Float(precision=53), nullable=True),
    sa.Column('duration_min', sa.Float(precision=53), nullable=True),
    sa.Column('note', sa.Text(), nullable=True),
    sa.Column('voids', sa.Uuid(), nullable=True),
    sa.CheckConstraint("(kind = 'void') = (voids IS NOT NULL)", name=op.f('ck_log_entry_void_names_entry')),
    sa.CheckConstraint("(kind = 'water') = (volume_l IS NOT NULL)", name=op.f('ck_log_entry_water_has_volume')),
    sa.CheckConstraint("kind <> 'note' OR length(note) > 0", name=op.f('ck_log_entry_note_says_something')),
    sa.CheckConstraint("kind IN ('water', 'note', 'void')", name=op.f('ck_log_entry_kind_known')),
    sa.CheckConstraint('duration_min >= 0 AND duration_min <= 2880', name=op.f('ck_log_entry_duration_min_range')),
    sa.CheckConstraint('volume_l > 0 AND volume_l <= 20000', name=op.f('ck_log_entry_volume_l_range')),
    sa.ForeignKeyConstraint(['person_id'], ['person.id'], name=op.f('fk_log_entry_person_id_person')),
    sa.ForeignKeyConstraint(['tree_id'], ['tree.id'], name=op.f('fk_log_entry_tree_id_tree')),
    sa.ForeignKeyConstraint(['voids'], ['log_entry.id'], name=op.f('fk_log_entry_voids_log_entry')),
    sa.PrimaryKeyConstraint('id', name=op.f('pk_log_entry')),
    sa.UniqueConstraint('voids', name=op.f('uq_log_entry_voids'))
    )
    op.create_index('ix_log_entry_local_date', 'log_entry', ['local_date'], unique=False)
    op.create_index('ix_log_entry_tree_id_local_date', 'log_entry', ['tree_id', 'local_date'], unique=False)
    op.create_table('tree_state',
    sa.Column('tree_id', sa.Uuid(), nullable=False),
    sa.Column('day', sa.Date(), nullable=False),
    sa.Column('root_radius_m', sa.Float(precision=53), nullable=False),
    sa.Column('ball_depletion_l', sa.Float(precision=53), nullable=False),
    sa.Column('ring_depletion_l', sa.Float(precision=53), nullable=False),
    sa.Column('outside_depletion_mm', sa.Float(precision=53), nullable=False),
    sa.Column('ks', sa.Float(precision=53), nullable=False),
    sa.Column('soggy', sa.Boolean(), nullable=False),
    sa.Column('rain_before_mm', sa.Float(precision=53), nullable=False),
    sa.Column('late_days', sa.Integer(), nullable=False),
    sa.ForeignKeyConstraint(['tree_id'], ['tree.id'], name=op.f('fk_tree_state_tree_id_tree'), ondelete='CASCADE'),
    sa.PrimaryKeyConstraint('tree_id', 'day', name=op.f('pk_tree_state'))
    )
    op.execute(LOG_IS_APPEND_ONLY)


def downgrade() -> None:
    op.drop_table('tree_state')
    op.drop_index('ix_log_entry_tree_id_local_date', table_name='log_entry')
    op.drop_index('ix_log_entry_local_date', table_name='log_entry')
    op.drop_table('log_entry')
    op.drop_index('ix_tree_stop_id', table_name='tree')
    op.drop_table('tree')
    op.drop_table('stop')
    op.drop_table('station_day')
    op.drop_table('site')
    op.drop_table('forecast_day')
    op.drop_table('stock_size')
    op.drop_table('station')
    op.drop_table('plant')
    op.drop_table('pinned_clock')
    op.drop_table('person')
    op.execute("DROP FUNCTION refuse_log_change()")
