"""What a box is to run: the plan's runs of its lines, today and tomorrow, in orders, hours, frost; one at a time."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, datetime, time, timedelta
from uuid import UUID, uuid5
from zoneinfo import ZoneInfo

import numpy as np

from june_shade.core.devices import schedule
from june_shade.core.devices.schedule import LineRun, Wanted
from june_shade.core.limits import hours
from june_shade.core.limits.restriction import Restriction
from june_shade.core.water import delivery
from june_shade.plans import water
from june_shade.plans.choosing.given import order_of
from june_shade.plans.choosing.groups import asked_of
from june_shade.plans.drip import lines
from june_shade.plans.water import SitePlan, remembered
from june_shade.store import boxes as store
from june_shade.store import limits
from june_shade.store.box_tables import BoxRun, ValveBox
from june_shade.store.session import Session
from june_shade.store.site_tables import Line, Site

DAYS = 2
"""So many days are sent ahead."""
AT_ONCE_L_PER_H = 0.0
"""No second line runs beside one: a box has one meter, and what it shows could not be told apart."""
SOONEST_MIN = 5
"""Nothing is scheduled to begin sooner: a person must be able to see it, and to stop it."""


@dataclass(frozen=True, slots=True)
class Left:
    """A run that found no room and is a person's: its line, its day, why (order, frost, hours)."""

    line_id: UUID
    day: date
    why: str


@dataclass(frozen=True, slots=True)
class Coming:
    """What a box is to run, as runs to be kept, and what found no room."""

    runs: list[BoxRun]
    left: list[Left]


def coming(session: Session, box: ValveBox, site: Site, now: datetime, begun: Sequence[BoxRun] = ()) -> Coming:
    """The runs of a box's lines, today and tomorrow. now: the time that it is; begun: runs that go on as they are."""
    named = store.lines(session, box.id)
    made = remembered.of_site(session, site) if named else None
    if made is None:
        return Coming([], [])
    zone = ZoneInfo(site.timezone)

    def on_day(run: BoxRun) -> date:
        return run.starts_at.astimezone(zone).date()

    gaps = {line.id: lines.gaps_l_per_h(session, line) for line in named.values()}
    orders = [order_of(row).rules for row in limits.standing_at(session, [site.id]).get(site.id, [])]
    runs: list[BoxRun] = []
    left: list[Left] = []
    for ahead in range(DAYS):
        at = made.course.today + ahead
        if at >= len(made.series):
            break
        day = made.series.dates[at].item()
        midnight = datetime.combine(day, time(), zone)
        soonest = (now - midnight).total_seconds() / 60 + SOONEST_MIN
        asked: list[tuple[Wanted, _LineRun]] = []
        for number, line in named.items():
            run = _line_run(made, line, at, gaps[line.id])
            if run is None or any(one.line_id == line.id and on_day(one) == day for one in begun):
                continue
            windows, why = _windows(made, box, site, orders, run, at, day)
            if why:
                left.append(Left(line.id, day, why))
            else:
                asked.append((Wanted(number, run.run.total_min, run.flow_l_per_h, windows), run))
        busy = {one.number: [_span(one, midnight)] for one in begun if on_day(one) == day}
        placed, without = schedule.placed([one for one, _ in asked], AT_ONCE_L_PER_H, max(0.0, soonest), busy)
        by_outlet = {one.outlet: run for one, run in asked}
        left += [Left(by_outlet[number].line_id, day, "hours") for number in without]
        for one in placed:
            run = by_outlet[one.outlet]
            starts = midnight + timedelta(minutes=float(np.ceil(one.start_min)))
            runs.append(run.as_row(box, one.outlet, day, starts))
    return Coming(runs, left)


def _span(run: BoxRun, midnight: datetime) -> tuple[float, float]:
    """From and to when a run lasts, in minutes of its day."""
    begins = (run.starts_at - midnight).total_seconds() / 60
    return begins, begins + run.goes * run.open_min + (run.goes - 1) * run.rest_min


@dataclass(frozen=True, slots=True)
class _LineRun:
    """One run of a line: its goes, what flows, the trees with their parts of it [L/h]."""

    line_id: UUID
    run: LineRun
    flow_l_per_h: float
    trees: dict[str, float]
    positions: tuple[int, ...]

    def as_row(self, box: ValveBox, number: int, day: date, starts_at: datetime) -> BoxRun:
        """A run to be kept: one a line and day, by its id."""
        return BoxRun(
            id=uuid5(box.id, f"{self.line_id} {day}"), box_id=box.id, number=number, line_id=self.line_id,
            starts_at=starts_at, open_min=self.run.open_min, goes=self.run.goes, rest_min=self.run.rest_min,
            line_l_per_h=self.flow_l_per_h, trees=self.trees, state="planned",
        )  # fmt: skip


def _line_run(made: SitePlan, line: Line, at: int, gaps_l_per_h: float) -> _LineRun | None:
    """What a line is to run on a day of the plan, None where none of its trees wants water. gaps_l_per_h: what flows
    where its trees are gone."""
    on = [i for i, row in enumerate(made.rows) if row.line_id == line.id and made.deliveries[i].on_a_valve]
    due = [i for i in on if made.plan.visit_gross_l[at, i] > 0]
    if not due:
        return None
    pours = [water.visit_on(made, i, at).metric for i in due]
    flows = {str(made.rows[i].id): float(delivery.flow_l_per_h(made.deliveries[i])) for i in on}
    run = schedule.line_run(
        [pour.run_min for pour in pours], [pour.goes.count for pour in pours], [pour.goes.rest_min for pour in pours]
    )
    return _LineRun(line.id, run, sum(flows.values()) + gaps_l_per_h, flows, tuple(on))


def _windows(
    made: SitePlan, box: ValveBox, site: Site, orders: Sequence[Restriction], run: _LineRun, at: int, day: date
) -> tuple[np.ndarray, str]:
    """Hours that hold for all trees of a line, in minutes of the day, and why there are none."""
    none = np.zeros((0, 2))
    if schedule.is_frosty(made.series.tmean_c[at], made.series.tmax_c[at]) or not made.series.workable[at]:
        return none, "frost"
    left = np.array(box.hours, dtype=float).reshape(-1, 2)
    for i in run.positions:
        row = made.rows[i]
        asked = asked_of(site.water_source, site.house_number, row.planted_on, "emitters", day)
        litres = run.trees[str(row.id)] * run.run.open_min * run.run.goes / 60
        if hours.closed_by(orders, asked) or litres > hours.most_l(orders, asked) + schedule.ROUNDED_L:
            return none, "order"
        left = schedule.common_hours(left, np.array(hours.open_hours(orders, asked), float).reshape(-1, 2))
    return left, "" if len(left) else "order"
