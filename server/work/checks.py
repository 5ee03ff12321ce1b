"""What a piece of work asks of an area: areas register theirs at start-up, and nothing here knows a bench by name."""

from __future__ import annotations

from collections.abc import Collection
from datetime import date
from typing import Protocol
from uuid import UUID

from amber_core.procedures.steps import Step
from amber_core.words import NOTHING, Said
from records.writing import Writing
from work.models import Work


class StepCheck(Protocol):
    """What is missing for a step: one sentence, empty when nothing is. It asks no question of the database that a list would repeat."""

    def __call__(self, work: Work) -> Said: ...


class Judge(Protocol):
    """Judge again what an area recorded, after its sheet or gear set changed; within the caller's transaction."""

    def __call__(self, work: Work, writing: Writing) -> None: ...


class Gate(Protocol):
    """What keeps a step shut that is another area's to say: one sentence, empty when nothing does; asked only when somebody passes it."""

    def __call__(self, work: Work, step: Step) -> Said: ...


class StepTool(Protocol):
    """The tools of a bench that measure a step: their codes and names."""

    def __call__(self, step: Step) -> list[tuple[str, Said]]: ...


class Arrivals(Protocol):
    """The day on which all that these jobs wait for should have come; a job of which that is not known is left out."""

    def __call__(self, jobs: Collection[UUID]) -> dict[UUID, date]: ...


_CHECKS: dict[str, StepCheck] = {}
_TOOLS: list[StepTool] = []
_GATES: list[Gate] = []
_CLOSINGS: list[StepCheck] = []
_JUDGES: list[Judge] = []
_ARRIVALS: list[Arrivals] = []


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


def register_gate(gate: Gate) -> None:
    """Have an area asked before a step is passed."""
    if gate not in _GATES:
        _GATES.append(gate)


def held_shut(work: Work, step: Step) -> Said:
    """Why an area keeps a step shut; empty when none does."""
    return next((said for gate in _GATES if (said := gate(work, step))), NOTHING)


def register_closing(asks: StepCheck) -> None:
    """Have an area asked before a piece of work is signed off."""
    if asks not in _CLOSINGS:
        _CLOSINGS.append(asks)


def left_open(work: Work) -> Said:
    """What keeps a piece of work from being signed off; empty when nothing does."""
    return next((said for asks in _CLOSINGS if (said := asks(work))), NOTHING)


def register_tools(tools: StepTool) -> None:
    """Let an area offer its tools to the steps of run sheets."""
    if tools not in _TOOLS:
        _TOOLS.append(tools)


def tools_of(step: Step) -> list[tuple[str, Said]]:
    """The tools that measure a step."""
    return [found for tools in _TOOLS for found in tools(step)]


def register_judge(judge: Judge) -> None:
    """Have an area asked whenever what its records are judged by became another."""
    if judge not in _JUDGES:
        _JUDGES.append(judge)


def judge_again(work: Work, writing: Writing) -> None:
    """Every area judges this work's records by what holds now."""
    for judge in _JUDGES:
        judge(work, writing)


def register_arrivals(arrivals: Arrivals) -> None:
    """Let an area say when what is on its way comes."""
    if arrivals not in _ARRIVALS:
        _ARRIVALS.append(arrivals)


def arrivals_of(jobs: Collection[UUID]) -> dict[UUID, date]:
    """When what these jobs wait for should have come."""
    found: dict[UUID, date] = {}
    for arrivals in _ARRIVALS if jobs else ():
        for job, day in arrivals(jobs).items():
            found[job] = max(day, found.get(job, day))
    return found
