"""The register as a file: out whole, in with a look at what would be new, changed, the same and refused."""

from dataclasses import dataclass
from typing import Any
from uuid import UUID, uuid4

from june_shade.core import fields
from june_shade.core.errors import InputError, JuneShadeError
from june_shade.formats import trees_csv
from june_shade.formats.weather_csv import Issue
from june_shade.plans import register
from june_shade.store import kinds as kind_store
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


def preview(session: Session, data: bytes) -> Outcome:
    """What a file would do; nothing is stored and nobody waits for it."""
    with session.no_autoflush:
        try:
            return _bring_in(session, data, trial=True)
        finally:
            session.expunge_all()


def accept(session: Session, data: bytes) -> Outcome:
    """Store the good lines of a file. Raises InputError where there is none."""
    found = _bring_in(session, data)
    if not found.new and not found.changed and not found.same:
        raise InputError("not one line of the file could be used", "file")
    return found


def _bring_in(session: Session, data: bytes, *, trial: bool = False) -> Outcome:
    reading = trees_csv.read(data)
    look = _Names(session)
    refused = list(reading.refused)
    new: list[str] = []
    changed: list[Differing] = []
    same = 0
    wanted: list[tuple[trees_csv.FileTree, UUID, dict[str, Any], tuple[str, ...] | None]] = []
    for row in reading.rows:
        try:
            known = look.match(row)
            values = look.resolve(row, known)
        except JuneShadeError as e:
            refused.append(Issue(row.line, e.field, e.message))
            continue
        if known is None:
            wanted.append((row, row.values.get("id") or uuid4(), values, None))
            continue
        stored = look.stored(known)
        parts = tuple(name for name, value in values.items() if value != stored[name])
        if parts:
            wanted.append((row, known.id, values, parts))
        else:
            same += 1
    saving = register.Saving(session, [(tree_id, values) for _, tree_id, values, _ in wanted], trial=trial)
    for row, tree_id, values, different in wanted:
        try:
            tag = saving.save(tree_id, values).tag
        except JuneShadeError as e:
            refused.append(Issue(row.line, e.field.removeprefix("tree."), e.message))
            continue
        if different is None:
            new.append(tag)
        else:
            changed.append(Differing(row.line, tag, different))
    saving.done()
    refused.sort(key=lambda issue: issue.line)
    return Outcome(tuple(new), tuple(changed), same, tuple(refused), reading.ignored)


class _Names:
    """Turns a file's words into the program's rows: sites, kinds of tree, trees by id or by site and tag."""

    def __init__(self, session: Session) -> None:
        self._sites = {site.name.casefold(): site for site in store.sites(session)}
        self._plants: dict[str, Plant] = {}
        for plant in kind_store.plants(session):
            self._plants.setdefault(plant.common.casefold(), plant)
            self._plants[plant.botanical.casefold()] = plant
        trees = store.all_trees(session, None)
        self._by_id = {tree.id: tree for tree in trees}
        self._by_tag = {(tree.site_id, tree.tag): tree for tree in trees}

    def match(self, row: trees_csv.FileTree) -> Tree | None:
        """The tree a line is about: by id, else, where the id is of elsewhere, by site and tag. None = a new one."""
        given = row.values.get("id")
        if given is None:
            return None
        if given in self._by_id:
            return self._by_id[given]
        site = self._sites.get(str(row.values.get("site", "")).casefold())
        return self._by_tag.get((site.id, row.values.get("tag", ""))) if site else None

    def stored(self, tree: Tree) -> dict[str, Any]:
        """A known tree's values as `resolve` gives them."""
        kept = {name: value for name, value in _fields(tree).items() if name not in ("id", "site", "species")}
        return kept | {"site_id": tree.site_id, "plant_id": tree.plant_id}

    def resolve(self, row: trees_csv.FileTree, known: Tree | None) -> dict[str, Any]:
        """All of a tree's values after this line. Raises InputError naming the column."""
        given = {name: value for name, value in row.values.items() if name != "id"}
        values = self.stored(known) if known else dict(fields.EMPTY)
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
