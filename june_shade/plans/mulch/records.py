"""Mulch laid and measured: kept for good, the tree goes by the newest of it. Writes carry the client's id."""

from collections.abc import Mapping, Sequence
from dataclasses import asdict, dataclass
from datetime import date
from typing import Any
from uuid import UUID, uuid5

from june_shade.core.errors import ConflictError, InputError, NotFoundError
from june_shade.core.mulch import lay, wasting
from june_shade.core.mulch.lay import RingChoice
from june_shade.core.mulch.look import BARK_M, LookVerdict, judged
from june_shade.core.mulch.materials import material
from june_shade.core.mulch.ring import DEEPEST_M, SAME_M
from june_shade.core.mulch.wasting import DAYS_A_YEAR, Reading
from june_shade.core.units import in_l
from june_shade.plans import changes, clock, register, soil_in_force, yard
from june_shade.plans.changes import Changed, What
from june_shade.plans.mulch import stands
from june_shade.plans.mulch.stands import Mulched
from june_shade.store import mulch as store
from june_shade.store.mulch_tables import MulchEntry
from june_shade.store.session import Session
from june_shade.store.tree_tables import Tree

COLUMNS = (
    "mulch_material", "mulch_depth_m", "mulch_outer_radius_m", "mulch_measured_on", "mulch_clear_gap_m",
    "mulch_wasting_years",
)  # fmt: skip
"""What a tree's row says of its mulch."""
MOST_OF_PLAN = 1.2
"""Loose mulch over the plan lies deeper, up to so much: past it someone misread a load."""


@dataclass(frozen=True, slots=True)
class Look:
    """A look at a ring as it was typed: four depths [m], how far off the bark in a word, two yes or no."""

    depths_m: tuple[float, ...]
    bark: str
    flare_seen: bool
    roots_in_mulch: bool | None = None
    weeds: bool = False


def judge(tree: Tree, look: Look, target_m: float, day: date) -> LookVerdict:
    """What a look comes to for this tree."""
    if look.bark not in BARK_M:
        raise InputError(f"must be one of {', '.join(BARK_M)}, not {look.bark!r}", "bark")
    return judged(
        look.depths_m, BARK_M[look.bark], look.flare_seen, target_m, roots_in_mulch=look.roots_in_mulch,
        years_planted=(day - tree.planted_on).days / DAYS_A_YEAR, caliper_m=tree.caliper_m,
    )  # fmt: skip


def put_look(
    session: Session, entry_id: UUID, tree_id: UUID, look: Look, day: date | None = None, note: str = ""
) -> MulchEntry:
    """Keep a look at a ring; depth and pace of wasting go by it from now on."""
    tree = register.tree(session, tree_id)
    changes.hold(session, [tree.site_id])
    when = _day(session, tree, day)
    choice, _ = stands.choice_of(tree, soil_in_force.in_force(session, tree.site).soil)
    found = judge(tree, look, choice.depth_m, when)
    readings = asdict(look) | {"depths_m": list(look.depths_m)}
    values = {
        "tree_id": tree.id, "kind": "check", "day": when, "material": tree.mulch_material or choice.material,
        "depth_m": found.mean_m, "outer_radius_m": tree.mulch_outer_radius_m or choice.outer_radius_m,
        "clear_gap_m": BARK_M[look.bark], "readings": readings, "verdict": found.verdict, "note": note,
    }  # fmt: skip
    return _keep(session, entry_id, tree, values)


def put_laid(
    session: Session, entry_id: UUID, tree_id: UUID, day: date | None = None, loose_l: float | None = None,
    note: str = "",
) -> MulchEntry:  # fmt: skip
    """Keep that a tree's mulch was laid as chosen. loose_l: what was taken for it, None = what was reckoned."""
    tree = register.tree(session, tree_id)
    changes.hold(session, [tree.site_id])
    when = _day(session, tree, day)
    group = stands.near(session, tree, when)
    laid = lay.lay_all([m.choice for m in group], [m.stand for m in group])[0]
    ratio = 1.0 if loose_l is None or laid.missing_loose_l <= 0 else loose_l / laid.missing_loose_l
    values = _laid_values(group[0], laid, when, ratio, None) | {"note": note}
    if loose_l is not None:
        values["loose_l"] = loose_l
    return _keep(session, entry_id, tree, values)


