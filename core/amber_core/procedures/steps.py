"""A step of a run sheet, and the rule that a hold point cannot be passed over."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from typing import Literal

from amber_core.words import NOTHING, Said

CheckKind = Literal[
    "confirm", "bolts", "gear_set", "bench_backlash", "bench_pattern", "bench_final", "torque", "litres", "odometer", "spread"
]


@dataclass(frozen=True, slots=True, kw_only=True)
class Step:
    """One step.

    Parameters
    ----------
    code, group, title, why : str
        A fixed name, the heading it stands under, what to do, and why.
    check : str
        What passing it takes: a confirmation, every bolt ticked, a reading, or another part of the product saying so.
    hold : bool
        Nothing after it can be passed before it is.
    caution : str
        What can hurt someone here.
    limit : str
        The quantity of the spec sheet that judges the reading; empty when none does.
    """

    code: str
    group: Said
    title: Said
    why: Said
    check: CheckKind = "confirm"
    hold: bool = False
    caution: Said = NOTHING
    limit: str = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class LibraryStep:
    """A step of the library, and the fact of the assembly without which it falls away; empty when it is always there."""

    step: Step
    needs: str = ""


def steps_for(library: Iterable[LibraryStep], facts: Mapping[str, bool]) -> list[Step]:
    """The steps of a library that an assembly has, in its order; a fact that is not given does not hold."""
    return [one.step for one in library if not one.needs or facts.get(one.needs, False)]


def blocking_hold(steps: list[Step], passed: set[str], code: str) -> Step | None:
    """The first hold point before step `code` that is not passed, or None."""
    for step in steps:
        if step.code == code:
            return None
        if step.hold and step.code not in passed:
            return step
    raise KeyError(code)


def next_step(steps: list[Step], passed: set[str]) -> Step | None:
    """The first step that is not passed, or None when all are."""
    return next((step for step in steps if step.code not in passed), None)
