"""The season of each station beside its other years: rain of the last one to three months."""

from collections.abc import Sequence
from datetime import timedelta
from typing import Any

import numpy as np

from june_shade.core.errors import JuneShadeError
from june_shade.core.weather import spi
from june_shade.core.weather.series import MEASURED, Series
from june_shade.plans import clock
from june_shade.plans import weather as weather_plans
from june_shade.store.session import Session
from june_shade.store.site_tables import Site

SPANS = (30, 60, 90)
YEARS_BACK = 60
LEAST_MEASURED = 0.9


def of_stations(session: Session, sites: Sequence[Site]) -> list[dict[str, Any]]:
    """Each station of these sites, once, with its spans; those of which nothing is known are not there."""
    found = {}
    for site in sites:
        if site.station is None or site.station.id in found:
            continue
        today = clock.today(session, site.timezone)
        try:
            series = weather_plans.site_series(session, site, today - timedelta(days=366 * YEARS_BACK), today)
        except JuneShadeError:
            continue
        spans = [told for days in SPANS if (told := _span(series, series.index(today), days)) is not None]
        if spans:
            found[site.station.id] = {"station": site.station.name, "spans": spans}
    return list(found.values())


def _span(series: Series, today: int, days: int) -> dict[str, Any] | None:
    """The last days against the same of other years."""
    now = _sum(series, today - days, today)
    past = []
    for years in range(1, YEARS_BACK + 1):
        end = series.index(_before(series.dates[today].item(), years))
        if end < days:
            break
        total = _sum(series, end - days, end)
        if total is not None:
            past.append(total)
    told = None if now is None else spi.against(now, np.array(past))
    return None if told is None else {"days": days} | {name: getattr(told, name) for name in told.__dataclass_fields__}


def _before(day: Any, years: int) -> Any:
    return day.replace(year=day.year - years, day=min(day.day, 28) if day.month == 2 else day.day)


def _sum(series: Series, first: int, end: int) -> float | None:
    """Rain of these positions [mm], None where too much of it was not measured."""
    if first < 0 or np.mean(series.basis[first:end] == MEASURED) < LEAST_MEASURED:
        return None
    return float(np.sum((series.rain_mm * series.rain_share)[first:end]))