@dataclass(frozen=True, slots=True)
class Job:
    """A day's mulching of many trees with one material: bought for it, taken along, brought back, loose [L]."""

    tree_ids: tuple[UUID, ...]
    material: str
    bought_l: float
    taken_l: float
    left_l: float
    day: date | None = None


def put_job(session: Session, job_id: UUID, job: Job) -> Sequence[MulchEntry]:
    """Keep a day's mulching: each tree gets its part of what was used, the yard what was left. All or none."""
    known = store.job(session, job_id)
    if known:  # sent again
        if {row.tree_id for row in known} != set(job.tree_ids):
            raise ConflictError("another day's mulching has this id already", "id")
        return known
    material(job.material)
    trees = [register.tree(session, tree_id) for tree_id in dict.fromkeys(job.tree_ids)]
    if not trees:
        raise InputError("needs at least one tree", "tree_ids")
    changes.hold(session, {tree.site_id for tree in trees})
    by_site: dict[UUID, list[Tree]] = {}
    for tree in trees:
        by_site.setdefault(tree.site_id, []).append(tree)
    plans: list[tuple[Mulched, lay.Laid, date]] = []
    for some in by_site.values():
        when = _day(session, some[0], job.day)
        for group in stands.of_trees(session, some, when):
            for one in group:
                if one.choice.material != job.material:
                    raise InputError(f"{one.tree.tag} is to get {one.choice.material}, not {job.material}", "material")
            parts = lay.lay_all([m.choice for m in group], [m.stand for m in group])
            plans += [(m, part, when) for m, part in zip(group, parts, strict=True)]
    planned = sum(part.missing_loose_l for _, part, _ in plans)
    if job.left_l > job.taken_l:
        raise InputError(f"is more than the {in_l(job.taken_l)} taken along", "left_l")
    used = job.taken_l - job.left_l
    if used <= 0:
        raise InputError("nothing was used: say what was taken along and what came back", "taken_l")
    if planned <= 0:
        raise InputError("none of these trees lacks mulch", "tree_ids")
    yard.job_moves(session, job_id, job.material, plans[0][2], job.bought_l, job.taken_l, job.left_l)
    kept = []
    for number, (one, part, when) in enumerate(plans):
        values = _laid_values(one, part, when, used / planned, job_id)
        kept.append(_keep(session, uuid5(job_id, str(number)), one.tree, values))
    return kept


def _laid_values(one: Mulched, part: lay.Laid, day: date, ratio: float, job_id: UUID | None) -> dict[str, Any]:
    """An entry's columns: the depth that the litres used come to, side by side never past the ceiling."""
    choice, share = one.choice, min(max(0.0, ratio), MOST_OF_PLAN)
    sides = one.stand.depths_m
    depths = [min(DEEPEST_M + SAME_M, d + share * (choice.depth_m - d)) if d < choice.depth_m else d for d in sides]
    return {
        "tree_id": one.tree.id, "kind": "laid", "day": day, "material": choice.material,
        "depth_m": sum(depths) / len(depths), "outer_radius_m": choice.outer_radius_m,
        "clear_gap_m": choice.clear_gap_m, "loose_l": part.missing_loose_l * ratio, "compost_l": part.compost_l or None,
        "underlay": choice.underlay, "job_id": job_id,
    }  # fmt: skip


def _day(session: Session, tree: Tree, day: date | None) -> date:
    today = clock.today(session, tree.site.timezone)
    when = day or today
    if when > today:
        raise InputError(f"{when} is still to come (today is {today})", "day")
    if when < tree.planted_on:
        raise InputError(f"{when} is before {tree.tag} was planted ({tree.planted_on})", "day")
    return when


SAME = ("tree_id", "kind", "readings", "loose_l")


