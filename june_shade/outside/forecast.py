"""The forecast service, and a station that reports its days: what is asked of them, and the HTTP client.

The answer is checked before anyone sees it: a forecast that can't be is as good as none.
"""

import time
from dataclasses import dataclass
from datetime import date, datetime
from typing import Any, Protocol

import httpx

from june_shade.core.checks import Fields
from june_shade.core.errors import InputError, JuneShadeError
from june_shade.core.weather import admit

TRIES = 3
PAUSE_S = 0.3
RETRIED_STATUS = 500


class ServiceError(JuneShadeError):
    """A service outside did not answer, or answered what can't be."""

    code = "service_unavailable"


@dataclass(frozen=True, slots=True)
class WeatherDay:
    """One day of a forecast (chance below 1) or of a station (chance 1). Wind at 2 m."""

    day: date
    tmin_c: float
    tmax_c: float
    rh_percent: float | None
    wind_m_s: float | None
    radiation_mj_m2: float | None
    rain_mm: float
    rain_chance: float


@dataclass(frozen=True, slots=True)
class Forecast:
    """A forecast: when it was made and its days."""

    issued_at: datetime
    days: tuple[WeatherDay, ...]


class WeatherService(Protocol):
    """What the program asks of a weather service. made_up: its weather is invented, to try the program with."""

    made_up: bool

    def forecast(self, latitude_deg: float, longitude_deg: float, first: date) -> Forecast:
        """Up to 14 days from `first` on. Raises ServiceError."""
        ...

    def observed(self, latitude_deg: float, longitude_deg: float, first: date, last: date) -> tuple[WeatherDay, ...]:
        """What was measured first..last. Raises ServiceError."""
        ...


class HttpWeatherService:
    """The Protocol over HTTP: time-out, a few tries, the answer checked."""

    def __init__(
        self, base_url: str, timeout_s: float = 3.0, client: httpx.Client | None = None, *, made_up: bool = False
    ) -> None:  # fmt: skip
        self.made_up = made_up
        self._client = client or httpx.Client(timeout=timeout_s, trust_env=False)
        self._base = base_url.rstrip("/")

    def forecast(self, latitude_deg: float, longitude_deg: float, first: date) -> Forecast:
        """See WeatherService."""
        place = {"latitude": latitude_deg, "longitude": longitude_deg, "first": first.isoformat()}
        answer = Fields(self._get("/forecast", place), "forecast")
        try:
            issued = datetime.fromisoformat(answer.text("issued_at"))
            found = _days(answer.list("days"))
            admit.forecast_days([day.day for day in found], first)
            return Forecast(issued, found)
        except (InputError, ValueError) as e:
            raise ServiceError(f"the forecast can't be read: {e}") from None

    def observed(self, latitude_deg: float, longitude_deg: float, first: date, last: date) -> tuple[WeatherDay, ...]:
        """See WeatherService."""
        place = {
            "latitude": latitude_deg, "longitude": longitude_deg, "first": first.isoformat(), "last": last.isoformat(),
        }  # fmt: skip
        try:
            return _days(Fields(self._get("/observed", place), "observed").list("days"))
        except (InputError, ValueError) as e:
            raise ServiceError(f"the station's days can't be read: {e}") from None

    def _get(self, path: str, parameters: dict[str, Any]) -> Any:
        failure = ""
        for attempt in range(TRIES):
            if attempt:
                time.sleep(PAUSE_S * attempt)
            try:
                answer = self._client.get(self._base + path, params=parameters)
                if answer.status_code < RETRIED_STATUS:
                    answer.raise_for_status()
                    return answer.json()
                failure = f"it answered {answer.status_code}"
            except httpx.TimeoutException:
                failure = "it took too long to answer"
            except httpx.HTTPStatusError as e:
                raise ServiceError(f"the weather service refused: {e.response.status_code}") from None
            except (httpx.HTTPError, ValueError) as e:
                failure = f"it can't be reached ({type(e).__name__})"
        raise ServiceError(f"the weather service failed {TRIES} times: {failure}")


def service_at(url: str, timeout_s: float, *, made_up: bool) -> WeatherService | None:
    """The service at an address, None where it is empty."""
    return HttpWeatherService(url, timeout_s, made_up=made_up) if url else None


def _limits(quantity: str) -> dict[str, Any]:
    low, high = admit.LIMITS[quantity]
    return {"low": low, "high": high}


def _days(rows: list[Any]) -> tuple[WeatherDay, ...]:
    days = []
    for i, row in enumerate(rows):
        f = Fields(row, f"days[{i}]")
        day = WeatherDay(
            day=date.fromisoformat(f.text("date")),
            tmin_c=f.number("tmin_c", **_limits("tmin_c")),
            tmax_c=f.number("tmax_c", **_limits("tmax_c")),
            rh_percent=f.maybe_number("rh_percent", **_limits("rh_percent")),
            wind_m_s=f.maybe_number("wind_m_s", **_limits("wind_m_s")),
            radiation_mj_m2=f.maybe_number("radiation_mj_m2", **_limits("radiation_mj_m2")),
            rain_mm=f.number("rain_mm", 0.0, **_limits("rain_mm")),
            rain_chance=f.number("rain_chance", 1.0, low=0, high=1),
        )
        if day.tmin_c > day.tmax_c:
            raise InputError("is over tmax_c", f.at("tmin_c"))
        days.append(day)
    return tuple(days)
