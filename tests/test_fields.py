"""A tree's fields are declared once: the API's class, the columns and the facts written out hold to the rows."""

import dataclasses
import unittest

from june_shade.api.schemas.trees import SameForMany, TreeIn, TreeOut
from june_shade.core import fields
from june_shade.store.facts import WAY_COLUMNS, FormerWayFacts, TreeFacts
from june_shade.store.tree_tables import Tree

SET_BY_THE_PROGRAM = {
    "id", "version", "opened_on", "opening", "ball_wetness", "ring_wetness", "layout_id", "obstacles",
    "mulch_clear_gap_m", "mulch_wasting_years", "mulch_choice", "planting_id", "withdrawn_at", "ended_on",
    "handed_on", "organisation_id",
}  # fmt: skip
BY_NAME_IN_THE_API = {"site_id", "plant_id"}
LIMITS = {"exclusiveMinimum": "above", "minimum": "low", "maximum": "high"}


def api_name(field):
    return field.column if field.column in BY_NAME_IN_THE_API else field.name


def parts(schema):
    """A property's schema and those it is one of, named ones resolved: where its limits and choices stand."""
    return [schema, *schema.get("anyOf", ())]


class Fields(unittest.TestCase):
    def test_every_column_is_a_field_that_people_type_or_one_that_the_program_sets(self):
        columns = {column.name for column in Tree.__table__.columns}
        typed = {field.column or field.name for field in fields.TREE}
        self.assertEqual(typed & SET_BY_THE_PROGRAM, set())
        self.assertEqual(columns, typed | SET_BY_THE_PROGRAM)

    def test_a_column_is_empty_just_where_left_out_means_nothing(self):
        for field in fields.TREE:
            column = Tree.__table__.columns[field.column or field.name]
            with self.subTest(field.name):
                self.assertEqual(column.nullable, field.empty is None)

    def test_the_api_takes_each_with_its_limits_choices_and_what_it_means_left_out(self):
        described = TreeIn.model_json_schema()
        for field in fields.TREE:
            said = described["properties"][api_name(field)]
            with self.subTest(field.name):
                self.assertEqual(api_name(field) in described.get("required", ()), field.empty == fields.GIVEN)
                if field.empty != fields.GIVEN:
                    self.assertEqual(said.get("default"), field.empty)
                for key, part in LIMITS.items():
                    told = next((p[key] for p in parts(said) if key in p), None)
                    self.assertEqual(told, field.limits and getattr(field.limits, part))
                choices = next((p["enum"] for p in parts(said) if "enum" in p), [])
                self.assertEqual(sorted(choices), sorted(field.choices))
                if field.longest and not field.column and field.name != "stock_size_id":
                    self.assertIn(field.longest, [p.get("maxLength") for p in parts(said)])

    def test_what_is_changed_on_many_is_a_field_of_one(self):
        known = {api_name(field) for field in fields.TREE} | {"way_since"}
        self.assertLessEqual(set(SameForMany.model_fields), known)

    def test_pages_are_told_all_that_is_typed(self):
        told = set(TreeOut.model_fields) | {"plant_id"}  # the kind of tree goes whole
        self.assertLessEqual({api_name(field) for field in fields.TREE}, told)

    def test_plans_know_all_that_they_rest_on(self):
        known = {field.name for field in dataclasses.fields(TreeFacts)}
        self.assertLessEqual(set(fields.columns(resting="way")), known)
        self.assertLessEqual(set(fields.columns(resting="past")) - {"plant_id"}, known)
        self.assertLessEqual(set(WAY_COLUMNS), {field.name for field in dataclasses.fields(FormerWayFacts)})

    def test_what_a_form_begins_with_is_within_the_limits(self):
        for field in fields.TREE:
            if field.limits and field.usual is not None:
                self.assertEqual(field.limits.fault(field.usual), "", field.name)
            if field.choices and field.usual is not None:
                self.assertIn(field.usual, field.choices)


if __name__ == "__main__":
    unittest.main()
