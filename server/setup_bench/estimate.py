"""What the core makes of a trial: the verdict on its readings, and the next move for backlash."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache
from typing import Literal

from amber_core.backlash.assess import BacklashRound, BacklashVerdict, assess_backlash
from amber_core.carrier.move import CarrierMove, CarrierNow, move_carrier
from amber_core.circle import CircleReading
from amber_core.gearset.description import GearSetDescription
from amber_core.gearset.geometry import GearSetGeometry, complete_geometry
from amber_core.shims.stock import Shims
from amber_core.verdicts import SLACK
from jobs.models import Job
from jobs.run_sheet import RunSheet
from setup_bench.models import Reading, Trial
from setup_bench.stacks import as_shims, stored, total_mm
from stores.models import AxleFamily, DrawerPlace, Quantity

RESOLUTION_MM = 0.01
_LOOK = (
    "The spread round the ring is out, and no shim takes that out. Find its cause first: dirt under the ring, a bent flange, "
    "uneven bolts, dried thread locker. Then measure again."
)


@dataclass(frozen=True)
class Window:
    """What the family's spec sheet allows, [mm]; None where it is silent."""

    min_mm: float | None
    max_mm: float | None
    max_variation_mm: float | None

    @property
    def target_mm(self) -> float | None:
        """The middle of the window, [mm]."""
        return None if self.min_mm is None or self.max_mm is None else (self.min_mm + self.max_mm) / 2.0


@dataclass(frozen=True)
class NextMove:
    """What to do next, and why."""

    kind: Literal["measure", "finished", "move", "look_for_runout", "identify", "no_window"]
    text: str
    move: CarrierMove | None = None
    expected_greatest_mm: float | None = None
    lands: bool | None = None


@lru_cache(maxsize=512)
def _geometry(pinion: int, ring: int, diameter_mm: float, offset_mm: float, tooth_form: Literal["tapered", "uniform"]) -> GearSetGeometry:
    return complete_geometry(
        GearSetDescription(
            pinion_teeth=pinion, ring_teeth=ring, ring_outer_diameter_mm=diameter_mm, offset_mm=offset_mm, tooth_form=tooth_form
        )
    )


def geometry_of(job: Job) -> GearSetGeometry | None:
    """The gear set on the bench; None until it is identified.

    Raises
    ------
    InvalidInput
        When the family's sheet and the tooth counts make no set.
    """
    gear_set = RunSheet(job).gear_set
    if gear_set is None:
        return None
    family = job.family
    form: Literal["tapered", "uniform"] = "uniform" if family.tooth_form == "uniform" else "tapered"
    return _geometry(gear_set.pinion_teeth, gear_set.ring_teeth, family.ring_outer_diameter_mm, family.offset_mm, form)


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


def free_shims(family: AxleFamily, trial: Trial) -> list[Shims]:
    """All that may be used: the drawer, and what is in the housing now."""
    drawer = [
        Shims(thickness_mm=float(row.thickness_mm), count=row.count)
        for row in family.shims.all()
        if row.place == DrawerPlace.SIDE and row.count
    ]
    return drawer + as_shims(stored(trial.ring_side_pieces)) + as_shims(stored(trial.far_side_pieces))


def next_move(
    family: AxleFamily, trial: Trial, verdict: BacklashVerdict | None, window: Window, geometry: GearSetGeometry | None
) -> NextMove:
    """What to do next for backlash."""
    if verdict is None or not verdict.positions_enough:
        return NextMove("measure", "Measure backlash at 8 teeth round the ring, at least 4.")
    if verdict.verdict in ("in", "edge"):
        return NextMove("finished", "The backlash is in its window. Leave it: the last hundredth is not worth another press-off.")
    if window.target_mm is None:
        return NextMove("no_window", "The spec sheet gives no backlash window: take it from the maker's manual into the Stores.")
    if window.max_variation_mm is not None and verdict.variation_mm > window.max_variation_mm + SLACK:
        return NextMove("look_for_runout", _LOOK)
    if geometry is None:
        return NextMove("identify", "Identify the gear set first: the move follows from its teeth.")
    return _move(family, trial, verdict, window, geometry)


def _move(family: AxleFamily, trial: Trial, verdict: BacklashVerdict, window: Window, geometry: GearSetGeometry) -> NextMove:
    assert window.target_mm is not None and window.min_mm is not None and window.max_mm is not None
    shims = trial.ring_side_notches is None
    now = CarrierNow(
        method=family.carrier_method,  # type: ignore[arg-type]
        ring_side_mm=total_mm(stored(trial.ring_side_pieces)) if shims else None,
        far_side_mm=total_mm(stored(trial.far_side_pieces)) if shims else None,
        notch_mm=family.notch_mm,
        backlash_mean_mm=verdict.mean_mm,
        backlash_least_mm=verdict.least_mm,
        min_mm=window.min_mm,
        target_backlash_mm=window.target_mm,
        backlash_per_ring_move=geometry.backlash_per_ring_move,
        stock=free_shims(family, trial) if shims else None,
    )
    move = move_carrier(now)
    greatest = verdict.greatest_mm + move.expected_backlash_mm - verdict.mean_mm
    assert move.expected_least_mm is not None
    lands = move.expected_least_mm >= window.min_mm - SLACK and greatest <= window.max_mm + SLACK
    looser = move.ring_move_mm > 0
    text = "Too tight: move the ring away from the pinion." if looser else "Too loose: move the ring toward the pinion."
    return NextMove("move", text, move=move, expected_greatest_mm=greatest, lands=lands)
