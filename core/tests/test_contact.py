"""Painted patterns from tooth geometry: the open cases, and the trade's direction rules where they hold."""

from __future__ import annotations

from typing import Any
from unittest import TestCase

from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.optimize import brentq

from amber_core import registry
from amber_core.contact.contact_set import ContactSet, contact_set
from amber_core.contact.estimate import model_patch
from amber_core.contact.mesh import Errors
from amber_core.errors import InvalidInput
from amber_core.gearset.description import EaseOff, GearSetDescription
from tests.open_sets import VECTORS, described

KNOWN = {"ring_teeth": 41, "pinion_teeth": 11, "ring_outer_diameter_mm": 215.0, "offset_mm": 30.0}
EDGES = ("toe", "heel", "root", "tip")


class OpenCases(TestCase):
    def answer(self, case: dict[str, Any]) -> dict[str, Any]:
        put = case["input"]
        more = {name: case[name] for name in ("drive_flank", "ease_drive", "ease_coast")}
        known = described(case["geometry"], nominal_backlash_arc_mm=put["nominal_backlash"], **more)
        place = {"pinion_mm": put["dP"], "ring_mm": put["dG"], "offset_error_mm": put["dE"], "shaft_angle_mrad": 1e3 * put["dS"]}
        return registry.run("contact.simulate", {"set": known, **place, "paint_um": put["paint_um"], "squeeze_um": put["squeeze_um"]})

    def test_patterns_backlash_and_slopes(self) -> None:
        self.assertGreater(len(VECTORS["cases"]), 20)
        for case in VECTORS["cases"]:
            found, wanted = self.answer(case), case["output"]
            with self.subTest(case["id"], note=case["note"]):
                plain = [
                    ("backlash_arc_mm", "backlash"),
                    ("backlash_mm", "backlash_square"),
                    ("backlash_per_pinion_move", "dBn_dP"),
                    ("backlash_per_ring_move", "dBn_dG"),
                ]
                for field, symbol in plain:
                    self.assertAlmostEqual(found[field], wanted[symbol], delta=1e-5, msg=field)
                self.assertEqual(found["tight"], wanted["tight"])
                for side in ("drive", "coast"):
                    self.compare(found[side], wanted[side])

    def compare(self, found: dict[str, Any], wanted: dict[str, Any]) -> None:
        for field, value in zip(("u", "v"), wanted["centroid"], strict=True):
            self.assertAlmostEqual(found[field], value, delta=1e-5, msg=field)
        for field, value in zip(("u_min", "u_max", "v_min", "v_max"), wanted["extent"], strict=True):
            self.assertAlmostEqual(found[field], value, delta=1e-5, msg=field)
        var_u, var_v, _ = wanted["second"]
        self.assertAlmostEqual(found["length"], 4.0 * var_u**0.5, delta=1e-4)
        self.assertAlmostEqual(found["height"], 4.0 * var_v**0.5, delta=1e-4)
        self.assertAlmostEqual(found["area"], wanted["area"], delta=1e-5)
        self.assertAlmostEqual(found["te_urad"], wanted["te_pp_urad"], delta=1e-3)
        self.assertAlmostEqual(found["te_loaded_urad"], wanted["te_loaded_pp_urad"], delta=1e-3)
        for edge in EDGES:
            self.assertAlmostEqual(found["edge"][edge], wanted["edge_fraction"][edge], delta=1e-5)
            self.assertAlmostEqual(found["edge_contact"][edge], wanted["edge_contact"][edge], delta=1e-5)

    def test_backlash_held_while_the_depth_changes(self) -> None:
        for case in VECTORS["hold_backlash"]:
            ready = contact_set(GearSetDescription(**described(case["geometry"])))
            held = ready.backlash_arc_mm(Errors(pinion_mm=case["dP"], ring_mm=case["dG"]))
            with self.subTest(case["geometry"], pinion=case["dP"]):
                self.assertAlmostEqual(held, ready.nominal_backlash_arc_mm, delta=1e-5)

    def test_where_the_gears_stand_is_found_again(self) -> None:
        for case in VECTORS["inverse"]:
            seen, sigma = case["obs"], case["sigma"]
            observed: dict[str, Any] = {"backlash_arc_mm": {"value": seen["backlash"], "sd": sigma["backlash"]}}
            for side, letter in (("drive", "D"), ("coast", "C")):
                if f"u{letter}" in seen:
                    spread = {"sd_u": sigma[f"u{letter}"], "sd_v": sigma[f"v{letter}"]}
                    observed[side] = {"u": seen[f"u{letter}"], "v": seen[f"v{letter}"], **spread}
            known = described(case["geometry"], nominal_backlash_arc_mm=case["nominal_backlash"])
            found, wanted = registry.run("contact.estimate", {"set": known, "observed": observed}), case["estimate"]
            with self.subTest(case["geometry"], kind=case["kind"]):
                self.assertAlmostEqual(found["pinion_mm"], wanted["dP"], delta=5e-4)
                self.assertAlmostEqual(found["ring_mm"], wanted["dG"], delta=5e-4)
                self.assertAlmostEqual(found["correlation"], wanted["corr"], delta=1e-3)
                self.assertAlmostEqual(found["chi2"], wanted["chi2"], delta=5e-3)


