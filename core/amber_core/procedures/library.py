"""The kinds of work, and their steps in plain JSON types and back: what a procedure revision holds."""

from __future__ import annotations

import json
from dataclasses import asdict
from pathlib import Path
from typing import Any

from amber_core import payload
from amber_core.errors import InvalidInput
from amber_core.procedures.kinds import KINDS, Kind
from amber_core.procedures.making import always_held
from amber_core.procedures.shaping import OWN
from amber_core.procedures.steps import Ask, LibraryStep
from amber_core.words import say

_READS: dict[str, tuple[str, str, str]] = {
    "torque": ("rotating_torque", "torque", ""),
    "litres": ("oil", "volume", "l"),
    "odometer": ("odometer", "distance", "km"),
    "spread": ("case_spread", "length", "mm"),
}
"""What the readings of steps were called before a step had asks: check, then name, dimension and unit of a bare figure."""

_WHAT = {
    "torque": say("Rotating torque"),
    "litres": say("Litres poured"),
    "odometer": say("Odometer"),
    "spread": say("Spreader opening"),
}


def kinds() -> list[str]:
    """The kinds of work that there are steps for."""
    return list(KINDS)


def kind_of(code: str) -> Kind:
    """A kind of work.

    Raises
    ------
    InvalidInput
        When there is no such kind.
    """
    if code not in KINDS:
        raise InvalidInput("kind", say("There is no run sheet for this kind of work. Choose one of: {names}.", names=", ".join(kinds())))
    return KINDS[code]


def library(kind: str) -> list[LibraryStep]:
    """Every step of a kind of work.

    Raises
    ------
    InvalidInput
        When there is no such kind.
    """
    return kind_of(kind).steps


def plain(steps: list[LibraryStep]) -> list[dict[str, Any]]:
    """A library in plain JSON types."""
    return [asdict(one) for one in steps]


def before_acts() -> list[dict[str, Any]]:
    """The run sheet of ring and pinion as it was before steps had acts: what files from then were worked by."""
    found: list[dict[str, Any]] = json.loads((Path(__file__).parent / "before_acts.json").read_text(encoding="utf-8"))
    return found


def read(content: list[dict[str, Any]]) -> list[LibraryStep]:
    """A library out of plain JSON types, older releases' too.

    Raises
    ------
    InvalidInput
        When it was written by a release that knows other steps.
    """
    return [payload.read(LibraryStep, _as_now(one)) for one in content]


def keeps_holds(kind: str, steps: list[LibraryStep]) -> bool:
    """Whether a run sheet has every hold point of this kind of work, under the same conditions: as it is now, or as it was before acts."""
    held = {(one.step.code, *one.needs) for one in steps if one.step.hold}
    if kind.startswith(OWN):  # another shop's own kind: what every kind has
        return always_held() <= held
    known = [library(kind)] if kind in KINDS else []
    if kind == "ring_and_pinion":
        known.append(read(before_acts()))
    return any({(one.step.code, *one.needs) for one in base if one.step.hold} <= held for base in known)


def _as_now(one: dict[str, Any]) -> dict[str, Any]:
    """A step from before steps had acts: it had a `check`, and needed one fact at most."""
    if not isinstance(one.get("needs"), str):
        return one
    step = dict(one["step"])
    check = step.pop("check", "confirm")
    if check in _READS:
        name, dimension, unit = _READS[check]
        ask = Ask(name=name, what=_WHAT[check], dimension=dimension, unit=unit, limit=step.pop("limit", ""))  # type: ignore[arg-type]
        step |= {"act": "read", "asks": [asdict(ask)]}
    elif check == "bolts":
        step["act"] = "bolts"
    elif check != "confirm":
        step |= {"act": "measure", "measure": check}
    return {"step": step, "needs": one["needs"].split()}
