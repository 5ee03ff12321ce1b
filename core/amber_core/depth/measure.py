"""Pinion depth by measurement: how far from right, and which shim makes it right."""

from __future__ import annotations

from dataclasses import dataclass

from amber_core import checks
from amber_core.depth.start import ShimPlace
from amber_core.verdicts import Limit, Reason, VerdictWord, judge
from amber_core.words import say


@dataclass(frozen=True, slots=True, kw_only=True)
class DepthReading:
    """A reading from an arbor, a bar or a housing face, [mm].

    `bar_mm` is subtracted, `arbor_radius_mm` added (negative when read off the arbor's far side), `reference_offset_mm` (reference
    face above the ring axis) subtracted. `nominal_mm` with `mark_mm` is the right distance, `shim_mm` what is in the housing.
    """

    reading_mm: float
    nominal_mm: float
    shim_mm: float
    bar_mm: float = 0.0
    arbor_radius_mm: float = 0.0
    reference_offset_mm: float = 0.0
    mark_mm: float = 0.0
    shim_place: ShimPlace = "under_head"
    tolerance_mm: float = 0.03
    resolution_mm: float = 0.01

    def __post_init__(self) -> None:
        for name in ("reading_mm", "nominal_mm", "bar_mm", "arbor_radius_mm", "reference_offset_mm"):
            checks.within(name, getattr(self, name), -1000.0, 1000.0, say("That is larger than any axle. Give it in millimetres."))
        checks.within("shim_mm", self.shim_mm, 0.0, 20.0, say("Depth shim must be 0 to 20 mm. Give it in millimetres."))
        checks.within("mark_mm", self.mark_mm, -1.0, 1.0, say("A pinion mark is a few hundredths of a millimetre. Check the unit."))
        checks.within("tolerance_mm", self.tolerance_mm, 0.0, 1.0, say("Tolerance of the depth must be 0 to 1 mm."))
        checks.resolution_ok(self.resolution_mm)


@dataclass(frozen=True, slots=True, kw_only=True)
class DepthFound:
    """Distance from the ring axis, its error (+ too shallow), and the shim that takes it out, [mm]."""

    distance_mm: float
    error_mm: float
    new_shim_mm: float
    verdict: VerdictWord
    reasons: list[Reason]


def measure_depth(given: DepthReading) -> DepthFound:
    """Judge a measured pinion depth.

    Parameters
    ----------
    given : DepthReading
        Reading and references, nominal distance, shim now, [mm].

    Returns
    -------
    DepthFound
        Error and new shim [mm].

    Raises
    ------
    InvalidInput
        From DepthReading, with the field.

    Notes
    -----
    distance = reading - bar + arbor radius - reference offset; error = distance - (nominal + mark); new shim = shim + error, less under
    a cartridge flange. The pinion stands under its preload when it is measured.

    Examples
    --------
    >>> found = measure_depth(DepthReading(reading_mm=60.10, nominal_mm=60.0, shim_mm=0.80))
    >>> round(found.new_shim_mm, 3), found.verdict
    (0.9, 'out')
    """
    distance = given.reading_mm - given.bar_mm + given.arbor_radius_mm - given.reference_offset_mm
    error = distance - (given.nominal_mm + given.mark_mm)
    limits = [
        Limit(value=error, bound=given.tolerance_mm, side="max", field="tolerance_mm", what=say("The pinion depth error"), unit="mm"),
        Limit(value=error, bound=-given.tolerance_mm, side="min", field="tolerance_mm", what=say("The pinion depth error"), unit="mm"),
    ]
    verdict, reasons = judge(limits, given.resolution_mm)
    sign = -1.0 if given.shim_place == "under_cartridge_flange" else 1.0
    new_shim = given.shim_mm + sign * error
    if new_shim < 0.0:
        text = say(
            "The depth shim would have to be {new_shim:mm2}, less than none. Check what the depth was measured from.", new_shim=new_shim
        )
        reasons = [*reasons, Reason(code="negative_stack", text=text, field="shim_mm")]
    return DepthFound(distance_mm=distance, error_mm=error, new_shim_mm=new_shim, verdict=verdict, reasons=reasons)
