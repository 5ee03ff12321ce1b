"""One minute before readings: a dial on its zero, on a gauge block, and back at its mark."""

from __future__ import annotations

from dataclasses import dataclass

from amber_core import checks
from amber_core.verdicts import SLACK, Reason
from amber_core.words import say

ZERO_WITHIN_MM, BLOCK_MM = 10.0, (0.01, 50.0)


@dataclass(frozen=True, slots=True, kw_only=True)
class DialCheck:
    """What the dial shows on its zero, the block's size, what it shows there, and back at the mark; and its step, all [mm]."""

    zero_mm: float
    block_mm: float
    block_read_mm: float
    return_mm: float
    resolution_mm: float = 0.01

    def __post_init__(self) -> None:
        checks.within("block_mm", self.block_mm, *BLOCK_MM, say("Gauge block thickness must be 0.01 to 50 mm."))
        for name in ("zero_mm", "return_mm"):
            checks.within(
                name, getattr(self, name), -ZERO_WITHIN_MM, ZERO_WITHIN_MM, say("A zeroed dial indicator must read within 10 mm of zero.")
            )
        checks.within("block_read_mm", self.block_read_mm, 0.0, 2.0 * BLOCK_MM[1], say("Reading on the gauge block must be 0 to 100 mm."))
        checks.resolution_ok(self.resolution_mm)


@dataclass(frozen=True, slots=True, kw_only=True)
class DialChecked:
    """Whether the dial can be trusted, by how much it is off at the worst [mm], and where."""

    good: bool
    off_mm: float
    reasons: list[Reason]


def check_dial(given: DialCheck) -> DialChecked:
    """Whether a dial shows what it should, within one of its steps.

    Parameters
    ----------
    given : DialCheck
        Zero, block, block as read, return, step, [mm].

    Returns
    -------
    DialChecked
        Good when zero, block and return are each off by no more than a step.

    Raises
    ------
    InvalidInput
        From DialCheck, with the field.
    """
    off = [
        ("zero", abs(given.zero_mm), say("It does not stand at zero")),
        ("block", abs(given.block_read_mm - given.block_mm), say("It does not read the gauge block right")),
        ("return", abs(given.return_mm), say("It does not return to its mark")),
    ]
    wrong = [one for one in off if one[1] > given.resolution_mm + SLACK]
    reasons = [
        Reason(code=f"{code}_off", text=say("{text}: {mm:mm3} off.", text=text, mm=mm), field=f"{code}_mm") for code, mm, text in wrong
    ]
    return DialChecked(good=not wrong, off_mm=max(mm for _, mm, _ in off), reasons=reasons)
