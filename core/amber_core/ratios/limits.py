"""What ratios, circumferences and speeds can be; shared by the questions of this package."""

from __future__ import annotations

from amber_core import checks
from amber_core.errors import InvalidInput


def circumference_ok(field: str, value: float | None) -> None:
    """Refuse what rolls under no vehicle; None passes, [m].

    Raises
    ------
    InvalidInput
        On `field`.
    """
    checks.within(field, value, 0.3, 12.0, "A tyre rolls 0.3 to 12 m a turn: give metres.")


def ratio_ok(field: str, value: float | None, greatest: float = 20.0) -> None:
    """Refuse what is no ratio of one stage; None passes.

    Raises
    ------
    InvalidInput
        On `field`.
    """
    checks.within(field, value, 0.2, greatest, f"A ratio lies between 0.2 and {greatest:g}.")


def speed_ok(field: str, value: float | None) -> None:
    """Refuse a road speed that is none; None passes, [km/h].

    Raises
    ------
    InvalidInput
        On `field`.
    """
    checks.within(field, value, 0.0, 500.0, "A road speed lies between 0 and 500 km/h.")


def rpm_ok(field: str, value: float | None) -> None:
    """Refuse an engine speed that is none; None passes, [rpm].

    Raises
    ------
    InvalidInput
        On `field`.
    """
    checks.within(field, value, 0.0, 20000.0, "An engine turns at 0 to 20 000 rpm.")


def gears_ok(field: str, gears: list[float]) -> None:
    """Refuse gears that are none, or do not fall from first to top.

    Raises
    ------
    InvalidInput
        On `field`, or on the gear.
    """
    if not 1 <= len(gears) <= 24:
        raise InvalidInput(field, "Give between 1 and 24 gears, first gear first.")
    for index, gear in enumerate(gears):
        ratio_ok(f"{field}[{index}]", gear, 30.0)
        if index and gear >= gears[index - 1]:
            raise InvalidInput(f"{field}[{index}]", "Gears fall from first to top: check the order.")
