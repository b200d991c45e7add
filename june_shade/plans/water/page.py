"""What the Water page of a tree shows: the chart of its days, what was felt, its book rules; all of it together.

Values only, in SI; words, units and drawing are the interface's.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date
from typing import Any
from uuid import UUID

import numpy as np

from june_shade.core.care import book_rules
from june_shade.core.care.frost import young_since
from june_shade.core.choosing import harm
from june_shade.core.water import use
from june_shade.core.water.felt import FAR_ERRORS, FITS_ERRORS, LITTLE, SD
from june_shade.core.water.ground import dryness_sd
from june_shade.core.weather import series as weather_series
from june_shade.plans import forecast, log, register, water
from june_shade.plans.water import SitePlan, remembered, watering
from june_shade.plans.water.log_in import wetness_read
from june_shade.plans.water.section import section
from june_shade.store import choices, routines
from june_shade.store.choice_tables import ProposedMode
from june_shade.store.log_tables import LogEntry
from june_shade.store.planting_tables import Planting
from june_shade.store.session import Session
from june_shade.store.tree_tables import Tree


@dataclass(frozen=True, slots=True)
class ChartDay:
    """A day on the soil line."""

    day: date
    dryness: float | None
    dryness_sd: float | None
    ks: float | None
    rain_mm: float
    rain_chance: float
    poured_l: float
    planned_l: float
    planned_us_l: float
    eto_mm: float
    basis: str


def chart(made: SitePlan, i: int, poured: dict[date, float]) -> list[ChartDay]:
    """The soil line of tree i: 30 days back, 14 ahead."""
    s, plan = made.series, made.plan
    first = max(0, made.course.today - water.HISTORY_DAYS)
    days = []
    for at in range(first, len(s)):
        planned = water.visit_on(made, i, at) if plan.visit_gross_l[at, i] > 0 else None
        known = not np.isnan(plan.dryness[at, i])
        days.append(
            ChartDay(
                day=s.dates[at].item(),
                dryness=float(plan.dryness[at, i]) if known else None,
                dryness_sd=float(plan.dryness_sd[at, i]) if known else None,
                ks=float(plan.ks[at, i]) if known else None,
                rain_mm=float(s.rain_mm[at]),
                rain_chance=1.0 if s.basis[at] == weather_series.MEASURED else float(s.chance[at]),
                poured_l=poured.get(s.dates[at].item(), 0.0),
                planned_l=planned.metric.litres if planned else 0.0,
                planned_us_l=planned.us.litres if planned else 0.0,
                eto_mm=float(s.eto_mm[at]),
                basis=("measured", "forecast", "neighbours", "normals", "recent")[int(s.basis[at])],
            )
        )
    return days


@dataclass(frozen=True, slots=True)
class ReadingShown:
    """What was felt at a tree: the day, ball and soil beside it, how dry that makes it by where it drinks now 0..1, and
    its ball by itself, None where that was not felt. fits_within, far_beyond: off the plan by so much it fits, or is
    far off; little: a plan that it moves by less of the way is surer than it.
    """

    id: UUID
    day: date
    how: str
    ball_feel: str | None
    ring_feel: str | None
    ball_theta: float | None
    ring_theta: float | None
    dryness: float
    ball_dryness: float | None
    fits_within: float
    far_beyond: float
    little: float = LITTLE


def readings_of(made: SitePlan, i: int, entries: Sequence[LogEntry], voided: set[UUID | None]) -> list[ReadingShown]:
    """Standing readings of tree i, the oldest first."""
    g = made.plan.now_ground
    shares = np.array([float(g.uptake_from_ball[i]), float(g.uptake_from_near[i])])
    found = []
    for entry in reversed(entries):
        if entry.kind != "reading" or entry.id in voided:
            continue
        wet = np.array(wetness_read(entry, made.trees, i))
        there = ~np.isnan(wet)
        dry = np.maximum(0.0, 1.0 - wet)
        weighed = float(np.sum((shares * dry)[there]) / max(float(np.sum(shares[there])), 1e-9))
        found.append(ReadingShown(
            entry.id, entry.local_date, entry.how or "", entry.ball_feel, entry.ring_feel, entry.ball_theta,
            entry.ring_theta, weighed, float(1.0 - wet[0]) if there[0] else None,
            FITS_ERRORS * SD[entry.how or "finger"], FAR_ERRORS * SD[entry.how or "finger"],
        ))  # fmt: skip
    return found


def doubt_of(made: SitePlan, i: int, looked_on: date | None) -> dict[str, Any]:
    """How far off the dryness of tree i may be today (one standard deviation), and how long nobody has looked."""
    g, now = made.plan.now_ground, made.plan.now
    off = float(dryness_sd(g, now.ball_variance, now.near_variance)[i])
    since = looked_on or made.rows[i].opened_on
    return {"dryness_sd": off, "looked_on": looked_on, "days": (made.today - since).days}


def book(made: SitePlan, i: int, *, deep: bool, limited: bool) -> dict[str, Any]:
    """The books' rules for tree i, the plan's week beside them, why they part.

    deep: its flare is under grade; limited: hours or orders cost it something.
    """
    row, plan, at, s = made.rows[i], made.plan, made.course.today, made.series
    week = slice(at, at + 7)
    found = book_rules.rules(row.caliper_m, (made.today - row.planted_on).days)
    poured = plan.visit_gross_l[week, i]
    per_week = 7 / len(poured)
    weekly = float(np.sum(np.ceil(poured))) * per_week
    visits = poured[poured > 0]
    rain_mm = float(np.sum(s.rain_mm[max(0, at - 7) : at]) + np.sum(s.rain_mm[week] * s.rain_share[week]))
    g, pouring = plan.now_ground, made.pouring
    drinks_m2 = float(np.pi * plan.now.root_radius_m[i] ** 2)
    asked = book_rules.Week(
        weekly_l=weekly, waterings=len(visits) * per_week, eto_mm=float(np.mean(s.eto_mm[week])),
        microclimate=float(made.trees.microclimate[i]), plant_factor=float(use.plant_factor(made.trees, g)[i]),
        rain_l=rain_mm * drinks_m2, uptake_from_ball=float(g.uptake_from_ball[i]),
        ball_takes_l=float(made.trees.ball_taw_l[i] * made.trees.dryness_limit[i] / max(0.05, g.share[i])),
        arrives=float(pouring.efficiency[i] * (1 - pouring.leaching[i])),
        behind_l=max(0.0, float(visits[0] - np.mean(visits[1:]))) if len(visits) > 1 else 0.0,
        saving=(row.mode or made.site.mode) != "grow", capped=bool(plan.findings.capped[i]),
        shared=bool(plan.findings.drowned[i] or plan.findings.starved[i]), wide=bool(plan.findings.wide[i]),
        limited=limited,
    )  # fmt: skip
    reasons = book_rules.parting(found, asked)
    return {"rules": found, "weekly_l": weekly, "reasons": reasons, "can_drown": made.soil.drains == "slow" or deep}


def _planted_deep(session: Session, tree: Tree) -> bool:
    planting = session.get(Planting, tree.planting_id) if tree.planting_id else None
    return planting is not None and (planting.choice or {}).get("raise_m", 0.0) < 0


def _is_limited(session: Session, tree_id: UUID) -> bool:
    chosen = choices.of_trees(session, [tree_id]).get(tree_id)
    return chosen is not None and harm.told(chosen.harm, dies=False) is not None


def _mode_proposed(session: Session, tree: Tree) -> ProposedMode | None:
    """What the program proposed, where that is the tree's mode still."""
    found = choices.proposed_mode(session, tree.id)
    return found if found is not None and found.mode == tree.mode else None


