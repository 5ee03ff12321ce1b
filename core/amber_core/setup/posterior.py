"""All trials of a set-up in one estimate: where the gears stand, and what the set itself turned out to be like.

Unknowns, each with its spread before anything is seen: where the first trial stood; what each move really did beyond its shims;
and the set's own: nominal middle of each patch, backlash at the right place, crowning along and across, twist.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from functools import cached_property
from math import hypot, sqrt
from typing import TypeVar

import numpy as np

from amber_core.gearset.flank import Field
from amber_core.setup.noise import Noise
from amber_core.setup.painted import PatchRead, patch_read
from amber_core.setup.question import FLANKS, Flank, SetupQuestion, SetupTrial
from amber_core.setup.set_model import SEEN, TRAITS, Look, SetModel

PATCH_U_SD, PATCH_V_SD, BACKLASH_SD_MM, CROWNING_SD, BIAS_SD = 0.04, 0.06, 0.015, 0.30, 0.15
USED_PATCH_SD, USED_BACKLASH_SD_MM = 0.15, 0.10
"""A worn pair has its own right place: what it showed when it was found says where that is."""
FOUND = -1
"""Index that stands for the right place of a used set instead of a trial's."""
FOUND_PATCH_SD, FOUND_BACKLASH_SD_MM = 0.06, 0.01
CONFLICT_OFF = 3.3
STANDS = 2.0
"""A reading is confirmed by others of the same patch within so many standard deviations."""
MOST_CONFLICTS = 3
ALIKE = 0.75
DEPTH_ROW = len(SEEN)
_SCAN_MM = np.linspace(-0.36, 0.36, 7)
_SCANNED_TRIALS = 2
_MOST_STEPS, _MOST_HALVINGS, _NOTHING_LEFT = 8, 4, 2e-2
_HARDLY_ANYTHING = 0.1
"""What promises less than this and does not help at once is the grid's own grain."""

_Seen = TypeVar("_Seen")


@dataclass(frozen=True)
class Observation:
    """One number that was read: trial index, which of `SEEN` (or `DEPTH_ROW`), value and standard deviation in its unit."""

    trial: int
    row: int
    value: float
    sd: float
    repeat: int = 0
    """Which of several readings of the same thing."""

    @property
    def what(self) -> str:
        """The field it came from."""
        return (*SEEN, "depth_error_mm")[self.row]

    @property
    def reading(self) -> str:
        """The reading it is part of."""
        return self.what.split(".")[0]


@dataclass(frozen=True)
class Residual:
    """One observation against the estimate from all others, in standard deviations."""

    observation: Observation
    off: float


