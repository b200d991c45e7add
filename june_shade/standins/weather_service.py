"""The weather service's stand-in: an HTTP server on loopback that forecasts and reports made-up weather.

    python -m june_shade.standins.weather_service [--port N] [--seed N]

Prints the port it listens on. It can be told to fail, for those who want to see what happens then:
GET /fail?times=N makes the next N answers fail; GET /fail?times=0 ends that.
"""

from datetime import UTC, date, datetime, time, timedelta
from functools import lru_cache

from fastapi import FastAPI, HTTPException

from june_shade.standins import serving
from june_shade.standins.climate import FORECAST_DAYS, Climate


def create(climate: Climate) -> FastAPI:
    """The service for one climate."""
    app = FastAPI(title="Weather stand-in")
    failing = {"times": 0}
    at = lru_cache(maxsize=64)(climate.at)

    def _answer_or_fail() -> None:
        if failing["times"] > 0:
            failing["times"] -= 1
            raise HTTPException(503, "told to fail")

    @app.get("/forecast")
    def forecast(latitude: float, longitude: float, first: date, days: int = FORECAST_DAYS) -> dict:
        _answer_or_fail()
        issued = datetime.combine(first, time(4), UTC)
        try:
            rows = at(latitude, longitude).forecast(first, min(days, FORECAST_DAYS))
        except IndexError:
            raise HTTPException(404, "outside the years made up") from None
        return {"issued_at": issued.isoformat(), "days": [_public(row) for row in rows]}

    @app.get("/observed")
    def observed(latitude: float, longitude: float, first: date, last: date) -> dict:
        _answer_or_fail()
        if not timedelta(0) <= last - first <= timedelta(days=1500):
            raise HTTPException(400, "first must be before last, at most 1500 days apart")
        try:
            return {"days": [_public(row) for row in at(latitude, longitude).observed(first, last)]}
        except IndexError:
            raise HTTPException(404, "outside the years made up") from None

    @app.get("/fail")
    def fail(times: int) -> dict:
        failing["times"] = times
        return failing

    return app


def _public(row: dict) -> dict:
    return {name: value for name, value in row.items() if name != "month"}


def main() -> None:
    """Serve on loopback; the port is printed on the first line."""
    parser = serving.parser()
    parser.add_argument("--seed", type=int, default=7)
    chosen = parser.parse_args()
    serving.serve(create(Climate.shipped(chosen.seed)), chosen.port)


if __name__ == "__main__":
    main()
