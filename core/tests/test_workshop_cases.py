"""Fasteners, fluids, road test, schedule, quotes and the bench's tools: the open cases."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any
from unittest import TestCase

from amber_core import registry
from amber_core.errors import InvalidInput

CASES: list[dict[str, Any]] = [
    case
    for name in ("workshop", "bench")
    for case in json.loads((Path(__file__).parent / "vectors" / f"{name}.json").read_text(encoding="utf-8"))["cases"]
]


def agrees(found: Any, wanted: Any, tolerance: dict[str, Any]) -> bool:
    """Whether an answer has what is wanted of it; it may have more fields."""
    if isinstance(wanted, dict):
        return all(agrees(found[name], one, tolerance.get(name, tolerance)) for name, one in wanted.items())
    if isinstance(wanted, list):
        return len(found) == len(wanted) and all(agrees(a, b, tolerance) for a, b in zip(found, wanted, strict=True))
    if isinstance(wanted, (int, float)) and not isinstance(wanted, bool) and not tolerance.get("exact"):
        turn = tolerance.get("mod")
        away = abs(found - wanted) if turn is None else abs((found - wanted + turn / 2.0) % turn - turn / 2.0)
        return bool(away <= tolerance["abs"] + tolerance.get("rel", 0.0) * abs(wanted))
    return bool(found == wanted)


class OpenCases(TestCase):
    def test_every_field_of_every_case(self) -> None:
        self.assertEqual(len(CASES), 105)
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
