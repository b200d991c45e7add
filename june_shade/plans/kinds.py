"""Kinds of tree and sizes of stock as the program ships them and as people add to them; the people themselves."""

from collections.abc import Sequence
from typing import Any
from uuid import UUID

from june_shade.core.errors import InputError
from june_shade.core.stock.plants import plant_kinds, stock_sizes
from june_shade.core.weather.series import month_day
from june_shade.plans import changes, register
from june_shade.plans.changes import Changed, What
from june_shade.store import kinds as store
from june_shade.store import trees as tree_store
from june_shade.store.log_tables import Person
from june_shade.store.session import Session
from june_shade.store.tree_tables import Plant, StockSize


def seed_tables(session: Session) -> None:
    """Bring the plants and stock sizes of the core's tables into the database where they are missing."""
    plants = {row.botanical for row in store.plants(session)}
    for kind in plant_kinds():
        if kind.botanical not in plants:
            session.add(
                Plant(
                    botanical=kind.botanical,
                    common=kind.common,
                    water_need=kind.water_need,
                    evergreen=kind.evergreen,
                    drought_tolerance=kind.drought_tolerance,
                    salt_tolerance=kind.salt_tolerance,
                    mature_height_m=kind.mature_height_m,
                    mature_spread_m=kind.mature_spread_m,
                    sun_hours=kind.sun_hours,
                    depletion_fraction=kind.depletion_fraction,
                    fruit=kind.fruit,
                    frost_c=kind.frost_c,
                    pests=list(kind.pests),
                    source=kind.source,
                )
            )
    labels = {row.label for row in store.stock_sizes(session)}
    for size in stock_sizes():
        if size.label not in labels:
            session.add(
                StockSize(
                    kind=size.kind,
                    label=size.label,
                    caliper_m=size.caliper_m,
                    ball_diameter_m=size.ball_diameter_m,
                    ball_height_m=size.ball_height_m,
                    volume_l_low=size.volume_l_low,
                    volume_l_high=size.volume_l_high,
                    source=size.source,
                )
            )


def plants(session: Session) -> Sequence[Plant]:
    """Kinds of tree, by common name."""
    return store.plants(session)


def sizes(session: Session) -> Sequence[StockSize]:
    """Nursery stock by kind and size."""
    return store.stock_sizes(session)


def people(session: Session) -> Sequence[Person]:
    """Everyone who waters, by name."""
    return store.people(session)


def save_plant(session: Session, values: dict[str, Any], plant_id: UUID) -> Plant:
    """Make or change a kind of tree; what was computed of trees of the kind is forgotten."""
    values = dict(values)
    register.free(session, Plant, "botanical", values["botanical"], plant_id)
    for name in ("leaf_out", "leaf_fall"):
        if values[name] is not None:
            month_day(values[name], name)
    if (values["leaf_out"] is None) != (values["leaf_fall"] is None):
        missing = "leaf_fall" if values["leaf_fall"] is None else "leaf_out"
        raise InputError("leaf-out and leaf-fall go together: give both days or neither", missing)
    row = session.get(Plant, plant_id)
    sites: Sequence[UUID] = ()
    if row is not None:
        register.fresh(row, values)
        sites = store.sites_with(session, plant_id)
        changes.hold(session, sites)
    row = row or Plant(id=plant_id)
    values.pop("version", None)
    register.put_values(row, values)
    session.add(row)
    session.flush()
    changes.tell(session, *(Changed(site_id, What.WATER) for site_id in sites))
    return row


def save_person(session: Session, person_id: UUID, name: str) -> Person:
    """Make or rename a person; a name that is there already is that person."""
    store.lock_people(session)
    same = store.person_named(session, name)
    if same is not None:
        return same
    row = session.get(Person, person_id) or Person(id=person_id)
    row.name = name
    session.add(row)
    changes.tell(session, *(Changed(site.id, What.PAGE) for site in tree_store.sites(session)))
    return row
