"""Where a tree stands, as a phone beside it says, once."""

from uuid import UUID

from june_shade.core.errors import InputError
from june_shade.core.weather.place import distance_km
from june_shade.plans import register
from june_shade.store.session import Session
from june_shade.store.tree_tables import Tree

MOST_OFF_M = 30.0
"""A phone that knows its place no better does not tell one tree of a row from the next but three (common practice)."""
FAR_KM = 25.0
"""So far from its site nobody stands beside a tree of it: it is another tree, or another phone."""


def put(session: Session, tree_id: UUID, latitude_deg: float, longitude_deg: float, accuracy_m: float) -> Tree:
    """Keep where a tree stands [decimal degrees], as well as the phone knows it [m].

    Raises InputError for a place that is too vague, or too far from the tree's site.
    """
    if accuracy_m > MOST_OFF_M:
        raise InputError(
            f"the phone knows its place only to within {accuracy_m:.0f}\u00a0m: step out from under roofs and "
            "crowns, wait a moment, and try again", "accuracy_m",
        )  # fmt: skip
    site = register.tree(session, tree_id).site
    away_km = distance_km(site.latitude_deg, site.longitude_deg, latitude_deg, longitude_deg)
    if away_km > FAR_KM:
        raise InputError(
            f"this is {away_km:.0f}\u00a0km from {site.name}: is it the right tree, or are the site's coordinates "
            "wrong?", "latitude_deg",
        )  # fmt: skip
    rounded = {"latitude_deg": round(latitude_deg, 6), "longitude_deg": round(longitude_deg, 6)}
    return register.change_trees(session, [tree_id], rounded)[0]
