from __future__ import annotations

from unittest import TestCase

from amber_core.words.glossary import TERMS, find_terms


def codes(text: str) -> list[str]:
    return [term.code for term in find_terms(text)]


class Glossary(TestCase):
    def test_codes_and_names_are_unique(self) -> None:
        self.assertEqual(len({term.code for term in TERMS}), len(TERMS))
        self.assertEqual(len({str(term.name) for term in TERMS}), len(TERMS))

    def test_every_term_says_what_it_is_and_where(self) -> None:
        for term in TERMS:
            with self.subTest(term.code):
                self.assertTrue(term.meaning.endswith(".") and term.where)
                self.assertNotIn(term.name, term.also)

    def test_our_own_name_comes_before_what_others_call_something_else(self) -> None:
        self.assertEqual(codes("pinion")[0], "pinion")
        self.assertIn("spider_gear", codes("pinion"))
        self.assertEqual(codes("carrier")[:2], ["carrier", "third_member"])

    def test_words_that_mean_two_things_find_both(self) -> None:
        for word, wanted in (
            ("driveshaft", {"half_shaft", "propshaft"}),
            ("spider", {"spider_gear", "joint_cross"}),
            ("carrier bearing", {"side_bearing", "centre_bearing"}),
        ):
            with self.subTest(word):
                self.assertLessEqual(wanted, set(codes(word)))

    def test_either_spelling_with_or_without_a_hyphen(self) -> None:
        for word, wanted in (
            ("run out", "runout"),
            ("center support", "centre_bearing"),
            ("dial gage", "dial_indicator"),
            ("preLOAD", "preload"),
        ):
            with self.subTest(word):
                self.assertEqual(codes(word)[0], wanted)

    def test_nothing_finds_nothing(self) -> None:
        self.assertEqual((codes("  "), codes("zzz"), codes("-")), ([], [], []))
