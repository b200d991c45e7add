"""Mulch: ring geometry, volumes to order, wasting away."""
