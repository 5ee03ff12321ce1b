"""A press fit: pressure, force, heat, and whether it still holds when it is warm."""

from __future__ import annotations

from dataclasses import dataclass
from math import pi

from amber_core import checks
from amber_core.errors import InvalidInput
from amber_core.verdicts import SLACK, Reason, VerdictWord
from amber_core.words import say

USUAL_SLIP_ON_MM, USUAL_SLIP_ON_SHARE = 0.02, 0.0005
"""Clearance to drop a hub on (rule of thumb): the larger of 0.02 mm and this share of the bore."""


@dataclass(frozen=True, slots=True, kw_only=True)
class PressQuestion:
    """Sizes of shaft and hub [mm], their materials, and the temperatures.

    Parameters
    ----------
    shaft_mm, bore_mm, length_mm, hub_outer_mm, shaft_bore_mm : float
        Diameters and length of contact, [mm].
    friction : float
        Coefficient of friction (typical).
    e_shaft_gpa, e_hub_gpa, nu_shaft, nu_hub : float
        Young's moduli [GPa] and Poisson's ratios.
    alpha_hub, alpha_shaft : float
        Thermal expansion, [1/K].
    room_c, heat_to_c, chill_to_c, max_heat_c, service_c : float
        Temperatures, [deg C]; 120 at most for an open bearing cone with a steel cage.
    slip_on_mm : float, optional
        Clearance that lets it drop on, [mm].
    hub_yield_mpa : float, optional
        Yield stress of the hub, [MPa].
    """

    shaft_mm: float
    bore_mm: float
    length_mm: float
    hub_outer_mm: float
    shaft_bore_mm: float = 0.0
    friction: float = 0.12
    e_shaft_gpa: float = 207.0
    e_hub_gpa: float = 207.0
    nu_shaft: float = 0.29
    nu_hub: float = 0.29
    alpha_hub: float = 11.7e-6
    alpha_shaft: float = 11.7e-6
    room_c: float = 20.0
    heat_to_c: float | None = None
    chill_to_c: float | None = None
    max_heat_c: float = 120.0
    slip_on_mm: float | None = None
    hub_yield_mpa: float | None = None
    service_c: float | None = None

    def __post_init__(self) -> None:
        names = {
            "shaft_mm": say("Shaft diameter"),
            "bore_mm": say("Bore"),
            "length_mm": say("Length of the fit"),
            "hub_outer_mm": say("Outside diameter of the hub"),
        }
        for field, what in names.items():
            checks.above_zero(field, getattr(self, field), what)
            checks.within(field, getattr(self, field), 0.0, 5000.0, say("{what} must be under 5 000 mm. Check the unit.", what=what))
        checks.within("shaft_bore_mm", self.shaft_bore_mm, 0.0, 5000.0, say("Bore of the shaft must be 0 mm or more."))
        if self.hub_outer_mm - max(self.bore_mm, self.shaft_mm) < checks.LEAST:
            raise InvalidInput("hub_outer_mm", say("The hub's outside must be larger than its bore and than the shaft."))
        if self.shaft_mm - self.shaft_bore_mm < checks.LEAST:
            raise InvalidInput("shaft_bore_mm", say("The bore of the shaft must be smaller than the shaft."))
        checks.within("friction", self.friction, 0.0, 2.0, say("Coefficient of friction must be 0 to 2."))
        for field in ("e_shaft_gpa", "e_hub_gpa"):
            checks.above_zero(field, getattr(self, field), say("Young's modulus"))
        for field in ("nu_shaft", "nu_hub"):
            checks.within(field, getattr(self, field), 0.0, 0.5, say("Poisson's ratio must be 0 to 0.5."))
        for field in ("alpha_hub", "alpha_shaft"):
            checks.above_zero(field, getattr(self, field), say("Thermal expansion"))
            checks.within(field, getattr(self, field), 0.0, 0.001, say("Thermal expansion is given for 1 K, such as 0.0000117."))
        for field in ("room_c", "heat_to_c", "chill_to_c", "max_heat_c", "service_c"):
            checks.within(field, getattr(self, field), -273.0, 1500.0, say("Temperature must be −273 to 1500 °C."))
        checks.within("slip_on_mm", self.slip_on_mm, 0.0, 100.0, say("Clearance to slip it on must be 0 mm or more."))
        checks.above_zero("hub_yield_mpa", self.hub_yield_mpa, say("Yield stress"))


@dataclass(frozen=True, slots=True, kw_only=True)
class PressFit:
    """Interference of the diameters [mm], pressure and hoop stress [MPa], force [N], torque [N m], heat [deg C]."""

    interference_mm: float
    pressure_mpa: float
    press_force_n: float
    torque_nm: float
    hub_stress_mpa: float
    heat_needed_c: float | None
    clearance_hot_mm: float | None
    interference_hot_mm: float | None
    verdict: VerdictWord
    reasons: list[Reason]


