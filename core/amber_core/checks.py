"""Checks that several computations make of what they are given."""

from __future__ import annotations

from amber_core.errors import InvalidInput
from amber_core.words import Said, say


def within(field: str, value: float | None, low: float, high: float, sentence: Said) -> None:
    """Refuse a value outside low..high (both allowed); None passes.

    Raises
    ------
    InvalidInput
        With `sentence` and the field.
    """
    if value is not None and not low <= value <= high:  # nan fails here too
        raise InvalidInput(field, sentence)


LEAST, GREATEST = 1e-6, 1e9
"""Nothing that is divided by is smaller in a workshop, or larger, in the units that are asked for."""


def above_zero(field: str, value: float | None, what: Said) -> None:
    """Refuse zero and less, and figures that no workshop has; None passes.

    Raises
    ------
    InvalidInput
        Naming `what` must be more than zero, or that its figure must be a slip.
    """
    if value is None or LEAST <= value <= GREATEST:
        return
    if value > 0.0:
        raise InvalidInput(field, say("{what} cannot be {value:g}. Check the unit and the decimal point.", what=what, value=value))
    raise InvalidInput(field, say("{what} must be more than zero.", what=what))


def window_in_order(low: float | None, high: float | None, low_field: str, what: Said) -> None:
    """Refuse a window whose least lies over its greatest.

    Raises
    ------
    InvalidInput
        On the field of the lower limit.
    """
    if low is not None and high is not None and low > high:
        raise InvalidInput(low_field, say("The minimum {what} is over the maximum. Check which is which.", what=what))


def resolution_ok(value: float) -> None:
    """Refuse a resolution that is negative or larger than any dial's.

    Raises
    ------
    InvalidInput
        On ``resolution_mm``.
    """
    within("resolution_mm", value, 0.0, 1.0, say("Dial resolution must be 0 to 1 mm."))


def spread_ok(field: str, value: float) -> None:
    """Refuse a standard deviation of zero or less, or an absurd one.

    Raises
    ------
    InvalidInput
        On `field`.
    """
    within(field, value, 1e-6, 5.0, say("Standard deviation must be more than zero and at most 5."))


def torque_ok(field: str, value: float | None) -> None:
    """Refuse a rotating torque no axle has; None passes.

    Raises
    ------
    InvalidInput
        On `field`.
    """
    within(field, value, 0.0, 200.0, say("Rotating torque must be 0 to 200 Nm. Check the unit."))


def torque_resolution_ok(value: float) -> None:
    """Refuse a resolution that is negative or coarser than any torque wrench's.

    Raises
    ------
    InvalidInput
        On ``resolution_nm``.
    """
    within("resolution_nm", value, 0.0, 5.0, say("Torque wrench resolution must be 0 to 5 Nm."))
