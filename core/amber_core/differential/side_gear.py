"""Play of a side gear, and the thrust washer that brings it into its window."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from amber_core import checks
from amber_core.errors import InvalidInput
from amber_core.shims.stock import MOST_ROWS, Shims, nanometres
from amber_core.verdicts import Reason, VerdictWord, held, window
from amber_core.words import say

MOST_PLAYS = 50
PLAY_PER_WASHER = {"axial": 1.0, "tooth": 0.7}
"""Play lost for each mm of washer: along the axis, and at the tooth (rule of thumb, about 2 tan(pressure angle) sin(pitch cone angle))."""


@dataclass(frozen=True, slots=True, kw_only=True)
class SideGearQuestion:
    """Plays of one side gear and their window, the washer fitted now and those in the drawer, [mm]; how it was measured."""

    plays_mm: list[float]
    max_mm: float | None = None
    min_mm: float | None = None
    washer_mm: float | None = None
    washer_stock: list[Shims] | None = None
    measured: Literal["axial", "tooth"] = "axial"
    play_per_washer: float | None = None
    resolution_mm: float = 0.01

    def __post_init__(self) -> None:
        if not 1 <= len(self.plays_mm) <= MOST_PLAYS:
            raise InvalidInput("plays_mm", say("Give 1 to {most} readings.", most=MOST_PLAYS))
        for index, one in enumerate(self.plays_mm):
            checks.within(f"plays_mm[{index}]", one, 0.0, 20.0, say("Side-gear play must be 0 to 20 mm. Check the unit."))
        for field in ("min_mm", "max_mm"):
            checks.within(field, getattr(self, field), 0.0, 20.0, say("Side-gear play must be 0 to 20 mm. Check the unit."))
        checks.window_in_order(self.min_mm, self.max_mm, "min_mm", say("side-gear play"))
        checks.within("washer_mm", self.washer_mm, 0.0, 20.0, say("Thrust washer must be 0 to 20 mm thick."))
        if len(self.washer_stock or []) > MOST_ROWS:
            raise InvalidInput("washer_stock", say("Too many rows of washers. The most is {most}.", most=MOST_ROWS))
        checks.above_zero("play_per_washer", self.play_per_washer, say("Play lost per millimetre of washer"))
        checks.resolution_ok(self.resolution_mm)


@dataclass(frozen=True, slots=True, kw_only=True)
class SideGearPlay:
    """The greatest play, how much thicker the washer has to be, its thickness, and the nearest in the drawer, [mm]."""

    play_mm: float
    washer_change_mm: float | None
    washer_wanted_mm: float | None
    pick_mm: float | None
    verdict: VerdictWord
    reasons: list[Reason]
    limits: list[Reason]


def judge_side_gear(given: SideGearQuestion) -> SideGearPlay:
    """Judge the play of a side gear.

    Parameters
    ----------
    given : SideGearQuestion
        Plays and washers, [mm].

    Returns
    -------
    SideGearPlay
        Play and washer, [mm].

    Raises
    ------
    InvalidInput
        From SideGearQuestion, with the field.

    Notes
    -----
    Change = (greatest play - middle of the window)/(play lost per mm of washer), + = thicker; of two washers equally near, the thinner.

    Examples
    --------
    >>> round(judge_side_gear(SideGearQuestion(plays_mm=[0.27], min_mm=0.05, max_mm=0.17, washer_mm=1.1)).washer_wanted_mm, 2)
    1.26
    """
    play = max(given.plays_mm)
    names = say("The least play"), say("The greatest play")
    verdict, limits = held(window(min(given.plays_mm), play, given.min_mm, given.max_mm, names, "mm"), given.resolution_mm)
    change = wanted = pick = None
    if given.min_mm is not None and given.max_mm is not None:
        change = (play - (given.min_mm + given.max_mm) / 2.0) / (given.play_per_washer or PLAY_PER_WASHER[given.measured])
    if change is not None and given.washer_mm is not None:
        wanted = given.washer_mm + change
        there = [one.thickness_mm for one in given.washer_stock or [] if one.count > 0]
        pick = min(there, key=lambda one: (abs(nanometres(one) - nanometres(wanted)), one), default=None)
    return SideGearPlay(
        play_mm=play, washer_change_mm=change, washer_wanted_mm=wanted, pick_mm=pick, verdict=verdict, reasons=[], limits=limits
    )
