"""Measurements, printed as `name value unit` lines. They are reported, never asserted.

Of the core alone: balance_tree_days_per_second, on two threads; auto_layout_200_trees_seconds: the best of the patterns
for two hundred different trees, drawn, fed and judged; lateral_solve_ms: heads and flows of a lateral of two hundred
nodes; mulch_union_500_rings_seconds.

Of looking, on made-up trees: learn_500_trees_seconds: five hundred trees' readings, nine each, one after the other;
learn_within_two_errors_percent: how often the truth lies within two of the stated errors; learn_<verdict>_said and
_right_percent: of 200 trees with a thirst or a delivery drawn from the prior, how often it is said and how often that
is so; checkup_<cause>_right_percent: of 1,000 trees drawn from the check-up's own table, asked until nothing would
change the act, how many are treated within half a day of growth of the best; checkup_tests_minutes: what that takes;
rehearse_10_routines_3_years_ms.

Of a city over HTTP from a warm server (medians): 5,000 trees on 50 sites, three years of log, ten years of weather,
200 trees on laid drip. today_cold_ms: the round with nothing computed of this day yet, in a process of its own;
today_after_log_ms: asked again after one entry; today_unchanged_ms: asked again where nothing changed, as a page that
has it does; driest_first_ms: the first page of the register, by the plan; sites_list_ms; tree_page_ms; drip_page_ms;
drip_moved_alone_ms, drip_moved_on_line_ms: an emitter moved by hand, until all that follows from it is told;
log_first_minute_ms: an entry while the round is computed for the first time; log_put_ms; save_site_ms: a site's name;
save_site_40_layouts_ms: its soil, with forty laid trees.

Of one site of ten thousand trees: plan_10000_trees_seconds from yesterday's states and _cold_ from none, database read
and written; trees_list_10000_ms; trees_csv_read_10000_seconds, trees_csv_10000_seconds: its own file, sent back
changed, until it is read and from the yes until it counts; trees_csv_20000_new_seconds: twice as many new trees, from
the yes. weather_30_years_seconds: a daily file; weather_19_mb_read_seconds, weather_19_mb_seconds: the archive's
fixed width from 1850 on.
In a browser slowed down four times, wide and on a phone, over all views of which a picture is kept:
first_load_slowed_4x_worst_lcp_ms (largest contentful paint), first_load_slowed_4x_worst_shift (cumulative layout
shift); today_script_kb: script that Today loads. start_warm_seconds: from the command to the demo's first page.
"""