def _keep(session: Session, entry_id: UUID, tree: Tree, values: Mapping[str, Any]) -> MulchEntry:
    known = session.get(MulchEntry, entry_id)
    if known is not None:
        if [name for name in SAME if name in values and getattr(known, name) != values[name]]:
            raise ConflictError("another entry has this id already", "id")
        return known
    standing = store.standing(session, [tree.id]).get(tree.id, [])
    later = next((row for row in standing if row.day > values["day"]), None)
    now = {name: getattr(tree, name) for name in COLUMNS}
    before = _plain(now) if later is None else dict(later.before)
    row = MulchEntry(id=entry_id, before=before, **values)
    session.add(row)
    session.flush()
    if later is not None:
        later.before = _plain(_columns(tree, row, store.standing(session, [tree.id])[tree.id]))
    else:
        _go_by(session, tree, row)
    changes.tell(session, Changed(tree.site_id, What.WATER, (tree.id,)))
    return row


def _go_by(session: Session, tree: Tree, row: MulchEntry) -> None:
    for name, value in _columns(tree, row, store.standing(session, [tree.id])[tree.id]).items():
        setattr(tree, name, value)
    if row.kind == "laid":
        tree.mulch_choice = (
            None if tree.mulch_choice is None else tree.mulch_choice | {"underlay": None, "compost_m": 0.0}
        )
    session.flush()


def _columns(tree: Tree, row: MulchEntry, entries: Sequence[MulchEntry]) -> dict[str, Any]:
    """What the tree's row says once this entry is its newest."""
    assert row.material is not None
    until = [entry for entry in entries if (entry.day, entry is row) <= (row.day, True)]
    readings = [Reading(e.day, e.depth_m, e.kind == "laid") for e in until if e.material == row.material]
    first = until[0] if until else row
    typed = first.before
    if typed.get("mulch_material") == row.material and typed.get("mulch_measured_on"):
        measured = date.fromisoformat(typed["mulch_measured_on"])
        readings.insert(0, Reading(measured, typed["mulch_depth_m"], True))
    own = wasting.own_years(material(row.material).wasting_years, readings)
    return {
        "mulch_material": row.material, "mulch_depth_m": row.depth_m, "mulch_outer_radius_m": row.outer_radius_m,
        "mulch_measured_on": row.day, "mulch_clear_gap_m": row.clear_gap_m, "mulch_wasting_years": own,
    }  # fmt: skip


def _plain(values: Mapping[str, Any]) -> dict[str, Any]:
    return {name: value.isoformat() if isinstance(value, date) else value for name, value in values.items()}


def withdraw(session: Session, entry_id: UUID) -> MulchEntry:
    """Take an entry back: the tree goes by what stood before it. The yard is put right by its own moves."""
    row = session.get(MulchEntry, entry_id)
    if row is None:
        raise NotFoundError("there is no such entry", "entry_id")
    if row.withdrawn_at is not None:
        return row
    tree = register.tree(session, row.tree_id)
    changes.hold(session, [tree.site_id])
    standing = store.standing(session, [tree.id])[tree.id]
    at = next(i for i, one in enumerate(standing) if one.id == row.id)
    row.withdrawn_at = clock.now(session)
    if at + 1 < len(standing):
        standing[at + 1].before = dict(row.before)
    else:
        for name, value in row.before.items():
            is_day = name == "mulch_measured_on" and value
            setattr(tree, name, date.fromisoformat(value) if is_day else value)
    changes.tell(session, Changed(tree.site_id, What.WATER, (tree.id,)))
    return row


def set_choice(session: Session, tree_ids: Sequence[UUID], choice: RingChoice | None) -> list[UUID]:
    """Say what is to be laid on these trees next; None = as suggested. All or none."""
    changed = []
    sites: set[UUID] = set()
    for number, tree_id in enumerate(tree_ids):
        tree = register.tree(session, tree_id)
        changes.hold(session, [tree.site_id])
        if choice is not None:
            try:
                lay.check(choice, tree.caliper_m)
            except InputError as e:
                if len(tree_ids) > 1:
                    e.field = f"trees[{number}].{e.field}"
                raise
        tree.mulch_choice = None if choice is None else asdict(choice)
        changed.append(tree.id)
        sites.add(tree.site_id)
    changes.tell(session, *(Changed(site_id, What.PAGE) for site_id in sites))
    return changed
