"""Made-up weather for a place, from monthly normals that ship: seeded, the same on every machine.

Away from the place of the normals the year is colder or warmer and more or less pronounced by latitude, half a year
later in the south, and the sun is that of the latitude; its weather is its own.

Temperatures follow the normals with a day-to-day memory; rain falls on about the normal number of days in
amounts drawn from a gamma distribution. A forecast is that weather seen through errors that grow with the lead.
"""

import json
from dataclasses import dataclass
from datetime import date
from functools import cached_property
from importlib import resources
from typing import Any

import numpy as np

from june_shade.core.weather import et
from june_shade.core.weather.daily import day_of_year

EPOCH = date(2020, 1, 1)
YEARS = 12
MEMORY = 0.65
SPREAD_C = 3.2
FORECAST_DAYS = 14
LEAST_RAIN_MM = 0.3
"""Less a day is no rain."""
COLDER_PER_DEG_C = 0.7
"""How much the year's mean falls with a degree of latitude (invented)."""
FLATTEST, STEEPEST = 0.15, 1.4
"""Least and most of the shipped year's swing that a place has (invented)."""


def _within(spell: dict, dates: np.ndarray) -> np.ndarray:
    """Whether each day lies in a spell from its first day to its last."""
    return (dates >= np.datetime64(spell["first"])) & (dates <= np.datetime64(spell["last"]))


