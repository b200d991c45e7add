"""House rules that can be checked: which way imports go, units in names, errors with a status, sources resolved."""

import ast
import re
import unittest
from pathlib import Path

from june_shade.api.errors import STATUS
from june_shade.core.errors import JuneShadeError
from june_shade.core.working import worked
from june_shade.settings import ROOT

PACKAGE = ROOT / "june_shade"
MAY_IMPORT = {
    "core": set(),
    "formats": {"core"},
    "store": {"core"},
    "outside": {"core"},
    "standins": {"core"},
    "plans": {"core", "formats", "outside", "store"},
    "demo": {"core", "formats", "outside", "store", "plans", "standins"},
    "jobs": {"core", "outside", "plans", "store"},
    "api": {"core", "formats", "outside", "plans", "jobs", "demo", "settings"},
    "cli": {"core", "formats"},
}
"""Which parts of the package each part may know; launch, which starts everything, may know all."""
CORE_ORDER = (
    "errors",
    "numbers",
    "units",
    "checks",
    "working",
    "tables",
    "soil",
    "stock",
    "geometry",
    "weather",
    "mulch",
    "water",
    "drip",
    "devices",
    "planting",
    "saving",
    "care",
    "looking",
    "ground",
    "book",
    "limits",
    "choosing",
    "fields",
)
OUTSIDE_CORE = {"numba", "numpy", "ortools", "scipy", "shapely"}
"""The libraries that the core may use: arrays and loops, sparse systems, ways, plane geometry."""


def imports(path: Path) -> set[str]:
    """Full names of what a file imports."""
    found = set()
    for node in ast.walk(ast.parse(path.read_text(encoding="utf-8"))):
        if isinstance(node, ast.Import):
            found |= {alias.name for alias in node.names}
        elif isinstance(node, ast.ImportFrom) and node.module:
            found.add(node.module)
            found |= {f"{node.module}.{alias.name}" for alias in node.names}
    return found


def files(part: str) -> list[Path]:
    single = PACKAGE / f"{part}.py"
    return [single] if single.exists() else sorted((PACKAGE / part).rglob("*.py"))


class Imports(unittest.TestCase):
    def test_arrows_go_one_way(self):
        parts = {p.stem for p in PACKAGE.iterdir() if p.stem != "__pycache__"}
        for part, allowed in MAY_IMPORT.items():
            self.assertTrue(files(part), part)
            for path in files(part):
                for name in imports(path):
                    words = name.split(".")
                    if words[0] == "june_shade" and len(words) > 1 and words[1] in parts:
                        self.assertIn(words[1], allowed | {part}, f"{path.relative_to(ROOT)} imports {name}")

    def test_only_the_store_speaks_sql(self):
        for part in ("plans", "api", "formats", "outside"):
            for path in files(part):
                found = {name for name in imports(path) if name.split(".")[0] in ("sqlalchemy", "psycopg", "alembic")}
                self.assertEqual(found, set(), path.relative_to(ROOT))
                self.assertNotRegex(path.read_text(encoding="utf-8"), r"\bsession\.(execute|scalars|scalar)\(", path)

    def test_folders_of_the_core_know_only_those_below_them(self):
        """CORE_ORDER from the bottom up: a folder may import from those before it, never from those after it."""
        place = {name: i for i, name in enumerate(CORE_ORDER)}
        for path in files("core"):
            inside = path.relative_to(PACKAGE / "core")
            own = inside.parts[0] if len(inside.parts) > 1 else inside.stem
            if own == "__init__":
                continue
            self.assertIn(own, place, "say where it stands in CORE_ORDER")
            for name in imports(path):
                words = name.split(".")
                if words[:2] == ["june_shade", "core"] and len(words) > 2 and words[2] in place:
                    self.assertLessEqual(place[words[2]], place[own], f"{inside} imports {name}")

    def test_the_core_uses_arrays_geometry_and_plain_python_only(self):
        import sys

        for path in files("core"):
            for name in imports(path):
                top = name.split(".")[0]
                if top != "june_shade":
                    self.assertTrue(top in OUTSIDE_CORE or top in sys.stdlib_module_names, f"{path.name}: {name}")
                self.assertNotIn(top, {"logging", "time", "os", "pathlib", "socket"}, f"{path.name}: {name}")


