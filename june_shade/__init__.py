"""June Shade: water and mulch for newly planted trees."""

__version__ = "0.1.0"
