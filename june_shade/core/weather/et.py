"""Reference evapotranspiration: the equations of FAO-56, each a small function on arrays.

Source of every function: Allen, Pereira, Raes, Smith (1998), FAO Irrigation and Drainage Paper 56 [FAO56], by
equation number; the hold of Rs/Rso at 0.3 is from [ASCE05]. Temperatures degC, pressures kPa, radiation
MJ/m2/day, wind m/s, ETo mm/day, latitude rad, day of year 1..366. Which inputs are used when some are
missing is decided in `daily`, not here.
"""

import numpy as np

from june_shade.core.numbers import Numbers

ALBEDO = 0.23
SIGMA_MJ_K4_M2_DAY = 4.903e-9
KRS_INTERIOR = 0.16
"""Eq. 50 coefficient away from the coast [degC^-0.5]."""
EVAPORATION_EQUIVALENT = 0.408
"""mm of water that 1 MJ/m2 evaporates (1 / 2.45)."""


def atmospheric_pressure_kpa(elevation_m: Numbers) -> Numbers:
    """Eq. 7."""
    return 101.3 * ((293.0 - 0.0065 * elevation_m) / 293.0) ** 5.26


def psychrometric_constant(pressure_kpa: Numbers) -> Numbers:
    """Eq. 8, gamma [kPa/degC]."""
    return 0.665e-3 * pressure_kpa


def saturation_vapour_pressure_kpa(temperature_c: Numbers) -> Numbers:
    """Eq. 11, e0(T)."""
    return 0.6108 * np.exp(17.27 * temperature_c / (temperature_c + 237.3))


def mean_saturation_vapour_pressure_kpa(tmin_c: Numbers, tmax_c: Numbers) -> Numbers:
    """Eq. 12, es: the mean of e0 at both temperatures, never e0 of the mean."""
    return (saturation_vapour_pressure_kpa(tmax_c) + saturation_vapour_pressure_kpa(tmin_c)) / 2.0


def saturation_slope_kpa_per_c(temperature_c: Numbers) -> Numbers:
    """Eq. 13, Delta."""
    return 4098.0 * saturation_vapour_pressure_kpa(temperature_c) / (temperature_c + 237.3) ** 2


def vapour_pressure_from_dew_point_kpa(dew_point_c: Numbers) -> Numbers:
    """Eq. 14."""
    return saturation_vapour_pressure_kpa(dew_point_c)


def vapour_pressure_from_humidities_kpa(
    tmin_c: Numbers, tmax_c: Numbers, rh_min_percent: Numbers, rh_max_percent: Numbers
) -> Numbers:
    """Eq. 17, both humidities with both temperatures."""
    low, high = saturation_vapour_pressure_kpa(tmin_c), saturation_vapour_pressure_kpa(tmax_c)
    return (low * rh_max_percent + high * rh_min_percent) / 200.0


def vapour_pressure_from_rh_max_kpa(tmin_c: Numbers, rh_max_percent: Numbers) -> Numbers:
    """Eq. 18."""
    return saturation_vapour_pressure_kpa(tmin_c) * rh_max_percent / 100.0


def vapour_pressure_from_rh_mean_kpa(tmin_c: Numbers, tmax_c: Numbers, rh_mean_percent: Numbers) -> Numbers:
    """Eq. 19."""
    return mean_saturation_vapour_pressure_kpa(tmin_c, tmax_c) * rh_mean_percent / 100.0


def inverse_relative_distance(day_of_year: Numbers) -> Numbers:
    """Eq. 23, dr (every year has 365 days here).

    day_of_year: 1..366.
    """
    return 1.0 + 0.033 * np.cos(2.0 * np.pi * day_of_year / 365.0)


def solar_declination_rad(day_of_year: Numbers) -> Numbers:
    """Eq. 24.

    day_of_year: 1..366.
    """
    return 0.409 * np.sin(2.0 * np.pi * day_of_year / 365.0 - 1.39)


def sunset_hour_angle_rad(latitude_rad: Numbers, day_of_year: Numbers) -> Numbers:
    """Eq. 25, held to 0..pi where the sun does not rise or set.

    day_of_year: 1..366.
    """
    return np.arccos(np.clip(-np.tan(latitude_rad) * np.tan(solar_declination_rad(day_of_year)), -1.0, 1.0))


def extraterrestrial_radiation_mj(latitude_rad: Numbers, day_of_year: Numbers) -> Numbers:
    """Eq. 21, Ra.

    day_of_year: 1..366.
    """
    delta, ws = solar_declination_rad(day_of_year), sunset_hour_angle_rad(latitude_rad, day_of_year)
    level = ws * np.sin(latitude_rad) * np.sin(delta) + np.cos(latitude_rad) * np.cos(delta) * np.sin(ws)
    return 24.0 * 60.0 / np.pi * 0.0820 * inverse_relative_distance(day_of_year) * level


