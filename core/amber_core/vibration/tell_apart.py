"""The cheapest check that would tell two sources apart."""

from __future__ import annotations

from dataclasses import dataclass, field

from amber_core import checks
from amber_core.errors import InvalidInput
from amber_core.vibration.sources import CHECKS, Check, family_of, short_words_of
from amber_core.words import Said, say

_CLEAR = 0.5
_APART = 0.15
_COUNT_MINUTES = 5


@dataclass(frozen=True, slots=True, kw_only=True)
class TwoSources:
    """Two sources by name, their frequencies where they are known [Hz], whether a frequency was measured, and checks made already."""

    first: str
    second: str
    first_hz: float | None = None
    second_hz: float | None = None
    measured: bool = False
    made: list[str] = field(default_factory=list)

    def __post_init__(self) -> None:
        if self.first == self.second:
            raise InvalidInput("second", say("The two sources are the same."))
        for name in ("first_hz", "second_hz"):
            checks.within(name, getattr(self, name), 0.0, 1e5, say("Frequency must be 0 to 100 000 Hz."))


@dataclass(frozen=True, slots=True, kw_only=True)
class CheckAdvised:
    """A check, what it takes [min], its caution, and what each outcome would mean."""

    code: str
    title: Said
    how: Said
    minutes: int
    caution: Said
    if_it_changes: Said
    if_it_stays: Said


@dataclass(frozen=True, slots=True, kw_only=True)
class ToldApart:
    """The quickest check first, then those that take longer; empty where none is known to tell these two apart."""

    checks: list[CheckAdvised]
    reason: Said


def tell_apart(given: TwoSources) -> ToldApart:
    """Which check costs least and tells two sources apart.

    Parameters
    ----------
    given : TwoSources
        Names, frequencies [Hz].

    Returns
    -------
    ToldApart
        Up to three, cheapest first.

    Raises
    ------
    InvalidInput
        From TwoSources, with the field.

    Notes
    -----
    A check tells two sources apart when its chances to change the vibration differ by a half or more; frequencies that differ by 15 % are
    told apart by counting or recording. The chances are experience, no measurement.

    Examples
    --------
    >>> tell_apart(TwoSources(first="prop_1x", second="engine_1x")).checks[0].code
    'standing'
    """
    first, second = family_of(given.first), family_of(given.second)
    found: list[tuple[int, CheckAdvised]] = []
    if not given.measured and given.first_hz and given.second_hz and abs(given.first_hz / given.second_hz - 1.0) > _APART:
        found.append((_COUNT_MINUTES, _count(given)))
    for check in CHECKS:
        difference = check.chance(first) - check.chance(second)
        if check.code not in given.made and abs(difference) >= _CLEAR:
            found.append((check.minutes, _advised(check, given, changes_first=difference > 0.0)))
    found.sort(key=lambda one: one[0])
    pair = say("“{first}” from “{second}”", first=short_words_of(given.first), second=short_words_of(given.second))
    reason = (
        say("The quickest check that tells {pair}.", pair=pair)
        if found
        else say("No quick check tells {pair}. Repair the more likely one and drive again.", pair=pair)
    )
    return ToldApart(checks=[one for _, one in found[:3]], reason=reason)


def _advised(check: Check, given: TwoSources, *, changes_first: bool) -> CheckAdvised:
    moved, still = (given.first, given.second) if changes_first else (given.second, given.first)
    return CheckAdvised(
        code=check.code,
        title=check.title,
        how=check.how,
        minutes=check.minutes,
        caution=check.caution,
        if_it_changes=say("Then “{short}” is more likely.", short=short_words_of(moved)),
        if_it_stays=say("Then “{short}” is more likely.", short=short_words_of(still)),
    )


def _count(given: TwoSources) -> CheckAdvised:
    return CheckAdvised(
        code="record",
        title=say("Record it"),
        how=say("Lay a phone flat on the floor, log acceleration for a minute at that speed and upload the file. Count a slow pulse."),
        minutes=_COUNT_MINUTES,
        caution=say("Never handle the phone while driving: a passenger does it."),
        if_it_changes=say("About {first_hz:.0f} Hz: {short}.", first_hz=given.first_hz, short=short_words_of(given.first)),
        if_it_stays=say("About {second_hz:.0f} Hz: {short}.", second_hz=given.second_hz, short=short_words_of(given.second)),
    )
