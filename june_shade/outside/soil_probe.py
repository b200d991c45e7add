"""A soil probe: what is asked of it, and the HTTP client (docs/devices.md). What it says is checked on the way in."""

from dataclasses import dataclass
from datetime import datetime
from typing import Any, Protocol

import httpx

from june_shade.core.checks import Fields
from june_shade.core.errors import InputError
from june_shade.outside.forecast import ServiceError
from june_shade.outside.valve_box import aware, rows, told

MOST_READINGS = 1000


@dataclass(frozen=True, slots=True)
class ProbeStatus:
    """A probe as it stands. clock: its time; last_seq: of its readings."""

    id: str
    clock: datetime
    battery_percent: float
    last_seq: int


@dataclass(frozen=True, slots=True)
class ProbeHour:
    """One hour of a probe, counted by seq; of each depth [m] its water content [m3/m3] and temperature [degC]."""

    seq: int
    at: datetime
    depths_m: tuple[float, ...]
    theta_m3_m3: tuple[float, ...]
    temperature_c: tuple[float, ...]


class SoilProbe(Protocol):
    """What the program asks of a probe. Each raises ServiceError where it does not answer, or answers what can't be."""

    def status(self) -> ProbeStatus:
        """How it stands."""
        ...

    def set_clock(self, to: datetime) -> ProbeStatus:
        """Set its clock."""
        ...

    def readings(self, after: int) -> tuple[list[ProbeHour], bool]:
        """Its hours after a number, and whether there are more."""
        ...


class HttpSoilProbe:
    """The Protocol over HTTP."""

    def __init__(self, address: str, timeout_s: float = 3.0, client: httpx.Client | None = None) -> None:
        self._client = client or httpx.Client(timeout=timeout_s, trust_env=False)
        self._base = address.rstrip("/")

    def status(self) -> ProbeStatus:
        """See SoilProbe."""
        return told(self._ask("GET", "/status"), "status", _status)

    def set_clock(self, to: datetime) -> ProbeStatus:
        """See SoilProbe."""
        return told(self._ask("PUT", "/clock", {"clock": to.isoformat()}), "status", _status)

    def readings(self, after: int) -> tuple[list[ProbeHour], bool]:
        """See SoilProbe."""
        answer = self._ask("GET", f"/readings?after={after}&most={MOST_READINGS}")
        return told(answer, "readings", lambda f: _hours(f, after))

    def _ask(self, method: str, path: str, body: dict[str, str] | None = None) -> Any:
        try:
            answer = self._client.request(method, self._base + path, json=body)
            answer.raise_for_status()
            return answer.json()
        except httpx.TimeoutException:
            raise ServiceError("the probe took too long to answer") from None
        except httpx.HTTPStatusError as e:
            raise ServiceError(f"the probe refused: {e.response.status_code}") from None
        except (httpx.HTTPError, ValueError) as e:
            raise ServiceError(f"the probe can't be reached ({type(e).__name__})") from None


def _status(f: Fields) -> ProbeStatus:
    percent = f.number("battery_percent", low=0, high=100)
    return ProbeStatus(f.text("id"), aware(f.text("clock")), percent, f.whole("last_seq", low=0))


def _hours(f: Fields, after: int) -> tuple[list[ProbeHour], bool]:
    found = []
    for n, row in enumerate(f.read("readings", rows)):
        one = Fields(row, f"readings[{n}]")
        each = [Fields(depth, f"readings[{n}].depths") for depth in one.read("depths", rows)]
        found.append(ProbeHour(
            one.whole("seq"), aware(one.text("at")), tuple(d.number("depth_m", above=0, high=5) for d in each),
            tuple(d.number("theta_m3_m3") for d in each), tuple(d.number("temperature_c") for d in each),
        ))  # fmt: skip
    if [one.seq for one in found] != list(range(after + 1, after + 1 + len(found))):
        raise InputError("must be counted by one", "readings.seq")
    return found, f.yes("more", False)
