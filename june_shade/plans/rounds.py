"""The round of a day: each site's stops in order, what each tree wants, what was done, where the tank is filled."""

import math
from collections.abc import Callable, Iterable
from dataclasses import dataclass
from datetime import date, timedelta
from functools import cache
from typing import Any
from uuid import UUID

import numpy as np

from june_shade.core.choosing import hands, harm
from june_shade.core.errors import JuneShadeError
from june_shade.core.looking import queue
from june_shade.core.water import load
from june_shade.plans import care, clock, forecast, log
from june_shade.plans.choosing import crews_ahead, groups
from june_shade.plans.choosing import given as loading
from june_shade.plans.choosing import page as fortnight
from june_shade.plans.choosing.given import Given
from june_shade.plans.looking import asked
from june_shade.plans.planting import page as planting_page
from june_shade.plans.water import SitePlan, remembered, watering
from june_shade.plans.water.section import section, section_ahead
from june_shade.store import choices
from june_shade.store import trees as store
from june_shade.store.log_tables import LogEntry
from june_shade.store.session import Session, SessionMaker, reading
from june_shade.store.site_tables import Site

TAKEN_ALONG_DAYS = 7
"""So many days to come a phone without signal can be worked by (common practice: a week is planned at a time)."""


def round_of_today(session: Session) -> dict[str, Any]:
    """Today's round: every site's stops with the trees that want water today or had it."""
    given = given_today(session)
    sites = [round_of_site(session, site, given) for site in store.sites(session)]
    return head(session) | {"sites": sites, "fills": fills(one for site in sites for one in site["pours"])}


def head(session: Session) -> dict[str, Any]:
    """The day, and how many trees there are."""
    sites = store.sites(session)
    return {
        "day": clock.today(session, sites[0].timezone) if sites else clock.now(session).date(),
        "trees": sum(store.tree_counts(session).values()),
        "look_minutes": queue.MINUTES_A_DAY,
    }


def work(crews: Iterable[dict[str, Any] | None]) -> dict[str, Any] | None:
    """What is left to do at all sites and the hours that there are, None where no crew that has any is to go anywhere.

    crews: of each site as `crew_on` tells it.
    """
    found = hands.together(
        (one["id"], one["minutes"], one["has_min"]) for one in crews if one is not None and one["minutes"] > 0
    )
    return None if found.has_min is None else {"minutes": found.minutes, "has_min": found.has_min, "over": found.over}


def make_ready(sessions: SessionMaker) -> None:
    """Compute the states that today's plans rest on, where they are not there, and keep them."""
    with reading(sessions) as session:
        remembered.make_ready(session, store.sites(session))


def stamps(session: Session) -> list[tuple[Site, tuple[int, date]]]:
    """Every site with what its round rests on: its revision and its day. The same stamp is the same round."""
    return [(site, (site.revision, clock.today(session, site.timezone))) for site in store.sites(session)]


def _felt(entries: list[LogEntry]) -> bool:
    return any(entry.kind == "reading" for entry in entries)


def _litres(entries: list[LogEntry]) -> float:
    return sum(entry.volume_l or 0.0 for entry in entries)


def _cost(site: Site, entries: list[LogEntry]) -> float | None:
    """What the day's logged water and time come to, at the site's prices; None where it has none."""
    hours = sum(entry.duration_min or 0.0 for entry in entries) / 60
    return load.cost(site.water_price_per_m3, site.hour_price, _litres(entries), hours)


GivenToday = Callable[[], Given]


def given_today(session: Session, also: Site | None = None) -> GivenToday:
    """What the day is worked under, read once where any site's part of a round asks for it. also: a site that may be
    closed."""
    return cache(lambda: loading.of_day(session, store.sites(session), also))


