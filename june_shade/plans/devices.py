"""What boxes at valves and probes in the ground share: where they answer, how entries are marked that they wrote."""

from datetime import timedelta
from urllib.parse import urlsplit

from june_shade.core.errors import InputError

BY_BOX, BY_PROBE = "box ", "probe "
"""What the device of an entry begins with that a box's meter or a probe wrote; its name follows."""
CLOCK_OFF, CLOCK_DOUBTED = timedelta(minutes=1), timedelta(minutes=10)
"""From where on a device's clock is put right, and said."""


def check_address(address: str) -> None:
    """Raises InputError for an address that is none."""
    try:
        parts = urlsplit(address)
        is_one = parts.scheme in ("http", "https") and bool(parts.hostname) and parts.port != 0
    except ValueError:
        is_one = False
    if not is_one or parts.username is not None or any(char.isspace() for char in address):
        raise InputError("must be an address that begins with http:// or https://", "address")


def named(device_id: str) -> str | None:
    """The name of the device that wrote an entry by itself, None where a person did."""
    for begins in (BY_BOX, BY_PROBE):
        if device_id.startswith(begins):
            return device_id.removeprefix(begins)
    return None
