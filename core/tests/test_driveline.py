"""Drivelines: the open cases, laws as properties, and a second solver that knows none of the core's formulas."""

from __future__ import annotations

import json
from math import cos, degrees, radians, tan
from pathlib import Path
from typing import Any
from unittest import TestCase

import numpy as np
from hypothesis import assume, given, settings
from hypothesis import strategies as st

from amber_core import registry
from amber_core.driveline import axes
from amber_core.driveline.analyse import AnalyseQuestion, analyse
from amber_core.driveline.angles import MemberAngles, joint_angles
from amber_core.driveline.axes import AxisAngles
from amber_core.driveline.chain import JointChain, JointKind
from amber_core.driveline.clocking import ClockingQuestion, FloorQuestion, best_clocking, clocking_floor, turn_of, whole_teeth
from amber_core.driveline.equivalent import ExcitationQuestion, excitation
from amber_core.driveline.kinematics import TURN_STEPS, MotionQuestion, TurnQuestion, course, extremes, motion
from amber_core.driveline.limits import Allowed
from amber_core.driveline.points import MeasuredPoints, point_angles
from amber_core.errors import InvalidInput
from core.tests.cardan_solver import SolvedChain

CASES: list[dict[str, Any]] = json.loads((Path(__file__).parent / "vectors" / "driveline.json").read_text(encoding="utf-8"))["cases"]

slopes = st.floats(-18.0, 18.0)
plans = st.floats(-18.0, 18.0)
clocks = st.floats(-90.0, 90.0)
bends = st.floats(0.5, 15.0)
members = st.lists(st.tuples(slopes, plans).map(list), min_size=3, max_size=5)


def near(found: Any, wanted: Any, tolerance: dict[str, Any]) -> bool:
    """Within a case's tolerance; parts without one are informative."""
    if isinstance(wanted, dict):
        whole = not any(isinstance(one, dict) for one in tolerance.values())
        return all(near(found[key], value, tolerance if whole else tolerance.get(key, {})) for key, value in wanted.items())
    if isinstance(wanted, list):
        return len(found) == len(wanted) and all(near(a, b, tolerance) for a, b in zip(found, wanted, strict=True))
    if not tolerance:
        return True
    if tolerance.get("exact"):
        return bool(found == wanted)
    allowed = max(tolerance.get("abs", 0.0), tolerance.get("rel", 0.0) * abs(wanted))
    allowed = max(allowed, tolerance.get("at_most_abs", 0.0), tolerance.get("at_most_rel", 0.0) * abs(wanted))
    away = found - wanted
    if "mod" in tolerance:
        away = (away + tolerance["mod"] / 2) % tolerance["mod"] - tolerance["mod"] / 2
    return bool(abs(away) <= allowed)


class OpenCases(TestCase):
    def test_every_field_of_every_case(self) -> None:
        self.assertEqual(len(CASES), 37)
        for case in CASES:
            answer = json.loads(json.dumps(registry.run(case["name"], case["inputs"])))
            for field, wanted in case["expected"].items():
                with self.subTest(case["id"], field=field):
                    self.assertTrue(near(answer[field], wanted, case["tolerance"].get(field, {})), (answer[field], wanted))

    def test_a_wrong_answer_would_be_seen(self) -> None:
        self.assertFalse(near([4.0, 4.1], [4.0, 4.0], {"abs": 0.005}))
        self.assertTrue(near(-89.99, 90.0, {"abs": 0.02, "mod": 180}))
        self.assertFalse(near({"a": 1.0}, {"a": 2.0}, {"a": {"rel": 0.1}}))


