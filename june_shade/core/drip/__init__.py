"""Drip: bulbs under emitters, what they wet, tubes and pressure, layouts, and how a layout grows with the tree."""
