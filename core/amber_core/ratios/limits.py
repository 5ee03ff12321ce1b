"""What ratios, circumferences and speeds can be; shared by the questions of this package."""

from __future__ import annotations

from amber_core import checks
from amber_core.errors import InvalidInput
from amber_core.words import say


def circumference_ok(field: str, value: float | None) -> None:
    """Refuse what rolls under no vehicle; None passes, [m].

    Raises
    ------
    InvalidInput
        On `field`.
    """
    checks.within(field, value, 0.3, 12.0, say("Rolling circumference must be 0.3 to 12 m. Give it in metres."))


def ratio_ok(field: str, value: float | None, greatest: float = 20.0) -> None:
    """Refuse what is no ratio of one stage; None passes.

    Raises
    ------
    InvalidInput
        On `field`.
    """
    checks.within(field, value, 0.2, greatest, say("Ratio must be 0.2 to {greatest:g}.", greatest=greatest))


def speed_ok(field: str, value: float | None) -> None:
    """Refuse a road speed that is none; None passes, [km/h].

    Raises
    ------
    InvalidInput
        On `field`.
    """
    checks.within(field, value, 0.0, 500.0, say("Road speed must be 0 to 500 km/h."))


def rpm_ok(field: str, value: float | None) -> None:
    """Refuse an engine speed that is none; None passes, [rpm].

    Raises
    ------
    InvalidInput
        On `field`.
    """
    checks.within(field, value, 0.0, 20000.0, say("Engine speed must be 0 to 20 000 rpm."))


def gears_ok(field: str, gears: list[float]) -> None:
    """Refuse gears that are none, or do not fall from first to top.

    Raises
    ------
    InvalidInput
        On `field`, or on the gear.
    """
    if not 1 <= len(gears) <= 24:
        raise InvalidInput(field, say("Give 1 to 24 gears, first gear first."))
    for index, gear in enumerate(gears):
        ratio_ok(f"{field}[{index}]", gear, 30.0)
        if index and gear >= gears[index - 1]:
            raise InvalidInput(f"{field}[{index}]", say("Ratios must fall from first to top gear. Check the order."))
