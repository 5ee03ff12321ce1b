"""Recordings of every make against what was driven: layouts at random, charts of known drives, and what people feel of each fault."""

from __future__ import annotations

from dataclasses import replace
from typing import Any
from unittest import TestCase

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from amber_core import payload, registry
from amber_core.errors import InvalidInput
from amber_core.simulated.recorder import FAULTS, RecorderQuestion, csv_lines, record
from amber_core.vibration.felt import FeltQuestion, FeltTest, Outcome, felt
from amber_core.vibration.log_layout import (
    ACCELERATION_UNITS,
    SPEED_UNITS,
    TIME_UNITS,
    detect,
    guess_axis_unit,
    guess_time_unit,
    split_line,
)
from amber_core.vibration.order_chart import FREQUENCY_CELLS, SPEED_CELLS, OrderChart, order_chart
from amber_core.vibration.orders import Drivetrain, NamedBearing, orders
from amber_core.vibration.phone_log import LogReader
from amber_core.vibration.rank import SpectrumRankQuestion, rank_spectrum
from amber_core.vibration.sources import CHECKS, LOADS, PLACES, PRIOR, QUALITIES, family_of, words_of
from amber_core.vibration.spectrum import peaks_of, pieces
from amber_core.vibration.tell_apart import TwoSources, tell_apart

FOUR = Drivetrain(circumference_m=2.44, axle_ratio=4.1, transfer_ratio=1.2, pinion_teeth=10, cylinders=4, front_shaft=True)


def read(text: str) -> Any:
    reader = LogReader()
    reader.feed(text.encode())
    return reader.finish()


class Bounds(TestCase):
    """A small file that would need gigabytes, or never come to an end: a sentence instead."""

    GOOD = [(n / 100.0, 0.1 * (n % 7), 9.8) for n in range(600)]

    def refused(self, rows: list[tuple[float, ...]], words: str, header: str = "time (s),ax (m/s2),az (m/s2)") -> None:
        with self.assertRaises(InvalidInput) as caught:
            read("\n".join([header, *(",".join(map(repr, row)) for row in rows)]) + "\n")
        self.assertEqual(caught.exception.field, "file")
        self.assertIn(words, caught.exception.message)

    def test_a_last_stamp_days_later(self) -> None:
        for days in (1.0, 10.0, 1e4, 1e300):
            with self.subTest(days=days):
                self.refused([*self.GOOD, (86400.0 * days, 0.0, 9.8)], "The most is 2 h.")

    def test_a_long_gap(self) -> None:
        self.refused([*self.GOOD, *((time + 600.0, ax, az) for time, ax, az in self.GOOD)], "There is a gap of 594 s after 6 s")

    def test_figures_that_no_sensor_gives(self) -> None:
        self.refused([*self.GOOD[:-1], (5.99, 1e200, 9.8)], "which no sensor reads")
        with_speed = [(*row, 60.0) for row in self.GOOD]
        header = "time (s),ax (m/s2),az (m/s2),speed (km/h)"
        self.refused([*with_speed[:-1], (5.99, 0.0, 9.8, 1e200)], "a road speed of 1e+200 km/h", header)

    def test_a_line_without_end_is_refused_before_it_is_held(self) -> None:
        reader = LogReader()
        reader.feed(("time (s),ax (m/s2),az (m/s2)\n" + "\n".join(",".join(map(repr, row)) for row in self.GOOD * 9)).encode())
        with self.assertRaises(InvalidInput) as caught:
            for _ in range(40):
                reader.feed(b"1" * 2**20)
        self.assertIn("more than 10000 characters", caught.exception.message)
        with self.assertRaises(InvalidInput):
            read("1" * 200_000)

    def test_too_many_samples(self) -> None:
        fast = [(n / 16000.0, 0.0, 9.8) for n in range(48_000)]
        self.refused([*fast, *((3.0 + 55.0 * n, 0.0, 9.8) for n in range(1, 20))], "samples a second is too much")


