"""The interface's types: the API's own description, and TypeScript made from it. Committed, and checked for drift."""

import json
import subprocess
import sys
from typing import Any

from june_shade.api.app import create_app
from june_shade.core import fields
from june_shade.settings import ROOT, Settings

WEB = ROOT / "web"
DESCRIPTION = WEB / "src" / "api" / "openapi.json"
TYPES = WEB / "src" / "api" / "schema.d.ts"
TREE_FIELDS = WEB / "src" / "api" / "treeFields.json"


def tree_fields() -> dict[str, dict[str, Any]]:
    """A tree's fields for forms: unit, limits, choices, longest words, what a form begins with, what rests on each."""
    return {
        field.column if field.column in ("site_id", "plant_id") else field.name: {
            "unit": field.unit,
            "above": field.limits and field.limits.above,
            "low": field.limits and field.limits.low,
            "high": field.limits and field.limits.high,
            "choices": field.choices,
            "named": field.named,
            "longest": field.longest,
            "usual": field.usual,
            "rests": field.rests,
        }
        for field in fields.TREE
    }


def write(*, check: bool = False) -> int:
    """Write the three files; with check, leave them and return 1 where they are not fresh."""
    before = {path: path.read_text() if path.exists() else "" for path in (DESCRIPTION, TYPES, TREE_FIELDS)}
    DESCRIPTION.parent.mkdir(parents=True, exist_ok=True)
    DESCRIPTION.write_text(json.dumps(create_app(Settings()).openapi(), indent=1, sort_keys=True) + "\n")
    TREE_FIELDS.write_text(json.dumps(tree_fields(), indent=1) + "\n")
    code = subprocess.call(["npm", "run", "--silent", "types"], cwd=WEB, stdout=subprocess.DEVNULL)
    if code or not check:
        return code
    stale = [path for path, text in before.items() if path.read_text() != text]
    for path in stale:
        path.write_text(before[path])
        print(f"{path.relative_to(ROOT)} is not fresh: run ./june types and commit it", file=sys.stderr)
    return 1 if stale else 0
