"""Figures worked out by hand or elsewhere: tables of angles, errors, limits and costs, and the paper form of the equivalent angle."""

from __future__ import annotations

from cmath import exp
from math import atan, cos, degrees, hypot, radians, sin, sqrt, tan
from typing import Any
from unittest import TestCase

import numpy as np
from hypothesis import assume, given, settings
from hypothesis import strategies as st

from amber_core import registry
from amber_core.driveline.angles import MemberAngles, convert_axis, joint_angles
from amber_core.driveline.axes import AxisAngles
from amber_core.driveline.chain import JointChain
from amber_core.driveline.clocking import FloorQuestion, clocking_floor
from amber_core.driveline.equivalent import ExcitationQuestion, excitation
from amber_core.driveline.flanges import FlangeFace, FlangePair, joint_from_flange, shaft_length
from amber_core.driveline.kinematics import TurnQuestion, course, extremes
from amber_core.driveline.limits import Allowed, SpeedQuestion, held, speed_limits
from amber_core.driveline.points import MeasuredPoints, point_angles
from amber_core.errors import InvalidInput


class FlatRoot(TestCase):
    """The root of the sum of squares against the truth: driver level and straight, the other member at (s, p)."""

    ROWS = [
        (3, 3, 4.239, 0.004, 4.242, 0.001),
        (5, 5, 7.053, 0.018, 7.067, 0.005),
        (8, 8, 11.241, 0.072, 11.295, 0.018),
        (10, 10, 14.002, 0.140, 14.106, 0.036),
        (10, 5, 11.136, 0.045, 11.169, 0.011),
        (15, 15, 20.754, 0.46, 21.091, 0.12),
        (20, 20, 27.236, 1.05, 27.991, 0.29),
        (30, 30, 39.23, 3.2, 41.41, 1.0),
    ]

    def test_truth_and_error_for_both_kinds_of_slope(self) -> None:
        for s, p, drawn, drawn_error, laid, laid_error in self.ROWS:
            for kind, truth, error in (("projected", drawn, drawn_error), ("inclinometer", laid, laid_error)):
                with self.subTest(s=s, p=p, kind=kind):
                    found = joint_angles(MemberAngles(members=[[0, 0], [s, p]], side_kind=kind))  # type: ignore[arg-type]
                    self.assertAlmostEqual(found.joint_angle_deg[0], truth, delta=0.006)
                    self.assertAlmostEqual(found.hypot_deg[0] - found.joint_angle_deg[0], error, delta=max(0.0015, 0.03 * error))

    def test_slope_on_the_member_against_slope_in_the_side_view(self) -> None:
        for s, p, difference in ((10, 5, 0.04), (12, 9, 0.15), (15, 10, 0.22), (18, 14, 0.51)):
            found = convert_axis(AxisAngles(side_deg=s, plan_deg=p, side_kind="inclinometer"))
            with self.subTest(s=s):
                self.assertAlmostEqual(found.side_projected_deg - s, difference, delta=0.006)
                back = convert_axis(AxisAngles(side_deg=found.side_projected_deg, plan_deg=p))
                self.assertAlmostEqual(back.inclinometer_deg, s, places=9)

    def test_small_angles_keep_their_digits(self) -> None:
        # |d(d)/ds| of (1, tan p, -tan s)/norm: a member that runs sideways turns by less than its side-view slope
        s, p = radians(3), radians(2)
        rate = sqrt(1 + tan(p) ** 2) / (cos(s) ** 2 * (1 + tan(p) ** 2 + tan(s) ** 2))
        for step in (1e-3, 1e-6, 1e-9):
            found = joint_angles(MemberAngles(members=[[3, 2], [3 + step, 2]])).joint_angle_deg[0]
            self.assertAlmostEqual(found / step, rate, delta=2e-6 if step > 1e-8 else 1e-4)


