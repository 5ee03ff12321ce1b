"""All trials of a set-up in one estimate: where the gears stand, and what the set itself turned out to be like.

Unknowns, each with its spread before anything is seen: where the first trial stood; what each move really did beyond its shims;
and the set's own: nominal middle of each patch, backlash at the right place, crowning along and across, twist.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import cached_property
from math import exp, hypot

import numpy as np

from amber_core.contact.contact_set import ContactSet, contact_set
from amber_core.contact.estimate import model_patch
from amber_core.contact.mesh import Errors
from amber_core.gearset.description import EaseOff
from amber_core.gearset.flank import Field
from amber_core.setup.question import SetupQuestion, SetupTrial

COARSE_NU, COARSE_NV = 25, 15
MOVE_SCATTER_MM = 0.01
PATCH_U_SD, PATCH_V_SD, BACKLASH_SD_MM, CROWNING_SD, BIAS_SD = 0.04, 0.06, 0.015, 0.30, 0.15
SHARED = 8
SEEN = ("drive.u", "drive.v", "coast.u", "coast.v", "backlash")
_STEP = 0.02
_SCAN_MM = np.linspace(-0.36, 0.36, 13)


class SetModel:
    """What a set shows at a place: middles of both patches and backlash, for given traits of the set.

    Traits, shape (8,): shifts of the patches' middles (drive u, v, coast u, v) [-], backlash at the right place [mm], log of
    crowning along and across [-], twist less the description's [-].
    """

    def __init__(self, question: SetupQuestion) -> None:
        self.ready: ContactSet = contact_set(question.set, nu=COARSE_NU, nv=COARSE_NV)
        self.middle_mm = question.window.middle_mm

    def seen_at(self, pinion_mm: float, ring_mm: float, traits: Field) -> Field:
        """(u, v of drive, u, v of coast, plunger backlash [mm]), shape (5,)."""
        ease_drive, ease_coast = (self._eased(ease, traits) for ease in (self.ready.ease_drive, self.ready.ease_coast))
        ready = replace(self.ready, ease_drive=ease_drive, ease_coast=ease_coast)
        errors = Errors(pinion_mm=pinion_mm, ring_mm=ring_mm)
        arc = ready.backlash_arc_mm(errors) - ready.nominal_backlash_arc_mm
        middles = [*model_patch(ready, "drive", errors), *model_patch(ready, "coast", errors)]
        return np.array([*(np.array(middles) + traits[:4]), self.middle_mm + traits[4] + arc * ready.plunger_per_arc])

    @staticmethod
    def _eased(ease: EaseOff, traits: Field) -> EaseOff:
        bias = float(np.clip(ease.bias + traits[7], -0.95, 0.95))
        along, across = (exp(float(np.clip(one, -1.5, 1.5))) for one in traits[5:7])
        return EaseOff(length_um=ease.length_um * along, profile_um=ease.profile_um * across, bias=bias, u0=ease.u0, v0=ease.v0)


@dataclass(frozen=True)
class Residual:
    """One observation against the model, in standard deviations: trial index, what, and how far off."""

    trial: int
    what: str
    off: float


class Posterior:
    """The estimate over all trials; `whitened` unknowns are in units of their spread before anything was seen."""

    def __init__(self, question: SetupQuestion) -> None:
        self.question = question
        self.model = SetModel(question)
        scatter = hypot(question.shim_sd_mm, MOVE_SCATTER_MM)
        moves = len(question.trials) - 1
        shared = [PATCH_U_SD, PATCH_V_SD, PATCH_U_SD, PATCH_V_SD, BACKLASH_SD_MM, CROWNING_SD, CROWNING_SD, BIAS_SD]
        first = [question.prior.pinion_sd_mm, question.prior.ring_sd_mm]
        self.spread = np.array([*shared, *first, *([scatter] * 2 * moves)])
        self.scatter_mm = scatter
        self._rows = [self._observed(trial) for trial in question.trials]

    @staticmethod
    def _observed(trial: SetupTrial) -> list[tuple[int, float, float]]:
        """(which of `SEEN`, value, sd); 5 stands for a measured depth."""
        rows: list[tuple[int, float, float]] = []
        for place, seen in ((0, trial.drive), (2, trial.coast)):
            if seen is not None:
                # a patch cut off by an edge says less about where its middle would be
                wider = 1.5 if seen.runs_off else 1.0
                rows += [(place, seen.u, wider * seen.sd_u), (place + 1, seen.v, wider * seen.sd_v)]
        if trial.backlash is not None:
            rows.append((4, trial.backlash.mean_mm, trial.backlash.sd_mm))
        if trial.depth_error_mm is not None:
            rows.append((5, trial.depth_error_mm.value, trial.depth_error_mm.sd))
        return rows

    def places(self, unknown: Field) -> list[tuple[float, float]]:
        """Where each trial stood, (pinion, ring) [mm], for unknowns in their own units."""
        question, found = self.question, []
        pinion, ring = float(unknown[SHARED]), float(unknown[SHARED + 1])
        for index, trial in enumerate(question.trials):
            if index:
                before = question.trials[index - 1]
                at = SHARED + 2 * index
                pinion += question.pinion_change_mm(before.depth_shim_mm, trial.depth_shim_mm) + float(unknown[at])
                ring += question.ring_change_mm(before, trial) + float(unknown[at + 1])
            found.append((pinion, ring))
        return found

    def data_residuals(self, whitened: Field) -> Field:
        """(model - observed)/sd of every observation, trial by trial."""
        unknown = whitened * self.spread
        rows: list[float] = []
        for (pinion, ring), observed in zip(self.places(unknown), self._rows, strict=True):
            if any(which < 5 for which, _, _ in observed):
                shown = self.model.seen_at(pinion, ring, unknown[:SHARED])
            for which, value, sd in observed:
                rows.append(((pinion if which == 5 else float(shown[which])) - value) / sd)
        return np.array(rows)

    def _all_residuals(self, whitened: Field) -> Field:
        return np.concatenate([self.data_residuals(whitened), whitened])

    def _jacobian(self, whitened: Field) -> Field:
        base = self._all_residuals(whitened)
        columns = []
        for index in range(whitened.size):
            stepped = whitened.copy()
            stepped[index] += _STEP
            columns.append((self._all_residuals(stepped) - base) / _STEP)
        return np.column_stack(columns)

    def _start(self) -> Field:
        """The best first place of a coarse scan along the line of the last backlash read, or of depth alone."""
        starts = []
        for pinion in _SCAN_MM:
            whitened = np.zeros(self.spread.size)
            whitened[SHARED] = pinion / self.spread[SHARED]
            whitened[SHARED + 1] = self._ring_for(float(pinion)) / self.spread[SHARED + 1]
            starts.append(whitened)
        return min(starts, key=lambda one: float(np.sum(self._all_residuals(one) ** 2)))

    def _ring_for(self, pinion_mm: float) -> float:
        """The first trial's ring at this depth, from its backlash; 0 when that was not read, [mm]."""
        first, ready = self.question.trials[0].backlash, self.model.ready
        if first is None:
            return 0.0
        arc = ready.nominal_backlash_arc_mm + (first.mean_mm - self.model.middle_mm) / ready.plunger_per_arc
        return ready.ring_for_arc_mm(arc, pinion_mm=pinion_mm)

    @cached_property
    def whitened(self) -> Field:
        """The most likely unknowns."""
        from scipy.optimize import least_squares

        found = least_squares(self._all_residuals, self._start(), jac=self._jacobian, method="trf", xtol=1e-6, ftol=1e-6, max_nfev=25)
        most_likely: Field = found.x
        return most_likely

    @cached_property
    def covariance(self) -> Field:
        """Covariance of the unknowns in their own units."""
        jacobian = self._jacobian(self.whitened)
        inverse = np.linalg.inv(jacobian.T @ jacobian)
        return np.asarray(inverse * np.outer(self.spread, self.spread), dtype=np.float64)

    @cached_property
    def unknown(self) -> Field:
        """The most likely unknowns in their own units."""
        return np.asarray(self.whitened * self.spread, dtype=np.float64)

    @cached_property
    def last_place_rows(self) -> Field:
        """Rows that make the last trial's (pinion, ring) of the unknowns, shape (2, unknowns)."""
        rows = np.zeros((2, self.spread.size))
        rows[0, SHARED::2] = 1.0
        rows[1, SHARED + 1 :: 2] = 1.0
        return rows

    @cached_property
    def last_place(self) -> tuple[float, float]:
        """Where the last trial stands, (pinion, ring) [mm]."""
        return self.places(self.unknown)[-1]

    @cached_property
    def last_covariance(self) -> Field:
        """Covariance of the last place, [mm^2]."""
        return np.asarray(self.last_place_rows @ self.covariance @ self.last_place_rows.T, dtype=np.float64)

    @cached_property
    def residuals(self) -> list[Residual]:
        """Every observation against the most likely unknowns."""
        off = iter(self.data_residuals(self.whitened))
        names = (*SEEN, "depth_error_mm")
        return [
            Residual(trial=index, what=names[which], off=float(next(off)))
            for index, observed in enumerate(self._rows)
            for which, _, _ in observed
        ]
