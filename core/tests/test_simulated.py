"""The simulated axle: what goes in moves it as the trade says, instruments scatter as they are said to, both technicians finish."""

from __future__ import annotations

from dataclasses import replace
from typing import Literal
from unittest import TestCase

import numpy as np

from amber_core.gearset.description import GearSetDescription
from amber_core.setup.question import Adjust, SetupTrial, SetupWindow
from amber_core.simulated.axle import HiddenAxle, Instruments, SimulatedAxle
from amber_core.simulated.random_axle import KINDS, random_axle
from amber_core.simulated.technicians import adjust_by_side_shims, by_advice, by_rule_of_thumb

KNOWN = GearSetDescription(ring_teeth=41, pinion_teeth=11, ring_outer_diameter_mm=215.0, offset_mm=30.0)
EXACT = Instruments(dial_step_mm=0.001, dial_sd_mm=0.0, patch_u_sd=0.0, patch_v_sd=0.0, depth_sd_mm=1e-6, shim_sd_mm=0.0, seating_sd_mm=0.0)
FIRST = SetupTrial(depth_shim_mm=1.0, ring_side_mm=5.0, far_side_mm=5.0)
WINDOW = SetupWindow(backlash_min_mm=0.13, backlash_max_mm=0.20, variation_max_mm=0.07)


def axle(
    *, seed: int = 1, instruments: Instruments = EXACT, adjust: Adjust | None = None, first: SetupTrial = FIRST, **hidden: float
) -> SimulatedAxle:
    place = {"pinion_mm": 0.0, "ring_mm": 0.0, **hidden}
    return SimulatedAxle(HiddenAxle(set=KNOWN, **place), adjust or adjust_by_side_shims(), first, instruments, np.random.default_rng(seed))


class WhatGoesIn(TestCase):
    def test_shims_move_the_gears_as_their_place_says(self) -> None:
        cases: list[tuple[Literal["under_head", "behind_cup", "under_cartridge_flange"], float]] = [
            ("under_head", -0.1),
            ("behind_cup", -0.1),
            ("under_cartridge_flange", 0.1),
        ]
        for place, moved in cases:
            with self.subTest(place):
                one = axle(adjust=Adjust(shim_place=place, carrier="side_shims"))
                one.fit(replace(FIRST, depth_shim_mm=1.1))
                self.assertAlmostEqual(one.pinion_mm, moved)
        one = axle()
        one.fit(replace(FIRST, ring_side_mm=4.9, far_side_mm=5.1))
        self.assertAlmostEqual(one.ring_mm, 0.1)

    def test_adjusters_count_from_where_they_stood(self) -> None:
        first = SetupTrial(depth_shim_mm=1.0, ring_side_notches=0, far_side_notches=0)
        one = axle(adjust=Adjust(shim_place="under_head", carrier="adjusters", notch_mm=0.05), first=first)
        before = one.truth.backlash_mm
        one.fit(replace(first, ring_side_notches=-2, far_side_notches=2))
        self.assertAlmostEqual(one.ring_mm, 0.1)
        self.assertGreater(one.truth.backlash_mm, before + 0.05)

    def test_it_never_goes_together_quite_the_same_way(self) -> None:
        one = axle(instruments=Instruments())
        places = []
        for _ in range(200):
            before = one.ring_mm
            one.fit(FIRST)
            places.append(one.ring_mm - before)
        self.assertAlmostEqual(float(np.std(places)), float(np.hypot(0.005, 0.01)), delta=0.002)