def daylight_h(latitude_rad: Numbers, day_of_year: Numbers) -> Numbers:
    """Eq. 34, N.

    day_of_year: 1..366.
    """
    return 24.0 / np.pi * sunset_hour_angle_rad(latitude_rad, day_of_year)


def radiation_from_sunshine_mj(sun_h: Numbers, daylight: Numbers, ra_mj: Numbers) -> Numbers:
    """Eq. 35, Angstrom with 0.25 and 0.50.

    daylight: N, longest possible sunshine [h].
    """
    with np.errstate(divide="ignore", invalid="ignore"):
        share = np.where(daylight > 0, sun_h / daylight, 0.0)
    return (0.25 + 0.50 * share) * ra_mj


def clear_sky_radiation_mj(elevation_m: Numbers, ra_mj: Numbers) -> Numbers:
    """Eq. 37, Rso."""
    return (0.75 + 2e-5 * elevation_m) * ra_mj


def radiation_from_temperature_mj(
    tmin_c: Numbers, tmax_c: Numbers, ra_mj: Numbers, rso_mj: Numbers, krs: Numbers = KRS_INTERIOR
) -> Numbers:
    """Eq. 50, Rs from the temperature range, not over Rso.

    krs: 0.16 inland, 0.19 at the coast.
    """
    return np.minimum(krs * np.sqrt(np.maximum(0.0, tmax_c - tmin_c)) * ra_mj, rso_mj)


def net_shortwave_mj(rs_mj: Numbers) -> Numbers:
    """Eq. 38, Rns."""
    return (1.0 - ALBEDO) * rs_mj


def net_longwave_mj(
    tmin_c: Numbers, tmax_c: Numbers, vapour_pressure_kpa: Numbers, rs_mj: Numbers, rso_mj: Numbers
) -> Numbers:
    """Eq. 39, Rnl, with Rs/Rso held to 0.3..1.0; where the sun does not rise the ratio is taken as 0.3."""
    with np.errstate(divide="ignore", invalid="ignore"):
        ratio = np.where(rso_mj > 0, rs_mj / rso_mj, 0.3)
    ratio = np.clip(ratio, 0.3, 1.0)
    black_body = SIGMA_MJ_K4_M2_DAY * ((tmax_c + 273.16) ** 4 + (tmin_c + 273.16) ** 4) / 2.0
    return black_body * (0.34 - 0.14 * np.sqrt(vapour_pressure_kpa)) * (1.35 * ratio - 0.35)


def wind_at_2m(wind_m_s: Numbers, height_m: Numbers) -> Numbers:
    """Eq. 47; wind measured at 2 m is left as it is."""
    factor = 1.0 if height_m == 2 else 4.87 / np.log(67.8 * height_m - 5.42)
    return wind_m_s * factor


def penman_monteith_mm(
    tmin_c: Numbers,
    tmax_c: Numbers,
    vapour_pressure_kpa: Numbers,
    net_radiation_mj: Numbers,
    wind_2m_m_s: Numbers,
    pressure_kpa: Numbers,
    soil_heat_mj: Numbers = 0.0,
) -> Numbers:
    """Eq. 6, ETo. es - ea and the result are not taken below 0."""
    mean = (tmin_c + tmax_c) / 2.0
    slope, gamma = saturation_slope_kpa_per_c(mean), psychrometric_constant(pressure_kpa)
    deficit = np.maximum(0.0, mean_saturation_vapour_pressure_kpa(tmin_c, tmax_c) - vapour_pressure_kpa)
    radiative = EVAPORATION_EQUIVALENT * slope * (net_radiation_mj - soil_heat_mj)
    aerodynamic = gamma * 900.0 / (mean + 273.0) * wind_2m_m_s * deficit
    return np.maximum(0.0, (radiative + aerodynamic) / (slope + gamma * (1.0 + 0.34 * wind_2m_m_s)))


def hargreaves_samani_mm(tmin_c: Numbers, tmax_c: Numbers, ra_mj: Numbers) -> Numbers:
    """Eq. 52, ETo from temperatures and Ra only; not below 0. Source also: [HS85]."""
    mean = (tmin_c + tmax_c) / 2.0
    spread = np.sqrt(np.maximum(0.0, tmax_c - tmin_c))
    return np.maximum(0.0, 0.0023 * (mean + 17.8) * spread * EVAPORATION_EQUIVALENT * ra_mj)
