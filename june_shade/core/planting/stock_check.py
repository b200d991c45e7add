"""The look at a tree before it goes into the ground: a short guided check that can send it back.

Answers are words of closed lists; each asks for something to be done, or rejects the tree. Sources: [A300P6], [Z60]
(from memory), else common practice.
"""

from collections.abc import Mapping
from dataclasses import dataclass

from june_shade.core.errors import InputError
from june_shade.core.stock.measures import ball_depth_m
from june_shade.core.units import in_m

QUESTIONS: dict[str, tuple[str, ...]] = {
    "ball": ("firm", "cracked", "trunk_moves"),
    "feel": ("wet", "moist", "drying", "dry"),
    "roots": ("radial", "circling", "matted", "tap_bent", "broken"),
    "girdling": ("none", "under_third", "over_third"),
    "bark": ("sound", "small_wound", "large_wound", "rot"),
    "scratch": ("green", "green_low", "brown"),
    "top": ("fine", "dead_tips", "leader_broken", "mostly_dead"),
}
"""What is asked, and the answers there are."""
HIDDEN = {"balled": ("roots",), "bare_root": ("ball",)}
"""What can't be seen or felt of a kind of stock: roots are in burlap until it stands; bare roots have no ball."""


def asked_of(kind: str) -> dict[str, tuple[str, ...]]:
    """The questions that a kind of stock can answer before it is planted."""
    return {question: words for question, words in QUESTIONS.items() if question not in HIDDEN.get(kind, ())}


REJECTS: dict[tuple[str, str], str] = {
    ("ball", "cracked"): "ball_cracked", ("ball", "trunk_moves"): "trunk_moves", ("girdling", "over_third"): "girdled",
    ("bark", "large_wound"): "wounded", ("bark", "rot"): "rot", ("scratch", "brown"): "dead",
    ("top", "mostly_dead"): "dying",
}  # fmt: skip
DO: dict[tuple[str, str], str] = {
    ("feel", "drying"): "soak_first", ("feel", "dry"): "soak_first", ("roots", "circling"): "slice_sides",
    ("roots", "matted"): "slice_sides_and_base", ("roots", "tap_bent"): "cut_tap", ("roots", "broken"): "prune_roots",
    ("girdling", "under_third"): "cut_girdling", ("bark", "small_wound"): "leave_wound_open",
    ("scratch", "green_low"): "watch_dieback", ("top", "dead_tips"): "prune_dead",
    ("top", "leader_broken"): "train_leader",
}  # fmt: skip
ALWAYS = {
    "balled": ("undress_third", "straps_off"), "container": ("pot_off",), "box": ("pot_off",),
    "fabric_bag": ("pot_off",), "bare_root": ("soak_roots", "roots_shaded"),
}  # fmt: skip
LEAST_BELOW_FLARE = 0.75
"""Under the flare a ball has at least so much of what the standard asks for its width, or it goes back."""


@dataclass(frozen=True, slots=True)
class StockVerdict:
    """sound, mend or reject; why it is rejected; what is done before it goes in, all as codes, in order."""

    verdict: str
    reasons: tuple[str, ...]
    actions: tuple[str, ...]


def judge(
    kind: str, answers: Mapping[str, str], flare_below_top_m: float, ball_diameter_m: float, ball_height_m: float
) -> StockVerdict:
    """The verdict on one tree. Questions may be left out; lengths m. Raises InputError for an unknown word."""
    if not 0 <= flare_below_top_m < ball_height_m:
        raise InputError(
            f"must be between 0 and the ball's height of {in_m(ball_height_m)}, not {in_m(flare_below_top_m)}",
            "flare_below_top_m",
        )
    for question, answer in answers.items():
        if question not in QUESTIONS:
            raise InputError(f"must be one of {', '.join(QUESTIONS)}, not {question!r}", "answers")
        if answer not in QUESTIONS[question]:
            raise InputError(f"must be one of {', '.join(QUESTIONS[question])}, not {answer!r}", f"answers.{question}")
    given = [pair for pair in answers.items() if _applies(kind, *pair)]
    reasons = [REJECTS[pair] for pair in given if pair in REJECTS]
    if kind == "balled" and _short(flare_below_top_m, ball_diameter_m, ball_height_m):
        reasons.append("ball_short_under_flare")
    actions = list(ALWAYS[kind])
    if flare_below_top_m > 0:
        actions.insert(0, "soil_off_flare")
    asked = [DO[pair] for pair in given if pair in DO]
    verdict = "reject" if reasons else "mend" if asked or flare_below_top_m > 0 else "sound"
    return StockVerdict(verdict, tuple(reasons), tuple(actions + asked))


def _applies(kind: str, question: str, answer: str) -> bool:
    return not (question == "ball" and kind == "bare_root")


def _short(flare_below_top_m: float, ball_diameter_m: float, ball_height_m: float) -> bool:
    """Soil over the flare doesn't count as ball [Z60]: whether too little is left, though the ball looked right."""
    wanted = float(ball_depth_m(ball_diameter_m))
    left = ball_height_m - flare_below_top_m
    return flare_below_top_m > 0 and left < LEAST_BELOW_FLARE * min(wanted, ball_height_m)
