"""A driveline in its vehicle: wedge, shims, travel and slip, and the search for remedies."""

from __future__ import annotations

import json
from dataclasses import replace
from math import degrees, hypot
from typing import Any
from unittest import TestCase

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from amber_core import registry
from amber_core.driveline.axes import AxisAngles
from amber_core.driveline.limits import Allowed
from amber_core.driveline.recommend import Free, RecommendQuestion, recommend
from amber_core.driveline.slip import SlipQuestion, slip
from amber_core.driveline.state import StateQuestion, state
from amber_core.driveline.travel import TravelQuestion, travel
from amber_core.driveline.variables import Variable
from amber_core.driveline.vehicle import Case, CentreBearing, Mount, Vehicle
from amber_core.errors import InvalidInput

LIFTED = Vehicle(
    output_joint_mm=[0, 0, 0],
    output_axis=AxisAngles(side_deg=4),
    pinion_joint_mm=[1300, 40, -160],
    pinion_axis=AxisAngles(side_deg=1),
    axle_centre_mm=[1580, 40, -190],
    cases=[
        Case(name="cruise", weight=3),
        Case(name="bump", dz_mm=70, dx_mm=4, pitch_deg=-1.2),
        Case(name="full drive", wrap_deg=2.0),
    ],
)
TWO_PIECE = replace(
    LIFTED,
    output_joint_mm=[0, 0, 0],
    pinion_joint_mm=[1700, 40, -200],
    axle_centre_mm=[1980, 40, -230],
    centre_bearing=CentreBearing(bearing_mm=[560, 0, -45], joint_from_front_mm=620),
)
FRONT = Vehicle(
    output_joint_mm=[-150, 120, -20],
    output_axis=AxisAngles(side_deg=3),
    pinion_joint_mm=[-950, 150, -120],
    pinion_axis=AxisAngles(side_deg=3),
    axle_centre_mm=[-1250, 150, -140],
    chain="front",
)


