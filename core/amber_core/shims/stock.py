"""Shims as they lie in the drawer: thicknesses and counts, in whole nanometres so that sums are exact."""

from __future__ import annotations

from dataclasses import dataclass

from amber_core import checks
from amber_core.errors import InvalidInput
from amber_core.words import say

NM_PER_MM = 1_000_000
MOST_ROWS = 200
MOST_PIECES = 8


@dataclass(frozen=True, slots=True, kw_only=True)
class Shims:
    """So many shims of one thickness_mm [mm]."""

    thickness_mm: float
    count: int

    def __post_init__(self) -> None:
        checks.within(
            "thickness_mm",
            self.thickness_mm,
            0.001,
            50.0,
            say("Shim thickness must be 0.001 to 50 mm. Give it in millimetres."),
        )
        checks.within("count", self.count, 0, 100_000, say("The number of shims must be 0 or more."))


def nanometres(length_mm: float) -> int:
    """[mm] to whole [nm]."""
    return round(length_mm * NM_PER_MM)


def counted(stock: list[Shims], most_pieces: int) -> list[tuple[int, int]]:
    """Thickness [nm] and usable count, thickest first; equal thicknesses added up.

    Raises
    ------
    InvalidInput
        When there are more rows than a drawer has.
    """
    if len(stock) > MOST_ROWS:
        raise InvalidInput("stock", say("Too many rows of shims: {count}. The most is {most_rows}.", count=len(stock), most_rows=MOST_ROWS))
    totals: dict[int, int] = {}
    for row in stock:
        thickness = nanometres(row.thickness_mm)
        totals[thickness] = totals.get(thickness, 0) + row.count
    return [(thickness, min(totals[thickness], most_pieces)) for thickness in sorted(totals, reverse=True) if totals[thickness] > 0]


def as_pieces(stack: list[int]) -> list[Shims]:
    """A stack of thicknesses [nm], thickest first, as rows."""
    return [Shims(thickness_mm=one / NM_PER_MM, count=stack.count(one)) for one in sorted(set(stack), reverse=True)]
