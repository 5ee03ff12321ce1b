"""./amber compute: JSON in, JSON out, exit 2 with one error object on bad input."""

from __future__ import annotations

import json
from unittest import TestCase

from amber_cli.compute import answer


class Compute(TestCase):
    def test_an_answer(self) -> None:
        status, reply = answer("gearset.identify", '{"pinion_teeth": 10, "ring_teeth": 41}')
        self.assertEqual((status, reply["ratio"]), (0, 4.1))

    def test_bad_input_is_one_error_object_and_exit_2(self) -> None:
        cases = [
            ("backlash.assess", '{"readings": [{"angle_deg": 0, "value_mm": -1}]}', "bad_input", "readings[0].value_mm"),
            ("backlash.assess", '{"readings": [', "bad_input", ""),
            ("backlash.assess", '{"readings": [{"angle_deg": 0, "value_mm": NaN}]}', "bad_input", ""),
            ("backlash.assess", "[" * 100_000, "bad_input", ""),
            ("no.such", "", "unknown_computation", "name"),
        ]
        for name, text, code, field in cases:
            with self.subTest(text[:30]):
                status, reply = answer(name, text)
                self.assertEqual((status, reply["error"]["code"], reply["error"]["field"]), (2, code, field))
                self.assertEqual(set(reply), {"error"})
                json.dumps(reply)
