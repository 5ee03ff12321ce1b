"""The next move as a decision: what is in is not taken apart, readings count as what they are, and costs move the choice as they should."""

from __future__ import annotations

from dataclasses import replace
from unittest import TestCase

import numpy as np

from amber_core.errors import InvalidInput
from amber_core.setup.advise import Advisor, SetupAdvice, weighed_acts
from amber_core.setup.noise import USUAL_U, Noise
from amber_core.setup.painted import patch_read, patch_verdict
from amber_core.setup.question import (
    MOST_REPEATS,
    Costs,
    PatchWindow,
    PatternWindow,
    Reader,
    SetupQuestion,
    SetupTrial,
    TrialBacklash,
    TrialPatch,
    of_all_rounds,
)
from tests.test_advise_laws import KNOWN, SIDES, WINDOW, housed, read_at


def asked(*trials: SetupTrial, **more: object) -> SetupQuestion:
    return SetupQuestion(set=KNOWN, adjust=SIDES, window=WINDOW, trials=list(trials), **more)  # type: ignore[arg-type]


def advice(*trials: SetupTrial, **more: object) -> SetupAdvice:
    return Advisor(asked(*trials, **more)).advice()


def with_drive(trial: SetupTrial, *u: float) -> SetupTrial:
    """The drive patch read so often, at these places along the tooth; the coast patch as often."""
    one = trial.seen("drive")[0]
    return replace(trial, drive=[replace(one, u=at) for at in u], coast=trial.seen("coast") * len(u))


def two_trials(*u: float) -> tuple[SetupTrial, SetupTrial]:
    """A first trial that was out, and one that stands right, its drive patch read as said."""
    return read_at(0.10, 0.04, housed()), with_drive(read_at(-0.02, -0.02, housed(1.12, 4.06, 3.94)), *u)


class WhatIsInIsLeft(TestCase):
    def test_a_reading_just_outside_is_read_again_and_not_moved(self) -> None:
        found = advice(*two_trials(0.60))
        self.assertEqual((found.state, found.reasons[0].code), ("read_again", "nearly_in"))
        self.assertEqual(found.acts[0].act, "read_again")

    def test_what_is_surely_out_is_moved_without_being_read_again_first(self) -> None:
        for place in ((0.03, 0.12), (0.03, -0.12), (0.12, 0.05)):
            found = advice(read_at(*place, housed()))
            with self.subTest(place):
                self.assertLess(found.stay_odds, 0.02)
                self.assertEqual(found.state, "move")

    def test_one_unlucky_reading_among_good_ones_is_finished(self) -> None:
        found = advice(*two_trials(0.60, 0.44, 0.47))
        self.assertEqual((found.state, found.proposals), ("finished", []))

    def test_the_backlash_read_twice_tells_better_how_far_it_swings(self) -> None:
        out, stands = two_trials(0.46)
        near = TrialBacklash(
            mean_mm=WINDOW.middle_mm, least_mm=WINDOW.backlash_min_mm + 0.002, greatest_mm=WINDOW.backlash_max_mm - 0.002, sd_mm=0.002
        )
        once = advice(out, replace(stands, backlash=near))
        twice = advice(out, replace(stands, backlash=[near] * 2, drive=stands.seen("drive") * 2, coast=stands.seen("coast") * 2))
        self.assertGreater(twice.stay_odds, once.stay_odds)
        known = advice(out, replace(stands, backlash=replace(near, least_mm=None, greatest_mm=None)))
        self.assertGreater(known.stay_odds, twice.stay_odds)

    def test_times_round_count_together(self) -> None:
        rounds = [
            TrialBacklash(mean_mm=0.14, least_mm=0.12, sd_mm=0.01),
            TrialBacklash(mean_mm=0.17, least_mm=0.14, greatest_mm=0.19, sd_mm=0.005),
        ]
        found = of_all_rounds(rounds)
        assert found is not None
        np.testing.assert_allclose([found.mean_mm, found.least_mm, found.greatest_mm, found.sd_mm], [0.164, 0.13, 0.19, 0.01 / 5.0**0.5])
        self.assertIsNone(of_all_rounds([]))
        with self.assertRaises(InvalidInput) as refused:
            replace(housed(), backlash=rounds[:1] * (MOST_REPEATS + 1))
        self.assertEqual(refused.exception.field, "backlash")

    def test_a_lucky_reading_of_a_wrong_set_is_not_finished(self) -> None:
        wrong = [read_at(0.10, place, housed(1.0, 4.0 - step, 4.0 + step)) for place, step in ((0.09, 0.0), (0.07, 0.02), (0.08, 0.01))]
        lucky = replace(wrong[-1], drive=TrialPatch(u=0.42, v=0.5), coast=TrialPatch(u=0.46, v=0.5))
        self.assertNotEqual(advice(*wrong[:2], lucky).state, "finished")

    def test_the_best_act_comes_first_with_its_odds_and_minutes(self) -> None:
        found = advice(*two_trials(0.60))
        acts = {one.act: one for one in found.acts}
        self.assertEqual(set(acts), {"read_again", "measure", "move"})  # finished is not to be had: the reading lies outside
        self.assertIn("8 minutes", acts["read_again"].text)
        self.assertIn(f"{round(100 * acts['move'].odds)} %", acts["move"].text)
        self.assertTrue(all(one.minutes > 0.0 and 0.0 <= one.odds <= 1.0 for one in found.acts))

    def test_a_set_that_its_cut_leaves_no_room_is_named(self) -> None:
        shown = read_at(0.0, 0.0, housed())
        heel = [replace(shown.seen("drive")[0], u=0.68, sd_u=0.01)]
        found = advice(replace(shown, drive=heel))
        self.assertIn("near_edge_by_cut", [one.code for one in found.reasons])

    def test_a_patch_that_was_read_as_often_as_may_be_is_not_to_be_read_again(self) -> None:
        found = advice(*two_trials(*[0.585] * MOST_REPEATS))
        self.assertNotIn("read_again", {one.act for one in found.acts})
        self.assertIn(found.state, ("move", "finished"))

    def test_what_is_out_and_has_no_shims_is_not_finished_for_being_read_often(self) -> None:
        trial = with_drive(read_at(0.10, 0.04, housed()), *[0.62] * MOST_REPEATS)
        advisor = Advisor(asked(trial))
        stay = advisor.outlook.expected(advisor.posterior.last_place, moved=False)
        (only,) = weighed_acts(advisor._decision(stay, []), stay.odds, False, [])
        self.assertEqual((only.act, only.minutes), ("move", np.inf))

    def test_a_set_that_no_move_makes_surer_is_finished_and_not_moved_for_ever(self) -> None:
        narrow = replace(WINDOW, pattern=PatternWindow(drive=PatchWindow(u_min=0.404, u_max=0.436, v_min=0.3, v_max=0.7)))
        trials = [read_at(0.10, 0.04, housed())]
        for _ in range(3):
            trials.append(with_drive(read_at(0.0, 0.0, housed(1.10, 4.04, 3.96)), *[0.43] * MOST_REPEATS))
            found = Advisor(replace(asked(*trials), window=narrow)).advice()
            if found.state == "finished":
                break
        self.assertEqual((found.state, found.reasons[-1].code), ("finished", "as_good_as_it_gets"))
        self.assertLess(found.stay_odds, 0.9)
        self.assertGreaterEqual(len(trials), 3)  # not before two moves have shown it


