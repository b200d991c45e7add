"""The register as a file: out whole, in with a look at what would be new, changed, the same and refused."""

import json
from collections.abc import Callable, Mapping, Sequence
from dataclasses import asdict, dataclass, replace
from datetime import date
from hashlib import sha256
from typing import Any
from uuid import UUID, uuid5

from june_shade.core import fields
from june_shade.core.errors import ConflictError, InputError, JuneShadeError
from june_shade.formats import trees_csv
from june_shade.formats.weather_csv import Issue
from june_shade.plans import changes, clock, many, register
from june_shade.plans.changes import Changed, What
from june_shade.store import kinds as kind_store
from june_shade.store import many_trees
from june_shade.store import planting as planting_store
from june_shade.store import trees as store
from june_shade.store.session import Session
from june_shade.store.site_tables import Site
from june_shade.store.tree_tables import Plant, Tree


@dataclass(frozen=True, slots=True)
class Differing:
    """A tree that the file changes: its line, tag, and the fields that differ."""

    line: int
    tag: str
    fields: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class Outcome:
    """What a file does: tags of new trees, changes, how many stay the same, lines refused, headers not used."""

    new: tuple[str, ...]
    changed: tuple[Differing, ...]
    same: int
    refused: tuple[Issue, ...]
    ignored: tuple[str, ...]


def export(session: Session, site_id: UUID | None = None) -> str:
    """The register, or one site's trees, as CSV."""
    return trees_csv.write(_fields(tree) for tree in store.all_trees(session, site_id))


def template(units: str) -> str:
    """An empty file to begin with; units: us or metric."""
    return trees_csv.template(units)


def _fields(tree: Tree) -> dict[str, Any]:
    """A stored tree by the file's fields."""
    named = {
        "site": tree.site.name,
        "species": tree.plant.botanical,
        "stop": tree.stop.name if tree.stop else None,
        "line": tree.line.name if tree.line else None,
    }
    return {name: named[name] if name in named else getattr(tree, name) for name in trees_csv.FIELDS}


Told = Callable[[int, int], None]
"""Is told how many lines are done, of how many; what it raises ends the reading."""
TELL_EVERY, SHOWN = 250, 100


@dataclass(frozen=True, slots=True)
class Prepared:
    """A file as it would be stored. lines: of each tree; undoing: of each, what tells later whether it is still as
    the file had it, and what the file replaced."""

    outcome: Outcome
    sketches: tuple[register.Sketch, ...]
    lines: Mapping[UUID, int]
    undoing: Mapping[UUID, Any]


def prepare(session: Session, data: bytes, import_id: UUID, told: Told = lambda done, total: None) -> Prepared:
    """Work out what a file would do; nothing is stored and nobody waits for it. New trees' ids follow from
    import_id and their lines."""
    with session.no_autoflush:
        try:
            return _prepare(session, data, import_id, told)
        finally:
            session.expunge_all()


def refusal(outcome: Outcome) -> str:
    """Why nothing of a file can be stored, "" where something can."""
    return "" if outcome.new or outcome.changed or outcome.same else "not one line of the file could be used"


def write(session: Session, prepared: Prepared) -> tuple[Outcome, dict[str, Any]]:
    """Store the good lines of a file: what came of them, and what undoes it. Raises InputError where there is none."""
    found = prepared.outcome
    if why := refusal(found):
        raise InputError(why, "file")
    refused = many.write(session, prepared.sketches)
    stored = [sketch for sketch in prepared.sketches if sketch.tree_id not in refused]
    late = [
        Issue(prepared.lines[tree_id], e.field.removeprefix("tree."), e.message) for tree_id, e in refused.items()
    ]  # fmt: skip
    new = tuple(sketch.tree_id for sketch in stored if sketch.version is None)
    changed = [sketch.tree_id for sketch in stored if sketch.version is not None]
    kept = {prepared.lines[tree_id] for tree_id in changed}
    outcome = replace(
        found,
        new=tuple(sketch.values["tag"] for sketch in stored if sketch.version is None),
        changed=tuple(one for one in found.changed if one.line in kept),
        refused=tuple(sorted((*found.refused, *late), key=lambda issue: issue.line)),
    )
    before = {
        "new": {str(tree_id): prepared.undoing[tree_id] for tree_id in new},
        "changed": {str(tree_id): prepared.undoing[tree_id] for tree_id in changed},
    }
    return outcome, before


@dataclass(frozen=True, slots=True)
class Undoing:
    """What takes a file back. new: trees it made, with their versions as they were looked at; sites: of those."""

    sketches: tuple[register.Sketch, ...]
    new: Mapping[UUID, int]
    sites: Mapping[UUID, UUID]