class Layouts(TestCase):
    @settings(max_examples=60, deadline=None)
    @given(
        st.sampled_from([",", ";", "\t", " "]),
        st.sampled_from(list(TIME_UNITS)),
        st.sampled_from(list(ACCELERATION_UNITS)),
        st.integers(1, 3),
        st.booleans(),
        st.sampled_from([None, *SPEED_UNITS]),
    )
    def test_whatever_a_logger_writes_is_one_recording(
        self, separator: str, time_unit: str, axis_unit: str, axes: int, comma: bool, speed_unit: str | None
    ) -> None:
        comma = comma and separator in (";", "\t")
        time = np.arange(300) / 100.0
        wave = np.stack([np.sin(2 * np.pi * (5 + 3 * axis) * time) for axis in range(axes)], axis=-1)
        names = [f"time[{time_unit}]", *(f"acc_{'xyz'[axis]}[{axis_unit}]" for axis in range(axes))]
        columns = [time / TIME_UNITS[time_unit], *(wave / ACCELERATION_UNITS[axis_unit]).T]
        if speed_unit is not None:
            names.append(f"speed[{speed_unit}]")
            columns.append(np.full(300, 72.0 / SPEED_UNITS[speed_unit]))
        rows = [separator.join(f"{one:.9f}" for one in row) for row in np.stack(columns, axis=-1)]
        text = "\n".join([separator.join(names), *(row.replace(".", ",") if comma else row for row in rows)])
        log = read(text)
        np.testing.assert_allclose(log.time_s, time, atol=1e-6)
        np.testing.assert_allclose(log.acceleration_m_s2, wave, atol=1e-5)
        if speed_unit is None:
            self.assertIsNone(log.speed_kmh)
        else:
            np.testing.assert_allclose(log.speed_kmh, 72.0, atol=1e-4)

    def test_columns_that_are_no_acceleration_are_left_alone(self) -> None:
        header = "seconds_elapsed,gyro x,gyro y,acceleration x,acceleration y,acceleration z,acceleration absolute,accuracy"
        rows = "\n".join(f"{n / 100:.2f},9,9,{n % 3},{n % 5},9.81,99,1" for n in range(400))
        log = read(f"{header}\n{rows}\n")
        self.assertEqual(log.acceleration_m_s2.shape, (400, 3))
        self.assertAlmostEqual(float(log.acceleration_m_s2[:, 2].mean()), 9.81)
        self.assertIn("acceleration x", log.notes[0])

    def test_a_speed_that_comes_only_now_and_then_is_filled(self) -> None:
        rows = "\n".join(f"{n / 100:.2f},0,0,9.81,{20 + n / 100 if n % 100 == 0 else ''}" for n in range(401))
        log = read("time (s),x,y,z,speed (m/s)\n" + rows)
        assert log.speed_kmh is not None
        self.assertAlmostEqual(float(log.speed_kmh[250]), 3.6 * 22.5, places=6)

    def test_gaps_are_bridged_and_told(self) -> None:
        rows = "\n".join(f"{n / 100 + (1.0 if n > 200 else 0.0):.2f},{n % 7},0,9.81" for n in range(500))
        self.assertIn("1 gaps in the recording were bridged", " ".join(read("time,x,y,z\n" + rows).notes))

    def test_units_nobody_told(self) -> None:
        self.assertEqual([guess_time_unit(step) for step in (0.01, 10.0, 1e4, 1e7)], ["s", "ms", "us", "ns"])
        for size, unit in ((9.81, "m/s2"), (1.0, "g"), (1000.0, "mg"), (0.0, "m/s2")):
            self.assertEqual(guess_axis_unit(np.tile([0.0, 0.0, size], (10, 1))), unit)

    def test_where_the_numbers_begin(self) -> None:
        layout, skipped, _ = detect(["Device: x", "", "t;ax;ay;az", "0,00;1;2;3", "0,01;1;2;3"])
        self.assertEqual((layout.separator, layout.comma, skipped, layout.axes), (";", True, 3, [1, 2, 3]))
        self.assertEqual(split_line('"1", "2"', ","), ["1", "2"])
        with self.assertRaises(InvalidInput):
            detect(["a", "b"])


