"""Dated tasks as iCalendar (RFC 5545): whole-day events with ids that stay and a count of their changes."""

import json
from collections.abc import Iterable
from dataclasses import dataclass
from datetime import date, datetime, timedelta
from functools import cache
from importlib import resources

from icalendar import Calendar, vDuration
from icalendar import Event as IcsEvent

from june_shade.core.care.cautions import OF_TASKS
from june_shade.core.errors import InputError
from june_shade.formats.sentences import LANGUAGES

PRODUCT = "-//June Shade//Care calendar//{}"
REFRESH = timedelta(hours=6)


@dataclass(frozen=True, slots=True)
class Event:
    """One task as calendars are told of it. who: the tree; part: of several, 0 = whole; url: its page; detail: what to
    look for, as codes; numbers: of the emitters that it is about."""

    uid: str
    kind: str
    day: date
    who: str
    part: int
    reason: str
    sequence: int
    modified_at: datetime
    cancelled: bool
    url: str
    detail: tuple[str, ...] = ()
    numbers: tuple[int, ...] = ()


@cache
def words(language: str) -> dict[str, dict[str, str]]:
    """Title and reason of each kind of task; under `caution` and `look`, words for cautions and for what to look for.
    Raises InputError for a language that is not there."""
    if language not in LANGUAGES:
        raise InputError(f"must be one of {', '.join(LANGUAGES)}, not {language!r}", "language")
    text = resources.files("june_shade.formats").joinpath(f"words/care.{language}.json").read_text(encoding="utf-8")
    return json.loads(text)


def write(name: str, events: Iterable[Event], language: str = "en") -> bytes:
    """A calendar file, in order of day and id."""
    said = words(language)
    calendar = Calendar()
    calendar.add("prodid", PRODUCT.format(language.upper()))
    calendar.add("version", "2.0")
    calendar.add("calscale", "GREGORIAN")
    calendar.add("method", "PUBLISH")
    calendar.add("x-wr-calname", name)
    every = vDuration(REFRESH)
    every.params["VALUE"] = "DURATION"
    calendar["refresh-interval"] = every
    for event in sorted(events, key=lambda e: (e.day, e.uid)):
        calendar.add_component(_event(event, said))
    return calendar.to_ical()


def _event(event: Event, words_of: dict[str, dict[str, str]]) -> IcsEvent:
    said = words_of[event.kind]
    caution = words_of["caution"].get(OF_TASKS.get(event.kind, ""), "")
    look_for = [words_of["look"][code] for code in event.detail]
    if event.numbers:
        look_for.append(words_of["about"]["emitters"].format(numbers=", ".join(map(str, event.numbers))))
    made = IcsEvent()
    made.add("uid", event.uid)
    made.add("dtstamp", event.modified_at)
    made.add("last-modified", event.modified_at)
    made.add("sequence", event.sequence)
    made.add("dtstart", event.day)
    made.add("dtend", event.day + timedelta(days=1))
    made.add("summary", f"{said['title'].format(part=event.part)}: {event.who}")
    made.add("description", "\n".join(filter(None, (said["why"], *look_for, caution, event.reason))))
    made.add("url", event.url)
    made.add("transp", "TRANSPARENT")
    made.add("status", "CANCELLED" if event.cancelled else "CONFIRMED")
    return made
