"""Weather files: what a file would bring to a station, its own place against the station's, and taking it."""

from collections import Counter
from collections.abc import Mapping
from dataclasses import asdict, dataclass
from datetime import date
from typing import Any
from uuid import UUID

from june_shade.core.errors import InputError
from june_shade.core.weather import daily, quality
from june_shade.core.weather.place import distance_km
from june_shade.formats import ghcn, spoken, weather_csv, weather_files
from june_shade.plans import clock, weather, weather_days
from june_shade.store import weather as store
from june_shade.store.session import Session
from june_shade.store.weather_tables import Station

FAR_KM = 80.0
SHOWN_ISSUES, SAMPLE_DAYS = 100, 5


@dataclass(frozen=True, slots=True)
class ImportPreview:
    """What a file would bring: the reading, how many days are new and how many replace others, ETo by day.

    problem: what a person must still say about its columns, or why it can't be taken; "" where all is well. place:
    codes on the file's own place. flagged: codes of what is unlikely about each day.
    """

    reading: weather_csv.Reading
    new: int
    changed: int
    eto: daily.ReferenceEt
    problem: str = ""
    place: tuple[str, ...] = ()
    flagged: tuple[tuple[str, ...], ...] = ()


def check_mapping(mapping: Mapping[str, str]) -> None:
    """Raises InputError for a meaning that no column, and nothing that is asked of a file, can have."""
    allowed = {"", "date", *weather_csv.COLUMNS}
    for header, meaning in mapping.items():
        if "\0" in header:
            raise InputError("can't hold a NUL character", "mapping")
        asked = {ghcn.UNITS_KEY: ghcn.UNITS, spoken.DATE_ORDER_KEY: spoken.DATE_ORDERS}.get(header)
        if meaning not in (asked if asked and meaning else allowed):
            raise InputError(f"{header!r} can't mean {meaning!r}", "mapping")


def preview_import(session: Session, station_id: UUID, data: bytes, mapping: Mapping[str, str]) -> ImportPreview:
    """Read a file for a station without storing anything. A header not understood is a preview without days."""
    where = weather.station(session, station_id)
    today = clock.today(session, weather.zone_of(session, where))
    try:
        reading = weather_files.read(data, {**where.column_mapping, **mapping}, today)
    except weather_csv.HeaderError as e:
        nothing = daily.Days.of([])
        return ImportPreview(
            weather_csv.Reading(nothing, (), e.columns, (), ()), 0, 0, weather.eto_of(where, nothing), e.message
        )
    dates = [d.item() for d in reading.days.dates]
    known = store.known_dates(session, station_id, dates)
    found, problem = place_codes(where, reading)
    flagged = quality.flags(reading.days, where.latitude_deg, where.elevation_m)
    return ImportPreview(
        reading, len(dates) - len(known), len(known), weather.eto_of(where, reading.days), problem, found, flagged
    )


def place_codes(where: Station, reading: weather_csv.Reading) -> tuple[tuple[str, ...], str]:
    """What a file's own words on its place say against the station's, as codes, and what forbids to take it.

    far_away, other_elevation, other_wind_height; a file from the other half of the world is a slip of a sign.
    """
    found = []
    if reading.wind_height_m is not None and reading.wind_height_m != where.wind_height_m:
        found.append("other_wind_height")
    place = reading.place
    if place is None:
        return tuple(found), ""
    for name, theirs, ours, words in (
        ("latitude", place.latitude_deg, where.latitude_deg, ("north", "south")),
        ("longitude", place.longitude_deg, where.longitude_deg, ("east", "west")),
    ):
        if theirs * ours < 0 and min(abs(theirs), abs(ours)) > 1:
            said, here = words[theirs < 0], words[ours < 0]
            return tuple(found), (
                f"the file is from {abs(theirs):g} degrees {said} ({place.name}), the station stands "
                f"{abs(ours):g} degrees {here}: a sign of the {name} is wrong, or it is another station's file"
            )
    if distance_km(place.latitude_deg, place.longitude_deg, where.latitude_deg, where.longitude_deg) > FAR_KM:
        found.append("far_away")
    if place.elevation_m is not None and abs(place.elevation_m - where.elevation_m) > 150:
        found.append("other_elevation")
    return tuple(found), ""


def refusal(preview: ImportPreview) -> str:
    """Why nothing of a file can be stored, "" where something can."""
    return preview.problem or ("" if len(preview.reading.days) else "not one row of the file could be used")


def accept_import(
    session: Session, station_id: UUID, preview: ImportPreview, mapping: Mapping[str, str], import_id: UUID
) -> None:
    """Store the good rows of a file, remember its mapping, and forget the computed days that rest on it."""
    if why := refusal(preview):
        raise InputError(why, "file")
    where = weather.station(session, station_id)
    weather_days.store_days(session, where, preview.reading.days, import_id)
    where.column_mapping = {**where.column_mapping, **mapping}


def told(where: Station, preview: ImportPreview) -> dict[str, Any]:
    """What a file brings, as pages show it: plain words and numbers, days as texts."""
    reading = preview.reading
    dates: list[date] = sorted(d.item() for d in reading.days.dates)
    sample = weather.shown_days(where, reading.days.until(SAMPLE_DAYS), preview.eto)
    flagged = [
        (day.item(), codes) for day, codes in zip(reading.days.dates, preview.flagged, strict=False) if codes
    ]  # fmt: skip
    return {
        "days": len(dates), "new": preview.new, "changed": preview.changed,
        "first_day": str(dates[0]) if dates else None, "last_day": str(dates[-1]) if dates else None,
        "columns": [{"header": name, "meaning": word} for name, word in reading.columns.items()],
        "problem": preview.problem, "meanings": ["date", *weather_csv.COLUMNS],
        "refused": [asdict(issue) for issue in reading.refused[:SHOWN_ISSUES]],
        "refused_count": len(reading.refused), "doubts": [asdict(issue) for issue in reading.doubts[:SHOWN_ISSUES]],
        "methods": dict(Counter(preview.eto.method)),
        "sample": [
            asdict(day) | {"day": str(day.day), "flags": list(codes)}
            for day, codes in zip(sample, preview.flagged, strict=False)
        ],
        "kind": reading.kind, "place": list(preview.place),
        "file_place": reading.place.name if reading.place else None,
        "flagged": [{"day": str(day), "flags": list(codes)} for day, codes in flagged[:SHOWN_ISSUES]],
        "flagged_count": len(flagged),
    }  # fmt: skip