UNITS = (
    "m", "l", "mm", "c", "h", "s", "min", "deg", "rad", "kpa", "mj", "m2", "m3", "m_s", "percent", "l_per_h",
    "l_per_h_m", "mm_h", "mj_m2", "kg", "g", "um", "mm_h", "ds_m", "days", "years", "per_c", "share", "km", "m_per_day",
)  # fmt: skip
"""How a name ends that carries its unit."""


class Docstrings(unittest.TestCase):
    def test_a_number_that_the_core_takes_has_its_unit_in_its_name_or_is_told(self):
        numeric, found = re.compile(r"Numbers|ndarray|Array|float"), []
        for path in files("core"):
            tree = ast.parse(path.read_text(encoding="utf-8"))
            inside = [*tree.body, *(one for kind in tree.body if isinstance(kind, ast.ClassDef) for one in kind.body)]
            for one in inside:
                if not isinstance(one, ast.FunctionDef) or one.name.startswith("_"):
                    continue
                told = ast.get_docstring(one)
                self.assertTrue(told, f"{path.name}: {one.name}")
                for given in (*one.args.args, *one.args.kwonlyargs):
                    if given.annotation is None or not numeric.search(ast.unparse(given.annotation)):
                        continue
                    if not given.arg.endswith(tuple(f"_{unit}" for unit in UNITS)) and given.arg not in told:
                        found.append(f"{path.relative_to(PACKAGE)}: {one.name}({given.arg})")
        self.assertEqual(found, [])


class OnePlace(unittest.TestCase):
    """Only plans/changes.py drops states, lays anew, locks for itself and counts revisions."""

    def callers(self, pattern: str) -> set[str]:
        found = {
            str(path.relative_to(PACKAGE))
            for part in ("plans", "api", "demo", "store", "formats")
            for path in files(part)
            if re.search(pattern, path.read_text(encoding="utf-8"))
        }
        self.assertTrue(found, pattern)
        return found

    def test_what_changed_is_said_in_one_place(self):
        for pattern in (r"\.drop_states\(", r"lines\.refresh\(", r"\.bump\(", r"exclusive=True"):
            self.assertEqual(self.callers(pattern), {"plans/changes.py"}, pattern)


class Errors(unittest.TestCase):
    def test_every_error_has_a_code_of_its_own_and_a_status(self):
        kinds = [JuneShadeError]
        for kind in kinds:
            kinds.extend(k for k in kind.__subclasses__() if k not in kinds and k.__module__.startswith("june_shade"))
        self.assertGreater(len(kinds), 6)
        for kind in kinds:
            self.assertIn(kind, STATUS, f"{kind.__name__} has no status")
        codes = [kind.code for kind in kinds]
        self.assertEqual(len(set(codes)), len(codes))

    def test_an_error_reads_as_field_and_sentence(self):
        self.assertEqual(str(JuneShadeError("must be above 0", "tree.caliper_m")), "tree.caliper_m: must be above 0")


class Sources(unittest.TestCase):
    def test_every_key_used_is_in_the_bibliography(self):
        listed = set(
            re.findall(r"^\| \[([A-Za-z0-9]+)\]", (ROOT / "docs/sources.md").read_text(encoding="utf-8"), re.M)
        )
        self.assertGreater(len(listed), 10)
        used = set()
        for path in [*files("core"), PACKAGE / "core/tables/SOURCES.md"]:
            for group in re.findall(r"\[([A-Z][A-Za-z0-9;, ]+)\]", path.read_text(encoding="utf-8")):
                used |= {word.strip() for word in re.split("[;,]", group)}
        keys = {
            key
            for key in used
            if re.fullmatch(r"[A-Z][A-Za-z]*[0-9]{2,4}|FAO56|SLIDE|Gilman|CSU|UMN|UF|NIOSH|WUCOLS", key)
        }
        self.assertGreater(len(keys), 8)
        self.assertEqual(keys - listed, set())

    def test_a_line_of_a_working_always_names_its_source(self):
        for path in [*files("core"), *files("plans")]:
            for call in ast.walk(ast.parse(path.read_text(encoding="utf-8"))):
                if isinstance(call, ast.Call) and getattr(call.func, "id", getattr(call.func, "attr", "")) == "line":
                    texts = [one.value for one in call.args[4:5] if isinstance(one, ast.Constant)]
                    where = f"{path.relative_to(ROOT)}:{call.lineno}"
                    if len(call.args) > 4:
                        self.assertNotIn("", texts, where)
        with self.assertRaises(TypeError):
            worked("net", "N = D", 3.2, "L")


