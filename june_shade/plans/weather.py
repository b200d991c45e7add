"""Weather for a site: what was measured, the last forecast, and one unbroken series for the balance."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, fields, replace
from datetime import date, timedelta
from typing import Any
from uuid import UUID

import numpy as np

from june_shade.core.errors import NotFoundError, NoWeatherError
from june_shade.core.weather import daily, explain, normals, quality, series
from june_shade.core.weather.admit import FIRST_DAY
from june_shade.core.weather.series import Known, Series
from june_shade.core.working import Step
from june_shade.plans.kept import Kept
from june_shade.store import trees as tree_store
from june_shade.store import weather as store
from june_shade.store.session import Session, database_of
from june_shade.store.site_tables import Site
from june_shade.store.weather_tables import Station

AHEAD_DAYS = 13
"""How far a plan looks beyond today: 14 days in all."""
FORECAST_WIND_HEIGHT_M = 2.0
"""The forecast service gives wind at 2 m."""


@dataclass(frozen=True, slots=True)
class StationWeather:
    """A station's days with their ETo [mm] and the words of how each was made."""

    days: daily.Days
    eto: daily.ReferenceEt


@dataclass(frozen=True, slots=True)
class DayShown:
    """A day as pages show it, None where it is not known; rain_chance 0..1, method: how its ETo was made."""

    day: date
    measured: bool
    tmin_c: float | None
    tmax_c: float | None
    rain_mm: float | None
    rain_chance: float
    wind_m_s: float | None
    humidity_percent: float | None
    eto_mm: float | None
    method: str
    flags: tuple[str, ...]


def shown_days(
    where: Station, days: daily.Days, eto: daily.ReferenceEt, chance: np.ndarray | None = None
) -> list[DayShown]:
    """Days one by one. chance: of rain, arrays of shape (days,), where they are forecast and not measured."""
    measured = chance is None
    found = quality.flags(days, where.latitude_deg, where.elevation_m) if measured else ((),) * len(days)
    humidity = np.where(np.isnan(days.rh_percent), (days.rh_min_percent + days.rh_max_percent) / 2, days.rh_percent)

    def value(column: np.ndarray, i: int) -> float | None:
        return None if np.isnan(column[i]) else float(column[i])

    return [
        DayShown(
            days.dates[i].item(), measured, value(days.tmin_c, i), value(days.tmax_c, i), value(days.rain_mm, i),
            1.0 if chance is None else float(chance[i]), value(days.wind_m_s, i), value(humidity, i),
            value(eto.eto_mm, i), eto.method[i], tuple(found[i]),
        )
        for i in range(len(days))
    ]  # fmt: skip


def station(session: Session, station_id: UUID) -> Station:
    """A station, or NotFoundError."""
    found = session.get(Station, station_id)
    if found is None:
        raise NotFoundError("there is no such weather station", "station_id")
    return found


def stations(session: Session) -> Sequence[Station]:
    """All stations by name."""
    return store.stations(session)


def span(session: Session, where: Station) -> tuple[date | None, date | None, int]:
    """First and last measured day of a station and how many there are."""
    return store.span(session, where.id)


_kept: dict[tuple[Any, ...], tuple[tuple[Any, ...], StationWeather]] = {}
"""The last reading of each station by database and id, with what it was read from; see `_all_measured`."""


def measured(session: Session, where: Station, first: date | None = None, last: date | None = None) -> StationWeather:
    """Measured days of a station, with ETo by the best equation that each allows."""
    found = _all_measured(session, where)
    dates = found.days.dates
    start = 0 if first is None else int(np.searchsorted(dates, np.datetime64(first, "D")))
    end = len(dates) if last is None else int(np.searchsorted(dates, np.datetime64(last, "D"), side="right"))
    return StationWeather(
        daily.Days(*(getattr(found.days, f.name)[start:end] for f in fields(daily.Days))),
        daily.ReferenceEt(found.eto.eto_mm[start:end], found.eto.method[start:end]),
    )


def _all_measured(session: Session, where: Station) -> StationWeather:
    """All of a station's days, read again only when they, or its place, have changed."""
    key = (database_of(session), where.id)
    stamp = (store.days_stamp(session, where.id), where.latitude_deg, where.elevation_m, where.wind_height_m)
    if key in _kept and _kept[key][0] == stamp:
        return _kept[key][1]
    rows = store.station_days(session, where.id)
    columns = zip(*rows, strict=True) if rows else [()] * (1 + len(store.QUANTITIES))
    day, *values = (list(column) for column in columns)
    days = daily.Days.of(day, **dict(zip(store.QUANTITIES, values, strict=True)))
    found = StationWeather(days, eto_of(where, days))
    _kept[key] = (stamp, found)
    return found


def eto_of(where: Station, days: daily.Days) -> daily.ReferenceEt:
    """ETo of days at a station's place."""
    return daily.reference_et(days, where.latitude_deg, where.elevation_m, where.wind_height_m)


TOTAL_DAYS = (7, 30)


@dataclass(frozen=True, slots=True)
class Total:
    """What the air took and what fell [mm] in the `days` before today, of which `measured_days` were measured."""

    days: int
    measured_days: int
    eto_mm: float
    rain_mm: float
    short_mm: float


def totals(past: StationWeather, today: date) -> list[Total]:
    """Sums over the last 7 and 30 days, today left out."""
    result = []
    for count in TOTAL_DAYS:
        age = (np.datetime64(today, "D") - past.days.dates).astype(int)
        within = (age >= 1) & (age <= count)
        eto, rain = past.eto.eto_mm[within], past.days.rain_mm[within]
        lost, fell = float(np.nansum(eto)), float(np.nansum(rain))
        result.append(Total(count, int(np.sum(~np.isnan(eto))), lost, fell, lost - fell))
    return result


