"""Mulch of stored trees: what lies there, what is to be laid, what was laid and measured."""
