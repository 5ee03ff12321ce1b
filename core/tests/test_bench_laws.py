"""Clutch packs, fits, bearings, tube ends and gaskets: what holds whatever is given."""

from __future__ import annotations

import xml.etree.ElementTree as ET
from collections import Counter
from itertools import combinations_with_replacement
from math import cos, pi, radians, sin
from typing import Any
from unittest import TestCase

from hypothesis import given, settings
from hypothesis import strategies as st

from amber_core import registry
from amber_core.clutch_pack.two_stacks import best_pair, best_single
from amber_core.errors import InvalidInput
from tests.test_workshop_laws import refused

_plates = st.lists(
    st.fixed_dictionaries(
        {"kind": st.sampled_from(["friction", "steel", "wave", "shim"]), "keyed": st.sampled_from(["case", "gear", "none"])}
    ),
    min_size=1,
    max_size=9,
)
_stock = st.dictionaries(st.integers(1, 40), st.integers(1, 3), min_size=0, max_size=4)


def run(name: str, **payload: Any) -> dict[str, Any]:
    return registry.run(name, payload)


def mirrored(plates: list[dict[str, str]]) -> list[dict[str, str]]:
    """The same pack seen from its other end: what turned with the gear turns with the case."""
    other = {"case": "gear", "gear": "case", "none": "none"}
    return [{"kind": one["kind"], "keyed": other[one["keyed"]]} for one in reversed(plates)]


class Packs(TestCase):
    @given(_plates)
    def test_a_pack_and_its_mirror_rub_and_fail_alike(self, plates: list[dict[str, str]]) -> None:
        one, other = run("clutchpack.order", plates=plates), run("clutchpack.order", plates=mirrored(plates))
        self.assertEqual((one["faces"], one["verdict"]), (other["faces"], other["verdict"]))
        self.assertEqual(Counter(x["code"] for x in one["problems"]), Counter(x["code"] for x in other["problems"]))

    @given(st.integers(1, 12))
    def test_alternating_plates_are_right_and_one_out_of_place_is_not(self, pairs: int) -> None:
        steel, friction = {"kind": "steel", "keyed": "case"}, {"kind": "friction", "keyed": "gear"}
        pack = [steel, *[friction, steel] * pairs]
        self.assertEqual(run("clutchpack.order", plates=pack)["faces"], 2 * pairs)
        swapped = [pack[1], pack[0], *pack[2:]]
        self.assertEqual(run("clutchpack.order", plates=swapped, as_found=pack)["same_as_found"], False)
        self.assertEqual(run("clutchpack.order", plates=swapped)["verdict"], "out")

    @settings(max_examples=150)
    @given(_stock, st.tuples(st.integers(-20, 90), st.integers(-20, 90)), st.integers(0, 3))
    def test_shims_for_both_sides_are_the_best_that_the_kit_holds(self, kit: dict[int, int], wanted: tuple[int, int], most: int) -> None:
        stock = sorted(kit.items(), reverse=True)
        stacks = [rows for size in range(most + 1) for rows in combinations_with_replacement(sorted(kit), size)]

        def key(one: tuple[int, ...], other: tuple[int, ...]) -> tuple[int, ...]:
            misses = [abs(2 * sum(rows) - wish) for rows, wish in zip((one, other), wanted, strict=True)]
            return max(misses), sum(misses), len(one) + len(other), -sum(one), -sum(other)

        def there(rows: tuple[int, ...]) -> bool:
            return all(count <= kit[thick] for thick, count in Counter(rows).items())

        best = min(key(one, other) for one in stacks for other in stacks if there((*one, *other)))
        found = best_pair(stock, wanted, most)
        self.assertTrue(there((*found[0], *found[1])))
        self.assertEqual(key(tuple(found[0]), tuple(found[1])), best)
        alone = best_single(stock, wanted[0], most)
        self.assertEqual(abs(2 * sum(alone) - wanted[0]), min(abs(2 * sum(rows) - wanted[0]) for rows in stacks if there(rows)))

    @given(st.integers(1, 20), st.integers(1, 20), st.floats(10, 5000), st.floats(20, 60), st.floats(61, 120))
    def test_one_wheel_turned_does_the_work_of_both_packs(self, ring: int, far: int, spring: float, inner: float, outer: float) -> None:
        made = {"faces_ring_side": ring, "faces_far_side": far, "spring_n": spring, "inner_mm": inner, "outer_mm": outer}
        free, held = (run("clutchpack.breakaway", readings_nm=[50.0], test=test, **made)["expected_nm"] for test in ("free", "case_held"))
        mean = 2.0 / 3.0 * (outer**3 - inner**3) / (outer**2 - inner**2) / 2000.0
        packs = [faces * 0.10 * spring * mean for faces in (ring, far)]
        # the wheel turns by 1: held, each side gear slips by 1 on the case; free, the case follows by a half and each slips by a half
        self.assertAlmostEqual(held, sum(packs), places=6)
        self.assertAlmostEqual(free, sum(0.5 * one for one in packs), places=6)

    def test_a_washer_twice_as_thick_as_the_gap_is_told_and_one_plate_alone_holds_nothing(self) -> None:
        gap = run("locker.gap", readings_mm=[0.4, 0.5], min_mm=0.3, max_mm=0.6, washers="left_out", washer_mm=1.0)
        self.assertLess(gap["with_washers_mm"], 0.0)
        alone = run("clutchpack.order", plates=[{"kind": "steel", "keyed": "case"}])
        self.assertEqual([one["code"] for one in alone["problems"]], ["no_faces"])
        self.assertEqual(run("clutchpack.order", plates=[{"kind": "steel", "keyed": "case"}] * 40)["faces"], 0)
        self.assertEqual(refused("clutchpack.order", plates=[]), "plates")


