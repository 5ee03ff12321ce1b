"""Tyres and ratios: the open cases, designations that say little, and the laws as properties."""

from __future__ import annotations

import json
from dataclasses import replace
from pathlib import Path
from typing import Any
from unittest import TestCase

import numpy as np
from hypothesis import assume, given, settings
from hypothesis import strategies as st

from amber_core import registry
from amber_core.errors import InvalidInput
from amber_core.ratios.choose import TERMS, AxleOption, ChooseQuestion, GearboxOption, Use, Weights, choose_ratio
from amber_core.ratios.compare import CompareQuestion, Gearing, compare_gearings
from amber_core.ratios.engine_speed import SpeedQuestion, UpshiftQuestion, engine_speed, upshift
from amber_core.ratios.grade import GradeQuestion, GripQuestion, grade, grip
from amber_core.ratios.match import AxlePair, match_axles
from amber_core.ratios.tyre_change import SpeedometerQuestion, TyreChange, speedometer, tyre_change
from amber_core.ratios.vehicle import Engine, Load, TorquePoint
from amber_core.tyres.designation import TyreText, parse_tyre
from amber_core.tyres.rollout import RollOut, roll_out

CASES: list[dict[str, Any]] = json.loads((Path(__file__).parent / "vectors" / "ratios.json").read_text(encoding="utf-8"))["cases"]
ENGINE = Engine(
    idle_rpm=800,
    redline_rpm=4500,
    torque=[TorquePoint(rpm=1200, torque_nm=240), TorquePoint(rpm=2000, torque_nm=320), TorquePoint(rpm=4500, torque_nm=240)],
)
LOAD = Load(mass_kg=2600)
FIVE = [3.9, 2.2, 1.4, 1.0, 0.8]

around = st.floats(1.5, 3.5)
ratios = st.floats(2.5, 7.0)


class OpenCases(TestCase):
    def near(self, found: Any, wanted: Any, tolerance: dict[str, Any]) -> bool:
        if isinstance(wanted, list):
            return len(found) == len(wanted) and all(self.near(a, b, tolerance) for a, b in zip(found, wanted, strict=True))
        if not tolerance or tolerance.get("exact"):
            return bool(found == wanted)
        return bool(abs(found - wanted) <= max(tolerance.get("abs", 0.0), tolerance.get("rel", 0.0) * abs(wanted)))

    def test_every_field_of_every_case(self) -> None:
        self.assertEqual(len(CASES), 14)
        for case in CASES:
            answer = registry.run(case["name"], case["inputs"])
            for field, wanted in case["expected"].items():
                with self.subTest(case["id"], field=field):
                    self.assertTrue(self.near(answer[field], wanted, case["tolerance"].get(field, {})), (answer[field], wanted))