def of_tree(session: Session, tree_id: UUID) -> dict[str, Any]:
    """The Water page of a tree. Raises NoWeatherError where no plan can be made."""
    tree = register.tree(session, tree_id)
    made = remembered.with_history(session, tree.site, tree.id)
    i = made.index_of(tree.id)
    entries = log.of_tree(session, tree.id)
    voided = {entry.voids for entry in entries}
    poured: dict[date, float] = {}
    for entry in entries:
        if entry.kind == "water" and entry.id not in voided and entry.volume_l:
            poured[entry.local_date] = poured.get(entry.local_date, 0.0) + entry.volume_l
    station = tree.site.station
    at = made.course.today
    reads = readings_of(made, i, entries, voided)
    tender_c = tree.plant.frost_c if tree.planted_on >= young_since(made.today) else None
    return {
        "tree": tree,
        "today": made.today,
        "section": section(made, i),
        "dryness": float(made.plan.now_dryness[i]),
        "dryness_limit": float(made.trees.dryness_limit[i]),
        "next": watering.next_of(made, i),
        "poured_today_l": poured.get(made.today, 0.0),
        "chart": chart(made, i, poured),
        "working": water.working(made, i),
        "book": book(made, i, deep=_planted_deep(session, tree), limited=_is_limited(session, tree.id)),
        "cautions": (
            *watering.day_cautions(made, tender_c, traffic=tree.site.traffic),
            *watering.water_cautions(made, i),
        ),
        "mode": tree.mode or tree.site.mode,
        "mode_proposed": _mode_proposed(session, tree),
        "line": watering.line_of(session, made, i),
        "reservoir": watering.reservoir_of(made, i),
        "drip_flags": watering.drip_flags(made, i),
        "awaits_bud_break": water.awaits_bud_break(session, tree, made.today),
        "high_c": float(made.series.tmax_c[at]),
        "zone": tree.site.timezone,
        "guessed": tree.opening == "guessed" and not reads,
        "routine": routines.in_force(session, tree.site_id, made.today, [tree.id]).get(tree.id),
        "readings": reads,
        "doubt": doubt_of(made, i, reads[-1].day if reads else None),
        "filled": made.filled,
        "forecast": forecast.standing(session, station, made.series, made.today),
    }
