"""Pinion preload by rotating torque: is it in, and does it turn evenly."""

from __future__ import annotations

from dataclasses import dataclass
from statistics import median
from typing import Literal

from amber_core import checks
from amber_core.errors import InvalidInput
from amber_core.verdicts import Limit, Reason, VerdictWord, judge
from amber_core.words import say

UNEVEN_SHARE = 0.25


@dataclass(frozen=True, slots=True, kw_only=True)
class PreloadReadings:
    """Torques read while turning steadily [Nm], the window, and what else turns or drags.

    `seal` and `window_seal` say whether the seal was fitted and whether the window counts its drag; `breakaway_nm` is kept, never judged.
    """

    readings_nm: list[float]
    min_nm: float | None = None
    max_nm: float | None = None
    seal_drag_nm: float | None = None
    bearings: Literal["new", "used", "mixed"] | None = None
    seal: Literal["fitted", "absent"] | None = None
    window_seal: Literal["included", "excluded"] | None = None
    breakaway_nm: float | None = None
    resolution_nm: float = 0.05

    def __post_init__(self) -> None:
        if not self.readings_nm:
            raise InvalidInput("readings_nm", say("No readings yet. Turn the pinion steadily and read the torque wrench."))
        if len(self.readings_nm) > 64:
            raise InvalidInput("readings_nm", say("Too many readings. The most is 64."))
        for index, reading in enumerate(self.readings_nm):
            checks.torque_ok(f"readings_nm[{index}]", reading)
        for name in ("min_nm", "max_nm", "seal_drag_nm", "breakaway_nm"):
            checks.torque_ok(name, getattr(self, name))
        checks.window_in_order(self.min_nm, self.max_nm, "min_nm", say("rotating torque"))
        checks.torque_resolution_ok(self.resolution_nm)


@dataclass(frozen=True, slots=True, kw_only=True)
class PreloadVerdict:
    """Median less the seal's drag, and spread of the readings, [Nm]."""

    torque_nm: float
    spread_nm: float
    verdict: VerdictWord
    reasons: list[Reason]


def assess_preload(given: PreloadReadings) -> PreloadVerdict:
    """Judge the rotating torque of a pinion.

    Parameters
    ----------
    given : PreloadReadings
        Readings, window, seal drag, [Nm].

    Returns
    -------
    PreloadVerdict
        Torque and spread [Nm].

    Raises
    ------
    InvalidInput
        From PreloadReadings, with the field.

    Notes
    -----
    torque = median - drag (0 when not given). A spread over a quarter of the median is `uneven`. Seal and window that differ with no
    drag given, or mixed bearings, cannot be judged. Bearings oiled and seated by turning, carrier out.

    Examples
    --------
    >>> assess_preload(PreloadReadings(readings_nm=[2.0, 2.1, 2.0], min_nm=1.6, max_nm=2.6)).verdict
    'in'
    """
    middle = median(given.readings_nm)
    torque = middle - (given.seal_drag_nm or 0.0)
    spread = max(given.readings_nm) - min(given.readings_nm)
    limits = []
    if given.min_nm is not None:
        limits.append(Limit(value=torque, bound=given.min_nm, side="min", field="min_nm", what=say("Rotating torque"), unit="Nm"))
    if given.max_nm is not None:
        limits.append(Limit(value=torque, bound=given.max_nm, side="max", field="max_nm", what=say("Rotating torque"), unit="Nm"))
    verdict, reasons = judge(limits, given.resolution_nm)
    unclear = _unclear(given)
    if unclear:
        verdict, reasons = "unknown", [*unclear, *reasons]
    if spread > UNEVEN_SHARE * middle:
        text = say("The torque varies by {spread:Nm2} in a turn: rough or notchy. Check the bearings before you rely on it.", spread=spread)
        reasons = [*reasons, Reason(code="uneven", text=text, field="readings_nm")]
    return PreloadVerdict(torque_nm=torque, spread_nm=spread, verdict=verdict, reasons=reasons)


def _unclear(given: PreloadReadings) -> list[Reason]:
    found = []
    if given.bearings == "mixed":
        text = say("There is no window for a new and a used bearing together. Replace both, or ask the maker.")
        found.append(Reason(code="mixed_bearings", text=text, field="bearings"))
    differ = (given.seal, given.window_seal) in (("fitted", "excluded"), ("absent", "included"))
    if differ and given.seal_drag_nm is None:
        text = say(
            "The window includes seal drag and the reading does not, or the other way round. Measure the seal "
            "drag, or read it the way the window means it."
        )
        found.append(Reason(code="seal_differs", text=text, field="seal_drag_nm"))
    return found
