"""Whatever figures come: an answer that is finite, or a sentence with its field; never a traceback, never an infinity."""

from __future__ import annotations

import json
import os
import warnings
from typing import Any
from unittest import TestCase

from amber_core import payload as codec
from amber_core import registry
from amber_core.errors import InvalidInput
from tests.bent import Bender
from tests.good_questions import good_questions

ROUNDS = int(os.environ.get("AMBER_EXPLORE", "60"))
"""Bent questions for each good one; the same ones in every run unless more are asked for."""
_SLOW = {"setup.advise": 0.2, "contact.estimate": 0.3, "driveline.recommend": 0.3}


class HostileFigures(TestCase):
    """Every public computation, asked with figures that no workshop has."""

    def test_every_computation_has_a_good_question_that_it_answers(self) -> None:
        good = good_questions()
        self.assertEqual(sorted(good), registry.names())
        for name, questions in good.items():
            for question in questions:
                with self.subTest(name):
                    json.dumps(registry.run(name, question), allow_nan=False)

    def test_a_bent_question_is_answered_or_refused_with_its_field(self) -> None:
        answered = refused = 0
        for name, questions in good_questions().items():
            computation = registry.find(name)
            bender = Bender(computation.question, name)
            for number in range(max(6, int(ROUNDS * _SLOW.get(name, 1.0)))):
                bent = bender.bent(questions[number % len(questions)])
                with self.subTest(name, bent=bent), warnings.catch_warnings():
                    warnings.simplefilter("error", RuntimeWarning)
                    fine = self._asked(computation, bent)
                answered, refused = answered + fine, refused + (not fine)
        self.assertGreater(answered, refused / 20)  # bent, not broken: many of them are still questions
        self.assertGreater(refused, answered / 20)

    def _asked(self, computation: registry.Computation, bent: dict[str, Any]) -> bool:
        try:
            # without the net of the registry: the computation itself refuses, with a field that it was given
            answer = computation.function(codec.read(computation.question, bent))
        except InvalidInput as wrong:
            self.assertRegex(wrong.message, r"\w.*[.?]$")
            return False
        json.dumps(codec.plain(answer), allow_nan=False)
        return True

    def test_two_enormous_figures_are_refused_wherever_a_list_of_figures_is_asked_for(self) -> None:
        for name, field in (("preload.assess", "readings_nm"), ("vibration.spectrum", "samples"), ("ratio.compare", "grades_pct")):
            good = good_questions()[name][0]
            with self.subTest(name), self.assertRaises(InvalidInput) as caught:
                registry.run(name, {**good, field: [1e308, 1e308]})
            self.assertEqual(caught.exception.field, f"{field}[0]")
