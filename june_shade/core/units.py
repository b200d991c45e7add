"""Unit conversions, once. Exact factors; inside the core only m, m2, L, mm, degC and days are used.

Sources: NIST SP 811 (1 in = 25.4 mm, 1 US gal = 231 in3 = 3.785411784 L).
"""

from june_shade.core.numbers import Numbers

LITRES_PER_US_GALLON = 3.785411784
METRES_PER_INCH = 0.0254
METRES_PER_FOOT = 0.3048
MM_PER_INCH = 25.4
MPS_PER_KMH = 1 / 3.6
MPS_PER_MPH = 0.44704
MJ_PER_M2_DAY_PER_WATT_PER_M2 = 0.0864
"""A daily mean of 1 W/m2 is 86 400 J/m2 a day."""


def celsius_from_fahrenheit(temperature_f: Numbers) -> Numbers:
    """Temperature [degC] from [degF]; arrays broadcast.

    temperature_f: [degF].
    """
    return (temperature_f - 32.0) / 1.8


def told(value: float, unit: str) -> str:
    """A quantity in a sentence: 0.3 m, its number and unit held together by a no-break space, so that an interface can
    tell it from other words and word it in the units that a person chose.

    value: in `unit`, one of m, mm, L, L/h, kg, km [m, mm, L, L/h, kg, km].
    """
    return f"{value:.4g}\u00a0{unit}"


def within(value: float, low: float, high: float, unit: str, what_for: str = "") -> str:
    """That a quantity does not lie between two limits.

    value, low, high: in `unit` [m, L, L/h, kg, km].
    """
    return f"must be between {told(low, unit)} and {told(high, unit)}{what_for}, not {told(value, unit)}"


def in_m(length_m: float) -> str:
    """A length in a sentence. length_m: [m]."""
    return told(length_m, "m")


def in_l(volume_l: float) -> str:
    """A volume in a sentence. volume_l: [L]."""
    return told(volume_l, "L")
