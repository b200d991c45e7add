"""The log as the balance takes it: water as it lands on the day it counts for, readings at their moment of a day."""

from collections.abc import Sequence
from datetime import date, time, timedelta
from typing import Any
from uuid import UUID

import numpy as np

from june_shade.core.water import delivery, felt, planner
from june_shade.core.water.felt import Felt
from june_shade.core.water.stores import Trees
from june_shade.core.water.walk import Era
from june_shade.core.weather.series import Series
from june_shade.store import log as log_store
from june_shade.store.facts import TreeFacts
from june_shade.store.session import Session


def lay_in(
    session: Session, site_id: UUID, rows: Sequence[TreeFacts], tree_ids: Sequence[UUID] | None, cut: Series,
    eras: Sequence[Era], depth: np.ndarray, today: int,
) -> tuple[np.ndarray, np.ndarray, np.ndarray]:  # fmt: skip
    """Logged water as net litres on the day each counts for, first and second (days, trees); who had water today.

    What arrives of it goes by how the tree was watered on the day it was poured.
    """
    first_net, second_net = np.zeros_like(depth), np.zeros_like(depth)
    poured = np.zeros(len(rows), bool)
    at = {row.id: i for i, row in enumerate(rows)}
    arrives = [era.pouring.efficiency * (1.0 - era.pouring.leaching) for era in eras]
    first_day = cut.dates[0].item().toordinal()
    local_today = cut.dates[today].item()
    morning: set[tuple[UUID, int]] = set()
    for entry in log_store.water(session, site_id, cut.dates[0].item() - timedelta(days=1), tree_ids):
        i = at[entry.tree_id]
        given = entry.local_date.toordinal() - first_day
        minute = entry.local_time.hour * 60 + entry.local_time.minute
        key = (entry.tree_id, given)
        days_later, second = planner.days_counted(minute, key in morning)
        if minute < planner.EVENING_MINUTE:
            morning.add(key)
        if entry.local_date == local_today:
            poured[i] = True
        day = given + days_later
        if 0 <= day < len(cut):
            era = max((n for n, one in enumerate(eras) if one.since <= given), default=0)
            loss = eras[era].pouring.loss_l[i] * depth[day, i]
            net = float(delivery.net_l(entry.volume_l, arrives[era][i], loss))
            (second_net if second else first_net)[day, i] += net
    return first_net, second_net, poured


def felt_by(
    session: Session, site_id: UUID, rows: Sequence[TreeFacts], tree_ids: Sequence[UUID] | None, cut: Series,
    trees: Trees,
) -> dict[tuple[int, bool], Felt]:  # fmt: skip
    """What was read of the trees, by the position of its day and whether it was before that day's water.

    A reading is after the water that was poured before it, on whichever day that counts.
    """
    first_day = cut.dates[0].item()
    found = log_store.readings(session, site_id, first_day, tree_ids)
    if not found:
        return {}
    counted = _counted(log_store.water(session, site_id, first_day - timedelta(days=1), tree_ids))
    at = {row.id: i for i, row in enumerate(rows)}
    moments: dict[tuple[int, bool], dict[int, list[tuple[float, float, float]]]] = {}
    for read in found:
        i = at[read.tree_id]
        own = read.local_date
        watered = [day for when, day in counted.get(read.tree_id, ()) if when <= (own, read.local_time) and day >= own]
        day, before = (max(watered), False) if watered else (own, True)
        ball, ring = wetness_read(read, trees, i)
        moment = (day - first_day).days, before
        moments.setdefault(moment, {}).setdefault(i, []).append((ball, ring, felt.SD[read.how]))
    return {moment: _stacked(readings, len(rows)) for moment, readings in moments.items()}


def wetness_read(read: Any, trees: Trees, i: int) -> tuple[float, float]:
    """Ball and soil beside it as a reading has them, shares of available water; NaN where that was not read. read: a
    reading or an entry of the log, of tree i."""
    of_ball = trees.ball_wilting_point[i], trees.ball_awc[i], trees.ball_drainable[i]
    of_soil = trees.soil_wilting_point[i], trees.soil_awc[i], trees.soil_drainable[i]
    return _wetness(read.ball_feel, read.ball_theta, *of_ball), _wetness(read.ring_feel, read.ring_theta, *of_soil)


def _wetness(feel: str | None, theta: float | None, wilting_point: float, awc: float, room: float) -> float:
    if theta is not None:
        most = wilting_point + awc + room
        return max(0.0, felt.wetness_by_probe(min(theta, most), float(wilting_point), float(awc), float(room)))
    return np.nan if feel is None else felt.wetness_of(feel, float(awc), float(room))


def _counted(poured: Sequence[log_store.Poured]) -> dict[UUID, list[tuple[tuple[date, time], date]]]:
    """When each tree was watered and the day on which that counts."""
    found: dict[UUID, list[tuple[tuple[date, time], date]]] = {}
    morning: set[tuple[UUID, date]] = set()
    for entry in poured:
        minute = entry.local_time.hour * 60 + entry.local_time.minute
        key = (entry.tree_id, entry.local_date)
        later, _ = planner.days_counted(minute, key in morning)
        if minute < planner.EVENING_MINUTE:
            morning.add(key)
        when = (entry.local_date, entry.local_time)
        found.setdefault(entry.tree_id, []).append((when, entry.local_date + timedelta(days=later)))
    return found


def _stacked(readings: dict[int, list[tuple[float, float, float]]], trees: int) -> Felt:
    """Readings of some trees at one moment as arrays (readings, trees)."""
    most = max(len(own) for own in readings.values())
    ball, ring, sd = np.full((most, trees), np.nan), np.full((most, trees), np.nan), np.ones((most, trees))
    for i, own in readings.items():
        for n, values in enumerate(own):
            ball[n, i], ring[n, i], sd[n, i] = values
    return Felt(ball, ring, sd)
