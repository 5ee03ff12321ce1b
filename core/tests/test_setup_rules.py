"""Rules of a set-up that need no model: windows, words for patterns, moves from drawers and by notches. Any axle, any way of adjusting."""

from __future__ import annotations

from dataclasses import replace
from typing import Any
from unittest import TestCase

from hypothesis import given, settings
from hypothesis import strategies as st

from amber_core.gearset.description import GearSetDescription
from amber_core.setup.judge import in_window, pattern_verdict
from amber_core.setup.moves import depth_choices, same_sides, side_choice
from amber_core.setup.noise import Noise
from amber_core.setup.painted import patch_read
from amber_core.setup.posterior import Posterior
from amber_core.setup.question import (
    FLANKS,
    USED_OVER_MM,
    Adjust,
    AsFound,
    FoundPatch,
    PatternWindow,
    SetupQuestion,
    SetupStock,
    SetupTrial,
    SetupWindow,
    TrialBacklash,
    TrialPatch,
    goal_window,
)
from amber_core.shims.stock import Shims
from amber_core.verdicts import Reason

KNOWN = GearSetDescription(ring_teeth=41, pinion_teeth=11, ring_outer_diameter_mm=215.0, offset_mm=30.0)
WINDOW = SetupWindow(backlash_min_mm=0.13, backlash_max_mm=0.20, variation_max_mm=0.07)
PLACES = ("under_head", "behind_cup", "under_cartridge_flange")
RIGHT = {"drive": TrialPatch(u=0.42, v=0.5), "coast": TrialPatch(u=0.5, v=0.5)}

shims = st.floats(0.3, 2.0).map(lambda mm: round(mm, 2))
sides = st.floats(2.0, 6.0).map(lambda mm: round(mm, 2))
moves = st.floats(-0.4, 0.4)
notches = st.integers(-50, 50)


def question(trial: SetupTrial, *, stock: SetupStock | None = None, window: SetupWindow = WINDOW, **adjust: Any) -> SetupQuestion:
    way = Adjust(**{"shim_place": "under_head", "carrier": "side_shims", **adjust})
    return SetupQuestion(set=KNOWN, adjust=way, window=window, trials=[trial], stock=stock)


def read(mean: float, least: float | None = None, greatest: float | None = None, **more: Any) -> SetupTrial:
    backlash = TrialBacklash(mean_mm=mean, least_mm=least, greatest_mm=greatest)
    return SetupTrial(depth_shim_mm=1.0, ring_side_mm=4.0, far_side_mm=4.0, backlash=backlash, **{**RIGHT, **more})


class DepthMoves(TestCase):
    @given(shims, moves, st.sampled_from(PLACES))
    def test_the_first_choice_leaves_the_shim_and_the_next_comes_nearest(self, now: float, wanted: float, place: str) -> None:
        asked = question(SetupTrial(depth_shim_mm=now, ring_side_mm=4.0, far_side_mm=4.0), shim_place=place)
        first, *others = depth_choices(asked, wanted)
        self.assertEqual((first.shim_mm, first.pinion_change_mm), (now, 0.0))
        for one in others:
            self.assertGreaterEqual(one.shim_mm, 0.0)
            grown = one.shim_mm - now
            self.assertAlmostEqual(one.pinion_change_mm, grown if place == "under_cartridge_flange" else -grown)
        reachable = now - wanted if place != "under_cartridge_flange" else now + wanted
        if others and reachable >= 0.0:
            self.assertLessEqual(min(abs(one.pinion_change_mm - wanted) for one in others), 0.0301)

    @given(st.lists(st.sampled_from((0.3, 0.4, 0.5, 0.7, 0.8, 1.0, 1.05)), min_size=1, max_size=6), moves)
    def test_from_a_drawer_only_stacks_that_can_be_laid(self, pieces: list[float], wanted: float) -> None:
        stock = SetupStock(depth=[Shims(thickness_mm=mm, count=1) for mm in pieces], side=None)
        for one in depth_choices(question(SetupTrial(depth_shim_mm=1.0, ring_side_mm=4.0, far_side_mm=4.0), stock=stock), wanted)[1:]:
            assert one.pick is not None
            laid = [piece.thickness_mm for piece in one.pick.pieces for _ in range(piece.count)]
            self.assertAlmostEqual(sum(laid), one.shim_mm)
            for mm in set(laid):
                self.assertLessEqual(laid.count(mm), pieces.count(mm))

    def test_an_axle_that_has_a_shim_is_never_tried_without_one(self) -> None:
        stock = SetupStock(depth=[Shims(thickness_mm=0.8, count=1)], side=None)
        for depth, shims in ((0.8, [0.8]), (0.0, [0.0, 0.8])):
            trial = SetupTrial(depth_shim_mm=depth, ring_side_mm=4.0, far_side_mm=4.0)
            self.assertEqual([one.shim_mm for one in depth_choices(question(trial, stock=stock), 0.3)], shims)