class Designations(TestCase):
    def test_forms_that_are_written(self) -> None:
        cases = [
            ("LT265/70R17 121/118S", "metric", "radial", 802.8),
            ("P 205/55 zr 16", "metric", "radial", 631.9),
            ("235/85-16", "metric", "radial", 805.9),  # a dash where there is an aspect is only sloppy
            ("220/55R390", "metric", "radial", 632.0),
            ("205R16", "metric", "radial", 734.4),
            ("12,5/80-18", "inch", "bias", 965.2),
            ("35×12.50 R17 LT", "flotation", "radial", 889.0),
            ("31x10.50-15", "flotation", "bias", 787.4),
            ("750R16", "numeric", "radial", 802.6),
            ("9.00-20", "numeric", "bias", 997.2),
            ("9.5R17.5", "numeric", "radial", 842.6),
            ("8.75R16.5LT", "numeric", "radial", 748.0),
            ("12.5R20", "numeric", "radial", 1016.0),
        ]
        for text, kind, construction, diameter in cases:
            with self.subTest(text):
                tyre = parse_tyre(TyreText(text=text))
                self.assertTrue(tyre.valid, tyre.reasons)
                self.assertEqual((tyre.kind, tyre.construction), (kind, construction))
                self.assertAlmostEqual(tyre.diameter_mm or 0.0, diameter, delta=0.6)

    def test_what_cannot_be_read_says_so(self) -> None:
        for text in ("", "L78-15", "265/7R17", "265/170R17", "hello", "20x9R22", "641R16", "265/70", "9" * 80, "265/70R17.5.5", "450R16"):
            with self.subTest(text):
                tyre = parse_tyre(TyreText(text=text))
                self.assertEqual((tyre.valid, tyre.diameter_mm, len(tyre.reasons)), (False, None, 1))

    def test_a_size_that_hides_its_height_says_so_and_doubts_more(self) -> None:
        numeric, metric = (parse_tyre(TyreText(text=text)) for text in ("7.50R16", "235/85R16"))
        self.assertTrue(numeric.aspect_assumed)
        self.assertIn("aspect_assumed", [one.code for one in numeric.reasons])
        self.assertEqual(metric.reasons, [])
        assert numeric.diameter_greatest_mm and numeric.diameter_mm and metric.diameter_greatest_mm and metric.diameter_mm
        self.assertGreater(numeric.diameter_greatest_mm / numeric.diameter_mm, metric.diameter_greatest_mm / metric.diameter_mm)

    def test_a_flotation_tyre_may_be_smaller_never_larger(self) -> None:
        tyre = parse_tyre(TyreText(text="35x12.50R17"))
        assert tyre.diameter_mm is not None
        self.assertEqual((tyre.diameter_greatest_mm, tyre.diameter_least_mm), (tyre.diameter_mm, tyre.diameter_mm * 0.97))

    def test_a_measured_roll_out_overrides(self) -> None:
        tyre = parse_tyre(TyreText(text="265/70R17", rollout_mm=12170, turns=5))
        self.assertEqual((tyre.measured, round(tyre.circumference_m or 0.0, 3)), (True, 2.434))
        wrong = parse_tyre(TyreText(text="265/70R17", rollout_mm=12170, turns=4))
        self.assertIn("rollout_unlike", [one.code for one in wrong.reasons])

    @given(st.text(max_size=80))
    def test_no_text_breaks_it(self, text: str) -> None:
        tyre = parse_tyre(TyreText(text=text))
        self.assertEqual(tyre.valid, tyre.diameter_mm is not None)

    def test_a_roll_out_of_few_turns_is_told(self) -> None:
        self.assertEqual([one.code for one in roll_out(RollOut(rollout_mm=2400, turns=1, diameter_mm=800)).reasons], ["few_turns"])
        self.assertIn("unlike", [one.code for one in roll_out(RollOut(rollout_mm=12000, turns=6, diameter_mm=800)).reasons])