def prepare_undo(session: Session, before: Mapping[str, Any]) -> Undoing:
    """Work out how to take back what a file did, whole or not at all; nothing is stored and nobody waits for it.

    Raises ConflictError naming trees that were worked on, or changed, since.
    """
    new = {UUID(tree_id): digest for tree_id, digest in before.get("new", {}).items()}
    changed = {UUID(tree_id): kept for tree_id, kept in before.get("changed", {}).items()}
    rows = {row.id: row for row in store.with_names(session, [*new, *changed])}
    now = {tree_id: _stored(row) for tree_id, row in rows.items()}
    since = {tree_id for tree_id in (*new, *changed) if tree_id not in rows}
    since |= {tree_id for tree_id, digest in new.items() if tree_id in now and _digest(now[tree_id]) != digest}
    since |= {
        tree_id for tree_id, kept in changed.items()
        if tree_id in now and any(_as_json(now[tree_id])[name] != value for name, value in kept["after"].items())
    }  # fmt: skip
    since |= planting_store.worked_on(session, new, ())
    if since:
        tags = sorted(rows[tree_id].tag for tree_id in since if tree_id in rows)
        raise _worked_on(tags, len(since))
    again = [(tree_id, now[tree_id] | _from_json(kept["before"])) for tree_id, kept in changed.items()]
    versions = {tree_id: rows[tree_id].version for tree_id in new}
    sites = {tree_id: rows[tree_id].site_id for tree_id in new}
    with session.no_autoflush:
        try:
            saving = register.Saving(session, again, trial=True, known=rows)
            for tree_id, values in again:
                saving.save(tree_id, values)
            return Undoing(tuple(saving.sketches), versions, sites)
        finally:
            session.expunge_all()


def undo(session: Session, undoing: Undoing) -> None:
    """Take back what a file did. Raises ConflictError where a tree of it was worked on meanwhile."""
    sketched = {sketch.tree_id: sketch.version for sketch in undoing.sketches}
    sites = {*undoing.sites.values(), *(sketch.values["site_id"] for sketch in undoing.sketches)}
    changes.hold(session, sites)
    seen = {**undoing.new, **sketched}
    now = store.versions(session, seen)
    late = {tree_id for tree_id, version in seen.items() if now.get(tree_id) != version}
    late |= planting_store.worked_on(session, undoing.new, ())
    if late:
        raise _worked_on([], len(late))
    for e in many.write(session, undoing.sketches).values():
        raise e
    gone = clock.now(session)
    many_trees.write_columns(session, [(tree_id, {"withdrawn_at": gone}) for tree_id in undoing.new])
    changes.tell(session, *(Changed(site_id, What.WATER, (tree_id,)) for tree_id, site_id in undoing.sites.items()))


def _worked_on(tags: Sequence[str], count: int) -> ConflictError:
    named = ", ".join(tags[:MOST_TAGS])
    others = count - len(tags[:MOST_TAGS])
    if others:
        named += f"{' and ' if named else ''}{others} {'more' if named else 'trees'}"
    return ConflictError(f"there is more in the record since of {named}: undo that first", "import_id")


MOST_TAGS = 10


def _digest(values: Mapping[str, Any]) -> str:
    """What tells whether a tree is still as it was brought in."""
    return sha256(json.dumps(_as_json(values), sort_keys=True).encode()).hexdigest()[:24]


def _stored(tree: Tree) -> dict[str, Any]:
    """A known tree's values as a line of a file gives them."""
    kept = {name: value for name, value in _fields(tree).items() if name not in ("id", "site", "species")}
    return kept | {"site_id": tree.site_id, "plant_id": tree.plant_id}


def _as_json(values: Mapping[str, Any]) -> dict[str, Any]:
    plain = {}
    for name, value in values.items():
        plain[name] = str(value) if isinstance(value, date | UUID) else value
    return plain


def _from_json(values: Mapping[str, Any]) -> dict[str, Any]:
    found: dict[str, Any] = {}
    for name, value in values.items():
        field = fields.BY_NAME.get(name)
        if value is not None and field is not None and field.kind == "day":
            found[name] = date.fromisoformat(value)
        else:
            found[name] = UUID(value) if value is not None and name.endswith("_id") else value
    return found


def told(outcome: Outcome) -> dict[str, Any]:
    """What a file does, as pages show it: plain words and numbers."""
    return {
        "new": len(outcome.new), "changed": len(outcome.changed), "same": outcome.same,
        "refused_count": len(outcome.refused), "new_tags": list(outcome.new[:SHOWN]), "ignored": list(outcome.ignored),
        "changes": [asdict(one) | {"fields": list(one.fields)} for one in outcome.changed[:SHOWN]],
        "refused": [asdict(issue) for issue in outcome.refused[:SHOWN]],
    }  # fmt: skip


