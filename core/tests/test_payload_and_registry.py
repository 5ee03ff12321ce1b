"""Questions in plain JSON types: what is wrong is named by its path, in a sentence; an unknown field is refused with the nearest."""

from __future__ import annotations

import subprocess
import sys
from dataclasses import dataclass
from math import inf, nan
from pathlib import Path
from typing import get_type_hints
from unittest import TestCase

from amber_core import payload as codec
from amber_core import registry
from amber_core.errors import InvalidInput, NotFinite, UnknownComputation, UnknownField

CORE = Path(__file__).resolve().parents[1]
ROUND = {"readings": [{"angle_deg": 0, "value_mm": 0.2}], "min_mm": 0.1}


class WrongPayloads(TestCase):
    CASES = [
        ("a missing field", "shims.pick", {"target_mm": 1, "tolerance_mm": 0.1}, "stock"),
        ("a missing field inside", "backlash.assess", {"readings": [{"angle_deg": 0}]}, "readings[0].value_mm"),
        ("text for a number", "backlash.assess", {"readings": [{"angle_deg": 0, "value_mm": "0.2"}]}, "readings[0].value_mm"),
        ("true for a number", "shims.pick", {"stock": [], "target_mm": True, "tolerance_mm": 0.1}, "target_mm"),
        ("not a number", "backlash.assess", {**ROUND, "min_mm": float("nan")}, "min_mm"),
        ("infinity", "backlash.assess", {**ROUND, "max_mm": float("inf")}, "max_mm"),
        ("an enormous integer", "backlash.assess", {**ROUND, "max_mm": 10**400}, "max_mm"),
        ("half a tooth", "gearset.identify", {"pinion_teeth": 9.5, "ring_teeth": 41}, "pinion_teeth"),
        ("a word that is no choice", "backlash.assess", {**ROUND, "measured": "sideways"}, "measured"),
        ("a list for an object", "backlash.assess", [], ""),
        ("an object for a list", "backlash.assess", {"readings": {}}, "readings"),
        (
            "a pair that is no list",
            "gearset.identify",
            {"pinion_turns": 4, "wheel_turns": 1, "other_wheel": "held", "tooth_pairs": [3]},
            "tooth_pairs[0]",
        ),
        ("a check inside an entry", "backlash.assess", {"readings": [{"angle_deg": 0, "value_mm": 900}]}, "readings[0].value_mm"),
    ]

    def test_the_field_is_named_in_a_sentence(self) -> None:
        for name, computation, payload, field in self.CASES:
            with self.subTest(name), self.assertRaises(InvalidInput) as caught:
                registry.run(computation, payload)  # type: ignore[arg-type]
            self.assertEqual(caught.exception.field, field)
            self.assertRegex(caught.exception.message, r"^[A-Z0-9].*\.$")
            self.assertEqual(caught.exception.code, "bad_input")

    def test_null_stands_for_an_optional_field(self) -> None:
        self.assertEqual(registry.run("backlash.assess", {**ROUND, "max_mm": None})["least_mm"], 0.2)

    def test_an_unknown_field_is_refused_with_the_nearest_that_is_known(self) -> None:
        reading = {"angle_deg": 0, "value_mm": 0.2}
        cases = [
            ({"readings": [reading], "min_m": 3}, "min_m", "min_mm"),
            ({"readings": [{**reading, "valu_mm": 1}]}, "readings[0].valu_mm", "value_mm"),
            ({"readings": [reading], "Max_MM": 0.3}, "Max_MM", "max_mm"),
        ]
        for payload, field, hint in cases:
            with self.subTest(field), self.assertRaises(UnknownField) as caught:
                registry.run("backlash.assess", payload)
            self.assertEqual((caught.exception.field, caught.exception.hint), (field, hint))
            self.assertIn(f"Did you mean “{hint}”?", caught.exception.message)
            self.assertEqual(caught.exception.as_dict()["error"]["hint"], hint)

    def test_a_misspelt_chain_no_longer_turns_a_front_shaft_into_a_rear_one(self) -> None:
        with self.assertRaises(UnknownField) as caught:
            registry.run(
                "driveline.analyse", {"points_mm": [[0, 0, 0], [1, 0, 0]], "output_axis": [1, 0, 0], "pinion_axis": [1, 0, 0], "chian": []}
            )
        self.assertEqual(caught.exception.hint, "chain")

    def test_an_unknown_field_below_a_union_is_refused_by_its_whole_path(self) -> None:
        tube = {
            "outer_mm": 76.2,
            "wall_mm": 2.1,
            "length_mm": 1500,
            "material": {"e_gpa": 70, "g_gpa": 26, "density_kg_m3": 2700, "yeild_mpa": 200},
        }
        with self.assertRaises(UnknownField) as caught:
            registry.run("shaft.tube", tube)
        self.assertEqual(caught.exception.field, "material.yeild_mpa")

    def test_an_answer_that_is_not_finite_is_not_given(self) -> None:
        @dataclass
        class Answer:
            high: float
            rows: list[float]

        for answer, name in ((Answer(inf, [1.0]), "high"), (Answer(1.0, [1.0, nan]), "rows")):
            with self.subTest(name), self.assertRaises(NotFinite) as caught:
                codec.plain(answer)
            self.assertIn(name, caught.exception.message)

    def test_an_unknown_name(self) -> None:
        with self.assertRaises(UnknownComputation) as caught:
            registry.run("backlash.guess", {})
        self.assertEqual(caught.exception.code, "unknown_computation")


