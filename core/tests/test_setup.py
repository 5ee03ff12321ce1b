"""The next move of a set-up: signs for every way of adjusting, states, drawers, and a loop on axles with hidden errors."""

from __future__ import annotations

from typing import Any
from unittest import TestCase

import numpy as np

from amber_core import registry
from amber_core.contact.contact_set import ContactSet, contact_set
from amber_core.contact.estimate import model_patch
from amber_core.contact.mesh import Errors
from amber_core.errors import InvalidInput
from amber_core.gearset.description import EaseOff, GearSetDescription

KNOWN = {"ring_teeth": 41, "pinion_teeth": 11, "ring_outer_diameter_mm": 215.0, "offset_mm": 30.0}
WINDOW = {"backlash_min_mm": 0.13, "backlash_max_mm": 0.20, "variation_max_mm": 0.07}
SHIMS = {"shim_place": "under_head", "carrier": "side_shims"}
B0 = 0.165


def seen(pinion: float, ring: float, ready: ContactSet | None = None) -> dict[str, Any]:
    """What a set at this place shows, without reading errors."""
    ready = ready or contact_set(GearSetDescription(**KNOWN))
    errors = Errors(pinion_mm=pinion, ring_mm=ring)
    backlash = B0 + (ready.backlash_arc_mm(errors) - ready.nominal_backlash_arc_mm) * ready.plunger_per_arc
    patches = {side: dict(zip(("u", "v"), model_patch(ready, side, errors), strict=True)) for side in ("drive", "coast")}  # type: ignore[arg-type]
    return {"backlash": {"mean_mm": max(0.0, backlash)}, **patches}


def advise(trials: list[dict[str, Any]], **more: Any) -> dict[str, Any]:
    return registry.run("setup.advise", {"set": KNOWN, "adjust": SHIMS, "window": WINDOW, "trials": trials, **more})


def trial(shim: float, ring: float, far: float, shown: dict[str, Any]) -> dict[str, Any]:
    return {"depth_shim_mm": shim, "ring_side_mm": ring, "far_side_mm": far, **shown}


class Moves(TestCase):
    def test_too_shallow_and_too_loose_wants_more_depth_shim_and_the_ring_closer(self) -> None:
        found = advise([trial(1.0, 4.0, 4.0, seen(0.12, 0.06))])
        self.assertEqual(found["state"], "move")
        best = found["proposals"][0]
        self.assertAlmostEqual(best["depth_shim_mm"], 1.12, delta=0.05)
        self.assertLess(found["estimate"]["pinion_mm"] - 0.12, 0.06)
        self.assertAlmostEqual(best["ring_side_mm"] + best["far_side_mm"], 8.0)
        self.assertGreater(best["odds"], 0.7)
        self.assertTrue(0.13 < best["expected"]["backlash_mm"] < 0.20)

    def test_every_place_of_the_shim_and_every_carrier_ends_at_the_same_gears(self) -> None:
        shown = seen(0.12, 0.06)

        def best(now: dict[str, Any], **adjust: Any) -> dict[str, Any]:
            answer: dict[str, Any] = advise([{"depth_shim_mm": 1.0, **now, **shown}], adjust={**SHIMS, **adjust})["proposals"][0]
            return answer

        sides = {"ring_side_mm": 4.0, "far_side_mm": 4.0}
        notches = {"ring_side_notches": 2, "far_side_notches": -2}
        want = best(sides)
        pinion, ring = want["depth_shim_mm"] - 1.0, want["ring_side_mm"] - 4.0
        cup = best(sides, shim_place="behind_cup")
        self.assertAlmostEqual(cup["depth_shim_mm"] - 1.0, pinion)
        self.assertAlmostEqual(cup["spacer_change_mm"], pinion)
        cartridge = best(sides, shim_place="under_cartridge_flange")
        self.assertAlmostEqual(cartridge["depth_shim_mm"] - 1.0, -pinion)
        covers = best(sides, carrier="cover_shims")
        self.assertAlmostEqual(covers["ring_side_mm"] - 4.0, -ring)
        turned = best(notches, carrier="adjusters", notch_mm=0.02)
        self.assertAlmostEqual(turned["ring_side_notches_move"] * 0.02, ring, delta=0.021)
        self.assertEqual(turned["ring_side_notches"], 2 + turned["ring_side_notches_move"])
        self.assertEqual(turned["far_side_notches_move"], -turned["ring_side_notches_move"])

    def test_the_drawers_decide_and_the_expectation_follows_them(self) -> None:
        depth = [{"thickness_mm": mm, "count": 1} for mm in (1.0, 1.08, 0.3)]
        side = [{"thickness_mm": mm, "count": 2} for mm in (3.9, 4.0, 4.1)]
        best = advise([trial(1.0, 4.0, 4.0, seen(0.12, 0.06))], stock={"depth": depth, "side": side})["proposals"][0]
        self.assertAlmostEqual(best["depth_shim_mm"], 1.08)
        self.assertAlmostEqual(best["picks"]["depth"]["total_mm"], 1.08)
        self.assertIn(round(best["ring_side_mm"], 2), (4.0, 4.1))

    def test_a_single_kind_of_move_is_offered_beside_the_best(self) -> None:
        kinds = {one["kind"]: one for one in advise([trial(1.0, 4.0, 4.0, seen(0.12, 0.06))])["proposals"]}
        self.assertEqual(kinds["ring_only"]["depth_shim_mm"], 1.0)
        self.assertEqual((kinds["depth_only"]["ring_side_mm"], kinds["depth_only"]["far_side_mm"]), (4.0, 4.0))
        self.assertGreaterEqual(kinds["best"]["odds"], max(one["odds"] for one in kinds.values()) - 0.03)

    def test_the_same_question_has_the_same_answer(self) -> None:
        trials = [trial(1.0, 4.0, 4.0, seen(0.1, 0.0))]
        self.assertEqual(advise(trials), advise(trials))


