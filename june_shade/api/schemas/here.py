"""Where a tree stands, as a phone beside it says."""

from june_shade.api.schemas.common import In, quantity
from june_shade.api.schemas.sites import Latitude, Longitude


class PlaceIn(In):
    """A place as a phone says it, taken once."""

    latitude_deg: Latitude
    longitude_deg: Longitude
    accuracy_m: float = quantity("m", "Within how far it is right, as the phone judges it", ge=0)
