"""Boxes at valves: entered and shown, what they are to run, and what they are asked and told."""
