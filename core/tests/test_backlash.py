"""Backlash round the ring and from the flange. Expected values are worked by hand."""

from __future__ import annotations

from math import cos, radians
from typing import Any
from unittest import TestCase

from hypothesis import given
from hypothesis import strategies as st

from amber_core.backlash.assess import BacklashRound, assess_backlash
from amber_core.backlash.from_flange import FlangeLash, backlash_from_flange
from amber_core.backlash.typed import Question, read_backlash
from amber_core.circle import CircleReading
from amber_core.errors import InvalidInput
from amber_core.quantities import Typed


def round_of(values: list[float], **more: Any) -> BacklashRound:
    """Readings spread evenly round the ring."""
    step = 360.0 / len(values)
    readings = [CircleReading(angle_deg=step * k, value_mm=value) for k, value in enumerate(values)]
    return BacklashRound(readings=readings, **more)


class Verdict(TestCase):
    WINDOW = {"min_mm": 0.15, "max_mm": 0.25, "max_variation_mm": 0.05}
    CASES = [
        ("all in the middle", [0.20, 0.21, 0.20, 0.19], "in"),
        ("the least counts against the lower limit", [0.20, 0.14, 0.20, 0.19], "out"),
        ("the greatest against the upper", [0.20, 0.21, 0.26, 0.23], "out"),
        ("the spread against the variation", [0.17, 0.23, 0.20, 0.20], "out"),
        ("exactly on the lower limit is in, on the edge", [0.15, 0.18, 0.18, 0.18], "edge"),
        ("within the step of the dial", [0.24, 0.22, 0.22, 0.23], "edge"),
        ("spread of exactly the limit", [0.175, 0.225, 0.20, 0.20], "edge"),
    ]

    def test_cases(self) -> None:
        for name, values, verdict in self.CASES:
            with self.subTest(name):
                self.assertEqual(assess_backlash(round_of(values, **self.WINDOW)).verdict, verdict)

    def test_limits_are_inclusive_though_floats_are_not_exact(self) -> None:
        found = assess_backlash(round_of([0.15, 0.20, 0.18, 0.17], min_mm=0.05, max_variation_mm=0.05, resolution_mm=0.0))
        self.assertEqual(found.verdict, "edge")  # 0.20 - 0.15 > 0.05 in floats

    def test_one_place_proves_nothing_but_a_broken_limit_is_out_whatever_the_count(self) -> None:
        one = assess_backlash(round_of([0.20], **self.WINDOW))
        self.assertEqual((one.verdict, one.reasons[0].code), ("unknown", "too_few_positions"))
        self.assertEqual(assess_backlash(round_of([0.30], **self.WINDOW)).verdict, "out")

    def test_three_readings_at_one_tooth_are_one_position(self) -> None:
        readings = [CircleReading(angle_deg=angle, value_mm=0.20) for angle in (358.0, 0.0, 2.0)]
        self.assertEqual(assess_backlash(BacklashRound(readings=readings, min_mm=0.1)).verdict, "unknown")

    def test_a_side_left_out_is_unknown(self) -> None:
        readings = [CircleReading(angle_deg=angle, value_mm=0.20) for angle in (0.0, 60.0, 120.0, 180.0)]
        found = assess_backlash(BacklashRound(readings=readings, min_mm=0.1, max_mm=0.3))
        self.assertEqual((found.verdict, found.positions_enough), ("unknown", False))
        self.assertEqual(found.reasons[0].code, "gap_too_wide")
        self.assertIsNone(found.once_per_turn)

    def test_variation_of_two_positions_counts_only_when_already_over(self) -> None:
        self.assertEqual(assess_backlash(round_of([0.2, 0.3], max_variation_mm=0.05)).verdict, "out")
        self.assertEqual(assess_backlash(round_of([0.2, 0.2], max_variation_mm=0.05)).verdict, "unknown")

    def test_no_limit_at_all_is_unknown(self) -> None:
        self.assertEqual(assess_backlash(round_of([0.2] * 4)).reasons[0].code, "no_limits")