class Charts(TestCase):
    def chart(self, hz_per_kmh: float | None, *, steady_hz: float = 0.0, speeds: tuple[float, float] = (50.0, 100.0)) -> OrderChart:
        rate, seconds = 200.0, 60.0
        time = np.arange(int(rate * seconds)) / rate
        speed = np.linspace(*speeds, len(time))
        hz = hz_per_kmh * speed if hz_per_kmh is not None else np.full(len(time), steady_hz)
        wave = np.sin(2 * np.pi * np.cumsum(hz) / rate)
        noise = 0.02 * np.random.default_rng(3).normal(size=len(time))
        return order_chart((wave + noise)[:, None], rate, time, speed)

    def test_what_turns_with_the_wheels_keeps_its_place(self) -> None:
        found = self.chart(0.5)
        self.assertAlmostEqual(found.reference_kmh, 75.0, delta=0.6)
        self.assertAlmostEqual(found.peaks[0][0], 0.5 * found.reference_kmh, delta=0.3)
        self.assertEqual(len(found.peaks), 1)

    def test_what_does_not_is_smeared(self) -> None:
        turning, steady = self.chart(0.5), self.chart(None, steady_hz=37.5)
        self.assertLess(max(steady.amplitude), 0.6 * max(turning.amplitude))

    def test_a_line_runs_along_its_order_in_the_cells(self) -> None:
        found = self.chart(0.5)
        self.assertLessEqual((len(found.cells), len(found.cells[0])), (SPEED_CELLS, FREQUENCY_CELLS))
        for column, (low, high) in zip(found.cells, zip(found.speed_edges_kmh, found.speed_edges_kmh[1:], strict=False), strict=True):
            plain = [one if one is not None else 0.0 for one in column]
            row = int(np.argmax(plain))
            hz = (found.frequency_edges_hz[row] + found.frequency_edges_hz[row + 1]) / 2
            self.assertTrue(0.5 * low - 1.5 <= hz <= 0.5 * high + 1.5, (low, high, hz))

    def test_standing_still_is_no_division_by_nothing(self) -> None:
        found = self.chart(None, steady_hz=20.0, speeds=(0.0, 0.0))
        self.assertTrue(np.isfinite(found.reference_kmh))
        self.assertEqual(len(found.cells), 1)

    def test_axes_are_added_in_power(self) -> None:
        time = np.arange(2000) / 200.0
        wave = np.stack([3.0 * np.sin(2 * np.pi * 10 * time), 4.0 * np.cos(2 * np.pi * 10 * time)], axis=-1)
        _, frequency, power = pieces(wave, 200.0, 400, 0.5)
        self.assertAlmostEqual(float(np.sqrt(power.mean(axis=0)[np.argmin(abs(frequency - 10))])), 5.0, places=6)

    def test_a_chart_outlives_being_stored(self) -> None:
        found = self.chart(0.5)
        self.assertEqual(OrderChart(**payload.plain(found)), found)

    def test_peaks_stand_out_and_lie_between_lines(self) -> None:
        frequency = np.arange(0, 100, 0.5)
        floor = np.full(len(frequency), 0.01)
        height = floor + np.exp(-((frequency - 42.2) ** 2) / 0.5)
        found = peaks_of(frequency, height, least_hz=2, most_hz=90)
        self.assertEqual(len(found), 1)
        self.assertAlmostEqual(found[0][0], 42.2, delta=0.1)
        self.assertEqual(peaks_of(frequency, floor, least_hz=2, most_hz=90), [])
        self.assertEqual(peaks_of(frequency, height, least_hz=50, most_hz=90), [])


class Recorders(TestCase):
    def ranked(self, fault: str, seed: int, error: float) -> tuple[list[str], set[str]]:
        """What a recorded fault is taken for, likeliest first; and the names that have its frequency."""
        asked = RecorderQuestion(
            drivetrain=FOUR, faults=[fault], gear_ratio=0.8, rate_hz=250, seconds=30, seed=seed, speed_error=error, from_kmh=50, to_kmh=90
        )
        log = read("".join(csv_lines(record(asked))))
        chart = order_chart(log.acceleration_m_s2, 250.0, log.time_s, log.speed_kmh)
        candidates = orders(FOUR.at(chart.reference_kmh, gear_ratio=0.8)).frequencies_hz
        prior = {name: PRIOR[family_of(name)] for name in candidates}
        found = rank_spectrum(SpectrumRankQuestion(peaks=chart.peaks, candidates=candidates, prior=prior, sigma_hz=0.6))
        strongest = max(FAULTS[fault].items(), key=lambda one: one[1])[0]
        alike = {name for name, hz in candidates.items() if abs(hz - candidates[strongest]) < 0.1}
        return list(found.score), alike

    @settings(max_examples=12, deadline=None)
    @given(st.sampled_from(["tyre_balance", "oval_tyre", "prop_balance", "joint_angles"]), st.integers(0, 10**6), st.floats(-0.02, 0.02))
    def test_a_fault_is_found_whatever_the_noise_and_the_speedometer(self, fault: str, seed: int, error: float) -> None:
        told, alike = self.ranked(fault, seed, error)
        self.assertIn(told[0], alike)

    def test_one_line_between_two_parts_is_told_of_both(self) -> None:
        """Propshaft twice and engine firing lie 4 % apart here: a speedometer 3 % out leaves one line nearer to the wrong one."""
        told, alike = self.ranked("joint_angles", 1, -0.03)
        self.assertEqual(told[0], "engine_firing")
        self.assertIn(told[1], alike)

    def test_gravity_is_in_and_the_run_is_the_one_asked_for(self) -> None:
        run = record(RecorderQuestion(drivetrain=FOUR, faults=["nothing"], from_kmh=40, to_kmh=60, seconds=10))
        self.assertAlmostEqual(float(run.acceleration_m_s2[:, 2].mean()), 9.80665, delta=0.05)
        self.assertEqual((run.shown_kmh[0], run.shown_kmh[-1], len(run.time_s)), (40.0, 60.0, 2000))

    def test_the_same_seed_is_the_same_drive(self) -> None:
        one, two = (record(RecorderQuestion(drivetrain=FOUR, seed=5)).acceleration_m_s2 for _ in range(2))
        np.testing.assert_array_equal(one, two)

    def test_refused(self) -> None:
        cases: list[tuple[dict[str, Any], str]] = [
            ({"faults": ["luck"]}, "faults[0]"),
            ({"from_kmh": 900}, "from_kmh"),
            ({"seconds": 1}, "seconds"),
            ({"rate_hz": 5}, "rate_hz"),
            ({"speed_error": 0.5}, "speed_error"),
        ]
        for change, field in cases:
            with self.subTest(field), self.assertRaises(InvalidInput) as caught:
                RecorderQuestion(drivetrain=FOUR, **change)
            self.assertEqual(caught.exception.field, field)


