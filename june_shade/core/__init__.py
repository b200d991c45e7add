"""The rules of the job: NumPy and plain Python.

Nothing in here knows the web, a database, a clock, settings or files other than its own tables.
"""
