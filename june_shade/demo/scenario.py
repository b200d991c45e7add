"""Ochre Falls, a made-up town on a high dry plain: a school ground, a rail trail, a cemetery edge, a street median.

About a hundred trees of mixed stock, age and soil, six years of seeded weather and a month of log, kept by a crew
that does what the plan says, most days. Streets, people and trees are invented.
"""

from dataclasses import dataclass, field
from datetime import date, datetime, time, timedelta
from typing import Any
from uuid import UUID
from zoneinfo import ZoneInfo

import numpy as np
from sqlalchemy import select
from sqlalchemy.orm import Session

from june_shade.core.water import load
from june_shade.demo import ends, felt, limits, planting
from june_shade.demo.names import name_id
from june_shade.demo.steps import as_days
from june_shade.outside.forecast import WeatherDay
from june_shade.plans import changes, clock, kinds, log, soil, water, weather_days
from june_shade.plans.drip import layouts
from june_shade.plans.log import NewEntry
from june_shade.plans.water.run import SitePlan, plan_sites
from june_shade.standins.climate import Climate
from june_shade.store.log_tables import Person
from june_shade.store.session import SessionMaker, transaction
from june_shade.store.site_tables import GaugeDay, Line, Site, Stop
from june_shade.store.tree_tables import Plant, StockSize, Tree
from june_shade.store.weather_tables import Station

DAY = date(2026, 7, 15)
FIRST_WEATHER = date(2020, 7, 1)
LOG_DAYS = 31
ZONE = "America/Denver"
PLACE = {"latitude_deg": 40.2, "longitude_deg": -104.7, "elevation_m": 1490.0}
PEOPLE = ("Noor", "Tavi", "Inez")
DEVICE = "yard tablet"
MISSED_SHARE = 0.06
SET_UP_AND_WAY_MIN, HANDLING_MIN = 9.0, 1.5
"""What a new stop and a tree take the crews that keep this log."""


@dataclass(frozen=True, slots=True)
class Row:
    """A run of trees of one kind at one stop."""

    stop: str
    count: int
    plant: str
    size: str
    planted: date
    words: str
    method: str = "hose"
    basin_m: float | None = 0.9
    surround: str = "turf"
    mulch_m: float = 0.07
    mulch_radius_m: float = 0.75
    feel: tuple[float, float] | None = None
    microclimate: float = 1.0
    line: str | None = None
    own: dict[str, Any] = field(default_factory=dict)


@dataclass(frozen=True, slots=True)
class DemoSite:
    """A site and its rows of trees."""

    name: str
    prefix: str
    texture: str
    hose_flow_l_per_h: float
    tank_l: float | None
    crew_hours: float
    rows: tuple[Row, ...]
    crew: int = 11
    own: dict[str, Any] = field(default_factory=dict)