class OneJoint(TestCase):
    def test_peak_acceleration_against_the_second_order_figure(self) -> None:
        for angle, ratio in ((3, 1.0005), (5, 1.0013), (8, 1.0034), (10, 1.0054), (15, 1.013), (20, 1.026), (25, 1.045), (30, 1.075)):
            exact = extremes(TurnQuestion(joint_angle_deg=[angle], rpm=1000)).peak_acc_rad_s2
            rough = excitation(ExcitationQuestion(joint_angle_deg=[angle], rpm=1000)).torsional_rad_s2
            with self.subTest(angle):
                self.assertAlmostEqual(exact / rough, ratio, delta=0.0015)

    def test_fastest_and_slowest_where_the_fork_stands(self) -> None:
        found = course(JointChain(joint_angle_deg=[25]), np.radians([0.0, 90.0, 180.0]))
        np.testing.assert_allclose(found.speed[0], [1 / cos(radians(25)), cos(radians(25)), 1 / cos(radians(25))], atol=1e-12)
        np.testing.assert_allclose(found.ahead[0], 0.0, atol=1e-12)

    def test_the_lead_is_the_known_series(self) -> None:
        """psi = th + sum (1/m) t^m sin 2 m th, t = tan^2(b/2)."""
        t = tan(radians(18) / 2) ** 2
        theta = np.linspace(0, np.pi, 37)
        series = sum(t**m / m * np.sin(2 * m * theta) for m in range(1, 12))
        found = course(JointChain(joint_angle_deg=[18]), theta).ahead[0]
        np.testing.assert_allclose(found, series, atol=1e-12)

    def test_second_harmonic_is_four_tan_squared(self) -> None:
        theta = np.linspace(0, 2 * np.pi, 4096, endpoint=False)
        bend = course(JointChain(joint_angle_deg=[20]), theta).bend[0]
        second = 2 * abs(np.fft.rfft(bend)[2]) / len(theta)
        self.assertAlmostEqual(second, 4 * tan(radians(20) / 2) ** 2, places=9)


class PaperForm(TestCase):
    """b_eq^2 = |sum (-1)^(j-1) B_j^2 e^(-2 i C_j)|, B of plan and i slope differences, C the clocking ahead: no vectors at all."""

    @staticmethod
    def paper(members: list[list[float]], clock: list[float]) -> float:
        total, turned = 0j, 0.0
        for j in range(1, len(members)):
            b = complex(members[j][1] - members[j - 1][1], members[j][0] - members[j - 1][0])
            total += (-1) ** (j - 1) * b**2 * exp(-2j * radians(turned))
            if j <= len(clock):
                turned += clock[j - 1]
        return abs(total)

    @settings(max_examples=120)
    @given(
        st.lists(st.tuples(st.floats(-4, 4), st.floats(-4, 4)).map(list), min_size=3, max_size=5),
        st.lists(st.floats(-60, 60), min_size=3, max_size=3),
    )
    def test_it_agrees_with_the_vectors_for_small_angles(self, members: list[list[float]], clock: list[float]) -> None:
        clock = clock[: len(members) - 2]
        found = joint_angles(MemberAngles(members=members))
        assume(max(found.joint_angle_deg) <= 8.0)
        shape = {"joint_angle_deg": found.joint_angle_deg, "plane_angle_deg": found.plane_angle_deg}
        exact = excitation(ExcitationQuestion(**shape, clock_deg=clock)).b_eq_deg ** 2
        # what is left out is smaller by the square of the steepest member's own angle
        steepest = max(radians(hypot(*one)) for one in members)
        left_out = 2.0 * steepest**2 * sum(one**2 for one in found.joint_angle_deg)
        self.assertAlmostEqual(exact, self.paper(members, clock), delta=left_out + 1e-9)

    def test_the_worked_example(self) -> None:
        slope, plan = degrees(atan(120 / 1400)), degrees(atan(130 / 1400))
        members = [[degrees(atan(0.034921)), 0.0], [slope, plan], [degrees(atan(-0.017455)), 0.0]]
        self.assertAlmostEqual(sqrt(self.paper(members, [0.0])), 6.430, delta=0.003)


