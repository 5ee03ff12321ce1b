"""Orders, rankings, spectra, what is felt, phone logs, and the simulated recorder that ties them together."""

from __future__ import annotations

from math import pi, sin
from typing import Any
from unittest import TestCase

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from amber_core import registry
from amber_core.errors import InvalidInput
from amber_core.simulated.recorder import FAULTS, RecorderQuestion, csv_lines, record
from amber_core.vibration.felt import FeltQuestion, FeltTest, Outcome, felt
from amber_core.vibration.order_chart import order_chart
from amber_core.vibration.orders import Drivetrain, NamedBearing, OrdersQuestion, orders
from amber_core.vibration.phone_log import Log, LogReader, evenly
from amber_core.vibration.rank import Observation, RankQuestion, SpectrumRankQuestion, rank, rank_spectrum
from amber_core.vibration.sources import CHECKS, LOADS, PLACES, PRIOR, family_of, words_of
from amber_core.vibration.spectrum import SpectrumQuestion, spectrum
from amber_core.vibration.tell_apart import TwoSources, tell_apart

VAN = Drivetrain(circumference_m=2.2, axle_ratio=4.1, pinion_teeth=10, cylinders=4)


def read(text: str | bytes, step: int = 7919) -> Log:
    data = text.encode() if isinstance(text, str) else text
    reader = LogReader()
    for at in range(0, len(data), step):
        reader.feed(data[at : at + step])
    return reader.finish()


def lines(count: int = 500, row: str = "{t:.3f},{x:.4f},{y:.4f},9.81", step: float = 0.01) -> str:
    rows = (row.format(t=n * step, x=sin(2 * pi * 12 * n * 0.01), y=0.1 * (n % 5)) for n in range(count))
    return "\n".join(rows) + "\n"


class Orders(TestCase):
    def test_what_cannot_be_told_apart_is_said(self) -> None:
        direct = orders(OrdersQuestion(speed_kmh=90, circumference_m=2.2, axle_ratio=4.1, gear_ratio=1.0, front_shaft=True))
        self.assertIn(["tyre_1x", "ring_1x"], direct.inseparable)
        self.assertIn(["prop_1x", "front_prop_1x", "engine_1x"], direct.inseparable)
        hubs = orders(OrdersQuestion(speed_kmh=90, circumference_m=2.2, axle_ratio=2.0, hub_ratio=2.5, gear_ratio=0.83))
        self.assertEqual(hubs.inseparable, [])

    def test_tooth_mesh_is_one_frequency_from_both_gears(self) -> None:
        found = orders(OrdersQuestion(speed_kmh=90, circumference_m=2.2, axle_ratio=41 / 10, pinion_teeth=10)).frequencies_hz
        self.assertAlmostEqual(found["axle_mesh"], found["ring_1x"] * 41)

    def test_neutral_leaves_the_engine_to_its_own_speed(self) -> None:
        found = orders(
            OrdersQuestion(speed_kmh=90, circumference_m=2.2, axle_ratio=4.1, engine_rpm=780, cylinders=3, strokes=2)
        ).frequencies_hz
        self.assertEqual((found["engine_1x"], found["engine_firing"]), (13.0, 39.0))

    def test_bearings_turn_with_what_carries_them(self) -> None:
        one = NamedBearing(name="pinion_front", turns_with="prop", balls=14, ball_mm=11, pitch_mm=60, contact_deg=15)
        found = orders(OrdersQuestion(speed_kmh=90, circumference_m=2.2, axle_ratio=4.1, bearings=[one])).frequencies_hz
        self.assertAlmostEqual(found["pinion_front_outer"] + found["pinion_front_inner"], 14 * found["prop_1x"])

    def test_refused(self) -> None:
        good = {"speed_kmh": 90, "circumference_m": 2.2, "axle_ratio": 4.1}
        bearing = {"name": "a", "turns_with": "prop", "balls": 9, "ball_mm": 70, "pitch_mm": 50}
        for change, field in (
            ({"circumference_m": 2200}, "circumference_m"),
            ({"strokes": 3}, "strokes"),
            ({"bearings": [bearing]}, "bearings[0].ball_mm"),
            ({"gear_ratio": 0}, "gear_ratio"),
            ({"cylinders": 0}, "cylinders"),
            ({"bearings": [{**bearing, "ball_mm": 10, "name": " "}]}, "bearings[0].name"),
            ({"bearings": [{**bearing, "ball_mm": 10}] * 21}, "bearings"),
        ):
            with self.subTest(field), self.assertRaises(InvalidInput) as caught:
                registry.run("vibration.orders", {**good, **change})
            self.assertEqual(caught.exception.field, field)


