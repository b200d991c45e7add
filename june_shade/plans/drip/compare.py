"""Layouts of one tree side by side, each watered by the balance for two years and moved as the tree grows.

The weather is the last measured year's, twice. Emitters get the pressure that they want: what a line does to them is
told by its own page.
"""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import date, timedelta
from uuid import UUID

import numpy as np

from june_shade.core.drip import auto, growth, parts, years
from june_shade.core.drip.choice import LayoutChoice
from june_shade.core.drip.drawing import Drawing
from june_shade.core.drip.growth import YEAR_DAYS, Stage
from june_shade.core.drip.layout import checked, draw
from june_shade.core.drip.parts import Part
from june_shade.core.drip.scene import Obstacle, Scene
from june_shade.core.drip.verdict import Achievement, failed, feed, judged
from june_shade.core.drip.years import TwoYears
from june_shade.core.errors import NoWeatherError
from june_shade.core.looking import rehearse
from june_shade.core.looking.rehearse import Seasons
from june_shade.core.water import load, reach
from june_shade.core.water.course import Course
from june_shade.core.water.planner import Plan
from june_shade.core.water.refill import OUTGROWN_REACH
from june_shade.core.water.stores import some
from june_shade.core.water.together import Run
from june_shade.core.water.walk import Era, Opening
from june_shade.core.weather.series import MEASURED, Series
from june_shade.plans import describe, register, soil_in_force
from june_shade.plans.drip import lines, scenes
from june_shade.plans.drip.scenes import Outlook
from june_shade.plans.water import SitePlan, days
from june_shade.plans.water import ways as ways_of_water
from june_shade.store import drip as store
from june_shade.store.facts import TreeFacts
from june_shade.store.session import Session
from june_shade.store.tree_tables import Tree

SHOWN_EVERY_DAYS = 10


@dataclass(frozen=True, slots=True)
class Compared:
    """A layout over two years. which: lies, typed or pattern. drawing, widths_m: as it is laid now; achievements: of
    now; reach: share of the roots' uptake that its water reaches, 0..1, every ten days from today; move_on: when it is
    outgrown first, None = not in these years; parts: to begin with; later_parts: what its moves take."""

    which: str
    choice: LayoutChoice
    drawing: Drawing
    widths_m: tuple[float, ...]
    achievements: tuple[Achievement, ...]
    reach: tuple[float, ...]
    move_on: date | None
    parts: tuple[Part, ...]
    later_parts: tuple[Part, ...]
    over: TwoYears
    best: bool


@dataclass(frozen=True, slots=True)
class Comparison:
    """Layouts of one tree side by side. half_m: half the side of the square that they are drawn in [m]; scene: as the
    tree stands now."""

    today: date
    half_m: float
    scene: Scene
    layouts: tuple[Compared, ...]


@dataclass(frozen=True, slots=True)
class _Laid:
    which: str
    stages: list[Stage]
    widths_m: tuple[float, ...]
    achievements: tuple[Achievement, ...]
    eras: list[tuple[int, ways_of_water.Way, TreeFacts]]


def side_by_side(
    session: Session, tree_id: UUID, typed: LayoutChoice | None, obstacles: tuple[Obstacle, ...] | None
) -> Comparison:
    """What lies at a tree, what is typed, and every pattern at its best.

    Raises NoWeatherError where no year of weather is known, InputError for what can't be laid.
    """
    tree = register.tree(session, tree_id)
    made = lines.plan_of(session, tree)
    line = None if tree.line_id is None or tree.method != "emitters" else store.line(session, tree.line_id)
    lateral, along = lines.beside(session, tree, line) if line else (None, None)
    view = lines.outlook_alone(
        session, tree, made=made, feed_at_m=abs(lateral.offset_m) if lateral else None, row=along, obstacles=obstacles
    )
    asked = _asked(session, tree, view, typed, 180.0 if lateral is None else lateral.feed_bearing_deg)
    ahead = two_years(made.known, made.today, made.site.working_days)
    laid = [_laid(session, tree, made, view, which, choice) for which, choice in asked]
    plan = _run(made, made.index_of(tree.id), laid, ahead)
    found = _told(laid, plan, ahead)
    best = years.chosen([one.over for one in found], [len(failed(one.achievements)) for one in found])
    half = max(view.now.roots_year_m, *(float(np.max(np.abs(one.drawing.places()))) for one in found)) + 0.25
    marked = tuple(replace(one, best=number == best) for number, one in enumerate(found))
    return Comparison(made.today, half, view.now, marked)


def two_years(known: Series, today: date, working_days: Sequence[int]) -> Series:
    """The last measured year's days twice over, from today on. Raises NoWeatherError where there is no such year."""
    at = known.index(today)
    if at < YEAR_DAYS:
        raise NoWeatherError("a year of weather is needed to look two years ahead", "tree_id")
    year = known.days(at - YEAR_DAYS, at)
    twice = {name: np.concatenate([getattr(year, name)] * years.YEARS) for name in Series.__dataclass_fields__}
    dates = np.datetime64(today, "D") + np.arange(years.YEARS * YEAR_DAYS)
    whole = Series(**twice | {"dates": dates, "basis": np.full(len(dates), MEASURED)})
    return days.with_days_off(whole, working_days, today)


