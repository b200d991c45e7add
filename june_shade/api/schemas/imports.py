"""Files that come in, and days put right by hand."""

from datetime import date, datetime
from typing import Annotated, Literal
from uuid import UUID

from pydantic import Field, StringConstraints

from june_shade.api.language import Sentence
from june_shade.api.schemas.common import In, IssueOut, Out, quantity
from june_shade.api.schemas.trees import TreesFileOut
from june_shade.api.schemas.weather import WeatherDayOut
from june_shade.core.weather import admit
from june_shade.formats.weather_csv import Kind

Stage = Literal["reading", "read", "storing", "stored", "undoing", "undone", "refused", "cancelled"]


class ColumnOut(Out):
    """A column of a file."""

    header: str
    meaning: str = Field(description="One of `meanings`; empty where it is not used.")


class FlaggedDay(Out):
    """A day of a file with what is unlikely about it."""

    day: date
    flags: list[str]


class WeatherFileOut(Out):
    """What was understood of a weather file."""

    days: int
    new: int
    changed: int
    first_day: date | None
    last_day: date | None
    columns: list[ColumnOut] = Field(description="In the file's order.")
    problem: Sentence = Field(description="What must still be said about the columns; empty where they are understood.")
    meanings: list[str] = Field(description="What a header can be mapped to.")
    refused: list[IssueOut]
    refused_count: int
    doubts: list[IssueOut]
    methods: dict[str, int] = Field(description="Days by how their ETo is made; an empty name = it can't be.")
    sample: list[WeatherDayOut]
    kind: Kind = Field(description="Which format it is.")
    file_place: str | None = Field(description="The place that the file itself names.")
    place: list[str] = Field(description="Codes: far_away, other_elevation, other_wind_height.")
    flagged: list[FlaggedDay] = Field(description="The first days with something unlikely; they are taken too.")
    flagged_count: int


class ImportOut(Out):
    """A file on its way in: being read, read and waiting for a yes, being stored, stored, or why not."""

    id: UUID
    kind: Literal["trees", "weather", "day"] = Field(description="day: one that was put right by hand.")
    station_id: UUID | None
    name: str = Field(description="The file's name, or the day.")
    state: Stage
    done: int = Field(description="Lines worked on so far.")
    total: int = Field(description="Of how many; 0 while that is not known.")
    problem: Sentence = Field(description="Why it was refused, or could not be undone; empty where nothing was wrong.")
    field: str
    created_at: datetime
    stored_at: datetime | None
    undone_at: datetime | None
    trees: TreesFileOut | None = Field(description="What a register file does, once it is read.")
    weather: WeatherFileOut | None = Field(description="What a weather file brings, once it is read.")


class ImportBrief(Out):
    """What was brought in once."""

    id: UUID
    kind: Literal["trees", "weather", "day"]
    name: str
    state: Stage
    stored_at: datetime
    undone_at: datetime | None
    problem: Sentence = Field(description="Why it could not be undone; empty where that was not tried.")
    first_day: date | None
    last_day: date | None
    days: int | None
    new: int | None = Field(description="Trees or days that were not there before.")
    changed: int | None


class MappingIn(In):
    """What the headers of a file mean, by header; an empty meaning leaves a column out."""

    mapping: dict[Annotated[str, StringConstraints(max_length=200)], Annotated[str, StringConstraints(max_length=40)]]


def _reading(name: str, unit: str, description: str) -> float | None:
    low, high = admit.LIMITS[name]
    value: float | None = quantity(unit, f"{description}; null where it was not measured", None, ge=low, le=high)
    return value


class DayIn(In):
    """A station's day as it should be. What is left out was not measured."""

    tmin_c: float | None = _reading("tmin_c", "degC", "Lowest")
    tmax_c: float | None = _reading("tmax_c", "degC", "Highest")
    rain_mm: float | None = _reading("rain_mm", "mm", "Rain")
    dew_point_c: float | None = _reading("dew_point_c", "degC", "Dew point")
    rh_percent: float | None = _reading("rh_percent", "%", "Mean humidity")
    rh_min_percent: float | None = _reading("rh_min_percent", "%", "Lowest humidity")
    rh_max_percent: float | None = _reading("rh_max_percent", "%", "Highest humidity")
    wind_m_s: float | None = _reading("wind_m_s", "m/s", "Mean wind at the station's wind height")
    sun_h: float | None = _reading("sun_h", "h", "Sunshine")
    radiation_mj_m2: float | None = _reading("radiation_mj_m2", "MJ/m2", "Solar radiation of the day")
    eto_station_mm: float | None = _reading("eto_station_mm", "mm", "The station's own ETo")


class DayOut(Out):
    """A station's day as it was measured, by quantity."""

    day: date
    tmin_c: float | None
    tmax_c: float | None
    rain_mm: float | None
    dew_point_c: float | None
    rh_percent: float | None
    rh_min_percent: float | None
    rh_max_percent: float | None
    wind_m_s: float | None
    sun_h: float | None
    radiation_mj_m2: float | None
    eto_station_mm: float | None
