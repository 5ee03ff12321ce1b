"""Figures in a sentence: the format of a place says what is measured, the reader decides the unit."""

from __future__ import annotations

import re
from functools import lru_cache
from typing import NamedTuple

from amber_core.words.reader import Reader

THIN_SPACE = "\u2009"
MINUS = "\u2212"

_ABSURD = 1e9
"""Figures this large are slips, shown short."""

_MEASURE = re.compile(r"(?P<sign>\+?)(?P<kind>mm|Nm|kmh)(?P<digits>\d|g)?(?P<bare>-?)")
_NUMBER = re.compile(r"\+?(?:\.\d)?[fg]?")
"""Formats of plain numbers. Templates come back from files that anybody may write: a width of a billion is not obeyed."""

_THOUSANDS = re.compile(r"(?<=\d)(?=(?:\d{3})+(?!\d))")
_FIGURE = re.compile(r"\d{4,}(?:\.\d+)?")


class _Unit(NamedTuple):
    name: str
    inside: float  # how many mm, N m or km/h one of it is
    digits: int | None  # places shown; None: as the sentence wants them


_MM, _THOU, _INCH = _Unit("mm", 1.0, None), _Unit("thou", 0.0254, 1), _Unit("in", 25.4, 2)
_NM, _INLB = _Unit("Nm", 1.0, None), _Unit("in-lb", 0.112984829, 1)
_KMH, _MPH = _Unit("km/h", 1.0, None), _Unit("mph", 1.609344, 0)


class _Measure(NamedTuple):
    kind: str
    sign: str
    digits: str
    bare: bool

    def unit(self, reader: Reader) -> _Unit:
        if self.kind == "Nm":
            return _INLB if reader.torque == "inlb" else _NM
        if reader.length != "thou":
            return _MM if self.kind == "mm" else _KMH
        if self.kind == "kmh":
            return _MPH
        # whole millimetres are lengths of shafts and strokes, which nobody tells in thousandths
        return _INCH if self.digits == "0" else _THOU


@lru_cache(maxsize=512)
def _measure(spec: str) -> _Measure | None:
    found = _MEASURE.fullmatch(spec)
    if found is None:
        return None
    return _Measure(found["kind"], found["sign"], found["digits"] or "2", found["bare"] == "-")


def shown(value: object, spec: str, reader: Reader) -> str:
    """A figure as it is read.

    Parameters
    ----------
    value : object
        A number in mm, N m or km/h where `spec` says so; anything else as it is.
    spec : str
        ``mm2``, ``Nm1``, ``kmh0`` (the digit: places in millimetres and so on; ``g``: as many as needed), ``+`` before it for a sign,
        ``-`` after it to leave the unit out, as in "0.13 to 0.20 mm". Else ``.1f``, ``g`` and the like; any other is left out.
    reader : Reader
        Whose units.

    Returns
    -------
    str
        With a true minus, and thin spaces from four digits on where a format is given.
    """
    if value is None:
        return ""
    if not spec or not isinstance(value, (int, float)):
        return str(value)
    measure = _measure(spec)
    if measure is None:
        return _typeset(format(value, spec)) if _NUMBER.fullmatch(spec) else str(value)
    unit = measure.unit(reader)
    places = unit.digits if unit.digits is not None else measure.digits
    number = value / unit.inside
    as_needed = places == "g" or abs(number) >= _ABSURD
    figure = _typeset(format(number, f"{measure.sign}{'g' if as_needed else f'.{places}f'}"))
    return figure if measure.bare else f"{figure} {unit.name}"


def _typeset(figure: str) -> str:
    if _is_nothing(figure):
        figure = figure.lstrip("+-")
    return _FIGURE.sub(lambda found: _grouped(found[0]), figure.replace("-", MINUS))


def _is_nothing(figure: str) -> bool:
    """Whether what is shown is zero: it has no sign then."""
    return figure[:1] in "+-" and not any(digit in figure for digit in "123456789")


def _grouped(figure: str) -> str:
    whole, point, rest = figure.partition(".")
    return f"{_THOUSANDS.sub(THIN_SPACE, whole)}{point}{rest}"
