"""A tree on its way to stand on its own: offered, proven, handed over to the deep routine, and back where it must."""

from dataclasses import dataclass, replace
from datetime import date, timedelta
from typing import Any
from uuid import UUID, uuid5

import numpy as np

from june_shade.core.errors import ConflictError, InputError, JuneShadeError, NotFoundError
from june_shade.core.looking import handover
from june_shade.core.looking.handover import Spell
from june_shade.core.stock import balls
from june_shade.core.units import in_m, told
from june_shade.core.water import deep, reach
from june_shade.plans import changes, clock, people, register, ways
from june_shade.plans.changes import Changed, What
from june_shade.plans.looking.known import plan_of
from june_shade.plans.looking.proofs import missing_of, proofs, proven
from june_shade.plans.water import SitePlan, remembered
from june_shade.store import looking as store
from june_shade.store.looking_tables import OWN_ACTS, OwnAct, TreeCheckup
from june_shade.store.session import Session
from june_shade.store.tree_tables import Tree

MOVES = ("handed", "back")


@dataclass(frozen=True, slots=True)
class NewAct:
    """An act as a client made it. growth_m: of twigs, for that proof alone; fine_and_moist: for the dry spell alone,
    the soil beside the ball was moist 30 to 45 cm down and the leaves were fine."""

    id: UUID
    tree_id: UUID
    kind: str
    growth_m: float | None = None
    fine_and_moist: bool = False
    note: str = ""
    person_id: UUID | None = None


def of_tree(session: Session, tree_id: UUID) -> dict[str, Any]:
    """How far a tree is on its way to stand on its own."""
    tree = register.tree(session, tree_id)
    today = clock.today(session, tree.site.timezone)
    made = plan_of(session, tree)
    acts = store.own_acts(session, [tree.id]).get(tree.id, [])
    known = proofs(acts, _checkups(session, tree))
    dry, dry_days = _spell(made, tree)
    share = None if made is None else float(made.plan.now_ground.establishment[made.index_of(tree.id)])
    test = next((act for act in reversed(acts) if act.kind == "dry_test" and (act.hold_until or today) > today), None)
    ball = balls.radius_m(tree.kind, tree.ball_diameter_m)
    roots = max(float(balls.established_radius_m(ball, tree.caliper_m)), ball + balls.COLLAR_M)
    return {
        "establishment": share, "ready": share is not None and share >= handover.READY, "late": entered_late(tree),
        "offered_on": next((act.day for act in reversed(acts) if act.kind == "offered"), None),
        "handed_on": tree.handed_on, "handed_act": next((a.id for a in reversed(acts) if a.kind == "handed"), None),
        "proofs": known, "missing": list(handover.missing(proven(known), today)), "spell": dry, "dry_days": dry_days,
        "dry_test": test, "inner_m": reach.DEEP_FROM * roots, "roots_m": roots, "outer_m": reach.DEEP_TO * roots,
        "spell_rain_mm": handover.SPELL_RAIN_MM, "moist_from_m": handover.MOIST_FROM_M,
        "moist_to_m": handover.MOIST_TO_M, "least_growth_m": handover.GROWTH_M, "deep_m": reach.DEEP_ROOTS_M,
        "rest_days": deep.REST_DAYS, "latest_days": deep.LATEST_DAYS,
        "trunk_m": tree.caliper_m, "ball_m": ball, "in_the_way": in_the_way(tree), "today": today,
    }  # fmt: skip


def entered_late(tree: Tree) -> bool:
    """Whether a tree was past its establishment when its record opened."""
    return handover.entered_late(tree.planted_on, tree.opened_on)


LINE, WICKS = "line", "wicks"
IN_THE_WAY = {
    LINE: "hangs on a line with others: take it off the line first",
    WICKS: "stands in a box with wicks: change how it is watered first",
}
"""What about the way of watering keeps a tree from the deep routine, as a sentence."""


def in_the_way(tree: Tree) -> str | None:
    """What of how a tree is watered has to be changed before it can be handed over, None where nothing has."""
    if tree.line_id is not None:
        return LINE
    return WICKS if tree.method == "wicked" else None


def _checkups(session: Session, tree: Tree) -> list[TreeCheckup]:
    return store.standing_checkups(session, tree.site_id, [tree.id]).get(tree.id, [])


def _spell(made: SitePlan | None, tree: Tree) -> tuple[Spell | None, int]:
    if made is None:
        return None, 0
    i, at, course = made.index_of(tree.id), made.course.today, made.course
    poured = course.first_net_l[: at + 1, i] + course.second_net_l[: at + 1, i]
    opened = max(0, int(made.opening.index[i]))
    leaf, rain = course.leaf[opened:at, i], np.broadcast_to(course.rain_mm, course.leaf.shape)[opened:at, i]
    return (
        handover.spell(made.today - timedelta(days=1), leaf, rain, poured[opened:at]),
        handover.so_far_days(leaf, poured[opened:at]),
    )


def put(session: Session, new: NewAct) -> OwnAct:
    """Write down an act on the way; sent twice it is one. Raises InputError where it can't be, saying why."""
    tree = register.tree(session, new.tree_id)
    changes.hold(session, [tree.site_id])
    session.refresh(tree)
    row = session.get(OwnAct, new.id)
    if row is not None:
        if (row.tree_id, row.kind, row.growth_m) != (new.tree_id, new.kind, new.growth_m):
            raise ConflictError("something else was written down under this id", "id")
        return row
    if new.kind not in OWN_ACTS:
        raise InputError(f"must be one of {', '.join(OWN_ACTS)}, not {new.kind!r}", "kind")
    new = replace(new, person_id=people.did(session, new.person_id))
    today = clock.today(session, tree.site.timezone)
    _check(session, tree, new, today)
    hold = today + timedelta(days=handover.SPELL_DAYS) if new.kind == "dry_test" else None
    row = OwnAct(
        id=new.id, tree_id=tree.id, kind=new.kind, day=today, growth_m=new.growth_m, hold_until=hold,
        note=new.note.strip(), person_id=new.person_id, recorded_at=clock.now(session),
    )  # fmt: skip
    session.add(row)
    _follow(session, tree, row, today)
    return row


