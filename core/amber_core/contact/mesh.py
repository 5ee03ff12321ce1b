"""Closing of one flank through a pitch of roll, and the gap that is left at every point.

e is the ring rotation that closes the gap at a roll position; eps that of a point alone; its course over the pitch is the
transmission error. Source: ease-off contact analysis; light load by an elastic layer along the contact lines.
"""

from __future__ import annotations

from dataclasses import dataclass
from math import sqrt

import numpy as np

from amber_core.contact.flank_grid import POSITIONS, FlankGrid, Indices
from amber_core.gearset.description import EaseOff
from amber_core.gearset.flank import Field

_MOST_STEPS = 30


@dataclass(frozen=True, slots=True, kw_only=True)
class Errors:
    """How far the gears stand from their right places: pinion dP, ring dG, offset dE [mm], shaft angle dS [rad]."""

    pinion_mm: float = 0.0
    ring_mm: float = 0.0
    offset_mm: float = 0.0
    shaft_rad: float = 0.0

    @property
    def vector(self) -> Field:
        """(dP, dG, dE, dS)."""
        return np.array([self.pinion_mm, self.ring_mm, self.offset_mm, self.shaft_rad])


NOMINAL = Errors()


def point_closing(grid: FlankGrid, ease: EaseOff, errors: Errors) -> Field:
    """eps of every node: its gap over its lever, [rad]; nan where the pinion never comes.

    Notes
    -----
    Gap g0 = L U^2 + Q V^2 -+ 2 bias sqrt(L Q) U V with U = 2(u - u0 - du), V = 2(v - v0 - dv), upper sign on the convex flank; the
    crowning slides with the pinion by (du, dv). The errors add their normal components.
    """
    slide = grid.slide @ errors.vector
    along, across = 2.0 * (grid.u - ease.u0 - slide[0]), 2.0 * (grid.v - ease.v0 - slide[1])
    length, profile = ease.length_um * 1e-3, ease.profile_um * 1e-3
    sign = 1.0 if grid.convex else -1.0
    gap = length * along**2 + profile * across**2 - sign * ease.bias * 2.0 * sqrt(length * profile) * along * across
    gap = gap + grid.response @ errors.vector
    closing: Field = np.where(np.isfinite(grid.field.roll_rad), gap / grid.lever_mm, np.nan)
    return closing


def rigid_closing(grid: FlankGrid, eps: Field) -> Field:
    """e at each roll position, rigid: the least eps of its samples, shape (K,), [rad]."""
    return touching(grid, grid.samples.at(eps))


def touching(grid: FlankGrid, at_samples: Field) -> Field:
    """The same from eps at the samples."""
    closing: Field = np.minimum.reduceat(at_samples, grid.samples.starts)
    return closing


def first_touch(grid: FlankGrid, eps: Field) -> Indices:
    """The sample that touches first at each roll position, shape (K,)."""
    values = grid.samples.at(eps)
    order = np.lexsort((values, grid.samples.position))
    return order[grid.samples.starts]


def layer_load(grid: FlankGrid, eps: Field, closing: Field) -> tuple[Field, Field]:
    """Load that an elastic layer carries at each position when closed by `closing`, and its slope; in [mm^2 rad] and [mm^2]."""
    return _sample_load(grid, grid.samples.at(eps), closing)


def _sample_load(grid: FlankGrid, at_samples: Field, closing: Field) -> tuple[Field, Field]:
    pressed = np.take(closing, grid.samples.position) - at_samples
    length = grid.samples.length_mm2
    load = np.add.reduceat(length * np.maximum(pressed, 0.0), grid.samples.starts)
    slope = np.add.reduceat(length * (pressed > 0.0), grid.samples.starts)
    return load, slope


def loaded_closing(grid: FlankGrid, eps: Field, *, load: float, squeeze_mm: float) -> Field:
    """e at each roll position under a light constant torque, shape (K,), [rad].

    Notes
    -----
    Newton on a convex, piecewise linear function, from above, so it converges without a damping.
    """
    at_samples = grid.samples.at(eps)
    return settled(grid, at_samples, touching(grid, at_samples), load=load, squeeze_mm=squeeze_mm)


def settled(grid: FlankGrid, at_samples: Field, rigid: Field, *, load: float, squeeze_mm: float) -> Field:
    """The same from eps at the samples and the rigid closing, for whoever has them already."""
    if squeeze_mm <= 0.0:
        return rigid
    hair = squeeze_mm / float(grid.lever_mm.mean())
    closing = rigid + 4.0 * hair
    for _ in range(_MOST_STEPS):
        carried, slope = _sample_load(grid, at_samples, closing)
        # no sample on a line u = const is pressed yet: close a little more
        step = np.where(slope > 0.0, (carried - load) / np.where(slope > 0.0, slope, 1.0), -hair)
        closing = np.maximum(closing - step, rigid)
        if float(np.abs(step).max()) < 1e-15:
            break
    return closing


def gap_mm(grid: FlankGrid, eps: Field, closing: Field) -> Field:
    """Gap left at every node when its roll position is closed, [mm]; infinite where the pinion never comes."""
    where = grid.field.roll_rad / grid.pitch_rad * POSITIONS
    low = np.floor(np.nan_to_num(where))
    share = np.nan_to_num(where) - low
    at = low.astype(np.int64)
    closed = closing[at % POSITIONS] * (1.0 - share) + closing[(at + 1) % POSITIONS] * share
    gap: Field = np.where(np.isfinite(eps), grid.lever_mm * (np.nan_to_num(eps) - closed), np.inf)
    return gap


def brake_load(grid: FlankGrid, ease: EaseOff, squeeze_mm: float) -> float:
    """The load that squeezes a set at its right place by `squeeze_mm`, [mm^2 rad]: the brake drags alike wherever it stands."""
    eps = point_closing(grid, ease, NOMINAL)
    closing = rigid_closing(grid, eps) + squeeze_mm / float(grid.lever_mm.mean())
    return float(layer_load(grid, eps, closing)[0].mean())


def flank_gap(grid: FlankGrid, ease: EaseOff, errors: Errors, squeeze_mm: float) -> tuple[Field, Field, Field]:
    """Gap under the brake's drag at the nodes [mm], rigid and loaded closing at the roll positions [rad]."""
    eps = point_closing(grid, ease, errors)
    loaded = loaded_closing(grid, eps, load=brake_load(grid, ease, squeeze_mm), squeeze_mm=squeeze_mm)
    return gap_mm(grid, eps, loaded), rigid_closing(grid, eps), loaded
