"""What is known of a bench: the set, how the axle is adjusted, the sheet's limits, and every trial with what was read in it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field
from math import sqrt
from statistics import fmean
from typing import Literal

from amber_core import checks
from amber_core.circle import CircleReading
from amber_core.errors import InvalidInput
from amber_core.gearset.description import GearSetDescription
from amber_core.preload.carrier import Window
from amber_core.setup.noise import Noise
from amber_core.setup.question import (
    DEPTH_SD_MM,
    MOST_REPEATS,
    MOST_TRIALS,
    Adjust,
    AsFound,
    SetupQuestion,
    SetupStock,
    SetupTrial,
    SetupWindow,
    Sides,
    TrialBacklash,
    TrialDepth,
    TrialPatch,
    goal_window,
)
from amber_core.words import say

Bearings = Literal["final", "set_up"]
LEAST_PLACES, MOST_PLACES = 4, 16
"""Fewer places miss the runout, more are no longer told apart by a hand."""


def places_deg(count: int) -> list[float]:
    """Clock positions round a ring, evenly from the top, [deg].

    Raises
    ------
    InvalidInput
        On ``places`` outside LEAST_PLACES to MOST_PLACES.
    """
    if not LEAST_PLACES <= count <= MOST_PLACES:
        raise InvalidInput(
            "places",
            say(
                "Backlash must be read at {least_places} to {most_places} places round the ring gear.",
                least_places=LEAST_PLACES,
                most_places=MOST_PLACES,
            ),
        )
    return [360.0 * place / count for place in range(count)]


@dataclass(frozen=True, slots=True, kw_only=True)
class Torque:
    """A rotating torque [Nm], the bearings it was read with, and the seal with its drag [Nm] where known."""

    value_nm: float
    bearings: Literal["new", "used", "mixed"]
    seal: Literal["fitted", "absent"]
    seal_drag_nm: float | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class BenchTrial:
    """One assembly: what is in the housing [mm, notches from the first trial], and what was read; anything read may be missing.

    `depth_shim_mm` None: not said, as in the trial before. `bearing_offset_mm`: real bearing's height less that of the set-up bearing that
    is in. `confirmed`: somebody confirmed its conditions, so that its readings count.
    """

    ring_side_mm: float | None = None
    far_side_mm: float | None = None
    ring_side_notches: int | None = None
    far_side_notches: int | None = None
    depth_shim_mm: float | None = None
    bearings: Bearings = "final"
    bearing_offset_mm: float | None = None
    is_final: bool = False
    confirmed: bool = True
    readings: list[CircleReading] = field(default_factory=list)
    drive: list[TrialPatch] = field(default_factory=list)
    coast: list[TrialPatch] = field(default_factory=list)
    pinion_torque: Torque | None = None
    total_torque: Torque | None = None
    depth_error_mm: float | None = None
    read_twice: bool = False

    @property
    def sides(self) -> Sides:
        """How both sides of the carrier are set."""
        if self.ring_side_notches is not None and self.far_side_notches is not None:
            return Sides(ring=self.ring_side_notches, far=self.far_side_notches)
        return Sides(ring=self.ring_side_mm or 0.0, far=self.far_side_mm or 0.0)


@dataclass(frozen=True, slots=True, kw_only=True)
class BenchLimits:
    """What the sheet allows: backlash and its variation [mm], rotating torques [Nm], and whether those hold the seal's drag."""

    backlash: Window = field(default_factory=Window)
    variation_max_mm: float | None = None
    pinion_new: Window | None = None
    pinion_used: Window | None = None
    total: Window | None = None
    window_seal: Literal["included", "excluded"] = "excluded"