class Shapes(TestCase):
    """Fields that may be given in more than one shape, objects by name, and long lists of plain numbers."""

    def test_a_union_takes_the_shape_that_was_given(self) -> None:
        good = {"points_mm": [[0, 0, 0], [1200, 0, -100]], "pinion_axis": [1, 0, 0]}
        for axis in ([1, 0, -0.0524077793], {"side_deg": 3}):
            answer = registry.run("driveline.points", {**good, "output_axis": axis})
            self.assertAlmostEqual(answer["joint_angle_deg"][0], 1.7636, places=3)
        tube = {"outer_mm": 76.2, "wall_mm": 2.1, "length_mm": 1500}
        named = registry.run("shaft.tube", {**tube, "material": "steel"})
        own = {"e_gpa": 207, "density_kg_m3": 7850, "g_gpa": 80, "yield_mpa": 480}
        self.assertEqual(registry.run("shaft.tube", {**tube, "material": own})["critical_rpm"], named["critical_rpm"])
        for teeth in (32, [32], [None], None):
            self.assertIn("clocking", registry.run("driveline.analyse", {"members": [[3, 0], [7, 2], [3, 0]], "teeth": teeth}))

    def test_a_shape_that_is_none_of_them_is_named(self) -> None:
        cases = [
            ("driveline.points", {"points_mm": [[0, 0, 0], [1, 0, 0]], "output_axis": "north", "pinion_axis": [1, 0, 0]}, "output_axis"),
            ("driveline.points", {"points_mm": [[0, 0, 0], [900, 0]], "output_axis": [1, 0, 0], "pinion_axis": [1, 0, 0]}, "points_mm[1]"),
            ("driveline.points", {"points_mm": [[0, "x", 0]], "output_axis": [1, 0, 0], "pinion_axis": [1, 0, 0]}, "points_mm[0][1]"),
            ("driveline.analyse", {"members": [[0, 0], [4, 0], [0, 0]], "teeth": ["many"]}, "teeth[0]"),
            ("vibration.rank", {"observations": [{"f_hz": 5, "candidates": [5]}]}, "observations[0].candidates"),
            ("vibration.rank", {"observations": [{"f_hz": 5, "candidates": {"a": True}}]}, "observations[0].candidates.a"),
            ("vibration.spectrum", {"samples": [1.0, "2"] * 8, "rate_hz": 10}, "samples[1]"),
            ("vibration.spectrum", {"samples": [1.0, float("inf")] * 8, "rate_hz": 10}, "samples[1]"),
            ("vibration.spectrum", {"samples": 7, "rate_hz": 10}, "samples"),
        ]
        for name, payload, field in cases:
            with self.subTest(field), self.assertRaises(InvalidInput) as caught:
                registry.run(name, payload)  # type: ignore[arg-type]
            self.assertEqual(caught.exception.field, field)

    def test_whole_numbers_among_others_are_numbers(self) -> None:
        mixed = registry.run("vibration.spectrum", {"samples": [1, 2.0, 3, 4.0] * 8, "rate_hz": 10})
        plain = registry.run("vibration.spectrum", {"samples": [1.0, 2.0, 3.0, 4.0] * 8, "rate_hz": 10})
        self.assertEqual(mixed, plain)

    def test_answers_are_plain_json_whatever_lies_in_them(self) -> None:
        import json

        for name, payload in (
            ("vibration.orders", {"speed_kmh": 90, "circumference_m": 2.2, "axle_ratio": 4.1, "gear_ratio": 1}),
            (
                "shaft.compare",
                {"a": {"outer_mm": 76, "wall_mm": 2, "length_mm": 900}, "b": {"outer_mm": 89, "wall_mm": 2, "length_mm": 900}},
            ),
            ("driveline.inspect_joint", {}),
            ("vibration.tell_apart", {"first": "prop_1x", "second": "engine_1x"}),
        ):
            with self.subTest(name):
                answer = registry.run(name, payload)
                self.assertEqual(json.loads(json.dumps(answer, allow_nan=False)), answer)


class Registry(TestCase):
    def test_every_name_has_one_question_and_one_answer_with_documented_fields(self) -> None:
        for name in registry.names():
            with self.subTest(name):
                found = registry.find(name)
                self.assertTrue(get_type_hints(found.question))
                self.assertTrue(get_type_hints(found.answer))
                self.assertIn("Notes", found.function.__doc__ or "")
                self.assertIn("Raises", found.function.__doc__ or "")

    def test_nothing_heavy_is_imported_to_list_or_answer_by_counting(self) -> None:
        code = (
            "import sys; from amber_core import registry; registry.names(); "
            "registry.run('gearset.identify', {'pinion_teeth': 10, 'ring_teeth': 41}); "
            "print(sorted({'scipy', 'pint', 'numpy', 'django'} & set(sys.modules)))"
        )
        done = subprocess.run([sys.executable, "-c", code], cwd=CORE, capture_output=True, text=True, check=True)
        self.assertEqual(done.stdout.strip(), "[]")

    def test_docstring_examples_hold(self) -> None:
        import doctest
        from importlib import import_module

        for name in registry.names():
            module = import_module(registry.find(name).function.__module__)
            with self.subTest(name):
                result = doctest.testmod(module)
                self.assertGreater(result.attempted, 0)
                self.assertEqual(result.failed, 0)
