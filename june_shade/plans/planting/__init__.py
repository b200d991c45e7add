"""Plantings: batches as they are planned, looked at and planted; how trees in the ground were planted."""
