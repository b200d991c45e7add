"""A box at valves: what is asked of it, and the HTTP client (docs/devices.md).

Answers are checked before anyone sees them: a box that says what can't be is as good as one that is silent.
"""

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Any, Protocol, TypeVar

import httpx

from june_shade.core.checks import Fields
from june_shade.core.devices.box import EVENTS, Event, Run
from june_shade.core.errors import InputError
from june_shade.outside.forecast import ServiceError

T = TypeVar("T")
MOST_EVENTS = 500
REFUSED = 422
LONGEST_ID = 80


@dataclass(frozen=True, slots=True)
class Outlet:
    """An outlet as it stands; run_id '' = it runs for no run."""

    number: int
    is_open: bool
    run_id: str


@dataclass(frozen=True, slots=True)
class Status:
    """A box as it stands. clock: its time; total_l: its meter; revision: of its schedule; last_seq: of its events."""

    id: str
    clock: datetime
    total_l: float
    flow_l_per_min: float
    revision: int
    outlets: tuple[Outlet, ...]
    last_seq: int


@dataclass(frozen=True, slots=True)
class Schedule:
    """Runs as a box keeps them."""

    revision: int
    runs: tuple[Run, ...]


class ValveBox(Protocol):
    """What the program asks of a box. Each raises ServiceError where it does not answer, or answers what can't be."""

    def status(self) -> Status:
        """How it stands."""
        ...

    def set_clock(self, to: datetime) -> Status:
        """Set its clock."""
        ...

    def send(self, schedule: Schedule) -> Schedule:
        """Send a schedule in place of all that has not begun; what it keeps. Raises InputError for a run that it can't
        keep, naming it."""
        ...

    def schedule(self) -> Schedule:
        """Read back what it keeps."""
        ...

    def stop(self, outlet: int | None) -> Status:
        """Shut an outlet, None = all; its run is over."""
        ...

    def events(self, after: int) -> tuple[list[Event], bool]:
        """What happened after an event, and whether there is more."""
        ...


class HttpValveBox:
    """The Protocol over HTTP."""

    def __init__(self, address: str, timeout_s: float = 3.0, client: httpx.Client | None = None) -> None:
        self._client = client or httpx.Client(timeout=timeout_s, trust_env=False)
        self._base = address.rstrip("/")

    def status(self) -> Status:
        """See ValveBox."""
        return told(self._ask("GET", "/status"), "status", _status)

    def set_clock(self, to: datetime) -> Status:
        """See ValveBox."""
        return told(self._ask("PUT", "/clock", {"clock": to.isoformat()}), "status", _status)

    def send(self, schedule: Schedule) -> Schedule:
        """See ValveBox."""
        runs = [
            {"id": run.id, "outlet": run.outlet, "starts_at": run.starts_at.isoformat(), "open_min": run.open_min,
             "goes": run.goes, "rest_min": run.rest_min}
            for run in schedule.runs
        ]  # fmt: skip
        kept = self._ask("PUT", "/schedule", {"revision": schedule.revision, "runs": runs})
        return told(kept, "schedule", _schedule)

    def schedule(self) -> Schedule:
        """See ValveBox."""
        return told(self._ask("GET", "/schedule"), "schedule", _schedule)

    def stop(self, outlet: int | None) -> Status:
        """See ValveBox."""
        return told(self._ask("POST", "/stop", {"outlet": outlet}), "status", _status)

    def events(self, after: int) -> tuple[list[Event], bool]:
        """See ValveBox."""
        answer = self._ask("GET", f"/events?after={after}&most={MOST_EVENTS}")
        return told(answer, "events", lambda f: _events(f, after))

    def _ask(self, method: str, path: str, body: dict[str, Any] | None = None) -> Any:
        try:
            answer = self._client.request(method, self._base + path, json=body)
            if answer.status_code == REFUSED:
                told = answer.json().get("detail")
                if isinstance(told, dict) and "field" in told:
                    raise InputError(str(told.get("detail", "is refused by the box")), str(told["field"]))
            answer.raise_for_status()
            return answer.json()
        except InputError:
            raise
        except httpx.TimeoutException:
            raise ServiceError("the box took too long to answer") from None
        except httpx.HTTPStatusError as e:
            raise ServiceError(f"the box refused: {e.response.status_code}") from None
        except (httpx.HTTPError, ValueError, AttributeError) as e:
            raise ServiceError(f"the box can't be reached ({type(e).__name__})") from None


def _plain(value: Any, field: str) -> str:
    """A text that may be empty."""
    if not isinstance(value, str) or len(value) > LONGEST_ID:
        raise InputError("must be a short text", field)
    return value


def aware(text: str) -> datetime:
    """A time with its offset. Raises InputError, or ValueError, where it is none."""
    found = datetime.fromisoformat(text)
    if found.tzinfo is None:
        raise InputError("needs its offset", "clock")
    return found


def rows(value: Any, field: str) -> list[Any]:
    """A list, which may be empty."""
    if not isinstance(value, list):
        raise InputError("must be a list", field)
    return value


def told(answer: Any, what: str, as_: Callable[[Fields], T]) -> T:
    """What an answer says. Raises ServiceError where it says what can't be."""
    try:
        return as_(Fields(answer, what))
    except (InputError, ValueError) as e:
        raise ServiceError(f"what the device answers can't be read: {e}") from None


def _status(f: Fields) -> Status:
    outlets = []
    for n, row in enumerate(f.read("outlets", rows)):
        one = Fields(row, f"outlets[{n}]")
        outlets.append(Outlet(one.whole("number"), one.yes("is_open", False), one.read("run_id", _plain)))
    return Status(
        f.text("id"), aware(f.text("clock")), f.number("total_l"), f.number("flow_l_per_min", low=0),
        f.whole("revision", low=0), tuple(outlets), f.whole("last_seq", low=0),
    )  # fmt: skip


def _schedule(f: Fields) -> Schedule:
    return Schedule(f.whole("revision", low=0), tuple(_runs(f.read("runs", rows))))


def _events(f: Fields, after: int) -> tuple[list[Event], bool]:
    found = [_event(row, f"events[{n}]") for n, row in enumerate(f.read("events", rows))]
    if [one.seq for one in found] != list(range(after + 1, after + 1 + len(found))):
        raise InputError("must be counted by one", "events.seq")
    return found, f.yes("more", False)


def _runs(rows: Sequence[Any]) -> list[Run]:
    found = []
    for n, row in enumerate(rows):
        f = Fields(row, f"runs[{n}]")
        found.append(Run(
            f.text("id"), f.whole("outlet", low=1), aware(f.text("starts_at")), f.number("open_min", low=0),
            f.whole("goes", low=1), f.number("rest_min", low=0),
        ))  # fmt: skip
    return found


def _event(row: Any, where: str) -> Event:
    f = Fields(row, where)
    kind = f.text("kind")
    if kind not in EVENTS:
        raise InputError(f"is no event: {kind!r}", f"{where}.kind")
    return Event(
        f.whole("seq", low=1), aware(f.text("at")), kind, f.whole("outlet", 0, low=0), f.read("run_id", _plain),
        f.number("total_l"),
    )  # fmt: skip