class Rankings(TestCase):
    def test_one_drive_cannot_separate_what_two_gears_can(self) -> None:
        one = Observation(f_hz=44.0, candidates={"prop_1x": 44.5, "engine_1x": 44.5})
        two = Observation(f_hz=44.6, candidates={"prop_1x": 44.5, "engine_1x": 60.1})
        self.assertEqual(set(rank(RankQuestion(observations=[one])).words.values()), {"possible", "unlikely"})
        self.assertEqual(rank(RankQuestion(observations=[one, two])).words["prop_1x"], "likely")

    @settings(max_examples=30)
    @given(st.dictionaries(st.sampled_from(["a", "b", "c", "d"]), st.floats(3, 300), min_size=1), st.floats(3, 300))
    def test_probabilities_add_to_one(self, candidates: dict[str, float], hz: float) -> None:
        found = rank(RankQuestion(observations=[Observation(f_hz=hz, candidates=candidates)]))
        self.assertAlmostEqual(sum(found.probability.values()), 1.0, places=9)
        self.assertEqual(list(found.probability.values()), sorted(found.probability.values(), reverse=True))
        shared = rank_spectrum(SpectrumRankQuestion(peaks=[[hz, 1.0]], candidates=candidates))
        self.assertAlmostEqual(sum(shared.score.values()), 1.0, places=9)

    @settings(max_examples=20)
    @given(st.floats(-0.03, 0.03))
    def test_a_common_error_of_speed_is_found(self, error: float) -> None:
        candidates = {"tyre_1x": 11.0, "prop_1x": 45.1, "prop_2x": 90.2, "engine_1x": 37.0}
        peaks = [[(1 + error) * hz, 1.0] for hz in (11.0, 45.1, 90.2)]
        found = rank_spectrum(SpectrumRankQuestion(peaks=peaks, candidates=candidates, sigma_hz=0.3))
        self.assertEqual(found.per_peak, ["tyre_1x", "prop_1x", "prop_2x"])
        self.assertAlmostEqual(found.scale, 1 + error, delta=0.003)

    def test_far_from_everything_is_unknown(self) -> None:
        found = rank(RankQuestion(observations=[Observation(f_hz=150, candidates={"a": 11.0, "b": 45.0})]))
        self.assertEqual(found.first, "unknown")

    def test_refused(self) -> None:
        for payload, field in (
            ({"observations": []}, "observations"),
            ({"observations": [{"f_hz": 0, "candidates": {"a": 1}}]}, "observations[0].f_hz"),
            ({"observations": [{"f_hz": 5, "candidates": {}}]}, "observations[0].candidates"),
            ({"observations": [{"f_hz": 5, "candidates": {"a": "x"}}]}, "observations[0].candidates.a"),
            ({"observations": [{"f_hz": 5, "candidates": {"a": 5}}], "prior": {"a": 0}}, "prior"),
            ({"observations": [{"f_hz": 5, "candidates": {"a": 5}}], "prior": {"a": -1}}, "prior.a"),
            ({"observations": [{"f_hz": 5, "candidates": {"unknown": 5}}]}, "observations[0].candidates.unknown"),
            ({"observations": [{"f_hz": 5, "candidates": {"a": 5}}], "background": 1.0}, "background"),
            ({"observations": [{"f_hz": 5, "candidates": {"a": 5}}], "f_low_hz": 50, "f_high_hz": 20}, "f_low_hz"),
        ):
            with self.subTest(field), self.assertRaises(InvalidInput) as caught:
                registry.run("vibration.rank", payload)
            self.assertEqual(caught.exception.field, field)


class SpectrumRefused(TestCase):
    def test_peaks_and_doubts_that_are_none(self) -> None:
        good: dict[str, Any] = {"peaks": [[40.0, 1.0]], "candidates": {"prop_1x": 40.0}, "sigma_hz": 0.5}
        self.assertEqual(registry.run("vibration.rank_spectrum", good)["first"], "prop_1x")
        for change, field in (
            ({"peaks": []}, "peaks"),
            ({"peaks": [[40.0]]}, "peaks[0]"),
            ({"peaks": [[40.0, 1.0], [0.0, 1.0]]}, "peaks[1]"),
            ({"peaks": [[40.0, 0.0]]}, "peaks[0]"),
            ({"peaks": [[40.0, 1.0]] * 201}, "peaks"),
            ({"candidates": {}}, "candidates"),
            ({"candidates": {"prop_1x": -1.0}}, "candidates.prop_1x"),
            ({"sigma_hz": 0.0}, "sigma_hz"),
            ({"sigma_scale": 0.0}, "sigma_scale"),
        ):
            with self.subTest(field=field, change=str(change)[:40]), self.assertRaises(InvalidInput) as caught:
                registry.run("vibration.rank_spectrum", {**good, **change})
            self.assertEqual(caught.exception.field, field)


