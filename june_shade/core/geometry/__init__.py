"""Plane and solid geometry that several subjects share: bulbs under emitters, wetted circles, frustums."""
