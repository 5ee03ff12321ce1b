"""The loop of trials of an end play: what the dial read pushed in and pulled out, and what the last trial asks next."""

from __future__ import annotations

from dataclasses import dataclass

from amber_core import checks
from amber_core.errors import InvalidInput
from amber_core.words import say

MOST_TRIALS = 50
APART_MM = 0.005
"""Two stacks nearer than this tell nothing of how torque follows thickness, [mm]."""


@dataclass(frozen=True, slots=True, kw_only=True)
class PlayTrial:
    """One trial: the stack, the dial pushed in and pulled out along the axis [mm], nut torque and rotating torque [N m]."""

    stack_mm: float
    pushed_in_mm: float | None = None
    pulled_out_mm: float | None = None
    nut_nm: float | None = None
    rotating_torque_nm: float | None = None

    def __post_init__(self) -> None:
        checks.within("stack_mm", self.stack_mm, 0.0, 50.0, say("Stack must be 0 to 50 mm."))
        for field in ("pushed_in_mm", "pulled_out_mm"):
            checks.within(field, getattr(self, field), -100.0, 100.0, say("Dial reading must be −100 to 100 mm. Give it in millimetres."))
        if (self.pushed_in_mm is None) != (self.pulled_out_mm is None):
            field = "pushed_in_mm" if self.pushed_in_mm is None else "pulled_out_mm"
            raise InvalidInput(field, say("Read the dial both pushed in and pulled out."))
        checks.within("nut_nm", self.nut_nm, 0.0, 10_000.0, say("Torque must be 0 to 10 000 Nm. Check the unit."))
        checks.torque_ok("rotating_torque_nm", self.rotating_torque_nm)

    @property
    def end_play_mm(self) -> float | None:
        """The dial's travel, [mm]."""
        if self.pushed_in_mm is None or self.pulled_out_mm is None:
            return None
        return abs(self.pulled_out_mm - self.pushed_in_mm)


def torque_per_mm(trials: list[PlayTrial]) -> float | None:
    """How much rotating torque a millimetre of stack makes, from the two last trials that have one, [N m/mm]; None without two.

    Raises
    ------
    InvalidInput
        When there are more trials than anybody makes.
    """
    if len(trials) > MOST_TRIALS:
        raise InvalidInput("trials", say("Give 1 to {most} trials.", most=MOST_TRIALS))
    read = [one for one in trials if one.rotating_torque_nm is not None and not one.end_play_mm]
    for before, after in zip(reversed(read[:-1]), reversed(read[1:]), strict=True):
        apart = after.stack_mm - before.stack_mm
        if abs(apart) >= APART_MM:
            slope = abs(((after.rotating_torque_nm or 0.0) - (before.rotating_torque_nm or 0.0)) / apart)
            return slope or None
    return None