def season(session: Session, where: Station, today: date) -> normals.Season:
    """The season so far at a station beside its own other years."""
    found = _all_measured(session, where)
    return normals.season(found.days, found.eto.eto_mm, today, where.latitude_deg)


def eto_working(session: Session, where: Station, day: date) -> tuple[str, tuple[Step, ...]]:
    """How the ETo of a day was made, and the sum behind it; of the forecast where the day was not measured."""
    place = (where.latitude_deg, where.elevation_m)
    past = measured(session, where, day, day)
    if len(past.days):
        return past.eto.method[0], explain.eto(past.days, 0, *place, where.wind_height_m)
    ahead = forecast(session, where, day)
    if len(ahead.days) and ahead.days.dates[0] == np.datetime64(day, "D"):
        return ahead.eto.method[0], explain.eto(ahead.days, 0, *place, FORECAST_WIND_HEIGHT_M)
    raise NotFoundError(f"nothing is known of {day} here", "day")


def zone_of(session: Session, where: Station) -> str:
    """IANA zone of a station: that of a site that reads it; UTC while there is none."""
    sites = store.sites_of(session, where.id)
    return sites[0].timezone if sites else "UTC"


@dataclass(frozen=True, slots=True)
class Forecast:
    """The last forecast of a station from a day on: days, ETo, chance of rain 0..1."""

    days: daily.Days
    eto: daily.ReferenceEt
    chance: np.ndarray


def forecast(session: Session, where: Station, first: date | None = None) -> Forecast:
    """The last forecast made for each day, ETo included."""
    rows = store.forecast_days(session, where.id, first)
    names = ("tmin_c", "tmax_c", "rain_mm", "rh_percent", "wind_m_s", "radiation_mj_m2")
    days = daily.Days.of([r.day for r in rows], **{n: [getattr(r, n) for r in rows] for n in names})
    eto = daily.reference_et(days, where.latitude_deg, where.elevation_m, FORECAST_WIND_HEIGHT_M)
    return Forecast(days, eto, np.array([r.rain_chance for r in rows], dtype=float))


def site_series(session: Session, site: Site, first: date, today: date) -> Series:
    """One unbroken series for a site, at least from `first`, 14 days ahead.

    It opens with the year before the site's oldest tree was planted, or with the station's first day where that is
    later, so that snow, leaves and running means never depend on how far back a caller happens to look, and decades of
    days cost nothing.
    """
    where = site.station
    if where is None:
        raise NoWeatherError("this site has no weather station: choose one, then import days", "station")
    first = min(first, tree_store.earliest_opening(session, site.id) or today)
    oldest = min(first, tree_store.earliest_planting(session, site.id) or today)
    begins = date(max(FIRST_DAY.year, oldest.year - 1), 1, 1)
    gauge = tuple((row.day, row.rain_mm) for row in store.gauge_days(session, site.id))
    rests_on = (
        store.days_stamp(session, where.id), where.forecast_fetched_at, where.forecast_made_up, where.latitude_deg,
        where.elevation_m, where.wind_height_m, tuple(where.monthly_eto_mm or ()), gauge, first, begins, today,
    )  # fmt: skip
    name = database_of(session), where.id, gauge, first, begins
    return _series.get(name, rests_on, lambda: _assembled(session, where, dict(gauge), first, begins, today))


_series: Kept[Series] = Kept(64)
"""The last series of each station, for each gauge and beginning: many sites read one station."""


def _assembled(
    session: Session, where: Station, gauge: Mapping[date, float], first: date, begins: date, today: date
) -> Series:
    past = measured(session, where, last=today)
    ahead = forecast(session, where)
    known = Known(
        past.days.dates,
        past.eto.eto_mm,
        past.days.tmin_c,
        past.days.tmax_c,
        _with_gauge(gauge, past.days.dates, past.days.rain_mm),
        np.ones(len(past.days)),
    )
    coming = Known(
        ahead.days.dates, ahead.eto.eto_mm, ahead.days.tmin_c, ahead.days.tmax_c, ahead.days.rain_mm, ahead.chance
    )
    start = min([first, today, *(max(begins, d.item()) for d in past.days.dates[:1])])
    made = series.assemble(known, coming, start, today + timedelta(days=AHEAD_DAYS), today, where.monthly_eto_mm)
    return _gauge_where_unmeasured(gauge, made, today)


def _with_gauge(gauge: Mapping[date, float], dates: np.ndarray, rain_mm: np.ndarray) -> np.ndarray:
    """The station's rain with what the site's own gauge read laid over it: the gauge stands where the trees are."""
    laid = rain_mm.copy()
    for day, fell_mm in gauge.items():
        laid[dates == np.datetime64(day, "D")] = fell_mm
    return laid


def _gauge_where_unmeasured(gauge: Mapping[date, float], made: Series, today: date) -> Series:
    """Gauge readings of days that the station did not measure: what fell counts whole, whatever fills the day else."""
    rain_mm, share = made.rain_mm.copy(), made.rain_share.copy()
    for day, fell_mm in gauge.items():
        at = (made.dates == np.datetime64(day, "D")) & (made.basis != series.MEASURED)
        if day <= today:
            rain_mm[at], share[at] = fell_mm, 1.0
    return replace(made, rain_mm=rain_mm, rain_share=share)