class AnglesInSpace(TestCase):
    @settings(max_examples=60)
    @given(members)
    def test_the_flat_root_never_errs_low_for_a_level_straight_driver(self, chain: list[list[float]]) -> None:
        found = joint_angles(MemberAngles(members=[[0.0, 0.0], chain[0]]))
        self.assertGreaterEqual(found.hypot_deg[0] - found.joint_angle_deg[0], -1e-9)
        exact = degrees(np.arctan(np.hypot(tan(radians(chain[0][0])), tan(radians(chain[0][1])))))
        self.assertAlmostEqual(found.joint_angle_deg[0], exact, places=9)

    @settings(max_examples=60)
    @given(slopes, plans)
    def test_an_inclinometer_reads_the_true_slope_of_the_member(self, slope: float, plan: float) -> None:
        axis = axes.from_angles(AxisAngles(side_deg=slope, plan_deg=plan, side_kind="inclinometer"))
        self.assertAlmostEqual(degrees(np.arcsin(-axis[2])), slope, places=9)
        self.assertAlmostEqual(degrees(np.arctan2(axis[1], axis[0])), plan, places=9)
        self.assertAlmostEqual(-axis[2], np.sin(radians(slope)), places=12)
        self.assertAlmostEqual(axis[0], cos(radians(slope)) * cos(radians(plan)), places=12)

    @settings(max_examples=40)
    @given(members, st.floats(-8.0, 8.0))
    def test_a_vehicle_that_is_not_level_leaves_planar_angles_alone(self, chain: list[list[float]], tilt: float) -> None:
        flat = [[side, 0.0] for side, _ in chain]
        tilted = [[side + tilt, 0.0] for side, _ in flat]
        a, b = (joint_angles(MemberAngles(members=one)).joint_angle_deg for one in (flat, tilted))
        np.testing.assert_allclose(a, b, atol=1e-9)

    def test_compound_angles_change_a_little_with_the_vehicle(self) -> None:
        level, tilted = ([[s, 0.0], [s + 5.0, 4.0]] for s in (3.0, 8.0))
        self.assertAlmostEqual(joint_angles(MemberAngles(members=level)).joint_angle_deg[0], 6.376, places=3)
        self.assertAlmostEqual(joint_angles(MemberAngles(members=tilted)).joint_angle_deg[0], 6.337, places=3)

    @settings(max_examples=40)
    @given(members)
    def test_the_other_hand_turns_every_plane_the_other_way(self, chain: list[list[float]]) -> None:
        a = joint_angles(MemberAngles(members=chain))
        b = joint_angles(MemberAngles(members=chain, chain="front"))
        mirrored = joint_angles(MemberAngles(members=[[side, -plan] for side, plan in chain]))
        np.testing.assert_allclose(a.joint_angle_deg, b.joint_angle_deg, atol=1e-9)
        for other in (b, mirrored):
            for one, two in zip(a.plane_angle_deg, other.plane_angle_deg, strict=True):
                self.assertAlmostEqual((one + two + 90.0) % 180.0 - 90.0, 0.0, places=6)

    def test_a_straight_joint_changes_nothing(self) -> None:
        straight = joint_angles(MemberAngles(members=[[3, 0], [3, 0], [7, 4], [3, 1]]))
        without = joint_angles(MemberAngles(members=[[3, 0], [7, 4], [3, 1]]))
        self.assertEqual(straight.joint_angle_deg[0], 0.0)
        one = excitation(ExcitationQuestion(joint_angle_deg=straight.joint_angle_deg, plane_angle_deg=straight.plane_angle_deg))
        two = excitation(ExcitationQuestion(joint_angle_deg=without.joint_angle_deg, plane_angle_deg=without.plane_angle_deg))
        self.assertAlmostEqual(one.b_eq_deg, two.b_eq_deg, places=9)
        # hardly bent, it must not matter which way
        for plan in (1e-5, -1e-5):
            bent = joint_angles(MemberAngles(members=[[3, 0], [3, plan], [7, 4], [3, 1]]))
            shaken = excitation(ExcitationQuestion(joint_angle_deg=bent.joint_angle_deg, plane_angle_deg=bent.plane_angle_deg))
            self.assertAlmostEqual(shaken.b_eq_deg, two.b_eq_deg, places=3)
        all_straight = joint_angles(MemberAngles(members=[[3, 0], [3, 0], [3, 0]]))
        self.assertEqual(all_straight.plane_angle_deg, [0.0])

    def test_points_and_angles_agree(self) -> None:
        found = point_angles(
            MeasuredPoints(points_mm=[[0, 0, 0], [-900, 60, -80]], output_axis=[-1, 0, -0.05], pinion_axis=[-1, 0.02, 0.01], chain="front")
        )
        slope = degrees(np.arctan(80 / 900))
        angles = joint_angles(
            MemberAngles(
                members=[
                    [degrees(np.arctan(0.05)), 0],
                    [slope, degrees(np.arctan(60 / 900))],
                    [degrees(np.arctan(-0.01)), degrees(np.arctan(0.02))],
                ],
                chain="front",
            )
        )
        np.testing.assert_allclose(found.joint_angle_deg, angles.joint_angle_deg, atol=1e-9)
        np.testing.assert_allclose(found.plane_angle_deg, angles.plane_angle_deg, atol=1e-9)
        difference = found.plane_clock_rear_deg[0] - found.plane_clock_front_deg[0]
        self.assertAlmostEqual((difference - found.plane_angle_deg[0] + 90) % 180 - 90, 0.0, places=9)


