"""Fasteners, fluids, road test, schedule and quotes: the open cases."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any
from unittest import TestCase

from amber_core import registry
from amber_core.errors import InvalidInput

CASES: list[dict[str, Any]] = json.loads((Path(__file__).parent / "vectors" / "workshop.json").read_text(encoding="utf-8"))["cases"]


def agrees(found: Any, wanted: Any, tolerance: dict[str, Any]) -> bool:
    """Whether an answer has what is wanted of it; it may have more fields."""
    if isinstance(wanted, dict):
        return all(agrees(found[name], one, tolerance) for name, one in wanted.items())
    if isinstance(wanted, list):
        return len(found) == len(wanted) and all(agrees(a, b, tolerance) for a, b in zip(found, wanted, strict=True))
    if isinstance(wanted, (int, float)) and not isinstance(wanted, bool) and not tolerance.get("exact"):
        return bool(abs(found - wanted) <= tolerance["abs"] + tolerance["rel"] * abs(wanted))
    return bool(found == wanted)


class OpenCases(TestCase):
    def test_every_field_of_every_case(self) -> None:
        self.assertEqual(len(CASES), 39)
        for case in CASES:
            with self.subTest(case["id"], name=case["name"]):
                if "error" in case:
                    with self.assertRaises(InvalidInput) as refused:
                        registry.run(case["name"], case["inputs"])
                    self.assertEqual(refused.exception.field, case["error"])
                    continue
                answer = registry.run(case["name"], case["inputs"])
                for field, wanted in case["expected"].items():
                    self.assertTrue(agrees(answer[field], wanted, case["tolerance"][field]), (field, answer[field], wanted))
