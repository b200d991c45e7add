"""The sum behind a day's ETo, line by line, by the equation that made it."""

from collections.abc import Mapping, Set

import numpy as np

from june_shade.core.numbers import Numbers
from june_shade.core.weather import daily, et
from june_shade.core.weather.daily import Days
from june_shade.core.working import Step, worked


def eto(days: Days, i: int, latitude_deg: float, elevation_m: float, wind_height_m: float) -> tuple[Step, ...]:
    """The working of day i. Empty where it has no ETo."""
    one = Days(*(getattr(days, name)[i : i + 1] for name in Days.__dataclass_fields__))
    made = daily.reference_et(one, latitude_deg, elevation_m, wind_height_m)
    method = made.method[0]
    if not method:
        return ()
    result = float(made.eto_mm[0])
    if method == "station":
        return (worked("eto_station", "as the station gives it", result, "mm", "station"),)
    phi, day = float(np.radians(latitude_deg)), daily.day_of_year(one.dates)
    ra = float(et.extraterrestrial_radiation_mj(phi, day)[0])
    tmin, tmax = float(one.tmin_c[0]), float(one.tmax_c[0])
    sky = worked(
        "ra", "Ra by latitude φ and day of the year J", ra, "MJ/m2", "[FAO56] eq. 21",
        φ=(latitude_deg, "deg"), J=(float(day[0]), ""),
    )  # fmt: skip
    temperatures = {"Tmin": (tmin, "degC"), "Tmax": (tmax, "degC")}
    if method == "hargreaves":
        return (
            sky,
            worked("eto_hargreaves", "0.0023 (Tmean + 17.8) √(Tmax − Tmin) 0.408 Ra", result, "mm",
                 "[FAO56] eq. 52, [HS85]", **temperatures, Ra=(ra, "MJ/m2")),
        )  # fmt: skip
    return (sky, *_penman_monteith(one, method, phi, day, ra, temperatures, elevation_m, wind_height_m, result))


def _penman_monteith(
    one: Days, method: str, phi: float, day: Numbers, ra: float, temperatures: Mapping[str, tuple[float, str]],
    elevation_m: float, wind_height_m: float, result: float,
) -> tuple[Step, ...]:  # fmt: skip
    tmin, tmax = temperatures["Tmin"][0], temperatures["Tmax"][0]
    marks = set(method.split("+"))
    mean = (tmin + tmax) / 2
    rso = float(et.clear_sky_radiation_mj(elevation_m, ra))
    sun = _radiation(one, marks, phi, day, ra, rso, temperatures)
    rs = sun.value
    es = float(et.mean_saturation_vapour_pressure_kpa(tmin, tmax))
    ea_known = float(daily.vapour_pressure_kpa(one)[0])
    ea = ea_known if not np.isnan(ea_known) else float(et.saturation_vapour_pressure_kpa(tmin))
    humidity = "ea from the low" if "humidity_from_tmin" in marks else _humidity_words(one)
    rns = float(et.net_shortwave_mj(rs))
    rnl = float(et.net_longwave_mj(tmin, tmax, ea, rs, rso))
    wind = float(one.wind_m_s[0])
    u2 = daily.DEFAULT_WIND_M_S if "wind_2_m_s" in marks else float(et.wind_at_2m(wind, wind_height_m))
    u2 = max(u2, daily.LEAST_WIND_M_S)
    given = {} if "wind_2_m_s" in marks else {"u": (wind, "m/s"), "z": (wind_height_m, "m")}
    slope = float(et.saturation_slope_kpa_per_c(mean))
    gamma = float(et.psychrometric_constant(et.atmospheric_pressure_kpa(elevation_m)))
    words = (
        "2 m/s, where no wind was measured"
        if "wind_2_m_s" in marks
        else "u2 = 4.87 u / ln(67.8 z − 5.42), at least 0.5"
    )
    return (
        worked("rso", "(0.75 + 0.00002 z) Ra", rso, "MJ/m2", "[FAO56] eq. 37", Ra=(ra, "MJ/m2"), z=(elevation_m, "m")),
        sun,
        worked("es", "mean of e0(Tmin) and e0(Tmax)", es, "kPa", "[FAO56] eq. 12", **temperatures),
        worked("ea", humidity, ea, "kPa", "[FAO56] eq. 14, 17 to 19"),
        worked("rn", "0.77 Rs − Rnl", rns - rnl, "MJ/m2", "[FAO56] eq. 38 to 40",
             Rs=(rs, "MJ/m2"), Rnl=(rnl, "MJ/m2")),
        worked("u2", words, u2, "m/s", "[FAO56] eq. 47", **given),
        worked("eto_pm", "(0.408 Δ Rn + γ 900/(T + 273) u2 (es − ea)) / (Δ + γ (1 + 0.34 u2))", result, "mm",
             "[FAO56] eq. 6", Δ=(slope, "kPa/degC"), γ=(gamma, "kPa/degC"), T=(mean, "degC")),
    )  # fmt: skip


def _radiation(
    one: Days, marks: Set[str], phi: float, day: Numbers, ra: float, rso: float,
    temperatures: Mapping[str, tuple[float, str]],
) -> Step:  # fmt: skip
    if "radiation_from_sunshine" in marks:
        hours = float(et.daylight_h(phi, day)[0])
        sun = float(one.sun_h[0])
        value = float(et.radiation_from_sunshine_mj(sun, hours, ra))
        return worked("rs", "(0.25 + 0.5 n/N) Ra", value, "MJ/m2", "[FAO56] eq. 35", n=(sun, "h"), N=(hours, "h"))
    if "radiation_from_temperature" in marks:
        low, high = temperatures["Tmin"][0], temperatures["Tmax"][0]
        value = float(et.radiation_from_temperature_mj(low, high, ra, rso))
        return worked("rs", "0.16 √(Tmax − Tmin) Ra, at most Rso", value, "MJ/m2", "[FAO56] eq. 50", **temperatures)
    return worked("rs", "as measured", float(one.radiation_mj_m2[0]), "MJ/m2", "station")


def _humidity_words(one: Days) -> str:
    if not np.isnan(one.dew_point_c[0]):
        return "e0 at the dew point"
    if not np.isnan(one.rh_min_percent[0]) and not np.isnan(one.rh_max_percent[0]):
        return "from both humidities"
    return "from the highest humidity" if not np.isnan(one.rh_max_percent[0]) else "from the mean humidity"
