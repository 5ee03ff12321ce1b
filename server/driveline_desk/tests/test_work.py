"""From the desk's inputs to the core's questions: places of the axle, signs of wind-up, what an order sheet says of each shaft."""

from __future__ import annotations

from copy import deepcopy
from math import pi, sqrt
from typing import Any
from unittest import TestCase

from amber_core.errors import InvalidInput
from amber_core.words import Said
from driveline_desk.schemas import DrivelineInputs, RemedyIn
from driveline_desk.tests.test_desk import FREE, LOADED, inputs, member
from driveline_desk.work import read_in, remedies, shaft_rpm, work_out
from test_support.api_case import ApiTestCase


def given(**more: Any) -> DrivelineInputs:
    return DrivelineInputs.model_validate(inputs(**more))


def front(**more: Any) -> DrivelineInputs:
    readings = {"output": member(3), "shafts": [{"length_mm": 800, "member": member(7)}], "pinion": member(3), "chain": "front"}
    return given(readings=readings, **more)


class Speeds(TestCase):
    def test_typed_before_worked_out_before_none(self) -> None:
        self.assertEqual(shaft_rpm(given(speed={"rpm": 2000, "speed_kmh": 90, "circumference_m": 2.4, "ratio": 4})), 2000)
        self.assertAlmostEqual(shaft_rpm(given(speed={"speed_kmh": 90, "circumference_m": 2.5, "ratio": 4})), 2400)
        for missing in ("speed_kmh", "circumference_m", "ratio"):
            speed = {"speed_kmh": 90, "circumference_m": 2.5, "ratio": 4}
            del speed[missing]
            self.assertEqual(shaft_rpm(given(speed=speed)), 0)


class Places(TestCase):
    def cases(self, of: DrivelineInputs) -> dict[str, Any]:
        return {one.name: one for one in read_in(of).vehicle.places}

    def test_ride_counts_most_and_ends_run_slower(self) -> None:
        found = self.cases(given())
        self.assertEqual(found["ride"].weight, 3.0)
        self.assertAlmostEqual((found["bump"].rpm or 0) / shaft_rpm(given()), 0.6)
        self.assertGreater(found["bump"].dz_mm, 0.0)
        self.assertLess(found["droop"].dz_mm, 0.0)
        self.assertNotIn("overrun", found)

    def test_driving_lifts_a_rear_nose_and_lowers_a_front_one(self) -> None:
        travel = {"drive_wrap_deg": 2.0, "overrun_wrap_deg": 1.0}
        rear, ahead = self.cases(given(travel=travel)), self.cases(front(travel=travel))
        self.assertEqual((rear["full drive"].wrap_deg, rear["overrun"].wrap_deg), (2.0, -1.0))
        self.assertEqual((ahead["full drive"].wrap_deg, ahead["overrun"].wrap_deg), (-2.0, 1.0))

    def test_the_arm_swings_the_axle_and_turns_it(self) -> None:
        straight = self.cases(given(travel={"droop_mm": -80, "bump_mm": 70}))
        self.assertEqual((straight["bump"].dx_mm, straight["bump"].pitch_deg), (0.0, 0.0))
        swung = self.cases(given(travel={"droop_mm": -80, "bump_mm": 70, "pivot_ahead_mm": 700, "pitch_ratio": 1.0}))
        self.assertLess(swung["bump"].pitch_deg, 0.0)
        self.assertGreater(swung["droop"].pitch_deg, 0.0)
        half = self.cases(given(travel={"droop_mm": -80, "bump_mm": 70, "pivot_ahead_mm": 700, "pitch_ratio": 0.5}))
        self.assertAlmostEqual(half["bump"].pitch_deg, swung["bump"].pitch_deg / 2)

    def test_a_side_without_travel_is_no_case(self) -> None:
        self.assertEqual(set(self.cases(given(travel={"droop_mm": 0, "bump_mm": 70}))), {"ride", "bump"})

    def test_the_speed_at_the_ends_is_the_persons_to_say(self) -> None:
        found = self.cases(given(travel={"droop_mm": -80, "bump_mm": 70, "extreme_share": 1.0}))
        self.assertAlmostEqual(found["droop"].rpm or 0, shaft_rpm(given()))

    def test_bad_readings_are_named_from_the_top(self) -> None:
        readings = deepcopy(inputs()["readings"])
        readings["shafts"] = [{"length_mm": 700, "member": member(3), "bearing_from_front_mm": 900}, *readings["shafts"]]
        with self.assertRaises(InvalidInput) as caught:
            read_in(given(readings=readings, teeth=None))
        self.assertEqual(caught.exception.field, "readings.shafts[0].bearing_from_front_mm")


