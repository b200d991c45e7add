"""What the program knows of a tree by itself before anyone looks at it."""

from dataclasses import dataclass
from datetime import date, timedelta

import numpy as np

from june_shade.core.errors import JuneShadeError
from june_shade.core.looking import checkup
from june_shade.core.water.balance import thirsty
from june_shade.plans.water import SitePlan, remembered
from june_shade.store import looking as store
from june_shade.store.session import Session
from june_shade.store.tree_tables import Tree

LOOK_BACK_DAYS, MANY_DAYS = 14, 4
"""The plan calls a tree wet, or dry, by so many such days of the last fourteen (calibrated)."""
FIRST_YEAR_DAYS = 365
IN_LEAF = 0.1


@dataclass(frozen=True, slots=True)
class Known:
    """What the program knows of a tree by itself: its own findings, whether it is in leaf, whether an earlier look in
    leaf season, 14 or more days ago, called it dead."""

    findings: dict[str, str]
    in_leaf: bool
    dead_before: bool


def known(session: Session, tree: Tree, made: SitePlan | None, today: date) -> Known:
    """What the program answers itself. made: the plan with the days behind it, None where there is none."""
    own = {"first_year": "yes" if (today - tree.planted_on).days < FIRST_YEAR_DAYS else "no"}
    in_leaf = True
    if made is not None:
        i, at = made.index_of(tree.id), made.course.today
        back = slice(max(0, at - LOOK_BACK_DAYS), at)
        ks, soggy = made.plan.ks[back, i], made.plan.soggy[back, i]
        dry = thirsty(made.course.leaf[back, i], np.nan_to_num(ks, nan=1.0), 1.0)
        wet_days, dry_days = int(np.sum(soggy == 1)), int(np.sum(dry))
        own["plan_says"] = "wet" if wet_days >= MANY_DAYS else "dry" if dry_days >= MANY_DAYS else "fine"
        in_leaf = bool(made.course.leaf[at, i] > IN_LEAF)
    before = store.checkups(session, tree.id)
    latest = today - timedelta(days=checkup.LOOK_AGAIN["dead"])
    dead = any(c.verdict == "dead" and c.in_leaf and c.day <= latest and c.withdrawn_at is None for c in before)
    return Known(own, in_leaf, dead)


def plan_of(session: Session, tree: Tree) -> SitePlan | None:
    """The plan that a tree is in with the days behind it, None where none can be made."""
    try:
        return remembered.with_history(session, tree.site, tree.id)
    except JuneShadeError:
        return None
