"""What each way of doing a job costs, in whole smallest units of money."""

from __future__ import annotations

from dataclasses import dataclass
from fractions import Fraction
from math import floor

from amber_core import checks
from amber_core.errors import InvalidInput
from amber_core.words import say

MOST_MONEY = 10**12
MOST_WAYS = 50
MOST_PARTS = 500


@dataclass(frozen=True, slots=True, kw_only=True)
class PartLine:
    """A part, its price in the smallest unit of money, and how many of it; part of one may be used."""

    name: str
    price: int
    count: float

    def __post_init__(self) -> None:
        checks.within("price", self.price, 0, MOST_MONEY, say("A price must be 0 or more."))
        checks.within("count", self.count, 0.0, 1e6, say("A count must be 0 or more."))


@dataclass(frozen=True, slots=True, kw_only=True)
class QuoteWay:
    """One way: minutes of work, parts, what is paid for the returned old part, and days to wait."""

    name: str
    minutes: float
    parts: list[PartLine]
    credit: int = 0
    wait_days: float = 0.0

    def __post_init__(self) -> None:
        if not self.name.strip():
            raise InvalidInput("name", say("Name this way."))
        checks.within("minutes", self.minutes, 0.0, 1e6, say("Minutes must be 0 or more."))
        if len(self.parts) > MOST_PARTS:
            raise InvalidInput("parts", say("A way can have {most} parts at most.", most=MOST_PARTS))
        checks.within("credit", self.credit, 0, MOST_MONEY, say("A credit must be 0 or more."))
        checks.within("wait_days", self.wait_days, 0.0, 10_000.0, say("Days to wait must be 0 to 10 000."))


@dataclass(frozen=True, slots=True, kw_only=True)
class QuoteQuestion:
    """Price of an hour in the smallest unit of money, tax [%], and the ways."""

    hourly: int
    ways: list[QuoteWay]
    tax_pct: float = 0.0

    def __post_init__(self) -> None:
        checks.within("hourly", self.hourly, 0, MOST_MONEY, say("The price of an hour must be 0 or more."))
        checks.within("tax_pct", self.tax_pct, 0.0, 100.0, say("Tax must be 0 to 100 %."))
        if not 1 <= len(self.ways) <= MOST_WAYS:
            raise InvalidInput("ways", say("Give 1 to {most} ways.", most=MOST_WAYS))
        names: set[str] = set()
        for index, one in enumerate(self.ways):
            if one.name in names:
                raise InvalidInput(f"ways[{index}].name", say("Two ways are called “{name}”. Give each its own name.", name=one.name))
            names.add(one.name)


@dataclass(frozen=True, slots=True, kw_only=True)
class QuotedWay:
    """What a way costs, in the smallest unit of money: net = parts + labour - credit, total = net + tax."""

    name: str
    parts: int
    labour: int
    credit: int
    net: int
    tax: int
    total: int
    wait_days: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Quote:
    """Every way with its price; the cheapest and the soonest by name."""

    ways: list[QuotedWay]
    cheapest: str
    soonest: str


def compare_quotes(given: QuoteQuestion) -> Quote:
    """Price the ways and name the cheapest and the soonest.

    Parameters
    ----------
    given : QuoteQuestion
        Money in its smallest unit, minutes, days.

    Returns
    -------
    Quote
        Ways in the order given.

    Raises
    ------
    InvalidInput
        From QuoteQuestion, with the field.

    Notes
    -----
    Figures are taken as they were typed, so that 0.1 is a tenth, and each is rounded half up.

    Examples
    --------
    >>> quote = compare_quotes(QuoteQuestion(hourly=7000, ways=[QuoteWay(name="repair", minutes=30.0, parts=[])]))
    >>> quote.ways[0].total
    3500
    """
    ways = [_priced(given, one) for one in given.ways]
    cheapest = min(ways, key=lambda one: (one.total, one.wait_days))
    soonest = min(ways, key=lambda one: (one.wait_days, one.total))
    return Quote(ways=ways, cheapest=cheapest.name, soonest=soonest.name)


def as_typed(value: float) -> Fraction:
    """A figure as it was typed: 0.1 is a tenth."""
    return Fraction(repr(value))


def rounded(value: Fraction) -> int:
    """Half up, to whole units of money."""
    return floor(value + Fraction(1, 2))


def _priced(given: QuoteQuestion, way: QuoteWay) -> QuotedWay:
    labour = rounded(given.hourly * as_typed(way.minutes) / 60)
    parts = sum(rounded(one.price * as_typed(one.count)) for one in way.parts)
    net = parts + labour - way.credit
    tax = rounded(net * as_typed(given.tax_pct) / 100)
    return QuotedWay(
        name=way.name, parts=parts, labour=labour, credit=way.credit, net=net, tax=tax, total=net + tax, wait_days=way.wait_days
    )
