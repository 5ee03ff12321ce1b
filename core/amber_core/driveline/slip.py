"""The slip joint: spline in engagement when it is drawn out, and room before it bottoms."""

from __future__ import annotations

from dataclasses import dataclass

from amber_core import checks
from amber_core.errors import InvalidInput
from amber_core.verdicts import Limit, Reason, VerdictWord, judge
from amber_core.words import say


@dataclass(frozen=True, slots=True, kw_only=True)
class SlipQuestion:
    """Lengths between the shaft's joint centres at ride, shortest and longest; spline diameter; spline engaged at ride; how far it can
    still be pushed in at ride, all [mm]; and the rules: engagement in diameters [-], clearance left when shortest [mm]."""

    length_ride_mm: float
    length_min_mm: float
    length_max_mm: float
    spline_diameter_mm: float
    engaged_ride_mm: float
    collapse_ride_mm: float
    engagement_diameters: float = 2.0
    clearance_min_mm: float = 25.0
    resolution_mm: float = 1.0

    def __post_init__(self) -> None:
        for name in ("length_ride_mm", "length_min_mm", "length_max_mm"):
            checks.within(name, getattr(self, name), 20.0, 10000.0, say("Shaft length must be 20 to 10 000 mm."))
        checks.within("spline_diameter_mm", self.spline_diameter_mm, 10.0, 200.0, say("Slip joint spline diameter must be 10 to 200 mm."))
        checks.within("engaged_ride_mm", self.engaged_ride_mm, 0.0, 600.0, say("Engagement must be 0 to 600 mm."))
        checks.within("collapse_ride_mm", self.collapse_ride_mm, -200.0, 600.0, say("Room to push in must be −200 to 600 mm."))
        checks.within(
            "engagement_diameters", self.engagement_diameters, 0.0, 10.0, say("Engagement wanted must be 0 to 10 spline diameters.")
        )
        checks.within("clearance_min_mm", self.clearance_min_mm, 0.0, 300.0, say("Clearance must be 0 to 300 mm."))
        checks.resolution_ok(self.resolution_mm)
        if not self.length_min_mm <= self.length_ride_mm <= self.length_max_mm:
            raise InvalidInput("length_ride_mm", say("Length at ride height must be between the shortest and the longest length."))


@dataclass(frozen=True, slots=True, kw_only=True)
class Slip:
    """Engagement at the longest and what is required; clearance at the shortest; what would be needed at ride; whole travel; by how much
    a longer (+) shaft puts the engagement right, or a shorter (-) one the room, [mm]; whether one length serves both; the verdict."""

    engaged_longest_mm: float
    engaged_required_mm: float
    clearance_shortest_mm: float
    engaged_ok: bool
    clearance_ok: bool
    engaged_ride_needed_mm: float
    collapse_ride_needed_mm: float
    slip_travel_mm: float
    lengthen_shaft_by_mm: float
    one_length_serves: bool
    verdict: VerdictWord
    reasons: list[Reason]


def slip(given: SlipQuestion) -> Slip:
    """Whether a slip joint stays in its spline and off its stop.

    Parameters
    ----------
    given : SlipQuestion
        L, spline D, engaged and collapse at ride, [mm].

    Returns
    -------
    Slip
        engaged - (L_max - L_ride) >= k D; collapse - (L_ride - L_min) >= 25 mm.

    Raises
    ------
    InvalidInput
        From SlipQuestion, with the field.

    Notes
    -----
    Both limits are rules of thumb. A shaft longer by x has x more spline engaged and x less room.

    Examples
    --------
    >>> slip(SlipQuestion(length_ride_mm=1312, length_min_mm=1301, length_max_mm=1334, spline_diameter_mm=38, engaged_ride_mm=92,
    ...     collapse_ride_mm=40)).lengthen_shaft_by_mm
    6.0
    """
    out, pushed = given.length_max_mm - given.length_ride_mm, given.length_ride_mm - given.length_min_mm
    required = given.engagement_diameters * given.spline_diameter_mm
    engaged = Limit(
        value=given.engaged_ride_mm - out,
        bound=required,
        side="min",
        field="engaged_ride_mm",
        what=say("Spline engagement when fully drawn out"),
        unit="mm",
        digits=0,
    )
    room = Limit(
        value=given.collapse_ride_mm - pushed,
        bound=given.clearance_min_mm,
        side="min",
        field="collapse_ride_mm",
        what=say("Room left when fully pushed in"),
        unit="mm",
        digits=0,
    )
    verdict, reasons = judge([engaged, room], given.resolution_mm)
    # longer by x needs engaged.room + x >= 0 and room.room - x >= 0
    least, most = -engaged.room, room.room
    serves = least <= most + 1e-9
    longer = least if least > 0.0 else min(0.0, most)
    if not serves:
        text = say("No propshaft length serves both: the slip joint is {value:mm0} too short for this travel.", value=least - most)
        reasons = [Reason(code="slip_too_short", text=text, field="engaged_ride_mm"), *reasons]
    return Slip(
        engaged_longest_mm=engaged.value,
        engaged_required_mm=required,
        clearance_shortest_mm=room.value,
        engaged_ok=not engaged.broken,
        clearance_ok=not room.broken,
        engaged_ride_needed_mm=required + out,
        collapse_ride_needed_mm=given.clearance_min_mm + pushed,
        slip_travel_mm=given.length_max_mm - given.length_min_mm,
        lengthen_shaft_by_mm=longer,
        one_length_serves=serves,
        verdict=verdict,
        reasons=reasons,
    )
