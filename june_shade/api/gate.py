"""The gate: how many requests are worked on at once, how many may wait for their turn, and who is sent off at once.

Entries of the log have a lane of their own, so that no page's work keeps them waiting. Today and files of the
interface pass: many asking for the round cost one making of it.
"""

import asyncio
from dataclasses import dataclass, field

from starlette.types import ASGIApp, Receive, Scope, Send

from june_shade.api.errors import problem

WAITING_EACH = 32
"""So many may wait for each that is worked on."""


AT_ONCE = frozenset({"/api/today", "/api/alive", "/api/ready", "/api/metrics"})
"""What is not kept waiting: it is made once for all, or costs next to nothing."""


@dataclass
class Lane:
    """So many at once; the others wait, up to `waiting` of them and so long [s]."""

    at_once: int
    waiting: int
    patience_s: float = 4.0
    turns: asyncio.Semaphore = field(init=False)
    queued: int = 0

    def __post_init__(self) -> None:
        self.turns = asyncio.Semaphore(self.at_once)

    async def enter(self) -> bool:
        """Wait for a turn; False where there are too many or it takes too long."""
        if self.queued >= self.waiting:
            return False
        self.queued += 1
        try:
            async with asyncio.timeout(self.patience_s):
                await self.turns.acquire()
            return True
        except TimeoutError:
            return False
        finally:
            self.queued -= 1

    def leave(self) -> None:
        """The turn is over."""
        self.turns.release()


class Gate:
    """Middleware. at_once: how many of each lane are worked on at a time."""

    def __init__(self, app: ASGIApp, at_once: int) -> None:
        self.app = app
        self.entries, self.pages = (Lane(at_once, at_once * WAITING_EACH) for _ in range(2))

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Let a request in when it is its turn, else say at once to come again."""
        lane = self._lane(scope)
        if lane is None:
            await self.app(scope, receive, send)
            return
        if not await lane.enter():
            await problem(503, "too many are asking at this moment; try again", "busy")(scope, receive, send)
            return
        try:
            await self.app(scope, receive, send)
        finally:
            lane.leave()

    def _lane(self, scope: Scope) -> Lane | None:
        path = scope.get("path", "")
        if scope["type"] != "http" or not path.startswith("/api/") or path in AT_ONCE:
            return None
        return self.entries if path.startswith("/api/log") and scope["method"] == "PUT" else self.pages
