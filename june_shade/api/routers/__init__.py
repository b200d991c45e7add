"""Routes, one file a noun: parse, one call to plans, shape the answer."""