SITES = (
    DemoSite(
        "Hobb Lane School", "HL", "clay_loam", 240.0, None, 3.0,
        (
            Row("Hobb Lane gate", 7, "Quercus macrocarpa", "2 in balled", date(2026, 4, 24),
                "{nth} from the hydrant, street side", basin_m=0.75,
                own={"note_for_crew": "Gas line 3 ft off, street side: no rod or stake there"}),
            Row("Hobb Lane gate", 4, "Malus (crabapple hybrids)", "#15 container", date(2026, 5, 13),
                "{nth} from the flagpole", basin_m=0.6, mulch_radius_m=0.6),
            Row("Bus loop", 6, "Gleditsia triacanthos var. inermis", "#25 container", date(2025, 5, 6),
                "{nth} from the crosswalk, curb side", method="emitters", surround="paved", microclimate=1.2,
                feel=(0.6, 0.7), line="Bus loop valve"),
            Row("Ball field fence", 6, "Ulmus (disease-resistant hybrids)", "1.75 in balled", date(2025, 10, 9),
                "{nth} from third base, along the fence", mulch_m=0.03),
        ),
    ),
    DemoSite(
        "Old Quarry rail trail", "RT", "sandy_loam", 420.0, 400.0, 2.0,
        (
            Row("Trailhead", 8, "Celtis occidentalis", "#10 container", date(2026, 5, 20),
                "{nth} from the sign, west side", method="bag", basin_m=None, surround="bare", mulch_radius_m=0.5),
            Row("Trestle", 5, "Pinus ponderosa", "#7 container", date(2025, 9, 18),
                "{nth} past the trestle, uphill side", surround="bare", mulch_m=0.05, mulch_radius_m=0.5),
            Row("Picnic bend", 6, "Acer grandidentatum", "1 in bare root", date(2026, 4, 8),
                "{nth} from the table, trail side", surround="bare", basin_m=0.8, mulch_radius_m=0.6),
            Row("Depot Street boulevard", 8, "Zelkova serrata", "2 in balled", date(2026, 4, 15),
                "{nth} from the depot, curb side", method="emitters", basin_m=None, mulch_m=0.035, mulch_radius_m=0.7,
                feel=(0.7, 0.8), line="Depot Street valve",
                own={"obstacles": [{"kind": "paving", "bearing_deg": 90.0, "distance_m": 0.95, "across_m": 0.0},
                                   {"kind": "paving", "bearing_deg": 270.0, "distance_m": 1.1, "across_m": 0.0}]}),
            Row("Depot hedge", 10, "Carpinus betulus", "#5 container", date(2026, 4, 29),
                "{nth} from the loading dock", method="emitters", basin_m=None, mulch_radius_m=0.5,
                feel=(0.7, 0.8), line="Hedge valve",
                own={"obstacles": [{"kind": "wall", "bearing_deg": 0.0, "distance_m": 0.8, "across_m": 0.0}]}),
        ),
    ),
    DemoSite(
        "Saint Orrin cemetery, north edge", "SO", "clay", 300.0, 200.0, 3.0,
        (
            Row("North wall", 7, "Tilia cordata", "2.5 in balled", date(2024, 10, 15),
                "{nth} from the east gate, along the wall", basin_m=0.9, feel=(0.75, 0.75), mulch_m=0.08),
            Row("North wall", 4, "Picea pungens", "#20 container", date(2026, 6, 2),
                "{nth} from the well house", basin_m=0.65, mulch_radius_m=0.55),
            Row("Lantern Street", 6, "Acer rubrum", "2 in balled", date(2026, 6, 23),
                "{nth} from the corner, Lantern Street", basin_m=0.7),
            Row("Lantern Street", 2, "Taxodium distichum", "#15 container", date(2026, 7, 9),
                "{nth} from the drain", basin_m=0.55, mulch_radius_m=0.5),
        ),
    ),
    DemoSite(
        "Tamarack Street median", "TS", "sandy_clay_loam", 480.0, 600.0, 2.5,
        (
            Row("North median", 4, "Gleditsia triacanthos var. inermis", "24 in box", date(2026, 4, 2),
                "{nth} from Third Avenue", method="wicked", basin_m=None, surround="paved", microclimate=1.4,
                mulch_radius_m=0.6, own={"reservoir_l": 75.0}),
            Row("North median", 5, "Pistacia chinensis", "18 in fabric bag", date(2025, 11, 5),
                "{nth} from the crosswalk", method="soaker", basin_m=None, surround="gravel", mulch_radius_m=0.5,
                line="North valve", feel=(0.7, 0.7), own={"soaker_across_m": 0.4, "soaker_flow_l_per_h_m": 6.0}),
            Row("North median", 2, "Quercus shumardii", "2 in balled", date(2024, 3, 20),
                "{nth} from the lamp", method="emitters", basin_m=None, surround="gravel", line="North valve",
                feel=(0.7, 0.8)),
            Row("South median", 3, "Ulmus parvifolia", "20/25 cm girth", date(2025, 10, 20),
                "{nth} from the bridge", method="tank", basin_m=0.8, surround="plastic_holed", feel=(0.6, 0.6)),
            Row("South median", 2, "Koelreuteria paniculata", "#25 container", date(2026, 5, 12),
                "{nth} from the flower bed", method="sprinkler", basin_m=None,
                own={"sprinkler_across_m": 1.0, "sprinkler_flow_l_per_h": 45.0}),
        ),
        crew=12,
        own={"mode": "hold", "water_source": "reclaimed", "water_ec_ds_m": 1.4, "water_sar": 5.0,
             "tank_flow_l_per_h": 1500.0},
    ),
)  # fmt: skip

