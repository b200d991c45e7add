"""The soil probe's stand-in: a soil that dries by day and is soaked when told, read hour by hour (docs/devices.md).

    python -m june_shade.standins.soil_probe [--port N] [--depth M ...] [--told N] [--hours N]

Prints the port it listens on. PUT /clock {"clock"} sets its clock, PUT /soak {"mm": 20} wets the soil now. Every fault
can be switched on and off: PUT /faults {"gap_hours": 5, "spikes": true, "stuck": true, "offset_m3_m3": 0.05,
"silent": true, "clock_off_min": 25, "on_mars": true}; what is left out is off.
"""

import math
from collections.abc import Callable, Sequence
from dataclasses import asdict, dataclass
from datetime import UTC, datetime, timedelta
from typing import Any

from fastapi import FastAPI, HTTPException
from pydantic import AwareDatetime, BaseModel, Field

from june_shade.standins import serving

MOST_READINGS = 1000
FIELD_CAPACITY, WILTING, SATURATED = 0.30, 0.12, 0.44
"""The soil that it is stuck into, a loam [m3/m3] (invented)."""
DAILY_SHARE = 0.06
"""Share of what is left above wilting that is drunk on a summer day (invented)."""
DRAINS_SHARE = 0.12
"""Share of what stands above field capacity that drains in an hour (invented)."""
MARS_M3_M3, SPIKE_M3_M3 = -0.2, 0.18
SPIKE_EVERY = 7
HOUR = timedelta(hours=1)


@dataclass
class Faults:
    """What is wrong with the probe. gap_hours: of every day, none told; spikes: one in seven; stuck: it never moves;
    offset_m3_m3: it reads so much too much; on_mars: values that no soil has; silent: it does not answer;
    clock_off_min: how far its clock is off."""

    gap_hours: int = 0
    spikes: bool = False
    stuck: bool = False
    offset_m3_m3: float = 0.0
    silent: bool = False
    clock_off_min: float = 0.0
    on_mars: bool = False


@dataclass(frozen=True)
class Reading:
    """One hour, told by its number: theta and temperature of each depth."""

    seq: int
    at: datetime
    theta_m3_m3: tuple[float, ...]
    temperature_c: tuple[float, ...]


class Probe:
    """The probe itself. depths_m: of its sensors; clock: what time it really is; told: readings that it told before;
    hours: so many of them it has from before it was started."""

    def __init__(
        self, depths_m: Sequence[float], clock: Callable[[], datetime] = lambda: datetime.now(UTC), told: int = 0,
        hours: int = 0,
    ) -> None:  # fmt: skip
        self.depths_m, self._clock, self._told = tuple(depths_m), clock, told
        self._off = timedelta(0)
        self.faults = Faults()
        self.readings: list[Reading] = []
        self._theta = [0.9 * FIELD_CAPACITY for _ in self.depths_m]
        self._at = self.now().replace(minute=0, second=0, microsecond=0) - hours * HOUR
        self.advance()

    def now(self) -> datetime:
        """The time by its own clock."""
        return self._clock() + self._off + timedelta(minutes=self.faults.clock_off_min)

    def set_clock(self, to: datetime) -> None:
        """Set its clock; with that fault it is off again at once. Set forward it has lived through what it skipped; set
        back it goes on from there, an hour after the other."""
        before = self.now()
        self._off = to - self._clock()
        if self.now() < before:
            self._at = min(self._at, self.now().replace(minute=0, second=0, microsecond=0))
        self.advance()

    @property
    def last_seq(self) -> int:
        """The number of its last reading."""
        return self._told + len(self.readings)

    def after(self, seq: int) -> list[Reading]:
        """Readings after a number, as far as it remembers."""
        return self.readings[max(0, seq - self._told) :]

    def advance(self) -> None:
        """Live until now: a reading an hour."""
        while self._at + HOUR <= self.now():
            self._at += HOUR
            if not self.faults.stuck:
                self._dry(self._at.hour)
            if self._at.hour >= self.faults.gap_hours:
                self._read()

    def _dry(self, hour: int) -> None:
        sun = max(0.0, math.sin(math.pi * (hour - 6) / 12)) * math.pi / 24
        for n, theta in enumerate(self._theta):
            drunk = DAILY_SHARE * sun * max(0.0, theta - WILTING) / (1 + n)
            drained = DRAINS_SHARE * max(0.0, theta - FIELD_CAPACITY)
            self._theta[n] = theta - drunk - drained

    def _read(self) -> None:
        faults = self.faults
        theta = [MARS_M3_M3 if faults.on_mars else one + faults.offset_m3_m3 for one in self._theta]
        if faults.spikes and self.last_seq % SPIKE_EVERY == 0:
            theta = [one + SPIKE_M3_M3 for one in theta]
        day = math.sin(math.pi * (self._at.hour - 9) / 12)
        warm = [18.0 + 4.0 * day / (1 + 2 * n) for n in range(len(theta))]
        self.readings.append(Reading(
            self.last_seq + 1, self._at, tuple(round(one, 4) for one in theta), tuple(round(one, 1) for one in warm)
        ))  # fmt: skip

    def soak(self, mm: float) -> None:
        """Wet the soil from above, each depth as far as it holds more."""
        self.advance()
        left, top = mm / 1000, 0.0
        for n, depth in enumerate(self.depths_m):
            thick, top = depth - top if n == 0 else depth - self.depths_m[n - 1], depth
            taken = min(left, max(0.0, SATURATED - self._theta[n]) * thick)
            self._theta[n] += taken / thick
            left -= taken

    def status(self) -> dict[str, Any]:
        """How it stands."""
        self.advance()
        return {"id": "stand-in", "clock": self.now().isoformat(), "battery_percent": 87, "last_seq": self.last_seq}


