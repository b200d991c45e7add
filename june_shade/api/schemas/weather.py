"""Weather stations, their days, the season, files that come in."""

from datetime import date, datetime
from typing import Annotated
from uuid import UUID

from pydantic import Field

from june_shade.api.language import Sentence
from june_shade.api.schemas.common import In, Name, Out, WorkingLine, quantity
from june_shade.api.schemas.sites import Latitude, Longitude


class StationIn(In):
    """A weather station as it is typed."""

    name: Name
    latitude_deg: Latitude
    longitude_deg: Longitude
    elevation_m: float = quantity("m", "Above sea level", ge=-500, le=9000)
    wind_height_m: float = quantity("m", "Height of the wind gauge", 2.0, gt=0.1, le=200)
    monthly_eto_mm: list[Annotated[float, Field(ge=0, le=20)]] | None = Field(
        None,
        min_length=12,
        max_length=12,
        description="Mean ETo of a day in each month [mm], where nothing else is known.",
    )
    version: int | None = Field(None, description="As it was read; an older one is refused. Leave out to overwrite.")


class StationOut(StationIn, Out):
    """A station, what it has, and how its forecast stands."""

    id: UUID
    column_mapping: dict[str, str]
    first_day: date | None
    last_day: date | None
    days: int
    forecast_fetched_at: datetime | None
    forecast_failed_at: datetime | None
    forecast_error: Sentence | None
    forecast_stale: bool
    forecast_made_up: bool = Field(description="What is kept of a forecast is made up.")
    forecast_available: bool = Field(description="A service is asked for this station's forecast.")
    made_up_offered: bool = Field(description="Made-up weather can be switched on, to try the program with.")
    made_up_forecast: bool = Field(description="It is switched on.")


class MadeUpIn(In):
    """Whether a station's forecast may be made up."""

    on: bool


class WeatherDayOut(Out):
    """One day of a station: measured, or forecast where `measured` is false."""

    day: date
    measured: bool
    tmin_c: float | None = quantity("degC", "Lowest")
    tmax_c: float | None = quantity("degC", "Highest")
    rain_mm: float | None = quantity("mm", "Rain")
    rain_chance: float
    wind_m_s: float | None = quantity("m/s", "Mean wind")
    humidity_percent: float | None = quantity("%", "Mean humidity")
    eto_mm: float | None = quantity("mm", "Reference evapotranspiration")
    method: str = Field(description="Which equation and which substitutes made it.")
    flags: list[str] = Field(description="What is unlikely about it, as codes; it counts all the same.")


class WeatherTotal(Out):
    """What the air took and what fell over the last days, today left out."""

    days: int
    measured_days: int = Field(description="Days that were measured; the others count nothing.")
    eto_mm: float = quantity("mm", "Reference evapotranspiration")
    rain_mm: float = quantity("mm", "Rain")
    short_mm: float = quantity("mm", "ETo less rain")


class SeasonOut(Out):
    """The season so far, today left out, beside the station's own other years."""

    since: date
    days: int
    measured_days: int
    years: int = Field(description="Other years with nearly all of these days.")
    eto_mm: float = quantity("mm", "Reference evapotranspiration")
    rain_mm: float = quantity("mm", "Rain")
    eto_usual_mm: float | None = quantity("mm", "Mean of the other years; null where there are none")
    rain_usual_mm: float | None = quantity("mm", "Mean of the other years; null where there are none")


class EtoWorking(Out):
    """The sum behind a day's ETo."""

    day: date
    method: str
    lines: list[WorkingLine]


class StationDays(Out):
    """A station's days and their totals."""

    today: date
    zone: str = Field(description="IANA zone of the station's sites.")
    totals: list[WeatherTotal]
    season: SeasonOut
    days: list[WeatherDayOut]
