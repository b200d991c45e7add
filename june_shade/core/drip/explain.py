"""The sum behind a layout's figures: from one watering to bulbs, shares, minutes and pressure, line by line."""

import numpy as np

from june_shade.core.drip.catch import low_quarter
from june_shade.core.drip.choice import LayoutChoice
from june_shade.core.drip.scene import Scene
from june_shade.core.drip.verdict import Fed, Verdict
from june_shade.core.working import COMMON_PRACTICE, Step, worked

GEOMETRY = "exact geometry"


def of_layout(choice: LayoutChoice, scene: Scene, fed: Fed, verdict: Verdict) -> tuple[Step, ...]:
    """The working of one layout."""
    flows = np.array(fed.emitter_l_per_h)
    one = int(np.argmin(verdict.depths_m))
    count, total = len(flows), verdict.figures.flow_l_per_h
    each = scene.volume_l * (flows[one] / np.sum(flows) if np.sum(flows) > 0 else 1 / count)
    ks = scene.proven_conductivity_mm_h if scene.proven_conductivity_mm_h is not None else scene.conductivity_mm_h
    found = [
        worked("drip_each", "V = watering × q / Σq", each, "L", GEOMETRY,
             watering=(scene.volume_l, "L"), q=(flows[one], "L/h"), Σq=(np.sum(flows), "L/h")),
        worked("drip_width", "w = 0.031 V^0.22 (Ks/q)^−0.17", verdict.widths_m[one], "m", "[SZ86]",
             V=(each, "L"), Ks=(ks, "mm/h"), q=(flows[one], "L/h")),
        worked("drip_depth", "z = 29.2 V^0.63 (Ks/q)^0.45", verdict.depths_m[one], "m", "[SZ86]",
             V=(each, "L"), Ks=(ks, "mm/h"), q=(flows[one], "L/h")),
        worked("drip_share", "s = Σ q (circle on ball / circle) / Σq", verdict.figures.ball_share, "", GEOMETRY,
             r_b=(scene.ball_radius_m, "m")),
        worked("drip_fraction", "wetted of root zone / root zone", verdict.figures.wetted_fraction, "", GEOMETRY,
             R=(scene.roots_next_m, "m"), zone=(verdict.zone_m2, "m2"), dry=(scene.dry_m, "m")),
        worked("drip_minutes", "60 V / Q", verdict.run.run_min, "min", GEOMETRY,
             V=(scene.volume_l, "L"), Q=(total, "L/h")),
        worked("drip_rate", "Q / wetted area", verdict.run.rate_mm_h, "mm/h", GEOMETRY,
             Q=(total, "L/h"), area=(verdict.figures.union_m2, "m2"), intake=(scene.intake_mm_h, "mm/h")),
        worked("drip_head", "least head at an emitter", fed.worst_head_m, "m", "[TP88]"),
        _evenness(fed, flows),
    ]  # fmt: skip
    found = [one for one in found if not np.isnan(one.value)]
    if verdict.days_to_move is not None:
        found.append(worked("drip_move", "R(t) = reach", verdict.days_to_move, "day", COMMON_PRACTICE,
                          R=(scene.roots_now_m, "m"), reach=(verdict.figures.reach_m, "m")))  # fmt: skip
    return tuple(found)


def _evenness(fed: Fed, flows: np.ndarray) -> Step:
    even, mean = fed.uniformity_percent, (np.mean(flows), "L/h")
    if fed.caught:
        return worked(
            "drip_even", "100 q_low/q_avg", even, "%", "[MK78]", q_low=(low_quarter(flows), "L/h"), q_avg=mean
        )
    return worked("drip_even", "100 (1 − 1.27 CV/√n) q_min/q_avg", even, "%", "[KK74]",
                  n=(len(flows), ""), q_min=(np.min(flows), "L/h"), q_avg=mean)  # fmt: skip