class States(TestCase):
    def test_in_the_window_and_nothing_against_it_is_finished(self) -> None:
        found = advise([trial(1.0, 4.0, 4.0, seen(0.0, 0.0))])
        self.assertEqual((found["state"], found["proposals"]), ("finished", []))
        self.assertIn("final assembly", found["reasons"][0]["text"])

    def test_without_the_patterns_it_is_not(self) -> None:
        found = advise([trial(1.0, 4.0, 4.0, {"backlash": {"mean_mm": 0.165}})])
        self.assertEqual(found["state"], "measure")
        self.assertIn(found["next_reading"]["what"], ("drive", "coast"))
        self.assertGreater(found["next_reading"]["gain"], 0.3)

    def test_a_patch_that_runs_off_at_the_tip_is_out_whatever_its_middle(self) -> None:
        shown = seen(0.0, 0.0)
        shown["drive"] = {**shown["drive"], "runs_off": ["tip"]}
        found = advise([trial(1.0, 4.0, 4.0, shown)])
        self.assertIn("drive_runs_off", [one["code"] for one in found["reasons"]])
        self.assertNotEqual(found["state"], "finished")
        fading = seen(0.0, 0.0)
        fading["coast"] = {**fading["coast"], "runs_off": ["toe"]}
        self.assertEqual(advise([trial(1.0, 4.0, 4.0, fading)])["state"], "finished")

    def test_a_spread_that_no_shim_cures(self) -> None:
        shown = seen(0.0, 0.0)
        shown["backlash"] = {"mean_mm": 0.165, "least_mm": 0.10, "greatest_mm": 0.23}
        found = advise([trial(1.0, 4.0, 4.0, shown)])
        self.assertEqual((found["state"], found["reasons"][0]["code"]), ("not_by_shims", "variation"))

    def test_flanks_that_ask_for_opposite_depths(self) -> None:
        shown = seen(0.0, 0.0)
        shown["drive"]["v"], shown["coast"]["v"] = 0.85, 0.12
        found = advise([trial(1.0, 4.0, 4.0, shown)])
        self.assertEqual((found["state"], found["reasons"][0]["code"]), ("not_by_shims", "flanks_oppose"))

    def test_a_reading_that_the_rest_contradicts_is_read_again(self) -> None:
        # the ring went 0.1 mm away, and the backlash is said to have closed
        first, second = seen(0.0, -0.05), seen(0.0, 0.05)
        second["backlash"] = {"mean_mm": 0.05}
        found = advise([trial(1.0, 4.0, 4.0, first), trial(1.0, 3.9, 4.1, second)])
        self.assertEqual(found["state"], "read_again")
        self.assertIn("backlash", [one["field"] for one in found["conflicts"]])


