"""The process that does the background's jobs, beside the one that answers.

Run as a module it is the one that `demo` and `run` start; `./june work` is one more of it, by itself.
"""

import os
import signal
import sys
import threading
from types import FrameType

from june_shade.jobs import AT_ONCE, Choosing, Worker
from june_shade.launch.processes import Child, watched, with_forecast
from june_shade.launch.serving import CannotStart, log_as_json, upgraded
from june_shade.outside.forecast import service_at
from june_shade.plans.pictures import folder_at
from june_shade.settings import Settings
from june_shade.store.session import make_engine, make_sessions


def one_more() -> int:
    """One more of these processes, on the database at DATABASE_URL."""
    url = os.environ.get("DATABASE_URL", "")
    children: list[Child] = []
    try:
        if not url:
            raise CannotStart("DATABASE_URL names the database whose jobs it does; demo and run do their own")
        settings = Settings(database_url=upgraded(url))
        with with_forecast(settings, children) as told, watched(children):
            print("June Shade does jobs (Ctrl-C stops it)", flush=True)
            return work(told)
    except CannotStart as e:
        print(f"June Shade can't start: {e}", file=sys.stderr)
        return 3


def work(settings: Settings) -> int:
    """Do jobs until this process is told to end."""
    over = threading.Event()
    if settings.log_json:
        log_as_json()
    service = service_at(settings.forecast_url, settings.forecast_timeout_s, made_up=settings.forecast_made_up)
    engine = make_engine(settings.database_url, AT_ONCE + 1)
    worker = Worker(
        settings.database_url, make_sessions(engine), service, folder_at(settings.pictures),
        Choosing(settings.chooses, settings.choose_seconds),
    )  # fmt: skip

    def end(number: int, frame: FrameType | None) -> None:
        over.set()

    for number in (signal.SIGTERM, signal.SIGINT):
        signal.signal(number, end)
    worker.start()
    over.wait()
    worker.stop()
    engine.dispose()
    return 0


if __name__ == "__main__":
    sys.exit(work(Settings()))