def round_of_site(
    session: Session, site: Site, given: GivenToday, ahead_days: int = 0
) -> dict[str, Any]:  # fmt: skip
    """A site's part of today's round, or of a day to come as it is planned now: without a log, states unknown. given:
    as of `given_today`."""
    day = clock.today(session, site.timezone) + timedelta(days=ahead_days)
    blank = {
        "id": site.id, "name": site.name, "zone": site.timezone, "cautions": (), "problem": None, "filled": False,
        "forecast": "fresh", "guessed": 0, "ready": 0, "high_c": None, "day_off": False, "tank_l": site.tank_l,
        "crew": None, "waiting": [], "cost": None, "stops": [],
        "look_at": [], "dry_by_balance": (), "pours": [], "care": care.due_by(session, site, ahead_days),
        "plantings": planting_page.due_by(session, site, day),
    }  # fmt: skip
    try:
        made = remembered.of_site(session, site)
    except JuneShadeError as e:
        return blank | {"problem": e.message}
    if made is None or made.course.today + ahead_days >= len(made.series):
        return blank
    at = made.course.today + ahead_days
    names: dict[UUID | None, str] = {stop.id: stop.name for stop in store.stops(session, [site.id])}
    entries = {} if ahead_days else _logged(session, site, made)
    stops = _stops(session, made, at, entries)
    order = fortnight.driving_order(session, made.today, ahead_days)
    pours = _pours(stops, order, made, given(), ahead_days)
    found = {
        "cautions": watering.day_cautions(
            made, care.tender_c(session, site, day), traffic=site.traffic, ahead_days=ahead_days
        ),
        "filled": made.filled,
        "forecast": forecast.standing(session, site.station, made.series, made.today),
        "guessed": sum(row.opening == "guessed" for row in made.rows),
        "high_c": float(made.series.tmax_c[at]),
        "day_off": day.weekday() not in site.working_days,
        "crew": crew_on(session, site, made, given(), ahead_days),
        "pours": pours,
        "stops": [
            {"name": names.get(key), "trees": trees, "position": order.get(key or site.id)}
            for key, trees in stops.items()
        ],
    }
    return blank | found | ({} if ahead_days else _only_today(session, site, made, entries, names))


def _logged(session: Session, site: Site, made: SitePlan) -> dict[UUID, list[LogEntry]]:
    entries: dict[UUID, list[LogEntry]] = {}
    for entry in log.on_day(session, site.id, made.today):
        entries.setdefault(entry.tree_id, []).append(entry)
    return entries


def _only_today(
    session: Session, site: Site, made: SitePlan, entries: dict[UUID, list[LogEntry]], names: dict[UUID | None, str]
) -> dict[str, Any]:  # fmt: skip
    """What is told of no day but the one that it is."""
    at = made.course.today
    ready = (made.plan.ready == at) & (made.plan.visit != at) & (made.plan.due != at) & ~made.course.poured_today
    return {
        "ready": int(np.sum(ready)),
        "waiting": waiting(session, made, names),
        "look_at": asked.of_site(session, made, {key for key, logged in entries.items() if _felt(logged)}),
        "cost": _cost(site, [entry for logged in entries.values() for entry in logged]),
        "dry_by_balance": _dry_by_balance(made),
    }


def _stops(
    session: Session, made: SitePlan, at: int, entries: dict[UUID, list[LogEntry]]
) -> dict[UUID | None, list[dict[str, Any]]]:  # fmt: skip
    """The trees that are watered on a day of the course, or were, by stop."""
    is_today = at == made.course.today
    stops: dict[UUID | None, list[dict[str, Any]]] = {}
    for i, row in enumerate(made.rows):
        due = bool(made.plan.visit[i] == at if is_today else made.plan.visit_gross_l[at, i] > 0)
        logged = entries.get(row.id, [])
        if not due and not logged:
            continue
        coming = watering.next_of(made, i, at) if due else None
        skipped = any(entry.kind == "skip" for entry in logged)
        stops.setdefault(row.stop_id, []).append(
            {
                "id": row.id, "tag": row.tag, "place": row.place, "side": row.side,
                "latitude_deg": row.latitude_deg, "longitude_deg": row.longitude_deg,
                "note_for_crew": row.note_for_crew, "common": row.common, "method": row.method,
                "emitter_count": row.emitter_count,
                "emitter_flow_l_per_h": row.emitter_flow_l_per_h, "next": coming,
                "section": section(made, i) if is_today else section_ahead(made, i),
                "entries": logged, "skipped": skipped,
                "pours_l": _litres(logged) if coming is None or skipped else coming.largest_l,
                "line": watering.line_of(session, made, i, at) if due else None,
                "without_ks": float(made.plan.today_ks[i]) if is_today else None,
                "without_dryness": float(made.plan.today_dryness[i]) if is_today else None,
            }
        )  # fmt: skip
    return stops