class Spectra(TestCase):
    @settings(max_examples=20, deadline=None)
    @given(st.integers(3, 40), st.floats(0.1, 20), st.sampled_from(["hann", "flat_top", "none"]), st.floats(0, 6))
    def test_a_sine_on_a_line_shows_its_amplitude(self, hz: int, size: float, window: Any, phase: float) -> None:
        wave = [5.0 + size * sin(2 * pi * hz * n / 100 + phase) for n in range(600)]
        found = spectrum(SpectrumQuestion(samples=wave, rate_hz=100, window=window, segment_s=2))
        at = found.frequency_hz.index(float(hz))
        self.assertAlmostEqual(found.amplitude[at], size, places=6)
        self.assertAlmostEqual(found.amplitude[0], 0.0, places=6)
        self.assertEqual((len(found.waterfall.time_s), found.waterfall.time_s[0]), (5, 1.0))

    def test_power_is_that_of_the_samples(self) -> None:
        noise = np.random.default_rng(4).normal(0, 2.0, 20000)
        found = spectrum(SpectrumQuestion(samples=noise.tolist(), rate_hz=100, window="none", segment_s=1, overlap=0))
        self.assertAlmostEqual(sum(a**2 / 2 for a in found.amplitude), 4.0, delta=0.15)

    def test_refused(self) -> None:
        for change, field in (
            ({"samples": [1.0] * 4}, "samples"),
            ({"rate_hz": 0}, "rate_hz"),
            ({"segment_s": 100}, "segment_s"),
            ({"samples": [1.0, float("nan")] * 20}, "samples[1]"),
        ):
            with self.subTest(field), self.assertRaises(InvalidInput) as caught:
                registry.run("vibration.spectrum", {"samples": [1.0] * 100, "rate_hz": 10, **change})
            self.assertEqual(caught.exception.field, field)


class WhatIsFelt(TestCase):
    def ask(self, *tests: FeltTest, **more: Any) -> Any:
        return felt(FeltQuestion(drivetrain=VAN, tests=list(tests) or [FeltTest(speed_kmh=95, gear_ratio=1.0)], **more))

    def test_a_shaking_wheel_and_a_pulse_are_a_tyre(self) -> None:
        found = self.ask(quality="pulse", where="steering_wheel", loads=["drive", "float", "overrun"])
        self.assertEqual(family_of(found.suspects[0].name), "tyre")

    def test_a_tone_on_drive_is_the_mesh(self) -> None:
        found = self.ask(quality="tone", loads=["drive"], where="nowhere_special")
        self.assertEqual(found.suspects[0].name, "axle_mesh")
        self.assertIn("tone", " ".join(found.suspects[0].reasons))

    def test_the_cheapest_check_and_its_outcome_decide(self) -> None:
        counted = FeltTest(speed_kmh=95, gear_ratio=1.0, f_hz=49.0)
        first = self.ask(counted)
        self.assertEqual({one.name for one in first.suspects[:2]}, {"prop_1x", "engine_1x"})
        self.assertEqual(first.next_checks[0].code, "standing")
        self.assertEqual(sorted(one.minutes for one in first.next_checks), [one.minutes for one in first.next_checks])
        gone = self.ask(counted, outcomes=[Outcome(code="standing", result="changed")])
        self.assertEqual((gone.suspects[0].name, gone.suspects[0].word), ("prop_1x", "likely"))
        there = self.ask(counted, outcomes=[Outcome(code="standing", result="stayed")])
        self.assertEqual(there.suspects[0].name, "engine_1x")
        self.assertNotIn("standing", [one.code for one in there.next_checks])

    def test_without_a_frequency_recording_is_offered(self) -> None:
        found = self.ask(quality="buzz")
        self.assertIn("record", [one.code for one in found.next_checks])

    def test_every_family_has_its_weights_and_every_check_a_caution(self) -> None:
        for family in PRIOR:
            self.assertEqual(set(LOADS[family]), {"drive", "float", "overrun"})
            self.assertAlmostEqual(sum(PLACES[family].values()), 1.0, places=9)
        self.assertTrue(all(check.caution and check.how for check in CHECKS))
        self.assertIn("chock both ways", " ".join(check.caution.lower() for check in CHECKS if check.code in ("front_shaft", "half_turn")))
        self.assertEqual(words_of("pinion_front_inner"), "Bearing pinion front: inner race")

    def test_a_front_shaft_is_told_by_taking_it_out(self) -> None:
        found = tell_apart(TwoSources(first="prop_1x", second="front_prop_1x"))
        self.assertEqual(found.checks[0].code, "front_shaft")
        self.assertIn("Front propshaft", found.checks[0].if_it_changes)
        self.assertIn("Propshaft", found.checks[0].if_it_stays)

    def test_refused(self) -> None:
        with self.assertRaises(InvalidInput) as caught:
            self.ask(outcomes=[Outcome(code="luck", result="changed")])
        self.assertEqual(caught.exception.field, "outcomes[0].code")
        with self.assertRaises(InvalidInput):
            TwoSources(first="a", second="a")


