"""The register of trees: made, changed, checked. What is impossible is refused, what is unlikely doubted."""

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from datetime import date
from typing import Any, cast
from uuid import UUID, uuid4, uuid5

from june_shade.core import fields
from june_shade.core.errors import ConflictError, InputError, JuneShadeError, NotFoundError, StaleError
from june_shade.core.mulch.ring import CLEAR_GAP_M
from june_shade.core.soil import feel as felt
from june_shade.core.stock import series_of_trees as tree_rows
from june_shade.core.stock.plants import size_doubts
from june_shade.core.water import trees as tree_model
from june_shade.plans import changes, clock, soil_in_force, ways
from june_shade.plans.changes import Changed, What
from june_shade.plans.describe import describe
from june_shade.plans.ways import way_of
from june_shade.store import kinds as kind_store
from june_shade.store import many_trees
from june_shade.store import trees as store
from june_shade.store.base import Base
from june_shade.store.facts import OF_PLANT
from june_shade.store.session import Session
from june_shade.store.site_tables import Line, Site, Stop
from june_shade.store.tree_tables import Plant, Tree

FIRST_PLANTING_YEAR = 1950


def site(session: Session, site_id: UUID) -> Site:
    """A site, or NotFoundError."""
    found = session.get(Site, site_id)
    if found is None:
        raise NotFoundError("there is no such site", "site_id")
    return found


def tree(session: Session, tree_id: UUID, *, ended: bool = False) -> Tree:
    """A tree, or NotFoundError. ended: one that died or went, too."""
    found = store.tree(session, tree_id, ended=ended)
    if found is None:
        raise NotFoundError("there is no such tree", "tree_id")
    return found


def sites(session: Session) -> Sequence[Site]:
    """All sites by name."""
    return store.sites(session)


def free(session: Session, kind: type[Base], field: str, value: str, own_id: UUID | None) -> None:
    """Refuse a name that another row of this kind has already."""
    if store.is_taken(session, kind, field, value, own_id):
        raise ConflictError(f"{value!r} is taken already", field)


@dataclass(frozen=True, slots=True)
class SavedTree:
    """A stored tree and what is unlikely about it, as codes."""

    tree: Tree
    doubts: tuple[str, ...]


def save_tree(session: Session, values: dict[str, Any], tree_id: UUID) -> SavedTree:
    """Make or change the tree with this id, which the client chose.

    values: the tree's columns, and `stop` and `line` (names, made where they are new), `feel` (ball, ring) for a tree
    that was already in the ground, `version` as it was read. A new tree's record opens on its planting day if that
    is today, else today. Raises StaleError where someone else changed it since.
    """
    saving = Saving(session, [(tree_id, values)])
    row = saving.save(tree_id, values)
    saving.done()
    session.refresh(row)
    return SavedTree(row, doubts(row))


def save_trees(session: Session, trees: Sequence[tuple[UUID, dict[str, Any]]]) -> list[Tree]:
    """Make or change many trees, all or none; an error's field names which: `trees[3].tag`."""
    saving = Saving(session, trees)
    saved = []
    for number, (tree_id, values) in enumerate(trees):
        try:
            saved.append(saving.save(tree_id, values))
        except JuneShadeError as e:
            e.field = f"trees[{number}].{e.field}"
            raise
    saving.done()
    if len(saved) <= FEW:
        return saved
    written = store.trees_by_id(session, [tree_id for tree_id, _ in trees])
    return [written[tree_id] for tree_id, _ in trees]


def save_row(
    session: Session, row_id: UUID, first: dict[str, Any], count: int, spacing_m: float | None, bearing_deg: float
) -> list[Tree]:
    """Make a row of trees from its first: tags, places and positions count on. Sending it twice makes one row.

    row_id: chosen by the client; each tree's id follows from it. first: as for `save_tree`.
    """
    trees = []
    for i, tag in enumerate(tree_rows.tags(first["tag"], count)):
        own = {"tag": tag, "place": tree_rows.place(first["place"], i + 1), "row_place": first["row_place"] + i}
        if first["latitude_deg"] is not None and first["longitude_deg"] is not None and spacing_m is not None:
            start = (first["latitude_deg"], first["longitude_deg"])
            own["latitude_deg"], own["longitude_deg"] = tree_rows.position(*start, spacing_m, bearing_deg, i)
        trees.append((uuid5(row_id, str(i)), first | own))
    return save_trees(session, trees)


