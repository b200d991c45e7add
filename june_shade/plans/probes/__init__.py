"""Probes in the ground: entered, calibrated and shown, what their hours say of a store, what they are asked."""
