"""Runout of a flange, a ring or a shaft: bent, or only dirt under one place."""

from __future__ import annotations

from dataclasses import dataclass
from math import sqrt
from typing import Literal

from amber_core import checks
from amber_core.circle import CircleReading, OncePerTurn, distinct_positions, fit_once_per_turn, once_per_turn, seen_all_round
from amber_core.errors import InvalidInput
from amber_core.verdicts import Limit, Reason, VerdictWord, judge
from amber_core.words import say

SMALLEST_THAT_COUNTS_MM = 0.02
FEWEST_FOR_LOCAL = 6
MOST_READINGS = 64

Cause = Literal["once_per_turn", "local", "none"]


@dataclass(frozen=True, slots=True, kw_only=True)
class RunoutRound:
    """Dial readings round one turn [deg, mm], the greatest total indicator reading allowed and the dial's step, [mm]."""

    readings: list[CircleReading]
    max_tir_mm: float
    resolution_mm: float = 0.01

    def __post_init__(self) -> None:
        if not self.readings:
            raise InvalidInput("readings", say("No readings yet. Turn the part and read the dial indicator at several places."))
        if len(self.readings) > MOST_READINGS:
            raise InvalidInput(
                "readings",
                say(
                    "Too many readings: {count}. The most is {most_readings}.",
                    count=len(self.readings),
                    most_readings=MOST_READINGS,
                ),
            )
        checks.within("max_tir_mm", self.max_tir_mm, 0.0, 10.0, say("Runout limit must be 0 to 10 mm."))
        checks.resolution_ok(self.resolution_mm)


@dataclass(frozen=True, slots=True, kw_only=True)
class RunoutVerdict:
    """tir_mm [mm]; the once-per-turn part; whether it is bent, a local high or low place (at local_at_deg [deg]), or neither."""

    tir_mm: float
    once_per_turn: OncePerTurn | None
    bent_or_dirt: Cause
    local_at_deg: float | None
    verdict: VerdictWord
    reasons: list[Reason]


def assess_runout(given: RunoutRound) -> RunoutVerdict:
    """Judge the runout of a turning face or diameter.

    Parameters
    ----------
    given : RunoutRound
        Readings [mm] at angles [deg]; greatest TIR [mm].

    Returns
    -------
    RunoutVerdict
        TIR = greatest - least [mm], and its likely cause.

    Raises
    ------
    InvalidInput
        From RunoutRound, with the field.

    Notes
    -----
    With 6 or more positions each position, and each neighbouring pair, is left out in turn and m + a cos fitted to the
    rest. A place is `local` when the fit leaves rms rho and each omitted reading stands off by more than
    max(4 rho, 0.02 mm, TIR/4); `once_per_turn` when 2a > max(0.02 mm, TIR/2).

    Examples
    --------
    >>> values = [0.0, 0.0, 0.06, 0.0, 0.0, 0.0, 0.0, 0.0]
    >>> readings = [CircleReading(angle_deg=45.0 * k, value_mm=value) for k, value in enumerate(values)]
    >>> assess_runout(RunoutRound(readings=readings, max_tir_mm=0.05)).bent_or_dirt
    'local'
    """
    angles = [reading.angle_deg % 360.0 for reading in given.readings]
    values = [reading.value_mm for reading in given.readings]
    tir = max(values) - min(values)
    positions = distinct_positions(angles)
    round_part = once_per_turn(angles, values) if seen_all_round(positions, 4) else None
    local_at = _local_place(angles, values, positions, tir) if len(positions) >= FEWEST_FOR_LOCAL else None
    cause: Cause = "none"
    if local_at is not None:
        cause = "local"
    elif round_part is not None and 2.0 * round_part.amplitude_mm > max(SMALLEST_THAT_COUNTS_MM, tir / 2.0):
        cause = "once_per_turn"
    verdict, reasons = _judge(given, tir, positions)
    return RunoutVerdict(
        tir_mm=tir,
        once_per_turn=round_part,
        bent_or_dirt=cause,
        local_at_deg=local_at,
        verdict=verdict,
        reasons=[*reasons, *_cause_in_words(cause, local_at)],
    )


def _judge(given: RunoutRound, tir: float, positions: list[float]) -> tuple[VerdictWord, list[Reason]]:
    limit = Limit(value=tir, bound=given.max_tir_mm, side="max", field="max_tir_mm", what=say("Total indicator reading"), unit="mm")
    verdict, reasons = judge([limit], given.resolution_mm)
    if verdict != "out" and not seen_all_round(positions, 3):
        text = say("Not enough places to judge it. Read at 4 places or more, evenly spaced.")
        return "unknown", [Reason(code="too_few_positions", text=text, field="readings"), *reasons]
    return verdict, reasons


def _cause_in_words(cause: Cause, local_at: float | None) -> list[Reason]:
    if cause == "local":
        text = say(
            "One place stands out, near {local_at:.0f} degrees: dirt, a burr or dried thread locker. Clean it and measure again.",
            local_at=local_at,
        )
        return [Reason(code="local", text=text)]
    if cause == "once_per_turn":
        return [
            Reason(
                code="once_per_turn",
                text=say("The reading rises and falls once per turn: the part is bent, or not seated square or central."),
            )
        ]
    return []


def _local_place(angles: list[float], values: list[float], positions: list[float], tir: float) -> float | None:
    """The omission with the least rms left whose omitted readings all stand off; its angle [deg], or None."""
    at = [_nearest(positions, angle) for angle in angles]
    count = len(positions)
    omissions = [(index,) for index in range(count)] + [(index, (index + 1) % count) for index in range(count)]
    found: list[tuple[float, int, float]] = []
    for omitted in omissions:
        kept = [index for index, place in enumerate(at) if place not in omitted]
        fit = fit_once_per_turn([angles[index] for index in kept], [values[index] for index in kept])
        off = [abs(values[index] - fit.at(angles[index])) for index in range(len(values))]
        rho = sqrt(sum(off[index] ** 2 for index in kept) / len(kept))
        least = max(4.0 * rho, SMALLEST_THAT_COUNTS_MM, tir / 4.0)
        if all(off[index] > least for index, place in enumerate(at) if place in omitted):
            found.append((round(rho, 12), len(omitted), _middle(positions, omitted)))
    return min(found)[2] if found else None


def _nearest(positions: list[float], angle: float) -> int:
    return min(range(len(positions)), key=lambda index: abs((positions[index] - angle + 180.0) % 360.0 - 180.0))


def _middle(positions: list[float], omitted: tuple[int, ...]) -> float:
    first, last = positions[omitted[0]], positions[omitted[-1]]
    return (first + ((last - first) % 360.0) / 2.0) % 360.0