class Laws(TestCase):
    @given(around, st.floats(0.5, 60.0), st.floats(1.0, 200.0))
    def test_doubling_the_ratio_doubles_the_rpm_and_the_inverse_is_the_inverse(self, c: float, total: float, speed: float) -> None:
        once = engine_speed(SpeedQuestion(speed_kmh=speed, circumference_m=c, total_ratio=total)).engine_rpm
        assume(once < 10000.0)
        twice = engine_speed(SpeedQuestion(speed_kmh=speed, circumference_m=c, total_ratio=2.0 * total)).engine_rpm
        self.assertAlmostEqual(twice / once, 2.0)
        back = engine_speed(SpeedQuestion(engine_rpm=once, circumference_m=c, total_ratio=total)).speed_kmh
        self.assertAlmostEqual(back, speed, delta=1e-6 * speed)

    @given(ratios, around, around)
    def test_the_restoring_ratio_undoes_a_tyre_change(self, ratio: float, old: float, new: float) -> None:
        found = tyre_change(TyreChange(ratio=ratio, circumference_old_m=old, circumference_new_m=new))
        assume(0.2 < found.restore_ratio < 20.0)
        again = tyre_change(TyreChange(ratio=found.restore_ratio, circumference_old_m=old, circumference_new_m=new))
        self.assertAlmostEqual(again.equivalent_ratio, ratio)
        self.assertAlmostEqual(found.equivalent_ratio * found.restore_ratio, ratio**2)

    @given(around, around, ratios, ratios)
    def test_a_speedometer_fed_from_the_wheels_does_not_feel_the_axle(self, old: float, new: float, before: float, after: float) -> None:
        def true(source: Any, ratio: float) -> float:
            tyres = {"circumference_old_m": old, "circumference_new_m": new}
            return speedometer(SpeedometerQuestion(indicated_kmh=100, ratio_old=before, ratio_new=ratio, source=source, **tyres)).true_kmh

        self.assertAlmostEqual(true("wheel", after), true("wheel", before))
        self.assertAlmostEqual(true("prop", before), true("wheel", before))
        self.assertAlmostEqual(true("prop", after) / true("prop", before), before / after)

    def test_an_under_reading_speedometer_is_said_first(self) -> None:
        low = speedometer(SpeedometerQuestion(indicated_kmh=100, circumference_old_m=2.2, circumference_new_m=2.5, driven_teeth=20))
        self.assertEqual(low.reasons[0].code, "under_reads")
        self.assertGreaterEqual(low.driven_gears[0].shown_over_true, 1.0)
        self.assertLess(low.driven_gears[1].shown_over_true, 1.0)

    @given(around, ratios, around, ratios)
    def test_a_front_ratio_for_zero_makes_zero_and_swapped_ends_swap_the_lead(self, cf: float, rf: float, cr: float, rr: float) -> None:
        pair = AxlePair(front_circumference_m=cf, front_ratio=rf, rear_circumference_m=cr, rear_ratio=rr)
        found = match_axles(pair)
        assume(0.2 < found.front_ratio_for_zero < 20.0)
        self.assertAlmostEqual(match_axles(replace(pair, front_ratio=found.front_ratio_for_zero)).mismatch_pct, 0.0, places=9)
        swapped = match_axles(AxlePair(front_circumference_m=cr, front_ratio=rr, rear_circumference_m=cf, rear_ratio=rf))
        if found.leads != "neither":
            self.assertNotEqual(swapped.leads, found.leads)

    def test_rounded_ratios_of_four_wheel_drive_are_told_apart(self) -> None:
        verdicts = []
        for rear in (4.1, 37 / 9, 4.14, 4.3):
            pair = AxlePair(front_circumference_m=2.4, front_ratio=4.1, rear_circumference_m=2.4, rear_ratio=rear)
            verdicts.append(match_axles(pair).verdict)
        self.assertEqual(verdicts, ["in", "in", "edge", "out"])

    @given(st.floats(0.0, 0.95), st.floats(0.0, 0.1))
    def test_more_torque_never_climbs_less(self, share: float, rolling: float) -> None:
        usual = GradeQuestion(torque_nm=share * 500, total_ratio=12, circumference_m=2.4, mass_kg=2500, rolling=rolling)
        more = grade(replace(usual, torque_nm=share * 500 + 20)).grade_pct
        less = grade(usual).grade_pct
        assert less is not None
        self.assertTrue(more is None or more > less)

    def test_force_over_the_weight_leaves_it_to_grip(self) -> None:
        found = grade(GradeQuestion(torque_nm=2000, total_ratio=60, circumference_m=2.4, mass_kg=1500))
        self.assertEqual((found.grade_pct, found.only_grip_limits), (None, True))

    @given(st.floats(0.2, 1.0), st.floats(1.0, 1.8))
    def test_all_wheels_grip_best(self, mu: float, to_undriven: float) -> None:
        usual = {"mu": mu, "rolling": 0.02, "wheelbase_m": 2.8, "cg_height_m": 0.7, "cg_to_undriven_axle_m": to_undriven}
        both, rear, front = (grip(GripQuestion(drive=drive, **usual)).grade_pct or 0.0 for drive in ("awd", "rwd", "fwd"))  # type: ignore[arg-type]
        self.assertGreaterEqual(both + 1e-9, front)
        self.assertGreaterEqual(both + 1e-9, min(rear, both))

    def test_gears_out_of_order_and_slipped_decimals_are_refused(self) -> None:
        cases: list[tuple[str, dict[str, Any], str]] = [
            ("ratio.upshift", {"gears": [1.0, 2.0], "final_ratio": 4, "circumference_m": 2.4, "shift_rpm": 4000}, "gears[1]"),
            ("ratio.engine_speed", {"speed_kmh": 100, "circumference_m": 2430, "total_ratio": 3.4}, "circumference_m"),
            ("ratio.engine_speed", {"circumference_m": 2.4, "total_ratio": 3.4}, "speed_kmh"),
            (
                "ratio.match",
                {"front_circumference_m": 2.4, "front_ratio": 41, "rear_circumference_m": 2.4, "rear_ratio": 4.1},
                "front_ratio",
            ),
            ("tyre.rollout", {"rollout_mm": 12, "turns": 5}, "rollout_mm"),
        ]
        for name, question, field in cases:
            with self.subTest(name, field=field), self.assertRaises(InvalidInput) as caught:
                registry.run(name, question)
            self.assertEqual(caught.exception.field, field)

    def test_a_shift_takes_the_speed_along(self) -> None:
        found = upshift(UpshiftQuestion(gears=FIVE, final_ratio=4.1, circumference_m=2.4, shift_rpm=4000))
        for index, rpm in enumerate(found.rpm_after):
            total = FIVE[index + 1] * 4.1
            self.assertAlmostEqual(rpm, found.speed_kmh[index] * total / 0.06 / 2.4)