class Clockings(TestCase):
    def test_what_a_few_degrees_cost(self) -> None:
        for wrong, left in ((1, 0.93), (2, 1.32), (5, 2.09), (10, 2.95), (20, 4.14)):
            shape = {"joint_angle_deg": [5, 5], "plane_angle_deg": [0]}
            found = excitation(ExcitationQuestion(**shape, clock_deg=[wrong])).b_eq_deg
            with self.subTest(wrong):
                self.assertAlmostEqual(found, left, delta=0.01)
                self.assertAlmostEqual(found**2, 2 * 25 * abs(sin(radians(wrong))), delta=0.02)

    def test_crossed_forks_flip_the_sign_behind_them(self) -> None:
        for clock, wanted in (
            ([0.0, 0.0], 4 - 25 + 16),
            ([90.0, 0.0], 4 + 25 - 16),
            ([0.0, 90.0], 4 - 25 - 16),
            ([90.0, 90.0], 4 + 25 + 16),
        ):
            found = excitation(ExcitationQuestion(joint_angle_deg=[2, 5, 4], clock_deg=clock)).b_eq_deg
            with self.subTest(clock):
                self.assertAlmostEqual(found**2, abs(wanted), places=9)

    def test_known_weights_of_two_equal_shafts(self) -> None:
        """Inertia torque of two equal shafts in one plane: 2 b1^2 - b2^2 on drive."""
        shape = ExcitationQuestion(joint_angle_deg=[3, 5, 4], rpm=3000, inertia_kgm2=[0.01, 0.01])
        found = excitation(shape)
        square = (3000 * np.pi / 30) ** 2
        assert found.torque_drive_nm is not None and found.torque_coast_nm is not None
        self.assertAlmostEqual(found.torque_drive_nm, 0.01 * square * abs(2 * radians(3) ** 2 - radians(5) ** 2), places=9)
        self.assertAlmostEqual(found.torque_coast_nm, 0.01 * square * abs(-(radians(5) ** 2) + 2 * radians(4) ** 2), places=9)

    def test_two_equal_ten_degree_joints_shake_their_shaft_alone(self) -> None:
        found = excitation(ExcitationQuestion(joint_angle_deg=[10, 10], rpm=3000))
        self.assertAlmostEqual(found.torsional_rad_s2, 0.0, places=6)
        self.assertAlmostEqual(found.inertia_drive_rad_s2[0], 3006, delta=2)

    def test_a_shaft_that_cannot_be_clocked_joins_its_neighbours(self) -> None:
        free = clocking_floor(FloorQuestion(joint_angle_deg=[3, 7, 5], plane_angle_deg=[0, 0], shafts=[1])).b_eq_floor_deg
        self.assertAlmostEqual(free**2, abs(49 - 25) - 9, places=9)
        none = clocking_floor(FloorQuestion(joint_angle_deg=[3, 7, 5], plane_angle_deg=[0, 0], shafts=[]))
        self.assertAlmostEqual(none.b_eq_floor_deg, none.b_eq_now_deg, places=9)
        with self.assertRaises(InvalidInput):
            FloorQuestion(joint_angle_deg=[3, 7], shafts=[2])


class Speeds(TestCase):
    ROWS = [
        (1500, 11.53, 8.16, 6.32, None),
        (2000, 8.65, 6.12, 4.74, 3.74),
        (2500, 6.92, 4.89, 3.79, 2.39),
        (3000, 5.77, 4.08, 3.16, 1.66),
        (3500, 4.94, 3.50, 2.71, 1.22),
        (4000, 4.33, 3.06, 2.37, 0.94),
        (4500, 3.84, 2.72, 2.11, 0.74),
        (5000, 3.46, 2.45, 1.90, 0.60),
        (6000, 2.88, 2.04, 1.58, 0.42),
    ]

    def test_the_table_of_angles_by_speed(self) -> None:
        for rpm, thousand, five, three, difference in self.ROWS:
            found = speed_limits(SpeedQuestion(rpm=rpm, mean_angle_deg=3))
            tolerated = speed_limits(SpeedQuestion(rpm=rpm, torsional_rad_s2=500))
            with self.subTest(rpm):
                self.assertAlmostEqual(found.max_angle_deg, thousand, delta=0.006)
                self.assertAlmostEqual(found.max_equivalent_deg, three, delta=0.006)
                self.assertAlmostEqual(tolerated.max_equivalent_deg, five, delta=0.006)
                self.assertEqual(found.end_difference_limits, difference is not None)
                if difference is not None:
                    self.assertAlmostEqual(found.max_end_difference_deg or 0.0, difference, delta=0.006)
                self.assertAlmostEqual(rpm * found.max_angle_deg, 17300, delta=10)

    def test_edges_of_a_limit(self) -> None:
        cases: list[tuple[float, str]] = [(4.89, "in"), (4.95, "edge"), (5.0, "edge"), (5.01, "out")]
        for value, word in cases:
            with self.subTest(value):
                self.assertEqual(held("joint_angle", "x", value, 5.0, status="rule").verdict, word)
        self.assertEqual(held("running_angle", "x", 0.7, 1.0, side="min", softer=0.5, status="rule").verdict, "edge")
        self.assertEqual(held("running_angle", "x", 0.4, 1.0, side="min", softer=0.5, status="rule").verdict, "out")
        self.assertEqual(held("torsional", "x", 297.0, 300.0, unit="rad/s2", status="maker").verdict, "edge")

    def test_limits_that_are_none(self) -> None:
        cases: list[tuple[dict[str, Any], str]] = [
            ({"torsional_rad_s2": 600}, "torsional_rad_s2"),
            ({"running_min_deg": 2}, "running_min_deg"),
            ({"joint_limit_deg": 0}, "joint_limit_deg"),
            ({"inertia_rad_s2": 0}, "inertia_rad_s2"),
        ]
        for change, field in cases:
            with self.subTest(field), self.assertRaises(InvalidInput) as caught:
                Allowed(**change)
            self.assertEqual(caught.exception.field, field)
        with self.assertRaises(InvalidInput):
            speed_limits(SpeedQuestion(rpm=0))


