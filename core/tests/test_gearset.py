"""Which gear set it is, and its geometry; the open cases lie in vectors/."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any
from unittest import TestCase

from hypothesis import given, settings
from hypothesis import strategies as st

from amber_core import registry
from amber_core.errors import InvalidInput
from amber_core.gearset.identify import GearSetClues, identify_gear_set
from tests.open_sets import VECTORS, described

IDENTIFY: dict[str, Any] = json.loads((Path(__file__).parent / "vectors" / "identify.json").read_text(encoding="utf-8"))


class IdentifyVectors(TestCase):
    def test_open_cases(self) -> None:
        for case in IDENTIFY["cases"]:
            answer = registry.run("gearset.identify", case["inputs"])
            for field, expected in case["expected"].items():
                tolerance = case["tolerance"][field]
                with self.subTest(case["id"], field=field):
                    if tolerance.get("exact"):
                        self.assertEqual(answer[field], expected)
                    else:
                        self.assertAlmostEqual(answer[field], expected, delta=tolerance["abs"])


class Identify(TestCase):
    def test_a_held_wheel_halves_its_share(self) -> None:
        held = identify_gear_set(GearSetClues(pinion_turns=20.5, wheel_turns=10.0, other_wheel="held"))
        together = identify_gear_set(GearSetClues(pinion_turns=41.0, wheel_turns=10.0, other_wheel="turning_together"))
        self.assertAlmostEqual(held.ratio, 4.1)
        self.assertAlmostEqual(together.ratio, 4.1)

    def test_candidates_lie_within_the_error_nearest_first(self) -> None:
        found = identify_gear_set(GearSetClues(pinion_turns=20.5, wheel_turns=10.0, other_wheel="held", turn_uncertainty=0.1))
        self.assertEqual((found.candidates[0].pinion_teeth, found.candidates[0].ring_teeth), (10, 41))
        errors = [abs(one.error) for one in found.candidates]
        self.assertEqual(errors, sorted(errors))
        self.assertLessEqual(max(errors), 0.02 + 1e-9)

    def test_own_pairs_replace_the_usual_ones(self) -> None:
        clues = GearSetClues(pinion_turns=4.1, wheel_turns=1.0, other_wheel="turning_together", tooth_pairs=[[10, 41], [9, 37]])
        self.assertEqual([one.pinion_teeth for one in identify_gear_set(clues).candidates], [10, 9])

    def test_hunting_classes(self) -> None:
        for pinion, ring, word in [(10, 41, "hunting"), (10, 45, "partial"), (10, 40, "non_hunting")]:
            with self.subTest(word):
                self.assertEqual(identify_gear_set(GearSetClues(pinion_teeth=pinion, ring_teeth=ring)).hunting, word)

    def test_a_count_of_turns_checks_the_teeth_and_a_guess(self) -> None:
        clues = GearSetClues(pinion_teeth=10, ring_teeth=41, pinion_turns=18.6, wheel_turns=10.0, other_wheel="held", guess_ratio=3.73)
        found = identify_gear_set(clues)
        self.assertEqual((found.ratio, found.agrees, found.guess_agrees), (4.1, False, False))
        self.assertIsNone(found.ratio_error)

    @given(pinion=st.integers(5, 17), ring=st.integers(25, 55))
    def test_the_same_teeth_meet_again_only_after_whole_turns_of_both(self, pinion: int, ring: int) -> None:
        found = identify_gear_set(GearSetClues(pinion_teeth=pinion, ring_teeth=ring))
        assert found.pinion_turns_to_repeat and found.ring_turns_to_repeat and found.common_factor
        self.assertEqual(found.ring_turns_to_repeat * ring, found.pinion_turns_to_repeat * pinion)
        self.assertEqual(found.common_factor * found.ring_turns_to_repeat, pinion)

    @given(pinion=st.integers(6, 15), ring=st.integers(30, 50), left=st.floats(0.0, 30.0), right=st.floats(0.5, 30.0))
    def test_counting_a_known_set_finds_it(self, pinion: int, ring: int, left: float, right: float) -> None:
        turns = (left + right) / 2.0 * ring / pinion
        found = identify_gear_set(GearSetClues(pinion_turns=turns, left_turns=left, right_turns=right))
        self.assertAlmostEqual(found.ratio, ring / pinion, places=6)
        if 2.0 <= ring / pinion <= 8.0:
            self.assertIn((pinion, ring), [(one.pinion_teeth, one.ring_teeth) for one in found.candidates])

    def test_refused(self) -> None:
        cases: list[tuple[dict[str, Any], str]] = [
            ({}, ""),
            ({"ring_teeth": 41}, "pinion_teeth"),
            ({"ring_teeth": 10, "pinion_teeth": 41}, "ring_teeth"),
            ({"pinion_turns": 4.0}, "wheel_turns"),
            ({"pinion_turns": 4.0, "wheel_turns": 1.0}, "other_wheel"),
            ({"pinion_turns": 4.0, "left_turns": 1.0}, "right_turns"),
            ({"pinion_turns": 4.0, "left_turns": 1.0, "right_turns": -1.0}, "left_turns"),
            ({"pinion_turns": 0.0, "wheel_turns": 1.0, "other_wheel": "held"}, "pinion_turns"),
            ({"wheel_turns": 1.0, "other_wheel": "held"}, "pinion_turns"),
        ]
        for fields, field in cases:
            with self.subTest(field), self.assertRaises(InvalidInput) as caught:
                GearSetClues(**fields)
            self.assertEqual(caught.exception.field, field)


class Geometry(TestCase):
    PLAIN = {
        "ring_pitch_deg": "ring_pitch_deg",
        "pinion_pitch_deg": "pinion_pitch_deg",
        "ring_spiral_deg": "ring_spiral_deg",
        "limit_angle_deg": "limit_angle_deg",
        "pressure_convex_deg": "alpha_convex_deg",
        "pressure_concave_deg": "alpha_concave_deg",
        "mean_radius_mm": "R_mean",
        "mean_cone_distance_mm": "A_mean",
        "normal_module_mm": "m_n",
        "working_depth_mm": "work_depth",
        "ring_addendum_mm": "ring_addendum",
        "ring_dedendum_mm": "ring_dedendum_working",
        "dedendum_angle_deg": "dedendum_angle_deg",
        "addendum_angle_deg": "addendum_angle_deg",
    }

    def test_design_of_the_open_cases(self) -> None:
        for name, case in VECTORS["geometries"].items():
            answer = registry.run("gearset.geometry", described(name))
            for field, symbol in self.PLAIN.items():
                with self.subTest(name, field=field):
                    self.assertAlmostEqual(answer[field], case["design"][symbol], delta=1e-4 * max(1.0, abs(case["design"][symbol])))

    def test_slopes_of_the_open_cases(self) -> None:
        for name, case in VECTORS["geometries"].items():
            answer = registry.run("gearset.geometry", described(name))
            slopes = case["slopes"]
            pairs = [
                ("backlash_per_ring_move", "dBn_dG"),
                ("backlash_per_pinion_move", "dBn_dP"),
                ("backlash_arc_per_ring_move", "dB_dG"),
                ("backlash_arc_per_pinion_move", "dB_dP"),
            ]
            for field, symbol in pairs:
                with self.subTest(name, field=field):
                    self.assertAlmostEqual(answer[field], slopes[symbol], places=5)
            with self.subTest(name, field="plunger_per_arc"):
                lever = case["flanks"]["drive"]["lever_heel"] / (case["spec"]["ring_dia"] / 2.0)
                self.assertAlmostEqual(answer["plunger_per_arc"], lever, places=5)

    def test_what_was_not_known_is_named(self) -> None:
        answer = registry.run(
            "gearset.geometry", {"ring_teeth": 41, "pinion_teeth": 11, "ring_outer_diameter_mm": 215.0, "face_width_mm": 33.0}
        )
        self.assertIn("offset_mm", answer["estimated"])
        self.assertNotIn("face_width_mm", answer["estimated"])

    @settings(max_examples=12, deadline=None)
    @given(
        pinion=st.integers(7, 13),
        ring=st.integers(35, 47),
        diameter=st.floats(150.0, 235.0),
        share=st.one_of(st.just(0.0), st.floats(0.06, 0.18)),
        uniform=st.booleans(),
    )
    def test_seven_tenths_of_the_move_on_any_ordinary_set(
        self, pinion: int, ring: int, diameter: float, share: float, uniform: bool
    ) -> None:
        description = {
            "ring_teeth": ring,
            "pinion_teeth": pinion,
            "ring_outer_diameter_mm": diameter,
            "offset_mm": share * diameter,
            "tooth_form": "uniform" if uniform else "tapered",
        }
        answer = registry.run("gearset.geometry", description)
        self.assertTrue(0.6 < answer["backlash_per_ring_move"] < 0.95, answer["backlash_per_ring_move"])
        self.assertTrue(0.6 < answer["plunger_per_arc"] < 0.85, answer["plunger_per_arc"])

    def test_refused(self) -> None:
        usual = {"ring_teeth": 41, "pinion_teeth": 11, "ring_outer_diameter_mm": 215.0}
        cases = [
            ({"ring_teeth": 9}, "ring_teeth"),
            ({"ring_outer_diameter_mm": 8.5}, "ring_outer_diameter_mm"),
            ({"offset_mm": 200.0}, "offset_mm"),
            ({"cutter_radius_mm": 0.0}, "cutter_radius_mm"),
            ({"ease_drive": {"bias": 1.5}}, "ease_drive.bias"),
        ]
        for fields, field in cases:
            with self.subTest(field), self.assertRaises(InvalidInput) as caught:
                registry.run("gearset.geometry", {**usual, **fields})
            self.assertEqual(caught.exception.field, field)
