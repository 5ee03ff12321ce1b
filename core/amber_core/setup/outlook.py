"""What a move would bring: the expected readings at another place, and the odds that they land in the window."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from amber_core.contact.contact_set import FARTHEST_MM
from amber_core.gearset.flank import Field
from amber_core.setup.posterior import Posterior
from amber_core.setup.question import SetupWindow, TrialPatch
from amber_core.setup.set_model import TRAITS, Look

_SAMPLES = 2000
_NEWTON_STEPS = 3
_AROUND_MM = np.linspace(-0.12, 0.12, 13)
_RING_MM = np.linspace(-0.03, 0.03, 13)
_FAR_COSTS = 0.1  # odds a millimetre: of places nearly alike the one in the middle
_CLEAR_OF_EDGE = 0.03
_EDGES = {"toe": (0, -1.0), "heel": (0, 1.0), "root": (1, -1.0), "tip": (1, 1.0)}


def running_off(name: str, seen: TrialPatch) -> list[str]:
    """Edges that count as out: a slight fade at the toe of the coast flank does not."""
    return [edge for edge in seen.runs_off if not (edge == "toe" and name == "coast")]


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
        self.trait_deviation = deviations[:, :TRAITS]
        self.move_scatter = posterior.scatter_mm * draw.standard_normal((_SAMPLES, 2))
        self.traits = posterior.unknown[:TRAITS]
        self._looks: dict[bytes, Look] = {}
        self._run_off = self._seen_to_run_off()

    def _seen_to_run_off(self) -> list[tuple[int, float, Field]]:
        """Where a patch ran off: (row seen, sign, where that middle lay, sample by sample). Farther that way it still does."""
        found = []
        for trial, place in zip(self.posterior.question.trials, self.posterior.places, strict=True):
            for first, name in ((0, "drive"), (2, "coast")):
                patch = trial.drive if name == "drive" else trial.coast
                for edge in running_off(name, patch) if patch is not None else []:
                    look, (axis, sign) = self.look(place), _EDGES[edge]
                    found.append((first + axis, sign, (look.values + self._spread_at(look, False))[:, first + axis]))
        return found

    def look(self, place: Field) -> Look:
        """The model at a place with the most likely traits."""
        key = place.tobytes()
        if key not in self._looks:
            self._looks[key] = self.posterior.model.look_at(place, self.traits)
        return self._looks[key]

    @cached_property
    def backlash_window(self) -> tuple[float, float]:
        """Where the mean must lie for the least and the greatest round the ring to be in, [mm].

        Notes
        -----
        The window less what the readings of all trials swing below and above their mean, on average: that goes with the ring.
        """
        low, high = self.window.backlash_min_mm, self.window.backlash_max_mm
        read = [one.backlash for one in self.posterior.question.trials if one.backlash is not None]
        below = [one.mean_mm - one.least_mm for one in read if one.least_mm is not None]
        above = [one.greatest_mm - one.mean_mm for one in read if one.greatest_mm is not None]
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

    def _spread_at(self, look: Look, moved: bool) -> Field:
        """Deviations of what is seen, sample by sample, shape (samples, 5)."""
        deviation = self.place_deviation + (self.move_scatter if moved else 0.0)
        spread: Field = deviation @ look.place_slopes.T + self.trait_deviation @ look.trait_slopes.T
        return spread

    def _inside(self, seen: Field) -> NDArray[np.bool_]:
        middle, half = self.windows
        inside = np.asarray(np.all(np.abs(seen - middle) <= half + 1e-9, axis=-1), dtype=np.bool_)
        for row, sign, ran_off in self._run_off:
            inside = inside & (sign * (seen[:, row] - ran_off) <= -_CLEAR_OF_EDGE)
        return inside

    def expected(self, place: Field, *, moved: bool = True) -> Expected:
        """What is to be expected at a place [mm]; `moved` when another assembly lies between."""
        look = self.look(place)
        spread = self._spread_at(look, moved)
        odds = float(self._inside(look.values + spread).mean())
        return Expected(seen=look.values, backlash_sd_mm=float(spread[:, 4].std()), odds=odds)

    @cached_property
    def best_place(self) -> Field:
        """The place with the best odds, (pinion, ring) [mm].

        Notes
        -----
        Linear about `target`: odds over a square of places, the one nearest to `target` of those that are nearly best.
        """
        look = self.look(self.target)
        seen = look.values + self._spread_at(look, True)
        best, found = -1.0, self.target
        for pinion in _AROUND_MM:
            for ring in _AROUND_MM:
                shift = np.array([pinion, ring])
                odds = float(self._inside(seen + look.place_slopes @ shift).mean()) - _FAR_COSTS * float(np.abs(shift).sum())
                if odds > best:
                    best, found = odds, self.target + shift
        return np.clip(found, -FARTHEST_MM, FARTHEST_MM)

    def best_ring_mm(self, pinion_mm: float) -> float:
        """The ring's place with the best odds at a depth, [mm]."""
        ring = float(self.best_place[1])
        look = self.look(np.array([pinion_mm, ring]))
        # hold the backlash of the best place, where it does not run off its own line
        held = float(self.look(self.best_place).values[4])
        ring = float(np.clip(ring + (held - float(look.values[4])) / float(look.place_slopes[4, 1]), -FARTHEST_MM, FARTHEST_MM))
        look = self.look(np.array([pinion_mm, ring]))
        seen = look.values + self._spread_at(look, True)
        odds = [float(self._inside(seen + shift * look.place_slopes[:, 1]).mean()) - _FAR_COSTS * abs(shift) for shift in _RING_MM]
        return ring + float(_RING_MM[int(np.argmax(odds))])
