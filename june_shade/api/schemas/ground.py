"""The ground plan of a site. Places are metres east and north of the site's own coordinates."""

from datetime import date
from typing import Annotated, Literal
from uuid import UUID

from pydantic import Field

from june_shade.api.language import Sentence
from june_shade.api.schemas.common import In, Out, Words, quantity
from june_shade.api.schemas.trees import Next, Section
from june_shade.core.ground.rows import FARTHEST_M
from june_shade.core.ground.things import MOST_SPOTS

Metres = Annotated[float, Field(ge=-2 * FARTHEST_M, le=2 * FARTHEST_M)]
Spot = tuple[Metres, Metres]
"""East and north [m]."""
Pixel = Annotated[float, Field(ge=0, le=20_000)]
Latitude = Annotated[float, Field(ge=-90, le=90)]
Longitude = Annotated[float, Field(ge=-180, le=180)]
FeatureKind = Literal["hydrant", "valve", "gate", "paving", "building", "wall", "path", "bed", "water", "other"]
Basis = Literal["own", "row", "stop", "nowhere"]


class GroundBeside(Out):
    """What stands beside a tree: its kind and its outline."""

    kind: str
    outline: list[list[float]] = Field(description="East and north [m].")


class GroundTree(Out):
    """A tree on the plan."""

    id: UUID
    tag: str
    place: str
    common: str
    stop: str | None
    line: str | None
    x_m: float = quantity("m", "East")
    y_m: float = quantity("m", "North")
    basis: Basis = Field(description="What its place rests on: own coordinates, its row, its stop, nothing.")
    section: Section | None = Field(description="Null where nothing can be planned.")
    dryness: float | None = Field(description="This morning, 0..1.")
    next: Next | None
    turn: int | None = Field(description="Its place in today's round at this site, null where it is in none.")
    mulch_radius_m: float | None = quantity("m", "Mulch ring's outer radius")
    beside: list[GroundBeside]


class GroundStop(Out):
    """A stop on the plan."""

    id: UUID
    name: str
    x_m: float = quantity("m", "East")
    y_m: float = quantity("m", "North")


class GroundLine(Out):
    """A line on the plan: from its valve past its trees."""

    id: UUID
    name: str
    valve: list[float] = Field(description="East and north [m].")
    way: list[list[float]] = Field(description="East and north [m].")


class GroundThing(Out):
    """Something at the site besides its trees."""

    id: UUID
    kind: FeatureKind
    name: str
    shape: Literal["point", "line", "area"]
    paths: list[list[list[float]]] = Field(description="East and north [m].")


class GroundPicture(Out):
    """The picture under the plan. matrix: from its pixels to the plan, null until it was placed."""

    name: str = Field(description="Changes with the file.")
    width_px: int
    height_px: int
    matrix: list[float] | None
    m_per_px: float | None
    turned_deg: float | None = quantity("deg", "Turned clockwise")
    corners: list[list[float]] | None = Field(description="East and north [m].")


class GroundKind(Out):
    """A kind of thing that can be shown on a plan."""

    kind: FeatureKind
    shape: Literal["point", "line", "area"]
    least: int = Field(description="Spots that it needs.")


class GroundOut(Out):
    """A site's ground plan."""

    site_id: UUID
    name: str
    today: date
    trees: list[GroundTree]
    stops: list[GroundStop]
    lines: list[GroundLine]
    things: list[GroundThing]
    kinds: list[GroundKind]
    picture: GroundPicture | None


class GroundRowIn(In):
    """Trees in their order, and where the first and the last of them stand."""

    trees: Annotated[list[UUID], Field(min_length=1, max_length=200)]
    first: Spot
    last: Spot | None = None


class PlaceIO(In):
    """Where a tree stands, both null = nobody knows it."""

    tree_id: UUID
    latitude_deg: Latitude | None
    longitude_deg: Longitude | None


class GroundPlacesIn(In):
    """Where trees stand."""

    places: Annotated[list[PlaceIO], Field(min_length=1, max_length=500)]


class GroundPlacedOut(Out):
    """The plan after trees were placed, and where they stood before."""

    ground: GroundOut
    before: list[PlaceIO]


class GroundThingIn(In):
    """A thing, by the spots that show it: where it is, along it, or round its edge."""

    kind: FeatureKind
    name: Words = ""
    spots: Annotated[list[Spot], Field(min_length=1, max_length=MOST_SPOTS)]


class PointOfPicture(In):
    """A point of the picture, from its upper left corner, and where that is on the plan."""

    px: Pixel
    py: Pixel
    at: Spot


class GroundPointsIn(In):
    """Two points of the picture."""

    points: Annotated[list[PointOfPicture], Field(min_length=2, max_length=2)]


class RefusedFeature(Out):
    """A feature that is left out."""

    number: int = Field(description="From 1 on.")
    why: Sentence


class GroundFileOut(Out):
    """What a file would do, or did."""

    stored: bool
    turned: bool = Field(description="Its latitude and longitude are the other way round: it has to be turned.")
    trees: int
    tags: list[str] = Field(description="The first trees that it places.")
    stops: int
    things: int
    same: int
    refused_count: int
    refused: list[RefusedFeature] = Field(description="The first of them.")