def random_chain(chain: list[list[float]], clock: list[float]) -> tuple[JointChain, np.ndarray]:
    question = MemberAngles(members=chain)
    found = joint_angles(question)
    clock = (clock * 4)[: len(chain) - 2]
    return JointChain(joint_angle_deg=found.joint_angle_deg, plane_angle_deg=found.plane_angle_deg, clock_deg=clock), question.axes()


class ExactMotion(TestCase):
    @settings(max_examples=40, deadline=None)
    @given(members, st.lists(clocks, min_size=1, max_size=3), st.floats(0.0, 360.0))
    def test_the_chain_agrees_with_the_constraint_solver(self, chain: list[list[float]], clock: list[float], theta: float) -> None:
        known, directions = random_chain(chain, clock)
        assume(min(known.joint_angle_deg) >= 0.01)  # a straight joint has no plane to start from
        normal = axes.joints_of(directions).normal[0]
        # the driver's yoke lies in the first joint's plane at theta = 0
        fork = np.cross(normal, directions[0])
        solved = SolvedChain(directions, known.clocks, fork).speeds(radians(theta))
        found = course(known, np.array([radians(theta)]))
        np.testing.assert_allclose(found.speed[:, 0], solved, rtol=1e-9)

    @settings(max_examples=30)
    @given(bends, clocks)
    def test_an_equal_angle_in_phase_shaft_turns_its_end_evenly(self, bend: float, plane: float) -> None:
        even = extremes(TurnQuestion(joint_angle_deg=[bend, bend], plane_angle_deg=[plane], clock_deg=[plane], rpm=3000))
        self.assertLess(even.max_ratio - 1.0, 1e-12)
        self.assertLess(excitation(ExcitationQuestion(joint_angle_deg=[bend, bend])).b_eq_deg, 1e-6)

    @settings(max_examples=30)
    @given(st.lists(bends, min_size=2, max_size=4), clocks, clocks)
    def test_the_second_order_figure_is_right_to_second_order(self, angles: list[float], plane: float, clock: float) -> None:
        count = len(angles) - 1
        for scale in (0.1, 0.3):
            small = [scale * one for one in angles]
            shape = {"joint_angle_deg": small, "plane_angle_deg": [plane] * count, "clock_deg": [clock] * count}
            exact = extremes(TurnQuestion(**shape, rpm=1000.0)).peak_acc_rad_s2
            rough = excitation(ExcitationQuestion(**shape, rpm=1000.0)).torsional_rad_s2
            largest = (1000.0 * np.pi / 30.0) ** 2 * sum(radians(one) ** 2 for one in small)
            self.assertLess(abs(exact - rough), 4.0 * largest * radians(max(small)) ** 2 + 1e-9)

    @settings(max_examples=30)
    @given(members, st.lists(clocks, min_size=1, max_size=3), st.floats(0.0, 180.0))
    def test_the_chain_run_backwards_undoes_itself(self, chain: list[list[float]], clock: list[float], theta: float) -> None:
        known, directions = random_chain(chain, clock)
        if min(known.joint_angle_deg) < 0.01:
            return
        there = course(known, np.array([radians(theta)]))
        found = axes.joints_of(-directions[::-1])
        back = JointChain(joint_angle_deg=np.degrees(found.beta).tolist(), plane_angle_deg=found.eps.tolist(), clock_deg=known.clocks[::-1])
        np.testing.assert_allclose(back.joint_angle_deg, known.joint_angle_deg[::-1], atol=1e-9)
        # the last member's yoke against the last joint's plane, as the way back counts it
        at = radians(theta)
        turned = at + there.ahead[-1, 0]
        shift = sum(90.0 + c - e for c, e in zip(known.clocks, known.planes, strict=True)) + 90.0
        # seen along the way back everything turns the other way
        again = course(back, np.array([-(turned + radians(shift))]))
        self.assertAlmostEqual(float(again.speed[-1, 0] * there.speed[-1, 0]), 1.0, places=9)
        self.assertAlmostEqual(float(again.ahead[-1, 0]), float(there.ahead[-1, 0]), places=9)

    def test_speed_is_the_derivative_of_turn_and_acceleration_that_of_speed(self) -> None:
        chain = JointChain(joint_angle_deg=[7, 11, 5], plane_angle_deg=[20, -35], clock_deg=[10, 0])
        theta = np.linspace(0.0, np.pi, 2001)
        found = course(chain, theta)
        np.testing.assert_allclose(np.gradient(found.ahead[-1], theta)[5:-5] + 1.0, found.speed[-1][5:-5], atol=1e-6)
        np.testing.assert_allclose(np.gradient(found.speed[-1], theta)[5:-5], found.bend[-1][5:-5], atol=1e-5)

    def test_double_cardan_centred_is_even_and_off_centre_is_two_crosses(self) -> None:
        kinds: list[JointKind] = ["double_cardan"]
        even = motion(MotionQuestion(joint_angle_deg=[20], joints=kinds, theta_deg=33, rpm=2000))
        self.assertEqual((even.speed_ratio, even.deviation_deg), ([1.0], [0.0]))
        off = motion(MotionQuestion(joint_angle_deg=[20], joints=kinds, front_share=[0.6], theta_deg=33, rpm=2000))
        two = motion(MotionQuestion(joint_angle_deg=[12, 8], theta_deg=33, rpm=2000))
        self.assertAlmostEqual(off.speed_ratio[0], two.speed_ratio[1], places=12)
        shaken = excitation(ExcitationQuestion(joint_angle_deg=[20], joints=kinds, front_share=[0.6], rpm=2000))
        pair = excitation(ExcitationQuestion(joint_angle_deg=[12, 8], rpm=2000))
        self.assertAlmostEqual(shaken.b_eq_deg, pair.b_eq_deg, places=9)

    def test_a_turn_is_fine_enough(self) -> None:
        self.assertEqual(TURN_STEPS % 4, 0)
        one = extremes(TurnQuestion(joint_angle_deg=[20]))
        self.assertAlmostEqual(one.max_ratio, 1 / cos(radians(20)), places=9)
        self.assertAlmostEqual(one.min_ratio, cos(radians(20)), places=9)