class Learning(TestCase):
    def test_a_second_trial_sharpens_the_first(self) -> None:
        one = advise([trial(1.0, 4.0, 4.0, seen(0.12, 0.06))])["estimate"]
        two = advise([trial(1.0, 4.0, 4.0, seen(0.12, 0.06)), trial(1.1, 4.03, 3.97, seen(0.02, 0.03))])["estimate"]
        self.assertLess(two["covariance"][0][0], one["covariance"][0][0])
        self.assertAlmostEqual(two["pinion_mm"], 0.02, delta=0.05)

    def test_a_measured_depth_counts(self) -> None:
        shown = {**seen(0.1, 0.0), "depth_error_mm": {"value": 0.1, "sd": 0.01}}
        self.assertLess(advise([trial(1.0, 4.0, 4.0, shown)])["estimate"]["covariance"][0][0], 0.012**2)

    def test_axles_with_hidden_errors_come_in_within_two_moves(self) -> None:
        draw = np.random.default_rng(3)
        moves = [self.moves_needed(draw) for _ in range(5)]
        self.assertLessEqual(max(moves), 2, moves)

    def moves_needed(self, draw: np.random.Generator) -> int:
        """A loop of reading with errors and moving with scatter, until the advice says finished; then it must be true."""
        ease = EaseOff(length_um=45.0 * float(np.exp(draw.normal(0.0, 0.2))), bias=0.45 + float(draw.normal(0.0, 0.1)))
        ready = contact_set(GearSetDescription(**KNOWN, ease_drive=ease, ease_coast=ease))
        pinion, ring = float(draw.normal(0.0, 0.15)), float(draw.uniform(-0.02, 0.2))
        shim, near, far = 1.0, 4.0, 4.0
        trials: list[dict[str, Any]] = []
        for move in range(6):
            shown = seen(pinion, ring, ready)
            shown["backlash"]["mean_mm"] = max(0.0, shown["backlash"]["mean_mm"] + float(draw.normal(0.0, 0.01)))
            painted = {side: shown.pop(side) for side in ("drive", "coast")}
            trials.append(trial(shim, near, far, {**shown, "drive": [], "coast": []}))
            for _ in range(6):
                for side, at in painted.items():
                    trials[-1][side].append({axis: value + float(draw.normal(0.0, 0.04)) for axis, value in at.items()})
                advice = advise(trials)
                if advice["state"] != "read_again":
                    break
            if advice["state"] == "finished":
                truth = seen(pinion, ring, ready)
                self.assertTrue(0.12 <= truth["backlash"]["mean_mm"] <= 0.21, truth)
                self.assertTrue(0.27 <= truth["drive"]["v"] <= 0.73, truth)
                return move
            self.assertEqual(advice["state"], "move", advice["reasons"])
            best = advice["proposals"][0]
            pinion += shim - best["depth_shim_mm"] + float(draw.normal(0.0, 0.01))
            ring += ((near - best["ring_side_mm"]) - (far - best["far_side_mm"])) / 2.0 + float(draw.normal(0.0, 0.01))
            shim, near, far = best["depth_shim_mm"], best["ring_side_mm"], best["far_side_mm"]
        return 99


class Refused(TestCase):
    def test_cases(self) -> None:
        usual = trial(1.0, 4.0, 4.0, {"backlash": {"mean_mm": 0.165}})
        cases: list[tuple[dict[str, Any], str]] = [
            ({"trials": []}, "trials"),
            ({"trials": [{"depth_shim_mm": 1.0}]}, "trials[0].ring_side_mm"),
            ({"trials": [usual], "adjust": {**SHIMS, "carrier": "adjusters", "notch_mm": 0.05}}, "trials[0].ring_side_notches"),
            ({"trials": [usual], "adjust": {**SHIMS, "carrier": "adjusters"}}, "adjust.notch_mm"),
            ({"trials": [usual], "window": {"backlash_min_mm": 0.3, "backlash_max_mm": 0.2}}, "window.backlash_min_mm"),
            ({"trials": [{**usual, "drive": {"u": 7, "v": 0.5}}]}, "trials[0].drive.u"),
        ]
        for change, field in cases:
            with self.subTest(field), self.assertRaises(InvalidInput) as caught:
                advise(**{"trials": [usual], **change})
            self.assertEqual(caught.exception.field, field)