LINES: dict[tuple[str, str], dict[str, float]] = {
    ("RT", "Depot Street valve"): {
        "static_head_m": 35.0, "open_flow_l_per_h": 1400.0, "regulator_head_m": 14.06, "lead_m": 6.0, "spacing_m": 8.0,
        "rise_percent": 1.5, "bearing_deg": 0.0, "offset_m": 0.6, "bore_mm": 17.8,
    },
    ("RT", "Hedge valve"): {
        "static_head_m": 35.0, "open_flow_l_per_h": 1400.0, "regulator_head_m": 14.06, "lead_m": 4.0, "spacing_m": 1.2,
        "rise_percent": 0.0, "bearing_deg": 90.0, "offset_m": 0.2, "bore_mm": 13.6,
    },
}  # fmt: skip
"""What feeds the lines that were laid out, as it was measured there, and how their rows lie."""

PROOF = ("RT", 21, date(2026, 7, 8), 60.0, 0.30)
"""A hole dug beside an emitter: which tree, when, after how many minutes, how deep it was wet [m]."""

LEAF_DATES = {
    "Gleditsia triacanthos var. inermis": ("05-12", "10-08"), "Acer rubrum": ("04-28", "10-15"),
    "Quercus macrocarpa": ("05-08", "10-22"),
}  # fmt: skip
"""Usual days in this town of coming into leaf and dropping it."""

GAUGE = (("TS", date(2026, 7, 3), 9.0), ("TS", date(2026, 7, 9), 2.5), ("TS", date(2026, 7, 12), 0.0))
"""What the gauge on the median read (mm): other showers fall there than at the yard."""

SOIL_TESTS = (
    ("HL", "jar", date(2025, 4, 12), "beside the flagpole", True,
     {"sand_top_m": 0.033, "silt_top_m": 0.068, "clay_top_m": 0.102, "sand_after_s": 60.0, "silt_after_h": 2.0,
      "clay_after_h": 47.0}),
    ("HL", "drain_hole", date(2026, 4, 20), "Hobb Lane gate, 4th planting hole", True,
     {"first_depth_m": 0.28, "last_depth_m": 0.264, "minutes": 60.0, "across_m": 0.30}),
    ("HL", "crumble", date(2026, 4, 23), "Hobb Lane gate", False, {"found": "crumbles", "rain_before_mm": 0.5}),
    ("RT", "ribbon", date(2025, 9, 15), "past the trestle", True, {"ribbon": "short", "pinch": "gritty"}),
    ("RT", "infiltration", date(2026, 4, 6), "picnic bend", True, {"fallen_m": 0.011, "minutes": 30.0}),
    ("SO", "drain_hole", date(2024, 10, 2), "north wall, west end", True,
     {"first_depth_m": 0.30, "last_depth_m": 0.278, "minutes": 60.0, "across_m": 0.30}),
    ("TS", "percentages", date(2025, 9, 30), "north median, lab", True,
     {"sand_percent": 56.0, "silt_percent": 20.0, "clay_percent": 24.0, "organic_percent": 1.8, "packing": "firm"}),
    ("SO", "hardpan", date(2024, 10, 2), "north wall, three places", True, {"depth_m": 0.58}),
)  # fmt: skip

ORDINALS = (
    "first", "second", "third", "fourth", "fifth", "sixth", "seventh", "eighth", "ninth", "tenth",
)  # fmt: skip


OTHER_FIRM_S = DemoSite(
    "Coldwater Mews courtyard", "CM", "loam", 360.0, 300.0, 4.0,
    (
        Row("Courtyard tap", 5, "Acer rubrum", "2 in balled", date(2026, 5, 12), "{nth} from the tap"),
        Row("Service lane", 3, "Malus (crabapple hybrids)", "#15 container", date(2026, 4, 22), "{nth} from the gate"),
    ),
)  # fmt: skip
"""The one site of the town's other firm."""
OTHER_WEATHER_DAYS = 120


def fill_other(sessions: SessionMaker) -> None:
    """Give another organisation a small site of its own, on the same weather."""
    made = Climate.shipped()
    with transaction(sessions) as session:
        station = Station(
            id=name_id("station", "other"), name="Coldwater roof", wind_height_m=2.0, column_mapping={},
            made_up_forecast=True, **PLACE,
        )  # fmt: skip
        session.add(station)
        session.flush()
        rows = made.observed(DAY - timedelta(days=OTHER_WEATHER_DAYS), DAY - timedelta(days=1))
        weather_days.store_days(session, station, as_days([_day(row) for row in rows]))
        _plant_site(session, OTHER_FIRM_S, station.id, DAY - timedelta(days=LOG_DAYS))


