"""What a move would bring: the expected readings at another place, and the odds that they land in the window."""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import cached_property
from math import sqrt
from typing import TypeVar

import numpy as np
from numpy.typing import NDArray

from amber_core.contact.contact_set import FARTHEST_MM
from amber_core.gearset.flank import Field
from amber_core.setup.painted import running_off
from amber_core.setup.posterior import Posterior
from amber_core.setup.question import Flank, SetupWindow, TrialBacklash
from amber_core.setup.set_model import TRAITS, Look

_SAMPLES = 2000
_EVERY = 4
"""Of the samples these are enough to find the best place; the odds there are told from all."""
_NEWTON_STEPS = 3
_A_HAIR_MM = 0.02
_AROUND_MM = np.linspace(-0.12, 0.12, 13)
_RING_MM = np.linspace(-0.03, 0.03, 13)
_FAR_COSTS = 0.1  # odds a millimetre: of places nearly alike the one in the middle
_CLEAR_OF_EDGE = 0.03
_FLANKS: tuple[tuple[int, Flank], ...] = ((0, "drive"), (2, "coast"))
_OF_EIGHT = 1.42
"""The greatest of eight readings lies so many of their standard deviations over the mean."""
_Numbers = TypeVar("_Numbers", NDArray[np.float64], NDArray[np.float32])
_BACKLASH = np.array([0.0, 0.0, 0.0, 0.0, 1.0])
_EDGES = {"toe": (0, -1.0), "heel": (0, 1.0), "root": (1, -1.0), "tip": (1, 1.0)}


@dataclass(frozen=True)
class Expected:
    """Readings expected at a place (u, v of drive, u, v of coast, backlash [mm]), their spread, the odds of the window [-], and
    what is seen sample by sample (`rows_at`)."""

    seen: Field
    backlash_sd_mm: float
    odds: float
    rows: Field


def _swing(seen_mm: float, one_sd_mm: float) -> float:
    """How far the backlash itself swings from its mean when the readings swing by `seen_mm`: what their own scatter adds is taken out."""
    return sqrt(max(0.0, seen_mm**2 - (_OF_EIGHT * one_sd_mm) ** 2))


