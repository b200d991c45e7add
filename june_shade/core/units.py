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