class SetOver(TestCase):
    def clocks(self, **more: Any) -> list[float]:
        return read_in(given(**more)).vehicle.clocks

    def test_teeth_count_on_top_of_degrees_and_repeat_every_half_turn(self) -> None:
        readings = deepcopy(inputs()["readings"])
        self.assertEqual(self.clocks(teeth=[16], set_over=[1]), [22.5])
        self.assertEqual(self.clocks(teeth=[16], set_over=[-3]), [-67.5])
        readings["shafts"][0]["clock_deg"] = 5
        self.assertEqual(self.clocks(readings=readings, teeth=[16], set_over=[2]), [50.0])
        self.assertEqual(self.clocks(readings=readings, teeth=[16], set_over=[8]), [5.0])

    def test_nothing_set_over_wants_no_teeth(self) -> None:
        for over in (None, [], [None], [0]):
            with self.subTest(over):
                self.assertEqual(self.clocks(teeth=None, set_over=over), [0.0])

    def test_a_tooth_of_an_unknown_spline_has_no_angle(self) -> None:
        for teeth in (None, [], [None]):
            with self.subTest(teeth), self.assertRaises(InvalidInput) as caught:
                work_out(given(teeth=teeth, set_over=[1]))
            self.assertEqual(caught.exception.field, "set_over[0]")
        with self.assertRaises(InvalidInput) as caught:
            remedies(RemedyIn.model_validate({"inputs": inputs(teeth=None, set_over=[1]), "free": FREE}))
        self.assertEqual(caught.exception.field, "inputs.set_over[0]")

    def test_teeth_and_their_degrees_are_one_and_the_same_driveline(self) -> None:
        readings = deepcopy(inputs()["readings"])
        readings["shafts"][0]["clock_deg"] = 22.5
        by_teeth, by_degrees = work_out(given(set_over=[2])), work_out(given(readings=readings))
        self.assertAlmostEqual(by_teeth.now.analysed.b_eq_deg, by_degrees.now.analysed.b_eq_deg, places=12)
        self.assertEqual([one.use for one in by_teeth.now.cases], [one.use for one in by_degrees.now.cases])
        self.assertNotAlmostEqual(by_teeth.now.analysed.b_eq_deg, work_out(given()).now.analysed.b_eq_deg, places=2)

    def test_best_teeth_are_counted_from_where_the_forks_stand(self) -> None:
        first = work_out(given()).now.analysed.clocking[0]
        assert first.teeth is not None and first.b_eq_teeth_deg is not None
        moved = work_out(given(set_over=[first.teeth])).now.analysed
        self.assertAlmostEqual(moved.b_eq_deg, first.b_eq_teeth_deg, places=9)
        self.assertEqual(moved.clocking[0].teeth, 0)


