"""The check-up: what ails a tree by what was found at it, what to do about its water now, what to look at next.

Causes by Bayes' rule with findings taken as independent under each cause; the act on water of least expected loss; the
next test by what it would save of that loss a minute. Answers are words of the table (`table.py`), `trunk` beside it.
"""

from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np

from june_shade.core.errors import InputError
from june_shade.core.looking.table import ACTS, TRUNK, WATERINGS, Table, table

SURE = 0.6
"""From this probability on a cause, or a group of causes, is the verdict (calibrated)."""
GROUPS = {"thirsty": ("dry", "dry_ball", "delivery"), "drowning": ("wet", "rot")}
CATCH = 0.2
"""From this probability of a poor delivery on it is measured (calibrated)."""
ENOUGH_DAYS = 0.05
"""A test that saves less of the expected loss [days of growth] changes nothing that is done (calibrated)."""
SAME, EQUAL = 9, 12
"""Figures are compared to so many decimals: tests, and causes and acts, so that rounding decides nothing."""
SEEN = {
    ("flare", "buried"): "expose_flare", ("circling", "girdle"): "cut_circling",
    ("bark_base", "loose_white"): "arborist", ("push", "moves"): "stake_and_firm", ("smell", "sour"): "drain_test",
    ("trunk", "tie_biting"): "take_tie_off", ("trunk", "wound"): "guard_trunk", ("trunk", "gnawed"): "guard_trunk",
}  # fmt: skip
"""What was seen and is acted on at once, in this order."""
BY_VERDICT = {
    "wet": ("drain_test",), "deep": ("expose_flare",), "girdled": ("cut_circling",),
    "rot": ("expose_flare", "arborist"), "salt": ("flush_salts",), "heat": ("shade_and_mulch",), "shock": ("wait",),
    "loose": ("stake_and_firm",), "pest": ("identify_pest",), "unclear": ("look_further",),
}  # fmt: skip
LOOK_AGAIN = {"dead": 14, "thirsty": 2, "drowning": 3, "unclear": 7}
"""Days to the next look by verdict; a single cause has its own in the table."""
AFTER_WATER, AFTER_STOP = 2, 3
"""At most so many days after a watering, after a stop."""
ACTIONS = (
    *ACTS[1:], "look_again_before_removal", "remove_and_replant", *dict.fromkeys(SEEN.values()), "catch_test",
    "flush_salts", "shade_and_mulch", "wait", "identify_pest", "look_further",
)  # fmt: skip
VERDICTS = ("dead", *table().causes, *GROUPS, "unclear")


@dataclass(frozen=True, slots=True)
class Evidence:
    """What one finding by itself says for (above 0) or against a cause [dB]; findings are not to be added up."""

    finding: str
    value: str
    weight_db: float


@dataclass(frozen=True, slots=True)
class Cause:
    """A cause, how likely it is, and what each finding says of it."""

    cause: str
    probability: float
    evidence: tuple[Evidence, ...]


@dataclass(frozen=True, slots=True)
class Test:
    """A test not taken yet: what of the expected loss it is expected to save [days of growth], what it is expected to
    tell [bits], minutes."""

    finding: str
    loss_saved: float
    bits: float
    minutes: float

    @property
    def is_worth_it(self) -> bool:
        """Whether it could change what is done."""
        return self.loss_saved >= ENOUGH_DAYS


@dataclass(frozen=True, slots=True)
class Checkup:
    """What findings come to: causes by falling probability, tests that are left, the most telling first.

    water_act: None for a dead tree. expected_loss: of the best act [days of growth]. look_again_days: to the next look.
    """

    causes: tuple[Cause, ...]
    next: tuple[Test, ...]
    verdict: str
    water_act: str | None
    expected_loss: float
    actions: tuple[str, ...]
    look_again_days: int


def check(findings: Mapping[str, str]) -> None:
    """Refuse a finding or an answer that is none, naming it."""
    known = {name: one.answers for name, one in table().findings.items()} | {"trunk": TRUNK}
    for name, value in findings.items():
        if name not in known:
            raise InputError(f"must be one of {', '.join(known)}, not {name!r}", "findings")
        if value not in known[name]:
            raise InputError(f"must be one of {', '.join(known[name])}, not {value!r}", f"findings.{name}")


def posterior(findings: Mapping[str, str]) -> np.ndarray:
    """Probability of each cause after what was found, array (causes,), summing to 1."""
    known = table()
    product = known.prior.copy()
    for name, value in findings.items():
        if name in known.findings:
            one = known.findings[name]
            product *= one.likelihood[one.answers.index(value)]
    return product / product.sum()


