"""What a move would bring: the expected readings at another place, and the odds that they land in the window."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

import numpy as np

from amber_core.contact.contact_set import FARTHEST_MM
from amber_core.gearset.flank import Field
from amber_core.setup.posterior import SHARED, Posterior
from amber_core.setup.question import SetupWindow

_SAMPLES = 2000
_PLACE_STEP_MM = 4e-3
_TRAIT_STEPS = np.array([0.01, 0.01, 0.01, 0.01, 0.002, 0.05, 0.05, 0.03])
_NEWTON_STEPS = 3


@dataclass(frozen=True)
class Expected:
    """Readings expected at a place (u, v of drive, u, v of coast, backlash [mm]), their spread, and the odds of the window [-]."""

    seen: Field
    backlash_sd_mm: float
    odds: float


class Outlook:
    """Samples of the estimate, carried to other places by the model.

    The same samples serve every place, so that two moves are compared without the noise of drawing. The mean of a place is the model's
    own; deviations from it are linear in place and traits.
    """

    def __init__(self, posterior: Posterior, window: SetupWindow) -> None:
        self.posterior, self.window = posterior, window
        draw = np.random.default_rng(20)  # fixed: the same question has the same answer
        covariance = posterior.covariance
        root = np.linalg.cholesky(covariance + 1e-15 * np.eye(covariance.shape[0]))
        deviations = draw.standard_normal((_SAMPLES, covariance.shape[0])) @ root.T
        self.place_deviation = deviations @ posterior.last_place_rows.T
        self.trait_deviation = deviations[:, :SHARED]
        self.move_scatter = posterior.scatter_mm * draw.standard_normal((_SAMPLES, 2))
        self.traits = posterior.unknown[:SHARED]

    def seen_at(self, place: Field) -> Field:
        """The model at a place with the most likely traits."""
        return self.posterior.model.seen_at(float(place[0]), float(place[1]), self.traits)

    def place_slopes(self, place: Field) -> Field:
        """Change of what is seen for a move of pinion and ring, shape (5, 2)."""
        columns = []
        for axis in (0, 1):
            step = np.zeros(2)
            step[axis] = _PLACE_STEP_MM
            columns.append((self.seen_at(place + step) - self.seen_at(place - step)) / (2.0 * _PLACE_STEP_MM))
        return np.column_stack(columns)

    @property
    def _centre(self) -> tuple[Field, Field]:
        """Middle and half width of the window of each thing seen."""
        drive, coast = self.window.pattern.drive, self.window.pattern.coast
        low = np.array([drive.u_min, drive.v_min, coast.u_min, coast.v_min, self.window.backlash_min_mm])
        high = np.array([drive.u_max, drive.v_max, coast.u_max, coast.v_max, self.window.backlash_max_mm])
        return (low + high) / 2.0, np.maximum((high - low) / 2.0, 1e-6)

    @cached_property
    def target(self) -> Field:
        """The place where everything seen lies deepest inside its windows, by Gauss-Newton, [mm]."""
        middle, half = self._centre
        place = np.zeros(2)
        for _ in range(_NEWTON_STEPS):
            slopes = self.place_slopes(place) / half[:, None]
            off = (self.seen_at(place) - middle) / half
            place = np.clip(place - np.linalg.lstsq(slopes, off, rcond=None)[0], -FARTHEST_MM, FARTHEST_MM)
        return place

    @cached_property
    def _target_slopes(self) -> Field:
        return self.place_slopes(self.target)

    @cached_property
    def _trait_slopes(self) -> Field:
        base = self.seen_at(self.target)
        columns = []
        for index, step in enumerate(_TRAIT_STEPS):
            stepped = self.traits.copy()
            stepped[index] += step
            columns.append((self.posterior.model.seen_at(float(self.target[0]), float(self.target[1]), stepped) - base) / step)
        return np.column_stack(columns)

    def _spread_at(self, place: Field, moved: bool) -> Field:
        """Deviations of what is seen, sample by sample, shape (samples, 5)."""
        near = float(np.abs(place - self.target).max()) < 0.03
        slopes = self._target_slopes if near else self.place_slopes(place)
        deviation = self.place_deviation + (self.move_scatter if moved else 0.0)
        spread: Field = deviation @ slopes.T + self.trait_deviation @ self._trait_slopes.T
        return spread

    def _inside(self, seen: Field) -> Field:
        middle, half = self._centre
        inside: Field = np.all(np.abs(seen - middle) <= half + 1e-9, axis=-1)
        return inside

    def expected(self, place: Field, *, moved: bool = True) -> Expected:
        """What is to be expected at a place [mm]; `moved` when another assembly lies between."""
        seen, spread = self.seen_at(place), self._spread_at(place, moved)
        return Expected(seen=seen, backlash_sd_mm=float(spread[:, 4].std()), odds=float(self._inside(seen + spread).mean()))

    def best_ring_mm(self, pinion_mm: float) -> float:
        """The ring's place with the best odds at a depth, [mm]."""
        slope = float(self._target_slopes[4, 1])
        ring = float(self.target[1])
        for _ in range(2):
            ring += (self.window.middle_mm - float(self.seen_at(np.array([pinion_mm, ring]))[4])) / slope
        ring = float(np.clip(ring, -FARTHEST_MM, FARTHEST_MM))
        place = np.array([pinion_mm, ring])
        seen, spread, slopes = self.seen_at(place), self._spread_at(place, True), self.place_slopes(place)
        shifts = np.linspace(-0.03, 0.03, 13)
        odds = [float(self._inside(seen + spread + shift * slopes[:, 1]).mean()) - 0.02 * abs(shift) / 0.03 for shift in shifts]
        return ring + float(shifts[int(np.argmax(odds))])
