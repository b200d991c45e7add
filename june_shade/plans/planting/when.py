"""When to plant a batch: its first two summers' water by month, then the coming days, by ground, weather and hands."""

from collections.abc import Sequence
from dataclasses import fields, replace
from datetime import date, timedelta
from hashlib import sha256
from typing import Any
from uuid import UUID

import numpy as np

from june_shade.core.choosing.offers import PLAN_DAYS
from june_shade.core.errors import JuneShadeError
from june_shade.core.limits import hours
from june_shade.core.planting import when as core
from june_shade.core.soil.in_force import InForce
from june_shade.core.water import planner
from june_shade.core.water import trees as tree_model
from june_shade.core.water.course import Course
from june_shade.core.water.stores import Array
from june_shade.core.water.walk import Opening, opening_state
from june_shade.core.weather import series as weather_series
from june_shade.core.weather.series import Known, Series
from june_shade.plans import clock, soil_in_force
from june_shade.plans import weather as weather_plans
from june_shade.plans.choosing import crews_ahead
from june_shade.plans.choosing import given as loading
from june_shade.plans.choosing.given import Given
from june_shade.plans.choosing.groups import asked_of
from june_shade.plans.describe import describe
from june_shade.plans.kept import Kept
from june_shade.plans.planting import batches, planted
from june_shade.plans.water import days, remembered
from june_shade.plans.water import ways as ways_of_water
from june_shade.store import trees as tree_store
from june_shade.store.facts import OF_PLANT, SiteFacts, TreeFacts, site_facts
from june_shade.store.planting_tables import Planting
from june_shade.store.session import Session
from june_shade.store.site_tables import Site

YEARS_BACK = 6
SOIL_DAYS = 60
"""Bare ground is gone through from so long ago, when it is taken to be at field capacity."""

_years: Kept[list[float]] = Kept(64)
"""Litres by month, by all that they rest on: they stand whatever else is done at the site."""


def of_batch(session: Session, planting_id: UUID) -> dict[str, Any]:
    """When to plant a batch that is still to come: its months, its days, the best of each."""
    row = batches.planting(session, planting_id)
    site = row.site
    told: dict[str, Any] = {
        "months": [], "best_month": None, "planned_month": row.planned_on.month, "days": [], "best_day": None,
        "needs_min": core.PLANTING_MIN * batches.left(row), "trees": batches.left(row), "problem": None,
        "saved_share": None, "nearest_day": None,
    }  # fmt: skip
    today = clock.today(session, site.timezone)
    try:
        series = weather_plans.site_series(session, site, today - timedelta(days=366 * YEARS_BACK), today)
    except JuneShadeError as e:
        return told | {"problem": e.message}
    given = loading.of_day(session, tree_store.sites(session), site)
    found = _months(session, row, series, given)
    coming = _days(session, row, series, given)
    best, day, nearest = core.best_month(found), core.best_day(coming), core.nearest_day(coming)
    return told | {
        "months": found, "best_month": None if best is None else best.month,
        "saved_share": core.saved_share(found, row.planned_on.month),
        "days": coming, "best_day": None if day is None else day.day,
        "nearest_day": None if nearest is None else nearest.day,
    }  # fmt: skip


def _facts(row: Planting, choice: Any, day: date) -> TreeFacts:
    """A tree of the batch as plans know it, planted on a day with its ball full."""
    values = planted.first_tree(row, choice, day) | {name: getattr(row.plant, name) for name in OF_PLANT}
    values |= {
        "id": row.id, "side": "", "note_for_crew": "", "opened_on": day, "opening": "felt", "ball_wetness": 1.0,
        "ring_wetness": 1.0, "bud_break_on": day, "worth": 1.0, "layout_id": None, "stop_id": None, "line_id": None,
        "mulch_clear_gap_m": 0.0,
    }  # fmt: skip
    known: dict[str, Any] = {name: values.get(name) for name in TreeFacts.__dataclass_fields__}
    return TreeFacts(**known)


def _months(session: Session, row: Planting, series: Series, given: Given) -> Sequence[core.Month]:
    """The months of a usual year; none where a month was never measured whole."""
    known = core.usual_year(series)
    if known is None:
        return ()
    usual = weather_series.assemble(
        known, Known.nothing(), known.dates[0], known.dates[-1], known.dates[-1] + np.timedelta64(1, "D")
    )
    shut = _shut_weekdays(row.site, row, given)
    choice, figures, _ = batches.figures_of(session, row, row.site, row.plant, 1)
    first = float(figures.first.litres)
    rests_on = (
        _facts(row, choice, core.planting_days()[0]), site_facts(row.site),
        soil_in_force.in_force(session, row.site), sorted(shut),
        *(getattr(usual, each.name).tobytes() for each in fields(usual)),
    )  # fmt: skip
    name = sha256(repr(rests_on).encode()).hexdigest()
    litres = [first + of for of in _years.get(name, "", lambda: _by_month(session, row, usual, shut))]
    return core.months(series, usual, litres, row.kind, evergreen=row.plant.evergreen)