def _check(session: Session, tree: Tree, new: NewAct, today: date) -> None:
    if (new.kind == "growth") != (new.growth_m is not None):
        raise InputError("twig growth, and only that, says how much", "growth_m")
    handed = tree.handed_on is not None
    if new.kind == "back" and not handed:
        raise InputError("it was not handed over", "kind")
    if new.kind != "back" and handed:
        raise InputError("it stands on its own already: take it back first", "kind")
    if new.growth_m is not None and new.growth_m < handover.GROWTH_M:
        raise InputError(f"less than {in_m(handover.GROWTH_M)} this season is no proof yet", "growth_m")
    if new.kind == "dry_spell":
        if not new.fine_and_moist:
            raise InputError("is proven only where the soil is moist below and the leaves are fine", "fine_and_moist")
        if _spell(plan_of(session, tree), tree)[0] is None:
            raise InputError(
                f"needs {handover.SPELL_DAYS} days in leaf without water and with under "
                f"{told(handover.SPELL_RAIN_MM, 'mm')} of rain, that ended at most {handover.SPELL_AGO_DAYS} days ago",
                "kind",
            )
    if new.kind == "handed":
        if (held_by := in_the_way(tree)) is not None:
            raise InputError(IN_THE_WAY[held_by], "tree_id")
        acts = store.own_acts(session, [tree.id]).get(tree.id, [])
        lacks = missing_of(acts, _checkups(session, tree), today)
        if lacks and not entered_late(tree):
            raise InputError(f"is not proven yet: {', '.join(name.replace('_', ' ') for name in lacks)}", "kind")


def _follow(session: Session, tree: Tree, row: OwnAct, today: date) -> None:
    """What an act sets off: handed over and back change how the tree is watered, from today on."""
    if row.kind in MOVES:
        ways.until(session, tree, ways.way_of(tree), today)
        tree.handed_on = today if row.kind == "handed" else None
        session.flush()
        changes.tell(session, Changed(tree.site_id, What.WATER, (tree.id,)))
    elif row.kind == "dry_test":
        changes.tell(session, Changed(tree.site_id, What.WATER, (tree.id,), today))
    else:
        changes.tell(session, Changed(tree.site_id, What.PAGE))


def withdraw(session: Session, act_id: UUID) -> OwnAct:
    """Take an act back."""
    row = session.get(OwnAct, act_id)
    if row is None:
        raise NotFoundError("there is no such act", "act_id")
    tree = register.tree(session, row.tree_id, ended=True)
    changes.hold(session, [tree.site_id])
    session.refresh(tree)
    if row.withdrawn_at is None:
        row.withdrawn_at = clock.now(session)
        session.flush()
        standing = [
            act for act in store.own_acts(session, [tree.id]).get(tree.id, ()) if act.kind in ("handed", "back")
        ]
        tree.handed_on = standing[-1].day if standing and standing[-1].kind == "handed" else None
        if row.kind == "handed":
            ways.restore(session, tree, row.day)
        session.flush()
        what = What.WATER if row.kind in (*MOVES, "dry_test") else What.PAGE
        changes.tell(session, Changed(tree.site_id, what, (tree.id,)))
    return row


def ready(session: Session, site_id: UUID) -> list[dict[str, Any]]:
    """The same of a site by its id; none where no plan can be made."""
    site = register.site(session, site_id)
    try:
        made = remembered.of_site(session, site)
    except JuneShadeError:
        return []
    return [] if made is None else ready_at(session, made)


def ready_at(session: Session, made: SitePlan) -> list[dict[str, Any]]:
    """Trees of a site that are far enough to be handed over, the furthest first, with what is missing."""
    share = made.plan.now_ground.establishment
    wanted = [int(i) for i in np.argsort(-share, kind="stable") if share[i] >= handover.READY]
    rows = [made.rows[i] for i in wanted if made.rows[i].handed_on is None]
    acts = store.own_acts(session, [row.id for row in rows])
    looked = store.standing_checkups(session, made.site.id, [row.id for row in rows])
    found = []
    for row in rows:
        found.append({
            "id": row.id, "tag": row.tag, "place": row.place, "common": row.common,
            "establishment": float(share[made.index_of(row.id)]),
            "missing": list(missing_of(acts.get(row.id, []), looked.get(row.id, []), made.today)),
        })  # fmt: skip
    return found


def come_back(session: Session, tree: Tree, checkup: TreeCheckup) -> None:
    """A check-up that says to water takes a tree that was handed over back into the daily round."""
    if tree.handed_on is not None and checkup.water_act in handover.BACK_AFTER:
        back = OwnAct(
            id=uuid5(checkup.id, "back"), tree_id=tree.id, kind="back", day=clock.today(session, tree.site.timezone),
            note="", person_id=checkup.person_id, recorded_at=clock.now(session),
        )  # fmt: skip
        session.add(back)
        _follow(session, tree, back, back.day)


def stays(session: Session, checkup: TreeCheckup) -> None:
    """That check-up is taken back: so is what came of it."""
    if session.get(OwnAct, uuid5(checkup.id, "back")) is not None:
        withdraw(session, uuid5(checkup.id, "back"))
