"""What the set-up's estimate rests on: slopes of the model, the chart, used sets, readings set aside, patches that run off."""

from __future__ import annotations

from dataclasses import replace
from unittest import TestCase

import numpy as np

from amber_core.gearset.description import GearSetDescription
from amber_core.setup.advise import Advisor
from amber_core.setup.chart import setup_chart
from amber_core.setup.posterior import Posterior
from amber_core.setup.question import Adjust, AsFound, FoundPatch, SetupQuestion, SetupTrial, SetupWindow, TrialBacklash, TrialPatch
from amber_core.setup.set_model import TRAITS, SetModel

SETS = {
    "hypoid": GearSetDescription(ring_teeth=41, pinion_teeth=11, ring_outer_diameter_mm=215.0, offset_mm=30.0),
    "bevel": GearSetDescription(ring_teeth=37, pinion_teeth=9, ring_outer_diameter_mm=190.0, offset_mm=0.0),
    "uniform": GearSetDescription(ring_teeth=41, pinion_teeth=10, ring_outer_diameter_mm=230.0, offset_mm=30.0, tooth_form="uniform"),
}
WINDOW = SetupWindow(backlash_min_mm=0.13, backlash_max_mm=0.20, variation_max_mm=0.07)
SIDES = Adjust(shim_place="under_head", carrier="side_shims")
FIRST = SetupTrial(depth_shim_mm=1.0, ring_side_mm=4.0, far_side_mm=4.0)


def shown(model: SetModel, pinion: float, ring: float, housing: SetupTrial = FIRST) -> SetupTrial:
    """A trial read without errors on a set that is as described."""
    seen = model.look_at(np.array([pinion, ring]), np.zeros(TRAITS)).values
    return replace(
        housing,
        backlash=TrialBacklash(mean_mm=max(0.0, float(seen[4]))),
        drive=TrialPatch(u=float(seen[0]), v=float(seen[1])),
        coast=TrialPatch(u=float(seen[2]), v=float(seen[3])),
    )


def question(*trials: SetupTrial, **more: object) -> SetupQuestion:
    return SetupQuestion(set=SETS["hypoid"], adjust=SIDES, window=WINDOW, trials=list(trials), **more)  # type: ignore[arg-type]


class Slopes(TestCase):
    def test_those_of_places_and_traits_are_central_differences(self) -> None:
        draw = np.random.default_rng(2)
        for name, known in SETS.items():
            model = SetModel(known, 0.165)
            place, traits = draw.normal(0.0, 0.05, 2), np.concatenate([draw.normal(0.0, 0.03, 5), draw.normal(0.0, 0.15, 3)])
            look = model.look_at(place, traits)
            np.testing.assert_array_equal(model.values_at(place, traits), look.values)
            for axis in range(2):
                step = np.zeros(2)
                step[axis] = 1e-4
                slope = (model.look_at(place + step, traits).values - model.look_at(place - step, traits).values) / 2e-4
                with self.subTest(f"{name}, place {axis}"):
                    self.assertLess(float(np.abs(slope - look.place_slopes[:, axis]).max()), 0.03 * max(1.0, float(np.abs(slope).max())))
            for trait in range(TRAITS):
                step = np.zeros(TRAITS)
                step[trait] = 1e-4
                slope = (model.look_at(place, traits + step).values - model.look_at(place, traits - step).values) / 2e-4
                with self.subTest(f"{name}, trait {trait}"):
                    self.assertLess(float(np.abs(slope - look.trait_slopes[:, trait]).max()), 0.03 * max(1.0, float(np.abs(slope).max())))

    def test_the_right_place_shows_the_middle_backlash(self) -> None:
        for name, known in SETS.items():
            with self.subTest(name):
                self.assertAlmostEqual(float(SetModel(known, 0.165).look_at(np.zeros(2), np.zeros(TRAITS)).values[4]), 0.165, places=6)


