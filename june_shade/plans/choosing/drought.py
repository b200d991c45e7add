"""The drought page: orders in force, what is wanted, allowed and chosen by week, who goes without."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from typing import Any
from uuid import UUID

import numpy as np

from june_shade.core.choosing import harm
from june_shade.core.choosing.offers import PLAN_DAYS
from june_shade.plans import restrictions
from june_shade.plans.choosing import crews_ahead, seasons
from june_shade.plans.choosing import given as loading
from june_shade.plans.choosing.crews_ahead import WEEK
from june_shade.plans.choosing.visits import days_of
from june_shade.plans.water import SitePlan, remembered
from june_shade.store import choices as store
from june_shade.store import trees as tree_store
from june_shade.store.session import Session
from june_shade.store.site_tables import Site


@dataclass(frozen=True, slots=True)
class Without:
    """A tree that the plan costs something: in a word, its next visit, how many it gets."""

    id: UUID
    tag: str
    place: str
    site: str
    word: str
    next: date | None
    visits: int


def of_all(session: Session) -> dict[str, Any]:
    """What the page shows."""
    sites = tree_store.sites(session)
    told: dict[str, Any] = {
        "orders": restrictions.every(session), "weeks": [], "without": [], "let_go": [], "beside": None,
        "seasons": [],
    }  # fmt: skip
    if not sites:
        return told
    given = loading.of_day(session, sites)
    remembered.make_ready(session, sites)
    plans = [(site, made) for site in sites if (made := remembered.known(session, site)) is not None]
    tags = {row.id: row.tag for _, made in plans for row in made.rows}
    weeks = crews_ahead.weeks(given, store.standing(session), crews_ahead.of_sites(given, sites, session))
    return told | {
        "weeks": weeks,
        "beside": _beside(session, weeks),
        "seasons": seasons.of_stations(session, sites),
        "without": _without(session, plans),
        "let_go": [
            {"id": row.id, "tag": tags[row.tree_id], "by_name": row.by_name, "day": row.day}
            for row in store.let_go(session).values()
            if row.tree_id in tags
        ],
    }


def _beside(session: Session, weeks: Sequence[crews_ahead.Week]) -> dict[str, Any] | None:
    """What plans beside the standing one come to a week, and up to which litres more water helps much.

    weeks: of the standing plan, whose litres and minutes are its own here too.
    """
    found = store.beside(session)
    if found is None:
        return None
    plans, caps = ([_weekly(one) for one in found.told[name]] for name in ("plans", "caps"))
    at = harm.knee(*(np.array([one[name] for one in found.told["caps"]]) for name in ("litres", "harm")))
    if weeks and weeks[0].first_day == found.first_day:
        stands = {
            "litres": _mean(week.chosen_l for week in weeks), "litres_us": _mean(week.chosen_us_l for week in weeks),
            "minutes": _mean(week.chosen_min for week in weeks),
        }  # fmt: skip
        plans[0] |= stands
        caps[-1] |= stands
    return {"made_at": found.made_at, "first_day": found.first_day, "plans": plans, "caps": caps, "knee": at}


def _mean(values: Iterable[float]) -> float:
    return float(np.mean(list(values)))


def _weekly(one: dict[str, Any]) -> dict[str, Any]:
    weeks = PLAN_DAYS / WEEK
    return {
        "name": one["name"], "litres": one["litres"] / weeks,
        "litres_us": one.get("litres_us", one["litres"]) / weeks, "minutes": one["minutes"] / weeks,
        "trees": one["trees"], **one["words"],
    }  # fmt: skip


def _without(session: Session, plans: Sequence[tuple[Site, SitePlan]]) -> list[Without]:
    """Trees that the plan costs something, the worst first."""
    found: list[tuple[tuple[bool, float], Without]] = []
    for site, made in plans:
        chosen = store.of_site(session, site.id)
        for i, row in enumerate(made.rows):
            of = chosen.get(row.id)
            word = None if of is None else harm.told(of.harm, of.dies)
            if of is not None and word is not None:
                days = [day for day in days_of(made, i) if day < PLAN_DAYS]
                day = made.today + timedelta(days=days[0]) if days else None
                tree = Without(row.id, row.tag, row.place, site.name, word, day, len(days))
                found.append(((of.dies, of.weight * of.harm), tree))
    return [tree for _, tree in sorted(found, key=lambda one: one[0], reverse=True)]
