"""The bolt holes of a gasket: evenly round a circle, by the chords between them, or one by one."""

from __future__ import annotations

from dataclasses import dataclass
from itertools import accumulate
from math import asin, cos, degrees, pi, radians, sin
from typing import Literal

from amber_core import checks
from amber_core.errors import InvalidInput
from amber_core.gaskets.outline import FARTHEST_MM, check_point
from amber_core.words import say

MOST_HOLES = 200
FEWEST_CHORDS = 3

_BELONGS = {
    "circle": ("count", "pitch_circle_mm", "first_deg", "centre_mm"),
    "chords": ("chords_mm", "pitch_circle_mm", "first_deg"),
    "points": ("points_mm",),
}
_NEEDED = {"circle": ("count", "pitch_circle_mm"), "chords": ("chords_mm", "pitch_circle_mm"), "points": ("points_mm",)}


@dataclass(frozen=True, slots=True, kw_only=True)
class Holes:
    """Holes of one size: so many round a pitch circle; by chords from one to the next, the last back to the first; or at points.

    Lengths in [mm], `first_deg` clockwise from the top, seen from the face, [deg].
    """

    kind: Literal["circle", "chords", "points"]
    hole_mm: float
    count: int | None = None
    pitch_circle_mm: float | None = None
    first_deg: float | None = None
    centre_mm: list[float] | None = None
    chords_mm: list[float] | None = None
    points_mm: list[list[float]] | None = None

    def __post_init__(self) -> None:
        checks.above_zero("hole_mm", self.hole_mm, say("Hole diameter"))
        checks.within("hole_mm", self.hole_mm, 0.0, 500.0, say("Hole diameter must be under 500 mm. Check the unit."))
        for field in ("count", "pitch_circle_mm", "first_deg", "centre_mm", "chords_mm", "points_mm"):
            given = getattr(self, field)
            if given is not None and field not in _BELONGS[self.kind]:
                raise InvalidInput(field, say("This does not belong to holes that are given in this way."))
            if given is None and field in _NEEDED[self.kind]:
                raise InvalidInput(field, say("This is needed for holes that are given in this way."))
        checks.within("count", self.count, 1, MOST_HOLES, say("Number of holes must be 1 to {most}.", most=MOST_HOLES))
        checks.above_zero("pitch_circle_mm", self.pitch_circle_mm, say("Bolt circle"))
        checks.within("pitch_circle_mm", self.pitch_circle_mm, 0.0, FARTHEST_MM, say("Bolt circle must be under 5 000 mm. Check the unit."))
        checks.within("first_deg", self.first_deg, -3600.0, 3600.0, say("Angle of the first hole must be −3600 to 3600 degrees."))
        if self.centre_mm is not None:
            check_point("centre_mm", self.centre_mm)
        if self.points_mm is not None and not 1 <= len(self.points_mm) <= MOST_HOLES:
            raise InvalidInput("points_mm", say("Number of holes must be 1 to {most}.", most=MOST_HOLES))
        for index, point in enumerate(self.points_mm or []):
            check_point(f"points_mm[{index}]", point)
        self._check_chords()

    def _check_chords(self) -> None:
        if self.chords_mm is None or self.pitch_circle_mm is None:
            return
        if not FEWEST_CHORDS <= len(self.chords_mm) <= MOST_HOLES:
            raise InvalidInput("chords_mm", say("Give 3 to {most} chords, the last back to the first hole.", most=MOST_HOLES))
        for index, one in enumerate(self.chords_mm):
            checks.above_zero(f"chords_mm[{index}]", one, say("A chord"))
            if one > self.pitch_circle_mm + 1e-9:
                raise InvalidInput(f"chords_mm[{index}]", say("A chord cannot be longer than the bolt circle is wide."))

    @property
    def closure_deg(self) -> float | None:
        """What the chords leave of a full turn, [deg]; None without chords."""
        return None if self.chords_mm is None else 360.0 - sum(self._steps())

    def middles(self) -> list[tuple[float, float]]:
        """Where each hole stands, [mm]."""
        if self.points_mm is not None:
            return [(x, y) for x, y in self.points_mm]
        first, radius = self.first_deg or 0.0, (self.pitch_circle_mm or 0.0) / 2.0
        x, y = self.centre_mm or (0.0, 0.0)
        return [(x + radius * sin(turn), y + radius * cos(turn)) for turn in (radians(first + one) for one in self._turns())]

    @property
    def area_mm2(self) -> float:
        """Of one hole, [mm2]."""
        return pi * self.hole_mm**2 / 4.0

    def _steps(self) -> list[float]:
        wide = self.pitch_circle_mm or 1.0
        return [2.0 * degrees(asin(min(1.0, one / wide))) for one in self.chords_mm or []]

    def _turns(self) -> list[float]:
        if self.count is not None:
            return [360.0 * k / self.count for k in range(self.count)]
        steps = self._steps()
        spread = (360.0 - sum(steps)) / len(steps)
        return list(accumulate((one + spread for one in steps[:-1]), initial=0.0))
