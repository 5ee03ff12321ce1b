"""The surface that a seal runs on: which ways of mending it are open, and what each costs."""

from __future__ import annotations

from dataclasses import dataclass
from fractions import Fraction
from typing import Literal

from amber_core import checks
from amber_core.errors import InvalidInput
from amber_core.planning.quote import MOST_MONEY, as_typed, rounded
from amber_core.verdicts import SLACK, Reason
from amber_core.words import Said, say

LEAST_BAND_MM = 3.0
"""Good metal that a seal can be set over onto, [mm] (rule of thumb)."""
DEEP_GROOVE_MM = 0.25
"""A groove deeper than this is filled before a sleeve goes over it, [mm] (rule of thumb)."""
MOST_WAYS = 50

WayName = Literal["as_it_is", "polish", "set_over", "sleeve", "new_part"]


SAME_LENGTH_MM = 0.05
"""Two flanges whose lengths differ by less are the same to a mark on the nut, [mm] (rule of thumb)."""


@dataclass(frozen=True, slots=True, kw_only=True)
class LandWay:
    """One way: price in the smallest unit of money, minutes of work, the land a sleeve fits [mm], days to wait."""

    way: WayName
    price: int
    minutes: float
    sleeve_from_mm: float | None = None
    sleeve_to_mm: float | None = None
    wait_days: float = 0.0

    def __post_init__(self) -> None:
        checks.within("price", self.price, 0, MOST_MONEY, say("A price must be 0 or more."))
        checks.within("minutes", self.minutes, 0.0, 1e6, say("Minutes must be 0 or more."))
        checks.within("wait_days", self.wait_days, 0.0, 10_000.0, say("Days to wait must be 0 to 10 000."))
        for field in ("sleeve_from_mm", "sleeve_to_mm"):
            checks.within(field, getattr(self, field), 0.0, 2000.0, say("Diameter must be 0 to 2000 mm."))
        checks.window_in_order(self.sleeve_from_mm, self.sleeve_to_mm, "sleeve_from_mm", say("diameter that the sleeve fits"))


@dataclass(frozen=True, slots=True, kw_only=True)
class LandQuestion:
    """The seal surface as it is and the ways of mending it.

    Parameters
    ----------
    nominal_mm, readings_mm : float, list of float
        Diameter when new, and as measured beside the groove, [mm].
    groove_mm, fingernail, pitted : float, bool, bool
        Depth of the groove [mm], whether a fingernail catches in it, and pits.
    clean_band_mm : float
        Good metal that the seal could be set over onto, [mm].
    max_undersize_mm, polish_depth_mm : float
        How far under nominal a seal still holds, and what polishing may take off, radially like the groove, [mm] (rules of thumb).
    ways, hourly : list of LandWay, int
        The ways, and the price of an hour in the smallest unit of money.
    """

    nominal_mm: float
    readings_mm: list[float]
    ways: list[LandWay]
    hourly: int
    groove_mm: float = 0.0
    fingernail: bool = False
    pitted: bool = False
    clean_band_mm: float = 0.0
    max_undersize_mm: float = 0.10
    polish_depth_mm: float = 0.02

    def __post_init__(self) -> None:
        checks.above_zero("nominal_mm", self.nominal_mm, say("Diameter when new"))
        checks.within("nominal_mm", self.nominal_mm, 0.0, 2000.0, say("Diameter must be 0 to 2000 mm."))
        if not 1 <= len(self.readings_mm) <= 100:
            raise InvalidInput("readings_mm", say("Give 1 to {most} readings.", most=100))
        for index, one in enumerate(self.readings_mm):
            checks.within(f"readings_mm[{index}]", one, 0.0, 2000.0, say("Diameter must be 0 to 2000 mm."))
        for field in ("groove_mm", "clean_band_mm", "max_undersize_mm", "polish_depth_mm"):
            checks.within(field, getattr(self, field), 0.0, 500.0, say("This must be 0 to 500 mm. Check the unit."))
        checks.within("hourly", self.hourly, 0, MOST_MONEY, say("The price of an hour must be 0 or more."))
        if not 1 <= len(self.ways) <= MOST_WAYS:
            raise InvalidInput("ways", say("Give 1 to {most} ways.", most=MOST_WAYS))


@dataclass(frozen=True, slots=True, kw_only=True)
class PricedWay:
    """A way, whether it is open and why not, its total in the smallest unit of money, days to wait."""

    way: WayName
    allowed: bool
    reason: Reason | None
    total: int
    wait_days: float


@dataclass(frozen=True, slots=True, kw_only=True)
class LandWays:
    """How far the land is under nominal [mm], the ways with the open ones first, and the one to begin with."""

    undersize_mm: float
    ways: list[PricedWay]
    recommended: WayName | None


