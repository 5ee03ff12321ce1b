"""What a step of the run sheet asks of an area: areas register theirs at start-up, and nothing here knows a bench by name."""

from __future__ import annotations

from typing import Protocol

from work.models import Work


class StepCheck(Protocol):
    """What is missing for a step: one sentence, empty when nothing is. It asks no question of the database that a list would repeat."""

    def __call__(self, work: Work) -> str: ...


_CHECKS: dict[str, StepCheck] = {}


def register(check: str, asks: StepCheck) -> None:
    """Let an area answer for the steps of this check.

    Raises
    ------
    ValueError
        When another area does already.
    """
    if _CHECKS.get(check, asks) is not asks:
        raise ValueError(f"{check} is answered for already")
    _CHECKS[check] = asks


def check_of(check: str) -> StepCheck | None:
    """Who answers for it; None when passing the step is enough."""
    return _CHECKS.get(check)