class Tables(unittest.TestCase):
    def test_every_row_of_every_table_has_a_source(self):
        import csv

        tables = sorted((PACKAGE / "core/tables").glob("*.csv"))
        self.assertGreaterEqual(len(tables), 6)
        for path in tables:
            with path.open(newline="", encoding="utf-8") as file:
                rows = list(csv.DictReader(file))
            self.assertTrue(rows, path.name)
            for row in rows:
                self.assertTrue(row["source"].strip(), f"{path.name}: {row}")


class Words(unittest.TestCase):
    """All interface text lies in the messages; every closed word of the core is worded there."""

    def test_every_code_of_the_core_has_words(self):
        import json

        from june_shade.core.weather.daily import SUBSTITUTES
        from june_shade.plans.water import watering

        text = json.loads((ROOT / "web/src/i18n/en.json").read_text(encoding="utf-8"))
        for code in ("ball_not_refilled", "once_is_not_enough", "daily", "dry_ball", "slow_ground"):
            self.assertIn(code, text["flag"], code)
        for code in (*watering.LINE_PROBLEMS.values(),):
            self.assertIn(code, text["flag"], code)
        source = (PACKAGE / "core/drip/judge.py").read_text() + (PACKAGE / "core/drip/verdict.py").read_text()
        found = set(re.findall(r'Finding\(\s*"(\w+)"', source)) | {"no_head", "head_low", "head_high"}
        self.assertGreater(len(found), 12)
        for code in found:
            self.assertIn(code, text["drip"]["finding"], code)
            self.assertIn(f"`{code}`", (ROOT / "docs/glossary.md").read_text(encoding="utf-8"), code)
        for code in ("frozen", "hot_hose", "heat"):
            self.assertIn(code, text["caution"], code)
        for code in ("ball_small", "ball_large", "ball_tall", "caliper_large"):
            self.assertIn(code, text["doubt"], code)
        for code in ("station", "penman_monteith", "hargreaves", *SUBSTITUTES):
            self.assertIn(code, text["eto_method"], code)

    def test_every_word_of_planting_and_mulch_has_words(self):
        import json

        from june_shade.core.care import cautions
        from june_shade.core.care.calendar import KINDS
        from june_shade.core.mulch import look, materials
        from june_shade.core.planting import aids, clearance, schools, stock_check
        from june_shade.core.stock import plants
        from june_shade.formats.calendar_ics import LANGUAGES, words

        text = json.loads((ROOT / "web/src/i18n/en.json").read_text(encoding="utf-8"))
        planting, mulch = text["planting"], text["mulch"]
        glossary = (ROOT / "docs/glossary.md").read_text(encoding="utf-8")
        sources = {name: (PACKAGE / f"core/{name}.py").read_text() for name in (
            "mulch/ring", "mulch/lay", "planting/hole", "planting/plan", "planting/schools", "mulch/look",
        )}  # fmt: skip
        found = {
            "mulch": set(re.findall(r'Finding\(\s*"(\w+)"', sources["mulch/ring"] + sources["mulch/lay"])),
            "planting": set(re.findall(r'Finding\(\s*"(\w+)"', sources["planting/hole"] + sources["planting/plan"]))
            | {"two_people", "ball_cart", "machine"},
        }
        self.assertGreater(len(found["mulch"]) + len(found["planting"]), 9)
        for code in found["mulch"]:
            self.assertIn(code, mulch["finding"], code)
        for code in found["planting"]:
            self.assertIn(code, planting["finding"], code)
        for code in found["mulch"] | found["planting"]:
            self.assertIn(f"`{code}`", glossary, code)
        for code in set(re.findall(r'"(?:suits|possible|poor)", "(\w+)"', sources["planting/schools"])) - {"possible"}:
            self.assertIn(code, planting["because"], code)
        for also in set(re.findall(r'also\.append\("(\w+)"\)', sources["mulch/look"])):
            self.assertIn(also, mulch["also"], also)
        listed = (
            (planting["depth"], schools.DEPTHS), (planting["fill"], schools.BACKFILLS), (planting["aid"], aids.AIDS),
            (planting["reason"], {*stock_check.REJECTS.values(), "ball_short_under_flare"}),
            (planting["action"], {*stock_check.DO.values(), "soil_off_flare"}),
            (planting["action"], [code for codes in stock_check.ALWAYS.values() for code in codes]),
            (planting["room"], [f"{kind}_inside" for kind in clearance.STRUCTURES]),
            (mulch["verdict"], look.VERDICTS), (mulch["look"], look.BARK_M),
            (mulch["why"], [reason for s in materials.suitability() for reason in s.reasons]),
            (text["material"] | mulch["avoidNames"], [s.name for s in materials.suitability()]),
        )  # fmt: skip
        for worded, codes in listed:
            for code in codes:
                self.assertIn(code, worded, code)
        for question, answers in stock_check.QUESTIONS.items():
            self.assertEqual(set(planting["check"][question]), {"q", *answers})
        for language in LANGUAGES:
            said = words(language)
            self.assertEqual(set(said), {*KINDS, "caution", "look", "about"})
            self.assertEqual(set(said["caution"]), set(cautions.OF_TASKS.values()))
            self.assertEqual(set(said["look"]), set(plants.PESTS))
        self.assertEqual(set(text["pest"]), set(plants.PESTS))

    def test_what_covers_the_job_is_there(self):
        text = (ROOT / "docs/coverage.md").read_text(encoding="utf-8")
        tests = "".join(path.read_text(encoding="utf-8") for path in (ROOT / "tests").rglob("*.py"))
        views = {path.stem for path in (ROOT / "web/src").rglob("*.vue")}
        named = set(re.findall(r"`(\w+)`", text))
        self.assertGreater(len(named), 100)
        for name in named:
            found = f"def {name}(" in tests if name.startswith("test_") else name in views
            self.assertTrue(found, f"{name} is named in docs/coverage.md and is nowhere")
        for row in re.findall(r"^\|.*\|$", text, re.M):
            self.assertTrue("`test_" in row or "to come" in row or "---" in row or "held by" in row, row)

    def test_sizes_and_colors_come_from_one_scale(self):
        typed = re.compile(r"font-size: \d+px|(?:gap|padding|margin)[a-z-]*: [^;{]*\b\d\dpx|#[0-9a-fA-F]{3,8}\b")
        rail_and_mark = {"App.vue: padding-bottom: 64px", "TaskRow.vue: padding: 0 0 var(--space-3) 122px"}
        found = set()
        for path in sorted((ROOT / "web/src").rglob("*.vue")):
            for style in re.findall(r"<style[^>]*>(.*?)</style>", path.read_text(encoding="utf-8"), re.S):
                found |= {f"{path.name}: {match}" for match in typed.findall(style)}
        self.assertEqual(found - rail_and_mark, set(), "tokens.css has the sizes, spaces and colors")

    def test_templates_hold_no_text_of_their_own(self):
        found = []
        for path in sorted((ROOT / "web/src").rglob("*.vue")):
            template = re.search(r"<template>(.*)</template>", path.read_text(encoding="utf-8"), re.S)
            if template is None:
                continue
            bare = re.sub(r"<!--.*?-->|\{\{.*?\}\}", "", template.group(1), flags=re.S)
            for text in re.findall(r">([^<>{}]*[A-Za-z]{3,}[^<>{}]*)<", bare):
                if '"' not in text and "=" not in text:
                    found.append(f"{path.name}: {text.strip()}")
        self.assertEqual(found, [])


if __name__ == "__main__":
    unittest.main()
