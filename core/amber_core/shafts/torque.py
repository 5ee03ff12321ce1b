"""The torque a propshaft has to carry."""

from __future__ import annotations

from dataclasses import dataclass
from math import pi

from amber_core import checks
from amber_core.ratios.grade import GRAVITY_M_S2
from amber_core.ratios.limits import circumference_ok, ratio_ok
from amber_core.words import say


@dataclass(frozen=True, slots=True, kw_only=True)
class TorqueQuestion:
    """Greatest engine torque [Nm], lowest gear times transfer ratio, efficiency, grip [-]; load on the axle [kg], rolling circumference
    [m], all reduction behind the shaft [-]."""

    engine_nm: float
    low_ratio: float
    axle_load_kg: float
    circumference_m: float
    ratio: float
    efficiency: float = 0.9
    mu: float = 0.8

    def __post_init__(self) -> None:
        checks.within("engine_nm", self.engine_nm, 1.0, 20000.0, say("Engine torque must be 1 to 20 000 Nm."))
        ratio_ok("low_ratio", self.low_ratio, 200.0)
        checks.within("axle_load_kg", self.axle_load_kg, 50.0, 60000.0, say("Axle load must be 50 to 60 000 kg."))
        circumference_ok("circumference_m", self.circumference_m)
        ratio_ok("ratio", self.ratio, 100.0)
        checks.within("efficiency", self.efficiency, 0.2, 1.0, say("Efficiency must be 0.2 to 1."))
        checks.within("mu", self.mu, 0.05, 2.0, say("Grip must be 0.05 to 2."))


@dataclass(frozen=True, slots=True, kw_only=True)
class DesignTorque:
    """What the engine can bring, what the tyres can hold, and the smaller of the two, [Nm]."""

    engine_nm: float
    slip_nm: float
    design_nm: float


def design_torque(given: TorqueQuestion) -> DesignTorque:
    """Torque that a propshaft is chosen for.

    Parameters
    ----------
    given : TorqueQuestion
        T [Nm], ratios [-], m [kg], C [m], mu [-].

    Returns
    -------
    DesignTorque
        min(engine x gear x transfer x efficiency, mu m g r / ratio), r = C / 2 pi, [Nm].

    Raises
    ------
    InvalidInput
        From TorqueQuestion, with the field.

    Notes
    -----
    The smaller of the two governs: an engine in low gear mostly brings more than the tyres can hold.

    Examples
    --------
    >>> asked = TorqueQuestion(engine_nm=380, low_ratio=10.6, axle_load_kg=1600, circumference_m=2.43, ratio=4.1)
    >>> round(design_torque(asked).design_nm)
    1184
    """
    engine = given.engine_nm * given.low_ratio * given.efficiency
    slip = given.mu * given.axle_load_kg * GRAVITY_M_S2 * given.circumference_m / (2.0 * pi) / given.ratio
    return DesignTorque(engine_nm=engine, slip_nm=slip, design_nm=min(engine, slip))
