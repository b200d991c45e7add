"""Settings from the environment. Read once by whoever starts the program and handed down."""

import os
from pathlib import Path

from pydantic import Field
from pydantic_settings import BaseSettings, SettingsConfigDict

ROOT = Path(__file__).resolve().parent.parent


class Settings(BaseSettings):
    """database_url: PostgreSQL. forecast_url: the forecast service, empty = none. forecast_made_up: that service is
    the stand-in. demo: the made-up town. warm: compute each morning's round before anyone asks for it. works: do the
    background's jobs in this process; false where another does. chooses: choose the plan under limits by itself where
    it is due, else only when asked; choose_seconds: how long that may take. cores: what workers and connections are
    counted by. pictures: the folder of pictures' files, the same one for all workers.
    hosts: names it answers at beside loopback's, as JSON. certificate, key: files for TLS, PEM; empty = plain HTTP,
    on loopback or behind a proxy that speaks TLS. log_json: a line of JSON for each answer, each fault.
    metrics_word: who brings it is told metrics, empty = whoever is on this machine."""

    model_config = SettingsConfigDict(env_prefix="JUNE_", populate_by_name=True)

    database_url: str = ""
    forecast_url: str = ""
    forecast_made_up: bool = False
    forecast_timeout_s: float = 3.0
    warm: bool = False
    works: bool = True
    chooses: bool = True
    choose_seconds: float = 28.0
    cores: int = Field(default_factory=lambda: len(os.sched_getaffinity(0)), ge=1)
    demo: bool = False
    hosts: tuple[str, ...] = ()
    certificate: str = ""
    key: str = ""
    log_json: bool = False
    metrics_word: str = ""
    pictures: Path = ROOT / ".june" / "pictures"
    web_dist: Path = ROOT / "web" / "dist"