class States(TestCase):
    @settings(max_examples=40)
    @given(st.floats(-6, 6))
    def test_a_wedge_and_its_opposite_cancel(self, wedge: float) -> None:
        there = state(StateQuestion(vehicle=LIFTED, wedge_deg=wedge))
        turned = replace(LIFTED, pinion_joint_mm=there.pinion_joint_mm, pinion_axis=there.axes[-1])
        back = state(StateQuestion(vehicle=turned, wedge_deg=-wedge))
        as_it_was = state(StateQuestion(vehicle=LIFTED))
        np.testing.assert_allclose(back.pinion_joint_mm, as_it_was.pinion_joint_mm, atol=1e-9)
        np.testing.assert_allclose(back.joint_angle_deg, as_it_was.joint_angle_deg, atol=1e-9)
        # wedge and a wrap of the same size are one and the same turn
        wrapped = state(StateQuestion(vehicle=LIFTED, wedge_deg=wedge, case=Case(wrap_deg=-wedge)))
        np.testing.assert_allclose(wrapped.joint_angle_deg, as_it_was.joint_angle_deg, atol=1e-9)

    def test_a_wedge_raises_the_pinion_by_itself_and_its_joint_too(self) -> None:
        found = state(StateQuestion(vehicle=LIFTED, wedge_deg=3))
        self.assertAlmostEqual(found.pinion_side_deg, 4.0, places=9)
        self.assertAlmostEqual(found.pinion_joint_mm[2] - -160.0, 14.6, delta=0.1)

    def test_a_front_axles_nose_points_the_other_way(self) -> None:
        up = state(StateQuestion(vehicle=FRONT, wedge_deg=2))
        self.assertAlmostEqual(up.pinion_side_deg, 5.0, places=9)
        self.assertGreater(up.pinion_joint_mm[2], -120.0)

    def test_a_shim_moves_the_joint_behind_by_more_than_itself(self) -> None:
        was, raised = (state(StateQuestion(vehicle=TWO_PIECE, shim_mm=h)) for h in (0.0, 8.0))
        lift = raised.points_mm[1][2] - was.points_mm[1][2]
        reach = hypot(560, 45)
        self.assertAlmostEqual(lift, 8.0 * 620 / reach, delta=0.1)
        self.assertAlmostEqual(was.shaft_length_mm[0], 620.0, places=6)

    def test_a_tail_mount_shim_turns_output_and_front_shaft(self) -> None:
        mount = Mount(pivot_mm=[-900, 0, 50], mount_mm=[-100, 0, -60])
        for vehicle, sign in ((LIFTED, -1.0), (FRONT, 1.0)):
            raised = state(StateQuestion(vehicle=replace(vehicle, mount=mount), mount_mm=10))
            was = state(StateQuestion(vehicle=vehicle))
            with self.subTest(vehicle.chain):
                self.assertAlmostEqual(raised.output_side_deg - was.output_side_deg, sign * degrees(np.arctan(10 / 800)), places=6)
                self.assertGreater(raised.points_mm[0][2], was.points_mm[0][2])

    def test_three_shafts(self) -> None:
        three = replace(
            TWO_PIECE,
            pinion_joint_mm=[2600, 40, -260],
            axle_centre_mm=[2880, 40, -290],
            second_bearing=CentreBearing(bearing_mm=[1250, 10, -110], joint_from_front_mm=700),
        )
        found = state(StateQuestion(vehicle=three))
        self.assertEqual((len(found.joint_angle_deg), len(found.shaft_length_mm)), (4, 3))
        self.assertAlmostEqual(found.shaft_length_mm[1], 700.0, places=6)

    def test_refused(self) -> None:
        good = {"output_joint_mm": [0, 0, 0], "output_axis": [1, 0, 0], "pinion_joint_mm": [1000, 0, 0], "pinion_axis": [1, 0, 0]}
        good["axle_centre_mm"] = [1300, 0, 0]
        cases: list[tuple[dict[str, Any], dict[str, Any], str]] = [
            ({"pinion_joint_mm": [-1000, 0, 0]}, {}, "vehicle.pinion_joint_mm"),
            ({"pinion_joint_mm": [10, 0, 0]}, {}, "vehicle.pinion_joint_mm"),
            ({"clock_deg": [1, 2]}, {}, "vehicle.clock_deg"),
            ({"joints": ["cardan"]}, {}, "vehicle.joints"),
            ({"front_share": [0.5]}, {}, "vehicle.front_share"),
            ({"second_bearing": {"bearing_mm": [500, 0, 0], "joint_from_front_mm": 400}}, {}, "vehicle.centre_bearing"),
            ({"cases": [{}] * 61}, {}, "vehicle.cases"),
            ({"cases": [{"weight": 0}]}, {}, "vehicle.cases"),
            ({"cases": [{"dz_mm": 7000}]}, {}, "vehicle.cases[0].dz_mm"),
            ({}, {"shim_mm": 5}, "shim_mm"),
            ({}, {"mount_mm": 5}, "mount_mm"),
            ({"mount": {"pivot_mm": [0, 0, 0], "mount_mm": [10, 0, 0]}}, {}, "vehicle.mount.mount_mm"),
            ({"output_axis": {"side_deg": 95}}, {}, "vehicle.output_axis.side_deg"),
        ]
        for change, more, field in cases:
            with self.subTest(field), self.assertRaises(InvalidInput) as caught:
                registry.run("driveline.state", {"vehicle": {**good, **change}, **more})
            self.assertEqual(caught.exception.field, field)


