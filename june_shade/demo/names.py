"""Stable ids for the things of the demo, so that pictures and tests find them."""

from uuid import NAMESPACE_URL, UUID, uuid5


def name_id(*parts: object) -> UUID:
    """A stable id for a thing of the demo."""
    return uuid5(NAMESPACE_URL, "june-shade-demo/" + "/".join(str(part) for part in parts))
