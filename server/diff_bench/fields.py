"""What a tool of the bench asks for: one field each, as the screen shows it and as it is read."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field
from typing import Any, Literal

from amber_core.verdicts import VerdictWord
from amber_core.words import NOTHING, Said, say
from work.as_left import Line

Kind = Literal[
    "length", "torque", "force", "pressure", "temperature", "angle", "minutes", "number", "count", "money", "stack", "choice", "flag"
]
Section = Literal["part", "readings", "limits", "more"]
Group = Literal["clutches", "gears", "bearings", "surfaces", "shafts", "bolts", "proof"]

GROUPS: dict[Group, Said] = {
    "clutches": say("Clutch packs"),
    "gears": say("Locker and side gears"),
    "bearings": say("Bearings and fits"),
    "surfaces": say("Seal surfaces and gaskets"),
    "shafts": say("Shafts and tube ends"),
    "bolts": say("Bolts and nuts"),
    "proof": say("Air, heat and runout"),
}


@dataclass(frozen=True, kw_only=True)
class Field:
    """One thing that a tool asks for.

    Parameters
    ----------
    name : str
        Where it stands in the question of the computation, with dots between; one that is `beside` it stands there nowhere.
    label : str
        What it is.
    kind : str
        How it is read.
    section : str
        The part itself, readings, limits, or what is seldom given.
    needed : bool
        There is no answer without it.
    many : (int, int)
        Least and most of a list of readings.
    places : list of str
        Where each reading of the list is taken; else they are numbered.
    angles : int
        Readings round the clock, at so many places evenly.
    columns : list of Field
        Of a table.
    pairs : bool
        The rows of the table are lists, not objects.
    options : dict
        Of a choice, by code.
    begin : str
        What stands there to begin with.
    limit, side : str
        The quantity of the sheet that it comes from, and which end of it.
    drawer : str
        The drawer whose shims the table begins with.
    when : (str, str)
        Another choice and the code on which this one is asked.
    fine : bool
        A length that a dial or a feeler gauge reads: bare figures are in the person's own unit, and not in mm or inches.
    hint : str
        What is worth knowing before it is read.
    beside : bool
        Kept and shown, and no part of the computation's question.
    """

    name: str
    label: Said
    kind: Kind = "length"
    section: Section = "readings"
    needed: bool = True
    many: tuple[int, int] | None = None
    places: tuple[Said, ...] = ()
    angles: int = 0
    columns: tuple[Field, ...] = ()
    pairs: bool = False
    options: dict[str, Said] = field(default_factory=dict)
    begin: str = ""
    limit: str = ""
    side: Literal["", "least", "greatest"] = ""
    drawer: str = ""
    when: tuple[str, str] | None = None
    fine: bool = False
    hint: Said = NOTHING
    beside: bool = False


@dataclass(frozen=True, kw_only=True)
class Tool:
    """A tool of the bench.

    Parameters
    ----------
    code, title, about : str
        A fixed name, its name, and what it answers.
    computation : str
        Of the core's registry.
    fields : list of Field
        In the order that they are read.
    tells : callable
        The lines of an answer; gets the question, the answer, and what was read beside it.
    verdict : callable
        Where the answer has none of its own.
    shapes : callable
        Makes the question of what was read, and of what was read beside it, where it is not simply that.
    steps : tuple of str
        Steps of run sheets that it answers.
    fills : callable
        The readings of such a step by the name of the ask, as they would be typed; a step takes those that it asks for.
    window : (str, str)
        Fields of the limits that the instrument is held against.
    clocks : tuple of str
        Steps of run sheets whose clock is started with this work.
    """

    code: str
    group: Group
    title: Said
    about: Said
    computation: str
    fields: tuple[Field, ...]
    tells: Callable[[Any, Any, dict[str, Any]], list[Line]]
    verdict: Callable[[Any], VerdictWord | None] = lambda answer: getattr(answer, "verdict", None)
    shapes: Callable[[dict[str, Any], dict[str, Any]], dict[str, Any]] = lambda read, beside: read
    cautions: tuple[Said, ...] = ()
    steps: tuple[str, ...] = ()
    fills: Callable[[Any, Any, dict[str, Any]], dict[str, str]] = lambda question, answer, beside: {}
    window: tuple[str, str] | None = None
    clocks: tuple[str, ...] = ()


def least(name: str, label: Said, limit: str = "", kind: Kind = "length", *, needed: bool = False, fine: bool = False) -> Field:
    """The lower limit."""
    side: Literal["", "least"] = "least" if limit else ""
    return Field(name=name, label=label, kind=kind, section="limits", needed=needed, limit=limit, side=side, fine=fine)


def most(name: str, label: Said, limit: str = "", kind: Kind = "length", *, needed: bool = False, fine: bool = False) -> Field:
    """The upper limit."""
    side: Literal["", "greatest"] = "greatest" if limit else ""
    return Field(name=name, label=label, kind=kind, section="limits", needed=needed, limit=limit, side=side, fine=fine)


def kit(name: str, label: Said, drawer: str, *, needed: bool = True) -> Field:
    """Shims or washers to pick from."""
    columns = (
        Field(name="thickness_mm", label=say("Thickness")),
        Field(name="count", label=say("How many"), kind="count"),
    )
    return Field(name=name, label=label, section="part", columns=columns, drawer=drawer, needed=needed)


def line(name: str, what: Said, said: Said, *, verdict: VerdictWord = "unknown", value: float | None = None) -> Line:
    """One figure of an answer."""
    return Line(name, what, said, verdict=verdict, value=value)


def mm(value: float | None) -> str:
    """A length as it would be typed, whatever the reader's unit."""
    return "" if value is None else f"{value:.3f} mm"


SIDE = Field(
    name="side",
    label=say("Side"),
    kind="choice",
    section="part",
    options={"left": say("Left"), "right": say("Right")},
    begin="left",
    beside=True,
)