def ring_for_same_backlash(ready: ContactSet, pinion_mm: float) -> float:
    """The ring's place that gives the nominal backlash at this depth."""

    def miss(ring_mm: float) -> float:
        return ready.backlash_arc_mm(Errors(pinion_mm=pinion_mm, ring_mm=ring_mm)) - ready.nominal_backlash_arc_mm

    return float(brentq(miss, -0.5, 0.5))


class DirectionRules(TestCase):
    """What holds for every set is checked over random ones; what depends on curvature and twist where it is known to hold."""

    SETS = {
        "pinion": st.integers(8, 13),
        "ring": st.integers(37, 45),
        "diameter": st.floats(180.0, 235.0),
        "share": st.one_of(st.just(0.0), st.floats(0.08, 0.17)),
        "uniform": st.booleans(),
        "concave": st.booleans(),
        "bias": st.sampled_from([0.0, 0.45]),
    }

    @staticmethod
    def ready(pinion: int, ring: int, diameter: float, share: float, uniform: bool, concave: bool, bias: float) -> ContactSet:
        ease = EaseOff(bias=bias)
        description = GearSetDescription(
            pinion_teeth=pinion,
            ring_teeth=ring,
            ring_outer_diameter_mm=diameter,
            offset_mm=share * diameter,
            tooth_form="uniform" if uniform else "tapered",
            cutter_radius_mm=88.0 if uniform else None,
            drive_flank="concave" if concave else "convex",
            ease_drive=ease,
            ease_coast=ease,
        )
        return contact_set(description, nu=31, nv=19)

    @settings(max_examples=12, deadline=None)
    @given(**SETS)
    def test_a_deeper_pinion_moves_both_patches_toward_the_root_and_a_shallower_toward_the_tip(self, **how: Any) -> None:
        ready = self.ready(**how)
        for side in ("drive", "coast"):
            middle = model_patch(ready, side, Errors())[1]
            for move, sign in ((-0.05, -1.0), (0.05, 1.0)):
                moved = model_patch(ready, side, Errors(pinion_mm=move, ring_mm=ring_for_same_backlash(ready, move)))[1]
                self.assertGreater(sign * (moved - middle), 0.0, (side, move))

    @settings(max_examples=12, deadline=None)
    @given(**SETS)
    def test_a_ring_move_changes_the_backlash_by_about_seven_tenths(self, **how: Any) -> None:
        ready = self.ready(**how)
        slope = ready.arc_slopes(pinion_mm=0.0, ring_mm=0.0)[1] * ready.plunger_per_arc
        self.assertTrue(0.6 < slope < 0.85, slope)

    @settings(max_examples=8, deadline=None)
    @given(**{**SETS, "bias": st.just(0.45), "concave": st.just(False)})
    def test_a_ring_moved_away_lifts_both_patches(self, **how: Any) -> None:
        ready = self.ready(**how)
        for side in ("drive", "coast"):
            before, after = (model_patch(ready, side, Errors(ring_mm=ring)) for ring in (0.0, 0.05))
            self.assertGreater(after[1], before[1], side)

    def test_and_takes_drive_to_the_heel_and_coast_to_the_toe_on_the_open_sets(self) -> None:
        for name in VECTORS["geometries"]:
            ready = contact_set(GearSetDescription(**described(name)))
            for side, sign in (("drive", 1.0), ("coast", -1.0)):
                with self.subTest(name, side=side):
                    before, after = (model_patch(ready, side, Errors(ring_mm=ring)) for ring in (0.0, 0.05))
                    self.assertGreater(sign * (after[0] - before[0]), 0.0)

    def test_a_deeper_pinion_takes_drive_to_the_toe_and_coast_to_the_heel_on_the_open_tapered_sets(self) -> None:
        for name in ("B1", "H1", "H3"):
            ready = contact_set(GearSetDescription(**described(name)))
            deeper = Errors(pinion_mm=-0.05, ring_mm=ring_for_same_backlash(ready, -0.05))
            for side, sign in (("drive", -1.0), ("coast", 1.0)):
                with self.subTest(name, side=side):
                    moved = model_patch(ready, side, deeper)[0] - model_patch(ready, side, Errors())[0]
                    self.assertGreater(sign * moved, 0.0)

    def test_the_length_half_fails_on_uniform_depth_as_the_model_says(self) -> None:
        ready = contact_set(GearSetDescription(**described("F1")))
        deeper = Errors(pinion_mm=-0.05, ring_mm=ring_for_same_backlash(ready, -0.05))
        # the rule for tapered sets would send the coast patch toward the heel
        self.assertLess(model_patch(ready, "coast", deeper)[0], model_patch(ready, "coast", Errors())[0])

    def test_a_set_driven_on_the_hollow_side_swaps_the_columns(self) -> None:
        place = {"pinion_mm": 0.05, "ring_mm": -0.03}
        one = registry.run("contact.simulate", {"set": KNOWN, **place})
        other = registry.run("contact.simulate", {"set": {**KNOWN, "drive_flank": "concave"}, **place})
        self.assertEqual(one["drive"], other["coast"])
        self.assertEqual(one["backlash_arc_mm"], other["backlash_arc_mm"])
        self.assertNotEqual(one["backlash_mm"], other["backlash_mm"])  # the plunger stands on the drive flank


