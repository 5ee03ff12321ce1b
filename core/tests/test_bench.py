"""One verdict path: a bench's state in, every verdict out; moves of ring and pinion, conditions, the dial before it is used."""

from __future__ import annotations

from dataclasses import replace
from statistics import fmean
from typing import Any
from unittest import TestCase

from hypothesis import assume, given
from hypothesis import strategies as st

from amber_core.bench.conditions import conditions
from amber_core.bench.instrument import DialCheck, check_dial
from amber_core.bench.judge import NOT_READ_AFTER_ASSEMBLY, judge_bench
from amber_core.bench.state import BenchLimits, BenchState, BenchTrial, Torque, places_deg, times_round
from amber_core.circle import CircleReading
from amber_core.errors import InvalidInput
from amber_core.gearset.description import GearSetDescription
from amber_core.preload.carrier import Window
from amber_core.setup.question import MOST_TRIALS, Adjust, AsFound, Sides, TrialPatch

SET = GearSetDescription(ring_teeth=41, pinion_teeth=10, ring_outer_diameter_mm=215.0, offset_mm=30.0)
LIMITS = BenchLimits(
    backlash=Window(min=0.13, max=0.20),
    variation_max_mm=0.07,
    pinion_new=Window(min=1.7, max=2.8),
    pinion_used=Window(min=0.9, max=1.5),
    total=Window(min=2.0, max=3.6),
)
SHIMS = Adjust(shim_place="under_head", carrier="side_shims")
MIDDLE = TrialPatch(u=0.48, v=0.5)


def read(*values_mm: float) -> list[CircleReading]:
    return [CircleReading(angle_deg=deg, value_mm=mm) for deg, mm in zip(places_deg(len(values_mm)), values_mm, strict=True)]


def trial(level_mm: float = 0.165, **more: Any) -> BenchTrial:
    usual = {
        "ring_side_mm": 4.6,
        "far_side_mm": 4.5,
        "depth_shim_mm": 0.8,
        "readings": read(*[level_mm] * 8),
        "drive": [MIDDLE],
        "coast": [MIDDLE],
    }
    return BenchTrial(**{**usual, **more})


def final(level_mm: float = 0.165, **more: Any) -> BenchTrial:
    torques = {
        "pinion_torque": Torque(value_nm=2.1, bearings="new", seal="absent"),
        "total_torque": Torque(value_nm=2.7, bearings="new", seal="absent"),
    }
    return trial(level_mm, is_final=True, **{**torques, **more})


def bench(*trials: BenchTrial, **more: Any) -> BenchState:
    return BenchState(**{"adjust": SHIMS, "limits": LIMITS, "set": SET, "trials": list(trials), **more})


