"""A box at valves with a flow meter: the runs that it keeps, and what its events say of water (docs/devices.md).

Times are aware datetimes; what a box counts is in litres.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta
from itertools import pairwise

from june_shade.core.errors import InputError

OPENED, SHUT, STOPPED, RESTARTED, CLOCK_SET, REFUSED = EVENTS = (
    "opened", "shut", "stopped", "restarted", "clock_set", "refused",
)  # fmt: skip
MOST_OPEN_MIN = 12 * 60.0
MOST_GOES = 48
"""A box keeps no run that is open for longer, or in more goes."""
METER_L = 1.0
"""A meter that reads so much lower than before ran backwards; less is how it rounds."""

STUCK_SHUT, BLOCKED, CLOGGING, FINE, LEAK, BURST = VERDICTS = (
    "stuck_shut", "blocked", "clogging", "fine", "leak", "burst",
)  # fmt: skip
UP_TO = ((0.05, STUCK_SHUT), (0.75, BLOCKED), (0.90, CLOGGING), (1.10, FINE), (1.50, LEAK))
"""Metered of expected up to which a run is told so (common practice)."""
IDLE_L_PER_MIN, IDLE_MIN = 0.1, 10.0
"""With all outlets shut, a flow over the first for the second is told."""
LINE_S_OWN = 0.2
"""An idle flow within this share of a line's is that line's valve, which does not shut."""


@dataclass(frozen=True, slots=True)
class Run:
    """One run of an outlet: when it starts, how long each go is open and rests [min], how many goes."""

    id: str
    outlet: int
    starts_at: datetime
    open_min: float
    goes: int = 1
    rest_min: float = 0.0

    @property
    def ends_at(self) -> datetime:
        """When its last go shuts."""
        return self.starts_at + timedelta(minutes=self.goes * self.open_min + (self.goes - 1) * self.rest_min)

    def opens(self) -> list[tuple[datetime, datetime]]:
        """When each go opens and shuts."""
        step = timedelta(minutes=self.open_min + self.rest_min)
        return [
            (self.starts_at + n * step, self.starts_at + n * step + timedelta(minutes=self.open_min))
            for n in range(self.goes)
        ]


@dataclass(frozen=True, slots=True)
class Event:
    """What a box tells, counted by seq. outlet 0: of none. run_id: "" where no run is meant. total_l: its meter."""

    seq: int
    at: datetime
    kind: str
    outlet: int
    run_id: str
    total_l: float


def check(runs: Sequence[Run], now: datetime, outlets: Sequence[int]) -> None:
    """Refuse runs that no box keeps, by their place: begun in the past, of no outlet, too long, two at once on one."""
    for number, run in enumerate(runs):
        at = f"runs[{number}]"
        if run.outlet not in outlets:
            raise InputError(f"there is no outlet {run.outlet}", f"{at}.outlet")
        if run.starts_at < now:
            raise InputError("lies in the past", f"{at}.starts_at")
        if not 0 < run.open_min * run.goes <= MOST_OPEN_MIN:
            raise InputError("must be open for more than nothing and at most 12 h", f"{at}.open_min")
        if not 1 <= run.goes <= MOST_GOES:
            raise InputError(f"must be 1 to {MOST_GOES} goes", f"{at}.goes")
        if run.rest_min < 0:
            raise InputError("must be at least 0", f"{at}.rest_min")
    in_turn = sorted(enumerate(runs), key=lambda pair: (pair[1].outlet, pair[1].starts_at))
    for (_, before), (number, run) in pairwise(in_turn):
        if run.outlet == before.outlet and run.starts_at < before.ends_at:
            raise InputError("overlaps the run before it on its outlet", f"runs[{number}].starts_at")


@dataclass(frozen=True, slots=True)
class Metered:
    """What a run gave: litres by the meter, minutes that its outlet was open; when it was over; whether it was stopped.
    believed: its meter did not run backwards, and no go of it lacks its beginning or its end."""

    litres: float
    open_min: float
    over_at: datetime
    stopped: bool
    believed: bool


def metered(run: Run, events: Sequence[Event], now: datetime) -> Metered | None:
    """What a run gave, by all events of its box in order; None while it is under way, or was never begun.

    now: by the box's clock. A run that a box forgot, or that it should have shut by now, is over, and not believed.
    """
    opened: Event | None = None
    litres, open_min, goes, stopped, believed = 0.0, 0.0, 0, False, True
    over_at: datetime | None = None
    last_l = float("-inf")
    for event in events:
        if event.kind == RESTARTED:
            last_l = float("-inf")
            if opened is not None:
                opened, believed, over_at = None, False, event.at
        if event.total_l < last_l - METER_L and (opened is not None or event.run_id == run.id):
            believed = False
        last_l = event.total_l
        if event.run_id != run.id:
            continue
        if event.kind == OPENED:
            opened = event
        elif event.kind == SHUT:
            if opened is None:
                believed = False
            else:
                litres += event.total_l - opened.total_l
                open_min += (event.at - opened.at).total_seconds() / 60
            opened, goes, over_at = None, goes + 1, event.at
        elif event.kind == STOPPED:
            stopped, over_at = True, event.at
    if not goes and not stopped and over_at is None:
        return None if opened is None or now < run.ends_at + timedelta(minutes=IDLE_MIN) else _never_shut(run, now)
    if goes >= run.goes or stopped:
        return Metered(max(0.0, litres), open_min, over_at or now, stopped, believed and litres >= 0)
    if now < run.ends_at + timedelta(minutes=IDLE_MIN):
        return None
    return Metered(max(0.0, litres), open_min, over_at or now, stopped, False)


def _never_shut(run: Run, now: datetime) -> Metered:
    return Metered(0.0, run.goes * run.open_min, now, False, False)


def shared_l(litres: float, flows_l_per_h: Sequence[float], lost_l_per_h: float = 0.0) -> list[float]:
    """A run's litres among the trees of its line, by what each of them gets [L/h]; equal parts where none gets any.

    litres: of the run [L]; lost_l_per_h: what flows where trees are gone [L/h], which is nobody's.
    """
    whole = sum(flows_l_per_h) + lost_l_per_h
    if whole <= lost_l_per_h:
        return [litres / len(flows_l_per_h)] * len(flows_l_per_h)
    return [litres * flow / whole for flow in flows_l_per_h]


@dataclass(frozen=True, slots=True)
class Verdict:
    """A run against what its line should have taken: code of VERDICTS, share of it, what more or less flowed [L/h]."""

    code: str
    share: float
    off_l_per_h: float


def judged(of: Metered, line_l_per_h: float) -> Verdict:
    """What a run's meter says of its line. line_l_per_h: what the line takes while it is open [L/h].

    Raises InputError for a line that takes nothing, or a run that was never open.
    """
    expected = line_l_per_h * of.open_min / 60
    if not expected > 0:
        raise InputError("a line without flow, or a run without minutes, can't be judged", "run")
    share = of.litres / expected
    code = next((code for limit, code in UP_TO if share <= limit + 1e-9), BURST)
    return Verdict(code, share, (of.litres - expected) / (of.open_min / 60))


@dataclass(frozen=True, slots=True)
class Idle:
    """Water that flows with all outlets shut: outlet whose valve does not shut, 0 = a leak; how much [L/h]."""

    outlet: int
    flow_l_per_h: float


def idle(flow_l_per_min: float, for_min: float, lines_l_per_h: dict[int, float]) -> Idle | None:
    """What a flow with all outlets shut is, None while it is too little or too new.

    flow_l_per_min: by the meter; for_min: since when it flows so [min]; lines_l_per_h: what each outlet's line takes
    [L/h], by outlet.
    """
    if flow_l_per_min <= IDLE_L_PER_MIN or for_min < IDLE_MIN:
        return None
    flow = 60 * flow_l_per_min
    near = [(abs(flow / line - 1), outlet) for outlet, line in lines_l_per_h.items() if line > 0]
    off, outlet = min(near, default=(float("inf"), 0))
    return Idle(outlet if off <= LINE_S_OWN else 0, flow)