class Answers(TestCase):
    def test_a_double_cardan_in_front_leaves_the_rear_joint(self) -> None:
        readings = {**inputs()["readings"], "joints": ["double_cardan", "cardan"]}
        found = work_out(given(readings=readings)).now.analysed
        self.assertAlmostEqual(found.b_eq_deg, found.joint_angle_deg[1], places=6)
        self.assertTrue(found.clocking[0].indifferent)

    def test_a_double_cardan_off_centre_shakes_by_the_difference_of_its_halves(self) -> None:
        readings = {**inputs()["readings"], "joints": ["double_cardan", "cv"]}
        good = work_out(given(readings=readings)).now
        worn = work_out(given(readings={**readings, "front_share": [0.55, 0.5]})).now
        self.assertAlmostEqual(good.analysed.b_eq_deg, 0.0, places=9)
        angle = worn.analysed.joint_angle_deg[0]
        self.assertAlmostEqual(worn.analysed.b_eq_deg**2, (2 * 0.55 - 1) * angle**2, places=9)
        self.assertAlmostEqual(worn.cases[0].state.b_eq_deg, worn.analysed.b_eq_deg, places=9)
        self.assertGreater(worn.analysed.uneven_pct, 0.0)
        with self.assertRaises(InvalidInput) as caught:
            read_in(given(readings={**readings, "front_share": [0.5]}))
        self.assertEqual(caught.exception.field, "front_share")

    def test_the_length_is_that_with_the_remedy_where_one_is_tried(self) -> None:
        order = {**LOADED, "flange_out_mm": 40, "flange_pinion_mm": 50}
        plain, wedged = work_out(given(order=order)), work_out(given(order=order, tried={"wedge_deg": 4}))
        assert wedged.tried is not None and wedged.tried.analysed.shaft_length_mm is not None
        self.assertAlmostEqual(plain.face_to_face_mm, 1310 + 90, places=6)
        self.assertAlmostEqual(wedged.face_to_face_mm, wedged.tried.analysed.shaft_length_mm[0] + 90, places=6)
        self.assertNotAlmostEqual(wedged.face_to_face_mm, plain.face_to_face_mm, places=2)

    def test_the_makers_limit_is_held_and_said(self) -> None:
        found = work_out(given(allowed={"inertia_rad_s2": 700, "from_maker": ["inertia_rad_s2"]})).now.analysed.limits
        mine = next(one for one in found if one.name == "inertia_coast")
        self.assertEqual((mine.limit, mine.status), (700, "maker"))

    def test_fittings_longer_than_the_shaft_leave_only_the_bare_tube(self) -> None:
        tube = {"tube": {"outer_mm": 76.2, "wall_mm": 2.1}, "end_length_mm": 700}
        self.assertIsNone(work_out(given(tube=tube)).tubes[0].with_ends_rpm)

    def tube(self, speed: dict[str, Any], **more: Any) -> tuple[Any, list[Said]]:
        found = work_out(given(speed=speed, tube={"tube": {"outer_mm": 76.2, "wall_mm": 2.1}, **more}))
        return found.tubes[0], found.warnings

    def test_what_holds_the_ends_lowers_the_bending_speed_once_both_are_known(self) -> None:
        self.assertIsNone(self.tube({})[0].on_supports)
        self.assertIsNone(self.tube({}, support_front_mn_per_m=5.0)[0].on_supports)
        soft, _ = self.tube({}, support_front_mn_per_m=5.0, support_rear_mn_per_m=5.0)
        stiff, _ = self.tube({}, support_front_mn_per_m=1e6, support_rear_mn_per_m=1e6)
        tube_kg = 7850 * pi / 4 * (0.0762**2 - 0.0720**2) * (1.310 - 0.180)
        rigid_rpm = 30 / pi * sqrt(1e7 / (tube_kg + 4.0))  # both ends alike: the bar goes up and down between them
        self.assertAlmostEqual(soft.on_supports.critical_rpm, (soft.with_ends_rpm**-2 + rigid_rpm**-2) ** -0.5, places=3)
        self.assertAlmostEqual(soft.on_supports.allowed_rpm, soft.on_supports.critical_rpm * 0.75 / 0.9, places=6)
        self.assertAlmostEqual(stiff.on_supports.critical_rpm / stiff.with_ends_rpm, 1.0, places=5)
        self.assertEqual((soft.verdict, soft.on_supports.verdict, soft.on_supports_kmh), ("unknown", "unknown", None))
        road = {"circumference_m": 2.4, "ratio": 4.0}
        soft, _ = self.tube(road, support_front_mn_per_m=5.0, support_rear_mn_per_m=5.0)
        self.assertAlmostEqual(soft.on_supports_kmh, soft.on_supports.allowed_rpm / 60 * 2.4 / 4.0 * 3.6, places=6)

    def test_a_speed_that_stiff_supports_would_stand_and_soft_ones_do_not(self) -> None:
        stiff, warned = self.tube({"rpm": 5000})
        self.assertEqual((stiff.shaft.verdict, stiff.verdict, warned), ("in", "in", []))
        soft, warned = self.tube({"rpm": 5000}, support_front_mn_per_m=3.0, support_rear_mn_per_m=3.0)
        self.assertEqual((soft.shaft.verdict, soft.on_supports.verdict, soft.verdict), ("in", "out", "out"))
        self.assertIn(f"safe to {soft.on_supports.allowed_rpm:,.0f} rpm".replace(",", "\u2009"), warned[0])

    def test_the_makers_own_tube(self) -> None:
        own = {"e_gpa": 110, "density_kg_m3": 1580, "g_gpa": 21, "yield_mpa": 170, "shear_mpa": 95}
        found = work_out(given(tube={"tube": {"outer_mm": 100, "wall_mm": 4, "material": own}})).tubes[0]
        self.assertEqual((found.shaft.material_note, found.other, found.ratios), ("as entered", None, None))

    def test_every_share_over_one_is_not_within(self) -> None:
        for case in work_out(given()).now.cases:
            self.assertEqual(case.within, case.use <= 1.0 + 1e-9)

    def test_remedies_of_a_front_driveline(self) -> None:
        found = remedies(RemedyIn.model_validate({"inputs": front().model_dump(), "free": {"wedge_deg": [-6, 6]}}))
        assert found.plan is not None
        self.assertTrue(found.plan.before)
        bad = {"inputs": inputs(), "free": FREE, "front": inputs(readings={**inputs()["readings"], "pinion": member(89)})}
        with self.assertRaises(InvalidInput):
            remedies(RemedyIn.model_validate(bad))


