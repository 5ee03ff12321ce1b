"""One kind of verdict everywhere: in, edge, out or unknown, with its reasons."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from amber_core.words import Said, figure, say

VerdictWord = Literal["in", "edge", "out", "unknown"]

SLACK = 1e-9
"""Limits are inclusive and floats are not exact: far below the step of any dial, [mm or N m]."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Reason:
    """Why a verdict says what it says."""

    code: str
    text: Said
    field: str | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class Limit:
    """One limit that a value is held against.

    Parameters
    ----------
    value, bound : float
        What was measured and what it is held against, in one unit.
    side : {"min", "max"}
        Whether the bound is the least or the greatest allowed.
    field : str
        The field that carried the bound.
    what : str
        The quantity in words, as in "The least reading".
    unit : str
        For the sentence alone.
    digits : int, optional
        Places in the sentence; three for mm, else two.
    """

    value: float
    bound: float
    side: Literal["min", "max"]
    field: str
    what: Said
    unit: str
    digits: int | None = None

    @property
    def room(self) -> float:
        """How far inside the limit the value is; negative outside. Same unit as the value."""
        return self.value - self.bound if self.side == "min" else self.bound - self.value

    @property
    def broken(self) -> bool:
        """Outside, beyond the slack."""
        return self.room < -SLACK

    def near(self, resolution: float) -> bool:
        """Inside, and no farther from the limit than the reading can tell."""
        return not self.broken and self.room <= resolution + SLACK

    def reason(self, resolution: float) -> Reason:
        """The limit as a sentence."""
        value, bound, beyond = self._figure(self.value), self._figure(self.bound), self._figure(abs(self.room))
        least = self.side == "min"
        if self.broken:
            text = (
                say("{what} is {value}: {beyond} under the minimum of {bound}.", what=self.what, value=value, beyond=beyond, bound=bound)
                if least
                else say(
                    "{what} is {value}: {beyond} over the maximum of {bound}.", what=self.what, value=value, beyond=beyond, bound=bound
                )
            )
            return Reason(code="under_min" if least else "over_max", text=text, field=self.field)
        if self.near(resolution):
            text = (
                say("{what} is {value}: too close to the minimum of {bound} to be sure.", what=self.what, value=value, bound=bound)
                if least
                else say("{what} is {value}: too close to the maximum of {bound} to be sure.", what=self.what, value=value, bound=bound)
            )
            return Reason(code=f"near_{self.side}", text=text, field=self.field)
        text = (
            say("{what} is {value}; the minimum is {bound}.", what=self.what, value=value, bound=bound)
            if least
            else say("{what} is {value}; the maximum is {bound}.", what=self.what, value=value, bound=bound)
        )
        return Reason(code=f"inside_{self.side}", text=text, field=self.field)

    def _figure(self, value: float) -> Said:
        digits = self.digits if self.digits is not None else 3 if self.unit == "mm" else 2
        follows_the_reader = self.unit in ("mm", "Nm")
        return figure(value, f"{self.unit}{digits}") if follows_the_reader else figure(value, f".{digits}f", self.unit)


def judge(limits: list[Limit], resolution: float) -> tuple[VerdictWord, list[Reason]]:
    """Hold values against limits.

    Parameters
    ----------
    limits : list of Limit
        Those that are known; none at all is `unknown`.
    resolution : float
        What the instrument can tell apart, in the unit of the limits.

    Returns
    -------
    tuple
        The verdict, and a reason for each limit, broken ones first.
    """
    if not limits:
        return "unknown", [Reason(code="no_limits", text=say("No limit is known, so it cannot be judged."))]
    ordered = sorted(limits, key=lambda limit: (not limit.broken, not limit.near(resolution)))
    reasons = [limit.reason(resolution) for limit in ordered]
    if ordered[0].broken:
        return "out", reasons
    return ("edge" if ordered[0].near(resolution) else "in"), reasons


def worst(words: list[VerdictWord]) -> VerdictWord:
    """The worst of several verdicts; unknown ones do not count beside known ones, and none at all is `unknown`."""
    return max(words, key=("unknown", "in", "edge", "out").index, default="unknown")


def worse(words: list[VerdictWord]) -> VerdictWord:
    """The worst of several verdicts where what is unknown is worse than what is near a limit; none at all is `unknown`."""
    return max(words, key=("in", "edge", "unknown", "out").index, default="unknown")


def held(limits: list[Limit], resolution: float) -> tuple[VerdictWord, list[Reason]]:
    """Hold values against limits as `judge` does, with no sentence where no limit is known."""
    return judge(limits, resolution) if limits else ("unknown", [])


def window(value_low: float, value_high: float, low: float | None, high: float | None, what: tuple[Said, Said], stem: str) -> list[Limit]:
    """The limits of a least and a greatest value against ``min_<stem>`` and ``max_<stem>``, those that are known; `what` names both."""
    unit = {"mm": "mm", "nm": "Nm"}[stem]
    least = [] if low is None else [Limit(value=value_low, bound=low, side="min", field=f"min_{stem}", what=what[0], unit=unit)]
    return least + ([] if high is None else [Limit(value=value_high, bound=high, side="max", field=f"max_{stem}", what=what[1], unit=unit)])