def best_act(causes: np.ndarray, *, wet_ball: bool) -> tuple[str, float]:
    """The act of least expected loss and that loss [days of growth]. causes: probabilities, array (causes,).

    wet_ball: no watering then: wilt of a wet ball is never treated by water.
    """
    expected = table().loss @ causes
    allowed = [i for i, act in enumerate(ACTS) if not (wet_ball and act in WATERINGS)]
    best = min(allowed, key=lambda i: (round(float(expected[i]), EQUAL), i))
    return ACTS[best], float(expected[best])


def _entropy_bits(causes: np.ndarray) -> float:
    some = causes[causes > 0]
    return float(-np.sum(some * np.log2(some)))


def tests_left(findings: Mapping[str, str]) -> tuple[Test, ...]:
    """Tests of the table that were not taken, by what they are expected to save a minute, then to tell a minute."""
    known, now = table(), posterior(findings)
    wet = findings.get("ball_feel") == "wet"
    loss = best_act(now, wet_ball=wet)[1]
    entropy = _entropy_bits(now)
    found = []
    for name, one in known.findings.items():
        if name in findings or one.minutes <= 0:
            continue
        joint = one.likelihood * now
        chance = joint.sum(axis=1)
        after_loss = after_entropy = 0.0
        for answer, p, row in zip(one.answers, chance, joint, strict=True):
            then = row / p
            after_loss += p * best_act(then, wet_ball=wet or (name, answer) == ("ball_feel", "wet"))[1]
            after_entropy += p * _entropy_bits(then)
        found.append(Test(name, loss - float(after_loss), entropy - float(after_entropy), one.minutes))
    order = list(known.findings)
    return tuple(sorted(found, key=lambda t: (
        -round(t.loss_saved / t.minutes, SAME), -round(t.bits / t.minutes, SAME), order.index(t.finding),
    )))  # fmt: skip


def evidence(finding: str, value: str) -> np.ndarray:
    """What one answer says for or against each cause [dB], array (causes,): its likelihood under the cause over that
    under all others, each as likely as it is beforehand."""
    known = table()
    one = known.findings[finding]
    likelihood = one.likelihood[one.answers.index(value)]
    weighted = known.prior * likelihood
    others = (weighted.sum() - weighted) / (1.0 - known.prior)
    return 10.0 * np.log10(likelihood / others)


def checkup(findings: Mapping[str, str], *, dead_before: bool = False) -> Checkup:
    """What was found, weighed. dead_before: a look 14 or more days ago, in leaf season, called the tree dead too.

    Raises InputError for an answer that is none.
    """
    check(findings)
    known, found = table(), posterior(findings)
    act, loss = best_act(found, wet_ball=findings.get("ball_feel") == "wet")
    verdict = _verdict(findings, dict(zip(known.causes, found, strict=True)))
    told = {name: evidence(name, value) for name, value in findings.items() if name in known.findings}
    causes = [
        Cause(
            known.causes[c], float(found[c]),
            tuple(Evidence(name, findings[name], float(told[name][c])) for name in told),
        )
        for c in sorted(range(len(known.causes)), key=lambda c: (-round(float(found[c]), EQUAL), c))
    ]  # fmt: skip
    dead = verdict == "dead"
    delivery = float(found[known.causes.index("delivery")])
    actions = _dead_actions(dead_before) if dead else _actions(findings, act, verdict, delivery)
    return Checkup(
        tuple(causes), tests_left(findings), verdict, None if dead else act, loss, actions,
        _look_again_days(known, verdict, None if dead else act),
    )  # fmt: skip


def _verdict(findings: Mapping[str, str], probability: Mapping[str, float]) -> str:
    if findings.get("scratch") == "brown":
        return "dead"
    first = max(probability, key=lambda cause: probability[cause])
    if probability[first] >= SURE:
        return first
    for name, group in GROUPS.items():
        if sum(probability[cause] for cause in group) >= SURE:
            return name
    return "unclear"


def _dead_actions(dead_before: bool) -> tuple[str, ...]:
    return ("remove_and_replant",) if dead_before else ("look_again_before_removal",)


def _actions(findings: Mapping[str, str], act: str, verdict: str, delivery: float) -> tuple[str, ...]:
    found = [act] if act != "carry_on" else []
    found += [action for (name, value), action in SEEN.items() if findings.get(name) == value]
    if delivery >= CATCH:
        found.append("catch_test")
    found += BY_VERDICT.get(verdict, ())
    return tuple(dict.fromkeys(found))


def _look_again_days(known: Table, verdict: str, act: str | None) -> int:
    own = dict(zip(known.causes, known.look_again_days, strict=True)) | LOOK_AGAIN
    days = int(own[verdict])
    if act in WATERINGS:
        days = min(days, AFTER_WATER)
    return min(days, AFTER_STOP) if act == "stop_water" else days