def inside_limits(seen: _Numbers, limits: tuple[_Numbers, _Numbers]) -> NDArray[np.bool_]:
    """Whether all that is seen lies within its limits; `seen` has the shape (readings, ...), what comes back has the rest of it."""
    inside: NDArray[np.bool_] = np.ones(seen.shape[1:], dtype=np.bool_)
    for one, low, high in zip(seen, *limits, strict=True):
        inside &= one >= low
        inside &= one <= high
    return inside


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
        self.trait_deviation = deviations[:, :TRAITS]
        self.move_scatter = posterior.scatter_mm * draw.standard_normal((_SAMPLES, 2))
        self.swing_scatter = self._swing_sd_mm * draw.standard_normal(_SAMPLES)
        self.traits = posterior.unknown[:TRAITS]
        self._looks: list[tuple[Field, Look]] = []
        self._run_off = self._seen_to_run_off()

    def _seen_to_run_off(self) -> list[tuple[int, float, Field]]:
        """Where a patch ran off: (row seen, sign, where that middle lay, sample by sample). Farther that way it still does."""
        found = []
        for trial, place in enumerate(self.posterior.places):
            for first, flank in _FLANKS:
                read = self.posterior.read(trial, flank)
                for edge in running_off(flank, read) if read is not None else []:
                    look, (axis, sign) = self.look(place), _EDGES[edge]
                    found.append((first + axis, sign, (look.values + self.spread_at(look, False))[:, first + axis]))
        return found

    def look(self, place: Field) -> Look:
        """The model at a place with the most likely traits; a hair beside where it was looked before, along its slopes."""
        for before, look in self._looks:
            beside = place - before
            if float(np.abs(beside).max()) <= _A_HAIR_MM:
                return look if not beside.any() else replace(look, values=look.values + look.place_slopes @ beside)
        found = self.posterior.model.look_at(place, self.traits)
        self._looks.append((place, found))
        return found

    @property
    def _rounds(self) -> list[TrialBacklash]:
        return [one for trial in self.posterior.question.trials for one in trial.rounds]

    @property
    def _swing_sd_mm(self) -> float:
        """How well all times round the ring together tell how far the backlash swings, [mm]; 0 where nothing was said of it."""
        told = [one.swing_sd_mm for one in self._rounds if one.swings]
        return sqrt(sum(sd**2 for sd in told)) / len(told) if told else 0.0

    @cached_property
    def backlash_window(self) -> tuple[float, float]:
        """Where the mean must lie for the least and the greatest round the ring to be in, [mm].

        Notes
        -----
        The window less what the readings of all trials swing below and above their mean, on average: that goes with the ring.
        """
        low, high = self.window.backlash_min_mm, self.window.backlash_max_mm
        below = [_swing(one.mean_mm - one.least_mm, one.one_sd_mm) for one in self._rounds if one.least_mm is not None]
        above = [_swing(one.greatest_mm - one.mean_mm, one.one_sd_mm) for one in self._rounds if one.greatest_mm is not None]
        low += max(0.0, sum(below) / len(below)) if below else 0.0
        high -= max(0.0, sum(above) / len(above)) if above else 0.0
        return (low, high) if low <= high else ((low + high) / 2.0, (low + high) / 2.0)

    @cached_property
    def windows(self) -> tuple[Field, Field]:
        """Middle and half width of the window of each thing seen."""
        drive, coast = self.window.pattern.drive, self.window.pattern.coast
        least, greatest = self.backlash_window
        low = np.array([drive.u_min, drive.v_min, coast.u_min, coast.v_min, least])
        high = np.array([drive.u_max, drive.v_max, coast.u_max, coast.v_max, greatest])
        return (low + high) / 2.0, np.maximum((high - low) / 2.0, 1e-6)

    @cached_property
    def target(self) -> Field:
        """The place where everything seen lies deepest inside its windows, by Gauss-Newton, [mm]."""
        middle, half = self.windows
        place = np.zeros(2)
        for _ in range(_NEWTON_STEPS):
            look = self.look(place)
            off = (look.values - middle) / half
            place = np.clip(place - np.linalg.lstsq(look.place_slopes / half[:, None], off, rcond=None)[0], -FARTHEST_MM, FARTHEST_MM)
        return place

    def spread_at(self, look: Look, moved: bool) -> Field:
        """Deviations of what is seen, sample by sample, shape (samples, 5)."""
        deviation = self.place_deviation + (self.move_scatter if moved else 0.0)
        spread: Field = deviation @ look.place_slopes.T + self.trait_deviation @ look.trait_slopes.T
        return spread

    @cached_property
    def limits(self) -> tuple[Field, Field]:
        """The least and the greatest that is in, for the rows of `rows_at`."""
        middle, half = self.windows
        edges = len(self._run_off)
        low = np.concatenate([middle - half - 1e-9, np.full(edges, -np.inf)])
        return low, np.concatenate([middle + half + 1e-9, np.full(edges, -_CLEAR_OF_EDGE)])

    def rows_at(self, seen: Field, every: int = 1) -> Field:
        """What is seen sample by sample, the backlash with what is not known of its swing, and of each edge where a patch ran off how far
        beyond it lies; of every n-th sample."""
        seen = seen + self.swing_scatter[::every, None] * _BACKLASH
        beyond = [sign * (seen[:, row] - ran_off[::every]) for row, sign, ran_off in self._run_off]
        return np.column_stack([seen, *beyond]) if beyond else seen

    def expected(self, place: Field, *, moved: bool = True) -> Expected:
        """What is to be expected at a place [mm]; `moved` when another assembly lies between."""
        look = self.look(place)
        spread = self.spread_at(look, moved)
        rows = self.rows_at(look.values + spread)
        sd, odds = float(spread[:, 4].std()), float(inside_limits(rows.T, self.limits).mean())
        return Expected(seen=look.values, backlash_sd_mm=sd, odds=odds, rows=rows)

    @cached_property
    def best_place(self) -> Field:
        """The place with the best odds, (pinion, ring) [mm].

        Notes
        -----
        Linear about `target`: odds over a square of places, the one nearest to `target` of those that are nearly best.
        """
        shifts = np.array([[pinion, ring] for pinion in _AROUND_MM for ring in _AROUND_MM])
        return np.clip(self.target + self._best_shift(self.look(self.target), shifts), -FARTHEST_MM, FARTHEST_MM)

    def _best_shift(self, look: Look, shifts: Field) -> Field:
        """Of these (pinion, ring) from where it was looked, shape (shifts, 2), the one with the best odds [mm]; of many alike the first."""
        seen = self.rows_at((look.values + self.spread_at(look, True))[::_EVERY], _EVERY)
        along = look.place_slopes @ shifts.T
        rows = np.vstack([along, *(sign * along[row] for row, sign, _ in self._run_off)])
        inside = np.ones((len(shifts), len(seen)), dtype=np.bool_)
        for one, moved, low, high in zip(seen.T, rows, *self.limits, strict=True):
            inside &= one >= (low - moved)[:, None]
            inside &= one <= (high - moved)[:, None]
        best: Field = shifts[int(np.argmax(inside.mean(axis=1) - _FAR_COSTS * np.abs(shifts).sum(axis=1)))]
        return best

    def best_ring_mm(self, pinion_mm: float) -> float:
        """The ring's place with the best odds at a depth, [mm]."""
        ring = float(self.best_place[1])
        look = self.look(np.array([pinion_mm, ring]))
        # hold the backlash of the best place, where it does not run off its own line
        held = float(self.look(self.best_place).values[4])
        ring = float(np.clip(ring + (held - float(look.values[4])) / float(look.place_slopes[4, 1]), -FARTHEST_MM, FARTHEST_MM))
        shifts = np.column_stack([np.zeros_like(_RING_MM), _RING_MM])
        return ring + float(self._best_shift(self.look(np.array([pinion_mm, ring])), shifts)[1])
