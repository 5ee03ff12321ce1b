"""Verdicts: inclusive limits, the edge that a dial cannot tell, the worst of several."""

from __future__ import annotations

from unittest import TestCase

from hypothesis import given
from hypothesis import strategies as st

from amber_core.verdicts import Limit, VerdictWord, judge, worst

WORDS = st.lists(st.sampled_from(("unknown", "in", "edge", "out")), max_size=5)


def most(value: float) -> Limit:
    return Limit(value=value, bound=0.20, side="max", field="greatest_mm", what="The greatest reading", unit="mm")


def least(value: float) -> Limit:
    return Limit(value=value, bound=0.13, side="min", field="least_mm", what="The least reading", unit="mm")


class Judged(TestCase):
    def test_a_limit_belongs_to_what_it_allows(self) -> None:
        for limit, verdict in ((most(0.20), "edge"), (most(0.2001), "out"), (least(0.13), "edge"), (least(0.1299), "out")):
            self.assertEqual(judge([limit], 0.01)[0], verdict)

    def test_farther_inside_than_the_dial_can_tell_is_in(self) -> None:
        for limit, verdict in ((most(0.19), "edge"), (most(0.189), "in"), (least(0.14), "edge"), (least(0.141), "in")):
            self.assertEqual(judge([limit], 0.01)[0], verdict)

    def test_what_is_broken_is_told_first_and_by_how_much(self) -> None:
        verdict, reasons = judge([most(0.15), most(0.195), least(0.12)], 0.01)
        self.assertEqual((verdict, [one.code for one in reasons]), ("out", ["under_min", "near_max", "inside_max"]))
        self.assertEqual(reasons[0].text, "The least reading is 0.120 mm: 0.010 mm under the minimum of 0.130 mm.")

    def test_without_a_limit_nothing_is_judged(self) -> None:
        self.assertEqual(judge([], 0.01)[0], "unknown")


class Worst(TestCase):
    def test_of_none_is_unknown(self) -> None:
        self.assertEqual(worst([]), "unknown")

    def test_unknown_hides_nothing(self) -> None:
        self.assertEqual([worst(["unknown", word]) for word in ("in", "edge", "out")], ["in", "edge", "out"])

    @given(WORDS, WORDS)
    def test_in_whatever_order_and_however_grouped(self, some: list[VerdictWord], others: list[VerdictWord]) -> None:
        together = worst([*some, *others])
        self.assertEqual(together, worst([*others, *some]))
        self.assertEqual(together, worst([worst(some), worst(others)]))
