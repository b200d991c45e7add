"""Answers kept in memory, part by part, as long as what they rest on is the same.

A part is kept under the stamp of what it was made from (a site's revision and its day): another stamp, another answer.
"""

from collections import OrderedDict
from collections.abc import Callable, Hashable
from threading import Lock
from typing import Generic, TypeVar

from june_shade.store.session import Session

T = TypeVar("T")
TOLD = "told of a change"


def is_settled(session: Session) -> bool:
    """Whether nothing was changed in this transaction yet, so that what is computed in it stands for others too."""
    return TOLD not in session.info


def unsettle(session: Session) -> None:
    """Something was changed in this transaction: what is computed in it from now on is its own affair."""
    session.info[TOLD] = True


class Kept(Generic[T]):
    """So many parts, the ones asked for last. Who asks for one that another makes just now waits for that one."""

    def __init__(self, most: int = 512) -> None:
        self._parts: OrderedDict[Hashable, tuple[Hashable, T]] = OrderedDict()
        self._making: dict[tuple[Hashable, Hashable], Lock] = {}
        self._most, self._lock = most, Lock()

    def known(self, name: Hashable, stamp: Hashable) -> T | None:
        """A part by name if it is kept under this stamp."""
        with self._lock:
            found = self._parts.get(name)
            return found[1] if found is not None and found[0] == stamp else None

    def get(self, name: Hashable, stamp: Hashable, make: Callable[[], T]) -> T:
        """A part by name, as it is kept under this stamp or made now."""
        with self._lock:
            if self._is_there(name, stamp):
                return self._parts[name][1]
            turn = self._making.setdefault((name, stamp), Lock())
        with turn:
            with self._lock:
                if self._is_there(name, stamp):
                    return self._parts[name][1]
            try:
                made = make()
                self.put(name, stamp, made)
            finally:
                with self._lock:
                    self._making.pop((name, stamp), None)
        return made

    def put(self, name: Hashable, stamp: Hashable, made: T) -> None:
        """Keep a part under a stamp."""
        with self._lock:
            self._parts[name] = (stamp, made)
            self._parts.move_to_end(name)
            while len(self._parts) > self._most:
                self._parts.popitem(last=False)

    def _is_there(self, name: Hashable, stamp: Hashable) -> bool:
        known = self._parts.get(name)
        if known is None or known[0] != stamp:
            return False
        self._parts.move_to_end(name)
        return True
