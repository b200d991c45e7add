"""Whether an order of a water authority or a client allows a watering, and which of its rules it would break.

An order names days, hours, ways of watering and litres; an exemption lifts some of these rules where all of its
conditions hold. The authority's own words decide.
"""

from collections.abc import Collection
from dataclasses import dataclass
from datetime import date

WEEKDAYS, WINDOWS, METHODS, EVENT = RULES = ("weekdays", "windows", "methods", "event_l")
"""The rules of an order, in the order in which they are told."""
WAYS = ("hose", "bucket", "tank", "emitters", "soaker", "bag", "sprinkler", "box")
"""Ways of watering as orders name them."""
DAY_MIN = 24 * 60


@dataclass(frozen=True, slots=True)
class Window:
    """Hours of every day in which may be watered: minutes of the day, its end up to 1440. One whose end is not after
    its start runs past midnight."""

    start_min: int
    end_min: int

    def holds(self, start_min: float, end_min: float) -> bool:
        """Whether a watering lies wholly in it, today's or the evening before's. end_min may lie past midnight."""
        closes = self.end_min if self.end_min > self.start_min else self.end_min + DAY_MIN
        return any(
            self.start_min + shift <= start_min and end_min <= closes + shift for shift in (0, -DAY_MIN)
        )  # fmt: skip


@dataclass(frozen=True, slots=True)
class ByNumber:
    """Weekdays by house number, Monday = 1, None = any day; without a number a day has to be in both."""

    even: frozenset[int] | None
    odd: frozenset[int] | None

    def allows(self, weekday: int, house_number: int | None) -> bool:
        """Whether a house may water on a weekday."""
        sides = {0: (self.even,), 1: (self.odd,), None: (self.even, self.odd)}
        parity = None if house_number is None else house_number % 2
        return all(days is None or weekday in days for days in sides[parity])


@dataclass(frozen=True, slots=True)
class Exemption:
    """Rules that are lifted where all conditions hold that are not None: ways of watering, days since planting [days],
    kinds of water."""

    rules: frozenset[str]
    methods: frozenset[str] | None = None
    planted_within_days: int | None = None
    water: frozenset[str] | None = None

    def holds(self, asked: "Watering") -> bool:
        """Whether it holds for a watering."""
        if self.methods is not None and asked.method not in self.methods:
            return False
        if self.water is not None and asked.water not in self.water:
            return False
        if self.planted_within_days is None:
            return True
        if asked.planted_on is None:
            return False
        return 0 <= (asked.day - asked.planted_on).days <= self.planted_within_days


@dataclass(frozen=True, slots=True)
class Restriction:
    """An order. first, last: the days on which it is in force, both included, None = open; weekdays, Monday = 1;
    event_l: litres a watering at most [L]; None = no such rule, an empty collection allows nothing."""

    first: date | None = None
    last: date | None = None
    weekdays: frozenset[int] | ByNumber | None = None
    windows: tuple[Window, ...] | None = None
    methods: frozenset[str] | None = None
    event_l: float | None = None
    exempt: tuple[Exemption, ...] = ()

    def in_force(self, day: date) -> bool:
        """Whether it is in force on a day."""
        return (self.first is None or self.first <= day) and (self.last is None or day <= self.last)


@dataclass(frozen=True, slots=True)
class Watering:
    """A watering that is asked about: its day, when it starts and how long it takes [min], way, litres [L], and of the
    tree its house number, planting day and kind of water; None where that is not known."""

    day: date
    start_min: float | None
    minutes: float
    method: str | None
    litres: float | None = None
    house_number: int | None = None
    planted_on: date | None = None
    water: str | None = None


@dataclass(frozen=True, slots=True)
class Ruling:
    """What an order says: whether it is in force and allows it, rules broken, rules broken but lifted."""

    in_force: bool
    broken: tuple[str, ...] = ()
    exempted: tuple[str, ...] = ()

    @property
    def allowed(self) -> bool:
        """Whether the watering is allowed."""
        return not self.broken


def rule(order: Restriction, asked: Watering) -> Ruling:
    """What one order says to a watering."""
    if not order.in_force(asked.day):
        return Ruling(False)
    lifted: set[str] = set()
    for exemption in order.exempt:
        if exemption.holds(asked):
            lifted |= exemption.rules
    against = _against(order, asked)
    return Ruling(
        True, tuple(r for r in RULES if r in against and r not in lifted),
        tuple(r for r in RULES if r in against and r in lifted),
    )  # fmt: skip


def _against(order: Restriction, asked: Watering) -> Collection[str]:
    """Rules that a watering goes against, exemptions left aside."""
    found = set()
    if order.weekdays is not None and not _on_its_day(order.weekdays, asked):
        found.add(WEEKDAYS)
    if order.windows is not None and not _in_hours(order.windows, asked):
        found.add(WINDOWS)
    if order.methods is not None and asked.method not in order.methods:
        found.add(METHODS)
    if order.event_l is not None and asked.litres is not None and asked.litres > order.event_l:
        found.add(EVENT)
    return found


def _on_its_day(days: frozenset[int] | ByNumber, asked: Watering) -> bool:
    weekday = asked.day.isoweekday()
    return days.allows(weekday, asked.house_number) if isinstance(days, ByNumber) else weekday in days


def _in_hours(windows: tuple[Window, ...], asked: Watering) -> bool:
    """Whether it lies wholly in one window; of unknown time it is in none."""
    if asked.start_min is None:
        return False
    return any(one.holds(asked.start_min, asked.start_min + asked.minutes) for one in windows)
