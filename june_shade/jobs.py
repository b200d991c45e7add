"""What is done in the background, whoever does it: jobs on the same database, one way for one process or many.

A job that was put in together with what it is about is there when that is; one whose worker was killed is begun again
by the next that looks.
"""

import asyncio
import contextlib
import logging
import threading
from dataclasses import dataclass
from typing import Any
from uuid import UUID

from procrastinate import App, JobContext, PsycopgConnector, RetryStrategy
from procrastinate.exceptions import UniqueViolation
from procrastinate.jobs import Status

from june_shade.outside.forecast import WeatherService
from june_shade.plans import changes, forecast, imports, organisations, pictures, rounds
from june_shade.plans.accounts import signing
from june_shade.plans.boxes import talk as box_talk
from june_shade.plans.choosing import beside
from june_shade.plans.choosing import work as choosing
from june_shade.plans.drip import layouts
from june_shade.plans.looking import thirst
from june_shade.plans.pictures import Folder
from june_shade.plans.probes import talk as probe_talk
from june_shade.plans.work import BusyError, SessionMaker, UnavailableError, is_collision, reading, transaction
from june_shade.store import jobs as queue

log = logging.getLogger("june_shade")
AT_ONCE = 2
BEAT_S, SILENT_S = 2.0, 10.0
"""How often a worker says that it lives, and how long it is silent before its jobs are given to another [s]."""
AGAIN_S = 1.0
LOOK_EVERY_S = 5.0
EVERY_5_MINUTES = "*/5 * * * *"
EVERY_MINUTE = "* * * * *"
EVERY_NIGHT = "17 3 * * *"
AFTER_MIDNIGHTS = "1,31 * * * *"
"""Days begin at the hour or half past it, somewhere."""


def _sessions(context: JobContext) -> SessionMaker:
    sessions: SessionMaker = context.additional_context["sessions"]
    return sessions


@dataclass(frozen=True, slots=True)
class Choosing:
    """How plans under limits are chosen: by themselves where they are due, or only when asked; seconds: how long."""

    by_itself: bool = True
    seconds: float = choosing.SECONDS


def _choosing(context: JobContext) -> Choosing:
    how: Choosing = context.additional_context["choosing"]
    return how


class _Met(RetryStrategy):
    """Done again where a transaction met another one, or the database was away for a moment."""

    def get_retry_decision(self, *, exception: BaseException, job: Any) -> Any:
        """Whether, and when, a job that failed is done again."""
        if is_collision(exception) or isinstance(exception, (UnavailableError, BusyError)):
            return super().get_retry_decision(exception=exception, job=job)
        return None


AGAIN = _Met(max_attempts=30, wait=2)


def bring_in(context: JobContext, import_id: str, organisation: str | None = None) -> None:
    """Read a file that was brought, or store one that a person has said yes to."""
    imports.work(organisations.of(_sessions(context), organisation), UUID(import_id))


def forecasts(context: JobContext, timestamp: int) -> None:
    """Ask for each station's forecast every few hours, after a failure sooner."""
    service: WeatherService | None = context.additional_context["service"]
    if service is not None:
        for sessions in organisations.each(_sessions(context)):
            forecast.refresh_all(sessions, service)


def growth(context: JobContext, timestamp: int) -> None:
    """Once a day let laid drip grow with the roots: what it does, and when it is outgrown."""
    for sessions in organisations.each(_sessions(context)):
        with reading(sessions) as session:
            sites = layouts.sites_to_grow(session)
        for site_id in sites:  # one at a time, so that nobody who logs water waits for all of them
            with transaction(sessions) as session:
                changes.grown(session, site_id)


def plans(context: JobContext, timestamp: int = 0) -> None:
    """After a day has begun, or much of the past has changed, compute what plans rest on before a page asks for it."""
    for sessions in organisations.each(_sessions(context)):
        rounds.make_ready(sessions)


def learn(context: JobContext, site_id: str, organisation: str | None = None) -> None:
    """Go through the readings of a site that were taken since it was last done."""
    thirst.work(organisations.of(_sessions(context), organisation), UUID(site_id))


def choose(context: JobContext, timestamp: int = 0) -> None:
    """Choose the plan under limits where it is due."""
    how = _choosing(context)
    for sessions in organisations.each(_sessions(context)) if how.by_itself else ():
        with reading(sessions) as session:
            due = choosing.is_due(session)
        if due:
            choosing.work(sessions, seconds=how.seconds)


def choose_now(context: JobContext, *, organisation: str | None = None, soon: bool = False) -> None:
    """Choose it because somebody asks for it. soon: in a few seconds."""
    most, sketches = (choosing.SOON_SECONDS, 0) if soon else (choosing.SECONDS, choosing.SKETCHES)
    sessions = organisations.of(_sessions(context), organisation)
    choosing.work(sessions, seconds=min(most, _choosing(context).seconds), sketches=sketches)


def compare(context: JobContext, timestamp: int = 0) -> None:
    """Compare the plan under limits with others where it is due."""
    for sessions in organisations.each(_sessions(context)) if _choosing(context).by_itself else ():
        with reading(sessions) as session:
            due = beside.is_due(session)
        if due:
            beside.work_on(sessions)


def boxes(context: JobContext, timestamp: int = 0) -> None:
    """Ask boxes at valves what happened, and send them what is to run."""
    for sessions in organisations.each(_sessions(context)):
        box_talk.all_boxes(sessions)


def probes(context: JobContext, timestamp: int = 0) -> None:
    """Ask probes in the ground what they read."""
    for sessions in organisations.each(_sessions(context)):
        probe_talk.all_probes(sessions)


