"""Which words belong to one language only."""

import json
import re

from june_shade.settings import ROOT

WORDS = ROOT / "web/src/i18n"


def flat(words: dict, at: str = "") -> dict[str, str]:
    """Messages by their full names."""
    found = {}
    for key, value in words.items():
        found |= flat(value, f"{at}{key}.") if isinstance(value, dict) else {at + key: value}
    return found


def english_only() -> list[str]:
    """Messages of the first language that are two words or more and stand as they are on a page."""
    first, second = (flat(json.loads((WORDS / f"{one}.json").read_text(encoding="utf-8"))) for one in ("en", "es"))
    return [
        words for key, words in first.items()
        if not re.search(r"[{|⟦]", words) and words.count(" ") >= 1 and words != second[key] and len(words) >= 9
    ]  # fmt: skip
