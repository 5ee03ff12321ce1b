"""A backlash reading as it was typed: taken, or asked about when it is possible but unlikely."""

from __future__ import annotations

from dataclasses import dataclass
from statistics import median
from typing import Literal

from amber_core.errors import InvalidInput
from amber_core.quantities import Typed, inside_per_unit, parse
from amber_core.words import Said, say

# Ordinary trade orders of magnitude for the backlash of an axle, [mm]: outside it a bare number is asked about, not refused.
LIKELY_MM = (0.025, 1.0)
GREATEST_MM = 10.0
SLIPPED = 5.0
"""A reading this many times the median of the others, or that part of it, is asked about: [-]."""

UNIT_WORDS = {"mm": say("mm"), "thou": say("thou"), "hundredths_mm": say("hundredths of a millimetre")}


@dataclass(frozen=True, slots=True, kw_only=True)
class Choice:
    """One way to understand what was typed: send `typed` again, and `sure` with it when it is meant as it stands."""

    label: Said
    typed: str
    sure: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class Question:
    """Asked instead of taking the reading."""

    code: Literal["which_unit", "slipped_decimal", "unlikely"]
    text: Said
    choices: list[Choice]


def read_backlash(text: str, *, unit: str, others_mm: list[float], sure: bool) -> Typed | Question:
    """Take a typed backlash reading, or ask about it.

    Parameters
    ----------
    text : str
        What was typed.
    unit : {"mm", "thou", "hundredths_mm"}
        The person's own, for bare numbers.
    others_mm : list of float
        The readings of this trial so far, [mm].
    sure : bool
        The person has seen the question and means it.

    Returns
    -------
    Typed or Question
        The reading in [mm], or what to ask.

    Raises
    ------
    InvalidInput
        For what cannot be a reading at all: no number, another unit, negative, over 10 mm.
    """
    typed = parse(text, dimension="length", unit=unit)
    if typed.value < 0.0:
        raise InvalidInput("typed", say("Backlash cannot be negative. Zero the dial and read again."))
    other_unit = None if sure else _which_unit(typed)
    if other_unit is None and typed.value > GREATEST_MM:
        raise InvalidInput(
            "typed",
            say(
                "{value:mmg} cannot be backlash: the most is {greatest_mm:mmg}. Check the unit.",
                value=typed.value,
                greatest_mm=GREATEST_MM,
            ),
        )
    question = None if sure else (other_unit or _slipped(typed, others_mm) or _unlikely(typed))
    return question or typed


def _likely(value_mm: float) -> bool:
    return LIKELY_MM[0] <= value_mm <= LIKELY_MM[1]


def _as_typed(number: float, unit: str) -> str:
    return f"{number:g} {'hundredths' if unit == 'hundredths_mm' else unit}"


def _label(number: float, unit: str) -> Said:
    return say("{number:g} {unit}", number=number, unit=UNIT_WORDS.get(unit, unit))


def _which_unit(typed: Typed) -> Question | None:
    if not typed.bare or _likely(typed.value):
        return None
    others = [unit for unit in UNIT_WORDS if unit != typed.unit and _likely(typed.number * inside_per_unit(unit, "length"))]
    if not others:
        return None
    choices = [Choice(label=_label(typed.number, unit), typed=_as_typed(typed.number, unit), sure=False) for unit in others[:1]]
    choices.append(Choice(label=_label(typed.number, typed.unit), typed=_as_typed(typed.number, typed.unit), sure=True))
    return Question(
        code="which_unit",
        text=say("{reading} would be unusual for backlash. Which did you read?", reading=_label(typed.number, typed.unit)),
        choices=choices,
    )


def _slipped(typed: Typed, others_mm: list[float]) -> Question | None:
    usual = median(others_mm) if others_mm else 0.0
    if usual <= 0.0 or typed.value <= 0.0 or 1.0 / SLIPPED < typed.value / usual < SLIPPED:
        return None
    factor = 0.1 if typed.value > usual else 10.0
    shifted, kept = typed.number * factor, typed.number
    read = _label(kept, typed.unit)
    return Question(
        code="slipped_decimal",
        text=(
            say("{reading} is many times the other readings. Has the decimal point slipped?", reading=read)
            if factor < 1.0
            else say("{reading} is a small part of the other readings. Has the decimal point slipped?", reading=read)
        ),
        choices=[
            Choice(label=_label(shifted, typed.unit), typed=_as_typed(shifted, typed.unit), sure=False),
            Choice(label=_label(kept, typed.unit), typed=_as_typed(kept, typed.unit), sure=True),
        ],
    )


def _unlikely(typed: Typed) -> Question | None:
    if _likely(typed.value):
        return None
    text = say("{reading} is unusual for backlash. Record it?", reading=_label(typed.number, typed.unit))
    return Question(code="unlikely", text=text, choices=[Choice(label=say("Record it"), typed=typed.text, sure=True)])
