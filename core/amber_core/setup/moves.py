"""Moves that can be made: depth shims and side settings near what is wanted, from the drawers or by whole notches."""

from __future__ import annotations

from dataclasses import dataclass

from amber_core.carrier.move import SidePicks, pick_sides
from amber_core.setup.question import SetupQuestion, SetupTrial
from amber_core.shims.nearest import TOLERANCE_MM
from amber_core.shims.pick import ShimStack, nearest_stacks, stack_of
from amber_core.shims.stock import NM_PER_MM, counted, nanometres

_DEPTH_CHOICES = 5
_MOST_DEPTH_PIECES = 6
_STEP_DIGITS = 2
_BESIDE_MM = (0.0, -0.03, 0.03)


@dataclass(frozen=True)
class DepthChoice:
    """A depth shim [mm], its pieces when it comes from the drawer, and how far it moves the pinion [mm]."""

    shim_mm: float
    pick: ShimStack | None
    pinion_change_mm: float


@dataclass(frozen=True)
class SideChoice:
    """A side setting as a trial would state it, its picks, and how far it moves the ring [mm]."""

    trial: SetupTrial
    picks: SidePicks | None
    ring_change_mm: float


def depth_choices(question: SetupQuestion, wanted_change_mm: float) -> list[DepthChoice]:
    """The shim of now first, then those nearest to the wanted move of the pinion [mm]."""
    now = question.trials[-1].depth_shim_mm
    sign = 1.0 if question.adjust.shim_place == "under_cartridge_flange" else -1.0
    wanted = max(0.0, now + sign * wanted_change_mm)
    found = [DepthChoice(shim_mm=now, pick=None, pinion_change_mm=0.0)]
    drawer = question.stock.depth if question.stock is not None else None
    if drawer is None:
        shims: list[tuple[float, ShimStack | None]] = [(round(max(0.0, wanted + beside), _STEP_DIGITS), None) for beside in _BESIDE_MM]
    else:
        target = nanometres(wanted)
        stacks = nearest_stacks(counted(drawer, _MOST_DEPTH_PIECES), target, _MOST_DEPTH_PIECES, _DEPTH_CHOICES)
        # no shim at all is no depth to try on an axle that has one
        shims = [(sum(stack) / NM_PER_MM, stack_of(stack, target, TOLERANCE_MM)) for stack in stacks if stack or not now]
    for shim, pick in shims:
        change = question.pinion_change_mm(now, shim)
        if abs(shim - now) > 1e-9:
            found.append(DepthChoice(shim_mm=shim, pick=pick, pinion_change_mm=change))
    return found


def side_choice(question: SetupQuestion, wanted_change_mm: float, depth_shim_mm: float) -> SideChoice:
    """The side setting nearest to the wanted move of the ring [mm], + away from the pinion."""
    now = question.trials[-1]
    if question.adjust.carrier == "adjusters":
        assert question.adjust.notch_mm is not None and now.ring_side_notches is not None and now.far_side_notches is not None
        turn = round(-wanted_change_mm / question.adjust.notch_mm)
        trial = SetupTrial(
            depth_shim_mm=depth_shim_mm, ring_side_notches=now.ring_side_notches + turn, far_side_notches=now.far_side_notches - turn
        )
        return SideChoice(trial=trial, picks=None, ring_change_mm=question.ring_change_mm(now, trial))
    assert now.ring_side_mm is not None and now.far_side_mm is not None
    sign = 1.0 if question.adjust.carrier == "cover_shims" else -1.0
    ring, far = now.ring_side_mm + sign * wanted_change_mm, now.far_side_mm - sign * wanted_change_mm
    picks = None
    drawer = question.stock.side if question.stock is not None else None
    if drawer is None:
        grown = round(ring - now.ring_side_mm, _STEP_DIGITS)
        ring, far = now.ring_side_mm + grown, now.far_side_mm - grown
    else:
        picks = pick_sides(drawer, ring_mm=ring, far_mm=far)
        ring, far = picks.ring_side.total_mm, picks.far_side.total_mm
    trial = SetupTrial(depth_shim_mm=depth_shim_mm, ring_side_mm=max(0.0, ring), far_side_mm=max(0.0, far))
    return SideChoice(trial=trial, picks=picks, ring_change_mm=question.ring_change_mm(now, trial))


def same_sides(question: SetupQuestion, depth_shim_mm: float) -> SideChoice:
    """The sides as they stand, with another depth shim."""
    now = question.trials[-1]
    trial = SetupTrial(
        depth_shim_mm=depth_shim_mm,
        ring_side_mm=now.ring_side_mm,
        far_side_mm=now.far_side_mm,
        ring_side_notches=now.ring_side_notches,
        far_side_notches=now.far_side_notches,
    )
    return SideChoice(trial=trial, picks=None, ring_change_mm=0.0)
