"""The end of an axle tube: where to cut its register so that a bolted retainer holds the bearing and its seal."""

from __future__ import annotations

from dataclasses import dataclass
from math import atan, atan2, degrees, hypot

from amber_core import checks
from amber_core.circle import LARGEST_GAP_DEG, CircleReading, fit_once_per_turn, widest_gap_deg
from amber_core.errors import InvalidInput
from amber_core.verdicts import SLACK, Limit, Reason, VerdictWord, held, worse
from amber_core.words import say

FEWEST_PLACES, MOST_PLACES, FEWEST_ANGLES = 4, 16, 3


@dataclass(frozen=True, slots=True, kw_only=True)
class RegisterQuestion:
    """Heights of the register above the flange face round the clock, and what the stub must be, [mm].

    Parameters
    ----------
    register : list of CircleReading
        4 to 16 places, 3 angles or more; 8 are usual.
    min_mm, max_mm : float
        The maker's window of the stub, [mm].
    seat_mm, spigot_mm : float, optional
        Height of the retainer's seat above the flange face, backing plate included, and how far its seal reaches below the seat, [mm].
    engagement_mm, clearance_mm : float
        How far the seal must reach over the stub, and how far the stub stays off the seat, [mm].
    guide_mm : float, optional
        The even ring on the register that guides the cut, [mm].
    diameter_mm : float, optional
        On which the heights were read, [mm].
    """

    register: list[CircleReading]
    min_mm: float
    max_mm: float
    seat_mm: float | None = None
    spigot_mm: float | None = None
    engagement_mm: float = 2.0
    clearance_mm: float = 0.1
    guide_mm: float | None = None
    diameter_mm: float | None = None
    resolution_mm: float = 0.01

    def __post_init__(self) -> None:
        angles = {round(one.angle_deg % 360.0, 6) % 360.0 for one in self.register}
        if not FEWEST_PLACES <= len(self.register) <= MOST_PLACES or len(angles) < FEWEST_ANGLES:
            text = say(
                "Read the register at {fewest} to {most} places round the clock, 3 of them different. 8 is usual.",
                fewest=FEWEST_PLACES,
                most=MOST_PLACES,
            )
            raise InvalidInput("register", text)
        for field in ("min_mm", "max_mm", "seat_mm", "spigot_mm", "engagement_mm", "clearance_mm", "guide_mm"):
            checks.within(field, getattr(self, field), 0.0, 500.0, say("This must be 0 to 500 mm. Check the unit."))
        checks.window_in_order(self.min_mm, self.max_mm, "min_mm", say("stub height"))
        checks.above_zero("diameter_mm", self.diameter_mm, say("Diameter on which the heights were read"))
        checks.resolution_ok(self.resolution_mm)

    @property
    def window_mm(self) -> tuple[float, float]:
        """The stub's window with seal and seat counted in, [mm]; the first over the second where there is none."""
        low, high = self.min_mm, self.max_mm
        if self.seat_mm is not None:
            high = min(high, self.seat_mm - self.clearance_mm)
            if self.spigot_mm is not None:
                low = max(low, self.seat_mm - self.spigot_mm + self.engagement_mm)
        return low, high


@dataclass(frozen=True, slots=True, kw_only=True)
class RegisterPlane:
    """The plane through the register: mean, rise from lowest to highest and what is left over [mm], where it is highest [deg]."""

    mean_mm: float
    tilt_mm: float
    high_at_deg: float
    residual_mm: float
    tilt_deg: float | None


@dataclass(frozen=True, slots=True, kw_only=True)
class StubPlace:
    """One place with the guide: stub, what the seal covers, gap to the seat, and what to trim, [mm]."""

    angle_deg: float
    stub_mm: float
    engaged_mm: float | None
    gap_mm: float | None
    trim_mm: float
    verdict: VerdictWord


@dataclass(frozen=True, slots=True, kw_only=True)
class RegisterPlan:
    """The plane, the stub's window, where to cut, which guide would do, and every place, [mm]."""

    plane: RegisterPlane
    low_mm: float
    high_mm: float
    flush_ok: bool
    cut_at_mm: float | None
    guide_range_mm: list[float] | None
    places: list[StubPlace]
    possible: bool
    verdict: VerdictWord
    reasons: list[Reason]


