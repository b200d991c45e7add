"""Friction in tubes: Darcy-Weisbach as drip tubes need it, Hazen-Williams for who reckons by it; water's viscosity.

Flows are L/h, lengths m, bores m, heads m of water. A loss carries the sign of its flow.
"""

from dataclasses import dataclass

import numpy as np

from june_shade.core.numbers import Numbers

G = 9.80665
L_H_PER_M3_S = 3.6e6
LAMINAR_RE, TURBULENT_RE = 2000.0, 4000.0
BLASIUS = 0.316
HW_COEFFICIENT, HW_FLOW, HW_BORE = 10.67, 1.852, 4.8704
SLOW_L_H = 0.02
"""Below this flow Hazen-Williams is taken as straight, so that a still tube has a slope to solve by."""
FASTEST_M_S = 1.5
"""Faster water hammers and wears (common practice: 5 ft/s)."""


@dataclass(frozen=True, slots=True)
class Friction:
    """hazen_williams: its C, None = Darcy-Weisbach. temperature_c: of the water, for Darcy-Weisbach."""

    hazen_williams: float | None = None
    temperature_c: float = 20.0


def viscosity_m2_s(temperature_c: float) -> float:
    """Kinematic viscosity of water [m2/s], 0 to 100 degC at about one atmosphere.

    Dynamic viscosity by Patek et al. 2009 (the reference values of [Patek09]), density by [Kell75].
    """
    t = (temperature_c + 273.15) / 300.0
    dynamic = 1e-6 * (280.68 * t**-1.9 + 511.45 * t**-7.7 + 61.131 * t**-19.6 + 0.45903 * t**-40)
    c = temperature_c
    density = (
        999.83952 + 16.945176 * c - 7.9870401e-3 * c**2 - 46.170461e-6 * c**3 + 105.56302e-9 * c**4
        - 280.54253e-12 * c**5
    ) / (1 + 16.87985e-3 * c)  # fmt: skip
    return dynamic / density


def velocity_m_s(flow_l_per_h: Numbers, bore_m: Numbers) -> Numbers:
    """Mean speed in a tube [m/s], unsigned. Arrays broadcast."""
    return np.abs(flow_l_per_h) / L_H_PER_M3_S / (np.pi / 4 * bore_m**2)


def friction_factor(reynolds: Numbers) -> Numbers:
    """Darcy's f [-]: 64/Re to Re 2000, Blasius 0.316 Re^-0.25 from 4000, straight in f between. Arrays broadcast.

    reynolds: Reynolds number [-], above 0; arrays broadcast.
    """
    re = np.maximum(reynolds, 1e-12)
    low, high = 64.0 / LAMINAR_RE, BLASIUS * TURBULENT_RE**-0.25
    between = low + (high - low) * (re - LAMINAR_RE) / (TURBULENT_RE - LAMINAR_RE)
    return np.where(re <= LAMINAR_RE, 64.0 / re, np.where(re >= TURBULENT_RE, BLASIUS * re**-0.25, between))


def loss_and_slope(flow_l_per_h: Numbers, length_m: Numbers, bore_m: Numbers, friction: Friction) -> Numbers:
    """Head lost along tubes [m] with the sign of the flow, and how it grows with flow [m per L/h]. Arrays broadcast.

    Darcy-Weisbach h = f L/D V^2/2g; Hazen-Williams h = 10.67 L Q^1.852 / (C^1.852 D^4.8704), Q in m3/s.
    """
    if friction.hazen_williams is not None:
        return _hazen_williams(flow_l_per_h, length_m, bore_m, friction.hazen_williams)
    speed = velocity_m_s(flow_l_per_h, bore_m)
    re = speed * bore_m / viscosity_m2_s(friction.temperature_c)
    f = friction_factor(re)
    low, high = 64.0 / LAMINAR_RE, BLASIUS * TURBULENT_RE**-0.25
    between = 2 * f + re * (high - low) / (TURBULENT_RE - LAMINAR_RE)
    # f V^2 grows with V as f V (laminar), 1.75 f V (Blasius); in all regimes as its factor times V
    factor = np.where(re <= LAMINAR_RE, f, np.where(re >= TURBULENT_RE, 1.75 * f, between))
    per_speed = length_m / bore_m / (2 * G)
    speed_per_flow = 1.0 / L_H_PER_M3_S / (np.pi / 4 * bore_m**2)
    laminar_slope = per_speed * 64.0 * viscosity_m2_s(friction.temperature_c) / bore_m * speed_per_flow
    slope = np.where(re <= LAMINAR_RE, laminar_slope, per_speed * factor * speed * speed_per_flow)
    loss = np.where(re <= LAMINAR_RE, laminar_slope * np.abs(flow_l_per_h), per_speed * f * speed**2)
    return np.sign(flow_l_per_h) * loss, slope


def _hazen_williams(flow_l_per_h: Numbers, length_m: Numbers, bore_m: Numbers, c: Numbers) -> Numbers:
    flow = np.maximum(np.abs(flow_l_per_h), SLOW_L_H)
    loss = HW_COEFFICIENT * length_m * (flow / L_H_PER_M3_S / c) ** HW_FLOW / bore_m**HW_BORE
    slow = np.abs(flow_l_per_h) < SLOW_L_H
    slope = np.where(slow, loss / SLOW_L_H, HW_FLOW * loss / flow)
    return np.where(slow, slope * flow_l_per_h, np.sign(flow_l_per_h) * loss), slope