def change_trees(session: Session, tree_ids: Sequence[UUID], changes: dict[str, Any]) -> list[Tree]:
    """Change the same fields on many trees, all or none."""
    known = store.trees_by_id(session, tree_ids)
    trees = []
    for number, tree_id in enumerate(tree_ids):
        if tree_id not in known:
            raise NotFoundError("there is no such tree", f"trees[{number}]")
        row = known[tree_id]
        values = {name: getattr(row, name) for name in TYPED}
        values |= {"stop": row.stop.name if row.stop else None, "line": row.line.name if row.line else None}
        values |= changes
        if found := fields.odds(values):
            raise InputError(f"{row.tag}: {found[1]}", found[0])
        trees.append((tree_id, values))
    return save_trees(session, trees)


TYPED = tuple(name for name in fields.columns() if name not in ("stop_id", "line_id"))
"""Columns of a tree that people type; stops and lines are told by their names."""
RESTS_ON = (*fields.columns(resting="past"), "opened_on", "opening", "ball_wetness", "ring_wetness")
"""Columns of a tree that all of its computed past rests on; how it is watered holds from a day on."""


OF_LIMITS = fields.columns(resting="limits")
"""Columns of a tree that only the plan under limits rests on."""
FEW = 20
"""From more than so many trees on, what changed is written in a few statements."""


@dataclass(frozen=True, slots=True)
class Sketch:
    """A tree as it would be stored, without a session behind it.

    values: as `save_tree` takes them. columns: all of a new tree, what is another of one that is there, stop and line
    left out. version: of the tree as it was read, None = a new one. past: all of its computed past rests on what
    changes. new_way: how it is watered changes, from today on; former: how it was until then, as it is kept. singly:
    it has to be saved by itself, since its tag changes. on_drip: layouts rest on it; limited: the plan under
    limits does.
    """

    tree_id: UUID
    values: dict[str, Any]
    columns: dict[str, Any]
    version: int | None
    past: bool
    new_way: date | None
    former: dict[str, Any] | None
    singly: bool
    on_drip: bool
    limited: bool


