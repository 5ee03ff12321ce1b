"""What people type, with or without a unit, into millimetres, newton-metres, litres, kilometres or kilopascals; once, at the edge."""

from __future__ import annotations

import re
from dataclasses import dataclass
from functools import cache
from typing import TYPE_CHECKING, Literal

from amber_core.errors import InvalidInput
from amber_core.words import Said, say

if TYPE_CHECKING:
    from pint import UnitRegistry

Dimension = Literal["length", "torque", "force", "volume", "distance", "pressure"]

LONGEST_TYPED = 40

# What people write -> what pint calls it. "22 in-lb" is a torque: inch times pound-force, not pound-mass.
_WORDS: dict[Dimension, dict[str, str]] = {
    "length": {
        "mm": "millimeter",
        "hundredths_mm": "0.01 * millimeter",
        "hundredths": "0.01 * millimeter",
        "thou": "thou",
        "mil": "thou",
        "in": "inch",
        "inch": "inch",
        '"': "inch",
        "um": "micrometer",
        "µm": "micrometer",
        "cm": "centimeter",
    },
    "torque": {
        "nm": "newton * meter",
        "inlb": "inch * force_pound",
        "lbin": "inch * force_pound",
        "inlbf": "inch * force_pound",
        "lbfin": "inch * force_pound",
        "ftlb": "foot * force_pound",
        "lbft": "foot * force_pound",
        "kgcm": "kilogram_force * centimeter",
    },
    "force": {"n": "newton", "kgf": "kilogram_force", "kg": "kilogram_force", "lbf": "force_pound", "lb": "force_pound"},
    "volume": {"l": "liter", "litre": "liter", "litres": "liter", "liter": "liter", "ml": "milliliter", "qt": "quart", "pt": "pint"},
    "distance": {"km": "kilometer", "mi": "mile", "mile": "mile", "miles": "mile"},
    "pressure": {"kpa": "kilopascal", "bar": "bar", "psi": "psi", "mpa": "megapascal"},
}
_INSIDE: dict[Dimension, str] = {
    "length": "millimeter",
    "torque": "newton * meter",
    "force": "newton",
    "volume": "liter",
    "distance": "kilometer",
    "pressure": "kilopascal",
}
_EXAMPLE: dict[Dimension, Said] = {
    "length": say('"0.21 mm", "8 thou" or a bare number'),
    "torque": say('"2.5 Nm", "22 in-lb" or a bare number'),
    "force": say('"18 N", "4 lbf" or a bare number of newtons'),
    "volume": say('"2.4 l" or a bare number of litres'),
    "distance": say('"81250 km" or a bare number of kilometres'),
    "pressure": say('"7.2 bar", "720 kPa", "105 psi" or a bare number of kilopascals'),
}
_TYPED = re.compile(r"(?P<number>[+-]?(?:\d+(?:[.,]\d*)?|[.,]\d+))\s*(?P<unit>\D.*)?", re.DOTALL)


@dataclass(frozen=True, slots=True, kw_only=True)
class Typed:
    """A quantity as it was typed: `value` in the inside unit of its dimension, `unit` as meant, `bare` when none was typed."""

    value: float
    number: float
    unit: str
    text: str
    bare: bool


@cache
def _registry() -> UnitRegistry[float]:
    from pint import UnitRegistry

    return UnitRegistry()


@cache
def inside_per_unit(unit: str, dimension: Dimension) -> float:
    """How many mm, N m, N, l or km one unit is.

    Raises
    ------
    InvalidInput
        When the unit is not one of this dimension.
    """
    word = _WORDS[dimension].get(unit)
    if word is None:
        raise InvalidInput(
            "unit",
            say(
                "{unit} is not a unit of {dimension}. Write, for example, {value}.",
                unit=unit,
                dimension=dimension,
                value=_EXAMPLE[dimension],
            ),
        )
    quantity = _registry().parse_expression(word)
    return float(quantity.to(_INSIDE[dimension]).magnitude)


def parse(text: str, *, dimension: Dimension, unit: str, field: str = "typed") -> Typed:
    """Read what was typed.

    Parameters
    ----------
    text : str
        Such as "8 thou", "0,21 mm" or "9".
    dimension : {"length", "torque", "force", "volume", "distance", "pressure"}
        What is being measured.
    unit : str
        The unit of a bare number: the person's own.
    field : str
        Path for a complaint.

    Returns
    -------
    Typed
        With the value in mm, N m, N, l, km or kPa.

    Raises
    ------
    InvalidInput
        For nothing, for more than a reading, for what is no number, and for a unit of another dimension.

    Examples
    --------
    >>> round(parse("8 thou", dimension="length", unit="mm").value, 4)
    0.2032
    """
    wanted = _EXAMPLE[dimension]
    stripped = text.strip().replace("\u2212", "-")
    if not stripped:
        raise InvalidInput(field, say("Nothing was typed. Write {wanted}.", wanted=wanted))
    if len(stripped) > LONGEST_TYPED:
        raise InvalidInput(
            field, say("This is {count} characters long, too long for a reading. Write {wanted}.", count=len(stripped), wanted=wanted)
        )
    match = _TYPED.fullmatch(stripped)
    if match is None:
        raise InvalidInput(field, say("“{stripped}” does not start with a number. Write {wanted}.", stripped=stripped, wanted=wanted))
    number = float(match["number"].replace(",", "."))
    word = (match["unit"] or "").strip()
    if not word:
        return Typed(value=number * inside_per_unit(unit, dimension), number=number, unit=unit, text=stripped, bare=True)
    meant = re.sub(r"[\s.·*\-]", "", word.lower())
    if meant not in _WORDS[dimension]:
        raise InvalidInput(field, _wrong_unit(word, meant, dimension))
    return Typed(value=number * inside_per_unit(meant, dimension), number=number, unit=meant, text=stripped, bare=False)


def _wrong_unit(word: str, meant: str, dimension: Dimension) -> Said:
    for other, words in _WORDS.items():
        if meant in words:
            return say(
                "{word} is a unit of {other}, and this is a {dimension}. Write {value}.",
                word=word,
                other=other,
                dimension=dimension,
                value=_EXAMPLE[dimension],
            )
    return say("“{word}” is not a known unit. Write {value}.", word=word, value=_EXAMPLE[dimension])