class Suspects(TestCase):
    def test_each_family_is_first_where_everything_speaks_for_it(self) -> None:
        """Felt where it mostly is, under its loads, at its frequency, and every check answered as it would."""
        bearing = NamedBearing(name="pinion_front", turns_with="prop", balls=14, ball_mm=11, pitch_mm=60, contact_deg=15)
        vehicle = replace(FOUR, bearings=[bearing])
        hz = orders(vehicle.at(90, gear_ratio=0.8)).frequencies_hz
        for name in ("tyre_1x", "prop_1x", "prop_2x", "axle_mesh", "engine_firing", "gearbox_output_1x", "front_prop_1x"):
            family = family_of(name)
            where = max(PLACES[family].items(), key=lambda one: one[1])[0]
            loads = [load for load, chance in LOADS[family].items() if chance >= 0.5]
            outcomes = [
                Outcome(code=check.code, result="changed" if check.chance(family) >= 0.5 else "stayed")
                for check in CHECKS
                if abs(check.chance(family) - 0.5) > 0.2
            ]
            asked = FeltQuestion(
                drivetrain=vehicle,
                tests=[FeltTest(speed_kmh=90, gear_ratio=0.8, f_hz=hz[name], sigma_hz=0.5)],
                where=where,
                loads=loads,
                outcomes=outcomes,
            )
            with self.subTest(name):
                found = felt(asked)
                self.assertEqual(family_of(found.suspects[0].name), family, [(one.name, one.probability) for one in found.suspects[:3]])
                self.assertEqual([one.code for one in found.made], [one.code for one in outcomes])
                self.assertTrue(all(one.title for one in found.made))

    def test_every_source_has_words_and_every_quality_a_range(self) -> None:
        for name in orders(FOUR.at(90, gear_ratio=0.8)).frequencies_hz:
            self.assertIn(":", words_of(name) + ":")
            self.assertNotIn("_", words_of(name))
        self.assertTrue(all(low < high for low, high in QUALITIES.values()))

    def test_the_cheapest_is_first_and_each_outcome_means_another_part(self) -> None:
        names = ["tyre_1x", "ring_1x", "prop_1x", "prop_2x", "front_prop_1x", "axle_mesh", "engine_1x", "gearbox_output_1x"]
        for first in names:
            for second in names:
                if family_of(first) == family_of(second):
                    continue
                found = tell_apart(TwoSources(first=first, second=second, measured=True))
                with self.subTest(f"{first} or {second}"):
                    self.assertEqual([one.minutes for one in found.checks], sorted(one.minutes for one in found.checks))
                    for check in found.checks:
                        self.assertNotEqual(check.if_it_changes, check.if_it_stays)
                        self.assertTrue(check.caution)

    def test_checks_that_were_made_are_not_asked_for_again(self) -> None:
        once = tell_apart(TwoSources(first="prop_1x", second="engine_1x"))
        again = tell_apart(TwoSources(first="prop_1x", second="engine_1x", made=[one.code for one in once.checks]))
        self.assertFalse({one.code for one in once.checks} & {one.code for one in again.checks})

    def test_counting_is_offered_only_where_frequencies_differ(self) -> None:
        for hz, offered in ((44.0, False), (90.0, True)):
            found = tell_apart(TwoSources(first="prop_1x", second="prop_2x", first_hz=45.0, second_hz=hz))
            self.assertEqual("record" in [one.code for one in found.checks], offered)

    def test_refused(self) -> None:
        for change, field in (
            ({"tests": []}, "tests"),
            ({"tests": [{"speed_kmh": 0}]}, "tests[0].speed_kmh"),
            ({"tests": [{"speed_kmh": 90, "f_hz": -1}]}, "tests[0].f_hz"),
            ({"quality": "smell"}, "quality"),
            ({"outcomes": [{"code": "standing", "result": "stayed"}] * 30}, "outcomes"),
        ):
            body = {"drivetrain": {"circumference_m": 2.2, "axle_ratio": 4.1}, "tests": [{"speed_kmh": 90}], **change}
            with self.subTest(field), self.assertRaises(InvalidInput) as caught:
                registry.run("vibration.felt", body)
            self.assertEqual(caught.exception.field, field)
