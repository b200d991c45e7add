"""The fortnight as the lead sees it: every tree by day, what was chosen, what a move would do."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, datetime
from typing import Any
from uuid import UUID

import numpy as np

from june_shade.core.choosing import harm, outcomes
from june_shade.core.choosing.choose import sureness
from june_shade.core.choosing.fortnight import OUTLOOK_FROM, SLACK_RANGE
from june_shade.core.choosing.offers import PLAN_DAYS
from june_shade.core.choosing.outcomes import OfGroup
from june_shade.core.choosing.patterns import Array
from june_shade.core.errors import InputError, JuneShadeError
from june_shade.core.water import delivery
from june_shade.plans import log, register
from june_shade.plans.choosing import crews_ahead, groups, work
from june_shade.plans.choosing import given as loading
from june_shade.plans.choosing.given import Given
from june_shade.plans.choosing.in_force import since
from june_shade.plans.choosing.visits import Visit, days_of, visits_of
from june_shade.plans.water import SitePlan, remembered
from june_shade.plans.water.section import section
from june_shade.store import choices as store
from june_shade.store import trees as tree_store
from june_shade.store.choice_tables import ChosenTree
from june_shade.store.log_tables import LogEntry
from june_shade.store.session import Session
from june_shade.store.site_tables import Site


@dataclass(frozen=True, slots=True)
class Wished:
    """What somebody wants of a day: pin or forbid, who and when."""

    day: int
    wish: str
    by: str | None
    said_at: datetime


@dataclass(frozen=True, slots=True)
class TreeAhead:
    """A tree's fortnight. now, dryness: this morning and at each day's end, limit: of dryness; 0..1. worst_ks: least
    uptake on any day 0..1. due: the day on which the balance would go, None in no sight. poured_l: logged today [L];
    skipped today. word, none_word: harm of the plan and of no visit at all; waits: what waiting costs where it does."""

    id: UUID
    tag: str
    place: str
    common: str
    method: str
    line: int | None
    limit: float
    now: float
    dryness: tuple[float, ...]
    worst_ks: float
    due: int | None
    visits: tuple[Visit, ...]
    wishes: tuple[Wished, ...]
    poured_l: float
    skipped: bool
    word: str | None
    none_word: str | None
    waits: bool
    waits_word: str | None
    section: Any


def standing(session: Session) -> dict[str, Any]:
    """What is told of the standing plan: when it was made, how sure, whether something changed since."""
    sites = tree_store.sites(session)
    plan = store.standing(session)
    told = plan.told if plan is not None else {}
    gap = told.get("gap")
    return {
        "plan_id": plan.id if plan is not None else None, "made_at": plan.made_at if plan is not None else None,
        "stale": work.is_stale(session, sites), "gap": gap, "sure": None if gap is None else sureness(gap),
        "holds": told.get("holds"),
        "seconds": told.get("seconds"), "pins_missed": told.get("pins_missed", 0), "outlook_from": OUTLOOK_FROM,
        "slack": store.slack(session), "slack_most": SLACK_RANGE[1],
    }  # fmt: skip


def driving_order(session: Session, today: date, ahead_days: int = 0) -> dict[UUID, int]:
    """Where each stop comes on its crew's way today or on a day to come, by its id or, for trees without one, the
    site's."""
    plan = store.standing(session)
    if plan is None or plan.first_day != today:
        return {}
    return {
        UUID(key): n
        for one in plan.told.get("routes", ())
        if one["day"] == ahead_days
        for n, key in enumerate(one["stops"])
    }


def of_all(session: Session, site_id: UUID | None = None) -> dict[str, Any]:
    """The fortnight of all sites, or of one."""
    every = tree_store.sites(session)
    one = None if site_id is None else register.site(session, site_id)
    sites = every if one is None else [one]
    if not sites:
        return standing(session) | {"days": [], "sites": [], "crews": [], "orders": [], "today": None, "weeks": []}
    given = loading.of_day(session, every, one)
    remembered.make_ready(session, given.sites)
    told, crews = [_of_site(session, site, given) for site in sites], crews_ahead.of_sites(given, sites, session)
    return standing(session) | {
        "days": list(given.days),
        "sites": [one for one in told if one["stops"]],
        "crews": crews,
        "today": crews_ahead.first_day(crews),
        "weeks": crews_ahead.weeks(given, store.standing(session), crews) if one is None else [],
        "orders": orders_ahead(given, sites),
    }


