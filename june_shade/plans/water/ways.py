"""How each tree is watered, and was: eras in which nothing of it changes, as arrays."""

from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import date
from uuid import UUID

import numpy as np

from june_shade.core.stock import balls
from june_shade.core.water import delivery, reach
from june_shade.core.water.delivery import Delivery
from june_shade.core.water.pouring import Pouring
from june_shade.core.water.reach import Landing
from june_shade.core.water.walk import Era
from june_shade.core.weather.series import Series
from june_shade.plans.describe import Described, delivery_of, landing_of
from june_shade.store.facts import FormerWayFacts, SiteFacts, TreeFacts


@dataclass(frozen=True, slots=True)
class Way:
    """One way of watering a tree: how it is poured and where that lands."""

    how: Delivery
    landing: Landing


def eras_of(
    site: SiteFacts, rows: Sequence[TreeFacts], described: Sequence[Described],
    former: dict[UUID, list[FormerWayFacts]], cut: Series, intake_mm_h: float,
) -> tuple[Era, ...]:  # fmt: skip
    """Eras by position in the days that are run, the last one as trees are watered now."""
    now = [Way(one.how, one.landing) for one in described]
    latest = _stacked(0, rows, now, intake_mm_h)
    if not former:
        return (latest,)
    ends = sorted({way.until for ways in former.values() for way in ways})
    base = cut.dates[0].item()
    starts = [base, *(end for end in ends if end > base)]
    at = {row.id: i for i, row in enumerate(rows)}
    return tuple(
        _patched(latest, (start - base).days, rows, _as_it_was(start, at, former, site, rows, described), intake_mm_h)
        for start in starts
    )


def _as_it_was(
    day: date, at: dict[UUID, int], former: dict[UUID, list[FormerWayFacts]], site: SiteFacts,
    rows: Sequence[TreeFacts], described: Sequence[Described],
) -> dict[int, Way]:  # fmt: skip
    """The trees that were watered otherwise on a day, by position."""
    found = {}
    for tree_id, ways in former.items():
        way = next((one for one in ways if one.until > day), None)
        if way is not None and tree_id in at:
            i = at[tree_id]
            ball = replace(described[i].ball, kind=rows[i].kind)
            how = delivery_of(way, site, way.leaching)
            if way.on_its_own:
                how = delivery.on_the_ring(how, reach.deep_ring_m2(ball))
            found[i] = Way(how, reach.of_deep(ball) if way.on_its_own else landing_of(way, how, ball))
    return found


def _stacked(since: int, rows: Sequence[TreeFacts], ways: Sequence[Way], intake_mm_h: float) -> Era:
    pouring = pouring_of(rows, [way.how for way in ways], intake_mm_h)
    return Era(since, reach.stack([way.landing for way in ways]), pouring)


def _patched(era: Era, since: int, rows: Sequence[TreeFacts], other: dict[int, Way], intake_mm_h: float) -> Era:
    """An era with some trees watered another way."""
    if not other:
        return replace(era, since=since)
    at = np.array(list(other))
    some = _stacked(0, [rows[i] for i in at], list(other.values()), intake_mm_h)
    reached = era.reach
    for name in ("circle_m2", "share", "ring_share", "basin_m2"):
        values = getattr(reached, name).copy()
        values[at] = getattr(some.reach, name)
        reached = replace(reached, **{name: values})
    wetted = reached.wetted_m2
    if wetted is not None or some.reach.wetted_m2 is not None:
        steps = (wetted if wetted is not None else some.reach.wetted_m2).shape[0]  # type: ignore[union-attr]
        whole = np.full((steps, len(rows)), np.nan) if wetted is None else wetted.copy()
        whole[:, at] = np.nan if some.reach.wetted_m2 is None else some.reach.wetted_m2
        reached = replace(reached, wetted_m2=whole)
    if reached.deep_m is not None or some.reach.deep_m is not None:
        deep = np.full(len(rows), np.nan) if reached.deep_m is None else reached.deep_m.copy()
        deep[at] = np.nan if some.reach.deep_m is None else some.reach.deep_m
        reached = replace(reached, deep_m=deep)
    pouring = era.pouring
    for name in ("efficiency", "leaching", "step_l", "loss_l", "flow_l_per_h", "reservoir_l", "day_most_l"):
        known = getattr(pouring, name)
        values = known.copy()
        values[at] = getattr(some.pouring, name)
        pouring = replace(pouring, **{name: values})
    return Era(since, reached, pouring)


def _losses(rows: Sequence[TreeFacts], ways: Sequence[Delivery]) -> list[float]:
    return [
        float(delivery.mulch_loss_l(how, balls.radius_m(row.kind, row.ball_diameter_m), row.mulch_outer_radius_m, 1.0))
        if row.mulch_material and row.mulch_outer_radius_m
        else 0.0
        for row, how in zip(rows, ways, strict=True)
    ]


def _day_most_l(row: TreeFacts, how: Delivery, intake_mm_h: float) -> float:
    most = delivery.day_limit(how, balls.radius_m(row.kind, row.ball_diameter_m), intake_mm_h)
    return np.inf if most is None else most.litres


def pouring_of(rows: Sequence[TreeFacts], ways: Sequence[Delivery], intake_mm_h: float) -> Pouring:
    """How each tree is poured, as arrays."""
    pairs = list(zip(rows, ways, strict=True))
    sharing = Counter(row.line_id for row, how in pairs if row.line_id and how.on_a_valve)
    numbers = {key: number for number, (key, trees) in enumerate(sharing.items()) if trees > 1}
    return Pouring(
        efficiency=np.array([delivery.efficiency(how.method) for how in ways]),
        leaching=np.array([how.leaching for how in ways]),
        step_l=np.array([how.step_l or delivery.METRIC_STEP_L for how in ways]),
        loss_l=np.array(_losses(rows, ways)),
        line=np.array([numbers.get(row.line_id, -1) if row.line_id and how.on_a_valve else -1 for row, how in pairs]),
        flow_l_per_h=np.array([delivery.flow_l_per_h(how) for how in ways]),
        reservoir_l=np.array([how.reservoir_l for how in ways]),
        day_most_l=np.array([_day_most_l(row, how, intake_mm_h) for row, how in pairs]),
    )