class PhoneLogs(TestCase):
    def test_ways_of_writing(self) -> None:
        cases = {
            "commas, units in brackets": "Time (s),Acceleration x (m/s^2),Acceleration y (m/s^2),Acceleration z (m/s^2)\n" + lines(),
            "semicolons and decimal commas": "time;ax;ay;az\n" + lines().replace(",", ";").replace(".", ","),
            "tabs, milliseconds, g": "t [ms]\tx [g]\ty [g]\tz [g]\n" + lines(row="{t:.3f}\t{x:.4f}\t{y:.4f}\t1.0", step=10.0),
            "no header, microseconds": lines(row="{t:.0f},{x:.4f},{y:.4f},9.81", step=10000.0),
            "no header, spaces": lines(row="{t:.3f} {x:.4f} {y:.4f} 9.81"),
            "a preamble": "Logger 3\nstarted 12:00\n\ntime,x,y,z\n" + lines(),
            "a mark before the text": "﻿time,x,y,z\n" + lines(),
            "other line ends": ("time,x,y,z\n" + lines()).replace("\n", "\r\n"),
        }
        for name, text in cases.items():
            with self.subTest(name):
                log = read(text)
                self.assertAlmostEqual(float(log.time_s[-1]), 4.99, places=6)
                self.assertEqual(log.acceleration_m_s2.shape, (500, 3))
                self.assertTrue(log.notes)

    def test_units_are_converted(self) -> None:
        log = read("time (ms),acc (g)\n" + lines(row="{t:.3f},{x:.4f}", step=10.0))
        self.assertAlmostEqual(float(np.abs(log.acceleration_m_s2).max()), 9.80665, delta=0.1)

    def test_clock_times(self) -> None:
        rows = "\n".join(f"2026-11-26T10:00:{n // 100:02d}.{n % 100:02d}0,{n % 7},0,9.8" for n in range(500))
        self.assertAlmostEqual(float(read("timestamp,x,y,z\n" + rows).time_s[-1]), 4.99, places=4)

    def test_a_speed_column_is_taken(self) -> None:
        log = read("time (s),x,y,z,speed (m/s)\n" + lines(row="{t:.3f},{x:.4f},{y:.4f},9.81,20"))
        assert log.speed_kmh is not None
        self.assertAlmostEqual(float(log.speed_kmh.mean()), 72.0)

    def test_a_few_bad_lines_are_left_out_and_told(self) -> None:
        rows = ("time,x,y,z\n" + lines()).splitlines()
        rows[200] = "oops"
        log = read("\n".join(rows))
        self.assertEqual(len(log.time_s), 499)
        self.assertIn("line 201", " ".join(log.notes))

    def test_bad_files_say_what_is_wrong(self) -> None:
        jumbled = lines().splitlines()
        cases = {
            "empty": ("", "is empty"),
            "a photo": (b"\xff\xd8\xff\x00\x10JFIF", "not a text file"),
            "a letter": ("Dear all,\nthe van shakes.\n", "No line of numbers"),
            "one column": ("time\n" + "\n".join(str(n) for n in range(100)), "No line of numbers"),
            "too short": ("time,x\n" + lines(50, row="{t:.3f},{x:.4f}"), "is 0.5 s long"),
            "too slow": ("time (s),x\n" + lines(100, row="{t:.3f},{x:.4f}", step=0.5), "samples a second"),
            "time stands still": ("time,x\n" + "1.0,2.0\n" * 400, "same time"),
            "time goes back": ("time,x,y,z\n" + "\n".join(jumbled[::-1]), "does not run forward"),
            "mostly nonsense": ("time,x,y,z\n" + lines() + "a,b,c,d\n" * 300, "cannot be read"),
        }
        for name, (content, sentence) in cases.items():
            with self.subTest(name), self.assertRaises(InvalidInput) as caught:
                read(content)
            self.assertIn(sentence, caught.exception.message)
            self.assertEqual(caught.exception.field, "file")

    def test_read_in_any_pieces_it_is_the_same(self) -> None:
        text = "time,x,y,z\n" + lines()
        whole = read(text, step=10**6)
        for step in (1, 13, 4096):
            np.testing.assert_array_equal(read(text, step=step).acceleration_m_s2, whole.acceleration_m_s2)

    def test_uneven_steps_are_evened(self) -> None:
        time = np.cumsum(np.random.default_rng(2).uniform(0.004, 0.006, 2000))
        log = Log(time_s=time - time[0], acceleration_m_s2=np.sin(2 * pi * 8 * time)[:, None], speed_kmh=None, notes=[])
        samples, rate = evenly(log)
        self.assertAlmostEqual(rate, 200, delta=3)
        at = np.arange(len(samples)) / rate + time[0]
        self.assertLess(float(np.abs(samples[:-2, 0] - np.sin(2 * pi * 8 * at[:-2])).max()), 0.02)