def orders_ahead(given: Given, sites: Sequence[Site]) -> list[dict[str, Any]]:
    """Orders that hold for any of these sites within the fortnight, the strictest first."""
    found = {one.row.id: one for site in sites for one in given.orders[site.id]}
    return [
        {
            "id": one.row.id, "name": one.row.name, "stage": one.row.stage,
            "begins": None if one.rules.in_force(given.first_day) else one.row.first_day,
        }
        for one in sorted(found.values(), key=lambda one: -one.row.stage)
    ]  # fmt: skip


def _of_site(session: Session, site: Site, given: Given) -> dict[str, Any]:
    blank = {
        "id": site.id, "name": site.name, "crew": given.crews[given.crew_of_site[site.id]].name, "rain_mm": [],
        "closed": _closed(given, site), "stops": [], "problem": None,
    }  # fmt: skip
    try:
        made = remembered.of_site(session, site)
    except JuneShadeError as e:
        return blank | {"problem": e.message}
    if made is None:
        return blank
    chosen = store.of_site(session, site.id)
    at = made.course.today
    entries: dict[UUID, list[LogEntry]] = {}
    for entry in log.on_day(session, site.id, made.today):
        entries.setdefault(entry.tree_id, []).append(entry)
    people = store.people(session)
    minutes = groups.minutes_of(made, site, given)
    stops: dict[UUID | None, list[TreeAhead]] = {}
    for i, row in enumerate(made.rows):
        stops.setdefault(row.stop_id, []).append(
            _tree(made, i, chosen.get(row.id), given, entries.get(row.id, []), people, minutes[:, i])
        )
    names: dict[UUID | None, str] = {stop.id: stop.name for stop in given.stops}
    rain = made.series.rain_mm[at:] * made.series.rain_share[at:]
    return blank | {
        "rain_mm": [float(mm) for mm in rain[:PLAN_DAYS]],
        "stops": [{"id": key, "name": names.get(key), "trees": trees} for key, trees in stops.items()],
    }


def _closed(given: Given, site: Site) -> list[bool]:
    """Days on which the site's crew does not work."""
    return [given.has[given.crew_on(site.id, day)][d].minutes <= 0 for d, day in enumerate(given.days)]


def _tree(
    made: SitePlan,
    i: int,
    chosen: ChosenTree | None,
    given: Given,
    entries: list[LogEntry],
    people: dict[UUID, str],
    minutes: Array,
) -> TreeAhead:
    plan, at, row = made.plan, made.course.today, made.rows[i]
    line = made.pouring.line
    poured = sum(entry.volume_l or 0.0 for entry in entries)
    wishes = tuple(
        Wished((day - given.first_day).days, wish.wish, people.get(wish.person_id), wish.said_at)  # type: ignore[arg-type]
        for (tree_id, day), wish in sorted(given.wishes[made.site.id].items(), key=lambda one: one[0][1])
        if tree_id == row.id
    )
    due = int(plan.due[i]) - at
    last = min(len(made.series), at + PLAN_DAYS)
    return TreeAhead(
        id=row.id, tag=row.tag, place=row.place, common=row.common, method=made.deliveries[i].method,
        line=int(line[i]) if line is not None and line[i] >= 0 else None,
        limit=float(made.trees.dryness_limit[i]), now=float(plan.now_dryness[i]),
        dryness=tuple(float(v) for v in np.nan_to_num(plan.dryness[at:last, i])),
        worst_ks=float(np.nanmin(plan.ks[at:last, i])), due=due if due >= 0 else None,
        visits=visits_of(made, i, chosen, minutes), wishes=wishes, poured_l=poured,
        skipped=any(entry.kind == "skip" for entry in entries),
        word=None if chosen is None else harm.told(chosen.harm, chosen.dies),
        none_word=None if chosen is None else harm.told(chosen.none_harm, chosen.none_dies),
        waits=waits(made, i), waits_word=waits_word(chosen), section=section(made, i),
    )  # fmt: skip


