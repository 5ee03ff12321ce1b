"""Depth, preload and end play: signs for every shim place, worked by hand."""

from __future__ import annotations

from typing import Any
from unittest import TestCase

from hypothesis import given
from hypothesis import strategies as st

from amber_core import registry
from amber_core.errors import InvalidInput

PLACES = ["under_head", "behind_cup", "under_cartridge_flange"]


def refused(test: TestCase, name: str, cases: list[tuple[dict[str, Any], str]]) -> None:
    """Each payload is refused on its field."""
    for payload, field in cases:
        with test.subTest(field, payload=str(payload)[:60]), test.assertRaises(InvalidInput) as caught:
            registry.run(name, payload)
        test.assertEqual(caught.exception.field, field)


class FirstDepthShim(TestCase):
    OLD = {"old_shim_mm": 0.90, "old_bearing_height_mm": 30.00, "new_bearing_height_mm": 30.00, "shim_place": "under_head"}
    CASES = [
        ("nothing changed", {}, 0.90),
        ("a mark farther from the ring axis wants less", {"new_mark_mm": 0.05}, 0.85),
        ("a taller bearing wants less", {"new_bearing_height_mm": 30.02}, 0.88),
        ("a thicker slinger wants less", {"slinger_change_mm": 0.10}, 0.80),
        ("under a cartridge flange all the other way", {"new_mark_mm": 0.05, "shim_place": "under_cartridge_flange"}, 0.95),
        ("marks in thou", {"old_mark": 0, "new_mark": 2, "mark_unit": "thou"}, 0.90 - 0.0508),
        ("marks whose plus is closer", {"old_mark": 0, "new_mark": 5, "mark_unit": "hundredths_mm", "mark_means": "closer_is_plus"}, 0.95),
        ("marks that are distances", {"old_mark": 60.00, "new_mark": 60.04, "mark_unit": "mm", "mark_means": "distance"}, 0.86),
    ]

    def test_cases(self) -> None:
        for name, change, shim in self.CASES:
            with self.subTest(name):
                answer = registry.run("depth.start", {**self.OLD, **change})
                self.assertAlmostEqual(answer["shim_mm"], shim, places=9)
                self.assertAlmostEqual(sum(term["value_mm"] for term in answer["terms"]), shim, places=9)

    def test_behind_the_cup_a_solid_spacer_grows_along(self) -> None:
        answer = registry.run("depth.start", {**self.OLD, "new_mark_mm": -0.07, "shim_place": "behind_cup"})
        self.assertAlmostEqual(answer["spacer_change_mm"], 0.07)
        self.assertIsNone(registry.run("depth.start", self.OLD)["spacer_change_mm"])

    @given(mark=st.floats(-0.3, 0.3), taller=st.floats(-0.3, 0.3), place=st.sampled_from(PLACES))
    def test_exchanging_old_and_new_parts_undoes_the_change(self, mark: float, taller: float, place: str) -> None:
        heights = {"old_bearing_height_mm": 30.0, "new_bearing_height_mm": 30.0 + taller}
        there = registry.run("depth.start", {"old_shim_mm": 2.0, "new_mark_mm": mark, "shim_place": place, **heights})["shim_mm"]
        swapped = {"old_bearing_height_mm": 30.0 + taller, "new_bearing_height_mm": 30.0}
        back = registry.run("depth.start", {"old_shim_mm": there, "old_mark_mm": mark, "shim_place": place, **swapped})["shim_mm"]
        self.assertAlmostEqual(back, 2.0, places=9)

    def test_a_mark_is_asked_about_and_less_than_no_shim_is_said(self) -> None:
        answer = registry.run("depth.start", {**self.OLD, "new_mark_mm": 0.95})
        self.assertEqual([one["code"] for one in answer["reasons"]], ["negative_stack", "mark_sign"])

    def test_refused(self) -> None:
        refused(
            self,
            "depth.start",
            [
                ({**self.OLD, "new_mark_mm": 5.0}, "new_mark_mm"),
                ({**self.OLD, "new_bearing_height_mm": None}, "new_bearing_height_mm"),
                ({**self.OLD, "old_mark": 0, "new_mark": 2}, "mark_unit"),
                ({**self.OLD, "old_mark": 0, "mark_unit": "mm"}, "new_mark"),
                ({**self.OLD, "old_mark": 0, "new_mark": 5, "mark_unit": "mm"}, "new_mark"),
                ({**self.OLD, "shim_place": "somewhere"}, "shim_place"),
            ],
        )