class Clocking(TestCase):
    @settings(max_examples=40)
    @given(bends, bends, clocks)
    def test_each_fork_in_its_own_plane_is_best(self, front: float, rear: float, plane: float) -> None:
        found = best_clocking(ClockingQuestion(joint_angle_deg=[front, rear], plane_angle_deg=[plane]))
        assert found.clock_deg is not None
        self.assertAlmostEqual((found.clock_deg - plane + 90.0) % 180.0 - 90.0, 0.0, places=6)
        self.assertAlmostEqual(found.b_eq_min_deg**2, abs(front**2 - rear**2), places=6)

    @settings(max_examples=40)
    @given(st.lists(bends, min_size=3, max_size=4), clocks, st.integers(8, 40), st.integers(1, 2))
    def test_no_tooth_is_better_and_none_as_good_is_nearer(self, angles: list[float], plane: float, teeth: int, shaft: int) -> None:
        count = len(angles) - 1
        chain = {"joint_angle_deg": angles, "plane_angle_deg": [plane] * count}
        found = best_clocking(ClockingQuestion(**chain, shaft=shaft, teeth=teeth))
        assert found.b_eq_teeth_deg is not None and found.teeth is not None
        for m in range(-(teeth // 2), teeth // 2 + 1):
            clock = [0.0] * count
            clock[shaft - 1] = m * 360.0 / teeth
            left = excitation(ExcitationQuestion(**chain, clock_deg=clock)).b_eq_deg
            self.assertGreaterEqual(left**2, found.b_eq_teeth_deg**2 - 1e-6)
            if abs(left**2 - found.b_eq_teeth_deg**2) < 1e-12:
                self.assertGreaterEqual(abs(m), abs(found.teeth))

    @settings(max_examples=25, deadline=None)
    @given(st.lists(bends, min_size=3, max_size=3), st.floats(0, 180), st.floats(0, 180))
    def test_the_floor_is_never_gone_under(self, angles: list[float], one: float, two: float) -> None:
        floor = clocking_floor(FloorQuestion(joint_angle_deg=angles, plane_angle_deg=[10, -30])).b_eq_floor_deg
        left = excitation(ExcitationQuestion(joint_angle_deg=angles, plane_angle_deg=[10, -30], clock_deg=[one, two])).b_eq_deg
        self.assertGreaterEqual(left**2, floor**2 - 1e-6)

    @given(st.integers(-30, 30), st.integers(4, 120))
    def test_a_turn_by_whole_teeth_is_known_again(self, steps: int, teeth: int) -> None:
        turn = turn_of(steps, teeth)
        self.assertEqual(whole_teeth(turn, teeth), steps)
        self.assertEqual(whole_teeth(turn + 0.04 * 360 / teeth, teeth), steps)
        self.assertIsNone(whole_teeth(turn + 0.3 * 360 / teeth, teeth))

    def test_where_nothing_is_left_to_cancel_no_tooth_is_moved(self) -> None:
        found = best_clocking(ClockingQuestion(joint_angle_deg=[1, 1, 1, 1], shaft=2, teeth=8))
        self.assertEqual((found.indifferent, found.turn_deg, found.teeth, found.turn_teeth_deg), (True, None, 0, 0.0))

    def test_a_double_cardan_in_front_leaves_nothing_to_clock(self) -> None:
        found = best_clocking(ClockingQuestion(joint_angle_deg=[12, 2], joints=["double_cardan", "cardan"], teeth=16))
        self.assertTrue(found.indifferent)
        self.assertEqual((found.turn_deg, found.clock_deg, found.teeth), (None, None, 0))

    def test_four_degrees_on_an_odd_spline_go_nearly_half_a_turn_round(self) -> None:
        found = best_clocking(ClockingQuestion(joint_angle_deg=[5, 5], plane_angle_deg=[4.0], teeth=31))
        assert found.teeth is not None and found.turn_teeth_deg is not None
        self.assertGreater(abs(found.turn_teeth_deg), 90.0)
        self.assertLess(abs((found.turn_teeth_deg - 4.0 + 90.0) % 180.0 - 90.0), 360.0 / 31 / 4)

    def test_the_worked_example(self) -> None:
        shape = {
            "points_mm": [[0, 0, 0], [1400, 130, -120]],
            "output_axis": [1, 0, -0.034921],
            "pinion_axis": [1, 0, 0.017455],
            "rpm": 2800,
        }
        found = analyse(AnalyseQuestion(**shape, teeth=32))
        self.assertAlmostEqual(found.clocking[0].b_eq_min_deg, 5.130, places=3)
        self.assertEqual(found.clocking[0].teeth, 2)
        wrong = analyse(AnalyseQuestion(**shape, clock_deg=[-19.48]))
        self.assertAlmostEqual(wrong.b_eq_deg, 8.094, places=3)
        self.assertAlmostEqual(found.peak_acc_rad_s2, 1085, delta=1.0)


class Judged(TestCase):
    def verdicts(self, **more: Any) -> dict[tuple[str, int | None], str]:
        return {(one.name, one.place): one.verdict for one in analyse(AnalyseQuestion(**more)).limits}

    def test_equal_angles_cancel_but_their_shaft_still_shakes(self) -> None:
        found = self.verdicts(members=[[0, 0], [10, 0], [0, 0]], rpm=3000)
        self.assertEqual(found[("torsional", None)], "in")
        self.assertEqual(found[("inertia_drive", 1)], "out")
        self.assertEqual(found[("joint_angle", 1)], "out")

    def test_needles_must_roll(self) -> None:
        found = self.verdicts(members=[[3, 0], [3.3, 0], [4, 0]], rpm=2000)
        self.assertEqual((found[("running_angle", 1)], found[("running_angle", 2)]), ("out", "edge"))
        self.assertEqual(self.verdicts(members=[[3, 0], [5, 0], [3, 0]], rpm=2000)[("running_angle", 1)], "in")

    def test_tolerated_is_on_the_edge_and_more_is_out(self) -> None:
        speed = 3000 * np.pi / 30
        for square, word in ((250, "in"), (400, "edge"), (600, "out")):
            angle = degrees(np.sqrt(square) / speed)
            with self.subTest(word):
                self.assertEqual(self.verdicts(members=[[0, 0], [angle, 0]], rpm=3000)[("torsional", None)], word)

    def test_the_nature_of_a_limit_is_said(self) -> None:
        allowed = Allowed(joint_limit_deg=22, from_maker=["joint_limit_deg", "inertia_rad_s2"])
        found = analyse(AnalyseQuestion(members=[[0, 0], [4, 0], [0, 0]], rpm=2500, allowed=allowed)).limits
        status = {one.name: one.status for one in found}
        self.assertEqual(status["joint_limit"], "maker")
        self.assertEqual((status["torsional"], status["equivalent_angle"], status["inertia_coast"]), ("rule", "formula", "maker"))
        self.assertTrue(all("maker" in one.source for one in found))

    def test_end_angles_are_held_by_speed_by_the_usual_degree_or_by_the_maker(self) -> None:
        chain = {"members": [[0, 0], [4, 0], [2, 0]]}
        self.assertEqual(self.verdicts(**chain, rpm=1500)[("end_difference", None)], "in")
        self.assertEqual(self.verdicts(**chain)[("end_difference", None)], "out")
        by_maker = Allowed(end_difference_deg=1.5, from_maker=["end_difference_deg"])
        self.assertEqual(self.verdicts(**chain, rpm=1500, allowed=by_maker)[("end_difference", None)], "out")

    def test_without_a_speed_only_angles_are_judged(self) -> None:
        names = {name for name, _ in self.verdicts(members=[[0, 0], [4, 0], [0, 0]])}
        self.assertEqual(names, {"running_angle", "equivalent_angle", "end_difference"})

    def test_a_turn_has_the_driver_and_every_member(self) -> None:
        found = analyse(AnalyseQuestion(members=[[0, 0], [4, 2], [1, 0], [0, 0]], rpm=2500))
        self.assertEqual((len(found.turn.theta_deg), len(found.turn.speed_ratio)), (361, 4))
        self.assertEqual(set(found.turn.speed_ratio[0]), {1.0})
        self.assertAlmostEqual(max(found.turn.speed_ratio[3]) - 1.0, found.uneven_pct / 100, places=12)
        self.assertIsNone(found.shaft_length_mm)

    def test_refused(self) -> None:
        cases: list[tuple[dict[str, Any], str]] = [
            ({}, "members"),
            ({"members": [[0, 0], [4, 0]], "points_mm": [[0, 0, 0], [1, 0, 0]]}, "members"),
            ({"members": [[0, 0], [95, 0]]}, "members[1].side_deg"),
            ({"members": [[0, 0], [5]]}, "members[1]"),
            ({"members": [[0, 0], [5, 0], [0, 0]], "clock_deg": [1, 2]}, "clock_deg"),
            ({"members": [[0, 0], [5, 0], [0, 0]], "teeth": [16, 16]}, "teeth"),
            ({"members": [[0, 0], [5, 0], [0, 0]], "teeth": 2}, "teeth"),
            ({"points_mm": [[0, 0, 0], [1000, 0, 0]]}, "output_axis"),
            ({"points_mm": [[0, 0, 0], [0, 0, 0.1]], "output_axis": [1, 0, 0], "pinion_axis": [1, 0, 0]}, "points_mm[1]"),
            ({"points_mm": [[0, 0, 0], [1000, 0, 0]], "output_axis": [0, 0, 0], "pinion_axis": [1, 0, 0]}, "output_axis"),
            ({"members": [[0, 0], [5, 0]], "rpm": 90000}, "rpm"),
            ({"members": [[0, 0], [5, 0]], "allowed": {"from_maker": ["luck"]}}, "allowed.from_maker[0]"),
        ]
        for payload, field in cases:
            with self.subTest(field), self.assertRaises(InvalidInput) as caught:
                registry.run("driveline.analyse", payload)
            self.assertEqual(caught.exception.field, field)
            self.assertRegex(caught.exception.message, r"^[A-Z0-9].*\.$")
