"""What the program says when something can't be, in every language: none is missing, none loses what it names."""

import ast
import re
import unittest
from pathlib import Path

from june_shade.core.units import told
from june_shade.formats.sentences import GAP, LANGUAGES, catalogue, said
from june_shade.settings import ROOT

PACKAGE = ROOT / "june_shade"
SECOND = {"_CellError", "_RowError"}
"""These name the column first."""
ON_A_CONSOLE = {"cli.py", "launch", "demo", "standins", "store"}
"""Who reads a terminal or a log reads English."""


def texts(node: ast.expr) -> list[str]:
    """The sentences that an expression may be; [] where it only hands one on."""
    match node:
        case ast.Constant(value=str(text)):
            return [text]
        case ast.JoinedStr(values=values):
            return ["".join(v.value if isinstance(v, ast.Constant) else GAP for v in values)]
        case ast.IfExp(body=one, orelse=other):
            return texts(one) + texts(other)
    return []


def sentences() -> dict[str, str]:
    """Every sentence that an error is raised with, by where."""
    found = {}
    for path in PACKAGE.rglob("*.py"):
        if ON_A_CONSOLE & set(path.relative_to(PACKAGE).parts):
            continue
        for node in ast.walk(ast.parse(path.read_text(encoding="utf-8"))):
            name = getattr(node.func, "attr", getattr(node.func, "id", "")) if isinstance(node, ast.Call) else ""
            at = 1 if name in SECOND or (name == "problem" and "api" in path.parts) else 0
            if name == "AssertionError" or (name == "ValueError" and "schemas" not in path.parts):
                continue  # a slip of the program's own
            if (name.endswith("Error") or name == "problem") and len(node.args) > at:
                found |= dict.fromkeys(texts(node.args[at]), f"{path.name}:{node.lineno}")
    return found


class Complete(unittest.TestCase):
    def test_every_sentence_that_is_raised_is_there(self):
        found = sentences()
        self.assertGreater(len(found), 350)
        for language in LANGUAGES[1:]:
            left = {
                text: where for text, where in found.items()
                if said(text.replace(GAP, "7"), language) == text.replace(GAP, "7") and re.search("[a-z]{3} ", text)
            }  # fmt: skip
            self.assertEqual(left, {}, "\n".join(left))

    def test_it_has_the_gaps_of_the_english_one_and_no_english_words(self):
        for language in LANGUAGES[1:]:
            for english, own in catalogue(language).items():
                self.assertEqual(english.count(GAP), own.count(GAP), english)
                if re.search("[a-z]{3}", english):
                    self.assertNotRegex(own, r"\b(the|must|this|there|with|which)\b", english)

    def test_the_words_lie_where_the_program_is_installed(self):
        names = {path.name for path in Path(PACKAGE / "formats/words").iterdir()}
        for language in LANGUAGES[1:]:
            self.assertLessEqual({f"care.{language}.json", f"sentences.{language}.json"}, names)


class Said(unittest.TestCase):
    def test_what_it_names_stays(self):
        self.assertEqual(said("'HL-01' is taken already", "es"), "'HL-01' ya está tomado")
        self.assertEqual(said("must be at least 1, not 0", "es"), "debe ser al menos 1, no 0")

    def test_quantities_keep_what_makes_them_turn_into_other_units(self):
        length = told(0.3, "m")
        self.assertEqual(said(f"must be above {length}, not {length}", "es"), f"debe ser más de {length}, no {length}")

    def test_a_sentence_in_a_sentence_is_said_too(self):
        self.assertEqual(said("HL-01: is required", "es"), "HL-01: hace falta")
        self.assertEqual(
            said("the weather service failed 3 times: it took too long to answer", "es"),
            "el servicio de clima falló 3 veces: tardó demasiado en responder",
        )

    def test_the_one_with_most_words_of_its_own_is_meant(self):
        self.assertEqual(said("'x' is not a number of this format", "es"), "'x' no es un número de este formato")

    def test_what_is_no_sentence_of_the_program_stays_as_it_is(self):
        for words in ("", "Grandfather's pear", "gate code at the office"):
            self.assertEqual([said(words, one) for one in LANGUAGES], [words, words])