class TheEstimate(TestCase):
    def setUp(self) -> None:
        self.model = SetModel(SETS["hypoid"], WINDOW.middle_mm)

    def test_trials_that_agree_are_all_kept(self) -> None:
        moved = replace(FIRST, depth_shim_mm=1.1, ring_side_mm=4.05, far_side_mm=3.95)
        found = Posterior(question(shown(self.model, 0.12, 0.05), shown(self.model, 0.02, 0.0, moved)))
        self.assertEqual(found.conflicts, [])
        self.assertAlmostEqual(float(found.last_place[0]), 0.02, delta=0.03)
        self.assertAlmostEqual(float(found.last_place[1]), 0.0, delta=0.03)

    def test_a_reading_that_the_rest_contradicts_is_set_aside_and_named(self) -> None:
        moved = replace(FIRST, ring_side_mm=3.9, far_side_mm=4.1)
        odd = replace(shown(self.model, 0.0, 0.05, moved), backlash=TrialBacklash(mean_mm=0.05))
        found = Posterior(question(shown(self.model, 0.0, -0.05), odd))
        self.assertEqual([(one.observation.trial, one.observation.reading) for one in found.conflicts], [(1, "backlash")])
        self.assertAlmostEqual(float(found.last_place[1]), 0.05, delta=0.04)

    def test_read_a_second_time_it_stands(self) -> None:
        moved = replace(FIRST, ring_side_mm=3.9, far_side_mm=4.1)
        odd = replace(shown(self.model, 0.0, 0.05, moved), backlash=TrialBacklash(mean_mm=0.05))
        asked = [Advisor(question(shown(self.model, 0.0, -0.05), replace(odd, read_twice=twice))).advice().state for twice in (False, True)]
        self.assertEqual(asked[0], "read_again")
        self.assertNotEqual(asked[1], "read_again")

    def test_a_used_set_aims_at_what_was_found(self) -> None:
        found_at = shown(self.model, 0.0, 0.10)
        assert found_at.backlash is not None
        found = AsFound(
            backlash_mm=found_at.backlash.mean_mm,
            drive=FoundPatch(u=found_at.seen("drive")[0].u, v=found_at.seen("drive")[0].v),
            coast=FoundPatch(u=found_at.seen("coast")[0].u, v=found_at.seen("coast")[0].v),
        )
        new, used = (
            Advisor(question(shown(self.model, 0.0, 0.0), set_state=state, as_found=found if state == "used" else None)).advice()
            for state in ("new", "used")
        )
        self.assertEqual(new.state, "finished")
        self.assertEqual(used.state, "move")
        best = used.proposals[0]
        assert best.ring_side_mm is not None and best.far_side_mm is not None
        self.assertAlmostEqual((best.far_side_mm - best.ring_side_mm) / 2.0, 0.10, delta=0.03)


class TheChart(TestCase):
    def setUp(self) -> None:
        self.model = SetModel(SETS["hypoid"], WINDOW.middle_mm)
        moved = replace(FIRST, depth_shim_mm=1.1)
        advisor = Advisor(question(shown(self.model, 0.11, 0.0), shown(self.model, 0.01, 0.0, moved)))
        self.chart = setup_chart(advisor.outlook)

    def test_the_right_place_passes_and_the_corners_do_not(self) -> None:
        margin = np.array(self.chart.margin)
        middle = len(self.chart.ring_mm) // 2
        self.assertGreater(margin[middle, middle], 0.3)
        self.assertLess(margin[0, 0], 0.0)
        self.assertLess(margin[-1, -1], 0.0)

    def test_trials_lie_where_they_are_thought_to_stand_and_the_ellipse_about_the_last(self) -> None:
        self.assertEqual(len(self.chart.trials), 2)
        self.assertAlmostEqual(self.chart.trials[0][1] - self.chart.trials[1][1], 0.1, delta=0.03)
        centre = np.mean(np.array(self.chart.ellipse)[:-1], axis=0)
        self.assertLess(float(np.abs(centre - np.array(self.chart.trials[-1])).max()), 0.01)


class RunningOff(TestCase):
    def test_a_middle_that_runs_off_is_believed_less_and_is_not_in(self) -> None:
        model = SetModel(SETS["hypoid"], WINDOW.middle_mm)
        plain = shown(model, 0.05, 0.0)
        assert plain.drive is not None
        off = replace(plain, drive=replace(plain.drive, runs_off=["tip"]))
        inside, beyond = (Advisor(question(one)) for one in (plain, off))
        spread = [float(one.posterior.last_covariance[0, 0]) for one in (inside, beyond)]
        self.assertGreater(spread[1], spread[0])
        self.assertLess(beyond.advice().stay_odds, inside.advice().stay_odds)
        self.assertNotEqual(beyond.advice().state, "finished")
