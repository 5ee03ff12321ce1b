"""The library of blocks and kinds: its laws, whatever ways are chosen."""

from __future__ import annotations

from itertools import product
from unittest import TestCase

from hypothesis import given
from hypothesis import strategies as st

from amber_core.errors import InvalidInput
from amber_core.procedures import library
from amber_core.procedures.handing_over import driver_notes, fitted_by
from amber_core.procedures.kinds import ANYWHERE, COMPLAINTS, KINDS, Kind, complaint_kinds
from amber_core.procedures.making import BLOCKS, OwnKind, always_held, made
from amber_core.procedures.steps import Step, blocking_hold, next_step, steps_for
from amber_core.road_test.run_in import RunInQuestion, plan_run_in

FACTS = ("has_spreader", "has_speed_ring", "has_sheet")
DANGERS = {
    "stands": "fall",
    "propshaft off": "roll",
    "clamped and out": "eye",
    "spring in": "eye",
    "carrier out": "heav",
    "third member out": "heav",
    "oil drained:": "hot oil",
    "out and in, each on its own": "splinter",
    "road test": "hot",
    "breakaway torque between": "engine off",
    "high-voltage": "kill",
    "to the end: cut": "eye",
}
"""What a title speaks of, and the word that its caution must have."""

kinds = st.sampled_from(sorted(KINDS))
facts = st.fixed_dictionaries({name: st.booleans() for name in FACTS})


def walked(kind: Kind, known: dict[str, bool], choose: st.DataObject) -> tuple[list[Step], dict[str, str]]:
    """Pass every step as it comes up, any way at each choice."""
    ways: dict[str, str] = {}
    passed: set[str] = set()
    done: list[Step] = []
    while (step := next_step(steps_for(kind.steps, known, ways), passed)) is not None:
        if step.act == "choose":
            ways[step.code] = choose.draw(st.sampled_from([one.code for one in step.ways]))
        passed.add(step.code)
        done.append(step)
    return done, ways


class EveryKind(TestCase):
    @given(kinds, facts, st.data())
    def test_it_can_be_passed_to_the_end_and_no_hold_is_passed_over(self, code: str, known: dict[str, bool], choose: st.DataObject) -> None:
        done, ways = walked(KINDS[code], known, choose)
        steps = steps_for(KINDS[code].steps, known, ways)
        self.assertEqual({one.code for one in done}, {one.code for one in steps})
        for index, step in enumerate(steps):
            before = {one.code for one in steps[:index]}
            for hold in (one for one in steps[:index] if one.hold):
                self.assertEqual(blocking_hold(steps, before - {hold.code}, step.code), hold)
            self.assertIsNone(blocking_hold(steps, before, step.code))

    @given(kinds, facts, st.data(), st.data())
    def test_another_way_keeps_what_stays_the_same(
        self, code: str, known: dict[str, bool], first: st.DataObject, then: st.DataObject
    ) -> None:
        done, ways = walked(KINDS[code], known, first)
        questions = [one for one in done if one.act == "choose"]
        asked = then.draw(st.sampled_from(questions)) if questions else None
        other = then.draw(st.sampled_from([one.code for one in asked.ways])) if asked else ""
        before = {one.code for one in done}
        after = steps_for(KINDS[code].steps, known, ways | ({asked.code: other} if asked else {}))
        new = [one for one in after if one.code not in before]
        conditional = {one.step.code for one in KINDS[code].steps if one.needs}
        self.assertLessEqual({one.code for one in new}, conditional)
        self.assertIn(next_step(after, before), [None, *new])

    def test_every_step_says_what_and_why_once_and_asks_what_its_act_needs(self) -> None:
        for kind in KINDS.values():
            steps = [one.step for one in kind.steps]
            self.assertEqual(len(steps), len({one.code for one in steps}), kind.code)
            for step in steps:
                with self.subTest(kind.code, step=step.code):
                    self.assertTrue(step.title and step.why.endswith(".") and step.group)
                    self.assertFalse(step.hold and step.may_skip)
                    self.assertEqual(bool(step.asks), step.act in ("read", "count"))
                    self.assertEqual(bool(step.ways), step.act == "choose")
                    self.assertEqual(bool(step.measure), step.act == "measure")
                    self.assertEqual(step.wait_minutes > 0, step.act == "clock")
                    self.assertLessEqual(sum(one.recommended for one in step.ways), 1)
                    self.assertRegex(step.code, r"^[a-z0-9_]{1,40}$")

    def test_what_is_needed_can_come_about(self) -> None:
        for kind in KINDS.values():
            ways = {f"{one.step.code}={way.code}" for one in kind.steps for way in one.step.ways}
            for step in kind.steps:
                for need in step.needs:
                    self.assertIn(need.removeprefix("!"), ways | set(FACTS), f"{kind.code} {step.step.code}")

    def test_a_way_is_asked_before_the_steps_that_hang_on_it(self) -> None:
        for kind in KINDS.values():
            codes = [one.step.code for one in kind.steps]
            for index, one in enumerate(kind.steps):
                for need in (need.removeprefix("!") for need in one.needs if "=" in need):
                    self.assertLess(codes.index(need.partition("=")[0]), index, f"{kind.code} {one.step.code}")

    def test_what_is_read_beside_something_was_asked_before(self) -> None:
        for kind in KINDS.values():
            seen: set[str] = set()
            for one in kind.steps:
                seen |= {ask.name for ask in one.step.asks}
                self.assertLessEqual({ask.beside for ask in one.step.asks if ask.beside}, seen, f"{kind.code} {one.step.code}")

    def test_what_can_hurt_has_its_caution(self) -> None:
        found = set()
        for kind, (words, wanted) in product(KINDS.values(), DANGERS.items()):
            for step in (one.step for one in kind.steps if words in one.step.title.lower()):
                found.add(words)
                self.assertIn(wanted, step.caution.lower(), f"{kind.code} {step.code}")
        self.assertEqual(found, set(DANGERS))

    def test_stands_come_before_anything_comes_off_and_oil_before_the_road(self) -> None:
        for kind in KINDS.values():
            codes = [one.step.code for one in kind.steps]
            off = [index for index, one in enumerate(kind.steps) if one.step.act == "take_off"]
            if off:
                self.assertLess(codes.index("stands_and_chocks"), min(off), kind.code)
            if "fill_plug" in codes and "road_test" in codes:
                self.assertLess(codes.index("oil"), codes.index("road_test"), kind.code)
            if "fill_plug" in codes:
                self.assertLess(codes.index("fill_plug"), codes.index("drained"), kind.code)