class WhatItCosts(TestCase):
    DOUBTFUL = two_trials(0.57)

    def test_scaling_all_of_them_changes_nothing_but_the_minutes(self) -> None:
        one = advice(*self.DOUBTFUL)
        seven = advice(
            *self.DOUBTFUL, costs=Costs(move_minutes=315, press_minutes=140, read_minutes=56, measure_minutes=105, wrong_minutes=4200)
        )
        self.assertEqual((one.state, one.proposals), (seven.state, seven.proposals))
        for before, after in zip(one.acts, seven.acts, strict=True):
            self.assertEqual(before.act, after.act)
            self.assertAlmostEqual(after.minutes, 7.0 * before.minutes, places=6)

    def test_reading_for_nothing_comes_before_any_doubtful_move(self) -> None:
        for u in (0.54, 0.57, 0.60):
            found = advice(*two_trials(u), costs=Costs(read_minutes=0.0))
            with self.subTest(u):
                self.assertIn(found.state, ("read_again", "finished"))

    def test_reading_that_is_not_to_be_had_is_never_advised(self) -> None:
        for u in (0.54, 0.57, 0.60, 0.64):
            found = advice(*two_trials(u), costs=Costs(read_minutes=1e9))
            with self.subTest(u):
                self.assertNotEqual(found.state, "read_again")

    def test_a_dearer_mistake_wants_more_certainty(self) -> None:
        once = read_at(0.0, 0.0, housed())
        cheap, dear = (advice(once, costs=Costs(wrong_minutes=minutes)) for minutes in (60.0, 20000.0))
        self.assertEqual((cheap.state, dear.state), ("finished", "read_again"))

    def test_a_bearing_that_has_to_be_pressed_makes_a_depth_move_dearer(self) -> None:
        trial = read_at(0.12, 0.05, housed())
        slip, pressed = (next(one for one in advice(trial, pressed=on).acts if one.act == "move") for on in (False, True))
        self.assertAlmostEqual(pressed.minutes - slip.minutes, Costs().press_minutes, delta=1.0)

    def test_nothing_that_costs_is_refused(self) -> None:
        with self.assertRaises(InvalidInput):
            Costs(move_minutes=0.0, read_minutes=0.0, wrong_minutes=0.0)


