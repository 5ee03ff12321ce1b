"""Whether an air line holds, with the temperature counted out."""

from __future__ import annotations

from dataclasses import dataclass

from amber_core import checks
from amber_core.verdicts import SLACK, Reason, VerdictWord
from amber_core.words import say

ZERO_C = 273.15


@dataclass(frozen=True, slots=True, kw_only=True)
class AirQuestion:
    """Gauge pressures at both ends of the test [kPa], the air's temperatures [deg C], minutes, and the drop allowed [kPa]."""

    start_kpa: float
    end_kpa: float
    start_c: float
    end_c: float
    minutes: float
    max_drop_kpa: float
    ambient_kpa: float = 101.3
    resolution_kpa: float = 1.0

    def __post_init__(self) -> None:
        for field in ("start_kpa", "end_kpa", "max_drop_kpa", "ambient_kpa"):
            checks.within(field, getattr(self, field), 0.0, 100_000.0, say("Pressure must be 0 to 100 000 kPa. Check the unit."))
        for field in ("start_c", "end_c"):
            checks.within(field, getattr(self, field), -100.0, 300.0, say("Air temperature must be −100 to 300 °C."))
        checks.above_zero("minutes", self.minutes, say("The length of the test"))
        checks.within("minutes", self.minutes, 0.0, 1e6, say("The length of the test must be under 1 000 000 minutes."))
        checks.within("resolution_kpa", self.resolution_kpa, 0.0, 1000.0, say("Gauge resolution must be 0 to 1000 kPa."))


@dataclass(frozen=True, slots=True, kw_only=True)
class AirHold:
    """The end pressure at the temperature of the start, the drop, and the drop in an hour, [kPa]."""

    corrected_end_kpa: float
    drop_kpa: float
    drop_per_hour_kpa: float
    verdict: VerdictWord
    reasons: list[Reason]


def judge_air_hold(given: AirQuestion) -> AirHold:
    """Judge whether an air line holds its pressure.

    Parameters
    ----------
    given : AirQuestion
        Gauge pressures [kPa], temperatures [deg C].

    Returns
    -------
    AirHold
        Pressures [kPa].

    Raises
    ------
    InvalidInput
        From AirQuestion, with the field.

    Notes
    -----
    Constant volume of an ideal gas: corrected end = (end + ambient) T_start/T_end - ambient, in kelvin. The supply is shut off and the
    air settled.

    Examples
    --------
    >>> test = AirQuestion(start_kpa=720.0, end_kpa=694.0, start_c=31.0, end_c=22.0, minutes=15.0, max_drop_kpa=10.0)
    >>> round(judge_air_hold(test).drop_kpa, 2)
    1.75
    """
    corrected = (given.end_kpa + given.ambient_kpa) * (given.start_c + ZERO_C) / (given.end_c + ZERO_C) - given.ambient_kpa
    drop = given.start_kpa - corrected
    verdict, reasons = _judge(given, drop)
    return AirHold(
        corrected_end_kpa=corrected, drop_kpa=drop, drop_per_hour_kpa=drop * 60.0 / given.minutes, verdict=verdict, reasons=reasons
    )


def _judge(given: AirQuestion, drop: float) -> tuple[VerdictWord, list[Reason]]:
    if -drop > given.max_drop_kpa + SLACK:
        text = say("The pressure rose by {rise:.0f} kPa: the supply was not shut off, or the air had not settled. Test again.", rise=-drop)
        return "unknown", [Reason(code="rose", text=text, field="end_kpa")]
    room = given.max_drop_kpa - drop
    if room < -SLACK:
        return "out", []
    return ("edge" if room <= given.resolution_kpa + SLACK else "in"), []