@dataclass(frozen=True, slots=True, kw_only=True)
class BenchState:
    """Everything that is known of a bench; `set` is None until it is identified.

    `resolution_mm`, `torque_resolution_nm`: what the dial and the wrench in use can tell apart.
    """

    adjust: Adjust
    limits: BenchLimits
    set: GearSetDescription | None = None
    set_state: Literal["new", "used"] = "new"
    as_found: AsFound | None = None
    trials: list[BenchTrial] = field(default_factory=list)
    stock: SetupStock | None = None
    resolution_mm: float = 0.01
    torque_resolution_nm: float = 0.05

    @property
    def noise(self) -> Noise:
        """How well everybody reads a patch, by the repeats on this bench."""
        patches = [seen for trial in self.trials if trial.confirmed for seen in (trial.drive, trial.coast)]
        return Noise([], patches)

    def __post_init__(self) -> None:
        checks.resolution_ok(self.resolution_mm)
        checks.torque_resolution_ok(self.torque_resolution_nm)

    @property
    def window(self) -> SetupWindow | None:
        """The sheet's backlash window with the usual places of the patterns; None where the sheet leaves one end open."""
        least, greatest = self.limits.backlash.min, self.limits.backlash.max
        if least is None or greatest is None:
            return None
        return SetupWindow(backlash_min_mm=least, backlash_max_mm=greatest, variation_max_mm=self.limits.variation_max_mm)

    @property
    def goal(self) -> SetupWindow | None:
        """What backlash and patterns are held against: the sheet's window, or about what a used set was found with."""
        window = self.window
        if window is None or self.set_state != "used":
            return window
        return goal_window(window, self.as_found or AsFound())

    @property
    def aim(self) -> Window:
        """The backlash window alone, as far as it is known, [mm]. A used set of which nothing was noted keeps the sheet's."""
        goal = self.goal if self.as_found is not None else None
        return self.limits.backlash if goal is None else Window(min=goal.backlash_min_mm, max=goal.backlash_max_mm)

    def depth_shims_mm(self, *, bearings: Bearings | None = None) -> list[float]:
        """The depth shim of every trial as if all had the same bearings in, those of the last one unless said, [mm].

        One that was not said is that of the trial before, or of the first that was. A real bearing that stands higher than the set-up one
        pushes the pinion deeper, as a thicker shim does under the head; every trial counts with the set-up bearing it had itself.
        """
        if not self.trials:
            return []
        said = [trial.depth_shim_mm for trial in self.trials]
        now = next((one for one in said if one is not None), 1.0)
        sign = -1.0 if self.adjust.shim_place == "under_cartridge_flange" else 1.0
        last = self.trials[-1]
        wanted = last.bearings if bearings is None else bearings
        offset = next((one.bearing_offset_mm for one in reversed(self.trials) if one.bearing_offset_mm is not None), 0.0)
        found = []
        for trial, one in zip(self.trials, said, strict=True):
            now = now if one is None else one
            real = now - (sign * (trial.bearing_offset_mm or 0.0) if trial.bearings == "set_up" else 0.0)
            found.append(max(0.0, real + (sign * offset if wanted == "set_up" else 0.0)))
        return found

    def housings(self) -> list[SetupTrial]:
        """What was in the housing in every trial, without readings."""
        return [housing(trial, shim) for trial, shim in zip(self.trials, self.depth_shims_mm(), strict=True)]

    def question(self) -> SetupQuestion | None:
        """What the advisor needs, of the last trials it takes; None while the set, the window or a trial is missing."""
        window = self.window
        if self.set is None or window is None or not self.trials:
            return None
        rows = zip(self.trials, self.depth_shims_mm(), strict=True)
        return SetupQuestion(
            set=self.set,
            adjust=self.adjust,
            window=window,
            trials=[self._asked(trial, shim) for trial, shim in rows][-MOST_TRIALS:],
            stock=self.stock,
            set_state=self.set_state,
            as_found=self.as_found,
            pressed=self.adjust.shim_place != "under_cartridge_flange" and self.trials[-1].bearings == "final",
        )

    def _asked(self, trial: BenchTrial, shim_mm: float) -> SetupTrial:
        if not trial.confirmed:
            return housing(trial, shim_mm)
        depth = None if trial.depth_error_mm is None else TrialDepth(value=trial.depth_error_mm, sd=DEPTH_SD_MM)
        return SetupTrial(
            depth_shim_mm=shim_mm,
            ring_side_mm=trial.ring_side_mm,
            far_side_mm=trial.far_side_mm,
            ring_side_notches=trial.ring_side_notches,
            far_side_notches=trial.far_side_notches,
            backlash=[self._round(one) for one in times_round(trial.readings)][-MOST_REPEATS:] or None,
            drive=trial.drive or None,
            coast=trial.coast or None,
            depth_error_mm=depth,
            read_twice=trial.read_twice,
        )

    def _round(self, values_mm: list[float]) -> TrialBacklash:
        sd = max(self.resolution_mm, 1e-3) / sqrt(len(values_mm))
        return TrialBacklash(mean_mm=fmean(values_mm), least_mm=min(values_mm), greatest_mm=max(values_mm), sd_mm=sd)


def by_place(readings: Sequence[CircleReading]) -> dict[float, list[float]]:
    """What was read at each place round a ring, oldest first, [mm] by [deg]."""
    found: dict[float, list[float]] = {}
    for one in readings:
        found.setdefault(one.angle_deg, []).append(one.value_mm)
    return found


def times_round(readings: list[CircleReading]) -> list[list[float]]:
    """The readings of each time round the ring [mm]: the first at every place, the second, and so on as long as all places have one.

    What some places have beyond that counts in the last time round, as the mean there.
    """
    places = list(by_place(readings).values())
    whole = min((len(one) for one in places), default=0)
    return [[one[turn] if turn < whole - 1 else fmean(one[turn:]) for one in places] for turn in range(whole)]


def housing(trial: BenchTrial, depth_shim_mm: float) -> SetupTrial:
    """What is in the housing, without readings."""
    return SetupTrial(
        depth_shim_mm=depth_shim_mm,
        ring_side_mm=trial.ring_side_mm,
        far_side_mm=trial.far_side_mm,
        ring_side_notches=trial.ring_side_notches,
        far_side_notches=trial.far_side_notches,
    )