class RecorderToSuspect(TestCase):
    def chart(self, *faults: str, **more: Any) -> Any:
        run = record(RecorderQuestion(drivetrain=VAN, faults=list(faults), gear_ratio=0.8, **more))
        log = read("".join(csv_lines(run)))
        samples, rate = evenly(log)
        assert log.speed_kmh is not None
        return order_chart(samples, rate, log.time_s, log.speed_kmh)

    def first(self, chart: Any) -> str:
        candidates = orders(VAN.at(chart.reference_kmh, gear_ratio=0.8)).frequencies_hz
        asked = SpectrumRankQuestion(peaks=chart.peaks, candidates=candidates, sigma_hz=max(0.5, chart.resolution_hz), f_high_hz=600)
        return rank_spectrum(asked).first

    def test_every_fault_is_found_from_its_recording(self) -> None:
        wanted = {
            "tyre_balance": {"tyre_1x", "ring_1x"},
            "oval_tyre": {"tyre_2x"},
            "prop_balance": {"prop_1x"},
            "joint_angles": {"prop_2x"},
            "weak_cylinder": {"engine_half"},
            "engine_mount": {"engine_firing"},
        }
        for fault, names in wanted.items():
            with self.subTest(fault):
                self.assertIn(self.first(self.chart(fault, rate_hz=400.0, seconds=40.0)), names)

    def test_a_whine_needs_a_fast_recorder(self) -> None:
        self.assertEqual(self.first(self.chart("gear_whine", rate_hz=1600.0, seconds=20.0)), "axle_mesh")
        self.assertEqual(self.chart("gear_whine", rate_hz=200.0, seconds=20.0).peaks, [])

    def test_a_wrong_speedometer_is_seen(self) -> None:
        chart = self.chart("prop_balance", "joint_angles", speed_error=0.03)
        candidates = orders(VAN.at(chart.reference_kmh)).frequencies_hz
        found = rank_spectrum(SpectrumRankQuestion(peaks=chart.peaks, candidates=candidates, sigma_hz=0.5))
        self.assertAlmostEqual(found.scale, 1.03, delta=0.006)

    def test_nothing_wrong_shows_no_peak(self) -> None:
        self.assertEqual(self.chart("nothing").peaks, [])
        self.assertEqual(FAULTS["nothing"], {})

    def test_a_steady_drive_is_one_column_and_a_run_up_many(self) -> None:
        steady = self.chart("prop_balance", from_kmh=90.0, to_kmh=90.0)
        self.assertEqual(len(steady.cells), 1)
        run = self.chart("prop_balance")
        self.assertGreater(len(run.cells), 10)
        self.assertEqual((len(run.speed_edges_kmh), len(run.frequency_edges_hz)), (len(run.cells) + 1, len(run.cells[0]) + 1))
