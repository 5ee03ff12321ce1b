"""Tubes: figures of the table, the beam against other solutions of it, and what is refused."""

from __future__ import annotations

from math import cos, cosh, pi, sin, sinh, sqrt
from typing import Any
from unittest import TestCase

from hypothesis import assume, given, settings
from hypothesis import strategies as st
from scipy.optimize import brentq

from amber_core import registry
from amber_core.errors import InvalidInput
from amber_core.shafts.bending import FittedShaft, SupportedShaft, on_supports, with_ends
from amber_core.shafts.material import Material
from amber_core.shafts.torque import TorqueQuestion, design_torque
from amber_core.shafts.tube import LengthQuestion, ShaftQuestion, TubePair, compare_tubes, max_length, shaft

STEEL = ShaftQuestion(outer_mm=76.2, wall_mm=2.1, length_mm=1500)


class Tubes(TestCase):
    def test_the_table(self) -> None:
        rows: list[tuple[float, float, Any, float, float, float, float]] = [
            (76.2, 2.1, "steel", 5637, 5.76, 0.0079, 4885),
            (88.9, 2.1, "steel", 6603, 6.74, 0.0127, 6729),
            (101.6, 2.1, "steel", 7569, 7.73, 0.0191, 8867),
            (101.6, 3.2, "aluminium", 7371, 4.01, 0.0097, 7519),
            (100.0, 4.0, "carbon", 11249, 2.90, 0.0067, 5569),
        ]
        for outer, wall, material, rpm, mass, inertia, torque in rows:
            with self.subTest(outer=outer, material=material):
                found = shaft(ShaftQuestion(outer_mm=outer, wall_mm=wall, material=material, length_mm=1500))
                self.assertAlmostEqual(found.critical_rpm, rpm, delta=1.0)
                self.assertAlmostEqual(found.mass_kg, mass, delta=0.006)
                self.assertAlmostEqual(found.inertia_kgm2, inertia, delta=6e-5)
                self.assertAlmostEqual(found.torque_yield_nm, torque, delta=1.5)

    def test_shear_takes_nearly_a_hundredth(self) -> None:
        found = shaft(STEEL)
        self.assertAlmostEqual(found.critical_with_shear_rpm / found.critical_rpm - 1.0, -0.009, delta=0.001)

    @settings(max_examples=30)
    @given(st.floats(40, 150), st.floats(1.2, 6), st.floats(500, 8000))
    def test_the_longest_shaft_is_just_allowed(self, outer: float, wall: float, rpm: float) -> None:
        length = max_length(LengthQuestion(outer_mm=outer, wall_mm=wall, rpm=rpm)).max_length_mm
        assume(50 <= length <= 6000)
        found = shaft(ShaftQuestion(outer_mm=outer, wall_mm=wall, length_mm=length, rpm=rpm))
        self.assertAlmostEqual(found.allowed_rpm, rpm, places=6)
        self.assertEqual(found.verdict, "edge")
        self.assertEqual(shaft(ShaftQuestion(outer_mm=outer, wall_mm=wall, length_mm=length, rpm=1.05 * rpm)).verdict, "out")

    def test_half_the_bending_speed_is_named(self) -> None:
        codes = {one.code for one in shaft(ShaftQuestion(outer_mm=76.2, wall_mm=2.1, length_mm=1500, rpm=2800)).reasons}
        self.assertIn("near_half_critical", codes)
        codes = {one.code for one in shaft(ShaftQuestion(outer_mm=76.2, wall_mm=2.1, length_mm=1500, rpm=2000)).reasons}
        self.assertNotIn("near_half_critical", codes)

    def test_the_makers_figures_count_before_typical_ones(self) -> None:
        made = Material(e_gpa=120, density_kg_m3=1550, g_gpa=22, yield_mpa=200, shear_mpa=140)
        found = shaft(ShaftQuestion(outer_mm=100, wall_mm=4, length_mm=1500, material=made))
        self.assertEqual(found.material_note, "as entered")
        typical = shaft(ShaftQuestion(outer_mm=100, wall_mm=4, length_mm=1500, material="carbon"))
        self.assertIn("placeholder", typical.material_note)
        self.assertAlmostEqual(found.torque_yield_nm / typical.torque_yield_nm, 1.4, places=6)

    def test_two_tubes(self) -> None:
        found = compare_tubes(TubePair(a=STEEL, b=ShaftQuestion(outer_mm=101.6, wall_mm=3.2, material="aluminium", length_mm=1500)))
        self.assertAlmostEqual(found.ratios["mass_kg"], 4.006 / 5.756, places=3)
        self.assertNotIn("max_speed_kmh", found.ratios)

    def test_refused(self) -> None:
        good = {"outer_mm": 76.2, "wall_mm": 2.1, "length_mm": 1500}
        for change, field in (
            ({"wall_mm": 40}, "wall_mm"),
            ({"outer_mm": 3}, "outer_mm"),
            ({"length_mm": 1.5}, "length_mm"),
            ({"material": "wood"}, "material"),
            ({"fraction": 2}, "fraction"),
        ):
            with self.subTest(field), self.assertRaises(InvalidInput) as caught:
                registry.run("shaft.tube", {**good, **change})
            self.assertEqual(caught.exception.field, field)


