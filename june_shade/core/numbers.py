"""One name for what array functions take and give."""

from typing import Any

Numbers = Any
"""A number or an array of numbers. Arguments broadcast, and what comes back is an array where one of them was: that
can't be told more closely to a type checker."""