class Saving:
    """What saving trees needs to know, read once for all of them: sites, plants, tags, stops and lines.

    trial: nothing is written and nobody waits; what would be refused is, and `sketches` has what would be stored.
    known: the trees that are there already, where the caller has read them; sites: beside those of the trees.
    """

    def __init__(
        self, session: Session, trees: Sequence[tuple[UUID, dict[str, Any]]], *, trial: bool = False,
        known: Mapping[UUID, Tree] | None = None, sites: Iterable[UUID] = (),
    ) -> None:  # fmt: skip
        self._session, self._trial = session, trial
        self._saved: list[Tree] = []
        self.sketches: list[Sketch] = []
        site_ids = {values["site_id"] for _, values in trees} | set(sites)
        if not trial:
            changes.hold(session, site_ids)
        self._sites = {site_id: site(session, site_id) for site_id in site_ids}
        self._known = (
            dict(known) if known is not None else store.trees_by_id(session, [tree_id for tree_id, _ in trees])
        )
        self._grounds = {where.id: soil_in_force.in_force(session, where) for where in self._sites.values()}
        self._plants = {plant.id: plant for plant in kind_store.plants(session)}
        self._tags = store.tags(session, site_ids)
        self._named: dict[tuple[type, UUID, str], UUID] = {}
        kinds: tuple[type[Stop] | type[Line], ...] = (Stop, Line)
        for kind in kinds:
            for named in store.named(session, kind, site_ids):
                self._named[kind, named.site_id, named.name] = named.id
        self._closed = store.closed_lines(session, site_ids)
        zones = {where.timezone for where in self._sites.values()}
        self._today = {zone: clock.today(session, zone) for zone in zones}
        self._changed: list[Changed] = []
        self._laid: dict[UUID, list[UUID]] = {site_id: [] for site_id in site_ids}

    def save(self, tree_id: UUID, values: dict[str, Any]) -> Tree:
        """One tree; see `save_tree`. What is refused leaves nothing behind."""
        try:
            return self._save(tree_id, values)
        except JuneShadeError:
            if tree_id in self._known:
                self._session.expire(self._known[tree_id])
            raise

    def done(self) -> None:
        """Write what was saved and forget what was computed of it."""
        if self._trial:
            return
        if len(self._saved) > FEW:
            many_trees.write_changed(self._session, self._saved)
        told = [*self._changed, *(Changed(site_id, What.PAGE) for site_id in self._sites)]
        told += [Changed(site_id, What.DRIP, tuple(laid)) for site_id, laid in self._laid.items() if laid]
        changes.tell(self._session, *told)

    def place_id(self, kind: type[Stop] | type[Line], site_id: UUID, name: str | None) -> UUID | None:
        """Id of a stop or line of a site by its name; made where it is new."""
        return self._id_of(kind, site_id, name)

    def tag_of(self, site_id: UUID, tag: str) -> UUID | None:
        """The tree of a site that has this tag."""
        return self._tags.get((site_id, tag))

    def _save(self, tree_id: UUID, given: dict[str, Any]) -> Tree:
        values = dict(given)
        where = self._sites[values["site_id"]]
        today = self._today[where.timezone]
        known = self._known.get(tree_id)
        begun = {"id": tree_id, "mulch_clear_gap_m": CLEAR_GAP_M}
        row: Tree = known or (cast(Tree, many_trees.Draft(**begun)) if self._trial else Tree(**begun))
        if known is not None and known.site_id != where.id:
            raise InputError("a tree stays in its site: add it there anew", "site_id")
        _check_dates(values, today)
        plant = self._plants.get(values["plant_id"])
        if plant is None:
            raise InputError("there is no such kind of tree", "plant_id")
        if self._tags.get((where.id, values["tag"]), tree_id) != tree_id:
            raise ConflictError(f"{values['tag']!r} is taken already", "tag")
        names = {name: values.pop(name, None) for name in ("stop", "line")}
        feel, since = values.pop("feel", None), values.pop("way_since", None) or ways.FROM_TODAY
        was = way_of(known) if known is not None else {}
        worth = tuple(getattr(known, name) for name in OF_LIMITS) if known is not None else ()
        stood = {name: getattr(known, name) for name in RESTS_ON} if known is not None else {}
        if known is not None:
            said = {"stop": known.stop.name if known.stop else None, "line": known.line.name if known.line else None}
            fresh(known, values, {name: (names[name], said[name]) for name in names})
            self._tags.pop((where.id, known.tag), None)
        values.pop("version", None)
        values["stop_id"] = self._id_of(Stop, where.id, names["stop"])
        values["line_id"] = self._id_of(Line, where.id, names["line"])
        renamed = known is not None and known.tag != values["tag"]
        put_values(row, values)
        _open(row, today, feel, new=known is None)
        changed_past = any(getattr(row, name) != value for name, value in stood.items())
        new_way = bool(was) and way_of(row) != was
        limited = known is not None and worth != tuple(getattr(row, name) for name in OF_LIMITS)
        if known is None or changed_past or new_way:
            tree_model.check(describe(_View(row, plant), where, self._grounds[where.id], today).spec)
        self._known[tree_id] = row
        self._tags[where.id, row.tag] = tree_id
        on_drip = row.layout_id is not None or (row.line_id is not None and row.method == "emitters")
        if self._trial:
            self.sketches.append(Sketch(
                tree_id, given, dict(vars(row)) if known is None else many_trees.changed_columns(row),
                None if known is None else known.version, changed_past, today if new_way else None,
                ways.former(self._session, row, was, today) if new_way else None,
                renamed or (new_way and since != ways.FROM_TODAY), on_drip, limited,
            ))  # fmt: skip
            return row
        self._session.add(row)
        self._saved.append(row)
        if known is not None and renamed:
            self._session.flush()  # its old tag is free for the next one
        if changed_past or known is None:
            self._changed.append(Changed(where.id, What.WATER, (row.id,)))
        if limited:
            self._changed.append(Changed(where.id, What.LIMITS))
        if new_way:
            self._session.flush()
            day = ways.changed(self._session, row, was, today, since)
            self._changed.append(Changed(where.id, What.WATER, (row.id,), day))
        if on_drip:
            self._laid[where.id].append(row.id)
        return row

    def _id_of(self, kind: type[Stop] | type[Line], site_id: UUID, name: str | None) -> UUID | None:
        """Id of a stop or line of a site by its name; made where it is new."""
        if not name:
            return None
        key = (kind, site_id, name)
        if key not in self._named:
            made = kind(id=uuid4(), site_id=site_id, name=name)
            if isinstance(made, Stop):
                made.position = sum(k[0] is Stop and k[1] == site_id for k in self._named)
            self._named[key] = made.id
            if not self._trial:
                self._session.add(made)
                self._session.flush()
        elif self._named[key] in self._closed and not self._trial:
            store.open_line(self._session, self._named[key])  # it is in use again
            self._closed.discard(self._named[key])
        return self._named[key]


