"""Sentences of the program in other languages: it says them in English, and they are put into the reader's here."""

import json
import re
from collections.abc import Mapping
from functools import cache, lru_cache
from importlib import resources

LANGUAGES = ("en", "es")
"""The first is the one that the program is written in."""
GAP = "{}"
"""In a sentence, what differs from time to time: a name, a figure, another sentence."""


@cache
def catalogue(language: str) -> Mapping[str, str]:
    """A language's sentence for each English one, with the same gaps in the same order. language: not English."""
    text = resources.files("june_shade.formats").joinpath(f"words/sentences.{language}.json").read_text("utf-8")
    return json.loads(text)


@cache
def _forms(language: str) -> list[tuple[re.Pattern[str], str]]:
    """What each English sentence looks like, the one with most words of its own first."""
    known = sorted(catalogue(language).items(), key=lambda pair: -len(pair[0].replace(GAP, "")))
    return [(re.compile("(.*?)".join(map(re.escape, english.split(GAP))), re.S), own) for english, own in known]


@lru_cache(maxsize=4096)
def said(sentence: str, language: str) -> str:
    """A sentence of the program in a language; as it is where that has none for it. What fills its gaps is put into
    the language, too, where it is a sentence; a single word there is a name."""
    if language == LANGUAGES[0] or not sentence:
        return sentence
    for form, own in _forms(language):
        if found := form.fullmatch(sentence):
            parts = own.split(GAP)
            filled = [said(gap, language) if " " in gap and gap != sentence else gap for gap in found.groups()]
            return parts[0] + "".join(gap + part for gap, part in zip(filled, parts[1:], strict=True))
    return sentence
