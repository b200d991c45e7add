"""From stored rows to the core's descriptions: a tree, how it is poured, what salty water asks of it."""

from dataclasses import dataclass
from datetime import date
from types import SimpleNamespace
from typing import Any

from june_shade.core.drip.judge import is_dry_ball
from june_shade.core.errors import InputError
from june_shade.core.soil.in_force import InForce
from june_shade.core.stock import balls, plants
from june_shade.core.water import delivery, modes, reach, salts
from june_shade.core.water import trees as tree_model
from june_shade.core.water.delivery import Delivery, Pour
from june_shade.core.water.reach import Ball, Landing
from june_shade.plans import soil_in_force as grounds
from june_shade.store.session import Session
from june_shade.store.site_tables import Site


def delivery_of(row: Any, site: Any, leaching: float) -> Delivery:
    """How a stored tree is poured; a layout that was laid says how many emitters, and what its line gives them."""
    count, flow, wetted = row.emitter_count, row.emitter_flow_l_per_h, 0.0
    if laid := is_laid(row):
        count, flow, wetted = len(laid), row.drip_flow_l_per_h / len(laid), row.drip_wetted_m2
    return Delivery(
        method=row.method,
        flow_l_per_h=(row.method == "tank" and site.tank_flow_l_per_h) or site.hose_flow_l_per_h,
        basin_diameter_m=row.basin_diameter_m,
        basin_depth_m=row.basin_depth_m,
        bag_capacity_l=row.bag_capacity_l,
        emitters=count,
        emitter_flow_l_per_h=flow,
        wetted_m2=wetted,
        soaker_across_m=row.soaker_across_m or 0.0,
        soaker_flow_l_per_h_m=row.soaker_flow_l_per_h_m or 0.0,
        sprinkler_across_m=row.sprinkler_across_m or 0.0,
        sprinkler_flow_l_per_h=row.sprinkler_flow_l_per_h or 0.0,
        reservoir_l=(row.reservoir_l or 0.0) if row.method == "wicked" else 0.0,
        step_l=site.pour_step_l,
        leaching=leaching,
    )


def is_laid(row: Any) -> list[list[float]] | None:
    """The emitters of a tree's layout in force, where it goes by one."""
    return getattr(row, "drip_emitters", None) if row.method == "emitters" else None


def ball_of(row: Any, spec_radius_m: float, taw_l: float, conductivity_mm_h: float) -> Ball:
    """What a way of pouring needs to know of a stored tree."""
    established = float(balls.established_radius_m(spec_radius_m, row.caliper_m))
    return Ball(spec_radius_m, established, row.kind, taw_l, conductivity_mm_h)


def landing_of(row: Any, how: Delivery, ball: Ball) -> Landing:
    """Where the water of a stored tree lands, or landed; row: its facts, or a former way of watering it."""
    if row.method == "emitters" and row.drip_ball_share is not None:
        profile = row.drip_profile_m2
        if profile is None:  # laid before profiles were kept: as its emitters were counted
            profile = reach.of_way(how, ball).wetted_m2
        return reach.of_layout(row.drip_ball_share, profile, row.basin_diameter_m)
    return reach.of_way(how, ball)


@dataclass(frozen=True, slots=True)
class Described:
    """A tree as the core takes it: itself, how it is poured and where that lands, its ball."""

    spec: tree_model.TreeSpec
    how: Delivery
    landing: Landing
    ball: Ball


def describe(row: Any, site: Any, found: InForce, today: date) -> Described:
    """The core's description of a stored tree and of how it is watered now. site: its facts."""
    ground, radius = found.soil, balls.radius_m(row.kind, row.ball_diameter_m)
    how = delivery_of(row, site, leaching_of(row, site, today).share)
    wanted = modes.mode(row.mode or site.mode)
    medium = balls.medium(row.kind, ground)
    volume = row.ball_volume_l or balls.ball_volume_l(medium.shape_k, radius, row.ball_height_m)
    mulched = row.mulch_material is not None and row.mulch_outer_radius_m is not None
    floor = plants.NEW_PLANT_FACTOR_HUMID if site.climate == "humid" else plants.NEW_PLANT_FACTOR
    crown, on_its_own = row.crown_diameter_m, row.handed_on is not None
    ball = ball_of(row, radius, float(medium.awc * volume), ground.conductivity_mm_h)
    if on_its_own:
        how = delivery.on_the_ring(how, reach.deep_ring_m2(ball))
    spec = tree_model.TreeSpec(
        kind=row.kind,
        caliper_m=row.caliper_m,
        ball_diameter_m=row.ball_diameter_m,
        ball_height_m=row.ball_height_m,
        ball_volume_l=row.ball_volume_l,
        crown_diameter_m=balls.crown_diameter_from_caliper_m(row.caliper_m) if crown is None else crown,
        soil=ground,
        plant_factor=plants.plant_factor(row.water_need),
        new_plant_factor=floor,
        microclimate=tree_model.microclimate(row.microclimate, row.surround, row.mulch_material if mulched else None),
        depletion_fraction=row.depletion_fraction,
        root_depth_max_m=found.root_depth_max_m,
        mulch_outer_radius_m=row.mulch_outer_radius_m if mulched else 0.0,
        mulch_gap_radius_m=row.caliper_m / 2 + row.mulch_clear_gap_m if mulched else 0.0,
        surround=row.surround,
        dryness_limit=wanted.dryness_limit,
        ks_floor=wanted.ks_floor,
    )
    return Described(spec, how, reach.of_deep(ball) if on_its_own else landing_of(row, how, ball), ball)


NEW_BALL_UPTAKE = 1.0
"""A tree that was just planted drinks from its ball alone."""


@dataclass(frozen=True, slots=True)
class PourLook:
    """What a way of pouring does for a ball: shares 0..1, flow, whether it leaves a new ball dry, half a refill."""

    ball_share: float
    efficiency: float
    flow_l_per_h: float
    dry_ball: bool
    pour: Pour


def look_at_pouring(session: Session, site: Site, values: dict[str, Any]) -> PourLook:
    """A way of pouring before it is saved. values: kind, ball and the columns of the method."""
    ground = grounds.in_force(session, site).soil
    how = delivery_of(SimpleNamespace(**values), site, 0.0)
    if delivery.flow_l_per_h(how) <= 0:
        raise InputError("needs a flow above 0", "method")
    radius = balls.radius_m(values["kind"], values["ball_diameter_m"])
    medium = balls.medium(values["kind"], ground)
    taw = medium.awc * float(balls.ball_volume_l(medium.shape_k, radius, values["ball_height_m"]))
    share = delivery.ball_share(how, radius, values["kind"], ground.conductivity_mm_h, taw)
    arrives = delivery.efficiency(how.method)
    gross = delivery.half_refill_l(taw, share, arrives)
    poured = delivery.pour(how, gross, radius, ground.intake_mm_h, delivery.METRIC_STEP_L)
    return PourLook(share, arrives, delivery.flow_l_per_h(how), is_dry_ball(share, NEW_BALL_UPTAKE), poured)


def leaching_of(row: Any, site: Any, today: date) -> salts.Leaching:
    """How much of the site's water only washes salts down at a tree, and whether the water is beyond it."""
    water_ec = salts.conductivity(site.water_source, site.water_ec_ds_m)
    return salts.for_tree(water_ec, row.salt_tolerance, newly_planted=(today - row.planted_on).days < salts.NEW_DAYS)
