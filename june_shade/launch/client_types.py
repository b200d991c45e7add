"""The interface's types: the API's own description, and TypeScript made from it. Committed, and checked for drift."""

import json
import subprocess
import sys

from june_shade.api.app import create_app
from june_shade.settings import ROOT, Settings

WEB = ROOT / "web"
DESCRIPTION = WEB / "src" / "api" / "openapi.json"
TYPES = WEB / "src" / "api" / "schema.d.ts"


def write(*, check: bool = False) -> int:
    """Write both files; with check, leave them and return 1 where they are not fresh."""
    before = {path: path.read_text() if path.exists() else "" for path in (DESCRIPTION, TYPES)}
    DESCRIPTION.parent.mkdir(parents=True, exist_ok=True)
    DESCRIPTION.write_text(json.dumps(create_app(Settings()).openapi(), indent=1, sort_keys=True) + "\n")
    code = subprocess.call(["npm", "run", "--silent", "types"], cwd=WEB, stdout=subprocess.DEVNULL)
    if code or not check:
        return code
    stale = [path for path, text in before.items() if path.read_text() != text]
    for path in stale:
        path.write_text(before[path])
        print(f"{path.relative_to(ROOT)} is not fresh: run ./june types and commit it", file=sys.stderr)
    return 1 if stale else 0
