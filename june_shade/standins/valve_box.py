"""The valve box's stand-in: outlets, a flow meter, a schedule and a clock of its own, on loopback (docs/devices.md).

    python -m june_shade.standins.valve_box [--port N] [--outlet FLOW_L_PER_MIN ...] [--told N] [--clogged SHARE]

Prints the port it listens on. Every fault can be switched on and off, for those who want to see what happens then:
PUT /faults {"stuck_open": [1], "stuck_shut": [2], "leak_l_per_min": 0.5, "clogged_share": 0.3, "backwards": true,
"silent": true, "clock_off_min": 25, "forgets": true}; what is left out is off.
"""

from collections.abc import Callable
from dataclasses import asdict, dataclass, field
from datetime import UTC, datetime, timedelta
from typing import Any

from fastapi import FastAPI, HTTPException
from pydantic import AwareDatetime, BaseModel, Field

from june_shade.core.devices import box as core
from june_shade.core.devices.box import Event, Run
from june_shade.core.errors import InputError
from june_shade.standins import serving

MOST_EVENTS = 500
BY_BOX, BY_PROGRAM = "box", "program"


@dataclass
class Faults:
    """What is wrong with the box. stuck_open, stuck_shut: outlets; clogged_share: of every line's flow, 0..1;
    clock_off_min: how far its clock is off once it is set; backwards: its meter; silent: it does not answer; forgets:
    it starts again and has lost its schedule, once."""

    stuck_open: list[int] = field(default_factory=list)
    stuck_shut: list[int] = field(default_factory=list)
    leak_l_per_min: float = 0.0
    clogged_share: float = 0.0
    backwards: bool = False
    silent: bool = False
    clock_off_min: float = 0.0
    forgets: bool = False


class Box:
    """The box itself. outlets: the flow of each outlet's line [L/min], by number; clock: what time it really is; told:
    events that it told before it was started."""

    def __init__(
        self, outlets: dict[int, float], clock: Callable[[], datetime] = lambda: datetime.now(UTC), told: int = 0
    ) -> None:
        self.outlets, self._clock, self._told = outlets, clock, told
        self.faults = Faults()
        self._off = timedelta(0)
        self.total_l = 0.0
        self.revision = 0
        self.runs: list[Run] = []
        self._edges: list[tuple[datetime, bool, Run]] = []
        self._open: dict[int, str] = {}
        self.events: list[Event] = []
        self._at = self.now()

    def now(self) -> datetime:
        """The time by its own clock."""
        return self._clock() + self._off

    def flow_l_per_min(self) -> float:
        """What flows now."""
        running = {number for number in self._open if number not in self.faults.stuck_shut} | set(
            self.faults.stuck_open
        )
        flow = sum(self.outlets.get(number, 0.0) for number in running) * (1.0 - self.faults.clogged_share)
        return flow + self.faults.leak_l_per_min

    @property
    def last_seq(self) -> int:
        """The number of its last event."""
        return self._told + len(self.events)

    def after(self, seq: int) -> list[Event]:
        """What happened after an event, as far as it remembers."""
        return self.events[max(0, seq - self._told) :]

    def advance(self) -> None:
        """Live until now: outlets open and shut, water flows."""
        now = self.now()
        while self._edges and self._edges[0][0] <= now:
            at, opens, run = self._edges.pop(0)
            self._flow_until(at)
            if opens:
                self._open[run.outlet] = run.id
            else:
                self._open.pop(run.outlet, None)
            self._tell(core.OPENED if opens else core.SHUT, run.outlet, run.id)
        self._flow_until(now)

    def _flow_until(self, at: datetime) -> None:
        minutes = max(0.0, (at - self._at).total_seconds() / 60)
        self.total_l += (-1.0 if self.faults.backwards else 1.0) * self.flow_l_per_min() * minutes
        self._at = max(self._at, at)

    def _tell(self, kind: str, outlet: int = 0, run_id: str = "") -> None:
        self.events.append(Event(self.last_seq + 1, self._at, kind, outlet, run_id, round(self.total_l, 3)))

    def set_clock(self, to: datetime) -> None:
        """Set its clock; with that fault it is off again at once. Set forward it has lived through what it skipped, so
        that a made-up day can be stepped."""
        self.advance()
        self._off = to - self._clock() + timedelta(minutes=self.faults.clock_off_min)
        self.advance()
        self._at = self.now()
        self._tell(core.CLOCK_SET)

    def keep(self, revision: int, runs: list[Run]) -> None:
        """Take a schedule in place of all that has not begun. Raises InputError for a run that it can't keep."""
        self.advance()
        core.check(runs, self.now(), list(self.outlets))
        begun = {run.id for run in self.runs if run.starts_at <= self.now()}
        self.revision = revision
        self.runs = [run for run in self.runs if run.id in begun] + [run for run in runs if run.id not in begun]
        self._edges = [edge for edge in self._edges if edge[2].id in begun]
        self._edges += [
            edge for run in runs if run.id not in begun
            for a, b in run.opens() for edge in ((a, True, run), (b, False, run))
        ]  # fmt: skip
        self._edges.sort(key=lambda edge: (edge[0], edge[1]))

    def stop(self, outlet: int | None, by: str = BY_PROGRAM) -> None:
        """Shut an outlet, or all: its run is over."""
        self.advance()
        for number in list(self._open) if outlet is None else [outlet]:
            run_id = self._open.pop(number, None)
            if run_id is not None:
                self._edges = [edge for edge in self._edges if edge[2].id != run_id]
                self._tell(core.SHUT, number, run_id)
                self._tell(core.STOPPED, number, run_id)

    def fail(self, faults: Faults) -> None:
        """Switch its faults."""
        self.advance()
        self.faults = faults
        if faults.forgets:
            self.runs, self._edges, self._open, self.revision = [], [], {}, 0
            self._tell(core.RESTARTED)

    def status(self) -> dict[str, Any]:
        """How it stands."""
        self.advance()
        return {
            "id": "stand-in", "clock": self.now().isoformat(), "total_l": round(self.total_l, 3),
            "flow_l_per_min": round(self.flow_l_per_min(), 4), "revision": self.revision,
            "outlets": [
                {"number": number, "is_open": number in self._open, "run_id": self._open.get(number, "")}
                for number in self.outlets
            ],
            "last_seq": self.last_seq,
        }  # fmt: skip


