"""Rotating torque by a string and a spring balance, or a lever."""

from __future__ import annotations

from dataclasses import dataclass

from amber_core import checks
from amber_core.words import say


@dataclass(frozen=True, slots=True, kw_only=True)
class Pull:
    """Force while turning steadily [N] at a radius [mm]."""

    force_n: float
    radius_mm: float

    def __post_init__(self) -> None:
        checks.within("force_n", self.force_n, 0.0, 2000.0, say("Pull must be 0 to 2 000 N. Check the unit."))
        checks.above_zero("radius_mm", self.radius_mm, say("Radius of the pull"))
        checks.within("radius_mm", self.radius_mm, 0.0, 2000.0, say("Radius must be under 2 000 mm. Give it in millimetres."))


@dataclass(frozen=True, slots=True, kw_only=True)
class PulledTorque:
    """The torque, [Nm]."""

    torque_nm: float


def torque_from_pull(given: Pull) -> PulledTorque:
    """Torque of a pull square to its radius.

    Parameters
    ----------
    given : Pull
        F [N], r [mm].

    Returns
    -------
    PulledTorque
        T [Nm].

    Raises
    ------
    InvalidInput
        From Pull, with the field.

    Notes
    -----
    T = F r / 1000.

    Examples
    --------
    >>> torque_from_pull(Pull(force_n=50.0, radius_mm=40.0)).torque_nm
    2.0
    """
    return PulledTorque(torque_nm=given.force_n * given.radius_mm / 1000.0)
