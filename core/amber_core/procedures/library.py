"""The library of steps by kind of work, in plain JSON types and back: what a procedure revision holds."""

from __future__ import annotations

from dataclasses import asdict
from typing import Any

from amber_core import payload
from amber_core.errors import InvalidInput
from amber_core.procedures import ring_and_pinion
from amber_core.procedures.steps import LibraryStep
from amber_core.words import say

_KINDS: dict[str, list[LibraryStep]] = {"ring_and_pinion": ring_and_pinion.LIBRARY}


def kinds() -> list[str]:
    """The kinds of work that there are steps for."""
    return sorted(_KINDS)


def library(kind: str) -> list[LibraryStep]:
    """Every step of a kind of work.

    Raises
    ------
    InvalidInput
        When there is no such kind.
    """
    if kind not in _KINDS:
        raise InvalidInput("kind", say("There is no run sheet for this kind of work. Choose one of: {names}.", names=", ".join(kinds())))
    return _KINDS[kind]


def plain(steps: list[LibraryStep]) -> list[dict[str, Any]]:
    """A library in plain JSON types."""
    return [asdict(one) for one in steps]


def read(content: list[dict[str, Any]]) -> list[LibraryStep]:
    """A library out of plain JSON types.

    Raises
    ------
    InvalidInput
        When it was written by a release that knows other steps.
    """
    return [payload.read(LibraryStep, one) for one in content]