def _shut_weekdays(site: Site, row: Planting, given: Given) -> frozenset[int]:
    """Weekdays on which nobody works there, or orders leave no water as the batch will be poured."""
    orders = [one.rules for one in given.orders[site.id]]
    shut = set(range(7)) - set(site.working_days)
    for day in given.days:
        if orders and hours.closed_by(orders, asked_of(site.water_source, site.house_number, day, row.method, day)):
            shut.add(day.weekday())
    return frozenset(shut) if len(shut) < 7 else frozenset()


def _by_month(session: Session, row: Planting, usual: Series, shut: frozenset[int]) -> list[float]:
    """Litres a tree that is planted in each month takes over its first two summers, less planting day's [L]."""
    planted_on = core.planting_days()
    cut = days.with_days_off(usual, sorted(set(range(7)) - shut), usual.dates[0].item())
    southern = row.site.latitude_deg < 0
    ends = [cut.index(core.season_end(day, southern=southern)) for day in planted_on]
    gross = _poured(session, row, cut.days(0, max(ends) + 1), planted_on, None)
    return [
        float(np.sum(gross[cut.index(day) : end + 1, n]))
        for n, (day, end) in enumerate(zip(planted_on, ends, strict=True))
    ]


def _first_l(session: Session, row: Planting) -> float:
    """The soaking of planting day [L]."""
    return float(batches.figures_of(session, row, row.site, row.plant, 1)[1].first.litres)


def _poured(session: Session, row: Planting, cut: Series, planted_on: Sequence[date], longer: int | None) -> Array:
    """Litres that a tree planted on each of these days is poured, by the balance, array (days, plantings).

    longer: how many days more than are known, each like the last week and dry.
    """
    site: SiteFacts = site_facts(row.site)
    ground: InForce = soil_in_force.in_force(session, row.site)
    choice, _, _ = batches.figures_of(session, row, row.site, row.plant, 1)
    rows = [_facts(row, choice, day) for day in planted_on]
    described = [describe(one, site, ground, one.planted_on) for one in rows]
    trees = tree_model.build([one.spec for one in described])
    era = ways_of_water.eras_of(site, rows, described, {}, cut, ground.soil.intake_mm_h)[-1]
    leaf, mulch = days.leaf_and_mulch(rows, cut, {}, {})
    zero, full = np.zeros_like(leaf), np.ones(len(rows))
    course = Course.of(cut, leaf, mulch, zero, zero, np.zeros(len(rows), bool), 0)
    if longer:
        course = course.lengthened(longer)
        course = replace(course, workable=np.ones_like(course.workable), chosen=np.full(course.leaf.shape, np.nan))
    state = opening_state(trees, era.reach, trees.ball_radius_m.copy(), full, full, np.zeros(len(rows), bool))
    index = np.array([cut.index(day) + 1 for day in planted_on])  # the day itself has its own soaking
    opening = replace(Opening.of_all(state, fresh=True), index=index)
    plan = planner.run(trees, opening, course, (era,))
    return np.nan_to_num(plan.visit_gross_l)


def _days(session: Session, row: Planting, series: Series, given: Given) -> list[core.PlantingDay]:
    """The coming fortnight's days."""
    at = series.index(given.first_day)
    first = max(0, at - SOIL_DAYS)
    soil = soil_in_force.in_force(session, row.site).soil
    ground = core.topsoil(series.eto_mm[first:], (series.rain_mm * series.rain_share)[first:], soil)
    count = min(PLAN_DAYS, len(series) - at)
    wanted = [given.days[n] for n in range(count)]
    gross = _poured(session, row, days.cut(series, at), wanted, core.DAYS + 1)
    left, trees, soaking = _left_min(session, row.site, given), batches.left(row), _first_l(session, row)
    found = []
    for n, day in enumerate(wanted):
        k = at + n
        morning = max(0, k - first - 1)
        found.append(core.day_of(
            day, low_c=float(2 * series.tmean_c[k] - series.tmax_c[k]), high_c=float(series.tmax_c[k]),
            over=float(ground.over[morning]), available=float(ground.available[morning]), left_min=left[n],
            needs_min=core.PLANTING_MIN * trees,
            litres=trees * (soaking + float(np.sum(gross[n : n + core.DAYS + 1, n]))),
        ))  # fmt: skip
    return found


def _left_min(session: Session, site: Site, given: Given) -> list[float | None]:
    """Minutes that the site's crew has left on each day beside what is planned [min], None without a limit."""
    remembered.make_ready(session, given.sites)
    crews = {crew.id: crew for crew in crews_ahead.of_sites(given, given.sites, session)}
    found: list[float | None] = []
    for n, day in enumerate(given.days):
        crew = crews.get(given.crews[given.crew_on(site.id, day)].id)
        most = None if crew is None else crew.limits[n]
        found.append(None if crew is None or most is None else max(0.0, most - crew.minutes[n]))
    return found