class Remedies(TestCase):
    def test_no_place_of_a_fine_grid_is_better(self) -> None:
        found = recommend(RecommendQuestion(vehicle=LIFTED, free=Free(wedge_deg=[-6, 8])))
        for wedge in np.linspace(-6, 8, 57):
            scores = [
                state(StateQuestion(vehicle=LIFTED, wedge_deg=float(wedge), case=case)).b_eq_deg ** 4 * case.weight
                for case in LIFTED.places
            ]
            self.assertGreaterEqual((sum(scores) / 5.0) ** 0.25, found.score_deg - 1e-6)

    def test_both_minima_are_looked_at(self) -> None:
        # parallel needs +3; meeting ends needs far more: only the second lies in the bounds
        planar = replace(LIFTED, cases=None, pinion_joint_mm=[1300, 0, -160], axle_centre_mm=[1580, 0, -190])
        found = recommend(RecommendQuestion(vehicle=planar, free=Free(wedge_deg=[4.5, 18])))
        self.assertLess(found.score_deg, 0.2)
        self.assertGreater(found.settings["wedge_deg"], 5.0)

    def test_what_stands_at_a_bound_is_said(self) -> None:
        found = recommend(RecommendQuestion(vehicle=LIFTED, free=Free(wedge_deg=[-6, 1])))
        self.assertEqual(found.at_bound, ["wedge_deg"])

    def test_rounded_to_what_a_workshop_can_make(self) -> None:
        found = recommend(
            RecommendQuestion(
                vehicle=TWO_PIECE, free=Free(wedge_deg=[-6, 6], shim_mm=[-15, 15], clock_deg={"2": [-45, 45]}), teeth=[None, 32]
            )
        )
        self.assertEqual(found.rounded["wedge_deg"] * 2 % 1, 0.0)
        self.assertEqual(found.rounded["shim_mm"] % 1, 0.0)
        self.assertAlmostEqual(found.rounded["clock_shaft_2"] / 11.25 % 1, 0.0, places=9)
        self.assertGreaterEqual(found.score_rounded_deg, found.score_deg - 1e-9)

    def test_an_odd_spline_has_a_place_every_half_tooth(self) -> None:
        self.assertAlmostEqual(Variable(name="clock_shaft_1", low=-20, high=20, teeth=31).step, 180 / 31)
        self.assertAlmostEqual(Variable(name="clock_shaft_1", low=-20, high=20, teeth=30).step, 12.0)

    def test_the_fewest_changes_that_bring_every_case_in(self) -> None:
        asked = RecommendQuestion(
            vehicle=LIFTED, free=Free(wedge_deg=[-6, 8], clock_deg={"1": [-45, 45]}), teeth=[32], rpm=2600, allowed=Allowed()
        )
        plan = recommend(asked).plan
        assert plan is not None
        self.assertTrue(plan.within, plan)
        self.assertEqual([one.name for one in plan.changes], ["wedge_deg"])
        self.assertTrue(any(one.use > 1.0 for one in plan.before))
        self.assertTrue(all(one.use <= 1.0 for one in plan.after))
        change = plan.changes[0]
        self.assertIn("nose up", change.text)
        self.assertIn("equivalent angle", change.does)
        self.assertTrue(any("moves" in cost for cost in change.costs))

    def test_the_makers_end_difference_counts_for_the_plan_too(self) -> None:
        allowed = Allowed(end_difference_deg=0.5, from_maker=["end_difference_deg"])
        near = replace(LIFTED, pinion_axis=AxisAngles(side_deg=3), cases=[Case(name="cruise")])
        for limits, changes in ((Allowed(), 0), (allowed, 1)):
            plan = recommend(RecommendQuestion(vehicle=near, free=Free(wedge_deg=[-6, 8]), rpm=2000, allowed=limits)).plan
            assert plan is not None
            self.assertEqual((len(plan.changes), plan.within), (changes, True))

    def test_every_answer_is_plain_json(self) -> None:
        good = {"output_joint_mm": [0, 0, 0], "output_axis": [1, 0, 0], "pinion_joint_mm": [1000, 0, -50], "pinion_axis": [1, 0, 0]}
        car = {**good, "axle_centre_mm": [1300, 0, -60]}
        for rpm in (1000, 4000, 9000):
            answer = registry.run("driveline.recommend", {"vehicle": car, "free": {"wedge_deg": [-1, 1]}, "rpm": rpm})
            self.assertEqual(json.loads(json.dumps(answer)), answer)

    def test_what_is_in_needs_nothing(self) -> None:
        good = replace(LIFTED, pinion_axis=AxisAngles(side_deg=4), cases=[Case(name="cruise")])
        plan = recommend(RecommendQuestion(vehicle=good, free=Free(wedge_deg=[-6, 8]), rpm=2500)).plan
        assert plan is not None
        self.assertEqual((plan.within, plan.changes), (True, []))

    def test_where_nothing_helps_it_says_so(self) -> None:
        steep = replace(LIFTED, pinion_joint_mm=[700, 0, -350], axle_centre_mm=[980, 0, -380])
        plan = recommend(RecommendQuestion(vehicle=steep, free=Free(wedge_deg=[-1, 1]), rpm=4000)).plan
        assert plan is not None
        self.assertFalse(plan.within)
        self.assertIn("comes nearest", plan.reasons[0])

    def test_a_lowered_transfer_case_tells_the_front_shaft(self) -> None:
        mount = Mount(pivot_mm=[-900, 0, 50], mount_mm=[-100, 0, -60])
        vehicle = replace(LIFTED, mount=mount, pinion_axis=AxisAngles(side_deg=2), cases=[Case(name="cruise")])
        asked = RecommendQuestion(vehicle=vehicle, free=Free(mount_mm=[-25, 25]), rpm=3300, front=FRONT)
        plan = recommend(asked).plan
        assert plan is not None
        self.assertEqual([one.name for one in plan.changes], ["mount_mm"])
        self.assertTrue(any("front propshaft changes too" in cost for cost in plan.changes[0].costs), plan.changes)

    def test_refused(self) -> None:
        cases: list[tuple[Free, str]] = [
            (Free(), "free"),
            (Free(shim_mm=[-5, 5]), "free.shim_mm"),
            (Free(mount_mm=[-5, 5]), "free.mount_mm"),
            (Free(clock_deg={"2": [-5, 5]}), "free.clock_deg.2"),
        ]
        for free, field in cases:
            with self.subTest(field), self.assertRaises(InvalidInput) as caught:
                RecommendQuestion(vehicle=LIFTED, free=free)
            self.assertEqual(caught.exception.field, field)
        with self.assertRaises(InvalidInput):
            Free(wedge_deg=[5, -5])


