from __future__ import annotations

import ast
import copy
import json
import pickle
import re
from collections.abc import Iterator
from pathlib import Path
from string import Formatter
from tempfile import TemporaryDirectory
from unittest import TestCase
from unittest.mock import patch

from babel.messages.pofile import read_po
from hypothesis import given
from hypothesis import strategies as st

from amber_core import payload
from amber_core.verdicts import Limit, Reason
from amber_core.words import Reader, Said, figure, listed, reading_as, retold, say, stored, storing, together
from amber_core.words.catalogue import TEMPLATE, languages, translated
from amber_core.words.glossary import TERMS
from amber_core.words.pseudo import write_pseudo

ROOT = Path(__file__).resolve().parents[2]
THOU, INLB = Reader(length="thou"), Reader(torque="inlb")


class Figures(TestCase):
    def test_lengths_follow_the_reader(self) -> None:
        said = say("Add {change:mm2} to the depth shim: {shim:mm2}.", change=0.18, shim=1.16)
        self.assertEqual(said, "Add 0.18 mm to the depth shim: 1.16 mm.")
        self.assertEqual(said.told(Reader(length="hundredths_mm")), said)
        self.assertEqual(said.told(THOU), "Add 7.1 thou to the depth shim: 45.7 thou.")

    def test_figures_that_share_a_unit(self) -> None:
        said = say("Window {low:mm2-} to {high:mm2}.", low=0.13, high=0.20)
        self.assertEqual((said, said.told(THOU)), ("Window 0.13 to 0.20 mm.", "Window 5.1 to 7.9 thou."))

    def test_whole_millimetres_are_inches(self) -> None:
        self.assertEqual(say("Raise it by {lift:mm0}.", lift=8.0).told(THOU), "Raise it by 0.31 in.")

    def test_torques_follow_their_own_unit(self) -> None:
        said = say("The rotating torque is {torque:Nm2}.", torque=2.1)
        self.assertEqual((said.told(THOU), said.told(INLB)), (said, "The rotating torque is 18.6 in-lb."))

    def test_speeds_in_miles(self) -> None:
        self.assertEqual(say("{speed:kmh0}", speed=153.0).told(THOU), "95 mph")

    def test_signs_and_thousands_are_typeset(self) -> None:
        self.assertEqual(
            say("{a:+mm2}, {b:+mm2}, {c:.0f} rpm, {d:.2f}", a=-0.05, b=0.1, c=12500, d=-3.5), "−0.05 mm, +0.10 mm, 12\u2009500 rpm, −3.50"
        )
        self.assertEqual(say("{zero:+mm2}", zero=-0.001), "0.00 mm")
        self.assertEqual(say("{trial}, {many:g}", trial=1234, many=123456), "1234, 123\u2009456")

    def test_a_slip_stays_short(self) -> None:
        self.assertLess(len(say("{speed:kmh0}", speed=1e200)), 20)

    def test_a_format_that_a_file_made_up_is_not_obeyed(self) -> None:
        for spec, value in ((">999999999", 1.5), ("999999999d", 2), (".99f", 1.5), (".2f", "word"), ("q", 1.5)):
            with self.subTest(spec):
                self.assertEqual(Said.of({"say": "{value:" + spec + "}", "with": {"value": value}}).told(), str(value))

    @given(st.floats(-1e6, 1e6), st.sampled_from(["mm2", "mm0", "mmg", "+mm3", "Nm1", "kmh0", ".2f", "g"]))
    def test_every_figure_can_be_told_to_anybody(self, value: float, spec: str) -> None:
        for reader in (Reader(), THOU, INLB):
            self.assertRegex(figure(value, spec).told(reader), r"^[+−]?\d")