def sweep(context: JobContext, timestamp: int = 0) -> None:
    """Let files of pictures go that nothing shows any more, and tries to come in that count no more."""
    with transaction(_sessions(context).of_all()) as session:
        signing.forget_tries(session)
        pictures.sweep(session, context.additional_context["pictures"])


async def take_over(app: App, sessions: SessionMaker) -> None:
    """Give jobs of workers that are gone to others; put in what imports wait for and nobody does."""
    for job in await app.job_manager.get_stalled_jobs(seconds_since_heartbeat=SILENT_S):
        log.error("job %s was left by a worker that is gone: it is done again", job.task_name)
        try:
            await app.job_manager.retry_job(job)
        except UniqueViolation:  # its like waits already
            await app.job_manager.finish_job(job, status=Status.FAILED, delete_job=True)
    await asyncio.to_thread(_go_on, sessions)


def _go_on(sessions: SessionMaker) -> None:
    for ours in organisations.each(sessions):
        with transaction(ours) as session:
            imports.go_on(session)


REGULAR = {
    queue.FORECASTS: (EVERY_5_MINUTES, forecasts),
    queue.GROWTH: (EVERY_5_MINUTES, growth), queue.PLANS: (AFTER_MIDNIGHTS, plans),
    queue.CHOOSE: (EVERY_MINUTE, choose), queue.COMPARE: (EVERY_5_MINUTES, compare), queue.SWEEP: (EVERY_NIGHT, sweep),
    queue.BOXES: (EVERY_MINUTE, boxes), queue.PROBES: (EVERY_5_MINUTES, probes),
}  # fmt: skip
"""What is done again and again, and once when a worker begins: when, and how."""


def _app(connector: PsycopgConnector) -> App:
    app = App(connector=connector)
    app.task(name=queue.IMPORT, queue=queue.QUEUE, pass_context=True, retry=AGAIN)(bring_in)
    app.task(name=queue.LEARN, queue=queue.QUEUE, pass_context=True, retry=AGAIN)(learn)
    app.task(name=queue.CHOOSE_NOW, queue=queue.QUEUE, pass_context=True, retry=AGAIN)(choose_now)
    for name, (when, do) in REGULAR.items():
        task = app.task(name=name, queue=queue.QUEUE, queueing_lock=name, lock=name, pass_context=True)(do)
        app.periodic(cron=when)(task)
    return app


class Worker:
    """Does jobs in a thread of this process until it is stopped. url: the database; service: forecasts, if any; folder:
    of pictures."""

    def __init__(
        self, url: str, sessions: SessionMaker, service: WeatherService | None, folder: Folder,
        choosing: Choosing | None = None,
    ) -> None:  # fmt: skip
        self._url, self._sessions = url, sessions
        self._context = {
            "sessions": sessions,
            "service": service,
            "choosing": choosing or Choosing(),
            "pictures": folder,
        }
        self._loop: asyncio.AbstractEventLoop | None = None
        self._over: asyncio.Event | None = None
        self._stopped = threading.Event()
        self._thread = threading.Thread(target=lambda: asyncio.run(self._run()), name="jobs", daemon=True)

    def start(self) -> None:
        """Begin."""
        self._thread.start()

    def stop(self) -> None:
        """End; a job that is not done in a moment is left to the next worker."""
        self._stopped.set()
        if self._loop is not None and self._over is not None:
            with contextlib.suppress(RuntimeError):
                self._loop.call_soon_threadsafe(self._over.set)
        self._thread.join(10)

    async def _run(self) -> None:
        self._loop, self._over = asyncio.get_running_loop(), asyncio.Event()
        over = asyncio.create_task(self._over.wait())
        while not self._stopped.is_set():
            working = asyncio.create_task(self._work())
            await asyncio.wait({over, working}, return_when=asyncio.FIRST_COMPLETED)
            working.cancel()
            found = (await asyncio.gather(working, return_exceptions=True))[0]
            if not self._stopped.is_set():
                log.error("the worker of jobs stopped and begins again: %r", found)
                await asyncio.wait({over}, timeout=AGAIN_S)
        over.cancel()

    async def _work(self) -> None:
        connector = PsycopgConnector(
            conninfo=queue.conninfo(self._url), kwargs={"options": f"-c search_path={queue.SCHEMA}"}, min_size=1,
            max_size=AT_ONCE + 2, timeout=5,
        )  # fmt: skip
        app = _app(connector)
        async with app.open_async():
            for name in REGULAR:
                with contextlib.suppress(queue.AlreadyEnqueued):
                    await app.configure_task(name, queue=queue.QUEUE, queueing_lock=name, lock=name).defer_async(
                        timestamp=0
                    )
            looking = asyncio.create_task(self._look_after(app))
            try:
                await self._do_jobs(app)
            finally:
                looking.cancel()

    async def _look_after(self, app: App) -> None:
        while True:
            try:
                await take_over(app, self._sessions)
            except Exception:
                log.exception("jobs that were left could not be looked for")
            await asyncio.sleep(LOOK_EVERY_S)

    async def _do_jobs(self, app: App) -> None:
        await app.run_worker_async(
                queues=[queue.QUEUE], concurrency=AT_ONCE, install_signal_handlers=False, delete_jobs="always",
                fetch_job_polling_interval=AGAIN_S, update_heartbeat_interval=BEAT_S,
                stalled_worker_timeout=SILENT_S, shutdown_graceful_timeout=5, additional_context=self._context,
            )  # fmt: skip