class Verdicts(TestCase):
    def words(self, state: BenchState) -> tuple[str, str, list[str]]:
        found = judge_bench(state)
        return found.backlash, found.pattern, [one.code for one in found.missing]

    def test_a_set_up_that_is_done(self) -> None:
        self.assertEqual(self.words(bench(trial(), final())), ("in", "in", []))

    def test_what_the_final_reading_still_lacks(self) -> None:
        cases = (
            ((), "not_read_after_assembly"),
            ((trial(),), "not_read_after_assembly"),
            ((trial(), final(confirmed=False)), "not_confirmed"),
            ((trial(), final(readings=[])), "final_unread"),
            ((trial(), final(coast=[])), "final_unread"),
            ((trial(), final(pinion_torque=None)), "final_unread"),
            ((trial(), final(total_torque=None)), "final_unread"),
            ((trial(), final(level_mm=0.32)), "final_out"),
            ((trial(), final(drive=[TrialPatch(u=0.9, v=0.5)])), "final_out"),
            ((trial(), final(pinion_torque=Torque(value_nm=6.0, bearings="new", seal="absent"))), "final_out"),
        )
        for trials, code in cases:
            with self.subTest(code, trials=len(trials)):
                self.assertIn(code, self.words(bench(*trials))[2])
        self.assertEqual(judge_bench(bench()).missing[0].text, NOT_READ_AFTER_ASSEMBLY)

    def test_contact_is_that_of_the_last_trial_before_assembly_unless_the_reading_after_it_is_out(self) -> None:
        cases = (
            ((trial(0.32), trial()), ("in", "in")),
            ((trial(), trial(0.32)), ("out", "in")),
            ((trial(), final(readings=[])), ("in", "in")),
            ((trial(), final(0.32)), ("out", "in")),
            ((trial(confirmed=False),), ("unknown", "unknown")),
            ((final(),), ("in", "in")),
        )
        for trials, words in cases:
            with self.subTest(words=words, trials=len(trials)):
                self.assertEqual(self.words(bench(*trials))[:2], words)

    def test_used_bearings_are_held_against_their_own_window(self) -> None:
        for bearings, word in (("new", "out"), ("used", "in")):
            torque = Torque(value_nm=1.2, bearings=bearings, seal="absent")  # type: ignore[arg-type]
            found = judge_bench(bench(trial(), final(pinion_torque=torque))).trials[-1].pinion
            assert found is not None
            self.assertEqual(found.verdict, word)

    def test_a_used_set_goes_back_to_what_it_was_found_with(self) -> None:
        worn = trial(0.30)
        self.assertEqual(self.words(bench(worn))[0], "out")
        self.assertEqual(self.words(bench(worn, set_state="used", as_found=AsFound(backlash_mm=0.31)))[0], "in")

    def test_the_dials_step_widens_what_cannot_be_told(self) -> None:
        """0.196 mm may be 0.201 on a dial of hundredths, and is in on one of thousandths."""
        near = trial(0.196)
        words = [self.words(bench(near, resolution_mm=step))[0] for step in (0.01, 0.001)]
        self.assertEqual(words, ["edge", "in"])

    def test_a_set_that_makes_no_gears_and_a_torque_that_is_none_are_said_and_all_else_is_judged(self) -> None:
        found = judge_bench(bench(trial(), set=replace(SET, ring_teeth=12, pinion_teeth=4, offset_mm=86.0)))
        self.assertTrue(found.set_wrong)
        self.assertEqual((found.backlash, found.question), ("in", None))
        wrong = final(pinion_torque=Torque(value_nm=1e7, bearings="new", seal="absent"))
        verdicts = judge_bench(bench(trial(), wrong)).trials[-1]
        self.assertEqual(([one.code for one in verdicts.wrong][:1], verdicts.pinion), (["cannot_be_judged"], None))
        assert verdicts.backlash is not None
        self.assertEqual(verdicts.backlash.verdict, "in")

    def test_without_a_set_backlash_is_judged_and_contact_is_not(self) -> None:
        found = judge_bench(bench(trial(), set=None))
        self.assertEqual((found.backlash, found.pattern, found.question), ("in", "unknown", None))

    def test_the_advisor_is_asked_of_the_last_trials_alone(self) -> None:
        question = judge_bench(bench(*[trial(depth_shim_mm=0.5 + 0.01 * n) for n in range(MOST_TRIALS + 3)])).question
        assert question is not None
        self.assertEqual((len(question.trials), round(question.trials[0].depth_shim_mm, 2)), (MOST_TRIALS, 0.53))

    def test_a_place_that_was_read_again_counts_with_its_mean(self) -> None:
        low = [0.125, *[0.15] * 7]
        self.assertEqual(self.words(bench(trial(readings=read(*low)), resolution_mm=0.001))[0], "out")
        again = trial(readings=[*read(*low), CircleReading(angle_deg=0.0, value_mm=0.139)])
        self.assertEqual(self.words(bench(again, resolution_mm=0.001))[0], "in")
        question = judge_bench(bench(again)).question
        assert question is not None
        self.assertEqual([(one.least_mm, one.greatest_mm) for one in question.trials[0].rounds], [(0.132, 0.15)])

    def test_each_time_round_is_one_for_the_advisor(self) -> None:
        first, second = [0.14, 0.15, 0.16, 0.15], [0.15, 0.16, 0.17, 0.14]
        question = judge_bench(bench(trial(readings=[*read(*first), *read(*second)]))).question
        assert question is not None
        told = [(one.mean_mm, one.least_mm, one.greatest_mm, one.sd_mm) for one in question.trials[0].rounds]
        self.assertEqual(told, [(0.15, 0.14, 0.16, 0.005), (0.155, 0.14, 0.17, 0.005)])
        self.assertEqual(times_round([]), [])
        self.assertEqual(
            times_round([*read(*first), *read(*second)[:2], *read(*first)[:1]]),
            [[fmean([0.14, 0.15, 0.14]), fmean([0.15, 0.16]), 0.16, 0.15]],
        )

    def test_places_round_the_ring(self) -> None:
        self.assertEqual((places_deg(4), places_deg(16)[1]), ([0.0, 90.0, 180.0, 270.0], 22.5))
        for count in (3, 17, 0, -1):
            with self.subTest(count), self.assertRaises(InvalidInput):
                places_deg(count)


