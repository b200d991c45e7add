"""What the town's crews have, and the order that the water board gave out for July: a plan under limits to look at."""

from datetime import date
from typing import Any
from uuid import UUID

from june_shade.demo.names import name_id
from june_shade.plans import crews, restrictions
from june_shade.store.session import SessionMaker, transaction
from june_shade.store.site_tables import Site, Stop

CREWS: dict[str, tuple[tuple[str, ...], dict[str, Any]]] = {
    "North crew": (
        ("HL", "SO"),
        {"people": 2, "working_days": [0, 1, 2, 3, 4, 5, 6], "hours": 3.25, "hoses": 2, "tank_l": 800.0,
         "yard_latitude_deg": 40.212, "yard_longitude_deg": -104.706},
    ),
    "Trail crew": (
        ("RT", "TS"),
        {"people": 3, "working_days": [0, 1, 2, 3, 4, 5, 6], "hours": 3.25, "hoses": 1, "tank_l": 1200.0,
         "yard_latitude_deg": 40.212, "yard_longitude_deg": -104.706},
    ),
}  # fmt: skip
SHORT = "North crew"
"""One of its hands is away today."""
USUAL = {"starts_min": 360, "break_min": 90.0, "fill_min": 20.0, "set_up_min": 6.0, "handling_min": 1.0}
STOPS = {
    ("HL", "Hobb Lane gate"): (40.2031, -104.7052), ("HL", "Bus loop"): (40.2039, -104.7034),
    ("HL", "Ball field fence"): (40.2052, -104.7061), ("SO", "North wall"): (40.2188, -104.6911),
    ("SO", "Lantern Street"): (40.2195, -104.6886), ("RT", "Trailhead"): (40.1901, -104.7203),
    ("RT", "Trestle"): (40.1865, -104.7288), ("RT", "Picnic bend"): (40.1838, -104.7342),
    ("RT", "Depot Street boulevard"): (40.1921, -104.7161), ("RT", "Depot hedge"): (40.1926, -104.7158),
    ("TS", "North median"): (40.2002, -104.6999), ("TS", "South median"): (40.1978, -104.7001),
}  # fmt: skip
"""Where stops are (invented)."""
ORDER = {
    "name": "Ochre Falls stage 3", "stage": 3, "first_day": date(2026, 7, 1), "last_day": None, "week_l": 4600.0,
    "closes_yards": False, "link": "",
    "words": "From July 1 trees may be watered on Wednesdays and Saturdays, from 6 pm to 10 am. Drip, bags and boxes "
             "may run any day. Trees in their first year may be watered any day within these hours. Reclaimed water is "
             "free of days and hours.",
    "rules": {
        "weekdays": [3, 6], "windows": [["18:00", "10:00"]], "methods": None, "event_l": None,
        "exempt": [
            {"methods": ["emitters", "bag", "box"], "planted_within_days": None, "water": None,
             "rules": ["weekdays", "windows"]},
            {"methods": None, "planted_within_days": 365, "water": None, "rules": ["weekdays"]},
            {"methods": None, "planted_within_days": None, "water": ["reclaimed"], "rules": ["weekdays", "windows"]},
        ],
    },
}  # fmt: skip


def hoses_at(site_id: UUID) -> int:
    """How many hoses the crew of a site has running at once."""
    return next(
        values["hoses"] for prefixes, values in CREWS.values()
        if any(name_id("site", prefix) == site_id for prefix in prefixes)
    )  # fmt: skip


def fill(sessions: SessionMaker, today: date) -> None:
    """Put them into the town."""
    with transaction(sessions) as session:
        for (prefix, name), (latitude_deg, longitude_deg) in STOPS.items():
            stop = session.get_one(Stop, name_id("stop", prefix, name))
            stop.latitude_deg, stop.longitude_deg = latitude_deg, longitude_deg
        sites = []
        for name, (prefixes, has) in CREWS.items():
            crew = crews.put(session, name_id("crew", name), USUAL | {"name": name} | has)
            for prefix in prefixes:
                sites.append(session.get_one(Site, name_id("site", prefix)))
                sites[-1].crew_id = crew.id
        session.flush()
        crews.put_day(session, name_id("crew", SHORT), today, {
            "people_less": 1, "starts_min": None, "ends_min": None, "pump_broken": False,
        })  # fmt: skip
        restrictions.put(session, name_id("order", "stage 3"), dict(ORDER), [site.id for site in sites])
