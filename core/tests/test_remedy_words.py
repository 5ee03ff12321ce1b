"""What a plan says: every kind of change in its sentence, its effect, and what it costs elsewhere."""

from __future__ import annotations

from dataclasses import replace
from unittest import TestCase

import numpy as np

from amber_core.driveline.axes import AxisAngles
from amber_core.driveline.remedy_words import Change, change_of, reasons_of
from amber_core.driveline.variables import Variable, before, score, settings_for
from amber_core.driveline.vehicle import Case, CentreBearing, Mount, Vehicle

CAR = Vehicle(
    output_joint_mm=[0, 0, 0],
    output_axis=AxisAngles(side_deg=4),
    pinion_joint_mm=[1700, 40, -200],
    pinion_axis=AxisAngles(side_deg=1),
    axle_centre_mm=[1980, 40, -230],
    centre_bearing=CentreBearing(bearing_mm=[560, 0, -45], joint_from_front_mm=620),
    mount=Mount(pivot_mm=[-900, 0, 50], mount_mm=[-100, 0, -60]),
    cases=[Case(name="cruise", weight=3), Case(name="bump", dz_mm=60)],
)
VARIABLES = [
    Variable(name="wedge_deg", low=-6, high=6),
    Variable(name="shim_mm", low=-20, high=20),
    Variable(name="mount_mm", low=-20, high=20),
    Variable(name="clock_shaft_2", low=-45, high=45, teeth=32),
]


def said(index: int, amount: float, front: tuple[float, float] | None = None, variables: list[Variable] = VARIABLES) -> Change:
    now = before(CAR, variables)
    values = now.copy()
    values[index] += amount
    return change_of(CAR, variables, now, values, index, front)


class Sentences(TestCase):
    def test_wedges_say_which_way_the_nose_goes_and_how_far_the_joint_moves(self) -> None:
        up, down = said(0, 2.5), said(0, -2.5)
        self.assertIn("Fit wedges of 2.5 degrees under the spring pads, pinion nose up.", up.text)
        self.assertIn("nose down", down.text)
        self.assertIn("joint moves 12 mm with it", up.costs[0])
        self.assertIn("brake pipes", up.costs[1])
        self.assertIsNone(up.teeth)

    def test_a_shim_under_the_bearing_says_that_the_joint_moves_more(self) -> None:
        raised, lowered = said(1, 8), said(1, -8)
        self.assertEqual((raised.text, lowered.text), ("Raise the centre bearing by 8 mm.", "Lower the centre bearing by 8 mm."))
        self.assertIn("moves 9 mm, more than the centre bearing itself", raised.costs[0])

    def test_a_tail_mount_says_what_becomes_of_the_front_shaft(self) -> None:
        alone = said(2, -10)
        self.assertIn("Lower the tail of the gearbox", alone.text)
        self.assertIn("slopes 0.7 degrees more", alone.costs[0])
        self.assertIn("Enter it to see", alone.costs[1])
        fine, broken = said(2, 10, (0.4, 0.8)), said(2, 10, (0.4, 1.3))
        self.assertIn("stays within its limits: 40 to 80 %", fine.costs[1])
        self.assertIn("goes out of its limits: 40 to 130 %", broken.costs[1])

    def test_forks_are_told_in_whole_teeth_and_by_who_looks_from_where(self) -> None:
        one, two, back = said(3, 11.25), said(3, 22.5), said(3, -22.5)
        self.assertEqual((one.teeth, two.teeth, back.teeth), (1, 2, -2))
        self.assertIn("by 1 tooth clockwise (11.2 degrees), seen from the gearbox end.", one.text)
        self.assertIn("2 teeth clockwise", two.text)
        self.assertIn("2 teeth anticlockwise", back.text)
        self.assertIn("Mark both halves", one.costs[0])

    def test_half_a_tooth_of_an_odd_spline_is_nearly_half_a_turn(self) -> None:
        odd = [*VARIABLES[:3], Variable(name="clock_shaft_2", low=-45, high=45, teeth=31)]
        change = said(3, 180.0 / 31, variables=odd)
        self.assertEqual(change.teeth, -15)
        self.assertIn("15 teeth anticlockwise", change.text)
        self.assertAlmostEqual((-15 * 360.0 / 31) % 180.0, 180.0 / 31, places=9)

    def test_without_a_spline_in_degrees(self) -> None:
        bare = [*VARIABLES[:3], Variable(name="clock_shaft_2", low=-45, high=45)]
        self.assertIn("Turn the rear yoke of propshaft 2 by 7 degrees anticlockwise", said(3, -7.0, variables=bare).text)

    def test_the_effect_is_that_of_this_change_alone(self) -> None:
        change = said(0, 3.0)
        self.assertRegex(
            change.does, r"^On its own, at cruise: equivalent angle \d+\.\d to \d+\.\d degrees; joint angles (\d+\.\d to \d+\.\d, ){2}\d"
        )

    def test_reasons(self) -> None:
        self.assertIn("Nothing needs changing", " ".join(reasons_of(True, [], [])))
        self.assertIn("least work", " ".join(reasons_of(True, [0], [])))
        self.assertIn("comes nearest", " ".join(reasons_of(False, [0], [])))
        self.assertIn("would do as well", " ".join(reasons_of(True, [0], [["shim_mm"]])))


class Variables(TestCase):
    def test_ladders_hold_what_changes_nothing(self) -> None:
        clocked = replace(CAR, clock_deg=[0.0, 4.0])
        for one in [*VARIABLES, Variable(name="clock_shaft_2", low=-45, high=45, teeth=16, base=4.0)]:
            with self.subTest(one.name, base=one.base):
                self.assertTrue(np.isclose(one.ladder(), one.base).any())
                self.assertTrue((one.ladder() >= one.low - 1e-9).all() and (one.ladder() <= one.high + 1e-9).all())
        self.assertEqual(before(clocked, VARIABLES).tolist(), [0.0, 0.0, 0.0, 4.0])

    def test_a_bound_tighter_than_a_step_leaves_the_value(self) -> None:
        tight = Variable(name="wedge_deg", low=0.1, high=0.4)
        self.assertEqual((len(tight.ladder()), tight.rounded(0.3)), (0, 0.3))
        self.assertEqual(Variable(name="wedge_deg", low=-6, high=6).rounded(2.3), 2.5)

    def test_rows_become_settings(self) -> None:
        found = settings_for(CAR, VARIABLES, np.array([[1.0, 2.0, 3.0, 11.25], [0.0, 0.0, 0.0, 0.0]]))
        self.assertEqual(found.wedge_deg.tolist(), [1.0, 0.0])
        self.assertEqual(found.clock_deg.tolist(), [[0.0, 11.25], [0.0, 0.0]])

    def test_scores(self) -> None:
        residual = np.radians([[2.0, 3.0], [2.0, 2.0]]) ** 2
        weight = np.array([1.0, 0.0])
        self.assertAlmostEqual(float(score(residual, weight, "rms")[0]), 2.0, places=9)
        self.assertAlmostEqual(float(score(residual, np.array([1.0, 1.0]), "rms")[0]), ((16 + 81) / 2) ** 0.25, places=9)
        self.assertAlmostEqual(float(score(residual, weight, "max")[0]), 2.0, places=9)
        self.assertAlmostEqual(float(score(residual, np.array([1.0, 1.0]), "max")[0]), 3.0, places=9)