class Sentences(TestCase):
    SAID = say("{depth} It is {off:mm2}.", depth=say("Leave the depth shim."), off=0.1)

    def test_nested_ones_are_told_whole(self) -> None:
        self.assertEqual(self.SAID.told(THOU), "Leave the depth shim. It is 3.9 thou.")

    def test_who_reads_now_is_told_by_default(self) -> None:
        with reading_as(THOU):
            self.assertIn("3.9 thou", self.SAID.told())
        self.assertIn("0.10 mm", self.SAID.told())

    def test_they_are_stored_and_told_to_another_reader(self) -> None:
        kept = json.loads(json.dumps(stored({"reasons": [self.SAID], "count": 1, "left": None})))
        self.assertEqual(kept["reasons"][0]["say"], "{depth} It is {off:mm2}.")
        with reading_as(THOU):
            self.assertEqual(retold(kept), {"reasons": ["Leave the depth shim. It is 3.9 thou."], "count": 1, "left": None})
        self.assertEqual(Said.of(kept["reasons"][0]), self.SAID)
        self.assertEqual(Said.of(self.SAID.as_text()).told(THOU), self.SAID.told(THOU))

    def test_an_answer_of_the_core_is_told_or_stored(self) -> None:
        reason = Reason(code="x", text=self.SAID)
        with reading_as(THOU):
            self.assertEqual(payload.plain(reason)["text"], "Leave the depth shim. It is 3.9 thou.")
        with storing():
            self.assertEqual(payload.plain(reason)["text"], self.SAID.as_data())

    def test_they_survive_copying(self) -> None:
        for same in (copy.deepcopy(self.SAID), pickle.loads(pickle.dumps(self.SAID))):
            self.assertEqual((same, same.told(THOU)), (self.SAID, self.SAID.told(THOU)))

    def test_somebodys_own_words_are_told_as_they_are(self) -> None:
        for text in ("{0.__class__}", "{x}", "50 % {", '{"say": ', '{"say": 1}', "plain"):
            self.assertEqual(Said.of(text), text)
            self.assertEqual(Said.of(text).told(THOU), text)

    def test_a_template_reaches_nothing_but_its_parameters(self) -> None:
        sly = Said.of({"say": "{off.__class__} {off[0]} {other}", "with": {"off": 0.1}})
        self.assertNotIn("class", sly)
        for wrong in ({"say": "x", "with": {"a": []}}, {"say": 3, "with": {}}, {"say": "{", "with": {}}, {"say": "x"}, 7, None):
            with self.subTest(wrong), self.assertRaises(ValueError):
                Said.of(wrong)

    def test_lists_and_rows_of_sentences(self) -> None:
        self.assertEqual([listed(names) for names in ([], ["a"], ["a", "b"], ["a", "b", "c"])], ["", "a", "a and b", "a, b and c"])
        self.assertEqual(together([say("One."), say(""), say("Two.")]), "One. Two.")

    def test_a_limit_reads_verdict_value_bound(self) -> None:
        limit = Limit(value=0.08, bound=0.13, side="min", field="min_mm", what=say("The least reading"), unit="mm", digits=2)
        self.assertEqual(limit.reason(0.01).text.told(THOU), "The least reading is 3.1 thou: 2.0 thou under the minimum of 5.1 thou.")


def said_in(source: str) -> Iterator[ast.Call]:
    """Every call of `say` in a source."""
    for node in ast.walk(ast.parse(source)):
        if isinstance(node, ast.Call) and isinstance(node.func, ast.Name) and node.func.id == "say":
            yield node


class Catalogue(TestCase):
    def test_every_sentence_is_written_out_and_has_its_parameters(self) -> None:
        count = 0
        for path in [*ROOT.glob("core/amber_core/**/*.py"), *ROOT.glob("server/**/*.py"), *ROOT.glob("cli/amber_cli/*.py")]:
            for call in said_in(path.read_text(encoding="utf-8")):
                count += 1
                with self.subTest(path.relative_to(ROOT), line=call.lineno):
                    (template,) = call.args
                    assert isinstance(template, ast.Constant) and isinstance(template.value, str), "not written out"
                    places = {name for _, name, _, _ in Formatter().parse(template.value) if name is not None}
                    self.assertEqual(places, {word.arg for word in call.keywords})
        self.assertGreater(count, 900)

    def test_a_language_is_one_more_file(self) -> None:
        self.assertEqual(languages(), ("en",))
        with TemporaryDirectory() as folder, patch("amber_core.words.catalogue.FOLDER", Path(folder)):
            write_pseudo(Path(folder) / "xx.po")
            self.assertEqual(languages(Path(folder)), ("en", "xx"))
            said = say("Outside the window: {names}.", names=listed([say("both contact patterns"), say("pinion rotating torque")]))
            told = said.told(Reader(language="xx"))
            self.assertTrue(told.startswith("⟦") and told.endswith("⟧"), told)
            self.assertNotRegex(told, r"[aeiou]")
            self.assertEqual(translated("not in any catalogue", "xx"), "not in any catalogue")
            self.assertEqual(said.told(), "Outside the window: both contact patterns and pinion rotating torque.")

    def test_words_are_those_of_the_trade(self) -> None:
        """What a workshop does not say: figures of speech that crept in, and names of parts that mean two things."""
        with TEMPLATE.open("rb") as file:
            sentences = [str(entry.id) for entry in read_po(file) if entry.id]
        searched = {str(name) for term in TERMS for name in term.also}  # what others call it is found, never said
        sentences = [one for one in sentences if one not in searched]
        wrong = re.compile(
            r"lies between|Say (what|why|how|which|whether)|\bHeed\b|Dearer|\bforks?\b|speed ring|\btightest\b|\bloosest\b|run-out|"
            r"Then rather|told of|\bnothing is taken|off the road|\bthe ring(?! gear)\b|is no (?!longer|no)\w+ (?:of|that)\b",
        )
        self.assertEqual([one for one in sentences if wrong.search(one)], [])
