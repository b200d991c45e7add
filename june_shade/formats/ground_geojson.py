"""A site's ground plan as GeoJSON (RFC 7946): WGS 84, longitude first; its properties stand in docs/ground-plan.md."""

import json
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np
import shapely
from shapely.geometry import mapping, shape
from shapely.geometry.base import BaseGeometry

from june_shade.core.errors import InputError

MOST_BYTES, MOST_FEATURES = 20_000_000, 5000
WGS84 = ("urn:ogc:def:crs:OGC:1.3:CRS84", "urn:ogc:def:crs:OGC::CRS84", "EPSG:4326", "urn:ogc:def:crs:EPSG::4326")
KINDS = ("Point", "LineString", "Polygon", "MultiPoint", "MultiLineString", "MultiPolygon")


@dataclass(frozen=True, slots=True)
class Feature:
    """A feature of a file: its number from 0, its id where it has one, its properties, its shape [deg], None where that
    can't be read; why says why."""

    number: int
    id: str
    properties: dict[str, Any]
    shape: BaseGeometry | None
    why: str = ""


def read(data: bytes) -> list[Feature]:
    """The features of a file. Raises InputError for what is no GeoJSON in WGS 84."""
    try:
        whole = json.loads(data.decode("utf-8-sig"))
    except (UnicodeDecodeError, ValueError, RecursionError):
        raise InputError("can't be read as GeoJSON", "file") from None
    if not isinstance(whole, dict):
        raise InputError("can't be read as GeoJSON", "file")
    crs = whole.get("crs")
    if isinstance(crs, dict):
        name = crs.get("properties", {}).get("name") if isinstance(crs.get("properties"), dict) else None
        if name not in WGS84:
            raise InputError(f"its coordinates are in {name}: save it in WGS 84 (EPSG:4326)", "file")
    rows = whole.get("features") if whole.get("type") == "FeatureCollection" else [whole]
    if not isinstance(rows, list) or (whole.get("type") not in ("FeatureCollection", "Feature")):
        raise InputError("holds no features: it must be a FeatureCollection", "file")
    if len(rows) > MOST_FEATURES:
        raise InputError(f"holds over {MOST_FEATURES} features; split it", "file")
    return [_feature(n, row) for n, row in enumerate(rows)]


def _feature(number: int, row: Any) -> Feature:
    if not isinstance(row, dict) or row.get("type") != "Feature":
        return Feature(number, "", {}, None, "is no feature")
    own = row.get("properties")
    properties = own if isinstance(own, dict) else {}
    name = str(row["id"]) if isinstance(row.get("id"), (str, int)) else ""
    geometry = row.get("geometry")
    if not isinstance(geometry, dict) or geometry.get("type") not in KINDS:
        return Feature(number, name, properties, None, "has no shape that a plan can show")
    try:
        found = shapely.force_2d(shape(geometry))
    except (ValueError, TypeError, KeyError, IndexError, AttributeError, shapely.errors.ShapelyError):
        return Feature(number, name, properties, None, "has a shape that can't be read")
    if found.is_empty or not np.all(np.isfinite(shapely.get_coordinates(found))):
        return Feature(number, name, properties, None, "has a shape that can't be read")
    return Feature(number, name, properties, found)


def turned(one: BaseGeometry) -> BaseGeometry:
    """A shape with its axes the other way round."""
    return shapely.transform(one, lambda places: places[:, ::-1])


def geometry_of(one: BaseGeometry) -> dict[str, Any]:
    """A shape as it is written [deg], to 7 decimals (1 cm)."""
    rounded: dict[str, Any] = json.loads(json.dumps(mapping(shapely.transform(one, lambda at: np.round(at, 7)))))
    return rounded


def write(features: Sequence[tuple[str, dict[str, Any], dict[str, Any]]]) -> str:
    """A FeatureCollection. features: id, geometry, properties."""
    rows = [
        {"type": "Feature", "id": name, "geometry": geometry, "properties": properties}
        for name, geometry, properties in features
    ]  # fmt: skip
    return json.dumps({"type": "FeatureCollection", "features": rows}, ensure_ascii=False, indent=1) + "\n"
