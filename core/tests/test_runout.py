"""Runout: bent, or dirt in one place."""

from __future__ import annotations

from math import cos, radians
from unittest import TestCase

from hypothesis import given
from hypothesis import strategies as st

from amber_core.circle import CircleReading
from amber_core.errors import InvalidInput
from amber_core.runout.assess import RunoutRound, RunoutVerdict, assess_runout


def judged(values: list[float], max_tir_mm: float = 0.05) -> RunoutVerdict:
    step = 360.0 / len(values)
    readings = [CircleReading(angle_deg=step * k, value_mm=value) for k, value in enumerate(values)]
    return assess_runout(RunoutRound(readings=readings, max_tir_mm=max_tir_mm))


class Runout(TestCase):
    def test_a_bent_flange_comes_round_once_per_turn(self) -> None:
        found = judged([0.05 * cos(radians(45.0 * k - 90.0)) for k in range(8)])
        self.assertEqual((found.bent_or_dirt, found.verdict), ("once_per_turn", "out"))
        self.assertAlmostEqual(found.tir_mm, 0.10)

    def test_dirt_in_one_place_is_local(self) -> None:
        found = judged([0.0, 0.002, 0.0, 0.07, 0.001, 0.0, 0.002, 0.0])
        self.assertEqual((found.bent_or_dirt, found.local_at_deg), ("local", 135.0))

    def test_dirt_under_two_neighbours_is_local_between_them(self) -> None:
        found = judged([0.07, 0.0, 0.002, 0.0, 0.001, 0.0, 0.002, 0.0, 0.0, 0.08])
        self.assertEqual((found.bent_or_dirt, found.local_at_deg), ("local", 342.0))

    def test_dirt_on_a_bent_flange_is_still_found(self) -> None:
        values = [0.03 * cos(radians(30.0 * k)) for k in range(12)]
        values[4] += 0.09
        self.assertEqual(judged(values).local_at_deg, 120.0)

    def test_a_true_flange_has_no_cause(self) -> None:
        found = judged([0.0, 0.002, 0.0, 0.001, 0.0, 0.002, 0.001, 0.0])
        self.assertEqual((found.bent_or_dirt, found.verdict), ("none", "in"))

    def test_two_places_prove_nothing_unless_they_are_over_already(self) -> None:
        self.assertEqual(judged([0.0, 0.01]).verdict, "unknown")
        self.assertEqual(judged([0.0, 0.20]).verdict, "out")

    def test_edge(self) -> None:
        self.assertEqual(judged([0.0, 0.045, 0.02, 0.02]).verdict, "edge")

    @given(place=st.integers(0, 11), height=st.floats(0.05, 0.5), places=st.integers(8, 12))
    def test_a_single_burr_is_found_wherever_it_is(self, place: int, height: float, places: int) -> None:
        values = [0.0] * places
        values[place % places] = height
        found = judged(values)
        self.assertEqual(found.bent_or_dirt, "local")
        self.assertAlmostEqual(found.local_at_deg or 0.0, 360.0 / places * (place % places))

    def test_refused(self) -> None:
        with self.assertRaises(InvalidInput) as caught:
            RunoutRound(readings=[], max_tir_mm=0.05)
        self.assertEqual(caught.exception.field, "readings")