def is_there(session: Session) -> bool:
    """Whether the demo was put in before."""
    return session.scalars(select(Site.id)).first() is not None


def fill(sessions: SessionMaker, climate: Climate | None = None) -> None:
    """Put the scenario into an empty database."""
    made = climate or Climate.shipped()
    start = DAY - timedelta(days=LOG_DAYS)
    with transaction(sessions) as session:
        kinds.seed_tables(session)
        session.flush()
        clock.pin(session, start)
        for botanical, (out, fall) in LEAF_DATES.items():
            kind = session.scalars(select(Plant).where(Plant.botanical == botanical)).one()
            kind.leaf_out, kind.leaf_fall = out, fall
        for name in PEOPLE:
            session.add(Person(id=name_id("person", name), name=name))
        station = Station(
            id=name_id("station"),
            name="Ochre Falls yard",
            wind_height_m=2.0,
            column_mapping={},
            made_up_forecast=True,
            **PLACE,
        )
        session.add(station)
        session.flush()
        rows = made.observed(FIRST_WEATHER, DAY - timedelta(days=1))
        clock.pin(session, DAY)  # all of it has been measured
        weather_days.store_days(session, station, as_days([_day(row) for row in rows]))
        clock.pin(session, start)
        for ground in SITES:
            _plant_site(session, ground, station.id, start)
        _read_gauges(session)
    with transaction(sessions) as session:
        for prefix, name in LINES:
            layouts.save_line(session, name_id("layouts", prefix, name), name_id("line", prefix, name), start)
    _keep_log(sessions, start)
    with transaction(sessions) as session:
        clock.pin(session, DAY)
        prefix, number, day, minutes, depth_m = PROOF
        tree_id = name_id("tree", prefix, number)
        layouts.put_proof(session, name_id("proof", tree_id), tree_id, day, minutes, depth_m, "")
        planting.fill(session, DAY)
        for laid in dict.fromkeys(prefix for prefix, _ in LINES):
            changes.grown(session, name_id("site", laid))  # as the roots have grown since it was laid
    felt.fill(sessions, DAY, ZONE, PEOPLE)
    ends.fill(sessions, DAY, PEOPLE)
    limits.fill(sessions, DAY)


def _read_gauges(session: Session) -> None:
    for prefix, day, rain_mm in GAUGE:
        session.add(GaugeDay(site_id=name_id("site", prefix), day=day, rain_mm=rain_mm))


def _day(row: dict) -> WeatherDay:
    kept = {name: row[name] for name in WeatherDay.__dataclass_fields__ if name != "day"}
    return WeatherDay(day=date.fromisoformat(row["date"]), **kept)


def _plant_site(session: Session, ground: DemoSite, station_id: UUID, start: date) -> None:
    site = Site(
        id=name_id("site", ground.prefix), name=ground.name, timezone=ZONE, climate="dry", texture=ground.texture,
        root_depth_max_m=0.6, hose_flow_l_per_h=ground.hose_flow_l_per_h, pour_step_l=0.0, station_id=station_id,
        tank_l=ground.tank_l, crew_hours=ground.crew_hours,
        **PLACE, **ground.own,
    )  # fmt: skip
    session.add(site)
    session.flush()
    for prefix, kind, day, place, used, readings in SOIL_TESTS:
        if prefix == ground.prefix:
            test_id = name_id("soil test", prefix, kind, day)
            soil.put(session, soil.NewTest(test_id, site.id, kind, day, place, readings, used))
    stops: dict[str, Stop] = {}
    number = 0
    for row in ground.rows:
        if row.line and session.get(Line, name_id("line", ground.prefix, row.line)) is None:
            measured = LINES.get((ground.prefix, row.line), {})
            line_id = name_id("line", ground.prefix, row.line)
            session.add(Line(id=line_id, site_id=site.id, name=row.line, **measured))
            session.flush()
        if row.stop not in stops:
            stops[row.stop] = Stop(
                id=name_id("stop", ground.prefix, row.stop), site_id=site.id, name=row.stop, position=len(stops)
            )
            session.add(stops[row.stop])
            session.flush()
        for nth in range(row.count):
            number += 1
            session.add(_tree(session, ground, row, site, stops[row.stop], number, nth, start))
    session.flush()