@st.composite
def own_kinds(draw: st.DrawFn) -> Kind:
    """A shop's own kind: any places, and any blocks that can be done there with all that they want."""
    places = draw(st.lists(st.sampled_from(ANYWHERE), min_size=1, max_size=3, unique=True))
    fitting = [code for code, one in BLOCKS.items() if set(places) <= set(one.places)]
    blocks = draw(st.lists(st.sampled_from(fitting), min_size=1, unique=True))
    for code in blocks:
        blocks += [one for one in BLOCKS[code].wants if one not in blocks]
    return made(OwnKind(code="own_made", title="Made here", about="", places=places, blocks=blocks))


class MadeFromBlocks(TestCase):
    @given(own_kinds(), facts, st.data())
    def test_whatever_is_chosen_it_keeps_the_laws_of_the_library(self, kind: Kind, known: dict[str, bool], choose: st.DataObject) -> None:
        codes = [one.step.code for one in kind.steps]
        self.assertEqual(len(codes), len(set(codes)))
        done, ways = walked(kind, known, choose)
        steps = steps_for(kind.steps, known, ways)
        self.assertEqual({one.code for one in done}, {one.code for one in steps})
        self.assertLessEqual(always_held(), {(one.step.code, *one.needs) for one in kind.steps if one.step.hold})
        offered = {f"{one.step.code}={way.code}": index for index, one in enumerate(kind.steps) for way in one.step.ways}
        seen: set[str] = set()
        for index, one in enumerate(kind.steps):
            for need in (need.removeprefix("!") for need in one.needs):
                if not (need in FACTS or "=" not in need or one.needs == [f"!{need}"]):
                    self.assertLess(offered.get(need, len(codes)), index, f"{one.step.code}: {need}")
            seen |= {ask.name for ask in one.step.asks}
            self.assertLessEqual({ask.beside for ask in one.step.asks if ask.beside}, seen, one.step.code)
        if "fill_plug" in codes and "road_test" in codes:
            self.assertLess(codes.index("oil"), codes.index("road_test"))
        for off, on in (("propshaft_off", "propshaft_on"), ("brakes_off", "brakes_back"), ("cover_off", "cover"), ("fill_plug", "oil")):
            self.assertEqual(off in codes, on in codes, off)
            if off in codes:
                self.assertLess(codes.index(off), codes.index(on))

    def test_what_was_opened_last_is_closed_first(self) -> None:
        kind = OwnKind(code="own_a", title="A", about="", places=["rear_axle"], blocks=["cover", "oil", "propshaft", "seal"])
        codes = [one.step.code for one in made(kind).steps]
        order = ["fill_plug", "propshaft_off", "cover_off", "seal_in", "cover", "propshaft_on", "oil"]
        self.assertEqual([one for one in codes if one in order], order)

    def test_what_cannot_be_made(self) -> None:
        usual = {"code": "own_a", "title": "A", "about": "", "places": ["rear_axle"], "blocks": ["propshaft"]}
        for change, field in (
            ({"code": "cover"}, "code"),
            ({"title": " "}, "title"),
            ({"about": "x" * 201}, "about"),
            ({"places": []}, "places"),
            ({"places": ["roof"]}, "places"),
            ({"blocks": []}, "blocks"),
            ({"blocks": ["propshaft", "propshaft"]}, "blocks"),
            ({"blocks": ["engine"]}, "blocks[0]"),
            ({"blocks": ["cover"]}, "blocks[0]"),
            ({"blocks": ["propshaft", "oil"], "places": ["rear_shaft"]}, "blocks[1]"),
        ):
            with self.subTest(change), self.assertRaises(InvalidInput) as refused:
                OwnKind(**{**usual, **change})  # type: ignore[arg-type]
            self.assertEqual(refused.exception.field, field)


