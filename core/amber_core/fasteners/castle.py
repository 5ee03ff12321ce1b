"""A castellated nut that sets a bearing's play: which slot the split pin goes through."""

from __future__ import annotations

from dataclasses import dataclass
from math import floor, lcm

from amber_core import checks
from amber_core.errors import InvalidInput
from amber_core.verdicts import SLACK, Reason, VerdictWord, held, window, worse
from amber_core.words import say


@dataclass(frozen=True, slots=True, kw_only=True)
class CastleQuestion:
    """Thread pitch [mm], slots of the nut, holes of the stud, the play now and its window [mm], play per mm of nut travel."""

    pitch_mm: float
    slots: int
    holes: int
    play_mm: float
    min_mm: float
    max_mm: float
    thread_factor: float = 1.0
    resolution_mm: float = 0.01

    def __post_init__(self) -> None:
        checks.above_zero("pitch_mm", self.pitch_mm, say("Thread pitch"))
        checks.within("pitch_mm", self.pitch_mm, 0.0, 20.0, say("Thread pitch must be under 20 mm. Check the unit."))
        if self.slots % 2 or not 2 <= self.slots <= 48:
            raise InvalidInput(
                "slots", say("A castellated nut has an even number of slots, 2 to 48: the pin goes through two opposite ones.")
            )
        checks.within("holes", self.holes, 1, 4, say("A stud has 1 to 4 holes for the split pin."))
        for field in ("play_mm", "min_mm", "max_mm"):
            checks.within(field, getattr(self, field), 0.0, 20.0, say("Play must be 0 to 20 mm. Check the unit."))
        checks.window_in_order(self.min_mm, self.max_mm, "min_mm", say("play"))
        checks.above_zero("thread_factor", self.thread_factor, say("Play per millimetre of nut travel"))
        checks.resolution_ok(self.resolution_mm)


@dataclass(frozen=True, slots=True, kw_only=True)
class CastleNut:
    """Positions in a turn, play of one [mm], how many to go back (negative = tighter), and the play then [mm]."""

    positions_per_turn: int
    step_mm: float
    back_positions: int | None
    play_then_mm: float | None
    possible: bool
    verdict: VerdictWord
    reasons: list[Reason]
    limits: list[Reason]


def set_castle_nut(given: CastleQuestion) -> CastleNut:
    """Find the position of a castellated nut that brings the play nearest to the middle of its window.

    Parameters
    ----------
    given : CastleQuestion
        Pitch and plays [mm].

    Returns
    -------
    CastleNut
        Positions and plays [mm].

    Raises
    ------
    InvalidInput
        From CastleQuestion, with the field.

    Notes
    -----
    Positions in a turn = lcm(slots, 2 holes), as each hole opens twice; step = pitch x factor / positions. Of two equally near, the
    looser. A play of 0 may hide preload.

    Examples
    --------
    >>> question = CastleQuestion(pitch_mm=1.5, slots=10, holes=2, play_mm=0.02, min_mm=0.05, max_mm=0.15)
    >>> set_castle_nut(question).back_positions
    1
    """
    positions = lcm(given.slots, 2 * given.holes)
    step = given.pitch_mm * given.thread_factor / positions
    back = floor(((given.min_mm + given.max_mm) / 2.0 - given.play_mm) / step + 0.5 + SLACK)
    then = given.play_mm + back * step
    if not given.min_mm - SLACK <= then <= given.max_mm + SLACK:
        text = say(
            "No position of the nut gives a play inside the window: one position is {step:mm3}. Try another nut or washer.", step=step
        )
        return CastleNut(
            positions_per_turn=positions,
            step_mm=step,
            back_positions=None,
            play_then_mm=None,
            possible=False,
            verdict="out",
            reasons=[Reason(code="no_position", text=text, field="slots"), *_no_play(given)],
            limits=[],
        )
    name = say("The play then")
    verdict, limits = held(window(then, then, given.min_mm, given.max_mm, (name, name), "mm"), given.resolution_mm)
    reasons = _no_play(given)
    if back < 0:
        text = say("Tighter: turn the hub while you tighten it, then measure the play again.")
        reasons.append(Reason(code="tighter", text=text, field="play_mm"))
    return CastleNut(
        positions_per_turn=positions,
        step_mm=step,
        back_positions=back,
        play_then_mm=then,
        possible=True,
        verdict=worse([verdict, "unknown"]) if given.play_mm <= SLACK else verdict,
        reasons=reasons,
        limits=limits,
    )


def _no_play(given: CastleQuestion) -> list[Reason]:
    if given.play_mm > SLACK:
        return []
    text = say("There is no play now, which may hide preload. Back the nut off until there is some, and measure that.")
    return [Reason(code="no_play", text=text, field="play_mm")]