def _tree(
    session: Session, ground: DemoSite, row: Row, site: Site, stop: Stop, number: int, nth: int, start: date
) -> Tree:
    plant = session.scalars(select(Plant).where(Plant.botanical == row.plant)).one()
    size = session.scalars(select(StockSize).where(StockSize.label.startswith(row.size))).one()
    earlier = row.planted < start
    return Tree(
        id=name_id("tree", ground.prefix, number), site_id=site.id, stop_id=stop.id, row_place=number,
        tag=f"{ground.prefix}-{number:02d}", place=row.words.format(nth=ORDINALS[nth]), plant_id=plant.id,
        line_id=name_id("line", ground.prefix, row.line) if row.line else None,
        stock_size_id=size.id, kind=size.kind, caliper_m=size.caliper_m, ball_diameter_m=size.ball_diameter_m,
        ball_height_m=size.ball_height_m, planted_on=row.planted, opened_on=start if earlier else row.planted,
        opening=("reading" if row.feel else "guessed") if earlier else "full",
        ball_wetness=row.feel[0] if row.feel else None, ring_wetness=row.feel[1] if row.feel else None,
        bud_break_on=row.planted + timedelta(days=25) if size.kind == "bare_root" else None,
        microclimate=row.microclimate, surround=row.surround, method=row.method, basin_diameter_m=row.basin_m,
        basin_depth_m=0.08 if row.basin_m else None, emitter_count=4 if row.method == "emitters" else 0,
        emitter_flow_l_per_h=8.0 if row.method == "emitters" else 0.0, bag_capacity_l=75.0,
        mulch_material="wood_chips", mulch_depth_m=row.mulch_m, mulch_outer_radius_m=row.mulch_radius_m,
        mulch_measured_on=max(row.planted, start - timedelta(days=40)), **row.own,
    )  # fmt: skip


def _keep_log(sessions: SessionMaker, start: date) -> None:
    """A month of work: each morning the crew waters what is due, and now and then does not get to one."""
    crews = {ground.crew: np.random.Generator(np.random.PCG64(ground.crew)) for ground in SITES}
    of_site = {ground.name: crews[ground.crew] for ground in SITES}
    for number in range(LOG_DAYS):
        day = start + timedelta(days=number)
        with transaction(sessions) as session:
            clock.pin(session, day)
            sites = session.scalars(select(Site).order_by(Site.name)).all()
            plans = plan_sites(session, sites)
            for order, site in enumerate(sites):
                _water_site(session, plans[site.id], day, order, of_site[site.name])


def _water_site(session: Session, made: SitePlan, day: date, order: int, rng: np.random.Generator) -> None:
    at = datetime.combine(day, time(6, 40), ZoneInfo(ZONE)) + timedelta(minutes=40 * order)
    person = name_id("person", PEOPLE[order % len(PEOPLE)])
    entries, stop, hoses = [], None, limits.hoses_at(made.site.id)
    for i, row in enumerate(made.rows):
        if made.plan.visit[i] != made.course.today or row.opened_on > day:
            continue
        if rng.random() < MISSED_SHARE and not made.on_a_line(i):
            continue
        pour = water.visit_on(made, i, made.course.today).us
        beside = load.runs_alone(made.deliveries[i].method, made.on_a_line(i))
        came = 0.0 if row.stop_id == stop else SET_UP_AND_WAY_MIN
        stop = row.stop_id
        at += timedelta(minutes=came + HANDLING_MIN + (0.0 if beside else pour.run_min / hoses))
        entry = NewEntry(
            id=name_id("entry", row.id, day), tree_id=row.id, kind="water", happened_at=at,
            device_id=f"{DEVICE}-{order}", person_id=person, volume_l=pour.litres, duration_min=round(pour.run_min, 1),
        )  # fmt: skip
        entries.append(entry)
    if day.weekday() == 2 and order == 0 and made.rows:
        note = NewEntry(
            id=name_id("note", day), tree_id=made.rows[0].id, kind="note", happened_at=at, device_id=DEVICE,
            person_id=person, note="Two leaves scorched on the street side. Soil moist at a finger's depth.",
        )  # fmt: skip
        entries.append(note)
    clock.pin(session, day + timedelta(days=1))
    log.put_all(session, entries)
    clock.pin(session, day)
