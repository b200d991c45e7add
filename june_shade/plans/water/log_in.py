"""Logged water as it lands: net litres on the day that each watering counts for, and how each tree is poured."""

from collections import Counter
from collections.abc import Sequence
from datetime import date, timedelta
from uuid import UUID

import numpy as np
from sqlalchemy.orm import Session

from june_shade.core.stock import balls
from june_shade.core.water import delivery, planner
from june_shade.core.water.delivery import Delivery
from june_shade.core.water.pouring import Pouring
from june_shade.core.weather.series import Series
from june_shade.store import log as log_store
from june_shade.store.facts import TreeFacts


def _losses(rows: Sequence[TreeFacts], deliveries: Sequence[Delivery]) -> list[float]:
    return [
        float(
            delivery.mulch_loss_l(
                how, balls.radius_m(row.kind, row.ball_diameter_m), row.mulch_outer_radius_m or 0.0, 1.0
            )
        )
        if row.mulch_material
        else 0.0
        for row, how in zip(rows, deliveries, strict=True)
    ]


def lay_in(
    session: Session, site_id: UUID, rows: Sequence[TreeFacts], tree_ids: Sequence[UUID] | None, cut: Series,
    pouring: Pouring, depth: np.ndarray, today: int,
) -> tuple[np.ndarray, np.ndarray, np.ndarray]:  # fmt: skip
    """Logged water as net litres on the day each counts for, first and second (days, trees); who had water today."""
    first_net, second_net = np.zeros_like(depth), np.zeros_like(depth)
    poured = np.zeros(len(rows), bool)
    at = {row.id: i for i, row in enumerate(rows)}
    arrives, loss = pouring.efficiency * (1.0 - pouring.leaching), pouring.loss_l
    first_day = cut.dates[0].item().toordinal()
    local_today = cut.dates[today].item()
    morning: set[tuple[UUID, date]] = set()
    for entry in log_store.water(session, site_id, cut.dates[0].item() - timedelta(days=1), tree_ids):
        i = at[entry.tree_id]
        minute = entry.local_time.hour * 60 + entry.local_time.minute
        key = (entry.tree_id, entry.local_date)
        days_later, second = planner.days_counted(minute, key in morning)
        if minute < planner.EVENING_MINUTE:
            morning.add(key)
        if entry.local_date == local_today:
            poured[i] = True
        day = entry.local_date.toordinal() + days_later - first_day
        if 0 <= day < len(cut):
            net = float(delivery.net_l(entry.volume_l, arrives[i], loss[i] * depth[day, i]))
            (second_net if second else first_net)[day, i] += net
    return first_net, second_net, poured


def pouring_of(rows: Sequence[TreeFacts], deliveries: Sequence[Delivery]) -> Pouring:
    """How each tree is poured, as arrays."""
    pairs = list(zip(rows, deliveries, strict=True))
    sharing = Counter(row.line_id for row, how in pairs if row.line_id and how.on_a_valve)
    numbers = {key: number for number, (key, trees) in enumerate(sharing.items()) if trees > 1}
    return Pouring(
        efficiency=np.array([delivery.efficiency(how.method) for how in deliveries]),
        leaching=np.array([how.leaching for how in deliveries]),
        step_l=np.array([how.step_l or delivery.METRIC_STEP_L for how in deliveries]),
        loss_l=np.array(_losses(rows, deliveries)),
        line=np.array([numbers.get(row.line_id, -1) if row.line_id and how.on_a_valve else -1 for row, how in pairs]),
        flow_l_h=np.array([delivery.flow_l_h(how) for how in deliveries]),
        reservoir_l=np.array([how.reservoir_l for how in deliveries]),
    )