class RunIO(BaseModel):
    """A run as it is sent."""

    id: str = Field(min_length=1, max_length=80)
    outlet: int
    starts_at: AwareDatetime
    open_min: float
    goes: int = 1
    rest_min: float = 0.0


class ScheduleIO(BaseModel):
    """A schedule as it is sent."""

    revision: int
    runs: list[RunIO] = Field(max_length=500)


class ClockIO(BaseModel):
    """A time."""

    clock: AwareDatetime


class StopIO(BaseModel):
    """An outlet, null = all."""

    outlet: int | None = None


class FaultsIO(BaseModel):
    """Faults to switch on."""

    stuck_open: list[int] = []
    stuck_shut: list[int] = []
    leak_l_per_min: float = 0.0
    clogged_share: float = Field(0.0, ge=0, le=1)
    backwards: bool = False
    silent: bool = False
    clock_off_min: float = 0.0
    forgets: bool = False


def create(box: Box) -> FastAPI:
    """The box's HTTP side."""
    app = FastAPI(title="Valve box stand-in")

    def _listens() -> None:
        if box.faults.silent:
            raise HTTPException(503, "told to be silent")

    def _schedule() -> dict[str, Any]:
        runs = [asdict(run) | {"starts_at": run.starts_at.isoformat()} for run in box.runs]
        return {"revision": box.revision, "runs": runs}

    @app.get("/status")
    def status() -> dict[str, Any]:
        _listens()
        return box.status()

    @app.put("/clock")
    def set_clock(body: ClockIO) -> dict[str, Any]:
        _listens()
        box.set_clock(body.clock)
        return box.status()

    @app.put("/schedule")
    def put_schedule(body: ScheduleIO) -> dict[str, Any]:
        _listens()
        box.advance()
        runs = [Run(**one.model_dump()) for one in body.runs]
        if body.revision == box.revision and runs == [run for run in box.runs if run in runs] and runs:
            return _schedule()  # sent again
        if body.revision <= box.revision:
            raise HTTPException(409, {"revision": box.revision})
        try:
            box.keep(body.revision, runs)
        except InputError as e:
            raise HTTPException(422, {"field": e.field, "detail": e.message}) from None
        return _schedule()

    @app.get("/schedule")
    def get_schedule() -> dict[str, Any]:
        _listens()
        box.advance()
        return _schedule()

    @app.post("/stop")
    def stop(body: StopIO) -> dict[str, Any]:
        _listens()
        if body.outlet is not None and body.outlet not in box.outlets:
            raise HTTPException(422, {"field": "outlet", "detail": f"there is no outlet {body.outlet}"})
        box.stop(body.outlet)
        return box.status()

    @app.get("/events")
    def events(after: int = 0, most: int = MOST_EVENTS) -> dict[str, Any]:
        _listens()
        box.advance()
        after_it = box.after(after)
        shown = after_it[: max(0, min(most, MOST_EVENTS))]
        found = [asdict(one) | {"at": one.at.isoformat()} for one in shown]
        return {"events": found, "more": len(shown) < len(after_it)}

    @app.put("/faults")
    def put_faults(body: FaultsIO) -> dict[str, Any]:
        box.fail(Faults(**body.model_dump()))
        return asdict(box.faults)

    return app


def main() -> None:
    """Serve on loopback; the port is printed on the first line."""
    parser = serving.parser()
    parser.add_argument("--outlet", type=float, action="append", help="flow of an outlet's line, L/min")
    parser.add_argument("--told", type=int, default=0, help="events that it told before")
    parser.add_argument("--clogged", type=float, default=0.0, help="share of the flow that is lost to clogged emitters")
    chosen = parser.parse_args()
    flows = chosen.outlet or [3.7, 3.7, 3.7]
    box = Box(dict(enumerate(flows, 1)), told=chosen.told)
    box.faults.clogged_share = chosen.clogged
    serving.serve(create(box), chosen.port)


if __name__ == "__main__":
    main()
