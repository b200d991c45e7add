"""Checks at the core's edge: one small reader for a JSON object whose every key is known.

It names the dotted field, the range and the usual slip; it refuses keys it was not asked for.
"""

import math
from collections.abc import Callable, Iterable, Mapping
from datetime import date
from typing import Any, TypeVar

from june_shade.core.errors import InputError, UnknownKeyError

_MISSING = object()
T = TypeVar("T")


class Fields:
    """Reads one JSON object key by key; `close()` refuses whatever was not read."""

    def __init__(self, value: Any, path: str = "") -> None:
        if not isinstance(value, Mapping):
            raise InputError("must be an object with named values", path or "case")
        self._value = value
        self._path = path
        self._read: set[str] = set()

    def at(self, key: str) -> str:
        """Dotted path of `key`."""
        return f"{self._path}.{key}" if self._path else key

    def _get(self, key: str, default: Any) -> Any:
        self._read.add(key)
        value = self._value.get(key, _MISSING)
        if value is _MISSING:
            if default is _MISSING:
                raise InputError("is required", self.at(key))
            return default
        return value

    def number(
        self,
        key: str,
        default: Any = _MISSING,
        *,
        above: float | None = None,
        low: float | None = None,
        high: float | None = None,
        below: float | None = None,
        hint: str = "",
    ) -> float:
        """A finite number. `above` and `below` are exclusive, `low` and `high` inclusive.

        low, high: limits that are allowed; above, below: limits that are not; None = no limit.
        """
        value = self._get(key, default)
        return number(value, self.at(key), above=above, low=low, high=high, below=below, hint=hint)

    def maybe_number(self, key: str, **limits: Any) -> float | None:
        """As `number`, but it may be null or left out."""
        value = self._get(key, None)
        return None if value is None else number(value, self.at(key), **limits)

    def whole(self, key: str, default: Any = _MISSING, *, low: int = 1) -> int:
        """A whole number of at least `low`."""
        return whole(self._get(key, default), self.at(key), low=low)

    def choice(self, key: str, options: Iterable[str], default: Any = _MISSING, *, loose: bool = False) -> str:
        """One of a few words; `loose` takes spaces for underscores and any case."""
        value = self._get(key, default)
        options = tuple(options)
        if isinstance(value, str):
            word = value.strip().lower().replace(" ", "_") if loose else value
            if word in options:
                return word
        raise InputError(f"must be one of {', '.join(options)}, not {value!r}", self.at(key))

    def text(self, key: str, default: Any = _MISSING) -> str:
        """A string that is not empty."""
        value = self._get(key, default)
        if not isinstance(value, str) or not value.strip():
            raise InputError("must be text", self.at(key))
        return value

    def yes(self, key: str, default: bool) -> bool:
        """True or false."""
        value = self._get(key, default)
        if not isinstance(value, bool):
            raise InputError(f"must be true or false, not {value!r}", self.at(key))
        return value

    def read(self, key: str, as_: Callable[[Any, str], T]) -> T:
        """What `as_` makes of a value and its dotted field."""
        return as_(self._get(key, _MISSING), self.at(key))

    def maybe(self, key: str, as_: Callable[[Any, str], T]) -> T | None:
        """As `read`, but it may be null or left out."""
        value = self._get(key, None)
        return None if value is None else as_(value, self.at(key))

    def object(self, key: str, *, optional: bool = False) -> "Fields":
        """A nested object; an optional one that is missing reads as empty."""
        return Fields(self._get(key, {} if optional else _MISSING), self.at(key))

    def list(self, key: str, default: Any = _MISSING) -> "list[Any]":
        """A list of at least one thing; with a default it may be left out or empty."""
        value = self._get(key, default)
        if not isinstance(value, list):
            raise InputError("must be a list", self.at(key))
        if not value and default is _MISSING:
            raise InputError("must be a list with at least one entry", self.at(key))
        return value

    def close(self) -> None:
        """Refuse unknown keys."""
        for key in self._value:
            if key not in self._read:
                raise UnknownKeyError("is not a key of this format", self.at(str(key)))


def day(value: Any, field: str) -> date:
    """A date like 2027-05-01."""
    try:
        if not isinstance(value, str) or len(value) != len("2027-05-01"):
            raise ValueError
        return date.fromisoformat(value)
    except ValueError:
        raise InputError(f"{value!r} is not a date like 2027-05-01", field) from None


def whole(value: Any, field: str, *, low: int = 0) -> int:
    """A whole number of at least `low`."""
    found = number(value, field, low=low)
    if found != int(found):
        raise InputError("must be a whole number", field)
    return int(found)


def number(
    value: Any,
    field: str,
    *,
    above: float | None = None,
    low: float | None = None,
    high: float | None = None,
    below: float | None = None,
    hint: str = "",
) -> float:
    """`value` as a finite float within the range, or an InputError that names `field` and the range.

    low, high: limits that are allowed; above, below: limits that are not; None = no limit.
    """
    if isinstance(value, bool) or not isinstance(value, (int, float)):
        raise InputError(f"must be a number, not {value!r}", field)
    try:
        result = float(value)
    except OverflowError:
        result = math.inf
    if not math.isfinite(result):
        raise InputError("must be a finite number", field)
    tail = f" ({hint})" if hint else ""
    if above is not None and not result > above:
        raise InputError(f"must be above {above:g}, not {value:g}{tail}", field)
    if low is not None and result < low:
        raise InputError(f"must be at least {low:g}, not {value:g}{tail}", field)
    if high is not None and result > high:
        raise InputError(f"must be at most {high:g}, not {value:g}{tail}", field)
    if below is not None and not result < below:
        raise InputError(f"must be below {below:g}, not {value:g}{tail}", field)
    return result
