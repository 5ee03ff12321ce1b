"""Laws of the advice, whatever the axle: only differences of shims count, a second reading sharpens, every way of adjusting agrees."""

from __future__ import annotations

from dataclasses import replace
from unittest import TestCase

import numpy as np

from amber_core.gearset.description import GearSetDescription
from amber_core.setup.advise import Advisor, SetupAdvice, advise_setup
from amber_core.setup.question import (
    Adjust,
    SetupQuestion,
    SetupStock,
    SetupTrial,
    SetupWindow,
    TrialBacklash,
    TrialDepth,
    TrialPatch,
)
from amber_core.setup.set_model import TRAITS, SetModel
from amber_core.shims.stock import Shims

KNOWN = GearSetDescription(ring_teeth=41, pinion_teeth=10, ring_outer_diameter_mm=190.0, offset_mm=28.0)
WINDOW = SetupWindow(backlash_min_mm=0.13, backlash_max_mm=0.20, variation_max_mm=0.07)
SIDES = Adjust(shim_place="under_head", carrier="side_shims")
PLACES = [(0.12, 0.05), (-0.10, 0.04), (0.08, -0.06), (-0.06, -0.05), (0.15, 0.0)]


def read_at(pinion: float, ring: float, housing: SetupTrial) -> SetupTrial:
    """A trial of a set that is as described, read without errors."""
    seen = SetModel(KNOWN, WINDOW.middle_mm).look_at(np.array([pinion, ring]), np.zeros(TRAITS)).values
    return replace(
        housing,
        backlash=TrialBacklash(mean_mm=max(0.0, float(seen[4]))),
        drive=TrialPatch(u=float(np.clip(seen[0], 0, 1)), v=float(np.clip(seen[1], 0, 1))),
        coast=TrialPatch(u=float(np.clip(seen[2], 0, 1)), v=float(np.clip(seen[3], 0, 1))),
    )


def housed(depth: float = 1.0, ring: float = 4.0, far: float = 4.0) -> SetupTrial:
    return SetupTrial(depth_shim_mm=depth, ring_side_mm=ring, far_side_mm=far)


def advice(*trials: SetupTrial, adjust: Adjust = SIDES, stock: SetupStock | None = None) -> SetupAdvice:
    return advise_setup(SetupQuestion(set=KNOWN, adjust=adjust, window=WINDOW, trials=list(trials), stock=stock))


class OnlyDifferencesCount(TestCase):
    def test_thicker_stacks_everywhere_change_no_move(self) -> None:
        for pinion, ring in PLACES[:3]:
            with self.subTest(pinion=pinion, ring=ring):
                thin, thick = (advice(read_at(pinion, ring, housed(depth, side, side))) for depth, side in ((1.0, 4.0), (1.6, 5.2)))
                self.assertEqual(thin.state, thick.state)
                if thin.proposals:
                    self.assertAlmostEqual(thin.proposals[0].depth_shim_mm - 1.0, thick.proposals[0].depth_shim_mm - 1.6, places=6)
                    self.assertAlmostEqual(
                        (thin.proposals[0].ring_side_mm or 0) - 4.0, (thick.proposals[0].ring_side_mm or 0) - 5.2, places=6
                    )

    def test_every_carrier_and_shim_place_wants_the_same_gears(self) -> None:
        pinion, ring = 0.12, 0.05
        wanted = Advisor(SetupQuestion(set=KNOWN, adjust=SIDES, window=WINDOW, trials=[read_at(pinion, ring, housed())])).outlook.best_place
        for adjust in (
            Adjust(shim_place="behind_cup", carrier="cover_shims"),
            Adjust(shim_place="under_cartridge_flange", carrier="side_shims"),
        ):
            with self.subTest(adjust.shim_place):
                asked = SetupQuestion(set=KNOWN, adjust=adjust, window=WINDOW, trials=[read_at(pinion, ring, housed())])
                self.assertLess(float(np.abs(Advisor(asked).outlook.best_place - wanted).max()), 1e-6)


