"""Who a sentence is for: the language, and the units of its figures."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from contextvars import ContextVar
from dataclasses import dataclass


@dataclass(frozen=True, slots=True, kw_only=True)
class Reader:
    """Somebody who reads.

    Parameters
    ----------
    length : {"mm", "hundredths_mm", "thou"}
        Thousandths of an inch bring miles an hour with them.
    torque : {"nm", "inlb"}
        For rotating torques.
    language : str
        The name of a catalogue; "en" needs none, sentences are written in it.
    """

    length: str = "mm"
    torque: str = "nm"
    language: str = "en"


PLAIN = Reader()
"""Millimetres, newton-metres, English: what a sentence is when nobody in particular reads it."""

_reader: ContextVar[Reader] = ContextVar("reader", default=PLAIN)


def current() -> Reader:
    """Who reads now."""
    return _reader.get()


@contextmanager
def reading_as(reader: Reader) -> Iterator[None]:
    """Tell everything in the block to this reader."""
    before = _reader.set(PLAIN if reader == PLAIN else reader)  # the very one, which every sentence knows without comparing
    try:
        yield
    finally:
        _reader.reset(before)