class Posterior:
    """The estimate over all trials; `whitened` unknowns are in units of their spread before anything was seen.

    A reading that the others contradict is set aside before the rest is believed, the worst first (`conflicts`).
    """

    def __init__(self, question: SetupQuestion) -> None:
        self.question = question
        self.noise = Noise(question.readers, (trial.seen(flank) for trial in question.trials for flank in FLANKS))
        self.model = SetModel(question.set, question.goal.middle_mm)
        self.scatter_mm = hypot(question.shim_sd_mm, question.seating_sd_mm)
        moves = len(question.trials) - 1
        used = question.set_state == "used"
        patch_u, patch_v, backlash = (
            (USED_PATCH_SD, USED_PATCH_SD, USED_BACKLASH_SD_MM) if used else (PATCH_U_SD, PATCH_V_SD, BACKLASH_SD_MM)
        )
        shared = [patch_u, patch_v, patch_u, patch_v, backlash, CROWNING_SD, CROWNING_SD, BIAS_SD]
        first = [question.prior.pinion_sd_mm, question.prior.ring_sd_mm]
        self.spread = np.array([*shared, *first, *([self.scatter_mm] * 2 * moves)])
        self._shifts = self._known_moves()
        self._rows = [self._place_rows(index) for index in range(moves + 1)]
        self.observations = [one for index, trial in enumerate(question.trials) for one in _observed(index, trial, self.noise)] + _found(
            question
        )
        self._looks: tuple[bytes, dict[int, Look]] = b"", {}
        self.whitened = self._most_likely()
        self.at_first = self._standing()
        self.conflicts: list[Residual] = []
        while len(self.conflicts) < MOST_CONFLICTS and (worst := self._worst()) is not None:
            self.conflicts.append(worst)
            aside = worst.observation
            self.observations = [
                one for one in self.observations if (one.trial, one.reading, one.repeat) != (aside.trial, aside.reading, aside.repeat)
            ]
            self.whitened = self._most_likely()

    def _known_moves(self) -> list[tuple[float, float]]:
        """How far the shims say that each trial stands from the first, (pinion, ring) [mm]."""
        question, shifts = self.question, [(0.0, 0.0)]
        for before, after in zip(question.trials, question.trials[1:], strict=False):
            pinion = question.pinion_change_mm(before.depth_shim_mm, after.depth_shim_mm)
            shifts.append((shifts[-1][0] + pinion, shifts[-1][1] + question.ring_change_mm(before, after)))
        return shifts

    def _place_rows(self, trial: int) -> Field:
        """Rows that make a trial's (pinion, ring) less its known moves of the unknowns, shape (2, unknowns)."""
        rows = np.zeros((2, self.spread.size))
        end = TRAITS + 2 * (trial + 1)
        rows[0, TRAITS:end:2] = 1.0
        rows[1, TRAITS + 1 : end : 2] = 1.0
        return rows

    def place(self, trial: int, whitened: Field) -> Field:
        """Where a trial stood, (pinion, ring) [mm]; the right place for `FOUND`."""
        if trial == FOUND:
            return np.zeros(2)
        found: Field = self._rows[trial] @ (whitened * self.spread) + self._shifts[trial]
        return found

    def _looks_at(self, whitened: Field) -> dict[int, Look]:
        key = whitened.tobytes()
        if self._looks[0] != key:
            self._looks = key, self._each_seen(whitened, self.model.look_at)
        return self._looks[1]

    def _each_seen(self, whitened: Field, look: Callable[[Field, Field], _Seen]) -> dict[int, _Seen]:
        """The trials of which anything was read but the depth, looked at where they stood."""
        traits = whitened[:TRAITS] * self.spread[:TRAITS]
        seen = {one.trial for one in self.observations if one.row != DEPTH_ROW}
        return {trial: look(self.place(trial, whitened), traits) for trial in seen}

    def _residuals(self, whitened: Field) -> Field:
        return self._off(whitened, {trial: look.values for trial, look in self._looks_at(whitened).items()})

    def _off(self, whitened: Field, values: dict[int, Field]) -> Field:
        """(model - observed)/sd of every observation, then the unknowns themselves."""
        rows = []
        for one in self.observations:
            shown = float(self.place(one.trial, whitened)[0] if one.row == DEPTH_ROW else values[one.trial][one.row])
            rows.append((shown - one.value) / one.sd)
        return np.array([*rows, *whitened])

    def _jacobian(self, whitened: Field) -> Field:
        looks = self._looks_at(whitened)
        slopes = np.zeros((len(self.observations), whitened.size))
        for at, one in enumerate(self.observations):
            if one.row == DEPTH_ROW:
                slopes[at] = self._rows[one.trial][0] / one.sd
                continue
            look = looks[one.trial]
            if one.trial != FOUND:
                slopes[at] = look.place_slopes[one.row] @ self._rows[one.trial] / one.sd
            slopes[at, :TRAITS] += look.trait_slopes[one.row] / one.sd
        return np.vstack([slopes * self.spread, np.eye(whitened.size)])

    def _start(self) -> Field:
        """The best first place of a coarse scan along the line of the first backlash read, or of depth alone."""
        starts, kept = [], self.observations
        self.observations = [one for one in kept if one.trial < _SCANNED_TRIALS] or kept
        knots = _SCAN_MM[:: len(_SCAN_MM) // 2]  # both ends and the middle: the line is hardly bent
        line = np.polyval(np.polyfit(knots, [self._ring_for(float(pinion)) for pinion in knots], 2), _SCAN_MM)
        for pinion, ring in zip(_SCAN_MM, line, strict=True):
            whitened = np.zeros(self.spread.size)
            whitened[TRAITS : TRAITS + 2] = np.array([pinion, ring]) / self.spread[TRAITS : TRAITS + 2]
            starts.append((float(np.sum(self._off(whitened, self._each_seen(whitened, self.model.values_at)) ** 2)), whitened))
        self.observations = kept
        return min(starts, key=lambda one: one[0])[1]

    def _ring_for(self, pinion_mm: float) -> float:
        """The first trial's ring at this depth, from the first backlash that was read; 0 when there is none, [mm]."""
        read = next((one for one in self.observations if one.what == "backlash" and one.trial != FOUND), None)
        if read is None:
            return 0.0
        ready, (pinion, ring) = self.model.ready, self._shifts[read.trial]
        arc = ready.nominal_backlash_arc_mm + (read.value - self.model.middle_mm) / ready.plunger_per_arc
        return ready.ring_for_arc_mm(arc, pinion_mm=pinion_mm + pinion) - ring

    def _most_likely(self) -> Field:
        """Gauss-Newton from the coarse scan, a step halved while it does not help; it ends when little is left to gain beside noise."""
        self._looks = b"", {}
        found = self._start()
        off = self._residuals(found)
        for _ in range(_MOST_STEPS):
            slopes = self._jacobian(found)
            step = np.linalg.solve(slopes.T @ slopes, -slopes.T @ off)
            gain = -float((slopes.T @ off) @ step)  # twice what the linear model promises
            for _ in range(_MOST_HALVINGS if gain > _HARDLY_ANYTHING else 1):
                tried = found + step
                then = self._residuals(tried)
                helped = float(off @ off - then @ then)
                if helped > 0.0:
                    found, off = tried, then
                    break
                step = step / 2.0
            if min(gain, helped) < _NOTHING_LEFT:
                break
        return found

    @cached_property
    def _whitened_covariance(self) -> Field:
        return self._inverse()

    def _inverse(self) -> Field:
        jacobian = self._jacobian(self.whitened)
        inverse: Field = np.asarray(np.linalg.inv(jacobian.T @ jacobian), dtype=np.float64)
        return inverse

    def _standing(self) -> list[Residual]:
        """Every observation against the estimate without it.

        Notes
        -----
        Residual over its own standard deviation, sqrt(1 - leverage).
        """
        count = len(self.observations)
        rows = self._jacobian(self.whitened)[:count]
        leverage: Field = np.einsum("ij,jk,ik->i", rows, self._inverse(), rows)
        off: Field = self._residuals(self.whitened)[:count] / np.sqrt(np.maximum(1.0 - leverage, 1e-3))
        return [Residual(observation=one, off=float(value)) for one, value in zip(self.observations, off, strict=True)]

    def _worst(self) -> Residual | None:
        """The observation that the others contradict most, the latest of those nearly alike; None when they agree."""
        found = [one for one in self._standing() if one.observation.trial != FOUND and not self._confirmed(one.observation)]
        most = max((abs(one.off) for one in found), default=0.0)
        if most <= CONFLICT_OFF:
            return None
        return max((one for one in found if abs(one.off) >= max(ALIKE * most, CONFLICT_OFF)), key=lambda one: one.observation.trial)

    def _confirmed(self, one: Observation) -> bool:
        """Whether it was read again and stands: the whole trial, or this patch by its other readings."""
        if self.question.trials[one.trial].read_twice:
            return True
        others = [other for other in self.observations if (other.trial, other.row) == (one.trial, one.row) and other.repeat != one.repeat]
        if not others:
            return False
        middle = float(np.mean([other.value for other in others]))
        return abs(one.value - middle) <= STANDS * one.sd * sqrt(1.0 + 1.0 / len(others))

    @cached_property
    def covariance(self) -> Field:
        """Covariance of the unknowns in their own units."""
        return np.asarray(self._whitened_covariance * np.outer(self.spread, self.spread), dtype=np.float64)

    @cached_property
    def unknown(self) -> Field:
        """The most likely unknowns in their own units."""
        return np.asarray(self.whitened * self.spread, dtype=np.float64)

    @property
    def last_place_rows(self) -> Field:
        """Rows that make the last trial's (pinion, ring) of the unknowns, shape (2, unknowns)."""
        return self._rows[-1]

    @property
    def places(self) -> list[Field]:
        """Where each trial stands, (pinion, ring) [mm]."""
        return [self.place(trial, self.whitened) for trial in range(len(self._rows))]

    @property
    def last_place(self) -> Field:
        """Where the last trial stands, (pinion, ring) [mm]."""
        return self.place(len(self._rows) - 1, self.whitened)

    @cached_property
    def last_covariance(self) -> Field:
        """Covariance of the last place, [mm^2]."""
        return np.asarray(self.last_place_rows @ self.covariance @ self.last_place_rows.T, dtype=np.float64)

    def read(self, trial: int, flank: Flank) -> PatchRead | None:
        """All readings of a patch together."""
        return patch_read(self.question.trials[trial].seen(flank), self.noise)

    def depth_asked(self, trial: int) -> tuple[float, float] | None:
        """How far drive and coast of a trial stand from the estimate along the depth, before anything was set aside, [sd]."""
        off: dict[str, float] = {}
        for one in self.at_first:
            if one.observation.trial == trial:
                off.setdefault(one.observation.what, one.off)
        return (off["drive.v"], off["coast.v"]) if "drive.v" in off and "coast.v" in off else None


def _observed(index: int, trial: SetupTrial, noise: Noise) -> list[Observation]:
    rows = []
    for place, readings in ((0, trial.seen("drive")), (2, trial.seen("coast"))):
        for repeat, seen in enumerate(readings):
            # a patch cut off by an edge says less about where its middle would be
            wider, (sd_u, sd_v) = 1.5 if seen.runs_off else 1.0, noise.sds(seen)
            rows.append(Observation(trial=index, row=place, value=seen.u, sd=wider * sd_u, repeat=repeat))
            rows.append(Observation(trial=index, row=place + 1, value=seen.v, sd=wider * sd_v, repeat=repeat))
    rows += [Observation(trial=index, row=4, value=one.mean_mm, sd=one.sd_mm) for one in trial.rounds]
    if trial.depth_error_mm is not None:
        rows.append(Observation(trial=index, row=DEPTH_ROW, value=trial.depth_error_mm.value, sd=trial.depth_error_mm.sd))
    return rows


def _found(question: SetupQuestion) -> list[Observation]:
    """What a used set showed when it was found, as read at its right place."""
    found = question.as_found
    if question.set_state == "new" or found is None:
        return []
    rows = []
    for place, patch in ((0, found.drive), (2, found.coast)):
        if patch is not None:
            rows.append(Observation(trial=FOUND, row=place, value=patch.u, sd=FOUND_PATCH_SD))
            rows.append(Observation(trial=FOUND, row=place + 1, value=patch.v, sd=FOUND_PATCH_SD))
    if found.backlash_mm is not None:
        # one that was found under the least goes back to the least that is allowed, not to where it was
        rows.append(Observation(trial=FOUND, row=4, value=found.backlash_mm, sd=FOUND_BACKLASH_SD_MM))
    return rows
