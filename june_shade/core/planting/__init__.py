"""Planting: the hole, how deep, what goes back in, aids, first water, support, the look at the stock."""
