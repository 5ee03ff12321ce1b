"""A step of a run sheet with its one act, and the rule that a hold point cannot be passed over."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field, replace
from typing import Literal

from amber_core.words import NOTHING, Said

Act = Literal["confirm", "read", "count", "choose", "bolts", "clock", "wait", "measure", "take_off", "put_back"]


@dataclass(frozen=True, slots=True, kw_only=True)
class Ask:
    """One value that a step reads.

    Parameters
    ----------
    name : str
        What it is kept under; ``as_found.`` before it for what was read before anything was disturbed.
    what : str
        The value in words.
    dimension : str
        What is measured; ``number`` for a plain figure in `unit`.
    unit : str
        Of a bare figure; empty where it is the reader's own.
    limit : str
        The quantity of the sheet that judges it; empty when none does.
    least, greatest : float, optional
        A rule's own window in the inside unit, where the sheet is silent; of the difference, where there is one to be `beside`.
    beside : str
        The as-found reading that is shown beside it, with the difference.
    at_least_as_found : bool
        It must not be under that one.
    may_skip : bool
        It may be left empty.
    """

    name: str
    what: Said
    dimension: Literal["length", "torque", "force", "volume", "distance", "number"]
    unit: str = ""
    limit: str = ""
    least: float | None = None
    greatest: float | None = None
    beside: str = ""
    at_least_as_found: bool = False
    may_skip: bool = False

    @property
    def as_found(self) -> bool:
        """Whether it goes into the as-found book, where nothing is refused for being out."""
        return self.name.startswith("as_found.")


@dataclass(frozen=True, slots=True, kw_only=True)
class Way:
    """One named way of doing it: when it fits, what it risks, and whether it is the one to begin with."""

    code: str
    title: Said
    fits: Said = NOTHING
    risk: Said = NOTHING
    recommended: bool = False


@dataclass(frozen=True, slots=True, kw_only=True)
class Step:
    """One step.

    Parameters
    ----------
    code, group, title, why : str
        A fixed name, the heading it stands under, what to do, and why.
    act : str
        What passing it takes.
    hold : bool
        Nothing after it can be passed before it is, and it cannot be skipped.
    caution : str
        What can hurt someone here.
    asks : list of Ask
        The values of `read` and `count`.
    ways : list of Way
        Of `choose`; its question has the step's own code.
    measure : str
        Who answers for `measure`: a check of the Set-up bench, a desk, or a bench tool.
    limit : str
        Where on the sheet the bolts or nuts stand that are tightened here.
    wait_minutes : int
        How long a `clock` runs, [min].
    minutes : int
        Usual work, [min].
    may_skip : bool
        It can be skipped with a reason.
    note, photo : str, bool
        What is worth writing beside it, and whether a picture is worth keeping.
    aid : str
        A computation that helps here: heat after a drive, speedometer, prices of several ways.
    """

    code: str
    group: Said
    title: Said
    why: Said
    act: Act = "confirm"
    hold: bool = False
    caution: Said = NOTHING
    asks: list[Ask] = field(default_factory=list)
    ways: list[Way] = field(default_factory=list)
    measure: str = ""
    limit: str = ""
    wait_minutes: int = 0
    minutes: int = 5
    may_skip: bool = False
    note: Said = NOTHING
    photo: bool = False
    aid: Literal["", "heat", "speed", "quote"] = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class LibraryStep:
    """A step of the library and what it needs: facts of the assembly, or ways as ``question=way``; ``!`` before one that must not hold."""

    step: Step
    needs: list[str] = field(default_factory=list)

    def stands(self, facts: Mapping[str, bool], ways: Mapping[str, str]) -> bool:
        """Whether it belongs to this work."""
        return all(self._holds(one.removeprefix("!"), facts, ways) != one.startswith("!") for one in self.needs)

    @staticmethod
    def _holds(need: str, facts: Mapping[str, bool], ways: Mapping[str, str]) -> bool:
        question, equals, way = need.partition("=")
        return ways.get(question) == way if equals else facts.get(need, False)


def only(needs: str, steps: Iterable[LibraryStep]) -> list[LibraryStep]:
    """The same steps, where all of `needs` (parted by spaces) hold too."""
    return [replace(one, needs=[*needs.split(), *one.needs]) for one in steps]


def steps_for(library: Iterable[LibraryStep], facts: Mapping[str, bool], ways: Mapping[str, str] | None = None) -> list[Step]:
    """The steps of a library that a piece of work has, in its order; a fact that is not given does not hold."""
    return [one.step for one in library if one.stands(facts, ways or {})]


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
