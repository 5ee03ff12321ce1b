"""Readings as a gauge shows them, and joints judged by hand and eye."""

from __future__ import annotations

from dataclasses import replace
from typing import Any, Literal
from unittest import TestCase

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from amber_core import registry
from amber_core.driveline.angles import MemberAngles, joint_angles
from amber_core.driveline.inspection import JointFelt, inspect_joint
from amber_core.driveline.points import MeasuredPoints, point_angles
from amber_core.driveline.readings import GaugeReading, ReadingsQuestion, ReadMember, ReadShaft, from_readings
from amber_core.driveline.state import StateQuestion, state
from amber_core.errors import InvalidInput


def member(value: float, plan: float = 0.0, **more: Any) -> ReadMember:
    return ReadMember(side=GaugeReading(value_deg=value, **more), plan_deg=plan)


TWO = ReadingsQuestion(
    output=member(4),
    shafts=[
        ReadShaft(length_mm=620, member=member(5, 1), bearing_from_front_mm=560),
        ReadShaft(length_mm=1100, member=member(9, -3), clock_deg=11.25),
    ],
    pinion=member(6, 1),
)


class Gauges(TestCase):
    def test_however_it_was_read_it_is_one_slope(self) -> None:
        cases: list[tuple[float, Literal["level", "plumb"], Literal["lower", "higher"] | None, float]] = [
            (3.0, "level", None, 3.0),
            (-3.0, "level", None, -3.0),
            (3.0, "level", "lower", 3.0),
            (3.0, "level", "higher", -3.0),
            (-3.0, "level", "lower", 3.0),
            (177.0, "level", "lower", 3.0),
            (87.0, "plumb", None, 3.0),
            (-87.0, "plumb", None, -3.0),
            (93.0, "plumb", "higher", -3.0),
        ]
        for value, reference, end, slope in cases:
            with self.subTest(value=value, reference=reference, end=end):
                self.assertAlmostEqual(GaugeReading(value_deg=value, reference=reference, axle_end=end).slope_deg, slope)

    def test_the_wrong_reference_is_asked_about(self) -> None:
        for value, reference, word in ((87.0, "level", "plumb"), (3.0, "plumb", "level")):
            with self.assertRaises(InvalidInput) as caught:
                GaugeReading(value_deg=value, reference=reference)  # type: ignore[arg-type]
            self.assertIn(f"read from {word}?", caught.exception.message)

    def test_plan_angle_from_offsets(self) -> None:
        self.assertAlmostEqual(ReadMember(side=GaugeReading(value_deg=1), left_mm=100, over_mm=1000).plan, 5.7106, places=4)
        with self.assertRaises(InvalidInput):
            ReadMember(side=GaugeReading(value_deg=1), left_mm=100)


