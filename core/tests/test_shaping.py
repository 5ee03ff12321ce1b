"""A shop's own steps, cautions, minutes and ways: the library under them stays whole."""

from __future__ import annotations

from unittest import TestCase

from hypothesis import given
from hypothesis import strategies as st

from amber_core.errors import InvalidInput
from amber_core.procedures.kinds import KINDS
from amber_core.procedures.library import keeps_holds, library, plain, read
from amber_core.procedures.shaping import OwnStep, OwnWay, Shape, shaped

kinds = st.sampled_from(sorted(KINDS))


def own(code: str, after: str, **more: object) -> OwnStep:
    return OwnStep(code=f"own_{code}", after=after, title="Ring the foreman", why="He wants to see it.", **more)  # type: ignore[arg-type]


class Shaping(TestCase):
    @given(kinds, st.data())
    def test_every_step_and_hold_of_the_library_stays_in_its_order(self, kind: str, data: st.DataObject) -> None:
        base = library(kind)
        codes = [one.step.code for one in base]
        picked = data.draw(st.lists(st.sampled_from(codes), max_size=5))
        steps = [own(f"s{index}", after, hold=data.draw(st.booleans())) for index, after in enumerate(picked)]
        minutes = {code: data.draw(st.integers(0, 500)) for code in picked}
        found = shaped(base, Shape(steps=steps, minutes=minutes, cautions=dict.fromkeys(picked, "Mind the step.")))
        self.assertEqual([one.step.code for one in found if not one.step.code.startswith("own_")], codes)
        self.assertTrue(keeps_holds(kind, found))
        self.assertEqual(len(found), len(base) + len(steps))
        self.assertEqual(read(plain(found)), found)
        for one in found:
            if one.step.code in minutes:
                self.assertEqual(one.step.minutes, minutes[one.step.code])
                self.assertTrue(one.step.caution.endswith("Mind the step."))

    def test_own_steps_follow_own_steps_and_stand_where_those_stand(self) -> None:
        found = shaped(library("clutch_packs"), Shape(steps=[own("b", "own_a"), own("a", "clips_out")]))
        codes = [one.step.code for one in found]
        at = codes.index("clips_out")
        self.assertEqual(codes[at : at + 3], ["clips_out", "own_a", "own_b"])
        self.assertEqual(found[at + 2].needs, found[at].needs)

    def test_a_way_is_added_to_a_question(self) -> None:
        way = OwnWay(question="cover_seal", code="own_cork", title="Cork gasket", fits="Old covers.")
        found = shaped(library("oil_service"), Shape(ways=[way]))
        ways = next(one.step.ways for one in found if one.step.code == "cover_seal")
        self.assertEqual((ways[-1].code, ways[-1].title), ("own_cork", "Cork gasket"))

    def test_what_does_not_fit_gets_one_sentence(self) -> None:
        for name, make, field in (
            ("a circle", lambda: Shape(steps=[own("a", "own_b"), own("b", "own_a")]), "steps[0].after"),
            ("after nothing", lambda: Shape(steps=[own("a", "nowhere")]), "steps[0].after"),
            ("twice", lambda: Shape(steps=[own("a", "oil"), own("a", "oil")]), "steps[1].code"),
            ("no such step", lambda: Shape(cautions={"nowhere": "x"}), "cautions.nowhere"),
            ("no question", lambda: Shape(ways=[OwnWay(question="oil", code="own_x", title="x")]), "ways"),
            ("a day of a step", lambda: Shape(minutes={"oil": 99_999}), "minutes.oil"),
        ):
            with self.subTest(name), self.assertRaises(InvalidInput) as refused:
                shaped(library("oil_service"), make())
            self.assertEqual(refused.exception.field, field)
        with self.assertRaises(InvalidInput):
            OwnStep(code="oil", after="oil", title="x", why="x")