class Statistics(TestCase):
    def test_correction_of_skew_and_radius(self) -> None:
        given_round = round_of([0.20] * 4, stylus_skew_deg=20.0, stylus_radius_mm=100.0, outer_radius_mm=110.0)
        expected = 0.20 * cos(radians(20.0)) * 1.1
        self.assertAlmostEqual(assess_backlash(given_round).corrected[0], expected, places=12)

    def test_the_step_of_the_dial_is_corrected_too(self) -> None:
        wide = {"stylus_radius_mm": 50.0, "outer_radius_mm": 100.0, "min_mm": 0.30}
        self.assertEqual(assess_backlash(round_of([0.159] * 4, **wide)).verdict, "edge")  # 0.318: within 0.02
        self.assertEqual(assess_backlash(round_of([0.161] * 4, **wide)).verdict, "in")

    def test_an_arc_becomes_a_plunger_reading_by_the_sets_own_factor(self) -> None:
        self.assertAlmostEqual(assess_backlash(round_of([0.20] * 4, measured="arc", plunger_per_arc=0.72)).mean_mm, 0.144)

    @given(
        mean=st.floats(0.1, 0.5),
        swing=st.floats(0.005, 0.09),
        high=st.floats(0.0, 359.0),
        places=st.integers(4, 16),
        slope=st.floats(0.5, 1.0),
    )
    def test_a_pure_runout_is_found_whole(self, mean: float, swing: float, high: float, places: int, slope: float) -> None:
        values = [mean + swing * cos(radians(360.0 / places * k - high)) for k in range(places)]
        found = assess_backlash(round_of(values, backlash_per_ring_move=slope))
        assert found.once_per_turn is not None and found.runout_tir_mm is not None
        self.assertAlmostEqual(found.once_per_turn.amplitude_mm, swing, places=9)
        self.assertAlmostEqual(found.once_per_turn.share, 1.0, places=6)
        off = (found.once_per_turn.high_at_deg - high + 180.0) % 360.0 - 180.0
        self.assertAlmostEqual(off, 0.0, places=4)
        self.assertAlmostEqual(found.runout_tir_mm, 2.0 * swing / slope, places=8)

    @given(values=st.lists(st.floats(0.0, 1.0), min_size=4, max_size=24), turn=st.floats(-720.0, 720.0))
    def test_turning_the_ring_under_the_dial_changes_no_verdict(self, values: list[float], turn: float) -> None:
        step = 360.0 / len(values)
        limits = {"min_mm": 0.15, "max_mm": 0.25, "max_variation_mm": 0.05}
        here = [CircleReading(angle_deg=step * k, value_mm=value) for k, value in enumerate(values)]
        there = [CircleReading(angle_deg=one.angle_deg + turn, value_mm=one.value_mm) for one in here]
        self.assertEqual(
            assess_backlash(BacklashRound(readings=here, **limits)).verdict,
            assess_backlash(BacklashRound(readings=there, **limits)).verdict,
        )

    def test_equal_readings_have_no_share(self) -> None:
        found = assess_backlash(round_of([0.2] * 8))
        assert found.once_per_turn is not None
        self.assertEqual(found.once_per_turn.share, 0.0)

    def test_what_a_once_per_turn_part_means_is_said(self) -> None:
        values = [0.2 + 0.04 * cos(radians(45.0 * k - 90.0)) for k in range(8)]
        codes = [reason.code for reason in assess_backlash(round_of(values, min_mm=0.1)).reasons]
        self.assertIn("once_per_turn", codes)


class Refused(TestCase):
    CASES = [
        ("nothing", {"readings": []}, "readings", "No readings yet"),
        ("65 positions", {"readings": [CircleReading(angle_deg=5.0 * k, value_mm=0.2) for k in range(65)]}, "readings", "The most is 64"),
        ("negative", {"readings": [CircleReading(angle_deg=0.0, value_mm=-0.1)]}, "readings[0].value_mm", "cannot be negative"),
        ("limits the wrong way round", {"min_mm": 0.3, "max_mm": 0.2}, "min_mm", "over the maximum"),
        (
            "a skewed arc",
            {"measured": "arc", "plunger_per_arc": 0.7, "stylus_skew_deg": 5.0},
            "stylus_skew_deg",
            "Set the dial indicator again",
        ),
        ("an arc without the factor", {"measured": "arc"}, "plunger_per_arc", "plunger factor"),
        ("a stylus radius alone", {"stylus_radius_mm": 90.0}, "outer_radius_mm", "outer radius"),
        ("a slope of zero", {"backlash_per_ring_move": 0.0}, "backlash_per_ring_move", "more than zero"),
    ]

    def test_cases(self) -> None:
        for name, fields, field, words in self.CASES:
            readings = {"readings": [CircleReading(angle_deg=0.0, value_mm=0.2)]}
            with self.subTest(name), self.assertRaises(InvalidInput) as caught:
                BacklashRound(**{**readings, **fields})  # type: ignore[arg-type]
            self.assertEqual(caught.exception.field, field)
            self.assertIn(words, caught.exception.message)


