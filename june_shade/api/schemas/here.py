"""Where a tree stands, as a phone beside it says."""

from pydantic import Field

from june_shade.api.schemas.common import In


class PlaceIn(In):
    """A place as a phone says it, taken once."""

    latitude_deg: float = Field(ge=-90, le=90)
    longitude_deg: float = Field(ge=-180, le=180)
    accuracy_m: float = Field(ge=0, description="Within how far it is right, as the phone judges it [m].")