class TheLibrary(TestCase):
    def test_nineteen_kinds_that_go_out_and_come_back_as_they_were(self) -> None:
        self.assertEqual(len(library.kinds()), 19)
        for code in library.kinds():
            self.assertEqual(library.read(library.plain(library.library(code))), library.library(code))

    def test_steps_from_before_acts_are_read(self) -> None:
        old = {"code": "oil", "group": "Assemble", "title": "Oil filled", "why": "Before it turns.", "check": "litres", "hold": True}
        was = [
            {"step": {**old, "caution": "", "limit": "oil"}, "needs": ""},
            {"step": {**old, "code": "speed_ring", "check": "confirm", "caution": "", "limit": ""}, "needs": "has_speed_ring"},
            {"step": {**old, "code": "pattern", "check": "bench_pattern", "caution": "", "limit": ""}, "needs": ""},
        ]
        oil, ring, pattern = library.read(was)
        self.assertEqual((oil.step.act, oil.step.asks[0].name, oil.step.asks[0].limit, oil.step.asks[0].unit), ("read", "oil", "oil", "l"))
        self.assertEqual((ring.step.act, ring.needs), ("confirm", ["has_speed_ring"]))
        self.assertEqual((pattern.step.act, pattern.step.measure), ("measure", "bench_pattern"))

    def test_complaints_point_at_kinds(self) -> None:
        for words, wanted in (
            ("Howls on overrun", "strip_and_report"),
            ("Knock since its springs were changed, and a leak", "joint"),
            ("Chatters in tight turns", "oil_service"),
            ("Slow on the hill with the taller tyres", "gear_ratio"),
        ):
            self.assertEqual(complaint_kinds(words)[0], wanted)
        self.assertEqual(complaint_kinds("Wants a service"), [])
        self.assertLessEqual({code for one in COMPLAINTS for code in one.kinds}, set(KINDS))


class HandingOver(TestCase):
    def test_every_kind_says_what_was_fitted_in_the_words_of_the_run_in_plan(self) -> None:
        for kind in KINDS:
            fitted = fitted_by(kind, {"air_locker": "yes"} if kind == "third_member" else {})
            plan = plan_run_in(RunInQuestion(fitted=fitted, odometer_km=1000.0, date="2026-11-27"))
            codes = {one.code for one in plan.items}
            with self.subTest(kind):
                self.assertEqual("wheel_nuts" in codes, any(one.step.code == "wheel_nuts" for one in KINDS[kind].steps))
                self.assertEqual("shaft_bolts" in codes, any(one.step.code == "propshaft_bolts" for one in KINDS[kind].steps))
        self.assertIn("air_locker", fitted_by("third_member", {"air_locker": "yes"}))
        self.assertEqual(fitted_by("oil_service", {"drain_way": "plug"}), [])

    def test_the_driver_is_told_each_thing_once(self) -> None:
        notes = driver_notes(["ring_and_pinion", "ring_and_pinion", "locker"])
        self.assertEqual(len(notes), len(set(notes)))
        self.assertTrue(any("straight on in a turn on ice" in one for one in notes))
        self.assertEqual(driver_notes(["oil_service"]), [])