def plan_tube_end(given: RegisterQuestion) -> RegisterPlan:
    """Plan the cut of an axle tube's register.

    Parameters
    ----------
    given : RegisterQuestion
        Heights [mm] at angles [deg].

    Returns
    -------
    RegisterPlan
        Heights above the flange face, [mm].

    Raises
    ------
    InvalidInput
        From RegisterQuestion, with the field.

    Notes
    -----
    Plane: least squares of a + b cos + c sin, tilt = 2 sqrt(b^2 + c^2). low = max(min, seat - spigot + engagement), high = min(max, seat
    - clearance). The cut is parallel to the flange face, not to the register. Stub = register + guide (0 for a flush cut); gap = seat -
    stub; engaged = spigot - gap; trim = max(0, stub - high). A stub that is too short cannot be put back.

    Examples
    --------
    >>> heights = [4.3, 4.6, 4.3, 4.0]
    >>> register = [CircleReading(angle_deg=90.0 * k, value_mm=one) for k, one in enumerate(heights)]
    >>> [round(one, 2) for one in plan_tube_end(RegisterQuestion(register=register, min_mm=5.7, max_mm=6.4)).guide_range_mm]
    [1.7, 1.8]
    """
    low, high = given.window_mm
    heights = [one.value_mm for one in given.register]
    possible = low <= high + SLACK
    reach = [low - min(heights), high - max(heights)]
    guide = given.guide_mm or 0.0
    places = [_place(given, one, one.value_mm + guide, low, high) for one in given.register]
    verdict, reasons = _judge(given, places, possible, low, high)
    return RegisterPlan(
        plane=_plane(given),
        low_mm=low,
        high_mm=high,
        flush_ok=all(low - SLACK <= one <= high + SLACK for one in heights),
        cut_at_mm=(low + high) / 2.0 if possible else None,
        guide_range_mm=reach if possible and reach[0] <= reach[1] + SLACK else None,
        places=places,
        possible=possible,
        verdict=verdict,
        reasons=reasons,
    )


def _plane(given: RegisterQuestion) -> RegisterPlane:
    fit = fit_once_per_turn([one.angle_deg for one in given.register], [one.value_mm for one in given.register])
    tilt = 2.0 * hypot(fit.cos_mm, fit.sin_mm)
    return RegisterPlane(
        mean_mm=fit.mean_mm,
        tilt_mm=tilt,
        high_at_deg=degrees(atan2(fit.sin_mm, fit.cos_mm)) % 360.0,
        residual_mm=max(abs(one.value_mm - fit.at(one.angle_deg)) for one in given.register),
        tilt_deg=None if given.diameter_mm is None else degrees(atan(tilt / given.diameter_mm)),
    )


def _place(given: RegisterQuestion, at: CircleReading, stub: float, low: float, high: float) -> StubPlace:
    gap = None if given.seat_mm is None else given.seat_mm - stub
    limits = [
        Limit(value=stub, bound=low, side="min", field="min_mm", what=say("The stub"), unit="mm"),
        Limit(value=stub, bound=high, side="max", field="max_mm", what=say("The stub"), unit="mm"),
    ]
    return StubPlace(
        angle_deg=at.angle_deg,
        stub_mm=stub,
        engaged_mm=None if gap is None or given.spigot_mm is None else given.spigot_mm - gap,
        gap_mm=gap,
        trim_mm=max(0.0, stub - high),
        verdict=held(limits, given.resolution_mm)[0],
    )


def _judge(given: RegisterQuestion, places: list[StubPlace], possible: bool, low: float, high: float) -> tuple[VerdictWord, list[Reason]]:
    verdict = worse([one.verdict for one in places])
    reasons = []
    if not possible:
        verdict = "out"
        text = say(
            "No height of the stub would do: the seal needs {low:mm2} and the seat leaves {high:mm2}. Check the retainer and its parts.",
            low=low,
            high=high,
        )
        reasons.append(Reason(code="no_window", text=text, field="seat_mm"))
    short = [one.angle_deg for one in places if one.stub_mm < low - SLACK]
    if short:
        text = say("Too short at {places}: what is cut off cannot be put back. Use a thicker guide ring.", places=_angles(short))
        reasons.append(Reason(code="too_short", text=text, field="guide_mm"))
    long = [one.angle_deg for one in places if one.trim_mm > SLACK]
    if long:
        text = say("Too high at {places}: trim it there after the cut.", places=_angles(long))
        reasons.append(Reason(code="trim", text=text, field="guide_mm"))
    if widest_gap_deg(sorted({one.angle_deg % 360.0 for one in given.register})) > LARGEST_GAP_DEG + SLACK:
        verdict = worse([verdict, "unknown"])
        text = say("A side of the register was not read. Read it all round the clock.")
        reasons.append(Reason(code="not_round", text=text, field="register"))
    return verdict, reasons


def _angles(angles: list[float]) -> str:
    return ", ".join(f"{one % 360.0:g}°" for one in angles)