class Bending(TestCase):
    def test_ends_like_the_tube_leave_the_plain_beam(self) -> None:
        tube = STEEL.mass_kg_per_m
        plain = STEEL.critical_rpm(1500)
        light = with_ends(FittedShaft(outer_mm=76.2, wall_mm=2.1, length_mm=1500, end_length_mm=1.0, end_mass_kg=tube * 0.001)).critical_rpm
        self.assertAlmostEqual(light / plain, 1.0, delta=4e-3)

    def test_rigid_ends_against_a_beam_solved_by_hand(self) -> None:
        """Half the shaft: a rigid massless lever e, pinned at its end, then a beam of half length to the middle (slope 0, shear 0)."""
        length, end = 1.5, 0.09
        half = length / 2.0 - end

        def remainder(k: float) -> float:
            # w = A cos kx + B cosh kx from the middle outward is symmetric; at x = half a lever: w + e w' = 0 and w'' + e w''' = 0
            x = k * half
            w = (cos(x), cosh(x))
            d1 = (-k * sin(x), k * sinh(x))
            d2 = (-(k**2) * cos(x), k**2 * cosh(x))
            d3 = (k**3 * sin(x), k**3 * sinh(x))
            first = [w[i] + end * d1[i] for i in (0, 1)]
            second = [d2[i] + end * d3[i] for i in (0, 1)]
            return first[0] * second[1] - first[1] * second[0]

        k = brentq(remainder, 1.0, pi / (2 * half) * 1.4)
        stiff_rpm = 30 / pi * k**2 * sqrt(STEEL.bending_n_m2 / STEEL.mass_kg_per_m)
        found = with_ends(FittedShaft(outer_mm=76.2, wall_mm=2.1, length_mm=1500, end_length_mm=90, end_mass_kg=1e-6)).critical_rpm
        # 50 times as stiff is not quite rigid
        self.assertLess(found, stiff_rpm)
        self.assertAlmostEqual(found / stiff_rpm, 1.0, delta=0.01)

    def test_soft_supports_always_lower_and_stiff_ones_do_not_matter(self) -> None:
        for stiffness, least, most in ((5e6, 4000, 5600), (1e12, 5607, 5608.01)):
            found = on_supports(
                SupportedShaft(mass_kg=9.5, shaft_critical_rpm=5608, support_front_n_per_m=stiffness, support_rear_n_per_m=stiffness)
            ).critical_rpm
            self.assertTrue(least < found < most, found)

    def test_supports_in_the_beam_itself(self) -> None:
        ends: dict[str, Any] = {"outer_mm": 76.2, "wall_mm": 2.1, "length_mm": 1500, "end_length_mm": 90, "end_mass_kg": 2.0}
        stiff = with_ends(FittedShaft(**ends)).critical_rpm
        soft = with_ends(FittedShaft(**ends, support_front_n_per_m=5e6, support_rear_n_per_m=5e6)).critical_rpm
        self.assertAlmostEqual(soft, 5102, delta=0.5)
        # Dunkerley's sum is a lower bound of the same shaft, and not far below
        mass = FittedShaft(**ends).mass_kg
        bound = on_supports(SupportedShaft(mass_kg=mass, shaft_critical_rpm=stiff, support_front_n_per_m=5e6, support_rear_n_per_m=5e6))
        self.assertTrue(0.93 * soft < bound.critical_rpm < soft < stiff)
        one = with_ends(FittedShaft(**ends, support_rear_n_per_m=5e6)).critical_rpm
        other = with_ends(FittedShaft(**ends, support_front_n_per_m=5e6)).critical_rpm
        self.assertTrue(soft < one < stiff)
        self.assertAlmostEqual(one, other, delta=1e-6 * one)
        rigid = with_ends(FittedShaft(**ends, support_front_n_per_m=1e12, support_rear_n_per_m=1e12)).critical_rpm
        self.assertAlmostEqual(rigid, stiff, delta=0.01)
        # on springs far softer than the tube it is a bar that bounces: w^2 = 2 k / m
        bounce = with_ends(FittedShaft(**ends, support_front_n_per_m=1e3, support_rear_n_per_m=1e3)).critical_rpm
        self.assertAlmostEqual(bounce, 30 / pi * sqrt(2e3 / mass), delta=0.05)
        with self.assertRaises(InvalidInput) as caught:
            FittedShaft(**ends, support_front_n_per_m=5.0)
        self.assertEqual(caught.exception.field, "support_front_n_per_m")

    def test_held_against_a_speed(self) -> None:
        held = {"mass_kg": 9.5, "shaft_critical_rpm": 5608, "support_front_n_per_m": 5e6, "support_rear_n_per_m": 5e6}
        safe = on_supports(SupportedShaft(**held)).allowed_rpm
        for rpm, verdict in ((None, "unknown"), (0.9 * safe, "in"), (0.99 * safe, "edge"), (1.01 * safe, "out")):
            with self.subTest(verdict):
                found = on_supports(SupportedShaft(**held, rpm=rpm))
                self.assertEqual((found.verdict, found.allowed_rpm), (verdict, safe))
        with self.assertRaises(InvalidInput) as caught:
            SupportedShaft(**held, rpm=-1)
        self.assertEqual(caught.exception.field, "rpm")

    def test_a_rigid_bar_on_two_unlike_springs(self) -> None:
        """m y'' + (kf + kr) y + (kr - kf) a q = 0, m a^2/3 q'' + (kr - kf) a y + (kf + kr) a^2 q = 0, a half length: its lower mode."""
        mass, front, rear = 9.5, 4e6, 7e6
        found = on_supports(
            SupportedShaft(mass_kg=mass, shaft_critical_rpm=1e6, support_front_n_per_m=front, support_rear_n_per_m=rear)
        ).critical_rpm
        p, q, r = mass**2 / 3.0, mass * (front + rear) * 4.0 / 3.0, (front + rear) ** 2 - (rear - front) ** 2
        square = (q - sqrt(q**2 - 4.0 * p * r)) / (2.0 * p)
        self.assertAlmostEqual(found, 30 / pi * sqrt(square), delta=2.0)

    def test_what_a_fitted_shaft_weighs(self) -> None:
        bare = FittedShaft(outer_mm=76.2, wall_mm=2.1, length_mm=1500, end_length_mm=1, end_mass_kg=0)
        self.assertAlmostEqual(bare.mass_kg, 5.76 * 1.498 / 1.5, places=2)
        fitted = FittedShaft(outer_mm=76.2, wall_mm=2.1, length_mm=1500, end_length_mm=90, end_mass_kg=2.0)
        self.assertAlmostEqual(fitted.mass_kg, 5.76 * 1.32 / 1.5 + 4.0, places=2)

    def test_refused(self) -> None:
        with self.assertRaises(InvalidInput):
            FittedShaft(outer_mm=76.2, wall_mm=2.1, length_mm=150, end_length_mm=90, end_mass_kg=2)


class Torque(TestCase):
    def test_the_smaller_governs(self) -> None:
        asked = {"engine_nm": 380, "low_ratio": 10.6, "axle_load_kg": 1600, "circumference_m": 2.43, "ratio": 4.1}
        low = design_torque(TorqueQuestion(**asked))
        self.assertEqual(low.design_nm, low.slip_nm)
        top = design_torque(TorqueQuestion(**{**asked, "low_ratio": 1.0}))
        self.assertEqual(top.design_nm, top.engine_nm)
