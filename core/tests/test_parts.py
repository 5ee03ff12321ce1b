"""The parts of an assembly: laws of the graph over every build, and the exceptions of putting back."""

from __future__ import annotations

import itertools
import unittest
from collections.abc import Iterator
from functools import cache
from typing import Any

from hypothesis import given
from hypothesis import strategies as st

from amber_core import registry
from amber_core.errors import InvalidInput
from amber_core.parts.assembly import ON_FIRST, TOGETHER, Assembly
from amber_core.parts.build import CHOICES, Build, asked_of
from amber_core.parts.catalogue import BY_CODE, PARTS
from amber_core.parts.drawing import HEIGHT, WIDTH, axes_of, spots_of
from amber_core.parts.findings import CLASSES, DECISIONS, FINDINGS, advised, look_at
from amber_core.parts.plan import PartsQuestion, plan_parts
from amber_core.parts.sets import SETS, off_of, set_of
from amber_core.procedures.kinds import KINDS


def _every_build() -> Iterator[Build]:
    for unit in CHOICES["unit"]:
        asked = [name for name in asked_of(unit) if name != "unit"]
        choices: list[tuple[Any, ...]] = [CHOICES.get(name, (False, True)) for name in asked]
        for chosen in itertools.product(*choices):
            facts: dict[str, Any] = dict(zip(asked, chosen, strict=True))
            if facts.get("ends", "half") != "half" and (facts["inner_flange"] or facts["drive_flange"]):
                continue
            try:
                yield Build(unit=unit, **facts)  # type: ignore[arg-type]
            except InvalidInput:
                continue


@cache
def builds() -> list[Build]:
    """Every build that can be told."""
    return list(_every_build())


any_build = st.integers(min_value=0, max_value=96_977).map(lambda number: builds()[number])


