"""All tests; `python -m tests [WORDS]` runs those whose names hold one of the words."""

from hypothesis import settings

# a machine may be busy: how long an example takes is no fault of the code
settings.register_profile("june_shade", deadline=None)
settings.load_profile("june_shade")

SHARED = "JUNE_TEST_SERVER"
"""Where it is set in the environment: the folder of a database server that runs already and that processes share."""
