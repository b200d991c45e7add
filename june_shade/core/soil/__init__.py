"""Soil: what a texture holds, drains and takes in."""