class Places(TestCase):
    def test_the_points_carry_the_angles_that_were_read(self) -> None:
        found = from_readings(TWO)
        direct = joint_angles(MemberAngles(members=[[4, 0], [5, 1], [9, -3], [6, 1]], side_kind="inclinometer"))
        by_points = point_angles(MeasuredPoints(points_mm=found.points_mm, output_axis=found.axes[0], pinion_axis=found.axes[-1]))
        np.testing.assert_allclose(by_points.joint_angle_deg, direct.joint_angle_deg, atol=1e-9)
        np.testing.assert_allclose(found.members, [[4, 0], [5, 1], [9, -3], [6, 1]], atol=1e-9)
        at_ride = state(StateQuestion(vehicle=found.vehicle))
        np.testing.assert_allclose(at_ride.joint_angle_deg, direct.joint_angle_deg, atol=1e-9)
        self.assertEqual(found.vehicle.clocks, [0.0, 11.25])
        np.testing.assert_allclose(at_ride.shaft_length_mm, [620, 1100], atol=1e-9)

    @given(st.floats(-8, 8))
    def test_a_floor_that_slopes_is_taken_off_again(self, floor: float) -> None:
        for chain, sign in (("rear", 1.0), ("front", -1.0)):
            level = replace(TWO, chain=chain)
            tilted = replace(
                level,
                output=member(4 + sign * floor),
                shafts=[
                    replace(level.shafts[0], member=member(5 + sign * floor, 1)),
                    replace(level.shafts[1], member=member(9 + sign * floor, -3)),
                ],
                pinion=member(6 + sign * floor, 1),
                frame=GaugeReading(value_deg=floor),
            )
            np.testing.assert_allclose(from_readings(tilted).points_mm, from_readings(level).points_mm, atol=1e-6)

    def test_measured_points_need_no_reading_of_the_shafts(self) -> None:
        found = from_readings(
            ReadingsQuestion(output=member(4), shafts=[ReadShaft()], pinion=member(4), points_mm=[[0, 0, 0], [1300, 40, -160]])
        )
        self.assertEqual(found.points_mm[1], [1300, 40, -160])
        self.assertEqual(len(found.notes), 2)

    def test_a_mount_is_told_from_the_output(self) -> None:
        self.assertIsNone(from_readings(TWO).vehicle.mount)
        told = registry.run(
            "driveline.readings",
            {
                "output": {"side": {"value_deg": 4}},
                "shafts": [{"length_mm": 1300, "member": {"side": {"value_deg": 7}}}],
                "pinion": {"side": {"value_deg": 4}},
                "mount": {"front_ahead_mm": 900, "tail_ahead_mm": 60},
            },
        )
        self.assertEqual(told["vehicle"]["mount"], {"pivot_mm": [-900, 0, 0], "mount_mm": [-60, 0, 0]})

    def test_refused(self) -> None:
        good: dict[str, Any] = {
            "output": {"side": {"value_deg": 4}},
            "shafts": [{"length_mm": 1300, "member": {"side": {"value_deg": 7}}}],
            "pinion": {"side": {"value_deg": 4}},
        }
        cases: list[tuple[dict[str, Any], str]] = [
            ({"shafts": []}, "shafts"),
            ({"shafts": [{"length_mm": 1300}]}, "shafts[0].member"),
            ({"shafts": [{"length_mm": 1.3, "member": {"side": {"value_deg": 7}}}]}, "shafts[0].length_mm"),
            ({"frame": {"value_deg": 20}}, "frame.value_deg"),
            ({"points_mm": [[0, 0, 0]]}, "points_mm"),
            ({"points_mm": [[0, 0, 0], [1, 0, 0]]}, "points_mm[1]"),
            ({"joints": ["cardan"]}, "joints"),
            ({"front_share": [0.5]}, "front_share"),
            ({"front_share": [0.5, 55]}, "front_share[1]"),
            ({"output": {"side": {"value_deg": "4"}}}, "output.side.value_deg"),
            ({"mount": {"front_ahead_mm": 60, "tail_ahead_mm": 900}}, "mount.front_ahead_mm"),
        ]
        for change, field in cases:
            with self.subTest(field), self.assertRaises(InvalidInput) as caught:
                registry.run("driveline.readings", {**good, **change})
            self.assertEqual(caught.exception.field, field)
        late = replace(TWO, shafts=[replace(TWO.shafts[0], bearing_from_front_mm=700), TWO.shafts[1]])
        with self.assertRaises(InvalidInput) as caught:
            from_readings(late)
        self.assertEqual(caught.exception.field, "shafts[0].bearing_from_front_mm")


class ByHandAndEye(TestCase):
    def test_decisions(self) -> None:
        good: dict[str, Any] = {"first_way": "free", "other_way": "free", "play": False, "rust": False, "clips": "seated", "nipple": "none"}
        cases: list[tuple[dict[str, Any], str, str]] = [
            ({}, "reuse", "in"),
            ({"play": True}, "replace", "out"),
            ({"other_way": "notchy"}, "replace", "out"),
            ({"rust": True}, "replace", "out"),
            ({"first_way": "stiff"}, "replace", "out"),
            ({"first_way": "stiff", "just_fitted": True}, "mend", "out"),
            ({"clips": "not_seated"}, "mend", "out"),
            ({"nipple": "not_reachable"}, "mend", "out"),
            ({"other_way": "not_tried"}, "look", "unknown"),
            ({"rust": None}, "look", "unknown"),
        ]
        for change, decision, verdict in cases:
            with self.subTest(change):
                found = inspect_joint(JointFelt(**{**good, **change}))
                self.assertEqual((found.decision, found.verdict), (decision, verdict))
                self.assertTrue(found.reasons)

    def test_needles_and_clips_are_warned_of(self) -> None:
        words = " ".join(inspect_joint(JointFelt()).cautions)
        for word in ("needle", "eye protection", "nipple"):
            self.assertIn(word, words)