class Flanges(TestCase):
    def test_in_line_the_heights_come_off(self) -> None:
        found = shaft_length(
            FlangePair(
                output_face_mm=[0, 0, 0],
                output_axis=[1, 0, 0],
                output_height_mm=46,
                pinion_face_mm=[1400, 0, 0],
                pinion_axis=[1, 0, 0],
                pinion_height_mm=50,
            )
        )
        self.assertEqual((found.length_mm, found.face_to_face_mm), (1304.0, 1400.0))

    @given(st.floats(-8, 8), st.floats(-8, 8), st.sampled_from([1.0, -1.0]))
    def test_an_axis_the_wrong_way_round_changes_nothing(self, side: float, plan: float, sign: float) -> None:
        axis = [1.0, tan(radians(plan)), -tan(radians(side))]
        usual = {"output_face_mm": [0.0, 0, 0], "output_height_mm": 46, "pinion_face_mm": [1400.0, 60, -170], "pinion_height_mm": 50}
        a = shaft_length(FlangePair(**usual, output_axis=axis, pinion_axis=[1, 0, 0]))
        b = shaft_length(FlangePair(**usual, output_axis=[sign * one for one in axis], pinion_axis=[-1, 0, 0]))
        self.assertAlmostEqual(a.length_mm, b.length_mm, places=9)
        np.testing.assert_allclose(a.output_joint_mm, b.output_joint_mm, atol=1e-9)

    def test_both_ends_and_both_ways_of_saying_an_axis(self) -> None:
        angles = AxisAngles(side_deg=3.0, plan_deg=2.0)
        vector = [1.0, tan(radians(2)), -tan(radians(3))]
        for end, sign in (("out", 1), ("output", 1), ("pin", -1), ("pinion", -1)):
            a = joint_from_flange(FlangeFace(face_mm=[100, 10, -5], axis=angles, height_mm=48, end=end))  # type: ignore[arg-type]
            b = joint_from_flange(FlangeFace(face_mm=[100, 10, -5], axis=vector, height_mm=48, end=end))  # type: ignore[arg-type]
            with self.subTest(end):
                np.testing.assert_allclose(a.joint_mm, b.joint_mm, atol=1e-9)
                self.assertAlmostEqual(hypot(*np.subtract(a.joint_mm, [100, 10, -5])), 48.0, places=9)
                self.assertEqual(a.joint_mm[0] > 100, sign > 0)

    def test_refused(self) -> None:
        with self.assertRaises(InvalidInput):
            FlangeFace(face_mm=[0, 0], axis=[1, 0, 0], height_mm=48, end="out")
        with self.assertRaises(InvalidInput):
            FlangeFace(face_mm=[0, 0, 0], axis=[1, 0, 0], height_mm=4800, end="out")
        with self.assertRaises(InvalidInput):
            FlangePair(
                output_face_mm=[0, 0, 0],
                output_axis=[1, 0, 0],
                output_height_mm=1,
                pinion_face_mm=[0, 0, 0],
                pinion_axis=[1, 0, 0],
                pinion_height_mm=1,
            )


