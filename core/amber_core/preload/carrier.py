"""Carrier preload: what the carrier's bearings add to the torque at the pinion."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from amber_core import checks
from amber_core.errors import InvalidInput
from amber_core.verdicts import SLACK, Limit, Reason, VerdictWord, judge
from amber_core.words import say

_WHAT = {
    "total_at_pinion": (say("Total rotating torque at the pinion"), "Nm"),
    "rise_at_pinion": (say("Rise of rotating torque at the pinion"), "Nm"),
    "torque_at_ring": (say("Rotating torque at the ring gear"), "Nm"),
    "cap_spread_mm": (say("Spread of the bearing caps"), "mm"),
}


@dataclass(frozen=True, slots=True, kw_only=True)
class Window:
    """Least and greatest allowed; either may be missing."""

    min: float | None = None
    max: float | None = None

    def __post_init__(self) -> None:
        checks.window_in_order(self.min, self.max, "min", say("value"))


@dataclass(frozen=True, slots=True, kw_only=True)
class CarrierPreload:
    """Torque at the pinion alone and with the carrier in [Nm], teeth, and the window with its kind.

    `cap_spread_mm` [mm] when the window is of that kind; `backlash_least_mm` under `backlash_min_mm` [mm] makes the drag the mesh's.
    """

    pinion_nm: float
    total_nm: float
    ring_teeth: int
    pinion_teeth: int
    window: Window
    window_kind: Literal["total_at_pinion", "rise_at_pinion", "torque_at_ring", "cap_spread_mm"]
    cap_spread_mm: float | None = None
    backlash_least_mm: float | None = None
    backlash_min_mm: float | None = None
    resolution_nm: float = 0.05
    resolution_mm: float = 0.01

    def __post_init__(self) -> None:
        checks.torque_ok("pinion_nm", self.pinion_nm)
        checks.torque_ok("total_nm", self.total_nm)
        checks.within("pinion_teeth", self.pinion_teeth, 3, 60, say("Pinion teeth must be 3 to 60."))
        checks.within("ring_teeth", self.ring_teeth, 3, 200, say("Ring gear teeth must be 3 to 200."))
        if self.window_kind == "cap_spread_mm" and self.cap_spread_mm is None:
            raise InvalidInput("cap_spread_mm", say("Measure how far the bearing caps spread: the window is for that."))
        checks.within(
            "cap_spread_mm",
            self.cap_spread_mm,
            0.0,
            5.0,
            say("Bearing caps spread by a few tenths of a millimetre at most. Check the unit."),
        )
        for name in ("backlash_least_mm", "backlash_min_mm"):
            checks.within(name, getattr(self, name), 0.0, 10.0, say("Backlash must be 0 to 10 mm."))
        checks.torque_resolution_ok(self.resolution_nm)
        checks.resolution_ok(self.resolution_mm)


@dataclass(frozen=True, slots=True, kw_only=True)
class CarrierPreloadVerdict:
    """Rise at the pinion and torque at the ring, [Nm]."""

    rise_nm: float
    torque_at_ring_nm: float
    verdict: VerdictWord
    reasons: list[Reason]


def assess_carrier_preload(given: CarrierPreload) -> CarrierPreloadVerdict:
    """Judge the carrier's preload.

    Parameters
    ----------
    given : CarrierPreload
        Torques [Nm], teeth [-], window [Nm or mm].

    Returns
    -------
    CarrierPreloadVerdict
        Rise and torque at the ring [Nm].

    Raises
    ------
    InvalidInput
        From CarrierPreload, with the field.

    Notes
    -----
    rise = total - pinion; torque at the ring = rise x ratio, mesh losses left out. Same seal state in both, shafts out.

    Examples
    --------
    >>> given = CarrierPreload(pinion_nm=2.0, total_nm=2.6, ring_teeth=40, pinion_teeth=10, window=Window(min=0.4, max=0.9),
    ...     window_kind="rise_at_pinion")
    >>> round(assess_carrier_preload(given).torque_at_ring_nm, 3)
    2.4
    """
    ratio = given.ring_teeth / given.pinion_teeth
    rise = given.total_nm - given.pinion_nm
    of_kind = {
        "total_at_pinion": given.total_nm,
        "rise_at_pinion": rise,
        "torque_at_ring": rise * ratio,
        "cap_spread_mm": given.cap_spread_mm,
    }
    value = of_kind[given.window_kind]
    assert value is not None
    what, unit = _WHAT[given.window_kind]
    limits = []
    if given.window.min is not None:
        limits.append(Limit(value=value, bound=given.window.min, side="min", field="window.min", what=what, unit=unit))
    if given.window.max is not None:
        limits.append(Limit(value=value, bound=given.window.max, side="max", field="window.max", what=what, unit=unit))
    # what the wrench cannot tell at the pinion is larger at the ring by the ratio
    factor = ratio if given.window_kind == "torque_at_ring" else 1.0
    verdict, reasons = judge(limits, given.resolution_mm if unit == "mm" else given.resolution_nm * factor)
    least, allowed = given.backlash_least_mm, given.backlash_min_mm
    if least is not None and allowed is not None and least < allowed - SLACK:
        text = say("The backlash is under its minimum, so the drag comes from the mesh, not the bearings. Set the backlash first.")
        verdict, reasons = "unknown", [Reason(code="mesh_drags", text=text, field="backlash_least_mm"), *reasons]
    if rise < -SLACK:
        text = say("The total is less than the pinion alone. One of the two was read wrong, or one was read with the seal and one without.")
        reasons = [*reasons, Reason(code="negative_rise", text=text, field="total_nm")]
    return CarrierPreloadVerdict(rise_nm=rise, torque_at_ring_nm=rise * ratio, verdict=verdict, reasons=reasons)
