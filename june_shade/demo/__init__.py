"""The made-up town of Ochre Falls: a scenario to look around in. Nothing in it is real."""
