"""Answers kept in memory, part by part, as long as what they rest on is the same.

A part is kept under the stamp of what it was made from (a site's revision and its day): another stamp, another answer.
"""

from collections import OrderedDict
from collections.abc import Callable, Hashable
from threading import Lock
from typing import Generic, TypeVar

T = TypeVar("T")


class Kept(Generic[T]):
    """So many parts, the ones asked for last."""

    def __init__(self, most: int = 512) -> None:
        self._parts: OrderedDict[Hashable, tuple[Hashable, T]] = OrderedDict()
        self._most, self._lock = most, Lock()

    def known(self, name: Hashable, stamp: Hashable) -> T | None:
        """A part by name if it is kept under this stamp."""
        with self._lock:
            found = self._parts.get(name)
            return found[1] if found is not None and found[0] == stamp else None

    def get(self, name: Hashable, stamp: Hashable, make: Callable[[], T], *, keep: bool = True) -> T:
        """A part by name, as it is kept under this stamp or made now. keep: whether what is made stands for others."""
        with self._lock:
            known = self._parts.get(name)
            if known is not None and known[0] == stamp:
                self._parts.move_to_end(name)
                return known[1]
        made = make()
        if keep:
            self.put(name, stamp, made)
        return made

    def put(self, name: Hashable, stamp: Hashable, made: T) -> None:
        """Keep a part under a stamp."""
        with self._lock:
            self._parts[name] = (stamp, made)
            self._parts.move_to_end(name)
            while len(self._parts) > self._most:
                self._parts.popitem(last=False)