class Moves(TestCase):
    """Signs as at the bench: + is away from the pinion for the ring, away from the ring axis for the pinion."""

    CASES = (
        (SHIMS, Sides(4.6, 4.5), Sides(4.7, 4.4), -0.1),  # a thicker ring-side shim pushes the ring into the pinion
        (replace(SHIMS, carrier="cover_shims"), Sides(0.4, 0.6), Sides(0.5, 0.5), 0.1),  # under a cover it takes it away
        (replace(SHIMS, carrier="adjusters", notch_mm=0.05), Sides(0, 0), Sides(2, -2), -0.1),
    )

    def test_the_ring(self) -> None:
        for adjust, before, after, moved in self.CASES:
            with self.subTest(adjust.carrier):
                self.assertAlmostEqual(adjust.ring_move_mm(before, after), moved)
                self.assertAlmostEqual(adjust.ring_move_mm(after, before), -moved)

    def test_the_pinion(self) -> None:
        for place, moved in (("under_head", -0.05), ("behind_cup", -0.05), ("under_cartridge_flange", 0.05)):
            with self.subTest(place):
                self.assertAlmostEqual(replace(SHIMS, shim_place=place).pinion_move_mm(0.05), moved)  # type: ignore[arg-type]

    def test_a_bench_says_how_far_each_trial_moved_the_ring(self) -> None:
        found = judge_bench(bench(trial(), trial(ring_side_mm=4.62, far_side_mm=4.48)))
        self.assertEqual([one.ring_move_mm and round(one.ring_move_mm, 3) for one in found.trials], [None, -0.02])

    @given(st.floats(0.2, 2.0), st.floats(-0.4, 0.4), st.sampled_from(["under_head", "under_cartridge_flange"]))
    def test_set_up_bearings_count_as_shims_of_the_real_ones(self, shim_mm: float, offset_mm: float, place: str) -> None:
        sign = -1.0 if place == "under_cartridge_flange" else 1.0
        assume(shim_mm - abs(offset_mm) > 0.0)
        with_bearing = trial(depth_shim_mm=shim_mm, bearings="set_up", bearing_offset_mm=offset_mm)
        state = bench(with_bearing, trial(depth_shim_mm=shim_mm), adjust=replace(SHIMS, shim_place=place))  # type: ignore[arg-type]
        self.assertAlmostEqual(state.depth_shims_mm()[0], shim_mm - sign * offset_mm)
        self.assertAlmostEqual(state.depth_shims_mm(bearings="set_up")[1], shim_mm + sign * offset_mm)


class BeforeReadings(TestCase):
    def test_what_is_looked_at_follows_what_is_in(self) -> None:
        def texts(**more: Any) -> str:
            usual = {"is_final": False, "preload_part": "nothing", "bearings": "final", "carrier": "side_shims"}
            return " ".join(one.text for one in conditions(**{**usual, **more}))

        self.assertIn("No seal; no crush sleeve", texts())
        self.assertIn("crush sleeve in", texts(preload_part="sleeve"))
        self.assertIn("Seal, new pinion nut", texts(is_final=True))
        self.assertIn("Each adjuster last turned inward", texts(carrier="adjusters"))
        self.assertIn("Set-up bearings in", texts(bearings="set_up"))
        codes = [one.code for one in conditions(is_final=True, preload_part="sleeve", bearings="final", carrier="adjusters")]
        self.assertEqual(len(codes), len(set(codes)))

    def test_a_dial_within_one_of_its_steps(self) -> None:
        good = DialCheck(zero_mm=0.0, block_mm=1.0, block_read_mm=1.01, return_mm=-0.01)
        self.assertTrue(check_dial(good).good)
        self.assertFalse(check_dial(replace(good, resolution_mm=0.002)).good)
        for changed, code in (({"zero_mm": 0.04}, "zero_off"), ({"block_read_mm": 0.9}, "block_off"), ({"return_mm": 0.04}, "return_off")):
            with self.subTest(code):
                found = check_dial(replace(good, **changed))  # type: ignore[arg-type]
                self.assertEqual((found.good, [one.code for one in found.reasons]), (False, [code]))
        for wrong in ({"block_mm": 1000.0}, {"zero_mm": 40.0}, {"resolution_mm": -0.01}):
            with self.subTest(str(wrong)), self.assertRaises(InvalidInput):
                replace(good, **wrong)  # type: ignore[arg-type]
