"""An axle with hidden errors that answers like a real one: shims go in, readings come out, with the scatter of both.

The stand-in for a housing on the bench. What it shows comes from the contact model; what it hides is drawn at random or given.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import cached_property
from math import sqrt
from typing import Literal

import numpy as np

from amber_core.circle import CircleReading
from amber_core.contact.contact_set import ContactSet, contact_set
from amber_core.contact.estimate import PAINT_MM, SQUEEZE_MM
from amber_core.contact.mesh import Errors, flank_gap
from amber_core.contact.pattern import Patch, patch
from amber_core.gearset.description import GearSetDescription
from amber_core.setup.question import Adjust, Edge, SetupQuestion, SetupTrial, SetupWindow, TrialBacklash, TrialDepth, TrialPatch

Flank = Literal["drive", "coast"]
_EDGES: tuple[Edge, ...] = ("toe", "heel", "root", "tip")
SEEN_TO_RUN_OFF = 0.5
"""How strongly an edge is marked when somebody says that the patch runs off there, [-]."""


@dataclass(frozen=True, slots=True, kw_only=True)
class HiddenAxle:
    """What nobody at the bench knows.

    Parameters
    ----------
    set : GearSetDescription
        The true set: its relief and its backlash at the right place.
    pinion_mm, ring_mm : float
        Where the gears stand with the first trial's shims, + too shallow and + away from the pinion, [mm].
    offset_error_mm : float
        What no shim cures, [mm].
    runout_mm, runout_at_deg : float
        Half the once-per-turn variation of the backlash [mm], and where it is greatest [deg].
    """

    set: GearSetDescription
    pinion_mm: float
    ring_mm: float
    offset_error_mm: float = 0.0
    runout_mm: float = 0.0
    runout_at_deg: float = 0.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Instruments:
    """How well things are read and how alike two assemblies are.

    Parameters
    ----------
    dial_step_mm, dial_sd_mm : float
        Graduation of the dial indicator, and the scatter of one reading, [mm].
    patch_u_sd, patch_v_sd : float
        Scatter of a patch's middle as somebody reads it, along and across, [-].
    depth_sd_mm : float
        Scatter of a measured depth, [mm].
    shim_sd_mm, seating_sd_mm : float
        What a move does beyond its shims: their tolerance, and caps and cups that seat anew, [mm].
    wrong_share : float
        Share of readings that are simply wrong: a slipped figure, a flank mistaken for the other, [-].
    """

    dial_step_mm: float = 0.01
    dial_sd_mm: float = 0.006
    patch_u_sd: float = 0.05
    patch_v_sd: float = 0.05
    depth_sd_mm: float = 0.03
    shim_sd_mm: float = 0.005
    seating_sd_mm: float = 0.01
    wrong_share: float = 0.0


@dataclass(frozen=True)
class Truth:
    """What the axle really shows: plunger backlash round the ring [mm] and both patches [-]."""

    backlash_mm: float
    backlash_least_mm: float
    backlash_greatest_mm: float
    drive: Patch
    coast: Patch


class SimulatedAxle:
    """One axle on the bench."""

    def __init__(
        self,
        hidden: HiddenAxle,
        adjust: Adjust,
        first: SetupTrial,
        instruments: Instruments,
        draw: np.random.Generator,
        *,
        positions: int = 8,
    ) -> None:
        self.hidden, self.adjust, self.instruments, self.draw, self.positions = hidden, adjust, instruments, draw, positions
        self.housing = first
        self.pinion_mm, self.ring_mm = hidden.pinion_mm, hidden.ring_mm

    @property
    def _ready(self) -> ContactSet:
        return contact_set(self.hidden.set)

    def fit(self, housing: SetupTrial) -> None:
        """Take the axle apart and put these shims or notches in; it never goes together quite the same way."""
        window = SetupWindow(backlash_min_mm=0.0, backlash_max_mm=1.0)
        moves = SetupQuestion(set=self.hidden.set, adjust=self.adjust, window=window, trials=[self.housing, housing])
        scatter = np.hypot(self.instruments.shim_sd_mm, self.instruments.seating_sd_mm) * self.draw.standard_normal(2)
        self.pinion_mm += moves.pinion_change_mm(self.housing.depth_shim_mm, housing.depth_shim_mm) + float(scatter[0])
        self.ring_mm += moves.ring_change_mm(self.housing, housing) + float(scatter[1])
        self.housing = housing
        self.__dict__.pop("truth", None)

    @cached_property
    def truth(self) -> Truth:
        """What would be read without any error."""
        errors = Errors(pinion_mm=self.pinion_mm, ring_mm=self.ring_mm, offset_mm=self.hidden.offset_error_mm)
        ready = self._ready
        mean = ready.backlash_arc_mm(errors) * ready.plunger_per_arc
        swing = self.hidden.runout_mm
        drive, coast = (
            patch(grid, flank_gap(grid, ease, errors, SQUEEZE_MM)[0], PAINT_MM)
            for grid, ease in ((ready.drive, ready.ease_drive), (ready.coast, ready.ease_coast))
        )
        return Truth(backlash_mm=mean, backlash_least_mm=mean - swing, backlash_greatest_mm=mean + swing, drive=drive, coast=coast)

    def lands(self, window: SetupWindow) -> bool:
        """Whether the axle is truly in the window: backlash all round, the middles of both patches, and neither running off."""
        truth, slack = self.truth, 1e-9
        return (
            truth.backlash_least_mm >= window.backlash_min_mm - slack
            and truth.backlash_greatest_mm <= window.backlash_max_mm + slack
            and window.pattern.drive.holds(truth.drive.u, truth.drive.v)
            and window.pattern.coast.holds(truth.coast.u, truth.coast.v)
            and not _is_off("drive", truth.drive)
            and not _is_off("coast", truth.coast)
        )

    def backlash_round(self) -> list[CircleReading]:
        """The dial at each position round the ring, never under 0."""
        step, angles = self.instruments.dial_step_mm, 360.0 * np.arange(self.positions) / self.positions
        swing = self.hidden.runout_mm * np.cos(np.radians(angles - self.hidden.runout_at_deg))
        true = self.truth.backlash_mm + swing + self.instruments.dial_sd_mm * self.draw.standard_normal(self.positions)
        slip = 0.1 * self.draw.choice([-1.0, 1.0]) if self._goes_wrong() else 0.0  # a whole turn of the small hand
        shown = np.maximum(0.0, np.round((true + slip) / step) * step)
        return [CircleReading(angle_deg=float(angle), value_mm=float(value)) for angle, value in zip(angles, shown, strict=True)]

    def painted(self, flank: Flank) -> TrialPatch:
        """The patch as somebody reads it off the ring."""
        mistaken = self._goes_wrong()
        true = self.truth.drive if (flank == "drive") is not mistaken else self.truth.coast
        scatter = np.array([self.instruments.patch_u_sd, self.instruments.patch_v_sd])
        u, v = np.array([true.u, true.v]) + scatter * self.draw.standard_normal(2)
        edges = _edges(true)
        return TrialPatch(u=float(np.clip(u, 0.0, 1.0)), v=float(np.clip(v, 0.0, 1.0)), runs_off=edges)

    def measured_depth(self) -> TrialDepth:
        """The depth less the right one by a tool, [mm]."""
        sd = self.instruments.depth_sd_mm
        return TrialDepth(value=self.pinion_mm + sd * float(self.draw.standard_normal()), sd=sd)

    def read(self) -> SetupTrial:
        """Everything that a bench with a dial and paint can read."""
        values = [one.value_mm for one in self.backlash_round()]
        sd = self.instruments.dial_step_mm / sqrt(len(values))
        backlash = TrialBacklash(mean_mm=float(np.mean(values)), least_mm=min(values), greatest_mm=max(values), sd_mm=sd)
        return replace(self.housing, backlash=backlash, drive=self.painted("drive"), coast=self.painted("coast"))

    def _goes_wrong(self) -> bool:
        return bool(self.draw.random() < self.instruments.wrong_share)


def _edges(one: Patch) -> list[Edge]:
    """Where somebody says that a patch runs off."""
    return [edge for edge in _EDGES if getattr(one.edge, edge) > SEEN_TO_RUN_OFF]


def _is_off(flank: Flank, one: Patch) -> bool:
    """Whether it runs off where that is out: a fade at the toe of the coast flank is usual."""
    return any(not (flank == "coast" and edge == "toe") for edge in _edges(one))
