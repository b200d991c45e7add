"""Drip use cases: a tree's layout and a line's, accepted, shown, proved in the field, put on paper."""
