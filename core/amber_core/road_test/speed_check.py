"""A speedometer against true speed: how far it is out, whether the change explains it, and what corrects it."""

from __future__ import annotations

from dataclasses import dataclass
from math import sqrt

from amber_core import checks
from amber_core.errors import InvalidInput
from amber_core.verdicts import SLACK, Reason
from amber_core.words import say

AGREES_PCT = 2.0
MOST_PAIRS = 100


@dataclass(frozen=True, slots=True, kw_only=True)
class SpeedPair:
    """Speed shown and true speed at the same moment, [km/h]."""

    shown_kmh: float
    true_kmh: float

    def __post_init__(self) -> None:
        for name in ("shown_kmh", "true_kmh"):
            checks.above_zero(name, getattr(self, name), say("Speed"))
            checks.within(name, getattr(self, name), 0.1, 500.0, say("Speed must be 0.1 to 500 km/h."))


@dataclass(frozen=True, slots=True, kw_only=True)
class SpeedCheckQuestion:
    """Pairs of shown and true speed [km/h]; circumferences [mm] and axle ratios before and after; how it read before the change.

    `factor_before` is true over shown before the change: a healthy one shows too much, 0.95 to 0.98. `margin_pct` is kept on the safe side.
    """

    pairs: list[SpeedPair]
    circumference_old_mm: float | None = None
    circumference_new_mm: float | None = None
    ratio_old: float | None = None
    ratio_new: float | None = None
    factor_before: float = 1.0
    margin_pct: float = 1.0

    def __post_init__(self) -> None:
        if not 2 <= len(self.pairs) <= MOST_PAIRS:
            raise InvalidInput("pairs", say("Give 2 to {most} pairs of shown and true speed.", most=MOST_PAIRS))
        for old, new, what in (
            ("circumference_old_mm", "circumference_new_mm", say("Tyre circumference")),
            ("ratio_old", "ratio_new", say("Axle ratio")),
        ):
            if (getattr(self, old) is None) != (getattr(self, new) is None):
                missing = old if getattr(self, old) is None else new
                raise InvalidInput(missing, say("{what}: give both, before and after.", what=what))
            for name in (old, new):
                checks.above_zero(name, getattr(self, name), what)
        checks.above_zero("factor_before", self.factor_before, say("Factor before the change"))
        checks.within("factor_before", self.factor_before, 0.1, 10.0, say("Factor before the change must be 0.1 to 10."))
        checks.within("margin_pct", self.margin_pct, 0.0, 20.0, say("Margin must be 0 to 20 %."))


@dataclass(frozen=True, slots=True, kw_only=True)
class SpeedCheck:
    """true = factor x shown; offset of a free line [km/h]; scatter [%]; what was expected; the factor for the pickup's pulses."""

    factor: float
    offset_kmh: float | None
    sd_pct: float
    expected_factor: float | None
    agrees: bool | None
    shows_at_100_kmh: float
    under_reads: bool
    correction: float
    reasons: list[Reason]


def check_speed(given: SpeedCheckQuestion) -> SpeedCheck:
    """Hold a speedometer against true speed.

    Parameters
    ----------
    given : SpeedCheckQuestion
        Speeds [km/h], circumferences [mm], ratios.

    Returns
    -------
    SpeedCheck
        Factor, scatter [%], what was expected, correction.

    Raises
    ------
    InvalidInput
        From SpeedCheckQuestion, with the field.

    Notes
    -----
    Least squares through zero, and a free line from three pairs on. Expected = factor before x new/old circumference x old/new ratio, for
    a pickup on the propshaft or gearbox. Correction = factor (1 + margin/100): it then shows a little more than true.

    Examples
    --------
    >>> pairs = [SpeedPair(shown_kmh=50.0, true_kmh=47.0), SpeedPair(shown_kmh=100.0, true_kmh=94.2)]
    >>> round(check_speed(SpeedCheckQuestion(pairs=pairs)).factor, 4)
    0.9416
    """
    shown, true = [one.shown_kmh for one in given.pairs], [one.true_kmh for one in given.pairs]
    count = len(shown)
    factor = sum(a * b for a, b in zip(shown, true, strict=True)) / sum(a * a for a in shown)
    rest = sum((b - factor * a) ** 2 for a, b in zip(shown, true, strict=True))
    sd_pct = 100.0 * sqrt(rest / (count - 1)) / (sum(true) / count)
    expected = _expected(given)
    agrees = None if expected is None else abs(factor / expected - 1.0) <= (AGREES_PCT + 2.0 * sd_pct) / 100.0 + SLACK
    under = factor - 2.0 * sd_pct / 100.0 > 1.0 + SLACK
    reasons = []
    if under:
        text = say("The speedometer shows less than the true speed: at a shown 100 km/h it is {true:kmh0}.", true=100.0 * factor)
        reasons.append(Reason(code="under_reads", text=text, field="pairs"))
    if agrees is False:
        text = say(
            "True speed is {factor:.3f} of what is shown; tyres and axle ratio explain {expected:.3f}. Check sizes, teeth and pairs.",
            factor=factor,
            expected=expected,
        )
        reasons.append(Reason(code="not_as_expected", text=text, field="pairs"))
    return SpeedCheck(
        factor=factor,
        offset_kmh=_offset(shown, true),
        sd_pct=sd_pct,
        expected_factor=expected,
        agrees=agrees,
        shows_at_100_kmh=100.0 / factor,
        under_reads=under,
        correction=factor * (1.0 + given.margin_pct / 100.0),
        reasons=reasons,
    )


def _expected(given: SpeedCheckQuestion) -> float | None:
    if given.circumference_old_mm is None and given.ratio_old is None:
        return None
    found = given.factor_before
    if given.circumference_old_mm is not None and given.circumference_new_mm is not None:
        found *= given.circumference_new_mm / given.circumference_old_mm
    if given.ratio_old is not None and given.ratio_new is not None:
        found *= given.ratio_old / given.ratio_new
    return found


def _offset(shown: list[float], true: list[float]) -> float | None:
    """Where a free line through the pairs cuts the axis; none under three pairs, or when all were read at one speed."""
    count = len(shown)
    mean_shown, mean_true = sum(shown) / count, sum(true) / count
    across = sum((a - mean_shown) ** 2 for a in shown)
    if count < 3 or across <= SLACK:
        return None
    slope = sum((a - mean_shown) * (b - mean_true) for a, b in zip(shown, true, strict=True)) / across
    return mean_true - slope * mean_shown