class Fits(TestCase):
    @given(st.floats(10, 200), st.floats(0.001, 0.2), st.floats(1.1, 3.0), st.floats(0.0, 0.8))
    def test_more_interference_presses_harder_and_a_thin_hub_less(self, bore: float, over: float, wall: float, hollow: float) -> None:
        base = {"bore_mm": bore, "length_mm": 20.0, "hub_outer_mm": bore * wall + 1.0, "shaft_bore_mm": bore * hollow}
        one, more = (run("fit.press", shaft_mm=bore + delta, **base) for delta in (over, 2.0 * over))
        self.assertGreater(more["pressure_mpa"], one["pressure_mpa"])
        thicker = run("fit.press", shaft_mm=bore + over, **{**base, "hub_outer_mm": bore * wall * 2.0})
        self.assertGreater(thicker["pressure_mpa"], one["pressure_mpa"])
        # two thick cylinders of one material whose hub is endless and whose shaft is solid: p = E delta / 2 d
        endless = run("fit.press", shaft_mm=bore + over, bore_mm=bore, length_mm=20.0, hub_outer_mm=4999.0)
        self.assertAlmostEqual(endless["pressure_mpa"] / (207_000.0 * over / (2.0 * (bore + over))), 1.0, delta=0.01)

    def test_no_interference_is_loose_and_asks_for_no_heat(self) -> None:
        loose = run("fit.press", shaft_mm=40.0, bore_mm=40.0, length_mm=20.0, hub_outer_mm=60.0)
        self.assertEqual((loose["verdict"], loose["press_force_n"], loose["heat_needed_c"]), ("out", 0.0, None))

    @given(st.floats(50, 100), st.floats(0, 0.3), st.booleans(), st.booleans())
    def test_a_recommended_way_is_open_and_none_that_is_open_costs_less(
        self, nominal: float, under: float, nail: bool, pitted: bool
    ) -> None:
        ways = [
            {"way": way, "price": price, "minutes": 10.0}
            for way, price in (("as_it_is", 0), ("polish", 100), ("set_over", 200), ("new_part", 900))
        ]
        found = run("fit.land", nominal_mm=nominal, readings_mm=[nominal - under], fingernail=nail, pitted=pitted, ways=ways, hourly=6000)
        open_ways = [one for one in found["ways"] if one["allowed"]]
        self.assertEqual(found["recommended"], open_ways[0]["way"])
        self.assertEqual(open_ways[0]["total"], min(one["total"] for one in open_ways))
        if nail:
            self.assertNotIn("as_it_is", [one["way"] for one in open_ways])

    @given(st.floats(1, 10), st.floats(12, 120))
    def test_one_roller_more_than_fits_would_overlap(self, roller: float, pitch: float) -> None:
        found = run("bearing.full_complement", roller_mm=roller, pitch_mm=pitch)
        for count, fits in ((found["fits"], True), (found["fits"] + 1, False)):
            chord = pitch * sin(pi / count)  # between the middles of neighbours that stand evenly
            self.assertEqual(chord >= roller * (1 - 1e-9), fits)
        self.assertEqual(refused("bearing.full_complement", roller_mm=roller, pitch_mm=pitch, counted=found["fits"] + 1), "counted")

    @given(st.floats(-0.2, 0.2), st.floats(-0.2, 0.2))
    def test_shims_that_make_up_for_new_bearings_leave_nothing_to_move(self, ring: float, far: float) -> None:
        found = run(
            "bearing.compare",
            old={"ring_side_mm": [30.0], "far_side_mm": [30.0]},
            new={"ring_side_mm": [30.0 + ring], "far_side_mm": [30.0 + far]},
            ring_side_shim_mm=2.0,
            far_side_shim_mm=2.0,
            carrier="side_shims",
        )
        self.assertAlmostEqual(found["shims"]["ring_side_mm"] + ring, 2.0)
        self.assertAlmostEqual(found["if_left"]["preload_change_mm"], ring + far)
        self.assertAlmostEqual(found["if_left"]["ring_move_mm"], (far - ring) / 2.0)


