"""Closing, load and paint: laws that hold whatever the set."""

from __future__ import annotations

from unittest import TestCase

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from amber_core.contact.contact_set import ContactSet, contact_set
from amber_core.contact.mesh import (
    NOMINAL,
    Errors,
    brake_load,
    first_touch,
    gap_mm,
    layer_load,
    loaded_closing,
    point_closing,
    rigid_closing,
)
from amber_core.contact.pattern import marked, patch
from amber_core.gearset.description import EaseOff, GearSetDescription

EASE = EaseOff()
places = st.builds(Errors, pinion_mm=st.floats(-0.2, 0.2), ring_mm=st.floats(-0.15, 0.15))


def ready() -> ContactSet:
    """A hypoid; its grids are kept between tests."""
    return contact_set(GearSetDescription(ring_teeth=41, pinion_teeth=11, ring_outer_diameter_mm=215.0, offset_mm=30.0), nu=31, nv=19)


class Closing(TestCase):
    @settings(max_examples=20, deadline=None)
    @given(errors=places)
    def test_nothing_is_pressed_into_anything_when_rigid(self, errors: Errors) -> None:
        grid = ready().drive
        eps = point_closing(grid, EASE, errors)
        closing = rigid_closing(grid, eps)
        self.assertTrue(np.all(grid.samples.at(eps) - closing[grid.samples.position] >= -1e-15))
        touching = grid.samples.at(eps)[first_touch(grid, eps)]
        np.testing.assert_allclose(touching, closing, atol=1e-15)

    @settings(max_examples=20, deadline=None)
    @given(errors=places, squeeze=st.floats(0.0005, 0.01))
    def test_under_a_brake_every_position_carries_the_same_load(self, errors: Errors, squeeze: float) -> None:
        grid = ready().coast
        load = brake_load(grid, EASE, squeeze)
        eps = point_closing(grid, EASE, errors)
        closing = loaded_closing(grid, eps, load=load, squeeze_mm=squeeze)
        np.testing.assert_allclose(layer_load(grid, eps, closing)[0], load, rtol=1e-9)
        self.assertTrue(np.all(closing >= rigid_closing(grid, eps)))

    @settings(max_examples=20, deadline=None)
    @given(errors=places, turn=st.floats(-1e-3, 1e-3))
    def test_turning_the_ring_alone_changes_no_gap(self, errors: Errors, turn: float) -> None:
        grid = ready().drive
        eps = point_closing(grid, EASE, errors)
        before = gap_mm(grid, eps, rigid_closing(grid, eps))
        after = gap_mm(grid, eps + turn, rigid_closing(grid, eps + turn))
        np.testing.assert_allclose(after, before, atol=1e-12)

    def test_a_point_the_pinion_never_reaches_has_no_gap_to_close(self) -> None:
        grid = ready().drive
        eps = point_closing(grid, EASE, NOMINAL)
        eps[5] = np.nan
        self.assertTrue(np.isinf(gap_mm(grid, eps, rigid_closing(grid, eps))[5]))


class Backlash(TestCase):
    @settings(max_examples=25, deadline=None)
    @given(pinion=st.floats(-0.15, 0.15), ring=st.floats(-0.1, 0.1))
    def test_a_ring_moved_away_always_opens_it(self, pinion: float, ring: float) -> None:
        arcs = [ready().backlash_arc_mm(Errors(pinion_mm=pinion, ring_mm=ring + more)) for more in (0.0, 0.02)]
        self.assertGreater(arcs[1], arcs[0])

    def test_at_the_right_place_it_is_what_was_said(self) -> None:
        self.assertAlmostEqual(ready().backlash_arc_mm(NOMINAL), 0.15, places=12)

    def test_the_slope_falls_as_the_pinion_comes_out(self) -> None:
        slopes = [ready().arc_slopes(pinion_mm=pinion, ring_mm=0.0)[0] for pinion in (-0.1, 0.0, 0.1)]
        self.assertEqual(slopes, sorted(slopes, reverse=True))


class Paint(TestCase):
    def test_marked_is_full_below_three_quarters_and_none_above_five_quarters(self) -> None:
        gaps = np.array([0.0, 4.5, 6.0, 7.5, 20.0])
        np.testing.assert_allclose(marked(gaps, 6.0), [1.0, 1.0, 0.5, 0.0, 0.0])

    def test_a_patch_everywhere_has_its_middle_near_the_middle_and_marks_every_edge(self) -> None:
        grid = ready().drive
        found = patch(grid, np.zeros(grid.u.size), 6e-3)
        self.assertAlmostEqual(found.area, 1.0)
        self.assertAlmostEqual(found.v, 0.5, places=6)
        self.assertAlmostEqual(found.u, 0.5, delta=0.05)  # the heel is deeper, so it weighs a little more
        self.assertEqual((found.edge.toe, found.edge.heel, found.edge.root, found.edge.tip), (1.0, 1.0, 1.0, 1.0))

    def test_no_touch_at_all_is_shown_at_the_nearest_point_with_no_area(self) -> None:
        grid = ready().drive
        gap = np.ones(grid.u.size)
        gap[100] = 0.5
        found = patch(grid, gap, 6e-3)
        self.assertEqual(found.area, 0.0)
        self.assertEqual((found.u_min, found.v_min), (grid.u[100], grid.v[100]))

    @settings(max_examples=20, deadline=None)
    @given(u0=st.floats(0.3, 0.7), v0=st.floats(0.35, 0.65))
    def test_the_patch_follows_where_the_crowning_stands_proudest(self, u0: float, v0: float) -> None:
        grid = ready().drive
        found = []
        for ease in (EaseOff(bias=0.0), EaseOff(bias=0.0, u0=u0, v0=v0)):
            eps = point_closing(grid, ease, NOMINAL)
            found.append(patch(grid, gap_mm(grid, eps, rigid_closing(grid, eps)), 6e-3))
        for moved, still, by in ((found[1].u, found[0].u, u0 - 0.5), (found[1].v, found[0].v, v0 - 0.5)):
            if abs(by) > 0.05:
                self.assertGreater((moved - still) * by, 0.0)
