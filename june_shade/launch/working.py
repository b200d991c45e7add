"""The process that does the background's jobs, beside the one that answers."""

import signal
import threading
from types import FrameType

from june_shade.jobs import AT_ONCE, Choosing, Worker
from june_shade.launch.serving import log_as_json
from june_shade.outside.forecast import service_at
from june_shade.plans.pictures import folder_at
from june_shade.settings import Settings
from june_shade.store.session import make_engine, make_sessions


def work() -> int:
    """Do jobs until this process is told to end."""
    settings, over = Settings(), threading.Event()
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

    signal.signal(signal.SIGTERM, end)
    worker.start()
    over.wait()
    worker.stop()
    engine.dispose()
    return 0