class _View:
    """A tree with the columns of its plant, as the plan's rows have them."""

    def __init__(self, row: Tree, plant: Plant) -> None:
        self._row, self._plant = row, plant

    def __getattr__(self, name: str) -> Any:
        if name.startswith("drip_"):
            return None
        return getattr(self._plant if name in OF_PLANT else self._row, name)


def doubts(row: Tree) -> tuple[str, ...]:
    """What is possible but unlikely about a stored tree."""
    return size_doubts(row.kind, row.caliper_m, row.ball_diameter_m, row.ball_height_m)


def _check_dates(values: dict[str, Any], today: date) -> None:
    planted = values["planted_on"]
    if planted.year < FIRST_PLANTING_YEAR:
        raise InputError(f"{planted} is before {FIRST_PLANTING_YEAR}: this is for newly planted trees", "planted_on")
    if planted > today:
        raise InputError(f"{planted} is still to come (today is {today}): add the tree when it stands", "planted_on")
    for name in ("mulch_measured_on", "bud_break_on"):
        if values.get(name) and values[name] > today:
            raise InputError(f"{values[name]} is still to come (today is {today})", name)


def _open(row: Tree, today: date, feel: dict[str, str] | None, *, new: bool) -> None:
    """Set how the record opens, for a new tree or where the planting day or a reading changed."""
    if new or row.opened_on < row.planted_on:
        row.opened_on = row.planted_on if row.planted_on >= today else today
    if feel and not new:
        row.opened_on = today  # a reading taken now says nothing of an earlier day
    if feel:
        row.opening = "reading"
        row.ball_wetness, row.ring_wetness = felt.wetness(feel["ball"]), felt.wetness(feel["ring"])
    elif new:
        row.opening = "full" if row.opened_on == row.planted_on else "guessed"


def fresh(row: Any, values: dict[str, Any], named: dict[str, tuple[Any, Any]] | None = None) -> None:
    """Refuse a write that rests on an older version and would change what someone else stored.

    named: values that are stored under a name of their own, (sent, stored). The same write sent again is no conflict.
    """
    version = values.pop("version", None)
    if version is None or version == row.version:
        return
    pairs = {name: (value, getattr(row, name)) for name, value in values.items()} | (named or {})
    different = [(name, sent, stored) for name, (sent, stored) in pairs.items() if sent != stored]
    if different:
        raise StaleError(different, row.version)


def put_values(row: Any, values: dict[str, Any]) -> None:
    for name, value in values.items():
        if getattr(row, name) != value:
            setattr(row, name, value)
