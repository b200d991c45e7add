"""Orders of water authorities, suppliers and clients: entered, changed, taken back; what they say of a watering."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import date, timedelta
from typing import Any
from uuid import UUID, uuid5

from june_shade.core.checks import Fields
from june_shade.core.errors import ConflictError, InputError
from june_shade.core.limits.restriction import rule
from june_shade.formats import restriction_json
from june_shade.plans import changes, clock, register
from june_shade.plans.changes import Changed, What
from june_shade.plans.choosing.given import Order, order_of
from june_shade.plans.choosing.groups import asked_of
from june_shade.store import limits as store
from june_shade.store import trees as tree_store
from june_shade.store.limit_tables import Restriction
from june_shade.store.log_tables import LogEntry
from june_shade.store.session import Session
from june_shade.store.trees import TreeAsked

RULES = ("weekdays", "windows", "methods", "event_l", "exempt")
SAYS = ("rules", "week_l", "closes_yards", "stage")
"""What an order says: where one of these changes, another order begins."""


@dataclass(frozen=True, slots=True)
class Shown:
    """An order with the sites that it holds for, and whether it is in force today."""

    row: Restriction
    sites: tuple[UUID, ...]
    in_force: bool
    today: date


def every(session: Session) -> list[Shown]:
    """All orders that stand: those in force, the strictest first, then those to come, then those that are over."""
    of, today = store.sites_of(session), clock.now(session).date()
    found = [_shown(row, sorted(of[row.id], key=str), today) for row in store.standing(session)]
    return sorted(found, key=lambda one: (not one.in_force, one.row.last_day is not None and one.row.last_day < today))


def _shown(row: Restriction, sites: Sequence[UUID], today: date) -> Shown:
    return Shown(row, tuple(sites), order_of(row).rules.in_force(today), today)


def put(
    session: Session, order_id: UUID, values: dict[str, Any], sites: Sequence[UUID], changes_from: date | None = None
) -> Shown:
    """Enter an order under an id that the client chose, or change it.

    changes_from: the day from which an order says something else than before; until the day before it stays on record
    as it was. None = it was entered wrong, for all its days. Raises InputError naming the field.
    """
    if not sites:
        raise InputError("needs a site that it holds for", "sites")
    rows = [register.site(session, site_id) for site_id in dict.fromkeys(sites)]
    restriction_json.order_of(Fields({name: values["rules"].get(name) for name in RULES}, "rules"))
    known = session.get(Restriction, order_id)
    before = store.sites_of(session)[order_id] if known is not None else set()
    changes_on = None
    if known is not None and changes_from is not None:
        changes_on = _changes_on(known, before, values, set(sites), changes_from)
    values["first_day"] = changes_on or values["first_day"]
    first, last = values["first_day"], values["last_day"]
    if first is not None and last is not None and last < first:
        raise InputError(f"must not be before its first day, {first}", "last_day")
    changes.hold(session, before | {site.id for site in rows})
    if known is not None:
        register.fresh(known, values)
    if known is not None and changes_on is not None:
        _keep_as_it_was(session, known, before, changes_on)
    row = known or Restriction(id=order_id)
    values.pop("version", None)
    register.put_values(row, values)
    session.add(row)
    session.flush()
    store.put_sites(session, order_id, [site.id for site in rows])
    _tell(session, before | {site.id for site in rows})
    session.refresh(row)
    return _shown(row, [site.id for site in rows], clock.now(session).date())


def _changes_on(
    known: Restriction, before: set[UUID], values: dict[str, Any], sites: set[UUID], day: date
) -> date | None:  # fmt: skip
    """The day, where an order says something else from it on, or holds elsewhere, or was sent again after it did; None
    where it says the same. Raises InputError for a day before its first."""
    if known.first_day is not None and day < known.first_day:
        raise InputError(f"must not be before its first day, {known.first_day}", "changes_from")
    says_else = before != sites or any(getattr(known, name) != values[name] for name in SAYS)
    return day if says_else or known.first_day == day else None


def _keep_as_it_was(session: Session, known: Restriction, sites: set[UUID], until: date) -> None:
    """An order that began earlier stays on record as it was, up to the day before."""
    if known.first_day == until:
        return
    last = min(known.last_day or date.max, until - timedelta(days=1))
    kept = {name: getattr(known, name) for name in ("name", *SAYS, "first_day", "words", "link")}
    row_id = uuid5(known.id, str(until))
    row = session.get(Restriction, row_id) or Restriction(id=row_id)
    register.put_values(row, kept | {"last_day": last, "withdrawn_at": None})
    session.add(row)
    session.flush()
    store.put_sites(session, row.id, sorted(sites, key=str))


def withdraw(session: Session, order_id: UUID, *, withdrawn: bool) -> Shown:
    """Take an order back, or have it stand again."""
    row = session.get(Restriction, order_id)
    if row is None:
        raise ConflictError("there is no such order", "order_id")
    sites = store.sites_of(session)[order_id]
    changes.hold(session, sites)
    if (row.withdrawn_at is not None) is not withdrawn:
        row.withdrawn_at = clock.now(session) if withdrawn else None
        session.flush()
        _tell(session, sites)
    session.refresh(row)
    return _shown(row, sorted(sites, key=str), clock.now(session).date())


def _tell(session: Session, sites: set[UUID]) -> None:
    changes.tell(session, *(Changed(site_id, What.PAGE | What.LIMITS) for site_id in sites))


@dataclass(frozen=True, slots=True)
class Against:
    """What a watering went against: the order, and its rules."""

    order: str
    rules: tuple[str, ...]
    words: str


def against(session: Session, entries: Sequence[LogEntry]) -> dict[UUID, tuple[Against, ...]]:
    """What logged waterings went against, by entry; those that kept to all orders are not there."""
    poured = [entry for entry in entries if entry.kind == "water"]
    if not poured:
        return {}
    trees = tree_store.asked(session, {entry.tree_id for entry in poured})
    rows = store.standing_at(session, {tree.site_id for tree in trees.values()})
    orders = {site_id: [order_of(row) for row in here] for site_id, here in rows.items()}
    found = {}
    for entry in poured:
        tree = trees.get(entry.tree_id)
        broken = _broken(orders.get(tree.site_id, ()), tree, entry) if tree is not None else ()
        if broken:
            found[entry.id] = broken
    return found


def _broken(orders: Sequence[Order], tree: TreeAsked, entry: LogEntry) -> tuple[Against, ...]:
    at, minutes = entry.local_time, entry.duration_min or 0.0  # a tap is made when the water is off
    asked = replace(
        asked_of(tree.water_source, tree.house_number, tree.planted_on, tree.method, entry.local_date),
        start_min=max(0.0, 60.0 * at.hour + at.minute - minutes), minutes=minutes, litres=entry.volume_l,
    )  # fmt: skip
    found = []
    for order in orders:
        ruling = rule(order.rules, asked)
        if not ruling.allowed:
            found.append(Against(order.row.name, ruling.broken, order.row.words))
    return tuple(found)
