"""Files of pictures, in a folder beside the database, each named by what it holds: the same picture is kept once."""

import contextlib
import os
import tempfile
import time
from collections.abc import Iterator
from hashlib import sha256
from pathlib import Path

SUFFIX = ".jpg"


def name_of(data: bytes) -> str:
    """What a file is called: its SHA-256 in hexadecimal."""
    return sha256(data).hexdigest()


class Folder:
    """The folder of pictures. path: where it is; made when the first one comes."""

    def __init__(self, path: Path) -> None:
        self._path = path

    def put(self, data: bytes) -> str:
        """Keep a file; its name. It is on the disk when this returns."""
        name = name_of(data)
        at = self._at(name)
        if at.exists():
            os.utime(at)
            return name
        at.parent.mkdir(parents=True, exist_ok=True)
        number, part = tempfile.mkstemp(dir=at.parent, suffix=".part")
        try:
            with os.fdopen(number, "wb") as out:
                out.write(data)
                out.flush()
                os.fsync(out.fileno())
            os.replace(part, at)
        except BaseException:
            Path(part).unlink(missing_ok=True)
            raise
        return name

    def get(self, name: str) -> bytes | None:
        """A file, None where it is missing."""
        with contextlib.suppress(FileNotFoundError):
            return self._at(name).read_bytes()
        return None

    def remove(self, name: str) -> None:
        """Let a file go, where it is there."""
        self._at(name).unlink(missing_ok=True)

    def older(self, seconds: float) -> Iterator[str]:
        """Files that have been there for longer than that, in order."""
        for at in sorted(self._path.glob(f"??/*{SUFFIX}")):
            if time.time() - at.stat().st_mtime > seconds:
                yield at.name.removesuffix(SUFFIX)

    def _at(self, name: str) -> Path:
        return self._path / name[:2] / f"{name}{SUFFIX}"
