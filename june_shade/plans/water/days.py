"""The days that a run goes over: from which on, who works, leaves and mulch of each tree on each of them."""

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import replace
from datetime import date
from typing import Any
from uuid import UUID

import numpy as np

from june_shade.core.mulch.materials import material
from june_shade.core.mulch.wasting import DAYS_A_YEAR, depth_share, wasted_depth_m
from june_shade.core.weather import series as weather_series
from june_shade.core.weather.series import Series
from june_shade.store import log as log_store
from june_shade.store.facts import TreeFacts
from june_shade.store.mulch import DepthOfDay
from june_shade.store.session import Session

FIRST_SEASON_DAYS = 300
"""So long after planting bare-root stock is in its first season, whose leaves wait for a logged bud break."""


def cut(series: Series, first: int) -> Series:
    """The series from a position on."""
    return series.days(first)


def with_days_off(series: Series, working_days: Sequence[int], today: date) -> Series:
    """The series with the days from today on that nobody works (Monday 0) closed for visits."""
    weekday = (series.dates.astype("datetime64[D]").astype(int) + 3) % 7  # 1970-01-01 was a Thursday
    works = np.isin(weekday, working_days) | (series.dates < np.datetime64(today, "D"))
    return replace(series, workable=series.workable & works)


def positions(series: Series, days: Iterable[date]) -> np.ndarray:
    """Positions of dates in the series; they may lie outside."""
    base = series.dates[0].item().toordinal()
    return np.array([day.toordinal() - base for day in days])


def leaf_and_mulch(
    rows: Sequence[TreeFacts],
    series: Series,
    breaks: Mapping[UUID, date],
    recorded: Mapping[UUID, Sequence[DepthOfDay]],
) -> tuple[np.ndarray, np.ndarray]:
    """Leaf and mulch's depth share of each tree on each day, arrays (days, trees)."""
    leaf = np.repeat(series.leaf[:, None], len(rows), axis=1)
    depth = np.zeros((len(series), len(rows)))
    depths: dict[tuple[Any, ...], np.ndarray] = {}
    by_dates: dict[tuple[Any, ...], np.ndarray] = {}
    for i, row in enumerate(rows):
        if row.evergreen:
            leaf[:, i] = 1.0
        else:
            dates = (row.leaf_out, row.leaf_fall)
            if dates not in by_dates:
                by_dates[dates] = (
                    weather_series.leaf_by_dates(series.dates, dates[0], dates[1])
                    if dates[0] and dates[1]
                    else series.leaf
                )
            leaf[:, i] = _leaf(row, series, by_dates[dates], row.bud_break_on or breaks.get(row.id))
        if row.id in recorded:
            depth[:, i] = _recorded_depth_share(series, row, recorded[row.id])
        elif row.mulch_material and row.mulch_depth_m > 0:
            key = (row.mulch_measured_on or row.opened_on, row.mulch_material, row.mulch_depth_m, None)
            if key not in depths:
                depths[key] = mulch_depth_share(series, *key)
            depth[:, i] = depths[key]
    return leaf, depth


def _leaf(row: TreeFacts, cut: Series, leaf: np.ndarray, bud_break: date | None) -> np.ndarray:
    """Leaf of a tree that drops it; bare-root stock waits for its own bud break in its first season."""
    if row.kind != "bare_root":
        return leaf
    since_planting = (cut.dates - np.datetime64(row.planted_on, "D")).astype(int)
    waiting = np.minimum(leaf, weather_series.leaf_after_bud_break(cut.dates, bud_break))
    return np.where(since_planting < FIRST_SEASON_DAYS, waiting, leaf)


def awaits_bud_break(session: Session, row: Any, today: date) -> bool:
    """Whether a bare-root tree of its first season has shown no broken buds yet."""
    if row.kind != "bare_root" or row.bud_break_on or (today - row.planted_on).days >= FIRST_SEASON_DAYS:
        return False
    return row.id not in log_store.bud_breaks(session, row.site_id)


def mulch_depth_share(
    cut: Series, measured: date, name: str | None, depth_m: float, own_years: float | None
) -> np.ndarray:
    """How much of a full cover is there each day, wasting since it was measured; own_years: the tree's own pace."""
    if name is None:
        return np.zeros(len(cut))
    years = (cut.dates - np.datetime64(measured, "D")).astype(float) / DAYS_A_YEAR
    return depth_share(wasted_depth_m(depth_m, years, own_years or material(name).wasting_years or np.inf))


def _recorded_depth_share(cut: Series, row: TreeFacts, entries: Sequence[DepthOfDay]) -> np.ndarray:
    """The same for a tree whose mulch was laid and measured on days of its record: each goes until the next."""
    before, own = entries[0].before, row.mulch_wasting_years
    measured = date.fromisoformat(before["mulch_measured_on"]) if before.get("mulch_measured_on") else row.opened_on
    share = mulch_depth_share(cut, measured, before.get("mulch_material"), before.get("mulch_depth_m") or 0.0, None)
    said = [(entry.day, entry.material, entry.depth_m) for entry in entries]
    if row.mulch_measured_on is not None and row.mulch_measured_on > said[-1][0]:  # typed anew since
        said.append((row.mulch_measured_on, row.mulch_material, row.mulch_depth_m))
    for day, name, depth_m in said:
        later = cut.dates >= np.datetime64(day, "D")
        share = np.where(later, mulch_depth_share(cut, day, name, depth_m, own), share)
    return share