class TubeEnds(TestCase):
    @given(st.floats(3, 8), st.floats(0, 1), st.floats(0, 360))
    def test_eight_places_of_a_plane_give_it_back(self, mean: float, tilt: float, at: float) -> None:
        register = [{"angle_deg": 45.0 * k, "value_mm": mean + tilt / 2.0 * cos(radians(45.0 * k - at))} for k in range(8)]
        plan = run("tube.register", register=register, min_mm=2.0, max_mm=20.0)
        self.assertAlmostEqual(plan["plane"]["mean_mm"], mean)
        self.assertAlmostEqual(plan["plane"]["tilt_mm"], tilt)
        self.assertAlmostEqual(plan["plane"]["residual_mm"], 0.0)

    @given(st.lists(st.floats(3.5, 5.0), min_size=8, max_size=8), st.floats(5, 6), st.floats(0, 1))
    def test_a_guide_inside_its_range_needs_no_trimming(self, heights: list[float], low: float, wide: float) -> None:
        asked = {
            "register": [{"angle_deg": 45.0 * k, "value_mm": one} for k, one in enumerate(heights)],
            "min_mm": low,
            "max_mm": low + wide,
        }
        room = run("tube.register", **asked)["guide_range_mm"]
        if room is None:
            self.assertGreater(max(heights) - min(heights), wide)
            return
        with_it = run("tube.register", guide_mm=max(0.0, sum(room) / 2.0), **asked)
        self.assertIn(with_it["verdict"], ("in", "edge"))
        self.assertEqual({one["trim_mm"] for one in with_it["places"]}, {0.0})

    @given(st.integers(1, 24), st.integers(1, 4), st.floats(0, 0.4))
    def test_a_castellated_nut_goes_where_the_play_is_nearest_the_middle(self, half: int, holes: int, play: float) -> None:
        found = run("nut.castle", pitch_mm=1.5, slots=2 * half, holes=holes, play_mm=play, min_mm=0.1, max_mm=0.2)
        plays = [play + k * found["step_mm"] for k in range(-400, 401)]
        nearest = min(abs(one - 0.15) for one in plays)
        if found["possible"]:
            self.assertAlmostEqual(abs(found["play_then_mm"] - 0.15), nearest)
        else:
            self.assertGreater(nearest, 0.05)


def _square(side: float) -> list[list[float]]:
    half = side / 2.0
    return [[-half, -half], [half, -half], [half, half], [-half, half]]


