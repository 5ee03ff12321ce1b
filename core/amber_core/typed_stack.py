"""A stack of shims, plates or washers as people write it: "0.60 + 0.50"."""

from __future__ import annotations

from amber_core.errors import InvalidInput
from amber_core.quantities import Typed, parse
from amber_core.words import say

PLAUSIBLE_MM = (0.02, 15.0)


def pieces_in(typed: str, *, unit: str, field: str, most: int) -> list[Typed]:
    """The pieces of a stack joined by +, in the order that they were written; "0" or "none" is no piece.

    Parameters
    ----------
    typed, unit : str
        What was written, and the unit of a bare figure.
    field : str
        What an error is about.
    most : int
        Pieces at the most.

    Raises
    ------
    InvalidInput
        With `field`, for anything that cannot be a shim, a plate or a washer.
    """
    if typed.strip().lower() in ("0", "none"):
        return []
    written = typed.split("+")
    if len(written) > most:
        raise InvalidInput(field, say("A stack can have {most_pieces} pieces at most.", most_pieces=most))
    pieces = []
    for part in written:
        piece = parse(part, dimension="length", unit=unit, field=field)
        if not PLAUSIBLE_MM[0] <= piece.value <= PLAUSIBLE_MM[1]:
            text = (
                say(
                    "{typed} would be {value:mm3}, which no shim is. Write the unit with it, such as 1.10 mm.",
                    typed=part.strip(),
                    value=piece.value,
                )
                if piece.bare
                else say("{typed} would be {value:mm3}, which no shim is.", typed=part.strip(), value=piece.value)
            )
            raise InvalidInput(field, text)
        pieces.append(piece)
    return pieces
