"""A stack of shims as people write it, "0.60 + 0.50", and as it is stored."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable

from amber_core.shims.stock import Shims
from amber_core.typed_stack import pieces_in

MOST_PIECES = 8

Pieces = list[tuple[float, int]]


def parse_stack(typed: str, *, unit: str, field: str) -> Pieces:
    """Shims joined by +, thickest first; "0" or "none" is no shim.

    Raises
    ------
    InvalidInput
        With `field`, for anything that cannot be a shim.
    """
    counted = Counter(round(shim.value, 4) for shim in pieces_in(typed, unit=unit, field=field, most=MOST_PIECES))
    return sorted(counted.items(), reverse=True)


def stored(pieces: Iterable[Iterable[float]] | None) -> Pieces:
    """Pieces out of the database."""
    return [(float(thickness), int(count)) for thickness, count in pieces or []]


def total_mm(pieces: Pieces) -> float:
    """Thickness of the stack, [mm]."""
    return round(sum(thickness * count for thickness, count in pieces), 6)


def as_shims(pieces: Pieces) -> list[Shims]:
    """For the core."""
    return [Shims(thickness_mm=thickness, count=count) for thickness, count in pieces]