def _prepare(session: Session, data: bytes, import_id: UUID, told: Told) -> Prepared:
    reading = trees_csv.read(data)
    total = 2 * len(reading.rows)  # each line is understood, then tried
    told(0, total)
    look = _Names(session, reading.rows)
    refused = list(reading.refused)
    same = 0
    wanted: list[tuple[trees_csv.FileTree, UUID, dict[str, Any], tuple[str, ...] | None]] = []
    before: dict[UUID, dict[str, Any]] = {}
    for number, row in enumerate(reading.rows):
        if number % TELL_EVERY == 0:
            told(number, total)
        try:
            known = look.match(row)
            values = look.resolve(row, known)
        except JuneShadeError as e:
            refused.append(Issue(row.line, e.field, e.message))
            continue
        if known is None:
            wanted.append((row, row.values.get("id") or uuid5(import_id, str(row.line)), values, None))
            continue
        stored = _stored(known)
        parts = tuple(name for name, value in values.items() if value != stored[name])
        if parts:
            wanted.append((row, known.id, values, parts))
            before[known.id] = {name: stored[name] for name in parts}
        else:
            same += 1
    saving = register.Saving(
        session, [(tree_id, values) for _, tree_id, values, _ in wanted], trial=True, known=look.known
    )  # fmt: skip
    new: list[str] = []
    changed: list[Differing] = []
    for number, (row, tree_id, values, different) in enumerate(wanted):
        if number % TELL_EVERY == 0:
            told(total - len(wanted) + number, total)
        try:
            tag = saving.save(tree_id, values).tag
        except JuneShadeError as e:
            refused.append(Issue(row.line, e.field.removeprefix("tree."), e.message))
            continue
        if different is None:
            new.append(tag)
        else:
            changed.append(Differing(row.line, tag, different))
    told(total, total)
    refused.sort(key=lambda issue: issue.line)
    outcome = Outcome(tuple(new), tuple(changed), same, tuple(refused), reading.ignored)
    lines = {tree_id: row.line for row, tree_id, _, _ in wanted}
    undoing: dict[UUID, Any] = {}
    for sketch in saving.sketches:
        was = before.get(sketch.tree_id)
        if was is None:
            undoing[sketch.tree_id] = _digest(sketch.values)
        else:
            now = {name: sketch.values[name] for name in was}
            undoing[sketch.tree_id] = {"before": _as_json(was), "after": _as_json(now)}
    return Prepared(outcome, tuple(saving.sketches), lines, undoing)


class _Names:
    """Turns a file's words into the program's rows: sites, kinds of tree, trees by id or by site and tag."""

    def __init__(self, session: Session, rows: Sequence[trees_csv.FileTree]) -> None:
        self._sites = {site.name.casefold(): site for site in store.sites(session)}
        self._plants: dict[str, Plant] = {}
        for plant in kind_store.plants(session):
            self._plants.setdefault(plant.common.casefold(), plant)
            self._plants[plant.botanical.casefold()] = plant
        given = [row.values["id"] for row in rows if row.values.get("id")]
        self.known = {tree.id: tree for tree in store.with_names(session, given)}
        self._by_tag: dict[tuple[UUID, str], UUID] = {}
        if len(self.known) < len(given):
            self._by_tag = store.tags(session, [site.id for site in self._sites.values()])
            tags = {row.values.get("tag") for row in rows if row.values.get("id") not in self.known}
            named = [tree_id for (_, tag), tree_id in self._by_tag.items() if tag in tags]
            self.known |= {tree.id: tree for tree in store.with_names(session, named)}

    def match(self, row: trees_csv.FileTree) -> Tree | None:
        """The tree a line is about: by id, else, where the id is of elsewhere, by site and tag. None = a new one."""
        given = row.values.get("id")
        if given is None:
            return None
        if given in self.known:
            return self.known[given]
        site = self._sites.get(str(row.values.get("site", "")).casefold())
        found = self._by_tag.get((site.id, row.values.get("tag", ""))) if site else None
        return self.known.get(found) if found else None

    def resolve(self, row: trees_csv.FileTree, known: Tree | None) -> dict[str, Any]:
        """All of a tree's values after this line. Raises InputError naming the column."""
        given = {name: value for name, value in row.values.items() if name != "id"}
        values = _stored(known) if known else dict(fields.EMPTY)
        if "site" in given:
            values["site_id"] = self._site(given.pop("site")).id
        if "species" in given:
            values["plant_id"] = self._plant(given.pop("species")).id
        for name, value in given.items():
            if value is None and name not in fields.EMPTY:
                raise InputError("is empty", name)
            choices = fields.BY_NAME[name].choices
            if choices and value is not None and value not in choices:
                raise InputError(f"must be one of {', '.join(choices)}, not {value!r}", name)
            values[name] = fields.EMPTY[name] if value is None else value
        for field in fields.TREE:
            if field.empty is fields.GIVEN and (field.column or field.name) not in values:
                raise InputError("is needed for a new tree", field.name)
        if found := fields.odds(values):
            raise InputError(found[1], found[0])
        return values

    def _site(self, name: str | None) -> Site:
        found = self._sites.get((name or "").casefold())
        if found is None:
            raise InputError(f"there is no site {name!r}", "site")
        return found

    def _plant(self, name: str | None) -> Plant:
        found = self._plants.get((name or "").casefold())
        if found is None:
            raise InputError(f"there is no kind of tree {name!r}", "species")
        return found