class Orders(ApiTestCase):
    def page(self, **more: Any) -> str:
        from django.template.loader import render_to_string

        from driveline_desk.order import order_context
        from work.models import KeptAnswer

        job = self.make_job()
        body = {"title": "x", "inputs": inputs(order={**LOADED, "flange_out_mm": 40, "flange_pinion_mm": 50}, **more)}
        reply = self.post(f"/work/{job}/driveline-results", body)
        self.assertEqual(reply.status_code, 201, reply.content)
        return render_to_string("driveline_desk/order.html", order_context(KeptAnswer.objects.get()))

    def test_a_shaft_in_two_parts_names_the_last_one(self) -> None:
        two = {
            "output": member(3),
            "shafts": [{"length_mm": 700, "member": member(3.5), "bearing_from_front_mm": 640}, {"length_mm": 1100, "member": member(7)}],
            "pinion": member(4),
        }
        page = self.page(readings=two, teeth=[None, 16])
        self.assertIn("1150 mm joint ahead of the last propshaft to pinion flange face", page)
        self.assertIn("centre bearing and single Cardan joint", page)

    def test_what_is_not_known_is_to_be_agreed(self) -> None:
        page = self.page(speed={}, travel=None, slip=None, tube=None, load=None)
        for words in ("agree the balance speed", "agree the slip joint", "to be chosen by the shaft maker"):
            with self.subTest(words):
                self.assertIn(words, page)

    def test_forks_are_ordered_as_they_stand_and_teeth_named_only_where_they_are_whole(self) -> None:
        self.assertIn("22.5&deg;, + clockwise seen from the gearbox end (2 of 32 teeth)", self.page(set_over=[2]))

    def test_a_fork_between_two_teeth_is_told_in_degrees_alone(self) -> None:
        page = self.page(tried={"clock_deg": [17.0]})
        self.assertIn("17.0&deg;, + clockwise", page)
        self.assertNotIn("of 32 teeth", page)

    def test_a_remedy_is_told_and_measured_again(self) -> None:
        page = self.page(tried={"wedge_deg": 2.5})
        self.assertIn("The figures are those with the remedy fitted: wedge 2.5", page)
        self.assertIn("measure again once it is in", page)

    def test_a_shaft_over_its_safe_speed_carries_its_warning(self) -> None:
        readings = deepcopy(inputs()["readings"])
        readings["shafts"][0]["length_mm"] = 2000
        self.assertIn("comes through the floor", self.page(readings=readings, speed={"rpm": 4500}))
