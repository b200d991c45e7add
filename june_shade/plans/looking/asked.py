"""What the plan asks to be looked at today: trees where it may be wrong and that would cost something."""

from collections.abc import Collection
from datetime import timedelta
from typing import Any
from uuid import UUID

import numpy as np

from june_shade.core.looking import queue
from june_shade.core.water.ground import dryness_sd
from june_shade.plans.looking import thirst
from june_shade.plans.water import SitePlan
from june_shade.store import looking as store
from june_shade.store.session import Session

NEW_DAYS = 30
HOT_DRYNESS = 0.8
"""So much of its limit a tree has used up that heat may push it over."""


def of_site(session: Session, made: SitePlan, done: Collection[UUID]) -> list[dict[str, Any]]:
    """Trees of a site to look at, the riskiest first, each with why. done: trees that were felt today."""
    plan, ids = made.plan, [row.id for row in made.rows]
    g, now = plan.now_ground, plan.now
    sd = dryness_sd(g, now.ball_variance, now.near_variance)
    said, fits = store.answers(session, made.site.id), store.fits(session, ids)
    open_ones = ("open", "ask_delivery")
    odd = np.array([thirst.state_of(fits.get(one), said.get(one, ())) in open_ones for one in ids])
    in_leaf = made.course.leaf[made.course.today] > 0
    due = plan.visit == made.course.today
    risks = queue.risk(plan.now_dryness, sd, made.trees.dryness_limit, g.establishment, due, odd)
    felt = np.array([one in done for one in ids])
    risks = np.where(in_leaf & ~felt, risks, 0.0)
    read = store.last_read_on(session, made.site.id)
    found = []
    for i in queue.chosen(risks):
        row = made.rows[i]
        last = read.get(row.id)
        since = (made.today - (last or row.opened_on)).days
        if odd[i]:
            why = "odd"
        elif row.opening == "guessed" and last is None:
            why = "guessed"
        elif made.today - row.planted_on < timedelta(days=NEW_DAYS):
            why = "new"
        elif plan.now_dryness[i] > HOT_DRYNESS * made.trees.dryness_limit[i]:
            why = "near_limit"
        else:
            why = "long"
        found.append({
            "id": row.id, "tag": row.tag, "place": row.place, "why": why, "days": since, "risk": float(risks[i]),
            "minutes": queue.MINUTES_EACH,
        })  # fmt: skip
    return found