class Readings(TestCase):
    def test_more_of_them_never_make_the_best_act_dearer_on_average(self) -> None:
        trials = two_trials(0.55)
        before = Advisor(asked(*trials))
        best = min(one.minutes for one in before.advice().acts)
        rows = before.outlook.expected(before.posterior.last_place, moved=False).rows
        draw, after = np.random.default_rng(1), []
        for row in rows[:: len(rows) // 24]:
            seen = row[:4] + draw.normal(0.0, 1.0, 4) * np.array([0.05, 0.06, 0.05, 0.06])
            backlash = TrialBacklash(mean_mm=float(row[4] + draw.normal(0.0, 0.01)), sd_mm=0.01)
            more = replace(
                trials[1],
                backlash=[*trials[1].rounds, backlash],
                drive=[*trials[1].seen("drive"), TrialPatch(u=float(seen[0]), v=float(seen[1]))],
                coast=[*trials[1].seen("coast"), TrialPatch(u=float(seen[2]), v=float(seen[3]))],
            )
            after.append(min(one.minutes for one in advice(trials[0], more).acts))
        self.assertLess(float(np.mean(after)), best + 2.0 * float(np.std(after)) / len(after) ** 0.5)

    def test_several_count_as_their_mean_given_with_its_own_scatter(self) -> None:
        trial = read_at(0.05, 0.02, housed())
        drive = [0.44, 0.50, 0.47, 0.51]
        several = Advisor(asked(with_drive(trial, *drive))).posterior
        noise = several.noise.of("", "eye")
        one, coast = trial.seen("drive")[0], trial.seen("coast")[0]
        half = {"sd_u": noise.sd_u / 2.0, "sd_v": noise.sd_v / 2.0}
        told = Advisor(asked(replace(trial, drive=replace(one, u=0.48, **half), coast=replace(coast, **half)))).posterior
        self.assertLess(float(np.abs(several.last_place - told.last_place).max()), 1e-3)
        self.assertTrue(np.allclose(several.last_covariance, told.last_covariance, rtol=0.02))

    def test_a_careful_reader_is_believed_more(self) -> None:
        trial = read_at(0.05, 0.02, housed())
        careful = [Reader(repeats=60, sd_u=0.015, sd_v=0.02)]
        usual, better = (Advisor(asked(trial, readers=known)).posterior.last_covariance[0, 0] for known in ([], careful))
        self.assertLess(float(better), 0.75 * float(usual))

    def test_scatter_is_learnt_from_this_jobs_own_repeats_by_person_and_by_way(self) -> None:
        wild = [TrialPatch(u=u, v=0.5, by="tam") for u in (0.25, 0.60, 0.35, 0.70)]
        calm = [TrialPatch(u=u, v=0.5, by="tam", how="photo") for u in (0.48, 0.49, 0.48, 0.49)]
        noise = Noise([], [wild, calm])
        self.assertGreater(noise.of("tam", "eye").sd_u, 1.5 * USUAL_U)
        self.assertLess(noise.of("tam", "photo").sd_u, USUAL_U)
        self.assertEqual(noise.of("isla", "eye").sd_u, USUAL_U)

    def test_two_people_who_differ_do_not_make_each_other_look_careless(self) -> None:
        noise = Noise([], [[TrialPatch(u=0.40, v=0.5, by="isla"), TrialPatch(u=0.60, v=0.5, by="tam")]])
        self.assertEqual(noise.of("isla", "eye").sd_u, USUAL_U)

    def test_the_mean_is_in_out_or_on_the_edge(self) -> None:
        allowed, noise = PatchWindow(u_min=0.25, u_max=0.58, v_min=0.3, v_max=0.7), Noise([], [])
        for places, word in (((0.59,), "out"), ((0.57,), "in"), ((0.59, 0.60), "edge"), ((0.60, 0.44, 0.47), "in"), ((0.72, 0.74), "out")):
            with self.subTest(places):
                read = patch_read([TrialPatch(u=u, v=0.5) for u in places], noise)
                assert read is not None
                self.assertEqual(patch_verdict("drive", read, allowed)[0], word)

    def test_readings_far_apart_are_not_averaged_into_a_good_one(self) -> None:
        read = patch_read([TrialPatch(u=0.45, v=0.5), TrialPatch(u=0.45, v=0.85)], Noise([], []))
        assert read is not None
        word, reasons = patch_verdict("drive", read, PatchWindow(u_min=0.25, u_max=0.58, v_min=0.3, v_max=0.7))
        self.assertEqual((word, reasons[0].code), ("unknown", "drive_apart"))

    def test_more_good_readings_do_not_make_one_of_them_wrong(self) -> None:
        draw, wrong = np.random.default_rng(3), 0
        for _ in range(300):
            places = draw.normal((0.45, 0.5), (0.05, 0.06), (MOST_REPEATS, 2))
            read = patch_read([TrialPatch(u=float(u), v=float(v)) for u, v in places], Noise([], []))
            wrong += read is not None and read.apart
        self.assertLess(wrong, 6)  # once in seven hundred for each direction

    def test_it_runs_off_where_half_of_the_readings_say_so(self) -> None:
        off, on = TrialPatch(u=0.5, v=0.5, runs_off=["heel"]), TrialPatch(u=0.5, v=0.5)
        for readings, edges in (([off, on], ["heel"]), ([off, on, on], [])):
            read = patch_read(readings, Noise([], []))
            assert read is not None
            self.assertEqual(read.runs_off, edges)
