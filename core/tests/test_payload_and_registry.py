"""Questions in plain JSON types: what is wrong is named by its path, in a sentence; unknown fields are said, not swallowed."""

from __future__ import annotations

import subprocess
import sys
from pathlib import Path
from typing import get_type_hints
from unittest import TestCase

from amber_core import registry
from amber_core.errors import InvalidInput, UnknownComputation

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

    def test_unknown_fields_change_nothing_and_are_said(self) -> None:
        payload = {"readings": [{"angle_deg": 0, "value_mm": 0.2, "mood": 1}], "min_m": 3}
        answer = registry.run("backlash.assess", payload)
        self.assertCountEqual(answer["ignored_fields"], ["min_m", "readings[0].mood"])

    def test_an_unknown_name(self) -> None:
        with self.assertRaises(UnknownComputation) as caught:
            registry.run("backlash.guess", {})
        self.assertEqual(caught.exception.code, "unknown_computation")


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
