"""Boxes at valves: their schedules and events, what their meters say."""
