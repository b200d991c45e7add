"""Crews' hours and litres of the fortnight, by day and by week, against what orders and hours allow."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from typing import Any
from uuid import UUID

import numpy as np

from june_shade.core.choosing import hands, outcomes
from june_shade.core.choosing.offers import PLAN_DAYS
from june_shade.core.choosing.patterns import Array
from june_shade.core.choosing.shortage import short_of
from june_shade.plans.choosing import groups
from june_shade.plans.choosing.given import Given
from june_shade.plans.choosing.visits import visits_of
from june_shade.plans.water import SitePlan, remembered
from june_shade.store import choices as store
from june_shade.store.choice_tables import ChosenPlan
from june_shade.store.session import Session
from june_shade.store.site_tables import Site

WEEK = 7


@dataclass(frozen=True, slots=True)
class CrewAhead:
    """A crew's fortnight: minutes of work and those it has, None without a limit; litres in both systems, by day; its
    tank [L]."""

    id: UUID
    name: str
    of_site: bool
    minutes: tuple[float, ...]
    limits: tuple[float | None, ...]
    litres: tuple[float, ...]
    litres_us: tuple[float, ...]
    tank_l: float | None


@dataclass(frozen=True, slots=True)
class Week:
    """A week of the plan: litres [L] and minutes of work [min] that trees want, that are allowed, None = no limit, and
    that were chosen, in steps of both systems; how much less than wanted that is; which of these is short."""

    first_day: date
    wanted_l: float
    wanted_min: float
    allowed_l: float | None
    allowed_min: float | None
    chosen_l: float
    chosen_us_l: float
    chosen_min: float
    short_l: float
    short_us_l: float
    short_of: tuple[str, ...]


def of_sites(given: Given, sites: Sequence[Site], session: Session) -> list[CrewAhead]:
    """Hours and litres by crew and day, as the standing plan has them."""
    plans = [(site, made) for site in given.sites if (made := remembered.known(session, site)) is not None]
    minutes = crew_minutes(session, given, plans)
    ids = {site.id for site in sites}
    litres, litres_us = (np.zeros((len(given.crews), PLAN_DAYS)) for _ in range(2))
    for site, made in plans:
        for i in range(len(made.rows)):
            for visit in visits_of(made, i):
                crew = given.crew_on(site.id, given.days[visit.day])
                litres[crew, visit.day] += visit.litres
                litres_us[crew, visit.day] += visit.litres_us
    shown = {given.crew_on(site_id, day) for site_id in ids for day in given.days}
    return [
        CrewAhead(
            crew.id, crew.name, crew.of_site, tuple(minutes[n].tolist()),
            tuple(None if np.isinf(has.minutes) else has.minutes for has in given.has[n]),
            tuple(litres[n].tolist()), tuple(litres_us[n].tolist()), crew.tank_l,
        )
        for n, crew in enumerate(given.crews) if n in shown
    ]  # fmt: skip


def crew_minutes(session: Session, given: Given, plans: Sequence[tuple[Site, SitePlan]]) -> Array:
    """Minutes of crews' days by the visits that are planned, those of today that are left, array (crews, days).

    A stop's way takes as much longer than is usual as the day's own way does, where that was worked out.
    """
    stops = given.stops_ahead
    stop_minutes = stops.minutes.copy()
    at_crew = {str(crew.id): n for n, crew in enumerate(given.crews)}
    plan = store.standing(session)
    if plan is not None and plan.first_day == given.first_day:
        for one in plan.told.get("routes", ()):
            on = stops.crew_of[:, one["day"]] == at_crew.get(one["crew"], -1)
            stop_minutes[on, one["day"]] *= one["longer"]
    of = [(groups.minutes_of(made, site, given), made) for site, made in plans]
    if not of:
        return np.zeros((len(given.crews), PLAN_DAYS))
    stop_of = np.concatenate([
        stops.of_trees(made.site.id, made.rows, np.zeros(len(made.rows), bool)) for _, made in of
    ])  # fmt: skip
    minutes = np.concatenate([own for own, _ in of], axis=1)
    return outcomes.crew_minutes(stops.crew_of, stop_minutes, stop_of, minutes, len(given.crews))


def first_day(crews: Sequence[CrewAhead]) -> dict[str, Any]:
    """What crews pour today and the hours of it."""
    work = hands.together((crew.id, crew.minutes[0], crew.limits[0]) for crew in crews)
    return {
        "litres": sum(crew.litres[0] for crew in crews), "litres_us": sum(crew.litres_us[0] for crew in crews),
        "minutes": work.minutes, "has_min": work.has_min,
    }  # fmt: skip


def weeks(given: Given, plan: ChosenPlan | None, crews: Sequence[CrewAhead]) -> list[Week]:
    """The plan's two weeks; none where nothing was chosen for today. crews: all of them."""
    if plan is None or "weeks" not in plan.told or plan.first_day != given.first_day:
        return []
    found = []
    for n, week in enumerate(plan.told["weeks"]):
        days = slice(n * WEEK, (n + 1) * WEEK)
        limits = [crew.limits[days] for crew in crews]
        free = any(minutes is None for own in limits for minutes in own)
        allowed_min = None if free else sum(minutes or 0.0 for own in limits for minutes in own)
        litres, litres_us, minutes = (
            sum(sum(getattr(crew, name)[days]) for crew in crews) for name in ("litres", "litres_us", "minutes")
        )
        found.append(Week(
            given.first_day + timedelta(days=n * WEEK), week["wanted_l"], week["wanted_min"], week["allowed_l"],
            allowed_min, litres, litres_us, minutes, max(0.0, week["wanted_l"] - litres),
            max(0.0, week["wanted_l"] - litres_us),
            short_of(
                wanted_l=week["wanted_l"], allowed_l=week["allowed_l"], chosen_l=litres,
                wanted_min=week["wanted_min"], allowed_min=allowed_min, chosen_min=minutes,
            ),
        ))  # fmt: skip
    return found