class Travelling(TestCase):
    def test_straight_up_and_down_is_pythagoras(self) -> None:
        level = replace(LIFTED, pinion_joint_mm=[1000, 0, 0], axle_centre_mm=[1300, 0, 0], cases=None)
        found = travel(TravelQuestion(vehicle=level, droop_mm=-120, bump_mm=80))
        self.assertAlmostEqual(found.length_droop_mm, hypot(1000, 120), places=6)
        self.assertAlmostEqual(found.length_bump_mm, hypot(1000, 80), places=6)
        # the shortest is not at an end
        self.assertAlmostEqual(found.shortest_at_mm, 0.0, places=6)
        self.assertAlmostEqual(found.plunge_in_mm, 0.0, places=9)

    @settings(max_examples=25)
    @given(st.floats(-120, 0), st.floats(0, 120), st.floats(0, 1))
    def test_the_arm_keeps_its_length(self, droop: float, bump: float, ratio: float) -> None:
        asked = TravelQuestion(vehicle=LIFTED, droop_mm=droop, bump_mm=bump, pivot_mm=[750, -120], pitch_ratio=ratio)
        heights = np.linspace(droop, bump, 9)
        move = asked.axle(heights).move_mm
        reach = np.hypot(1580 - 750 + move[:, 0], -190 + 120 + move[:, 2])
        np.testing.assert_allclose(reach, hypot(830, 70), atol=1e-9)
        found = travel(asked)
        self.assertLessEqual(found.length_min_mm, found.length_ride_mm)
        self.assertLessEqual(found.length_ride_mm, found.length_max_mm)

    def test_bump_lowers_the_nose_of_an_axle_behind_its_pivot(self) -> None:
        asked = TravelQuestion(vehicle=LIFTED, droop_mm=-50, bump_mm=50, pivot_mm=[750, -120])
        self.assertLess(asked.axle(np.array([50.0])).nose_deg[0], 0.0)
        front = replace(asked, vehicle=FRONT, pivot_mm=[-500, -100])
        self.assertLess(front.axle(np.array([50.0])).nose_deg[0], 0.0)
        behind = replace(asked, pivot_mm=[2400, -120])
        self.assertGreater(behind.axle(np.array([50.0])).nose_deg[0], 0.0)

    def test_refused(self) -> None:
        for change, field in (
            ({"droop_mm": 20.0}, "droop_mm"),
            ({"pivot_mm": [1500.0, -190.0]}, "pivot_mm"),
            ({"pivot_mm": [1.0]}, "pivot_mm"),
        ):
            with self.subTest(field), self.assertRaises(InvalidInput) as caught:
                TravelQuestion(**{"vehicle": LIFTED, "droop_mm": -120.0, "bump_mm": 90.0, **change})
            self.assertEqual(caught.exception.field, field)


class Slipping(TestCase):
    def ask(self, **more: float) -> Any:
        usual = {"length_ride_mm": 1312.0, "length_min_mm": 1301.0, "length_max_mm": 1334.0, "spline_diameter_mm": 38.0}
        return slip(SlipQuestion(**{**usual, "engaged_ride_mm": 110.0, "collapse_ride_mm": 60.0, **more}))

    def test_in_with_room_at_both_ends(self) -> None:
        found = self.ask()
        self.assertEqual((found.verdict, found.lengthen_shaft_by_mm, found.one_length_serves), ("in", 0.0, True))

    def test_bottoming_wants_a_shorter_shaft(self) -> None:
        found = self.ask(collapse_ride_mm=30)
        self.assertEqual((found.verdict, found.clearance_ok, found.lengthen_shaft_by_mm), ("out", False, -6.0))

    def test_where_no_length_serves_it_says_so(self) -> None:
        found = self.ask(engaged_ride_mm=92, collapse_ride_mm=40)
        self.assertFalse(found.one_length_serves)
        self.assertIn("No propshaft length serves both", found.reasons[0].text)

    def test_the_length_proposed_serves(self) -> None:
        found = self.ask(engaged_ride_mm=92)
        longer = found.lengthen_shaft_by_mm
        again = self.ask(engaged_ride_mm=92 + longer, collapse_ride_mm=60 - longer)
        self.assertTrue(again.engaged_ok and again.clearance_ok)

    def test_refused(self) -> None:
        with self.assertRaises(InvalidInput):
            self.ask(length_ride_mm=1400.0)