def waits(made: SitePlan, i: int) -> bool:
    """Whether tree i wants water today and was chosen for another day."""
    at = made.course.today
    return bool(made.plan.due[i] == at and made.plan.visit[i] != at and not made.course.poured_today[i])


def waits_word(chosen: ChosenTree | None) -> str | None:
    """What waiting costs a tree, in a word; None where it costs nothing worth telling."""
    if chosen is None or chosen.waits_cost is None:
        return None
    return harm.told(chosen.waits_cost, chosen.waits_dies)


def tried(session: Session, tree_id: UUID, days: Sequence[int]) -> dict[str, Any]:
    """What it would come to if a tree, with all on its line, were visited on these days and no others."""
    if any(not 0 <= day < PLAN_DAYS for day in days) or len(set(days)) != len(days):
        raise InputError(f"must be different days from 0 to {PLAN_DAYS - 1}", "days")
    tree = register.tree(session, tree_id)
    made = remembered.around(session, tree.site, [tree.id])
    given = loading.now(session, tree_store.sites(session), tree.site)
    chosen = store.of_trees(session, [row.id for row in made.rows])
    group = groups.group_of(made, tree.site, given, wanted_of(made, chosen))
    i = made.index_of(tree.id)
    now, then = outcomes.moved(group, given.hands, i, [days_of(made, i), sorted(days)])
    on = next(unit for unit in group.units if i in unit)
    own = int(np.flatnonzero(on == i)[0])
    forbidden = [day for day in days if not group.allowed[day, i]]
    return {
        "tree_id": tree.id, "trees": [made.rows[k].tag for k in on], "dryness": _line(then, own),
        "worst_ks": float(np.min(then.walked.ks[:PLAN_DAYS, own])),
        "visits": _visits(made, then, on, own), "word": _word(then, own), "word_before": _word(now, own),
        "litres": float(then.walked.litres[:PLAN_DAYS].sum() - now.walked.litres[:PLAN_DAYS].sum()),
        "minutes": float(then.minutes.sum() - now.minutes.sum()), "forbidden": forbidden,
    }  # fmt: skip


def wanted_of(made: SitePlan, chosen: dict[UUID, ChosenTree]) -> Array:
    """The plain plan's visits, as they were when a plan was chosen; where none was they are the plan's own."""
    at = made.course.today
    found = np.zeros((PLAN_DAYS, len(made.rows)), bool)
    own = np.nan_to_num(made.plan.visit_gross_l[at : at + PLAN_DAYS]) > 0
    found[: len(own)] = own
    for i, row in enumerate(made.rows):
        of = chosen.get(row.id)
        if of is not None:
            past = -since(of, made.series.dates[at])
            if 0 <= past < PLAN_DAYS:
                found[: PLAN_DAYS - past, i] = of.wanted[past:]
    return found


def _line(of: OfGroup, own: int) -> list[float]:
    return [float(v) for v in of.walked.dryness[:PLAN_DAYS, own]]


def _word(of: OfGroup, own: int) -> str | None:
    return harm.told(float(of.outcome.harm[own]), bool(of.outcome.dies[own]))


def _visits(made: SitePlan, of: OfGroup, on: Array, own: int) -> list[Visit]:
    """Visits as they would be poured, in steps of both systems; a line's as it runs."""
    i, found = int(on[own]), []
    for day in range(PLAN_DAYS):
        litres = float(of.walked.litres[day, own])
        if litres <= 0:
            continue
        us = litres
        if not made.on_a_line(i):
            us = delivery.pourable_l(litres, made.deliveries[i].step_l or delivery.US_STEP_L)
        found.append(Visit(day, litres, us, float(of.minutes[day, own]), float(of.share[day, own])))
    return found
