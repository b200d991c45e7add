"""The hole of one ball: a saucer with sloping sides, its depth counted from the flare. Lengths m, volumes L, weight kg.

Sources: exact geometry of a cone frustum; widths and bands common practice.
"""

from dataclasses import dataclass

from june_shade.core.errors import InputError
from june_shade.core.mulch.ring import Finding
from june_shade.core.soil.textures import soil
from june_shade.core.stock import balls, weight
from june_shade.core.stock.look import USUAL_SOIL
from june_shade.core.units import in_m
from june_shade.core.working import COMMON_PRACTICE, Step, worked

USUAL_RATIO, CLAY_RATIO, LEAST_RATIO = 2.5, 3.0, 2.0
ROUND_BALL_M = 0.10
"""The base is so much wider than the ball: room for hands and feet (common practice)."""
LIFT_CODES = {"two_people": "two_people", "cart_or_sling": "ball_cart", "machine": "machine"}
LIFT_WORDS = {
    "two_people": "takes two people", "ball_cart": "takes a ball cart, a ramp or a sling, not hands",
    "machine": "takes a machine with rated slings",
}  # fmt: skip


@dataclass(frozen=True, slots=True)
class Ball:
    """The stock as it comes: kind, ball across and high (a box's side, bare root's spread), soil over the flare [m]."""

    kind: str
    diameter_m: float
    height_m: float
    flare_below_top_m: float = 0.0
    volume_l: float | None = None

    @property
    def below_flare_m(self) -> float:
        """Ball from the flare down [m]."""
        return self.height_m - self.flare_below_top_m


@dataclass(frozen=True, slots=True)
class Hole:
    """Measures [m], volumes [L], the ball's weight as it comes and soaked [kg]; stake_mark_m: depth under the stake."""

    top_diameter_m: float
    base_diameter_m: float
    depth_m: float
    hole_l: float
    ball_volume_l: float
    ball_buried_l: float
    backfill_l: float
    spoil_l: float
    ball_weight_kg: float
    soaked_kg: float
    lift: str
    stake_mark_m: float
    findings: tuple[Finding, ...]


def check(ball: Ball, raise_m: float, width_ratio: float) -> None:
    """Refuse what can't be dug, naming the field.

    width_ratio: top of the hole over the ball's diameter [-].
    """
    if ball.kind not in balls.KINDS:
        raise InputError(f"must be one of {', '.join(balls.KINDS)}, not {ball.kind!r}", "kind")
    if ball.flare_below_top_m >= ball.height_m:
        raise InputError(
            f"must be under the ball's height of {in_m(ball.height_m)}, not "
            f"{in_m(ball.flare_below_top_m)}: nothing of the ball would be left under the flare", "flare_below_top_m",
        )  # fmt: skip
    if raise_m >= ball.below_flare_m:
        raise InputError(
            f"must be under {in_m(ball.below_flare_m)}, what the ball has under its flare, not {in_m(raise_m)}",
            "raise_m",
        )
    if width_ratio < 1:
        raise InputError(f"must be at least 1, not {width_ratio:g}: the ball is wider than the hole", "width_ratio")


def hole(ball: Ball, raise_m: float = 0.0, width_ratio: float = USUAL_RATIO) -> Hole:
    """The hole for a ball whose flare ends up `raise_m` above grade (below where negative).

    top = ratio x ball, base = ball + 10 cm, depth = ball under the flare - raise, V = pi h/12 (D2 + D d + d2);
    buried ball = its volume x depth / height, held to 0..its volume; backfill = hole - buried.
    width_ratio: top of the hole over the ball's diameter [-].
    """
    check(ball, raise_m, width_ratio)
    depth = ball.below_flare_m - raise_m
    top, base = width_ratio * ball.diameter_m, ball.diameter_m + ROUND_BALL_M
    dug = balls.frustum_l(top, base, depth)
    volume = volume_l(ball)
    buried = min(volume, max(0.0, volume * depth / ball.height_m))
    soaked = weight.ball_kg(ball.kind, volume, soaked=True)
    lift = weight.lift(soaked)
    found = []
    if lift in LIFT_CODES and volume > 0:
        code = LIFT_CODES[lift]
        found.append(Finding(code, f"{soaked:.0f} kg soaked, the ball alone, {LIFT_WORDS[code]}"))
    if width_ratio < LEAST_RATIO:
        found.append(
            Finding("hole_narrow", f"{width_ratio:g} times the ball across; dig {LEAST_RATIO:g} times at least")
        )
    return Hole(
        top, base, depth, dug, volume, buried, max(0.0, dug - buried), buried, weight.ball_kg(ball.kind, volume),
        soaked, lift, depth, tuple(found),
    )  # fmt: skip


def volume_l(ball: Ball) -> float:
    """Volume of a ball [L], 0 for bare roots: the measured one, else by its shape."""
    if ball.kind == "bare_root":
        return 0.0
    if ball.volume_l is not None:
        return ball.volume_l
    medium = balls.medium(ball.kind, soil(USUAL_SOIL))
    radius = balls.radius_m(ball.kind, ball.diameter_m)
    return float(balls.ball_volume_l(medium.shape_k, radius, ball.height_m))


def usual_ratio(texture: str) -> float:
    """Hole width over ball: 3 in heavy clay, else 2.5 (common practice)."""
    return CLAY_RATIO if texture in ("clay", "silty_clay", "sandy_clay") else USUAL_RATIO


def working(ball: Ball, made: Hole, raise_m: float, width_ratio: float) -> tuple[Step, ...]:
    """The sum behind a hole.

    width_ratio: top of the hole over the ball's diameter [-].
    """
    exact = "exact geometry"
    return (
        worked("planting.depth", "h = (H − soil over the flare) − raise", made.depth_m, "m", COMMON_PRACTICE,
             H=(ball.height_m, "m"), over=(ball.flare_below_top_m, "m"), **{"raise": (raise_m, "m")}),
        worked("planting.top", "D = ratio × ball", made.top_diameter_m, "m", COMMON_PRACTICE,
             ratio=(width_ratio, ""), ball=(ball.diameter_m, "m")),
        worked("planting.base", "d = ball + 10 cm", made.base_diameter_m, "m", COMMON_PRACTICE,
             ball=(ball.diameter_m, "m")),
        worked("planting.hole", "1000 π h/12 (D² + D d + d²)", made.hole_l, "L", exact,
             h=(made.depth_m, "m"), D=(made.top_diameter_m, "m"), d=(made.base_diameter_m, "m")),
        worked("planting.buried", "V × h/H", made.ball_buried_l, "L", exact,
             V=(made.ball_volume_l, "L"), h=(made.depth_m, "m"), H=(ball.height_m, "m")),
        worked("planting.backfill", "hole − buried ball", made.backfill_l, "L", exact,
             hole=(made.hole_l, "L"), ball=(made.ball_buried_l, "L")),
        worked("planting.weight", "V × kg/L", made.ball_weight_kg, "kg", COMMON_PRACTICE, V=(made.ball_volume_l, "L"),
             soaked=(made.soaked_kg, "kg")),
    )  # fmt: skip
