"""Temperatures after a drive: which place is too hot, and whether left and right differ."""

from __future__ import annotations

from dataclasses import dataclass

from amber_core import checks
from amber_core.errors import InvalidInput
from amber_core.verdicts import SLACK, Reason, VerdictWord, worse
from amber_core.words import say

RISE_PINION_K, RISE_ELSEWHERE_K = 70.0, 45.0
MOST_PLACES = 40


@dataclass(frozen=True, slots=True, kw_only=True)
class HeatReading:
    """A place, its temperature [deg C], and the greatest rise that is known for it [K]."""

    place: str
    celsius: float
    max_rise_k: float | None = None

    def __post_init__(self) -> None:
        if not self.place.strip():
            raise InvalidInput("place", say("Say where it was measured."))
        checks.within("celsius", self.celsius, -60.0, 600.0, say("Temperature must be −60 to 600 °C."))
        checks.within("max_rise_k", self.max_rise_k, 0.0, 500.0, say("Greatest rise must be 0 to 500 K."))


@dataclass(frozen=True, slots=True, kw_only=True)
class HeatQuestion:
    """Readings after a drive and the air then [deg C]; limits of rise and difference [K], rules of thumb unless given."""

    ambient_c: float
    readings: list[HeatReading]
    max_rise_k: float | None = None
    max_c: float = 110.0
    max_difference_k: float = 15.0
    resolution_k: float = 1.0

    def __post_init__(self) -> None:
        checks.within("ambient_c", self.ambient_c, -60.0, 70.0, say("Air temperature must be −60 to 70 °C."))
        if not 1 <= len(self.readings) <= MOST_PLACES:
            raise InvalidInput("readings", say("Give 1 to {most} temperatures.", most=MOST_PLACES))
        seen: set[str] = set()
        for index, one in enumerate(self.readings):
            if _name(one) in seen:
                raise InvalidInput(f"readings[{index}].place", say("“{place}” was measured twice. Keep one reading.", place=one.place))
            seen.add(_name(one))
        checks.within("max_rise_k", self.max_rise_k, 0.0, 500.0, say("Greatest rise must be 0 to 500 K."))
        checks.within("max_c", self.max_c, -60.0, 600.0, say("Greatest temperature must be −60 to 600 °C."))
        checks.within("max_difference_k", self.max_difference_k, 0.0, 500.0, say("Greatest difference must be 0 to 500 K."))
        checks.within("resolution_k", self.resolution_k, 0.0, 50.0, say("Thermometer resolution must be 0 to 50 K."))


@dataclass(frozen=True, slots=True, kw_only=True)
class HeatRise:
    """Rise over the air and its limit, [K], with the verdict of rise and temperature."""

    place: str
    rise_k: float
    max_rise_k: float
    verdict: VerdictWord


@dataclass(frozen=True, slots=True, kw_only=True)
class HeatVerdict:
    """The hottest place, each rise, left against right [K], and the worst verdict."""

    hottest: str
    rises: list[HeatRise]
    difference_k: float | None
    verdict: VerdictWord
    reasons: list[Reason]


def judge_heat(given: HeatQuestion) -> HeatVerdict:
    """Judge temperatures after a drive.

    Parameters
    ----------
    given : HeatQuestion
        Temperatures [deg C] and limits [K].

    Returns
    -------
    HeatVerdict
        Rises and difference [K].

    Raises
    ------
    InvalidInput
        From HeatQuestion, with the field.

    Notes
    -----
    Rise = reading - air. Rules of thumb: 70 K at a pinion, 45 K elsewhere, 110 deg C at most, 15 K between left and right. Bare metal
    misleads an infrared thermometer, and brakes heat hubs: coast to a stop before reading.

    Examples
    --------
    >>> readings = [HeatReading(place="left", celsius=61.0), HeatReading(place="right", celsius=79.0)]
    >>> judge_heat(HeatQuestion(ambient_c=18.0, readings=readings)).difference_k
    18.0
    """
    rises, too_hot, over_max = [], [], []
    for one in given.readings:
        rise, greatest = one.celsius - given.ambient_c, _greatest_rise(given, one)
        words = [_word(rise, greatest, given.resolution_k), _word(one.celsius, given.max_c, given.resolution_k)]
        too_hot += [one.place] if words[0] == "out" else []
        over_max += [one.place] if words[1] == "out" else []
        rises.append(HeatRise(place=one.place, rise_k=rise, max_rise_k=greatest, verdict=worse(words)))
    difference = _difference(given.readings)
    uneven: VerdictWord = "in" if difference is None else _word(difference, given.max_difference_k, given.resolution_k)
    reasons = []
    if too_hot:
        text = say("Too hot for this air temperature: {places}. Stop, let it cool and find out why.", places=", ".join(too_hot))
        reasons.append(Reason(code="too_hot", text=text, field="readings"))
    if over_max:
        text = say("Over {most:.0f} °C: {places}. Oil and seals suffer: let it cool.", most=given.max_c, places=", ".join(over_max))
        reasons.append(Reason(code="over_max", text=text, field="max_c"))
    if uneven == "out":
        text = say(
            "Left and right differ by {difference:.0f} K. Check bearing preload, brakes and oil on the hotter side.", difference=difference
        )
        reasons.append(Reason(code="uneven", text=text, field="readings"))
    return HeatVerdict(
        hottest=max(given.readings, key=lambda one: one.celsius).place,
        rises=rises,
        difference_k=difference,
        verdict=worse([uneven, *(one.verdict for one in rises)]),
        reasons=reasons,
    )


def _name(one: HeatReading) -> str:
    return one.place.strip().casefold()


def _greatest_rise(given: HeatQuestion, one: HeatReading) -> float:
    if one.max_rise_k is not None:
        return one.max_rise_k
    if given.max_rise_k is not None:
        return given.max_rise_k
    return RISE_PINION_K if "pinion" in one.place.casefold() else RISE_ELSEWHERE_K


def _word(value: float, most: float, resolution: float) -> VerdictWord:
    room = most - value
    return "out" if room < -SLACK else "edge" if room <= resolution + SLACK else "in"


def _difference(readings: list[HeatReading]) -> float | None:
    sides = {_name(one): one.celsius for one in readings}
    return abs(sides["left"] - sides["right"]) if {"left", "right"} <= sides.keys() else None