class MoreIsKnown(TestCase):
    def test_read_again_at_the_same_shims_sharpens_the_place(self) -> None:
        once = advice(read_at(0.1, 0.03, housed()))
        twice = advice(read_at(0.1, 0.03, housed()), read_at(0.1, 0.03, housed()))
        for axis in range(2):
            self.assertLess(twice.estimate.covariance[axis][axis], once.estimate.covariance[axis][axis])

    def test_a_measured_depth_sharpens_the_depth_most(self) -> None:
        plain = read_at(0.1, 0.0, housed())
        measured = replace(plain, depth_error_mm=TrialDepth(value=0.1, sd=0.01))
        before, after = (advice(one).estimate.covariance for one in (plain, measured))
        self.assertLess(after[0][0] / before[0][0], 0.3)
        self.assertLess(after[0][0] / before[0][0], after[1][1] / before[1][1])

    def test_the_covariance_is_one(self) -> None:
        for pinion, ring in PLACES:
            covariance = np.array(advice(read_at(pinion, ring, housed())).estimate.covariance)
            with self.subTest(pinion=pinion, ring=ring):
                self.assertTrue(np.allclose(covariance, covariance.T))
                self.assertGreater(float(np.linalg.eigvalsh(covariance).min()), 0.0)

    def test_what_is_missing_is_what_the_next_reading_names(self) -> None:
        whole = read_at(0.1, 0.03, housed())
        for missing in ("drive", "coast", "backlash"):
            found = advice(replace(whole, **{missing: None}))
            with self.subTest(missing):
                if found.next_reading is not None:
                    self.assertEqual(found.next_reading.what, missing)
                    self.assertTrue(0.1 < found.next_reading.gain < 1.0)
        self.assertIsNone(advice(whole).next_reading)


class TheProposals(TestCase):
    def test_odds_of_the_best_are_not_beaten_and_none_is_worse_than_impossible(self) -> None:
        for pinion, ring in PLACES:
            found = advice(read_at(pinion, ring, housed()))
            with self.subTest(pinion=pinion, ring=ring):
                odds = {one.kind: one.odds for one in found.proposals}
                if odds:
                    self.assertGreaterEqual(odds["best"] + 0.03, max(odds.values()))
                    self.assertTrue(all(0.0 <= one <= 1.0 for one in odds.values()))
                    self.assertGreaterEqual(found.ideal.odds, odds["best"])

    def test_the_move_goes_toward_the_right_place(self) -> None:
        for pinion, ring in PLACES:
            found = advice(read_at(pinion, ring, housed()))
            with self.subTest(pinion=pinion, ring=ring):
                if found.state != "move":
                    continue
                best = found.proposals[0]
                after = (pinion - (best.depth_shim_mm - 1.0), ring + ((best.far_side_mm or 0) - (best.ring_side_mm or 0)) / 2.0)
                margin = SetModel(KNOWN, WINDOW.middle_mm).look_at(np.array(after), np.zeros(TRAITS)).values
                self.assertTrue(WINDOW.backlash_min_mm <= margin[4] <= WINDOW.backlash_max_mm, margin)
                self.assertTrue(WINDOW.pattern.drive.holds(float(margin[0]), float(margin[1])), margin)

    def test_finished_sets_are_left_alone(self) -> None:
        once = read_at(0.0, 0.0, housed())
        found = advice(replace(once, drive=once.seen("drive") * 2, coast=once.seen("coast") * 2))
        self.assertEqual((found.state, found.proposals), ("finished", []))
        self.assertGreater(found.stay_odds, 0.9)

    def test_a_poor_drawer_lowers_the_odds_and_the_ideal_says_by_how_much(self) -> None:
        trial = read_at(0.15, 0.0, housed())
        rich = advice(trial)
        poor = advice(trial, stock=SetupStock(depth=[Shims(thickness_mm=1.0, count=1)], side=None))
        self.assertLess(poor.proposals[0].odds, rich.proposals[0].odds)
        self.assertAlmostEqual(poor.proposals[0].depth_shim_mm, 1.0)
        self.assertGreater(poor.ideal.odds, poor.proposals[0].odds)

    def test_sentences_name_the_move_in_shims_and_ring(self) -> None:
        found = advice(read_at(0.12, -0.05, housed()))
        best = found.proposals[0]
        self.assertIn("depth shim", best.text)
        self.assertIn(f"{best.depth_shim_mm:.2f} mm", best.text)
        self.assertIn("away from the pinion" if (best.ring_side_mm or 0) < 4.0 else "toward the pinion", best.text)