class Planes(TestCase):
    def test_where_a_plane_stands_on_its_shaft(self) -> None:
        """Members in the side view alone: upright planes; in plan alone: flat ones; both alike: half way."""
        for end, clock in (([1400, 0, -120], 0.0), ([1400, 120, 0], 90.0)):
            found = point_angles(MeasuredPoints(points_mm=[[0, 0, 0], end], output_axis=[1, 0, 0], pinion_axis=[1, 0, 0]))
            with self.subTest(end):
                self.assertAlmostEqual(abs(found.plane_clock_front_deg[0]), clock, places=6)
                self.assertAlmostEqual(found.plane_angle_deg[0], 0.0, places=6)

    def test_clockwise_from_the_driver_is_towards_the_right_over_the_top(self) -> None:
        # the shaft falls away to the right: seen from the front the plane leans from top left to bottom right
        found = point_angles(MeasuredPoints(points_mm=[[0, 0, 0], [1400, -60, -120]], output_axis=[1, 0, 0], pinion_axis=[1, 0, 0]))
        other = point_angles(MeasuredPoints(points_mm=[[0, 0, 0], [1400, 60, -120]], output_axis=[1, 0, 0], pinion_axis=[1, 0, 0]))
        self.assertAlmostEqual(found.plane_clock_front_deg[0], -other.plane_clock_front_deg[0], places=6)
        self.assertAlmostEqual(abs(found.plane_clock_front_deg[0]), degrees(atan(60 / 120)), delta=0.2)
        # small-angle form: tan(clock) = plan difference over side difference; - for a shaft that runs left and down
        self.assertLess(other.plane_clock_front_deg[0], 0.0)


class ListsThatDoNotFit(TestCase):
    """One thing for every joint, one for every shaft: a list of another length is named."""

    def refused(self, name: str, field: str, **given: object) -> None:
        with self.subTest(name=name, field=field), self.assertRaises(InvalidInput) as caught:
            registry.run(name, given)
        self.assertEqual(caught.exception.field, field)

    def test_angles_and_points(self) -> None:
        self.refused("driveline.angles", "members", members=[[3, 0]])
        self.refused("driveline.angles", "members", members=[[3, 0]] * 9)
        self.refused("driveline.angles", "members[1]", members=[[3, 0], [3]])
        ends = {"output_axis": [1, 0, 0], "pinion_axis": [1, 0, 0]}
        self.refused("driveline.points", "points_mm", points_mm=[[0, 0, 0]], **ends)
        line = [[400 * number, 0, 0] for number in range(3)]
        self.refused("driveline.points", "inertia_kgm2", points_mm=line, inertia_kgm2=[0.01], **ends)

    def test_chains(self) -> None:
        self.refused("driveline.equivalent", "joint_angle_deg", joint_angle_deg=[])
        self.refused("driveline.equivalent", "joint_angle_deg", joint_angle_deg=[1] * 8)
        self.refused("driveline.equivalent", "joint_angle_deg[1]", joint_angle_deg=[3, -1])
        self.refused("driveline.equivalent", "plane_angle_deg", joint_angle_deg=[3, 3], plane_angle_deg=[0, 0])
        self.refused("driveline.equivalent", "clock_deg", joint_angle_deg=[3, 3], clock_deg=[])
        self.refused("driveline.equivalent", "joints", joint_angle_deg=[3, 3], joints=["cardan"])
        self.refused("driveline.equivalent", "front_share", joint_angle_deg=[3, 3], front_share=[0.5])
        self.refused("driveline.equivalent", "front_share[1]", joint_angle_deg=[3, 3], front_share=[0.5, 2])
        self.refused("driveline.equivalent", "inertia_kgm2", joint_angle_deg=[3, 3], inertia_kgm2=[0.01, 0.01])
        self.refused("driveline.equivalent", "inertia_kgm2[0]", joint_angle_deg=[3, 3], inertia_kgm2=[-0.01])

    def test_clocking(self) -> None:
        self.refused("driveline.clocking", "shaft", joint_angle_deg=[3, 4, 5], shaft=3)
        self.refused("driveline.clocking", "teeth", joint_angle_deg=[3, 4], teeth=3)
        self.refused("driveline.clocking_floor", "shafts[1]", joint_angle_deg=[3, 4, 5], shafts=[1, 0])