class MeasuredDepth(TestCase):
    USUAL = {"reading_mm": 75.06, "bar_mm": 25.0, "arbor_radius_mm": 10.0, "nominal_mm": 60.0, "shim_mm": 0.80}

    def test_too_shallow_wants_a_thicker_shim_but_a_thinner_one_under_a_cartridge(self) -> None:
        head = registry.run("depth.measure", self.USUAL)
        self.assertAlmostEqual(head["distance_mm"], 60.06)
        self.assertAlmostEqual(head["error_mm"], 0.06)
        self.assertAlmostEqual(head["new_shim_mm"], 0.86)
        self.assertEqual(head["verdict"], "out")
        cartridge = registry.run("depth.measure", {**self.USUAL, "shim_place": "under_cartridge_flange"})
        self.assertAlmostEqual(cartridge["new_shim_mm"], 0.74)

    def test_verdicts(self) -> None:
        for reading, verdict in ((75.0, "in"), (75.025, "edge"), (75.03, "edge"), (74.97, "edge"), (75.04, "out"), (74.96, "out")):
            with self.subTest(reading):
                self.assertEqual(registry.run("depth.measure", {**self.USUAL, "reading_mm": reading})["verdict"], verdict)

    def test_far_side_of_the_arbor_reference_and_mark(self) -> None:
        change = {"arbor_radius_mm": -10.0, "reference_offset_mm": 2.0, "reading_mm": 97.05, "mark_mm": 0.05}
        self.assertAlmostEqual(registry.run("depth.measure", {**self.USUAL, **change})["error_mm"], 0.0)


class Preload(TestCase):
    WINDOW = {"min_nm": 1.6, "max_nm": 2.6}

    def test_the_median_less_the_drag_is_judged(self) -> None:
        answer = registry.run("preload.assess", {"readings_nm": [2.4, 2.5, 2.9], "seal_drag_nm": 0.4, **self.WINDOW})
        self.assertAlmostEqual(answer["torque_nm"], 2.1)
        self.assertEqual(answer["verdict"], "in")

    def test_verdicts(self) -> None:
        for torque, verdict in ((1.6, "edge"), (1.64, "edge"), (1.7, "in"), (2.61, "out"), (1.5, "out")):
            with self.subTest(torque):
                self.assertEqual(registry.run("preload.assess", {"readings_nm": [torque], **self.WINDOW})["verdict"], verdict)

    def test_what_cannot_be_judged(self) -> None:
        cases = [
            ({"bearings": "mixed"}, "mixed_bearings"),
            ({"seal": "fitted", "window_seal": "excluded"}, "seal_differs"),
            ({"seal": "absent", "window_seal": "included"}, "seal_differs"),
        ]
        for change, code in cases:
            with self.subTest(code):
                answer = registry.run("preload.assess", {"readings_nm": [2.0], **self.WINDOW, **change})
                self.assertEqual((answer["verdict"], answer["reasons"][0]["code"]), ("unknown", code))
        known = {"seal": "fitted", "window_seal": "excluded", "seal_drag_nm": 0.2}
        self.assertEqual(registry.run("preload.assess", {"readings_nm": [2.0], **self.WINDOW, **known})["verdict"], "in")

    def test_uneven_turning_is_said(self) -> None:
        answer = registry.run("preload.assess", {"readings_nm": [1.8, 2.0, 2.5], **self.WINDOW})
        self.assertIn("uneven", [one["code"] for one in answer["reasons"]])

    def test_a_pull(self) -> None:
        self.assertAlmostEqual(registry.run("preload.pull", {"force_n": 30.0, "radius_mm": 75.0})["torque_nm"], 2.25)
        refused(
            self, "preload.pull", [({"force_n": 30.0, "radius_mm": 0.0}, "radius_mm"), ({"force_n": -1.0, "radius_mm": 10.0}, "force_n")]
        )

    def test_refused(self) -> None:
        refused(self, "preload.assess", [({"readings_nm": []}, "readings_nm"), ({"readings_nm": [2.0, -1.0]}, "readings_nm[1]")])


class CarrierPreload(TestCase):
    USUAL = {"pinion_nm": 2.0, "total_nm": 2.6, "ring_teeth": 41, "pinion_teeth": 10}

    def test_each_kind_of_window(self) -> None:
        cases = [
            ("total_at_pinion", {"min": 2.4, "max": 2.9}, "in"),
            ("rise_at_pinion", {"min": 0.7, "max": 1.0}, "out"),
            ("torque_at_ring", {"min": 2.0, "max": 3.0}, "in"),
            ("torque_at_ring", {"min": 2.3, "max": 3.0}, "edge"),  # 2.46: the wrench's 0.05 is 0.205 at the ring
            ("cap_spread_mm", {"min": 0.15, "max": 0.20}, "in"),
        ]
        for kind, window, verdict in cases:
            with self.subTest(kind):
                given = {**self.USUAL, "window_kind": kind, "window": window, "cap_spread_mm": 0.175}
                self.assertEqual(registry.run("preload.carrier", given)["verdict"], verdict)

    def test_under_its_least_backlash_the_drag_is_the_mesh(self) -> None:
        tight = {"backlash_least_mm": 0.08, "backlash_min_mm": 0.13}
        answer = registry.run("preload.carrier", {**self.USUAL, "window_kind": "rise_at_pinion", "window": {"max": 1.0}, **tight})
        self.assertEqual((answer["verdict"], answer["reasons"][0]["code"]), ("unknown", "mesh_drags"))
        self.assertAlmostEqual(answer["torque_at_ring_nm"], 0.6 * 4.1)

    def test_refused(self) -> None:
        refused(self, "preload.carrier", [({**self.USUAL, "window_kind": "cap_spread_mm", "window": {}}, "cap_spread_mm")])


