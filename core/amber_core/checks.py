"""Checks that several computations make of what they are given."""

from __future__ import annotations

from amber_core.errors import InvalidInput


def within(field: str, value: float | None, low: float, high: float, sentence: str) -> None:
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


def above_zero(field: str, value: float | None, what: str) -> None:
    """Refuse zero and less, and figures that no workshop has; None passes.

    Raises
    ------
    InvalidInput
        Naming `what` must be more than zero, or that its figure must be a slip.
    """
    if value is None or LEAST <= value <= GREATEST:
        return
    if value > 0.0:
        raise InvalidInput(field, f"{what} cannot be {value:g}: check its unit and its decimal point.")
    raise InvalidInput(field, f"{what} must be more than zero.")


def window_in_order(low: float | None, high: float | None, low_field: str, what: str) -> None:
    """Refuse a window whose least lies over its greatest.

    Raises
    ------
    InvalidInput
        On the field of the lower limit.
    """
    if low is not None and high is not None and low > high:
        raise InvalidInput(low_field, f"The least {what} is over the greatest: check which is which.")


def resolution_ok(value: float) -> None:
    """Refuse a resolution that is negative or larger than any dial's.

    Raises
    ------
    InvalidInput
        On ``resolution_mm``.
    """
    within("resolution_mm", value, 0.0, 1.0, "The resolution of the dial lies between 0 and 1 mm.")


def spread_ok(field: str, value: float) -> None:
    """Refuse a standard deviation of zero or less, or an absurd one.

    Raises
    ------
    InvalidInput
        On `field`.
    """
    within(field, value, 1e-6, 5.0, "A standard deviation is more than zero, and no larger than what it is of.")


def torque_ok(field: str, value: float | None) -> None:
    """Refuse a rotating torque no axle has; None passes.

    Raises
    ------
    InvalidInput
        On `field`.
    """
    within(field, value, 0.0, 200.0, "A rotating torque lies between 0 and 200 Nm: check the unit.")


def torque_resolution_ok(value: float) -> None:
    """Refuse a resolution that is negative or coarser than any torque wrench's.

    Raises
    ------
    InvalidInput
        On ``resolution_nm``.
    """
    within("resolution_nm", value, 0.0, 5.0, "The resolution of the wrench lies between 0 and 5 Nm.")
