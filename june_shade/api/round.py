"""Today's round as it goes out: made once per change, shared by all who ask, however many phones do.

One making runs at a time, off the threads and connections that entries use. Who asks while one runs gets the next,
so that nobody is answered with less than what was stored when they asked. Who says that it may be older (request
header `Cache-Control: max-age=`) gets the last one, or the one that is being made, if that is young enough; where it
is about to be too old the next is begun for those who come later.
"""

import gzip
import json
import re
import time
from collections.abc import Hashable, Sequence
from concurrent.futures import Future, ThreadPoolExecutor
from dataclasses import dataclass
from datetime import timedelta
from functools import partial
from hashlib import sha256
from secrets import token_hex
from threading import Lock
from typing import Any
from uuid import UUID

from june_shade.api.routers.shape import entries_out, task_out
from june_shade.api.schemas.log import RoundSite
from june_shade.plans import organisations, rounds
from june_shade.plans.kept import Kept
from june_shade.plans.records import Site
from june_shade.plans.water import remembered
from june_shade.plans.work import Session, SessionMaker, reading

LONGEST_LAG_S = 2.0
"""What another one logs is seen this much later at most, whatever an asker allows."""
ZIP_LEVEL = 4


@dataclass(frozen=True, slots=True)
class Made:
    """A round: its bytes, plain and zipped, the tag of what it rests on, the moment it is of (time.monotonic)."""

    etag: str
    plain: bytes
    zipped: bytes
    of_s: float

    def age_s(self) -> float:
        """How long ago its moment was [s]."""
        return time.monotonic() - self.of_s


@dataclass(frozen=True, slots=True)
class Part:
    """A site's part of the round as it goes out, who waters it, what is poured there from a tank."""

    json: bytes
    crew: dict[str, Any] | None
    pours: list[rounds.Pours]


class Round:
    """Makes an organisation's round and keeps the last one."""

    def __init__(self, sessions: SessionMaker, maker: ThreadPoolExecutor) -> None:
        self._sessions, self._parts = sessions, Kept[Part]()
        self._ahead = Kept[Part]()
        self._born = token_hex(4)  # after a backup is brought in, stamps of other data may be the same
        self._maker = maker
        self._lock = Lock()
        self._made: Made | None = None
        self._running: tuple[Future[Made], float] | None = None
        self._next: Future[Made] | None = None

    def get(self, older_s: float = 0.0) -> "Future[Made]":
        """The round as it is now, or as it was at most so long ago."""
        allowed_s = min(older_s, LONGEST_LAG_S)
        with self._lock:
            if self._made is not None and self._made.age_s() < allowed_s:
                if self._made.age_s() > allowed_s / 2 and self._running is None:
                    self._begin()
                done: Future[Made] = Future()
                done.set_result(self._made)
                return done
            if self._running is not None and time.monotonic() - self._running[1] < allowed_s:
                return self._running[0]
            return self._begin()

    def days_ahead(self, session: Session) -> tuple[str, bytes]:
        """The rounds of the days to come, as they are planned now: a tag of what they rest on, and their bytes."""
        sites, today, given = rounds.stamps(session), rounds.head(session), rounds.given_today(session)
        etag = self._etag(sites, today)
        days = [
            _whole(
                today | {"day": today["day"] + timedelta(days=n)},
                [
                    self._ahead.get((site.id, n), stamp, partial(_part, session, site, given, n))
                    for site, stamp in sites
                ],
            )
            for n in range(1, rounds.TAKEN_ALONG_DAYS + 1)
        ]
        return etag, b"[%s]" % b",".join(days)

    def _etag(self, sites: "Sequence[tuple[Site, Hashable]]", head: dict[str, Any]) -> str:
        rests_on = [self._born, str(head["day"]), str(head["trees"]), *(f"{site.id}{stamp}" for site, stamp in sites)]
        return f'"{sha256(" ".join(rests_on).encode()).hexdigest()[:24]}"'

    def _begin(self) -> "Future[Made]":
        if self._next is None:
            self._next = self._maker.submit(self._make)
        return self._next

    def _make(self) -> Made:
        of_s = time.monotonic()
        with self._lock:
            assert self._next is not None
            self._running, self._next, last = (self._next, of_s), None, self._made  # from here on it is the next one's
        try:
            made = self._of_now(of_s, last)
            with self._lock:
                self._made = made
            return made
        finally:
            with self._lock:
                self._running = None

    def _of_now(self, of_s: float, last: Made | None) -> Made:
        with reading(self._sessions) as session:
            sites, head = rounds.stamps(session), rounds.head(session)
            etag = self._etag(sites, head)
            parts = self._of_sites(session, sites) if last is None or last.etag != etag else None
        if last is not None and parts is None:
            return Made(etag, last.plain, last.zipped, of_s)
        plain = _whole(head, parts or [])
        return Made(etag, plain, gzip.compress(plain, ZIP_LEVEL), of_s)

    def _of_sites(self, session: Session, sites: Sequence[tuple[Site, Hashable]]) -> "list[Part]":
        missing = [site for site, stamp in sites if self._parts.known(site.id, stamp) is None]
        remembered.make_ready(session, missing)
        given = rounds.given_today(session)
        return [self._parts.get(site.id, stamp, partial(_part, session, site, given)) for site, stamp in sites]


class Rounds:
    """The round of each organisation, made by one thread."""

    def __init__(self, sessions: SessionMaker) -> None:
        self._sessions, self._of = sessions, dict[UUID, Round]()
        self._maker, self._lock = ThreadPoolExecutor(1, thread_name_prefix="round"), Lock()

    def of(self, organisation_id: UUID) -> Round:
        """An organisation's."""
        with self._lock:
            if organisation_id not in self._of:
                self._of[organisation_id] = Round(self._sessions.of(organisation_id), self._maker)
            return self._of[organisation_id]

    def make_ready(self) -> None:
        """Have each there before it is asked for."""
        for sessions in organisations.each(self._sessions):
            self.of(sessions.organisation_id).get().result()


def _whole(head: dict[str, Any], parts: Sequence[Part]) -> bytes:
    """A round as it goes out, from its sites' parts."""
    told = head | {
        "work": rounds.work(part.crew for part in parts),
        "fills": rounds.fills(one for part in parts for one in part.pours),
    }
    return b'%s,"sites":[%s]}' % (json.dumps(told, default=str)[:-1].encode(), b",".join(part.json for part in parts))


def _part(session: Session, site: Site, given: rounds.GivenToday, ahead_days: int = 0) -> Part:
    found = rounds.round_of_site(session, site, given, ahead_days)
    trees = [tree for stop in found["stops"] for tree in stop["trees"]]
    shaped = {e.id: e for e in entries_out(session, [entry for tree in trees for entry in tree["entries"]])}
    for tree in trees:
        tree["entries"] = [shaped[entry.id] for entry in tree["entries"]]
    found["care"] = [task_out(due, site.id, site.name) for due in found["care"]]
    return Part(RoundSite.model_validate(found).model_dump_json().encode(), found["crew"], found["pours"])


def older_s(cache_control: str) -> float:
    """How old an answer may be by a request's Cache-Control [s]; 0 where it does not say."""
    found = re.search(r"max-age\s*=\s*(\d{1,6})", cache_control)
    return float(found[1]) if found else 0.0
