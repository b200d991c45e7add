"""Any weather file that is understood: which format it is, by its first bytes, and what it says."""

import csv
from collections.abc import Mapping
from datetime import date

from june_shade.core.errors import InputError, TooLargeError
from june_shade.formats import epw, ghcn, weather_csv
from june_shade.formats.cells import check_header
from june_shade.formats.weather_csv import MOST_BYTES, Reading


def read(data: bytes, mapping: Mapping[str, str] | None = None, today: date | None = None) -> Reading:
    """Read a file of any known format. Raises InputError, or HeaderError where a person must say more."""
    if len(data) > MOST_BYTES:
        raise TooLargeError(f"the file is {len(data) / 1e6:.0f} MB; at most 20 MB are read", "file")
    try:
        return _read(data, mapping, today)
    except csv.Error as e:
        raise InputError(f"is not a table of cells: {e}", "file") from None


def _read(data: bytes, mapping: Mapping[str, str] | None, today: date | None) -> Reading:
    check_header(data)
    if data[:4] == b"PK\x03\x04" or data[:2] == b"\x1f\x8b":
        raise InputError("is packed (zip or gz): unpack it first", "file")
    if epw.is_epw(data):
        return epw.read(data, today)
    if ghcn.is_dly(data):
        return ghcn.read_dly(data, today)
    shape = ghcn.csv_shape(data)
    if shape == "elements":
        return ghcn.read_elements(data, today)
    if shape == "days":
        return ghcn.read_days(data, mapping, today)
    return weather_csv.read(data, mapping=mapping, today=today)