@dataclass(frozen=True)
class Climate:
    """Monthly normals (12 each) and a seed."""

    normals: dict
    seed: int

    @classmethod
    def shipped(cls, seed: int = 7) -> "Climate":
        """The climate that ships: a high dry plain."""
        text = resources.files(__package__).joinpath("climate.json").read_text(encoding="utf-8")
        return cls(json.loads(text), seed)

    def at(self, latitude_deg: float, longitude_deg: float) -> "Climate":
        """The climate of another place; the same place within a degree has the same weather."""
        home = self.normals
        away = (round(latitude_deg - home["latitude_deg"]), round(longitude_deg - home["longitude_deg"]))
        if away == (0, 0):
            return self
        turn = 6 if latitude_deg < 0 else 0
        moved = {
            name: np.roll(values, turn).tolist() for name, values in home.items() if isinstance(values, list)
        }  # fmt: skip
        swing = float(np.clip(abs(latitude_deg) / abs(home["latitude_deg"]), FLATTEST, STEEPEST))
        colder = COLDER_PER_DEG_C * (abs(latitude_deg) - abs(home["latitude_deg"]))
        for name in ("tmin_c", "tmax_c"):
            usual = np.array(moved[name])
            moved[name] = (usual.mean() - colder + swing * (usual - usual.mean())).tolist()
        seed = int(np.random.SeedSequence([self.seed, away[0] % 360, away[1] % 360]).generate_state(1)[0])
        return Climate(home | moved | {"latitude_deg": latitude_deg, "longitude_deg": longitude_deg}, seed)

    @cached_property
    def days(self) -> dict[str, np.ndarray]:
        """The weather itself from EPOCH on: date, tmin_c, tmax_c, rh_percent, wind_m_s, radiation_mj_m2, rain_mm."""
        rng = np.random.Generator(np.random.PCG64(self.seed))
        dates = np.arange(np.datetime64(EPOCH), np.datetime64(EPOCH) + 365 * YEARS)
        count = len(dates)
        month = dates.astype("datetime64[M]").astype(int) % 12
        normal = {name: self._smooth(name, dates) for name in ("tmin_c", "tmax_c", "rh_percent", "wind_m_s")}
        noise = np.empty(count)
        shocks = rng.normal(0, SPREAD_C * np.sqrt(1 - MEMORY**2), count)
        level = 0.0
        for i in range(count):
            level = MEMORY * level + shocks[i]
            noise[i] = level
        in_month = np.array([31, 28.25, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31])
        chance = np.array(self.normals["wet_days"])[month] / in_month[month]
        wet = rng.random(count) < chance
        mean_amount = np.array(self.normals["rain_mm"])[month] / np.array(self.normals["wet_days"])[month]
        rain = np.where(wet, rng.gamma(0.8, mean_amount / 0.8), 0.0)
        rain = np.where(rain < LEAST_RAIN_MM, 0.0, rain)
        heat = self._heat_c(dates)
        rain = np.where(heat > 0, 0.0, rain)
        cloudy = rain > 0
        rain = rain * self._rain_share(dates)
        rain = np.where(rain < LEAST_RAIN_MM, 0.0, rain)
        spread = (normal["tmax_c"] - normal["tmin_c"]) * np.where(cloudy, 0.7, 1.0)
        middle = (normal["tmax_c"] + normal["tmin_c"]) / 2 + noise + heat - np.where(cloudy, 1.5, 0.0)
        latitude = np.radians(self.normals["latitude_deg"])
        ra = et.extraterrestrial_radiation_mj(latitude, day_of_year(dates))
        clear = np.array(self.normals["clear_share"])[month] * rng.normal(1, 0.06, count)
        rs = np.clip(np.where(cloudy, 0.55, 1.0) * clear, 0.15, 0.76) * ra
        humidity = normal["rh_percent"] + np.where(cloudy, 22, 0) - 1.2 * noise + rng.normal(0, 5, count)
        return {
            "date": dates,
            "tmin_c": np.round(middle - spread / 2 + rng.normal(0, 0.8, count), 1),
            "tmax_c": np.round(middle + spread / 2 + np.abs(rng.normal(0, 0.8, count)), 1),
            "rh_percent": np.round(np.clip(humidity, 12, 98), 0),
            "wind_m_s": np.round(np.maximum(0.4, normal["wind_m_s"] * rng.gamma(9, 1 / 9, count)), 1),
            "radiation_mj_m2": np.round(rs, 1),
            "rain_mm": np.round(rain, 1),
        }

    def _heat_c(self, dates: np.ndarray) -> np.ndarray:
        """How much warmer a heat wave makes each day [degC]."""
        wave = self.normals.get("heat_wave")
        return np.zeros(len(dates)) if wave is None else np.where(_within(wave, dates), wave["warmer_c"], 0.0)

    def _rain_share(self, dates: np.ndarray) -> np.ndarray:
        """The share of each day's rain that a drought leaves, 0..1; its clouds come all the same."""
        dry = self.normals.get("drought")
        return np.ones(len(dates)) if dry is None else np.where(_within(dry, dates), dry["rain_share"], 1.0)

    def _smooth(self, name: str, dates: np.ndarray) -> np.ndarray:
        """Monthly normals as a smooth year, each standing in mid-month."""
        values = np.array(self.normals[name], dtype=float)
        middles = np.array([15.5 + 30.4 * m for m in range(-1, 13)])
        return np.interp(day_of_year(dates), middles, np.concatenate([values[-1:], values, values[:1]]))

    def _index(self, day: date) -> int:
        return (day - EPOCH).days

    def observed(self, first: date, last: date) -> list[dict]:
        """What a station would have measured first..last."""
        return [self._row(i, {}) for i in range(self._index(first), self._index(last) + 1)]

    def forecast(self, first: date, days: int = FORECAST_DAYS) -> list[dict]:
        """What would have been forecast on the morning of `first`."""
        start = self._index(first)
        rng = np.random.Generator(np.random.PCG64([self.seed, start]))
        rows = []
        for lead in range(days):
            truth = self._row(start + lead, {})
            error = 0.5 + 0.22 * lead
            shift = rng.normal(0, error)
            sure = max(0.12, 0.88 - 0.06 * lead)
            wet = truth["rain_mm"] > 0
            usual = float(np.array(self.normals["wet_days"])[truth["month"]]) / 30
            told = rng.random() < sure
            chance = sure if (wet and told) else (usual if not wet and told else 0.35)
            amount = truth["rain_mm"] * rng.lognormal(0, 0.25 + 0.03 * lead) if wet else 4 * usual * rng.random() * 5
            low = round(truth["tmin_c"] + shift + rng.normal(0, 0.4), 1)
            rows.append(
                self._row(
                    start + lead,
                    {
                        "tmin_c": low,
                        "tmax_c": max(low, round(truth["tmax_c"] + shift + rng.normal(0, 0.4), 1)),
                        "rain_mm": round(float(amount), 1),
                        "rain_chance": round(float(np.clip(chance, 0.05, 0.95)), 2),
                    },
                )
            )
        return rows

    def _row(self, i: int, changed: dict) -> dict:
        days = self.days
        if not 0 <= i < len(days["date"]):
            raise IndexError(i)
        row: dict[str, Any] = {name: float(values[i]) for name, values in days.items() if name != "date"}
        row |= {"date": str(days["date"][i]), "month": int(days["date"][i].astype("datetime64[M]").astype(int) % 12)}
        return {"rain_chance": 1.0, **row, **changed}