class Laws(unittest.TestCase):
    def test_every_build_is_there_once(self) -> None:
        self.assertEqual(len(builds()), 96_978)
        self.assertEqual(len({one.facts for one in builds()}), 96_978)

    @given(any_build)
    def test_nothing_goes_in_a_circle(self, build: Build) -> None:
        assembly = Assembly(build)
        order = assembly.order_off(assembly.places)
        self.assertEqual(sorted(order), sorted(assembly.places))
        place = {key: number for number, key in enumerate(order)}
        self.assertTrue(all(place[first] < place[key] for key, waits in assembly.before.items() for first in waits))

    @given(any_build, st.integers(0, len(SETS) - 1))
    def test_what_a_kind_takes_off_is_closed_and_goes_back_in_a_valid_order(self, build: Build, number: int) -> None:
        assembly, kind = Assembly(build), SETS[number].kind
        off = off_of(kind, assembly, set_of(kind, assembly).asked.split())
        self.assertEqual(set(off), assembly.closed(off))
        back = [one.key for one in assembly.order_back(off)]
        self.assertEqual(sorted(back), sorted(off))
        place = {key: number for number, key in enumerate(back)}
        for key, first in assembly.back_before(off).items():
            self.assertTrue(all(place[one] < place[key] for one in first), key)

    @given(any_build, st.randoms(use_true_random=False))
    def test_any_order_off_has_a_way_back(self, build: Build, random: Any) -> None:
        assembly = Assembly(build)
        keys = list(assembly.places)
        some = random.sample(keys, len(keys) // 2)
        self.assertEqual(sorted(one.key for one in assembly.order_back(some)), sorted(some))

    @given(any_build)
    def test_what_the_table_calls_the_same_is_in_the_reverse(self, build: Build) -> None:
        assembly = Assembly(build)
        for rule, first, then in assembly.ruled:
            if rule.how == "same":
                self.assertIn(then, assembly._all_before[first], f"{first} before {then}")
            elif rule.how == "swap":
                self.assertIn(first, assembly._all_before[then])

    @given(any_build)
    def test_every_part_is_drawn_inside_the_picture(self, build: Build) -> None:
        assembly = Assembly(build)
        spots = spots_of(assembly)
        self.assertEqual({one.key for one in spots}, set(assembly.places))
        self.assertTrue(all(0 < one.x < WIDTH and 0 < one.y < HEIGHT for one in spots))
        self.assertEqual(len({(one.x, one.y) for one in spots}), len(spots))
        self.assertTrue(all(one.x1 <= one.x2 and one.y1 <= one.y2 for one in axes_of(spots, assembly)))


class Table(unittest.TestCase):
    def test_every_name_that_is_used_is_a_part(self) -> None:
        codes = {wait.code for part in PARTS for wait in part.waits}
        codes |= {code for rule in ON_FIRST for code in (*rule.first, *rule.then)}
        codes |= {code for one in TOGETHER for code in one} | {code for one in FINDINGS.values() for code in one.look_at}
        self.assertEqual(codes - set(BY_CODE), set())

    def test_every_part_has_a_class_and_every_class_its_findings(self) -> None:
        self.assertEqual({part.kind for part in PARTS}, set(CLASSES))
        self.assertEqual({code for one in CLASSES.values() for code in one.findings}, set(FINDINGS))
        for kind, one in CLASSES.items():
            for found in one.findings:
                self.assertIn(advised(kind, [found])[0], DECISIONS)

    def test_every_kind_of_work_has_its_set(self) -> None:
        self.assertEqual({one.kind for one in SETS}, set(KINDS))
        self.assertEqual(advised("D", []), ("replace", "It is used once."))


class Axle(unittest.TestCase):
    """A beam axle with clips, side shims and a crush sleeve."""

    def setUp(self) -> None:
        self.assembly = Assembly(Build(unit="beam"))

    def back(self, *off: str) -> list[str]:
        return [one.key for one in self.assembly.order_back(off)]

    def test_a_side_waits_for_its_own_side(self) -> None:
        self.assertEqual(self.assembly.before["wheel.left"], {"wheelnut.left"})
        self.assertLessEqual({"axle.left", "axle.right"}, self.assembly.before["carr"])

    def test_oil_goes_in_after_the_drain_plug_and_before_the_fill_plug(self) -> None:
        self.assertEqual(self.back("fill", "drain", "oil", "cover"), ["cover", "drain", "oil", "fill"])
        why = {one.key: [str(said) for said in one.why] for one in self.assembly.order_back(["fill", "drain", "oil", "cover"])}
        self.assertIn("Sealant must have cured before oil goes in.", why["oil"])

    def test_the_pinion_nut_comes_before_brakes_and_wheels(self) -> None:
        order = self.back("wheelnut.left", "wheel.left", "caliper.left", "shaft", "pnut", "flange")
        self.assertLess(order.index("pnut"), order.index("caliper.left"))
        self.assertLess(order.index("pnut"), order.index("shaft"))

    def test_runout_is_read_before_the_ring_gear_goes_on(self) -> None:
        order = self.back("carr", "scone.ring", "scone.far", "ringbolt", "ring")
        self.assertLess(max(order.index("scone.ring"), order.index("scone.far")), order.index("ring"))

    def test_marks(self) -> None:
        said = {key: str(self.assembly.places[key].mark) for key in ("scup.ring", "scup.far", "cap.ring", "cap.far", "ring")}
        self.assertEqual(list(said.values()), ["one dot", "two dots", "A", "B", "match mark across both parts"])

    def test_a_broken_tooth_makes_one_look_further(self) -> None:
        found = look_at(["chip"], self.assembly, "ring")
        self.assertLessEqual({"pinion", "icone", "magnet", "scone.far"}, set(found))
        self.assertNotIn("ring", found)

    def test_a_build_that_cannot_be(self) -> None:
        wrong: list[dict[str, Any]] = [
            {"unit": "sides"},
            {"unit": "third", "ends": "clip"},
            {"unit": "small", "ends": "half"},
            {"unit": "beam", "carrier": "cov"},
            {"unit": "tc", "front": "slip"},
        ]
        for facts in wrong:
            with self.subTest(facts), self.assertRaises(InvalidInput):
                Build(**facts)


class Plan(unittest.TestCase):
    def test_a_joint_waits_for_its_own_shaft(self) -> None:
        plan = plan_parts(PartsQuestion(build=Build(unit="prop", shaft="two"), kind="joint"))
        after = {one.key: one.after for one in plan.off}
        self.assertEqual((after["jclip.front"], after["jclip.rear"]), (["fshaft"], ["rshaft"]))

    def test_the_public_computation(self) -> None:
        answer = registry.run("parts.plan", {"build": {"unit": "tc"}, "kind": "transfer_output"})
        keys = [one["key"] for one in answer["off"]]
        self.assertLess(keys.index("thouse"), keys.index("troll"))
        self.assertTrue(next(one for one in answer["off"] if one["key"] == "troll")["counted"])
        self.assertEqual({one["key"] for one in answer["back"]}, set(keys))
        with self.assertRaises(InvalidInput):
            registry.run("parts.plan", {"build": {"unit": "tc"}, "kind": "paint"})
