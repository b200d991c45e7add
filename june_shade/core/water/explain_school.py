"""The sum behind a watering that a school's routine asks for: what it pours on a day, and why on that day."""

import numpy as np

from june_shade.core.water.followed import Followed
from june_shade.core.water.ground import Ground
from june_shade.core.water.schools import BY_THE_REFILL
from june_shade.core.working import COMMON_PRACTICE, Step, worked


def why(followed: Followed, day: int) -> Step:
    """Which day of the routine this is.

    day: its position in the course.
    """
    number = day - followed.since
    given = {"d": (float(day), ""), "since": (float(followed.since), "")}
    return worked("routine_day", "d − since", float(number), "d", COMMON_PRACTICE, **given)


def asked(followed: Followed, day: int, ground: Ground, gross_l: float) -> Step | None:
    """The sum behind what a routine pours; None where that is what refills the tree.

    day: position in the course; ground: of that morning, of the one tree; gross_l: what it pours [L].
    """
    one, above, number = followed.routine, followed.above, day - followed.since
    if one.name in BY_THE_REFILL:
        return None
    volume = (one.litres, "L")
    match one.name:
        case "heat":
            mean_c = above.of_day_c(number)
            formula, given = "V × min(1, max(0.5, (T − 10) / 20))", {"V": volume, "T": (mean_c, "degC")}
        case "rainfall":
            rain, area = above.week_before_mm(number), float(np.sum(ground.kept_m2[:, 0]))
            formula, given = "A × max(0, mm − rain)", {"A": (area, "m2"), "mm": (one.mm, "mm"), "rain": (rain, "mm")}
        case "slow_hose":
            formula, given = "q × t", {"q": (one.flow_l_per_h, "L/h"), "t": (one.hours, "h")}
        case "bare_root":
            times = 2.0 if number == 0 else 1.0 if above.in_leaf(number) else 0.5
            formula, given = "times × V", {"times": (times, ""), "V": volume}
        case _:
            formula, given = "V", {"V": volume}
    return worked("routine", formula, gross_l, "L", COMMON_PRACTICE, **given)