class Patterns(TestCase):
    def test_more_paint_marks_more_and_rigid_marks_less(self) -> None:
        def area(**how: float) -> float:
            return float(registry.run("contact.simulate", {"set": KNOWN, "pinion_mm": 0.0, "ring_mm": 0.0, **how})["drive"]["area"])

        self.assertLess(area(paint_um=4.0), area(paint_um=10.0))
        self.assertLess(area(squeeze_um=0.0), area(squeeze_um=5.0))

    def test_the_mask_is_the_patch(self) -> None:
        answer = registry.run("contact.simulate", {"set": KNOWN, "pinion_mm": 0.2, "ring_mm": 0.0, "want_mask": True})
        mask = answer["drive"]["mask"]
        self.assertEqual((len(mask), len(mask[0])), (25, 41))
        self.assertAlmostEqual(sum(mask[-1]) / 41, answer["drive"]["edge"]["tip"], places=3)
        self.assertGreater(sum(mask[-1]), sum(mask[0]))  # far too shallow: it runs off at the tip

    def test_another_grid_tells_the_same(self) -> None:
        place = {"set": KNOWN, "pinion_mm": 0.05, "ring_mm": 0.02}
        usual, fine = (registry.run("contact.simulate", {**place, **grid}) for grid in ({}, {"grid": {"nu": 61, "nv": 37}}))
        for field, most in (("u", 0.004), ("v", 0.004), ("area", 0.005)):
            self.assertAlmostEqual(usual["drive"][field], fine["drive"][field], delta=most)
        self.assertAlmostEqual(usual["backlash_arc_mm"], fine["backlash_arc_mm"], delta=5e-4)

    def test_too_tight_cannot_be_assembled(self) -> None:
        self.assertTrue(registry.run("contact.simulate", {"set": KNOWN, "pinion_mm": 0.0, "ring_mm": -0.3})["tight"])

    def test_refused(self) -> None:
        usual = {"set": KNOWN, "pinion_mm": 0.0, "ring_mm": 0.0}
        cases = [
            ({"pinion_mm": 50.0}, "pinion_mm"),
            ({"paint_um": 0.0}, "paint_um"),
            ({"grid": {"nu": 3}}, "grid.nu"),
            ({"set": {**KNOWN, "ring_teeth": 9}}, "set.ring_teeth"),
            ({"set": {**KNOWN, "ease_drive": {"bias": 2.0}}}, "set.ease_drive.bias"),
        ]
        for change, field in cases:
            with self.subTest(field), self.assertRaises(InvalidInput) as caught:
                registry.run("contact.simulate", {**usual, **change})
            self.assertEqual(caught.exception.field, field)