class ClockIO(BaseModel):
    """The time that it is."""

    clock: AwareDatetime


class SoakIO(BaseModel):
    """So much water from above."""

    mm: float = Field(gt=0, le=500)


class FaultsIO(BaseModel):
    """Faults to switch on."""

    gap_hours: int = Field(0, ge=0, le=24)
    spikes: bool = False
    stuck: bool = False
    offset_m3_m3: float = 0.0
    silent: bool = False
    clock_off_min: float = 0.0
    on_mars: bool = False


def create(probe: Probe) -> FastAPI:
    """The probe's HTTP side."""
    app = FastAPI(title="Soil probe stand-in")

    def _listens() -> None:
        if probe.faults.silent:
            raise HTTPException(503, "told to be silent")

    @app.get("/status")
    def status() -> dict[str, Any]:
        _listens()
        return probe.status()

    @app.put("/clock")
    def set_clock(body: ClockIO) -> dict[str, Any]:
        _listens()
        probe.set_clock(body.clock)
        return probe.status()

    @app.get("/readings")
    def readings(after: int = 0, most: int = MOST_READINGS) -> dict[str, Any]:
        _listens()
        probe.advance()
        after_it = probe.after(after)
        shown = after_it[: max(0, min(most, MOST_READINGS))]
        return {"readings": [_told(probe, one) for one in shown], "more": len(shown) < len(after_it)}

    @app.put("/soak")
    def soak(body: SoakIO) -> dict[str, Any]:
        probe.soak(body.mm)
        return probe.status()

    @app.put("/faults")
    def put_faults(body: FaultsIO) -> dict[str, Any]:
        probe.advance()
        probe.faults = Faults(**body.model_dump())
        return asdict(probe.faults)

    return app


def _told(probe: Probe, one: Reading) -> dict[str, Any]:
    each = zip(probe.depths_m, one.theta_m3_m3, one.temperature_c, strict=True)
    depths = [{"depth_m": depth, "theta_m3_m3": theta, "temperature_c": warm} for depth, theta, warm in each]
    return {"seq": one.seq, "at": one.at.isoformat(), "depths": depths}


def main() -> None:
    """Serve on loopback; the port is printed on the first line."""
    parser = serving.parser()
    parser.add_argument("--depth", type=float, action="append", help="of a sensor, m")
    parser.add_argument("--told", type=int, default=0, help="readings that it told before")
    parser.add_argument("--hours", type=int, default=0, help="hours that it has from before")
    chosen = parser.parse_args()
    probe = Probe(chosen.depth or (0.1, 0.2, 0.4), told=chosen.told, hours=chosen.hours)
    serving.serve(create(probe), chosen.port)


if __name__ == "__main__":
    main()