class CrushSleeve(TestCase):
    WINDOW = {"min_nm": 1.6, "max_nm": 2.6}

    def run_of(self, points: list[tuple[float, float]], **more: Any) -> dict[str, Any]:
        steps = [{"nut_turn_deg": turn, "rotating_torque_nm": torque} for turn, torque in points]
        return registry.run("preload.sleeve", {"steps": steps, **self.WINDOW, **more})

    def test_states(self) -> None:
        cases = [
            ("slack", [(0, 0.0), (90, 0.02)]),
            ("closing", [(0, 0.0), (90, 0.02), (95, 0.5)]),
            ("in", [(0, 0.0), (100, 1.6)]),
            ("past", [(0, 0.0), (100, 2.7)]),
        ]
        for state, points in cases:
            with self.subTest(state):
                self.assertEqual(self.run_of(points)["state"], state)

    def test_how_far_it_is_to_the_middle_of_the_window(self) -> None:
        found = self.run_of([(0, 0.0), (90, 0.0), (100, 0.5), (105, 0.75), (110, 1.0)])
        self.assertAlmostEqual(found["nut_turn_to_go_deg"], 22.0)  # (2.1 - 1.0) / 0.05
        self.assertAlmostEqual(found["next_step_deg"], 5.0)
        near = self.run_of([(100, 1.0), (110, 1.5)], max_step_deg=30.0)
        self.assertAlmostEqual(near["next_step_deg"], 6.0)  # half of what is to go

    @given(share=st.floats(0.1, 1.0), reached=st.floats(0.5, 1.55))
    def test_no_step_leads_past_the_window_on_a_straight_run(self, share: float, reached: float) -> None:
        slope = share * (reached - 0.2) / 6.0
        points = [(0.0, 0.0)] + [(50.0 + 2.0 * k, reached - slope * 2.0 * (3 - k)) for k in range(4)]
        found = self.run_of(points, max_step_deg=90.0)
        self.assertLessEqual(points[-1][1] + slope * found["next_step_deg"], 2.6 + 1e-6)

    def test_drag_is_taken_off_first(self) -> None:
        self.assertEqual(self.run_of([(0, 0.5), (90, 0.5), (95, 1.9)], seal_drag_nm=0.5)["state"], "closing")

    def test_slack_with_play_measured_goes_half_of_it(self) -> None:
        found = self.run_of([(0, 0.0)], end_play_mm=0.01, thread_pitch_mm=1.5)
        self.assertAlmostEqual(found["next_step_deg"], 1.2)
        self.assertAlmostEqual(self.run_of([(0, 0.0)])["next_step_deg"], 2.0)

    def test_what_to_do_when_it_is_past_and_when_the_nut_is_too_loose(self) -> None:
        self.assertEqual(self.run_of([(0, 0.0), (90, 3.0)])["reasons"][0]["code"], "replace_sleeve")
        loose = self.run_of([(0, 0.0), (90, 2.0)], nut_torque_nm=90.0, nut_torque_min_nm=200.0)
        self.assertEqual(loose["reasons"][0]["code"], "nut_too_loose")

    def test_refused(self) -> None:
        back = [{"nut_turn_deg": turn, "rotating_torque_nm": 0.1} for turn in (5, 0)]
        refused(
            self, "preload.sleeve", [({"steps": [], **self.WINDOW}, "steps"), ({"steps": back, **self.WINDOW}, "steps[1].nut_turn_deg")]
        )