class WhatComesOut(TestCase):
    def test_an_exact_bench_reads_the_truth(self) -> None:
        one = axle(pinion_mm=0.08, runout_mm=0.02, runout_at_deg=90.0)
        read = one.read()
        assert read.backlash is not None and read.drive is not None
        self.assertAlmostEqual(read.backlash.mean_mm, one.truth.backlash_mm, places=3)
        self.assertAlmostEqual(read.backlash.greatest_mm or 0.0, one.truth.backlash_greatest_mm, places=3)
        self.assertAlmostEqual(read.seen("drive")[0].u, one.truth.drive.u)
        greatest = max(one.backlash_round(), key=lambda reading: reading.value_mm)
        self.assertEqual(greatest.angle_deg, 90.0)
        self.assertAlmostEqual(one.measured_depth().value, 0.08, places=4)

    def test_a_dial_shows_whole_steps_and_scatters_as_it_is_said_to(self) -> None:
        one = axle(instruments=Instruments())
        values = np.array([reading.value_mm for _ in range(50) for reading in one.backlash_round()])
        self.assertLess(float(np.abs(values / 0.01 - np.round(values / 0.01)).max()), 1e-9)
        self.assertAlmostEqual(float(values.std()), float(np.hypot(0.006, 0.01 / 12**0.5)), delta=0.002)

    def test_some_readings_are_simply_wrong_when_asked_for(self) -> None:
        one = axle(instruments=replace(EXACT, wrong_share=0.3))
        slipped = [abs(one.backlash_round()[0].value_mm - one.truth.backlash_mm) > 0.05 for _ in range(200)]
        self.assertTrue(30 < sum(slipped) < 95, sum(slipped))

    def test_deep_reads_toward_the_root_on_both_flanks(self) -> None:
        deep, shallow = axle(pinion_mm=-0.12).truth, axle(pinion_mm=0.12).truth
        self.assertLess(deep.drive.v, shallow.drive.v)
        self.assertLess(deep.coast.v, shallow.coast.v)

    def test_in_is_in_all_round(self) -> None:
        right = axle()
        ring = right._ready.ring_for_arc_mm(0.165 / right._ready.plunger_per_arc, pinion_mm=0.0)
        self.assertTrue(axle(ring_mm=ring).lands(WINDOW))
        self.assertFalse(axle(ring_mm=ring, runout_mm=0.05).lands(WINDOW))
        self.assertFalse(axle(ring_mm=ring + 0.1).lands(WINDOW))

    def test_a_patch_that_runs_off_is_out_but_for_the_toe_of_the_coast_flank(self) -> None:
        right = axle()
        one = axle(ring_mm=right._ready.ring_for_arc_mm(0.165 / right._ready.plunger_per_arc, pinion_mm=0.0))
        plain = one.truth
        for flank, edge, good in (("drive", "heel", False), ("drive", "toe", False), ("coast", "tip", False), ("coast", "toe", True)):
            with self.subTest(flank=flank, edge=edge):
                patch = getattr(plain, flank)
                one.__dict__["truth"] = replace(plain, **{flank: replace(patch, edge=replace(patch.edge, **{edge: 0.9}))})
                self.assertEqual(one.lands(WINDOW), good)


class Technicians(TestCase):
    def test_random_axles_are_what_their_number_makes_them(self) -> None:
        for kind in KINDS:
            with self.subTest(kind):
                one, again = (random_axle(np.random.default_rng(5), kind) for _ in range(2))
                self.assertEqual(one, again)
                known, hidden, window = one
                self.assertEqual(known.offset_mm == 0.0, kind == "bevel" or known.offset_mm == 0.0)
                self.assertLess(window.backlash_min_mm, window.backlash_max_mm)
                self.assertLessEqual(abs(hidden.pinion_mm), 0.25)

    def test_the_advice_needs_no_more_moves_than_rules_of_thumb_and_is_seldom_wrong(self) -> None:
        advised, thumb = [], []
        for number in range(9):
            known, hidden, window = random_axle(np.random.default_rng([3, number]), KINDS[number % 3])
            for technician, found in ((by_advice, advised), (by_rule_of_thumb, thumb)):
                one = SimulatedAxle(hidden, adjust_by_side_shims(), FIRST, Instruments(), np.random.default_rng([4, number]))
                found.append(technician(one, known, window))
        self.assertEqual({one.end for one in advised}, {"finished"})
        self.assertLessEqual(max(one.moves for one in advised), 3)
        self.assertLessEqual(sum(not one.truly_in for one in advised), sum(not one.truly_in for one in thumb))
        self.assertLessEqual(sum(one.moves for one in advised), sum(one.moves for one in thumb) + 2)
