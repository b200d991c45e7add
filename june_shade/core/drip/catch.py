"""The catch test: a cup under each emitter for a timed run says what each gives, and which is blocked or leaks."""

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from june_shade.core.drip.judge import Finding
from june_shade.core.drip.verdict import Fed
from june_shade.core.errors import InputError
from june_shade.core.numbers import Numbers

BLOCKED, WEAK, LEAKING = 0.25, 0.75, 1.5
"""Parts of the median flow, each over what its emitter is sold as: up to the first an emitter is blocked, from there to
under the second weak, over the third it leaks (common practice)."""
LOSING = 0.9
"""An emitter that gives less than this part of what it gave in the test before is clogging (common practice)."""
ML_PER_L, MIN_PER_H = 1000.0, 60.0


@dataclass(frozen=True, slots=True)
class Catch:
    """What cups say of their emitters.

    flows_l_per_h: of each, in the order of the cups; shares: over what each is sold as. mean_l_per_h,
    low_quarter_l_per_h: of all, of the least quarter.
    uniformity: low quarter over mean; variation: coefficient of variation; both of the shares, None where nothing was
    caught. of_nominal: all over what all are sold as. blocked, weak, leaking: their numbers, from 1.
    """

    flows_l_per_h: tuple[float, ...]
    shares: tuple[float, ...]
    mean_l_per_h: float
    low_quarter_l_per_h: float
    uniformity: float | None
    variation: float | None
    of_nominal: float
    blocked: tuple[int, ...]
    weak: tuple[int, ...]
    leaking: tuple[int, ...]

    @property
    def to_clean(self) -> tuple[int, ...]:
        """Numbers of the emitters to clean or change."""
        return tuple(sorted((*self.blocked, *self.weak)))


def flows_l_per_h(caught_ml: Numbers, minutes: Numbers) -> Numbers:
    """What emitters give [L/h].

    caught_ml: in each cup [mL], minutes: that it ran [min], above 0. Arrays broadcast.
    """
    return np.asarray(caught_ml) / ML_PER_L * MIN_PER_H / minutes


def low_quarter(values: Numbers) -> float:
    """Mean of the least quarter of some values, of one of them at least. In their unit; values: shape (n,), n > 0."""
    ordered = np.sort(np.asarray(values, float))
    return float(np.mean(ordered[: max(1, len(ordered) // 4)]))


def uniformity(values: Numbers) -> float | None:
    """Distribution uniformity of the low quarter, 0..1; None where all values are 0.

    values: flows or volumes in one unit, shape (n,), n > 0. Low quarter over mean, as [MK78].
    """
    mean = float(np.mean(values))
    return low_quarter(values) / mean if mean > 0 else None


def variation(values: Numbers) -> float | None:
    """Coefficient of variation, with the sample's standard deviation; 0 of one value, None where all are 0.

    values: flows or volumes in one unit, shape (n,), n > 0.
    """
    mean = float(np.mean(values))
    if mean <= 0:
        return None
    return float(np.std(values, ddof=1)) / mean if np.size(values) > 1 else 0.0


def caught(minutes: float, caught_ml: Sequence[float], nominal_l_per_h: Numbers) -> Catch:
    """What a catch test says.

    minutes: that it ran [min], above 0. caught_ml: in each cup [mL], in the emitters' order, shape (n,), n > 0.
    nominal_l_per_h: what emitters are sold as [L/h], above 0: one for all, or shape (n,). Raises
    InputError naming which is wrong.
    """
    if not caught_ml:
        raise InputError("needs one cup at least", "caught_ml")
    flows = flows_l_per_h(np.asarray(caught_ml, float), minutes)
    shares, numbers = flows / nominal_l_per_h, np.arange(1, len(flows) + 1)
    middle = float(np.median(shares))
    is_blocked = shares <= BLOCKED * middle
    return Catch(
        flows_l_per_h=tuple(float(q) for q in flows),
        shares=tuple(float(share) for share in shares),
        mean_l_per_h=float(np.mean(flows)),
        low_quarter_l_per_h=low_quarter(flows),
        uniformity=uniformity(shares),
        variation=variation(shares),
        of_nominal=float(np.sum(flows) / np.sum(np.broadcast_to(nominal_l_per_h, flows.shape))),
        blocked=_numbers(numbers[is_blocked]),
        weak=_numbers(numbers[~is_blocked & (shares < WEAK * middle)]),
        leaking=_numbers(numbers[shares > LEAKING * middle]),
    )


def _numbers(which: Numbers) -> tuple[int, ...]:
    return tuple(int(n) for n in which)


@dataclass(frozen=True, slots=True)
class Since:
    """What became of a layout since the test before. changed: mean flow now over then, less 1. losing: numbers of
    emitters that give under 0.9 of what they gave."""

    changed: float | None
    losing: tuple[int, ...]


def since(found: Catch, before: Catch) -> Since:
    """What a test says against the one before it, of the same emitters in the same order.

    changed is None where nothing was caught before. Raises InputError where there were other emitters.
    """
    now, then = np.array(found.flows_l_per_h), np.array(before.flows_l_per_h)
    if now.shape != then.shape:
        raise InputError("must be of the same emitters as the test before", "caught_ml")
    changed = found.mean_l_per_h / before.mean_l_per_h - 1.0 if before.mean_l_per_h > 0 else None
    return Since(changed, _numbers(np.flatnonzero(now < LOSING * then) + 1))


@dataclass(frozen=True, slots=True)
class OverTrees:
    """How even a line was found over its trees. tested: how many of them; uniformity: low quarter over mean of what an
    emitter gives at each, None where nothing comes; least: which of those tested gets least, from 0."""

    tested: int
    uniformity: float | None
    least: int


def over_trees(found: Sequence[Catch]) -> OverTrees:
    """What catch tests of a line's trees, one at least, say of the line: each tree counts as one."""
    means = [one.mean_l_per_h for one in found]
    return OverTrees(len(found), uniformity(means), int(np.argmin(means)))


def measured(fed: Fed, found: Catch) -> Fed:
    """A tree as its emitters were found to give, in place of what the hydraulics make of it; heads stay as computed.

    Its evenness is then that of the low quarter, as [MK78] judges one that lies. Raises InputError where there is not a
    cup for each emitter.
    """
    if len(found.flows_l_per_h) != len(fed.emitter_l_per_h):
        raise InputError(f"needs a cup under each of its {len(fed.emitter_l_per_h)} emitters", "caught_ml")
    return replace(
        fed, emitter_l_per_h=found.flows_l_per_h, uniformity_percent=100.0 * (found.uniformity or 0.0),
        findings=(*fed.findings, *findings(found)), caught=True,
    )  # fmt: skip


def findings(found: Catch) -> list[Finding]:
    """emitter_blocked, emitter_weak, emitter_leaking: one for each emitter, its number in `where`."""
    middle = float(np.median(found.shares))
    words = {"emitter_blocked": "gives next to nothing", "emitter_weak": "gives little", "emitter_leaking": "leaks"}
    of_code = {"emitter_blocked": found.blocked, "emitter_weak": found.weak, "emitter_leaking": found.leaking}
    return [
        Finding(
            code,
            f"emitter {n} {words[code]}: {found.shares[n - 1]:.0%} of what it is sold as, the middle one {middle:.0%}",
            str(n),
        )
        for code, which in of_code.items()
        for n in which
    ]
