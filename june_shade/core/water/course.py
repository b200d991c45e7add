"""The course of trees' days: their weather, leaves and mulch on each of them, what was logged."""

from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from typing import Any

import numpy as np

from june_shade.core.water.felt import Felt
from june_shade.core.water.stores import Array, some
from june_shade.core.water.weather import Weather
from june_shade.core.weather.series import MEASURED, Series

OF_EACH = (
    "leaf", "mulch_depth_share", "first_net_l", "second_net_l", "poured_today", "asked_now", "last_water", "chosen",
)  # fmt: skip
SHARED = ("eto_mm", "rain_mm", "month_c", "five_days_c", "rain_share", "fallen", "workable", "thirst")
"""What each tree has of its own, and what all may share."""


NEVER = -10_000
USUAL_DAYS = 7
"""Days past those known are like the mean of the last so many, without rain."""


def last_watered(poured_l: Array, today: int) -> Array:
    """Position of the last day before today with water, NEVER where there is none, array (trees,).

    poured_l: litres by day and tree [L], array (days, trees).
    """
    had = poured_l[:today] > 0
    if not len(had):
        return np.full(poured_l.shape[1], NEVER)
    found: Array = np.where(np.any(had, axis=0), today - 1 - np.argmax(had[::-1], axis=0), NEVER)
    return found


@dataclass(frozen=True, slots=True)
class Course:
    """Everything that drives a run beside the trees: arrays (days, trees) unless said.

    eto_mm, rain_mm, month_c, five_days_c, rain_share, workable, thirst: (days, 1) where all trees share theirs.
    fallen: whether the day's rain was measured, the same. leaf, mulch_depth_share 0..1. thirst: how many times the
    book's demand. first_net_l, second_net_l: logged water as it lands by the day it counts on. poured_today (trees,):
    water was logged on today's date, whenever it counts; asked_now (trees,): someone who looked says to water it today.
    last_water (trees,): position of the last day before today with water, it may lie before the course; NEVER = none.
    chosen: what a plan under limits says of each day: 0 = no visit, above = a visit with that share of the refill,
    NaN = as the balance wants.
    today: position of today. felt: what was read, by day's
    position and whether it was before that day's water.
    """

    eto_mm: Array
    rain_mm: Array
    month_c: Array
    five_days_c: Array
    rain_share: Array
    fallen: Array
    workable: Array
    leaf: Array
    mulch_depth_share: Array
    thirst: Array
    first_net_l: Array
    second_net_l: Array
    poured_today: Array
    asked_now: Array
    last_water: Array
    chosen: Array
    today: int
    felt: Mapping[tuple[int, bool], Felt] = field(default_factory=dict)

    @classmethod
    def of(
        cls, series: Series, leaf: Array, mulch_depth_share: Array, first_net_l: Array, second_net_l: Array,
        poured_today: Array, today: int, felt: Mapping[tuple[int, bool], Felt] | None = None,
        thirst: Array | None = None,
    ) -> "Course":  # fmt: skip
        """The course of trees that share one series. leaf, mulch_depth_share, first_net_l, second_net_l: arrays (days,
        trees); poured_today (trees,); today: position in the series; felt: readings by day and moment; thirst: None =
        the book's."""
        s = series
        eto_mm, rain_mm, month_c, five_days_c, rain_share, fallen, workable = (
            each[:, None]
            for each in (
                s.eto_mm, s.rain_mm, s.month_c, s.five_days_c, s.rain_share, s.basis == MEASURED, s.workable,
            )
        )  # fmt: skip
        drinks = np.ones((len(leaf), 1)) if thirst is None else thirst
        return cls(
            eto_mm, rain_mm, month_c, five_days_c, rain_share, fallen, workable, leaf, mulch_depth_share, drinks,
            first_net_l, second_net_l, poured_today, np.zeros_like(poured_today),
            last_watered(first_net_l + second_net_l, today), np.full(leaf.shape, np.nan), today, felt or {},
        )  # fmt: skip

    def of_some(self, chosen: Array) -> "Course":
        """The course of some of the trees, in this order; one may be there many times. chosen: positions."""
        cut = {name: getattr(self, name)[..., chosen] for name in OF_EACH}
        for name in SHARED:
            values = getattr(self, name)
            cut[name] = values if values.shape[-1] == 1 else values[..., chosen]
        return replace(self, **cut, felt={moment: some(read, chosen) for moment, read in self.felt.items()})

    def rehearsed(self, first: int, last: int, workable: Array) -> "Course":
        """Days that are past, to be decided anew from one on: nothing is logged or felt from then.

        first: position of that day; last: of the day after the last one; workable: days on which someone works (days,).
        """
        own = ("eto_mm", "rain_mm", "month_c", "five_days_c", "rain_share", "fallen", "leaf", "mulch_depth_share",
               "thirst", "first_net_l", "second_net_l")  # fmt: skip
        cut = {name: getattr(self, name)[:last] for name in own}
        for name in ("first_net_l", "second_net_l"):
            cut[name] = cut[name].copy()
            cut[name][first:] = 0.0
        felt = {moment: read for moment, read in self.felt.items() if moment[0] < first}
        poured = cut["first_net_l"] + cut["second_net_l"]
        return replace(
            self, **cut, workable=workable[:last, None], poured_today=np.zeros_like(self.poured_today),
            asked_now=np.zeros_like(self.asked_now), last_water=last_watered(poured, first),
            chosen=np.full(cut["leaf"].shape, np.nan), today=first, felt=felt,
        )  # fmt: skip

    def lengthened(self, days: int) -> "Course":
        """The course with so many days more, on which nobody works, each like the mean of the last week and dry."""
        longer: dict[str, Any] = {}
        last = slice(max(self.today, len(self) - USUAL_DAYS), None)
        for name in ("eto_mm", "month_c", "five_days_c"):
            values = getattr(self, name)
            longer[name] = _with(values, np.mean(values[last], axis=0), days)
        for name in ("leaf", "mulch_depth_share", "thirst"):
            values = getattr(self, name)
            longer[name] = _with(values, values[-1], days)
        for name in ("rain_mm", "rain_share", "fallen", "workable", "first_net_l", "second_net_l"):
            values = getattr(self, name)
            longer[name] = _with(values, np.zeros_like(values[-1]), days)
        longer["chosen"] = _with(self.chosen, np.zeros_like(self.chosen[-1]), days)
        return replace(self, **longer)

    def __len__(self) -> int:
        return len(self.leaf)

    def weather(self, day: int, *, with_forecast_rain: bool = True) -> Weather:
        """A day's weather for every tree."""
        share = self.rain_share if with_forecast_rain else np.where(self.fallen, self.rain_share, 0.0)
        return Weather(
            eto_mm=_on(self.eto_mm, day),
            rain_mm=_on(self.rain_mm, day),
            month_c=_on(self.month_c, day),
            five_days_c=_on(self.five_days_c, day),
            leaf=self.leaf[day],
            rain_share=_on(share, day),
            mulch_depth_share=self.mulch_depth_share[day],
            thirst=_on(self.thirst, day),
        )


def _with(values: Array, row: Array, days: int) -> Array:
    """Days with so many more, all of them alike."""
    return np.concatenate([values, np.repeat(np.asarray(row, values.dtype)[None, :], days, axis=0)])


def _on(values: Array, day: int) -> Array | float:
    """What holds on a day: one figure where all trees share it, else one a tree."""
    row = values[day]
    return float(row[0]) if len(row) == 1 else row