def _asked(
    session: Session, tree: Tree, view: Outlook, typed: LayoutChoice | None, feed_bearing_deg: float
) -> list[tuple[str, LayoutChoice]]:  # fmt: skip
    """What is compared, each once: what lies there, what is typed, each pattern at its best."""
    layout = store.layouts_in_force(session, [tree.id]).get(tree.id)
    found = [("lies", lines.choice_of(layout))] if layout is not None else []
    if typed is not None:
        checked(typed, view.now)
        found.append(("typed", typed))
    base = LayoutChoice("ring", feed_bearing_deg=feed_bearing_deg)
    found += [("pattern", one.choice) for one in auto.for_tree(view.now, base, roots_ahead_m=view.ahead_m)]
    if not found:
        found = [("pattern", scenes.implied(tree, view.now.ball_radius_m))]
    once: dict[LayoutChoice, str] = {}
    for which, choice in found:
        once.setdefault(choice, which)
    return [(which, choice) for choice, which in once.items()]


def _laid(
    session: Session, tree: Tree, made: SitePlan, view: Outlook, which: str, choice: LayoutChoice
) -> _Laid:  # fmt: skip
    """A layout with its steps of growth, and how it waters from each of them on."""
    row, soil = made.rows[made.index_of(tree.id)], soil_in_force.in_force(session, tree.site)
    drawing = draw(choice, view.now)
    now = judged(choice, drawing, view.now, feed(drawing, choice), roots_ahead_m=view.ahead_m)
    stages = growth.steps(choice, view.scenes, view.ahead_m, now.days_to_move)
    eras = []
    for stage in stages:
        scene, fed = view.scenes[stage.year], feed(stage.drawing, stage.choice)
        figures = lines.figures_of(
            tree, stage.choice, stage.drawing, fed, judged(stage.choice, stage.drawing, scene, fed), made.today
        )
        as_laid = replace(
            row, method="emitters", line_id=None, drip_ball_share=figures["ball_share"],
            drip_profile_m2=figures["profile_m2"], drip_emitters=figures["emitters"],
            drip_flow_l_per_h=figures["flow_l_per_h"], drip_wetted_m2=figures["wetted_m2"],
            emitter_count=len(figures["emitters"]),
            emitter_flow_l_per_h=figures["flow_l_per_h"] / len(figures["emitters"]),
        )  # fmt: skip
        found = describe.describe(as_laid, made.site, soil, made.today)
        eras.append((stage.after_days, ways_of_water.Way(found.how, found.landing), as_laid))
    return _Laid(which, stages, now.widths_m, now.achievements, eras)


def _run(made: SitePlan, i: int, laid: Sequence[_Laid], ahead: Series) -> Plan:
    """The tree as it stands today, once under each layout, watered whenever the balance says so."""
    count, today = len(laid), made.course.today
    same = np.full(count, i)
    since = sorted({day for one in laid for day, _, _ in one.eras if day < len(ahead)})
    eras = []
    for day in since:
        now = [[era for era in one.eras if era[0] <= day][-1] for one in laid]
        pouring = ways_of_water.pouring_of(
            [row for *_, row in now], [way.how for _, way, _ in now], made.soil.intake_mm_h
        )
        eras.append(Era(day, reach.stack([way.landing for _, way, _ in now]), pouring))
    rows = [made.rows[i]] * count
    leaf, depth = days.leaf_and_mulch(rows, ahead, {}, {})
    zero = np.zeros_like(leaf)
    thirst = np.full((len(ahead), 1), float(np.broadcast_to(made.course.thirst[today], len(made.rows))[i]))
    course = Course.of(ahead, leaf, depth, zero, zero, np.zeros(count, bool), 0, thirst=thirst)
    opening = Opening.of_all(some(made.plan.yesterday, same), fresh=False)
    return Run(some(made.trees, same), opening, course, tuple(eras)).plan(keep_days=True)


def _told(laid: Sequence[_Laid], plan: Plan, ahead: Series) -> list[Compared]:
    dates = [one.item() for one in ahead.dates]
    gross = np.nan_to_num(plan.visit_gross_l)
    grounds = [day.passed.morning.ground for day in plan.days]
    season = Seasons.of_days(
        dates, [day.passed.morning.weather.leaf for day in plan.days], list(gross), [day.moved for day in plan.days],
        grounds,
    )  # fmt: skip
    came_to = rehearse.judge(season, [one.which for one in laid])
    reached = np.stack([g.reach for g in grounds])
    found = []
    for column, (one, season_of_it) in enumerate(zip(laid, came_to, strict=True)):
        poured = gross[:, column]
        flows = np.zeros(len(dates))
        for day, way, _ in one.eras:
            flows[day:] = way.how.emitters * way.how.emitter_flow_l_per_h
        first = parts.parts_of(one.stages[0].drawing, one.stages[0].choice)
        later = [stage for stage in one.stages[1:] if stage.changes and stage.after_days < len(dates)]
        outgrown = np.flatnonzero(reached[:, column] < OUTGROWN_REACH)
        waterings = int(np.sum(poured > 0))
        over = TwoYears(
            dry_days=season_of_it.thirsty_days, wet_days=season_of_it.soggy_days, waterings=waterings,
            litres=float(np.sum(poured)), run_h=float(np.sum(poured / flows)),
            lay_min=years.lay_min(first) + sum(years.lay_min(stage.new_parts) for stage in later),
            stand_min=waterings * float(load.visit_min(True, 0.0)), moves=len(later),
        )  # fmt: skip
        found.append(Compared(
            one.which, one.stages[0].choice, one.stages[0].drawing, one.widths_m, one.achievements,
            tuple(float(share) for share in reached[::SHOWN_EVERY_DAYS, column]),
            dates[0] + timedelta(days=int(outgrown[0])) if len(outgrown) else None,
            first, parts.together([stage.new_parts for stage in later]), over, best=False,
        ))  # fmt: skip
    return found
