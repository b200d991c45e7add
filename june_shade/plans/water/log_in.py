"""Logged water as it lands: net litres on the day that each watering counts for."""

from collections.abc import Sequence
from datetime import timedelta
from uuid import UUID

import numpy as np

from june_shade.core.water import delivery, planner
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
