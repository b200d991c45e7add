"""The plan under limits: what is given, what is chosen, what stands until it is chosen again."""