@dataclass(frozen=True, slots=True)
class Pours:
    """A tree that is poured from a crew's tank today: the crew and what its tank holds [L], where the stop comes on its
    way, None = not known; litres of the visit [L]."""

    crew_id: UUID
    holds_l: float | None
    position: int | None
    tree_id: UUID
    litres: float


def _pours(
    stops: dict[UUID | None, list[dict[str, Any]]], order: dict[UUID, int], made: SitePlan, given: Given,
    ahead_days: int,
) -> list[Pours]:  # fmt: skip
    crew = given.crews[given.crew_on(made.site.id, given.days[ahead_days])]
    found = [
        Pours(crew.id, crew.tank_l, order.get(key or made.site.id), tree["id"], tree.pop("pours_l"))
        for key, trees in stops.items() for tree in trees
    ]  # fmt: skip
    pairs = zip(made.rows, groups.from_tank(made), strict=True)
    poured = {row.id for row, is_poured in pairs if is_poured}
    return [one for one in found if one.tree_id in poured]


def fills(pours: Iterable[Pours]) -> list[UUID]:
    """The trees before which a tank is filled: each crew's runs down on its way from stop to stop, whatever the site.

    pours: of all sites in their order; stops that are on no way come last.
    """
    tanks: dict[UUID, load.Tank] = {}
    rows = sorted(pours, key=lambda one: math.inf if one.position is None else one.position)
    return [one.tree_id for one in rows if tanks.setdefault(one.crew_id, load.Tank(one.holds_l)).pour(one.litres)]


def crew_on(session: Session, site: Site, made: SitePlan, given: Given, ahead_days: int = 0) -> dict[str, Any]:
    """Who waters a site today or on a day to come: minutes that are left to do there, and those of the whole day, None
    without a limit."""
    crew = given.crew_on(site.id, given.days[ahead_days])
    minutes = float(crews_ahead.crew_minutes(session, given, [(site, made)])[crew, ahead_days])
    has = given.has[crew][ahead_days].minutes
    return {
        "id": given.crews[crew].id, "name": given.crews[crew].name, "of_site": given.crews[crew].of_site,
        "minutes": minutes, "has_min": None if np.isinf(has) else has,
    }  # fmt: skip


def waiting(session: Session, made: SitePlan, names: dict[UUID | None, str]) -> list[dict[str, Any]]:
    """Trees that want water today and were chosen for another day: when they get it, and what waiting costs, the worst
    first."""
    rank = {None: 0} | {word: n + 1 for n, word in enumerate(harm.WORDS)}
    chosen = choices.of_site(session, made.site.id)
    found = []
    for i, row in enumerate(made.rows):
        if fortnight.waits(made, i):
            found.append({
                "id": row.id, "tag": row.tag, "place": row.place, "stop": names.get(row.stop_id),
                "day": made.day(int(made.plan.visit[i])), "word": fortnight.waits_word(chosen.get(row.id)),
                "dryness": float(made.plan.now_dryness[i]),
            })  # fmt: skip
    return sorted(found, key=lambda one: (-rank[one["word"]], -one["dryness"]))


def _dry_by_balance(made: SitePlan) -> tuple[str, ...]:
    """Tags of trees that the balance would water today and whose routine does not."""
    if not made.followed:
        return ()
    following = np.concatenate([one.trees for one in made.followed])
    waits = made.plan.balance_asks & (made.plan.visit != made.course.today) & ~made.course.poured_today
    return tuple(made.rows[i].tag for i in np.sort(following) if waits[i])