class FromFlange(TestCase):
    TEETH = {"ring_teeth": 41, "pinion_teeth": 11, "outer_radius_mm": 110.0}

    def test_swing_in_degrees(self) -> None:
        found = backlash_from_flange(FlangeLash(flange_lash_deg=0.4, plunger_per_arc=0.72, **self.TEETH))
        self.assertAlmostEqual(found.backlash_arc_mm, radians(0.4) * 11 / 41 * 110.0, places=12)
        self.assertAlmostEqual(found.backlash_mm or 0.0, 0.72 * found.backlash_arc_mm, places=12)

    def test_swing_at_a_radius_is_the_same_swing(self) -> None:
        degrees = backlash_from_flange(FlangeLash(flange_lash_deg=0.5, **self.TEETH))
        arc = backlash_from_flange(FlangeLash(lash_at_radius_mm=radians(0.5) * 60.0, radius_mm=60.0, **self.TEETH))
        self.assertAlmostEqual(degrees.backlash_arc_mm, arc.backlash_arc_mm, places=12)
        self.assertIsNone(arc.backlash_mm)

    def test_refused(self) -> None:
        for fields, field in [
            ({}, "flange_lash_deg"),
            ({"lash_at_radius_mm": 0.3}, "radius_mm"),
            ({"flange_lash_deg": -1.0}, "flange_lash_deg"),
        ]:
            with self.subTest(field), self.assertRaises(InvalidInput) as caught:
                FlangeLash(**self.TEETH, **fields)
            self.assertEqual(caught.exception.field, field)


class TypedReadings(TestCase):
    TAKEN = [
        ("8 thou", "mm", 0.2032),
        ("0.2mm", "thou", 0.2),
        ("0,21 mm", "thou", 0.21),
        ("9", "thou", 0.2286),
        ("21", "hundredths_mm", 0.21),
        ("0.21", "mm", 0.21),
        (".2", "mm", 0.2),
        ("21 hundredths", "mm", 0.21),
        ('.008"', "mm", 0.2032),
    ]
    ASKED = [
        ("0.21", "thou", "which_unit", ["0.21 mm", "0.21 thou"]),
        ("8", "mm", "which_unit", ["8 thou", "8 mm"]),
        ("2.1 mm", "thou", "slipped_decimal", ["0.21 mm", "2.1 mm"]),
        ("0", "thou", "unlikely", ["0"]),
    ]
    REFUSED = [
        ("", "Nothing was typed"),
        ("eight", "does not start with a number"),
        ("1,234.5", "not a known unit"),
        ("-3", "cannot be negative"),
        ("8 Nm", "is a unit of torque"),
        ("8 bananas", "not a known unit"),
        ("800 mm", "cannot be backlash"),
        ("1" * 41, "too long for a reading"),
    ]

    def test_taken(self) -> None:
        for text, unit, value in self.TAKEN:
            with self.subTest(text):
                reading = read_backlash(text, unit=unit, others_mm=[], sure=False)
                assert isinstance(reading, Typed)
                self.assertAlmostEqual(reading.value, value, places=9)

    def test_asked_with_each_meaning_and_taken_once_answered(self) -> None:
        for text, unit, code, meanings in self.ASKED:
            with self.subTest(text):
                question = read_backlash(text, unit=unit, others_mm=[0.20, 0.21, 0.22] if code == "slipped_decimal" else [], sure=False)
                assert isinstance(question, Question)
                self.assertEqual(question.code, code)
                self.assertEqual([choice.typed for choice in question.choices], meanings)
                for choice in question.choices:
                    answered = read_backlash(choice.typed, unit=unit, others_mm=[0.20, 0.21, 0.22], sure=choice.sure)
                    self.assertIsInstance(answered, Typed)

    def test_refused(self) -> None:
        for text, words in self.REFUSED:
            with self.subTest(text), self.assertRaises(InvalidInput) as caught:
                read_backlash(text, unit="thou", others_mm=[], sure=True)
            self.assertIn(words, caught.exception.message)