def press_fit(given: PressQuestion) -> PressFit:
    """Work out a press fit of a hub on a shaft.

    Parameters
    ----------
    given : PressQuestion
        Diameters [mm], materials, temperatures [deg C].

    Returns
    -------
    PressFit
        Interference [mm], pressure [MPa], force [N], torque [N m], temperatures [deg C].

    Raises
    ------
    InvalidInput
        From PressQuestion, with the field.

    Notes
    -----
    Lame, thick cylinders of equal length: p = delta / (d [((Do^2 + d^2)/(Do^2 - d^2) + nu_h)/E_h + ((d^2 + di^2)/(d^2 - di^2) -
    nu_s)/E_s]); force = mu p pi d L; torque = force d/2; hoop stress at the bore = p (Do^2 + d^2)/(Do^2 - d^2). Heat of the hub alone =
    room + (delta + slip on)/(alpha bore).

    Examples
    --------
    >>> fit = press_fit(PressQuestion(shaft_mm=45.035, bore_mm=45.0, length_mm=22.0, hub_outer_mm=58.0))
    >>> round(fit.press_force_n), round(fit.heat_needed_c)
    (11931, 129)
    """
    d, inner, outer, delta = given.shaft_mm, given.shaft_bore_mm, given.hub_outer_mm, given.shaft_mm - given.bore_mm
    hub, shaft = (outer**2 + d**2) / (outer**2 - d**2), (d**2 + inner**2) / (d**2 - inner**2)
    loose = delta <= SLACK
    give = (hub + given.nu_hub) / (given.e_hub_gpa * 1000.0) + (shaft - given.nu_shaft) / (given.e_shaft_gpa * 1000.0)
    pressure = 0.0 if loose else delta / (d * give)
    force = given.friction * pressure * pi * d * given.length_mm
    slip_on = max(USUAL_SLIP_ON_MM, USUAL_SLIP_ON_SHARE * given.bore_mm) if given.slip_on_mm is None else given.slip_on_mm
    needed = None if loose else given.room_c + (delta + slip_on) / (given.alpha_hub * given.bore_mm)
    warm = None if given.service_c is None else delta - (given.alpha_hub - given.alpha_shaft) * d * (given.service_c - given.room_c)
    verdict, reasons = _judge(given, loose, pressure * hub, needed, warm)
    return PressFit(
        interference_mm=delta,
        pressure_mpa=pressure,
        press_force_n=force,
        torque_nm=force * d / 2000.0,
        hub_stress_mpa=pressure * hub,
        heat_needed_c=needed,
        clearance_hot_mm=_clearance_hot(given),
        interference_hot_mm=warm,
        verdict=verdict,
        reasons=reasons,
    )


def _clearance_hot(given: PressQuestion) -> float | None:
    if given.heat_to_c is None and given.chill_to_c is None:
        return None
    hot = given.room_c if given.heat_to_c is None else given.heat_to_c
    cold = given.room_c if given.chill_to_c is None else given.chill_to_c
    bore = given.bore_mm * (1.0 + given.alpha_hub * (hot - given.room_c))
    return bore - given.shaft_mm * (1.0 + given.alpha_shaft * (cold - given.room_c))


def _judge(given: PressQuestion, loose: bool, stress: float, needed: float | None, warm: float | None) -> tuple[VerdictWord, list[Reason]]:
    verdict: VerdictWord = "in"
    reasons = []
    if loose:
        verdict = "out"
        text = say("There is no interference: the shaft is not larger than the bore. It would turn on its seat.")
        reasons.append(Reason(code="loose", text=text, field="shaft_mm"))
    if given.hub_yield_mpa is not None and stress > given.hub_yield_mpa + SLACK:
        verdict = "out"
        text = say(
            "The hub would be stressed to {stress:.0f} MPa, over its yield of {most:.0f} MPa. Check both sizes.",
            stress=stress,
            most=given.hub_yield_mpa,
        )
        reasons.append(Reason(code="over_yield", text=text, field="hub_yield_mpa"))
    if needed is not None and needed > given.max_heat_c + SLACK:
        verdict = "edge" if verdict == "in" else verdict
        text = say(
            "It would have to be {needed:.0f} °C to drop on, and {most:.0f} °C is the limit. Chill the shaft as well, or press it.",
            needed=needed,
            most=given.max_heat_c,
        )
        reasons.append(Reason(code="press_or_chill", text=text, field="max_heat_c"))
    if warm is not None and warm <= SLACK:
        verdict = "edge" if verdict == "in" else verdict
        text = say("At {service:.0f} °C nothing is left of the interference: the fit can creep.", service=given.service_c)
        reasons.append(Reason(code="creeps_hot", text=text, field="service_c"))
    return verdict, reasons