class SideBySide(TestCase):
    NOW = Gearing(name="now", circumference_m=2.6, gears=FIVE, axle_ratio=3.73)

    def compared(self, *gearings: Gearing, cruise_kmh: float = 90) -> Any:
        usual = {"engine": ENGINE, "load": LOAD, "cruise_kmh": cruise_kmh, "cruise_rpm_min": 1800, "cruise_rpm_max": 2200}
        return compare_gearings(CompareQuestion(gearings=[self.NOW, *gearings], **usual))  # type: ignore[arg-type]

    def test_a_shorter_axle_climbs_and_starts_better_and_turns_faster(self) -> None:
        short = replace(self.NOW, name="short", axle_ratio=4.1)
        slow, fast = (self.compared(short, cruise_kmh=speed).gearings[1] for speed in (70, 115))
        self.assertTrue(any(text.startswith("holds") for text in slow.better), slow.better)
        self.assertTrue(any(text.startswith("starts on") for text in slow.better))
        self.assertTrue(any("rpm at cruise" in text for text in fast.worse), fast.worse)

    def test_under_the_band_is_no_better_than_inside_it(self) -> None:
        long = self.compared(replace(self.NOW, name="long", axle_ratio=2.9)).gearings[1]
        self.assertTrue(any("rpm at cruise" in text for text in long.worse), (long.better, long.worse, long.cruise_band))

    def test_the_same_gearing_is_neither_better_nor_worse(self) -> None:
        same = self.compared(replace(self.NOW, name="same")).gearings[1]
        self.assertEqual((same.better, same.worse), ([], []))

    def test_the_restoring_ratio_gives_every_engine_speed_back(self) -> None:
        restored = tyre_change(TyreChange(ratio=3.73, circumference_old_m=2.6, circumference_new_m=2.9)).restore_ratio
        found = self.compared(replace(self.NOW, name="taller, regeared", circumference_m=2.9, axle_ratio=restored))
        for old, new in zip(found.gearings[0].gears, found.gearings[1].gears, strict=True):
            self.assertAlmostEqual(old.cruise_rpm, new.cruise_rpm)
            self.assertAlmostEqual(old.redline_kmh, new.redline_kmh)

    def test_top_speed_is_where_force_meets_resistance(self) -> None:
        found = self.compared()
        one = found.gearings[0]
        assert one.top_kmh is not None and one.top_gear is not None
        gear = one.gears[one.top_gear - 1]
        speeds, forces = ([getattr(point, name) for point in gear.force] for name in ("speed_kmh", "force_n"))
        asked = float(LOAD.resistance_n(np.array([one.top_kmh]))[0])
        limited = one.top_kmh > gear.redline_kmh - 1.5
        self.assertTrue(limited or abs(float(np.interp(one.top_kmh, speeds, forces)) - asked) < 0.06 * asked)

    def test_a_grade_asks_for_more_everywhere(self) -> None:
        found = self.compared()
        for lower, higher in zip(found.grades, found.grades[1:], strict=False):
            self.assertTrue(all(a < b for a, b in zip(lower.force_n, higher.force_n, strict=True)))


boxes = st.lists(st.floats(0.6, 1.1), min_size=1, max_size=3).map(
    lambda tops: [GearboxOption(name=f"box {n}", gears=[4.0, 2.4, 1.5, top], transfer_low=2.5) for n, top in enumerate(tops)]
)
axles = st.lists(st.tuples(st.integers(8, 13), st.integers(35, 45), st.booleans()), min_size=2, max_size=6).map(
    lambda rows: [AxleOption(pinion_teeth=p, ring_teeth=r, needs_carrier=c) for p, r, c in rows]
)
USE = Use(
    cruise_kmh=90,
    cruise_rpm_min=2000,
    cruise_rpm_max=2400,
    hold_grade_pct=8,
    start_grade_pct=30,
    crawl_kmh=3,
    top_kmh=140,
    upshift_rpm_min=2000,
)