class SideMoves(TestCase):
    @given(sides, sides, moves, st.sampled_from(("side_shims", "cover_shims")))
    def test_equal_and_opposite_so_that_the_preload_stays(self, ring: float, far: float, wanted: float, carrier: str) -> None:
        found = side_choice(question(SetupTrial(depth_shim_mm=1.0, ring_side_mm=ring, far_side_mm=far), carrier=carrier), wanted, 1.0)
        assert found.trial.ring_side_mm is not None and found.trial.far_side_mm is not None
        self.assertAlmostEqual(found.trial.ring_side_mm + found.trial.far_side_mm, ring + far)
        self.assertAlmostEqual(found.ring_change_mm, wanted, delta=0.0051)
        away = (found.trial.ring_side_mm - ring) * (1.0 if carrier == "cover_shims" else -1.0)
        self.assertAlmostEqual(found.ring_change_mm, away)

    @given(notches, notches, moves, st.floats(0.02, 0.2))
    def test_adjusters_turn_whole_notches_one_in_one_out(self, ring: int, far: int, wanted: float, notch: float) -> None:
        now = SetupTrial(depth_shim_mm=1.0, ring_side_notches=ring, far_side_notches=far)
        found = side_choice(question(now, carrier="adjusters", notch_mm=notch), wanted, 1.0)
        assert found.trial.ring_side_notches is not None and found.trial.far_side_notches is not None
        self.assertEqual(found.trial.ring_side_notches + found.trial.far_side_notches, ring + far)
        self.assertLessEqual(abs(found.ring_change_mm - wanted), notch / 2.0 + 1e-9)

    def test_the_depth_alone_leaves_the_sides(self) -> None:
        now = SetupTrial(depth_shim_mm=1.0, ring_side_mm=4.1, far_side_mm=3.9)
        found = same_sides(question(now), 1.2)
        self.assertEqual((found.trial.depth_shim_mm, found.trial.ring_side_mm, found.ring_change_mm), (1.2, 4.1, 0.0))


def faults(trial: SetupTrial) -> list[Reason]:
    noise = Noise([], [])
    return pattern_verdict({flank: patch_read(trial.seen(flank), noise) for flank in FLANKS}, PatternWindow())[1]


class Windows(TestCase):
    def test_the_least_and_the_greatest_count_not_the_mean(self) -> None:
        cases = [
            (read(0.165), []),
            (read(0.165, 0.12, 0.19), ["under_min"]),
            (read(0.165, 0.14, 0.21), ["over_max"]),
            (read(0.165, 0.13, 0.20), []),
            (replace(read(0.165), coast=None), ["not_read"]),
        ]
        for trial, codes in cases:
            with self.subTest(codes):
                good, reasons = in_window(trial, question(trial), Posterior(question(trial)))
                self.assertEqual(([one.code for one in reasons], good), (codes, not codes))

    def test_patterns_are_told_in_the_trades_words(self) -> None:
        cases = [
            ({"drive": TrialPatch(u=0.42, v=0.9)}, "The drive pattern is too far toward the tip."),
            ({"drive": TrialPatch(u=0.42, v=0.1)}, "The drive pattern is too far toward the root."),
            ({"coast": TrialPatch(u=0.95, v=0.5)}, "The coast pattern is too far toward the heel."),
            ({"drive": TrialPatch(u=0.05, v=0.9)}, "The drive pattern is too far toward the tip and toe."),
            ({"drive": TrialPatch(u=0.42, v=0.5, runs_off=["heel"])}, "The drive pattern runs off at the heel."),
        ]
        for patches, sentence in cases:
            with self.subTest(sentence):
                self.assertIn(sentence, [one.text for one in faults(read(0.165, **patches))])

    def test_a_coast_patch_that_fades_at_the_toe_is_no_fault(self) -> None:
        trial = read(0.165, coast=TrialPatch(u=0.5, v=0.5, runs_off=["toe"]))
        good, reasons = in_window(trial, question(trial), Posterior(question(trial)))
        self.assertEqual((good, [one.code for one in reasons]), (True, ["coast_fades_at_toe"]))

    @settings(max_examples=60)
    @given(st.floats(0.0, 0.6), st.floats(0.2, 0.8), st.floats(0.2, 0.8))
    def test_a_used_sets_window_holds_what_was_found_and_never_goes_under_the_least(self, backlash: float, u: float, v: float) -> None:
        goal = goal_window(WINDOW, AsFound(backlash_mm=backlash, drive=FoundPatch(u=u, v=v)))
        self.assertGreaterEqual(goal.backlash_min_mm, WINDOW.backlash_min_mm)
        self.assertAlmostEqual(goal.backlash_max_mm - goal.backlash_min_mm, WINDOW.backlash_max_mm - WINDOW.backlash_min_mm)
        self.assertTrue(goal.pattern.drive.holds(u, v))
        self.assertEqual(goal.pattern.coast, WINDOW.pattern.coast)
        if backlash >= WINDOW.middle_mm:
            self.assertTrue(goal.backlash_min_mm <= backlash <= goal.backlash_max_mm)

    def test_a_used_set_of_which_nothing_is_known_may_be_a_little_looser(self) -> None:
        goal = goal_window(WINDOW, AsFound())
        self.assertEqual((goal.backlash_min_mm, goal.backlash_max_mm), (0.13, 0.20 + USED_OVER_MM))

    def test_over_the_new_sets_greatest_is_said_and_not_held_against_a_used_set(self) -> None:
        trial = read(0.27)
        asked = replace(question(trial), set_state="used", as_found=AsFound(backlash_mm=0.27))
        good, reasons = in_window(trial, asked, Posterior(asked))
        self.assertEqual((good, [one.code for one in reasons]), (True, ["over_new_max"]))
