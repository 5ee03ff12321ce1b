"""How well a patch is read: the usual scatter, put right by what is known of the reader and by this job's own repeats."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from math import fsum, sqrt

from amber_core.setup.question import HowRead, Reader, TrialPatch

USUAL_U, USUAL_V = 0.05, 0.06
"""Scatter of a reading of which nothing else is known, [-]."""
USUAL_COUNTS = 12
"""As many repeats as the usual scatter is believed for."""
_LEAST = 0.01


@dataclass(frozen=True)
class ReadingNoise:
    """Scatter of one reading of a patch by one person in one way, along and across, [-]."""

    sd_u: float
    sd_v: float


class Noise:
    """The scatter of everybody who reads on this job.

    Parameters
    ----------
    readers : sequence of Reader
        What is known of people from before.
    patches : iterable of sequence of TrialPatch
        Every patch of this job with each of its readings.

    Notes
    -----
    A scaled inverse chi-square for each variance: the usual one with the weight of `USUAL_COUNTS` repeats, then the person's earlier
    repeats, then this job's, pooled about the middle of each patch that the same person read more than once in the same way.
    """

    def __init__(self, readers: Sequence[Reader], patches: Iterable[Sequence[TrialPatch]]) -> None:
        degrees: dict[tuple[str, HowRead], int] = {}
        squares: dict[tuple[str, HowRead], list[tuple[float, float]]] = {}

        def add(key: tuple[str, HowRead], count: int, square_u: float, square_v: float) -> None:
            degrees[key] = degrees.get(key, 0) + count
            squares.setdefault(key, []).append((square_u, square_v))

        for one in readers:
            add((one.by, one.how), one.repeats, one.repeats * one.sd_u**2, one.repeats * one.sd_v**2)
        for seen in patches:
            for key in {(one.by, one.how) for one in seen}:
                mine = [one for one in seen if (one.by, one.how) == key and one.sd_u is None]
                if len(mine) > 1:
                    add(key, len(mine) - 1, _scatter([one.u for one in mine]), _scatter([one.v for one in mine]))
        self._found = {
            key: _learnt(count, fsum(u for u, _ in squares[key]), fsum(v for _, v in squares[key])) for key, count in degrees.items()
        }

    def of(self, by: str, how: HowRead) -> ReadingNoise:
        """Of one person, reading in one way."""
        return self._found.get((by, how)) or _USUAL

    def sds(self, read: TrialPatch) -> tuple[float, float]:
        """Of one reading along and across [-]: as it was given with it, or as its reader's."""
        own = self.of(read.by, read.how)
        return own.sd_u if read.sd_u is None else read.sd_u, own.sd_v if read.sd_v is None else read.sd_v


def _scatter(read: list[float]) -> float:
    """Squares about the mean."""
    mean = fsum(read) / len(read)
    return fsum((one - mean) ** 2 for one in read)


def _learnt(count: int, square_u: float, square_v: float) -> ReadingNoise:
    sd_u, sd_v = (
        max(_LEAST, sqrt((USUAL_COUNTS * usual**2 + square) / (USUAL_COUNTS + count)))
        for usual, square in ((USUAL_U, square_u), (USUAL_V, square_v))
    )
    return ReadingNoise(sd_u=sd_u, sd_v=sd_v)


_USUAL = _learnt(0, 0.0, 0.0)
