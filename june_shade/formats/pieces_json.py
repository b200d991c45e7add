"""Pieces that several headless cases share: areas as GeoJSON, findings as plain values."""

from collections.abc import Iterable
from typing import Any, Protocol

import shapely
from shapely.geometry import Polygon

from june_shade.core.checks import Fields, number
from june_shade.core.errors import InputError


class Found(Protocol):
    """A judgement with its code and its sentence."""

    @property
    def code(self) -> str: ...
    @property
    def message(self) -> str: ...


def findings(found: Iterable[Found]) -> list[dict[str, str]]:
    """Findings as plain values."""
    return [{"code": f.code, "message": f.message} for f in found]


def polygon(value: Any, field: str) -> Polygon:
    """A GeoJSON Polygon geometry in metres, its rings closed and not crossing themselves."""
    fields = Fields(value, field)
    fields.choice("type", ("Polygon",))
    rings = fields.list("coordinates")
    fields.close()
    read = []
    for r, ring in enumerate(rings):
        at = f"{field}.coordinates[{r}]"
        if not isinstance(ring, list) or len(ring) < 4:
            raise InputError("must be a ring of at least four places, the last as the first", at)
        places = []
        for p, place in enumerate(ring):
            if not isinstance(place, list) or len(place) != 2:
                raise InputError("must be a place [x, y] in metres", f"{at}[{p}]")
            places.append(tuple(number(v, f"{at}[{p}]") for v in place))
        if places[0] != places[-1]:
            raise InputError("is not closed: its last place must be its first", at)
        read.append(places)
    made = Polygon(read[0], read[1:])
    if not made.is_valid or made.area <= 0:
        raise InputError(f"is no area: {shapely.is_valid_reason(made)}", field)
    return made
