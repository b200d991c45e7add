"""The yearly look at a ring: four depths, how far off the bark it begins, whether the flare is in sight; what to do.

Depths and distances m. Verdicts: fine, top_up, thin_out, pull_back (urgent), in_stages (an old heap with roots in it).
"""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta

from june_shade.core.errors import InputError
from june_shade.core.mulch.ring import DEEPEST_M, LEAST_GAP_M, SAME_M
from june_shade.core.mulch.wasting import FULL_COVER_DEPTH_M
from june_shade.core.units import in_m, within

VERDICTS = ("fine", "top_up", "thin_out", "pull_back", "in_stages")
READINGS = 4
BARK_M = {"clear": 0.08, "close": 0.03, "touches": 0.0}
"""How far off the bark mulch begins, as it is answered: a hand's breadth or more, nearer, or it touches [m]."""
HIGHEST_M = 0.6
OLD_YEARS = 3.0
"""A heap that lay so long has roots in it, unless someone looked (common practice)."""
STAGES, STAGE_DAYS = 3, 42
"""An old heap comes down in so many steps, so far apart in the growing season (this program's pace)."""
LARGE_TRUNK_M = 0.15


@dataclass(frozen=True, slots=True)
class LookVerdict:
    """What a look at a ring comes to.

    verdict and whether it is urgent; mean_m of the readings; missing_m: at each reading, up to the target where a
    top-up is called for; over_m: what is too much at each; also: what else is wrong, as codes.
    """

    verdict: str
    urgent: bool
    mean_m: float
    missing_m: tuple[float, ...]
    over_m: tuple[float, ...]
    also: tuple[str, ...]


def judged(
    depths_m: Sequence[float],
    bark_gap_m: float,
    flare_seen: bool,
    target_m: float,
    *,
    roots_in_mulch: bool | None = None,
    years_planted: float = 0.0,
    caliper_m: float = 0.0,
) -> LookVerdict:
    """Judge a ring by its readings. roots_in_mulch: None where nobody looked, then old heaps are taken to have them.

    Raises InputError for readings that can't be: not four, negative, deeper than 60 cm, a target over the ceiling.
    years_planted: since planting [years].
    """
    if len(depths_m) != READINGS:
        raise InputError(f"needs {READINGS} readings, one to each side, not {len(depths_m)}", "depths_m")
    for number, depth in enumerate(depths_m):
        if not 0 <= depth <= HIGHEST_M:
            raise InputError(within(depth, 0, HIGHEST_M, "m"), f"depths_m[{number}]")
    if bark_gap_m < 0:
        raise InputError(f"must be 0 or more, not {in_m(bark_gap_m)}: 0 where it touches the bark", "bark_gap_m")
    if not 0 < target_m <= DEEPEST_M + SAME_M:
        raise InputError(f"must be above 0 and at most {in_m(DEEPEST_M)}, not {in_m(target_m)}", "target_m")
    mean = sum(depths_m) / READINGS
    over = tuple(depth - DEEPEST_M if depth > DEEPEST_M + SAME_M else 0.0 for depth in depths_m)
    heaped = (bark_gap_m < LEAST_GAP_M or not flare_seen) and max(depths_m) > 0
    deep = any(over)
    thin = mean < FULL_COVER_DEPTH_M
    missing = tuple(max(0.0, target_m - depth) for depth in depths_m) if thin else (0.0,) * READINGS
    also = []
    if heaped:
        old = roots_in_mulch if roots_in_mulch is not None else deep and years_planted >= OLD_YEARS
        verdict = "in_stages" if old else "pull_back"
        if old and caliper_m > LARGE_TRUNK_M:
            also.append("arborist")
        if not flare_seen:
            also.append("flare_buried")
        if deep and not old:
            also.append("thin_out")
        if thin:
            also.append("top_up")
    elif not flare_seen:
        verdict = "fine" if not thin else "top_up"
        also.append("flare_buried")
    elif deep:
        verdict = "thin_out"
    else:
        verdict = "top_up" if thin else "fine"
    if not thin and min(depths_m) < FULL_COVER_DEPTH_M:
        also.append("uneven")
    return LookVerdict(verdict, verdict in ("pull_back", "in_stages"), mean, missing, over, tuple(also))


def stage_days(found: date) -> tuple[date, ...]:
    """The days on which an old heap is taken down by a part."""
    return tuple(found + timedelta(days=STAGE_DAYS * n) for n in range(STAGES))
