"""The course of a site's days: its weather, leaves and mulch of each tree, what was logged."""

from dataclasses import dataclass

from june_shade.core.water.balance import Weather
from june_shade.core.water.stores import Array
from june_shade.core.weather.series import MEASURED, Series


@dataclass(frozen=True, slots=True)
class SiteCourse:
    """Everything that drives a run beside the trees: arrays (days, trees) unless said.

    series: the site's days. leaf, mulch_depth_share. first_net_l, second_net_l: logged water as it lands by the day it
    counts on. poured_today (trees,): water was logged on today's date, whenever it counts. today: position of today.
    """

    series: Series
    leaf: Array
    mulch_depth_share: Array
    first_net_l: Array
    second_net_l: Array
    poured_today: Array
    today: int

    def weather(self, day: int, *, with_forecast_rain: bool = True) -> Weather:
        """A day's weather for every tree."""
        s = self.series
        counted = with_forecast_rain or s.basis[day] == MEASURED
        return Weather(
            eto_mm=s.eto_mm[day],
            rain_mm=s.rain_mm[day],
            month_c=s.month_c[day],
            five_days_c=s.five_days_c[day],
            leaf=self.leaf[day],
            rain_share=s.rain_share[day] if counted else 0.0,
            mulch_depth_share=self.mulch_depth_share[day],
        )