class Gaskets(TestCase):
    @given(st.floats(50, 400), st.floats(1, 12), st.floats(-15, 15), st.floats(-15, 15))
    def test_area_and_lands_of_a_square_with_one_hole(self, side: float, hole: float, x: float, y: float) -> None:
        made = run(
            "gasket.template",
            outer={"kind": "points", "points_mm": _square(side)},
            holes={"kind": "points", "points_mm": [[x, y]], "hole_mm": hole},
        )
        self.assertAlmostEqual(made["area_mm2"], side**2 - pi * hole**2 / 4.0, places=5)
        self.assertAlmostEqual(made["holes"][0]["land_outer_mm"], side / 2.0 - max(abs(x), abs(y)) - hole / 2.0)

    @given(st.integers(3, 40), st.floats(60, 400))
    def test_chords_of_an_even_circle_close_and_stand_where_the_count_puts_them(self, count: int, circle: float) -> None:
        outer = {"kind": "circle", "diameter_mm": circle + 40.0}
        chord = circle * sin(pi / count)
        by_chords = run(
            "gasket.template",
            outer=outer,
            holes={"kind": "chords", "chords_mm": [chord] * count, "pitch_circle_mm": circle, "hole_mm": 6.0},
        )
        by_count = run("gasket.template", outer=outer, holes={"kind": "circle", "count": count, "pitch_circle_mm": circle, "hole_mm": 6.0})
        self.assertAlmostEqual(by_chords["closure_deg"], 0.0, places=6)
        for one, other in zip(by_chords["holes"], by_count["holes"], strict=True):
            self.assertAlmostEqual(one["x_mm"], other["x_mm"], places=6)
            self.assertAlmostEqual(one["y_mm"], other["y_mm"], places=6)

    def test_the_drawing_is_true_to_size_with_its_bar(self) -> None:
        made = run(
            "gasket.template",
            outer={"kind": "circle", "diameter_mm": 160.0},
            inner={"kind": "circle", "diameter_mm": 120.0},
            holes={"kind": "circle", "count": 6, "pitch_circle_mm": 140.0, "hole_mm": 8.0},
        )
        root = ET.fromstring(made["svg"])
        view = [float(one) for one in root.attrib["viewBox"].split()]
        self.assertEqual(root.attrib["width"], f"{view[2]:.4f}mm")
        circles = [float(one.attrib["r"]) for one in root.iter() if one.tag.endswith("circle")]
        self.assertEqual(sorted(circles), [4.0] * 6 + [60.0, 80.0])
        self.assertIn("v2h99.3v-2h.35", next(one.attrib["d"] for one in root.iter() if one.attrib.get("id") == "check-bar"))

    def test_what_is_refused(self) -> None:
        crossed = {"kind": "points", "points_mm": [[0, 0], [50, 50], [50, 0], [0, 50]]}
        self.assertEqual(refused("gasket.template", outer=crossed), "outer.points_mm")
        big = {"kind": "circle", "diameter_mm": 100.0}
        self.assertEqual(refused("gasket.template", outer=big, inner={"kind": "circle", "diameter_mm": 101.0}), "inner")
        ring = {"pitch_circle_mm": 80.0, "hole_mm": 8.0}
        for count in (0, 201):
            holes = {"kind": "circle", "count": count, **ring}
            self.assertEqual(refused("gasket.template", outer=big, holes=holes), "holes.count")
        long = {"kind": "chords", "chords_mm": [81.0, 40.0, 40.0], **ring}
        self.assertEqual(refused("gasket.template", outer=big, holes=long), "holes.chords_mm[0]")
        off = run("gasket.template", outer=big, holes={"kind": "points", "points_mm": [[80.0, 0.0]], "hole_mm": 8.0})
        self.assertEqual((off["verdict"], off["holes"][0]["land_outer_mm"]), ("out", -34.0))
        loose = run("gasket.template", outer=big, holes={"kind": "chords", "chords_mm": [30.0] * 5, **ring})
        self.assertEqual((loose["verdict"], [one["code"] for one in loose["reasons"]]), ("unknown", ["does_not_close"]))

    def test_figures_that_cannot_be(self) -> None:
        for name, field, asked in (
            ("halfshaft.home", "tolerance_mm", {"gap_now_mm": 2.0, "tolerance_mm": 1.5}),
            ("fit.press", "hub_outer_mm", {"shaft_mm": 40.0, "bore_mm": 40.0, "length_mm": 10.0, "hub_outer_mm": 40.0}),
            ("bearing.full_complement", "roller_mm", {"roller_mm": 8.0, "pitch_mm": 8.0}),
            ("endplay.hot", "alpha_case", {"span_mm": 100.0, "shaft": "steel", "rise_k": 10.0, "play_cold_mm": 0.0}),
            ("clutchpack.breakaway", "readings_nm", {}),
            ("locker.gap", "readings_mm", {"readings_mm": [1.0], "min_mm": 1.0, "max_mm": 2.0, "washers": "unknown"}),
            ("lash.side_gear", "min_mm", {"plays_mm": [0.1], "min_mm": 0.3, "max_mm": 0.2}),
            ("clutchpack.shims", "max_pieces", {"ring_side": {"stack_mm": 1.0}, "far_side": {"stack_mm": 1.0}, "min_mm": 1.0,
                                                "max_mm": 2.0, "stock": [], "max_pieces": 5}),
        ):  # fmt: skip
            with self.subTest(name), self.assertRaises(InvalidInput) as caught:
                registry.run(name, asked)
            self.assertEqual(caught.exception.field, field)
