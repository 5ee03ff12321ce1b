"""The core's estimate of a job's set-up, kept for the questions last asked: what to do next, and what any move would bring."""

from __future__ import annotations

from dataclasses import dataclass, field
from functools import lru_cache
from threading import Lock
from typing import Any

from amber_core.setup.advise import Advisor, Prediction, SetupAdvice
from amber_core.setup.chart import SetupChart, setup_chart
from amber_core.setup.question import SetupQuestion

_KEPT = 48


class Estimate:
    """An advisor with its answers, each worked out once."""

    def __init__(self, question: SetupQuestion) -> None:
        self.question, self._lock = question, Lock()
        self._advisor: Advisor | None = None
        self._answers: dict[str, Any] = {}

    @property
    def advisor(self) -> Advisor:
        """The estimate itself."""
        with self._lock:
            if self._advisor is None:
                self._advisor = Advisor(self.question)
            return self._advisor

    def advice(self) -> SetupAdvice:
        """The next move."""
        found: SetupAdvice = self._once("advice", lambda: self.advisor.advice())
        return found

    def chart(self) -> SetupChart:
        """The map of the set-up."""
        found: SetupChart = self._once("chart", lambda: setup_chart(self.advisor.outlook))
        return found

    def _once(self, name: str, work: Any) -> Any:
        if name not in self._answers:
            self._answers[name] = work()
        return self._answers[name]

    def prediction(self, housing: Any) -> Prediction:
        """What another housing would bring."""
        return self.advisor.prediction(housing)


@dataclass(frozen=True)
class _Asked:
    key: str
    question: SetupQuestion = field(compare=False)


@lru_cache(maxsize=_KEPT)
def _estimate(asked: _Asked) -> Estimate:
    return Estimate(asked.question)


def estimate_of(question: SetupQuestion) -> Estimate:
    """The estimate for a question; the same question is worked out once in each worker."""
    return _estimate(_Asked(repr(question), question))
