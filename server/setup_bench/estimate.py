"""What the core makes of the backlash of a trial, and how far two trials lie apart."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

from amber_core.backlash.assess import BacklashRound, BacklashVerdict, assess_backlash
from amber_core.circle import CircleReading
from amber_core.gearset.description import GearSetDescription
from amber_core.gearset.geometry import GearSetGeometry, complete_geometry
from setup_bench.models import Reading, Trial
from setup_bench.stacks import stored, total_mm
from stores.models import AxleFamily, Quantity

RESOLUTION_MM = 0.01


@dataclass(frozen=True)
class Window:
    """What the family's spec sheet allows, [mm]; None where it is silent."""

    min_mm: float | None
    max_mm: float | None
    max_variation_mm: float | None


@lru_cache(maxsize=512)
def geometry_of(description: GearSetDescription | None) -> GearSetGeometry | None:
    """How a set answers to moves; None for no set.

    Raises
    ------
    InvalidInput
        When the family's sheet and the tooth counts make no set.
    """
    return None if description is None else complete_geometry(description)


def window_of(family: AxleFamily) -> Window:
    """The backlash window of a family."""
    limits = {limit.quantity: limit for limit in family.limits.all()}
    backlash, variation = limits.get(Quantity.BACKLASH), limits.get(Quantity.VARIATION)
    return Window(
        min_mm=backlash.least if backlash else None,
        max_mm=backlash.greatest if backlash else None,
        max_variation_mm=variation.greatest if variation else None,
    )


def live(trial: Trial) -> list[Reading]:
    """Readings that are not struck out, oldest first."""
    return [reading for reading in trial.readings.all() if not hasattr(reading, "strike_out")]


def assess(trial: Trial, window: Window, geometry: GearSetGeometry | None) -> BacklashVerdict | None:
    """The verdict on a trial's readings; None when there is none."""
    readings = live(trial)
    if not readings:
        return None
    return assess_backlash(
        BacklashRound(
            readings=[CircleReading(angle_deg=one.angle_deg, value_mm=one.value_mm) for one in readings],
            min_mm=window.min_mm,
            max_mm=window.max_mm,
            max_variation_mm=window.max_variation_mm,
            resolution_mm=RESOLUTION_MM,
            backlash_per_ring_move=geometry.backlash_per_ring_move if geometry else None,
        )
    )


def ring_move_mm(family: AxleFamily, before: Trial, after: Trial) -> float:
    """How far the ring moved between two trials, + away from the pinion, [mm]."""
    if before.ring_side_notches is not None and after.ring_side_notches is not None:
        ring = after.ring_side_notches - before.ring_side_notches
        far = (after.far_side_notches or 0) - (before.far_side_notches or 0)
        return -(ring - far) * (family.notch_mm or 0.0) / 2.0
    ring_mm = total_mm(stored(after.ring_side_pieces)) - total_mm(stored(before.ring_side_pieces))
    far_mm = total_mm(stored(after.far_side_pieces)) - total_mm(stored(before.far_side_pieces))
    return (1.0 if family.carrier_method == "cover_shims" else -1.0) * (ring_mm - far_mm) / 2.0
