"""The flanks against the open cases, and against mechanics they were not computed from."""

from __future__ import annotations

from unittest import TestCase

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from amber_core.contact.flank_grid import POSITIONS, FlankGrid, build_grid
from amber_core.gearset.complete import completed
from amber_core.gearset.description import GearSetDescription
from amber_core.gearset.flank import conjugate_field, local_depth_mm
from amber_core.gearset.macro import Macro, build_macro
from tests.open_sets import VECTORS, described


def macro_of(name: str) -> Macro:
    """The macro geometry of an open set."""
    return build_macro(completed(GearSetDescription(**described(name)))[0])


class Probes(TestCase):
    """Place, normal, roll angle, lever and response of single points, set by set and flank by flank."""

    def test_points_of_the_open_sets(self) -> None:
        for name, case in VECTORS["geometries"].items():
            macro = macro_of(name)
            for side, convex in (("drive", True), ("coast", False)):
                probes = case["flanks"][side]["probes"]
                u, v = (np.array([probe[axis] for probe in probes]) for axis in ("u", "v"))
                field = conjugate_field(macro, convex=convex, u=u, v=v)
                for index, probe in enumerate(probes):
                    with self.subTest(name, side=side, u=probe["u"], v=probe["v"]):
                        self.assertAlmostEqual(field.roll_rad[index], probe["phi"], delta=1e-6)
                        self.assertAlmostEqual(field.lever_mm[index], abs(probe["lever"]), delta=1e-4)
                        fixed = self.turned(np.array(probe["X"]), probe["phi"])
                        np.testing.assert_allclose(field.place[index], fixed, atol=2e-4)
                        np.testing.assert_allclose(field.normal[index], self.turned(np.array(probe["n"]), probe["phi"]), atol=2e-6)

    def test_response_and_slide_of_the_open_sets(self) -> None:
        for name, case in VECTORS["geometries"].items():
            macro = macro_of(name)
            for side, convex in (("drive", True), ("coast", False)):
                grid = build_grid(macro, convex=convex, nu=41, nv=25)
                with self.subTest(name, side=side):
                    np.testing.assert_allclose(grid.slide, case["flanks"][side]["slide_per_error"], rtol=1e-5, atol=1e-8)
                    for probe in case["flanks"][side]["probes"]:
                        node = round(probe["u"] * 40) * 25 + round(probe["v"] * 24)
                        np.testing.assert_allclose(grid.response[node], probe["resp_dP_dG_dE_dS"], rtol=1e-4, atol=1e-5)

    @staticmethod
    def turned(vector: np.ndarray, angle: float) -> np.ndarray:
        c, s = np.cos(angle), np.sin(angle)
        return np.array([c * vector[0] - s * vector[1], s * vector[0] + c * vector[1], vector[2]])


class Mechanics(TestCase):
    SETS = {
        "name": st.sampled_from(sorted(VECTORS["geometries"])),
        "convex": st.booleans(),
        "u": st.floats(0.05, 0.95),
        "v": st.floats(0.05, 0.95),
    }

    @settings(max_examples=40, deadline=None)
    @given(**SETS)
    def test_at_contact_the_surfaces_do_not_move_along_their_normal(self, name: str, convex: bool, u: float, v: float) -> None:
        macro = macro_of(name)
        field = conjugate_field(macro, convex=convex, u=np.array([u]), v=np.array([v]))
        place, normal = field.place[0], field.normal[0]
        ratio = macro.given.ring_teeth / macro.given.pinion_teeth
        ring = np.cross([0.0, 0.0, 1.0], place)
        pinion = ratio * np.cross([1.0, 0.0, 0.0], place - np.array([0.0, -macro.given.offset_mm, 0.0]))
        self.assertAlmostEqual(float(normal @ (ring - pinion)) / float(np.linalg.norm(ring)), 0.0, places=9)

    @settings(max_examples=40, deadline=None)
    @given(**SETS)
    def test_the_normal_stands_square_on_the_flank(self, name: str, convex: bool, u: float, v: float) -> None:
        macro = macro_of(name)
        step = 1e-5
        us, vs = np.array([u, u + step, u - step, u, u]), np.array([v, v, v, v + step, v - step])
        field = conjugate_field(macro, convex=convex, u=us, v=vs)
        # back to the ring's own frame: every point was turned to another roll angle
        place = np.array([Probes.turned(one, -phi) for one, phi in zip(field.place, field.roll_rad, strict=True)])
        normal = Probes.turned(field.normal[0], -field.roll_rad[0])
        self.assertAlmostEqual(float(np.linalg.norm(normal)), 1.0, places=12)
        for ahead, behind in ((1, 2), (3, 4)):
            tangent = (place[ahead] - place[behind]) / (2.0 * step)
            self.assertAlmostEqual(float(normal @ tangent) / float(np.linalg.norm(tangent)), 0.0, places=6)

    def test_thrust_on_the_convex_flank_is_outward(self) -> None:
        for name in VECTORS["geometries"]:
            field = conjugate_field(macro_of(name), convex=True, u=np.array([0.5]), v=np.array([0.5]))
            self.assertGreater(field.normal[0, 0], 0.0)

    def test_the_tooth_is_as_deep_as_its_ends_say(self) -> None:
        for name, case in VECTORS["geometries"].items():
            macro = macro_of(name)
            self.assertAlmostEqual(float(local_depth_mm(macro, np.array([0.5]))[0]), case["design"]["work_depth"], places=3)
            toe, heel = local_depth_mm(macro, np.array([0.0, 1.0]))
            (self.assertGreater if macro.dedendum_rad > 0 else self.assertAlmostEqual)(heel, toe)


class Grid(TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        cls.grid: FlankGrid = build_grid(macro_of("H1"), convex=True, nu=21, nv=13)

    def test_every_sample_lies_on_its_roll_position(self) -> None:
        samples = self.grid.samples
        step = self.grid.pitch_rad / POSITIONS
        at = samples.at(self.grid.field.roll_rad) / step
        np.testing.assert_allclose(at, np.round(at), atol=1e-9)
        np.testing.assert_array_equal(np.round(at).astype(int) % POSITIONS, samples.position)
        self.assertTrue(np.all((samples.share >= 0.0) & (samples.share <= 1.0)))

    def test_samples_are_sorted_and_every_position_has_some(self) -> None:
        samples = self.grid.samples
        self.assertTrue(np.all(np.diff(samples.position) >= 0))
        self.assertEqual(len(samples.starts), POSITIONS)
        np.testing.assert_array_equal(samples.position[samples.starts], np.arange(POSITIONS))

    def test_weights_add_up_to_one_and_loads_lie_on_lines_across_the_tooth(self) -> None:
        self.assertAlmostEqual(float(self.grid.weight.sum()), 1.0)
        samples = self.grid.samples
        across = self.grid.u[samples.first] == self.grid.u[samples.second]
        self.assertTrue(np.all(samples.length_mm2[~across] == 0.0))
        self.assertTrue(np.all(samples.length_mm2[across] > 0.0))
