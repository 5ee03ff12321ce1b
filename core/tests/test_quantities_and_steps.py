"""Units there and back, and the rule of the hold points."""

from __future__ import annotations

from unittest import TestCase

from hypothesis import given
from hypothesis import strategies as st

from amber_core.errors import InvalidInput
from amber_core.procedures.library import library
from amber_core.procedures.steps import blocking_hold, next_step, steps_for
from amber_core.quantities import Dimension, inside_per_unit, parse


class Units(TestCase):
    KNOWN: list[tuple[str, Dimension, float]] = [
        ("22 in-lb", "torque", 2.4857),
        ("2,5 Nm", "torque", 2.5),
        ("2.5 N·m", "torque", 2.5),
        ("1 ft-lb", "torque", 1.3558),
        ("1 qt", "volume", 0.94635),
        ("1.6", "volume", 1.6),
        ("100 mi", "distance", 160.934),
        ('0.5"', "length", 12.7),
        ("\u22120.1 mm", "length", -0.1),
    ]

    def test_known_values(self) -> None:
        bare: dict[Dimension, str] = {"torque": "nm", "volume": "l", "distance": "km", "length": "mm"}
        for text, dimension, value in self.KNOWN:
            with self.subTest(text):
                self.assertAlmostEqual(parse(text, dimension=dimension, unit=bare[dimension]).value, value, delta=1e-3)

    @given(value_mm=st.floats(0.001, 99.0), unit=st.sampled_from(["mm", "thou", "hundredths_mm", "inch", "um", "cm"]))
    def test_there_and_back(self, value_mm: float, unit: str) -> None:
        shown = value_mm / inside_per_unit(unit, "length")
        read = parse(f"{shown:.12f} {unit}", dimension="length", unit="mm")
        self.assertAlmostEqual(read.value, value_mm, places=6)

    def test_the_other_dimensions_unit_is_named(self) -> None:
        with self.assertRaises(InvalidInput) as caught:
            parse("2 l", dimension="torque", unit="nm")
        self.assertIn("is a unit of volume, and this is a torque", caught.exception.message)


class HoldPoints(TestCase):
    STEPS = steps_for(
        library("ring_and_pinion"), {"has_spreader": True, "has_speed_ring": True}, {"shafts": "retainer", "nut": "new_sleeve"}
    )
    HOLDS = {
        "refer_out",
        "stands_and_chocks",
        "fill_plug",
        "caps_marked",
        "spreader",
        "ring_bolts",
        "cap_bolts",
        "backlash",
        "pattern",
        "preload",
        "final_reading",
        "retainers_on",
        "propshaft_bolts",
        "speed_ring",
        "breather",
        "oil",
        "wheel_nuts",
        "brakes",
    }

    def test_all_hold_points_of_the_work_are_there(self) -> None:
        self.assertEqual({step.code for step in self.STEPS if step.hold}, self.HOLDS)

    def test_nothing_after_a_hold_is_open_before_it(self) -> None:
        held = blocking_hold(self.STEPS, {"refer_out", "stands_and_chocks"}, "road_test")
        assert held is not None
        self.assertEqual(held.code, "fill_plug")
        self.assertIsNone(blocking_hold(self.STEPS, set(), "refer_out"))

    @given(st.sets(st.sampled_from([step.code for step in STEPS])))
    def test_what_comes_next_is_never_held(self, passed: set[str]) -> None:
        upcoming = next_step(self.STEPS, passed)
        if upcoming is not None:
            self.assertIsNone(blocking_hold(self.STEPS, passed, upcoming.code))

    def test_steps_that_an_axle_does_not_have_are_left_out(self) -> None:
        codes = {step.code for step in steps_for(library("ring_and_pinion"), {})}
        self.assertEqual({"spreader", "speed_ring"} & codes, set())
