"""A stack of shims as people write it, "0.60 + 0.50", and as it is stored."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable

from amber_core.errors import InvalidInput
from amber_core.quantities import parse
from amber_core.shims.stock import Shims
from amber_core.words import say

PLAUSIBLE_MM = (0.02, 15.0)
MOST_PIECES = 8

Pieces = list[tuple[float, int]]


def parse_stack(typed: str, *, unit: str, field: str) -> Pieces:
    """Shims joined by +, thickest first; "0" or "none" is no shim.

    Raises
    ------
    InvalidInput
        With `field`, for anything that cannot be a shim.
    """
    if typed.strip().lower() in ("0", "none"):
        return []
    counted: Counter[float] = Counter()
    for part in typed.split("+"):
        shim = parse(part, dimension="length", unit=unit, field=field)
        if not PLAUSIBLE_MM[0] <= shim.value <= PLAUSIBLE_MM[1]:
            text = (
                say(
                    "{typed} would be {value:mm3}, which no shim is. Write the unit with it, such as 1.10 mm.",
                    typed=part.strip(),
                    value=shim.value,
                )
                if shim.bare
                else say("{typed} would be {value:mm3}, which no shim is.", typed=part.strip(), value=shim.value)
            )
            raise InvalidInput(field, text)
        counted[round(shim.value, 4)] += 1
    if sum(counted.values()) > MOST_PIECES:
        raise InvalidInput(field, say("A stack can have {most_pieces} pieces at most.", most_pieces=MOST_PIECES))
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
