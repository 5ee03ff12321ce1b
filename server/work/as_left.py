"""What a piece of work measured when it left: the last reading of everything, beside what was found before."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from typing import Any

from amber_core.verdicts import VerdictWord
from amber_core.words import Said, stored
from work.models import StepReading, Work
from work.run_sheet import RunSheet


@dataclass(frozen=True)
class Line:
    """One quantity: its name, what it is, how it was left, as it was found (empty where it was not read before), and the verdict.

    `value` and `found_value` are the same as numbers in mm, N m, l or as a plain figure; none where there is no number.
    """

    name: str
    what: Said
    said: Said
    found: str = ""
    verdict: VerdictWord = "unknown"
    value: float | None = None
    found_value: float | None = None


Tells = Callable[[Work], list[Line]]
_AREAS: list[Tells] = []
_LEFT_OUT = ("odometer", "case_spread")


def register(tells: Tells) -> None:
    """Let an area tell what it measured last of a piece of work."""
    if tells not in _AREAS:
        _AREAS.append(tells)


def as_left(work: Work) -> list[Line]:
    """What every area and the run sheet read last."""
    return lines_of_steps(work, [line for tells in _AREAS for line in tells(work)])


def lines_of_steps(work: Work, told: list[Line] | None = None) -> list[Line]:
    """What the run sheet read last, after what areas `told`."""
    sheet, lines = RunSheet(work), list(told or [])
    names = {line.name for line in lines}
    asks = {ask.name: ask for step in sheet.steps for ask in step.asks if ask.name in sheet.found and ask.name not in _LEFT_OUT}
    for name, ask in asks.items():
        if ask.as_found or name in names:
            continue
        read = sheet.found[name]
        before = sheet.found.get(ask.beside)
        line = Line(name, ask.what, Said.of(read.entered), verdict=sheet.judged(ask, read.value).verdict, value=read.value)
        lines.append(_with(line, before) if before else line)
    beside = {ask.beside for ask in asks.values()}
    found = {name.removeprefix("as_found."): sheet.found[name] for name, ask in asks.items() if ask.as_found and name not in beside}
    lines = [line if line.found or line.name not in found else _with(line, found.pop(line.name)) for line in lines]
    return [*lines, *(_with(Line(name, asks[f"as_found.{name}"].what, Said("")), read) for name, read in found.items())]


def _with(line: Line, found: StepReading) -> Line:
    return replace(line, found=found.entered, found_value=found.value)


def plain(lines: list[Line]) -> list[dict[str, Any]]:
    """Lines as they are stored."""
    return [dict(stored(line)) for line in lines]


def told(lines: list[dict[str, Any]]) -> list[dict[str, Any]]:
    """Lines as they were stored, with what they say to be told to whoever reads."""
    return [{**line, "what": Said.of(line["what"]), "said": Said.of(line["said"])} for line in lines]