def compare_land_ways(given: LandQuestion) -> LandWays:
    """Say which ways of mending a seal surface are open, and price them.

    Parameters
    ----------
    given : LandQuestion
        Diameters and depths [mm], money in its smallest unit.

    Returns
    -------
    LandWays
        Open ways by total, then days, then as given; the others after them.

    Raises
    ------
    InvalidInput
        From LandQuestion, with the field.

    Notes
    -----
    Undersize = nominal - least reading; total = price + hourly x minutes/60, rounded half up. Rules of thumb: as it is with a groove of
    half the polishing depth at most; polishing takes its depth off all round; a seal set over wants 3 mm of good metal; a sleeve wants
    every reading inside its range.

    Examples
    --------
    >>> ways = [LandWay(way="sleeve", price=3890, minutes=35.0, sleeve_from_mm=47.5, sleeve_to_mm=47.8)]
    >>> compare_land_ways(LandQuestion(nominal_mm=47.75, readings_mm=[47.6], groove_mm=0.2, ways=ways, hourly=9600)).recommended
    'sleeve'
    """
    undersize = given.nominal_mm - min(given.readings_mm)
    priced = []
    for one in given.ways:
        why = _why_not(given, one, undersize)
        total = rounded(Fraction(one.price) + given.hourly * as_typed(one.minutes) / 60)
        priced.append(PricedWay(way=one.way, allowed=why is None, reason=why or _remark(given, one), total=total, wait_days=one.wait_days))
    allowed = sorted((one for one in priced if one.allowed), key=lambda one: (one.total, one.wait_days))
    return LandWays(
        undersize_mm=undersize,
        ways=[*allowed, *(one for one in priced if not one.allowed)],
        recommended=allowed[0].way if allowed else None,
    )


def _remark(given: LandQuestion, one: LandWay) -> Reason | None:
    if one.way == "sleeve" and given.groove_mm > DEEP_GROOVE_MM + SLACK:
        text = say("The groove is {groove:mm2} deep: fill it before the sleeve goes over it.", groove=given.groove_mm)
        return Reason(code="fill_first", text=text, field="groove_mm")
    if one.way == "new_part":
        text = say("Compare its length with the old flange. Another length makes marks on the nut worthless: measure the preload again.")
        return Reason(code="compare_length", text=text)
    return None


def _why_not(given: LandQuestion, one: LandWay, undersize: float) -> Reason | None:
    polish = given.polish_depth_mm
    small = (
        undersize > given.max_undersize_mm + SLACK,
        "undersize",
        say(
            "It is {undersize:mm2} under nominal: more than the {most:mm2} a seal takes up.",
            undersize=undersize,
            most=given.max_undersize_mm,
        ),
        "max_undersize_mm",
    )
    pits = (given.pitted, "pitted", say("Pits would go on leaking."), "pitted")
    checks_of: dict[WayName, list[tuple[bool, str, Said, str]]] = {
        "as_it_is": [
            (given.fingernail, "fingernail", say("A fingernail catches in the groove: a new seal would leak."), "fingernail"),
            pits,
            (given.groove_mm > polish / 2.0 + SLACK, "groove", say("The groove is too deep to leave."), "groove_mm"),
            small,
        ],
        "polish": [
            pits,
            (given.groove_mm > polish + SLACK, "groove", say("The groove is deeper than polishing may take off."), "groove_mm"),
            (
                undersize + 2.0 * polish > given.max_undersize_mm + SLACK,
                "undersize",
                say("Polishing takes it off all round: the surface would end up too small."),
                "max_undersize_mm",
            ),
        ],
        "set_over": [
            (
                given.clean_band_mm < LEAST_BAND_MM - SLACK,
                "no_band",
                say("The seal needs {least:mm0} of good metal beside the groove to be set over onto.", least=LEAST_BAND_MM),
                "clean_band_mm",
            ),
            small,
        ],
        "sleeve": [_sleeve(given, one)],
        "new_part": [],
    }
    return next((Reason(code=code, text=text, field=field) for wrong, code, text, field in checks_of[one.way] if wrong), None)


def _sleeve(given: LandQuestion, one: LandWay) -> tuple[bool, str, Said, str]:
    low, high = one.sleeve_from_mm, one.sleeve_to_mm
    if low is None or high is None:
        return True, "no_range", say("Give the diameters that this sleeve fits."), "ways"
    fits = low - SLACK <= min(given.readings_mm) and max(given.readings_mm) <= high + SLACK
    return (
        not fits,
        "wrong_size",
        say("This sleeve fits {low:mm2-} to {high:mm2}, and the surface is not inside that.", low=low, high=high),
        "ways",
    )


def moves_the_marks(old_mm: float, new_mm: float) -> bool:
    """Whether a flange of another length [mm] makes the marks on nut and pinion worthless."""
    return abs(new_mm - old_mm) > SAME_LENGTH_MM