def chosen(options: list[GearboxOption], pairs: list[AxleOption], **more: Any) -> Any:
    usual: dict[str, Any] = {"circumference_m": 2.4, "engine": ENGINE, "load": LOAD, "use": USE, "most": 200, **more}
    return choose_ratio(ChooseQuestion(gearboxes=options, axles=pairs, **usual))


class Choosing(TestCase):
    @settings(max_examples=40, deadline=None)
    @given(boxes, axles)
    def test_ranked_by_score_and_every_score_is_its_terms(self, options: list[GearboxOption], pairs: list[AxleOption]) -> None:
        found = chosen(options, pairs)
        self.assertEqual((len(found.choices), found.combinations), (len(options) * len(pairs),) * 2)
        scores = [one.score for one in found.choices]
        self.assertEqual(scores, sorted(scores, reverse=True))
        for one in found.choices:
            weight = sum(term.weight for term in one.terms)
            self.assertAlmostEqual(one.score, sum(term.score * term.weight for term in one.terms) / weight)
            self.assertEqual({term.name for term in one.terms}, set(TERMS))

    @settings(max_examples=40, deadline=None)
    @given(boxes, axles, st.integers(8, 13), st.integers(35, 45))
    def test_another_pair_changes_no_order_among_the_rest(
        self, options: list[GearboxOption], pairs: list[AxleOption], pinion: int, ring: int
    ) -> None:
        extra = AxleOption(pinion_teeth=pinion, ring_teeth=ring, needs_carrier=True, needs_thick_ring=True)

        def order(found: Any) -> list[tuple[int, int, float]]:
            return [(one.gearbox_index, one.axle_index, one.score) for one in found.choices if one.axle_index < len(pairs)]

        self.assertEqual(order(chosen(options, pairs)), order(chosen(options, [*pairs, extra])))

    @settings(max_examples=40, deadline=None)
    @given(boxes, axles)
    def test_a_dominated_pair_is_as_bad_everywhere_and_worse_somewhere(self, options: list[GearboxOption], pairs: list[AxleOption]) -> None:
        found = chosen(options, pairs).choices
        for one in found:
            if one.dominated_by is not None:
                other = found[one.dominated_by]
                gaps = [a.score - b.score for a, b in zip(other.terms, one.terms, strict=True)]
                self.assertGreaterEqual(min(gaps), -1e-9)
                self.assertGreater(max(gaps), 0.0)
        self.assertIsNone(found[0].dominated_by)

    def test_what_is_not_asked_does_not_count(self) -> None:
        plain = Use(cruise_kmh=90, cruise_rpm_min=2000, cruise_rpm_max=2400)
        found = chosen([GearboxOption(name="five", gears=FIVE)], [AxleOption(pinion_teeth=10, ring_teeth=41)], use=plain)
        self.assertEqual([term.name for term in found.choices[0].terms], ["cruise", "pinion", "parts"])

    def test_weights_turn_the_ranking(self) -> None:
        pairs = [AxleOption(pinion_teeth=11, ring_teeth=41), AxleOption(pinion_teeth=8, ring_teeth=41, needs_carrier=True)]
        only = dict.fromkeys(TERMS, 0.0)
        by_start = chosen(
            [GearboxOption(name="five", gears=FIVE)], pairs, weights=Weights(**{**only, "start": 1.0}), load=Load(mass_kg=7000)
        )
        by_parts = chosen([GearboxOption(name="five", gears=FIVE)], pairs, weights=Weights(**{**only, "parts": 1.0}))
        self.assertEqual((by_start.choices[0].pinion_teeth, by_parts.choices[0].pinion_teeth), (8, 11))

    def test_fewer_pinion_teeth_are_weaker(self) -> None:
        pairs = [AxleOption(pinion_teeth=teeth, ring_teeth=41, ring_outer_diameter_mm=200) for teeth in (8, 13)]
        found = chosen([GearboxOption(name="five", gears=FIVE)], pairs)
        stress = {one.pinion_teeth: next(term.value for term in one.terms if term.name == "pinion") for one in found.choices}
        self.assertGreater(stress[8], stress[13])

    def test_too_many_and_too_few_are_refused(self) -> None:
        for options, pairs, field in (
            ([], [AxleOption(pinion_teeth=10, ring_teeth=41)], "gearboxes"),
            ([GearboxOption(name="a", gears=FIVE)], [], "axles"),
        ):
            with self.subTest(field), self.assertRaises(InvalidInput) as caught:
                chosen(options, pairs)
            self.assertEqual(caught.exception.field, field)
