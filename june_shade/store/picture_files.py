"""Files of pictures, in a folder beside the database, each named by what it holds: the same picture is kept once."""

import contextlib
import os
import tempfile
import time
from collections.abc import Iterator
from hashlib import sha256
from pathlib import Path

from june_shade.core.errors import NoRoomError

SUFFIX, PART = ".jpg", ".part"


def name_of(data: bytes) -> str:
    """What a file is called: its SHA-256 in hexadecimal."""
    return sha256(data).hexdigest()


class Folder:
    """The folder of pictures. path: where it is; made when the first one comes."""

    def __init__(self, path: Path) -> None:
        self._path = path

    def put(self, data: bytes) -> str:
        """Keep a file; its name. It is on the disk when this returns. Raises NoRoomError where it can't be."""
        name = name_of(data)
        at = self._at(name)
        if at.exists():
            os.utime(at)
            return name
        try:
            self._write(at, data)
        except OSError as e:
            raise NoRoomError(
                "could not be kept: the folder of pictures is full, or can't be written. Make room, and try again",
                "file",
            ) from e  # fmt: skip
        return name

    def _write(self, at: Path, data: bytes) -> None:
        at.parent.mkdir(parents=True, exist_ok=True)
        number, part = tempfile.mkstemp(dir=at.parent, suffix=PART)
        try:
            with os.fdopen(number, "wb") as out:
                out.write(data)
                out.flush()
                os.fsync(out.fileno())
            os.replace(part, at)
        except BaseException:
            Path(part).unlink(missing_ok=True)
            raise

    def get(self, name: str) -> bytes | None:
        """A file, None where it is missing."""
        with contextlib.suppress(FileNotFoundError):
            return self._at(name).read_bytes()
        return None

    def remove(self, name: str) -> None:
        """Let a file go, where it is there."""
        self._at(name).unlink(missing_ok=True)

    def older(self, seconds: float) -> Iterator[str]:
        """Files that were brought longer ago than that, in order."""
        for at in self._before(seconds, SUFFIX):
            yield at.name.removesuffix(SUFFIX)

    def drop_parts(self, seconds: float) -> None:
        """Let go what was begun longer ago than that and never became a file."""
        for at in self._before(seconds, PART):
            at.unlink(missing_ok=True)

    def _before(self, seconds: float, suffix: str) -> Iterator[Path]:
        for at in sorted(self._path.glob(f"??/*{suffix}")):
            if time.time() - at.stat().st_mtime > seconds:
                yield at

    def _at(self, name: str) -> Path:
        return self._path / name[:2] / f"{name}{SUFFIX}"
