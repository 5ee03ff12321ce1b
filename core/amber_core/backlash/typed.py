"""A backlash reading as it was typed: taken, or asked about when it is possible but unlikely."""

from __future__ import annotations

from dataclasses import dataclass
from statistics import median
from typing import Literal

from amber_core.errors import InvalidInput
from amber_core.quantities import Typed, inside_per_unit, parse

# Ordinary trade orders of magnitude for the backlash of an axle, [mm]: outside it a bare number is asked about, not refused.
LIKELY_MM = (0.025, 1.0)
GREATEST_MM = 10.0
SLIPPED = 5.0
"""A reading this many times the median of the others, or that part of it, is asked about: [-]."""

UNIT_WORDS = {"mm": "mm", "thou": "thou", "hundredths_mm": "hundredths of a mm"}


@dataclass(frozen=True, slots=True, kw_only=True)
class Choice:
    """One way to understand what was typed: send `typed` again, and `sure` with it when it is meant as it stands."""

    label: str
    typed: str
    sure: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class Question:
    """Asked instead of taking the reading."""

    code: Literal["which_unit", "slipped_decimal", "unlikely"]
    text: str
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
        raise InvalidInput("typed", "Backlash cannot be negative: set the dial to zero and read again.")
    other_unit = None if sure else _which_unit(typed)
    if other_unit is None and typed.value > GREATEST_MM:
        raise InvalidInput("typed", f"{typed.value:.4g} mm is no backlash: nothing over {GREATEST_MM:.0f} mm is taken. Check the unit.")
    question = None if sure else (other_unit or _slipped(typed, others_mm) or _unlikely(typed))
    return question or typed


def _likely(value_mm: float) -> bool:
    return LIKELY_MM[0] <= value_mm <= LIKELY_MM[1]


def _as_typed(number: float, unit: str) -> str:
    return f"{number:g} {'hundredths' if unit == 'hundredths_mm' else unit}"


def _which_unit(typed: Typed) -> Question | None:
    if not typed.bare or _likely(typed.value):
        return None
    others = [unit for unit in UNIT_WORDS if unit != typed.unit and _likely(typed.number * inside_per_unit(unit, "length"))]
    if not others:
        return None
    choices = [Choice(label=f"{typed.number:g} {UNIT_WORDS[unit]}", typed=_as_typed(typed.number, unit), sure=False) for unit in others[:1]]
    choices.append(Choice(label=f"{typed.number:g} {UNIT_WORDS[typed.unit]}", typed=_as_typed(typed.number, typed.unit), sure=True))
    return Question(code="which_unit", text=f"{typed.text} {UNIT_WORDS[typed.unit]} would be unusual. Which did you read?", choices=choices)


def _slipped(typed: Typed, others_mm: list[float]) -> Question | None:
    usual = median(others_mm) if others_mm else 0.0
    if usual <= 0.0 or typed.value <= 0.0 or 1.0 / SLIPPED < typed.value / usual < SLIPPED:
        return None
    factor = 0.1 if typed.value > usual else 10.0
    shifted, kept = typed.number * factor, typed.number
    times = "many times" if factor < 1.0 else "a small part of"
    return Question(
        code="slipped_decimal",
        text=f"{_as_typed(kept, typed.unit)} is {times} what the other teeth read. Has the decimal point slipped?",
        choices=[
            Choice(label=f"{shifted:g} {UNIT_WORDS.get(typed.unit, typed.unit)}", typed=_as_typed(shifted, typed.unit), sure=False),
            Choice(label=f"{kept:g} {UNIT_WORDS.get(typed.unit, typed.unit)}", typed=_as_typed(kept, typed.unit), sure=True),
        ],
    )


def _unlikely(typed: Typed) -> Question | None:
    if _likely(typed.value):
        return None
    text = f"{_as_typed(typed.number, typed.unit)} is unusual for backlash. Keep it?"
    return Question(code="unlikely", text=text, choices=[Choice(label="Keep it", typed=typed.text, sure=True)])