class ShimmedSpacer(TestCase):
    CASES = [
        ("first", {"sleeve_length_mm": 52.30, "spacer_length_mm": 51.20}, 1.10, "first"),
        (
            "play with a known slope",
            {"stack_mm": 1.2, "end_play_mm": 0.1, "target_nm": 2.0, "torque_per_mm_nm": 40.0},
            1.05,
            "from_end_play",
        ),
        ("play without one", {"stack_mm": 1.2, "end_play_mm": 0.1}, 1.08, "from_end_play"),
        (
            "play rules over torque",
            {"stack_mm": 1.2, "end_play_mm": 0.1, "rotating_torque_nm": 0.2, "target_nm": 2.0},
            1.08,
            "from_end_play",
        ),
        (
            "too much torque wants more shim",
            {"stack_mm": 1.0, "rotating_torque_nm": 3.0, "target_nm": 2.0, "torque_per_mm_nm": 50.0},
            1.02,
            "from_torque",
        ),
        ("without a slope a careful step", {"stack_mm": 1.0, "rotating_torque_nm": 1.0, "target_nm": 2.0}, 0.98, "from_torque"),
    ]

    def test_cases(self) -> None:
        for name, given_, stack, step in self.CASES:
            with self.subTest(name):
                answer = registry.run("preload.spacer", given_)
                self.assertAlmostEqual(answer["stack_mm"], stack)
                self.assertEqual(answer["step"], step)

    def test_two_trials_give_the_slope_and_the_drawer_the_shims(self) -> None:
        trials = [{"stack_mm": 1.10, "rotating_torque_nm": 0.5}, {"stack_mm": 1.05, "rotating_torque_nm": 1.5}]
        stock = [{"thickness_mm": 0.5, "count": 2}, {"thickness_mm": 0.025, "count": 2}]
        given_ = {"stack_mm": 1.05, "rotating_torque_nm": 1.5, "target_nm": 2.0, "trials": trials, "stock": stock}
        answer = registry.run("preload.spacer", given_)
        self.assertAlmostEqual(answer["stack_mm"], 1.025)
        self.assertAlmostEqual(answer["pick"]["total_mm"], 1.025)

    def test_refused(self) -> None:
        refused(
            self,
            "preload.spacer",
            [({}, "sleeve_length_mm"), ({"stack_mm": 1.0}, "end_play_mm"), ({"stack_mm": 1.0, "rotating_torque_nm": 1.0}, "target_nm")],
        )


class EndPlay(TestCase):
    def change(self, **given_: Any) -> dict[str, Any]:
        usual = {"stack_mm": 1.0, "window": {"min": 0.03, "max": 0.07}, "shim_effect": "adds_play"}
        return registry.run("endplay.shims", {**usual, **given_})

    def test_the_three_schools_and_both_effects(self) -> None:
        torque = {"min": 0.4, "max": 0.8}
        cases: list[tuple[dict[str, Any], float | None]] = [
            ({"school": "free_play", "end_play_mm": 0.15}, -0.10),
            ({"school": "free_play", "end_play_mm": 0.15, "shim_effect": "removes_play"}, 0.10),
            ({"school": "zero", "end_play_mm": 0.15, "window": {"min": 0.0, "max": 0.01}}, -0.15),
            ({"school": "light_preload", "end_play_mm": 0.15, "window": torque}, -0.17),
            ({"school": "light_preload", "end_play_mm": 0.15, "window": torque, "torque_per_mm_nm": 20.0}, -0.18),
            ({"school": "light_preload", "rotating_torque_nm": 1.0, "window": torque, "torque_per_mm_nm": 20.0}, 0.02),
            ({"school": "light_preload", "rotating_torque_nm": 1.0, "window": torque}, None),
        ]
        for given_, change in cases:
            with self.subTest(str(given_)):
                found = self.change(**given_)["change_mm"]
                self.assertEqual(found, None) if change is None else self.assertAlmostEqual(found, change)

    @given(play=st.floats(0.0, 0.5), school=st.sampled_from(["free_play", "zero"]))
    def test_carried_out_it_lands_and_opposite_effects_mirror(self, play: float, school: str) -> None:
        adds = self.change(school=school, end_play_mm=play)
        removes = self.change(school=school, end_play_mm=play, shim_effect="removes_play")
        self.assertAlmostEqual(adds["change_mm"], -removes["change_mm"])
        self.assertAlmostEqual(play + adds["change_mm"], 0.05 if school == "free_play" else 0.0)

    def test_verdicts(self) -> None:
        self.assertEqual(self.change(school="free_play", end_play_mm=0.05)["verdict"], "in")
        self.assertEqual(self.change(school="free_play", end_play_mm=0.065)["verdict"], "edge")
        self.assertEqual(self.change(school="free_play", end_play_mm=0.15)["verdict"], "out")
        self.assertEqual(self.change(school="light_preload", end_play_mm=0.1, window={"min": 0.4, "max": 0.8})["verdict"], "out")

    def test_refused(self) -> None:
        window = {"min": 0.03, "max": 0.07}
        usual = {"stack_mm": 1.0, "window": window, "shim_effect": "adds_play"}
        refused(
            self,
            "endplay.shims",
            [
                ({**usual, "school": "free_play"}, "end_play_mm"),
                ({**usual, "school": "light_preload"}, "end_play_mm"),
                ({**usual, "school": "zero", "end_play_mm": 0.1, "window": {"min": 0.2, "max": 0.1}}, "window.min"),
            ],
        )