class Estimates(TestCase):
    def estimate(self, observed: dict[str, Any]) -> dict[str, Any]:
        return registry.run("contact.estimate", {"set": KNOWN, "observed": observed})

    @settings(max_examples=6, deadline=None)
    @given(pinion=st.floats(-0.12, 0.12), ring=st.floats(-0.08, 0.08))
    def test_sharp_observations_find_the_truth(self, pinion: float, ring: float) -> None:
        seen = registry.run("contact.simulate", {"set": KNOWN, "pinion_mm": pinion, "ring_mm": ring})
        sharp = {"sd_u": 0.002, "sd_v": 0.002}
        patches = {side: {"u": seen[side]["u"], "v": seen[side]["v"], **sharp} for side in ("drive", "coast")}
        found = self.estimate({**patches, "backlash_mm": {"value": seen["backlash_mm"], "sd": 0.001}})
        self.assertAlmostEqual(found["pinion_mm"], pinion, delta=0.003)
        self.assertAlmostEqual(found["ring_mm"], ring, delta=0.003)

    def test_backlash_alone_leaves_the_depth_open_and_a_measured_depth_closes_it(self) -> None:
        alone = self.estimate({"backlash_mm": {"value": 0.12}})
        self.assertGreater(alone["pinion_sd_mm"], 0.2)
        self.assertEqual(alone["weakest"], "pinion_mm")
        closed = self.estimate({"backlash_mm": {"value": 0.12}, "depth_error_mm": {"value": 0.05, "sd": 0.02}})
        self.assertLess(closed["pinion_sd_mm"], 0.021)
        self.assertAlmostEqual(closed["pinion_mm"], 0.05, delta=0.005)

    def test_an_arc_and_its_plunger_reading_say_the_same(self) -> None:
        factor = registry.run("gearset.geometry", KNOWN)["plunger_per_arc"]
        arc = self.estimate({"backlash_arc_mm": {"value": 0.20, "sd": 0.02}})
        plunger = self.estimate({"backlash_mm": {"value": 0.20 * factor, "sd": 0.02 * factor}})
        self.assertAlmostEqual(arc["ring_mm"], plunger["ring_mm"], places=6)

    def test_refused(self) -> None:
        cases = [
            ({}, "observed"),
            ({"drive": {"u": 5.0, "v": 0.5}}, "observed.drive.u"),
            ({"backlash_mm": {"value": 0.2, "sd": 0.0}}, "observed.backlash_mm.sd"),
            ({"backlash_mm": {"value": 0.2}, "backlash_arc_mm": {"value": 0.2}}, "observed.backlash_arc_mm"),
        ]
        for observed, field in cases:
            with self.subTest(field), self.assertRaises(InvalidInput) as caught:
                self.estimate(observed)
            self.assertEqual(caught.exception.field, field)
