"""What a gear set shows at a place, and how that changes with the place and with the set's own traits, in one pass.

Symbols: dP, dG place of pinion and ring; L, Q crowning along and across; eps closing of a node, e of a roll position; W strength of
the mark. Slopes are those of the same grid: derivatives of contact/mesh.py and contact/pattern.py, node by node.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from math import exp, sqrt

import numpy as np

from amber_core.contact.contact_set import ContactSet, contact_set
from amber_core.contact.flank_grid import POSITIONS, FlankGrid, Indices
from amber_core.contact.mesh import NOMINAL, Errors, layer_load, point_closing, settled, touching
from amber_core.gearset.description import EaseOff, GearSetDescription
from amber_core.gearset.flank import Field

COARSE_NU, COARSE_NV = 25, 15
TRAITS = 8
SEEN = ("drive.u", "drive.v", "coast.u", "coast.v", "backlash")
PAINT_MM, SQUEEZE_MM = 6e-3, 3e-3
_WAYS = 5  # dP, dG, log L, log Q, twist


@dataclass(frozen=True)
class Look:
    """Seen at a place: values of `SEEN`, shape (5,), [-, mm]; slopes for (pinion, ring), shape (5, 2), and for the traits, (5, 8)."""

    values: Field
    place_slopes: Field
    trait_slopes: Field


class SetModel:
    """A set described, to be looked at from any place with any traits.

    Traits, shape (8,): shifts of the patches' middles (drive u, v, coast u, v) [-], backlash at the right place less `middle_mm` [mm],
    log of crowning along and across [-], twist less the description's [-].
    """

    def __init__(self, description: GearSetDescription, middle_mm: float) -> None:
        self.ready: ContactSet = contact_set(description, nu=COARSE_NU, nv=COARSE_NV)
        self.middle_mm = middle_mm
        self._flanks = (_Flank(self.ready.drive), _Flank(self.ready.coast))
        self._nominal: tuple[bytes, float, Field] | None = None

    def look_at(self, place: Field, traits: Field) -> Look:
        """What is seen at a place, (pinion, ring) [mm]."""
        marks = self._marks(place, traits)
        slopes, closing = np.zeros((5, _WAYS)), np.zeros(_WAYS)
        for row, flank, mark in zip((0, 2), self._flanks, marks, strict=True):
            slopes[row : row + 2], own = flank.slopes_of(mark)
            closing += own
        _, right = self._right_place(traits[5:8], [mark.ease for mark in marks])
        slopes[4] = self._plunger * (closing - right)
        values = self._values(marks, traits)
        return Look(values=values, place_slopes=slopes[:, :2], trait_slopes=np.hstack([np.eye(5), slopes[:, 2:]]))

    def values_at(self, place: Field, traits: Field) -> Field:
        """The same without its slopes: values of `SEEN`, shape (5,)."""
        return self._values(self._marks(place, traits), traits)

    def _marks(self, place: Field, traits: Field) -> list[_Marks]:
        errors = Errors(pinion_mm=float(place[0]), ring_mm=float(place[1]))
        eases = (self.ready.ease_drive, self.ready.ease_coast)
        return [flank.marks(eased(ease, traits), errors) for flank, ease in zip(self._flanks, eases, strict=True)]

    def _values(self, marks: list[_Marks], traits: Field) -> Field:
        right, _ = self._right_place(traits[5:8], [mark.ease for mark in marks])
        backlash = self.middle_mm + self._plunger * (sum(float(mark.rigid.mean()) for mark in marks) - right)
        found: Field = np.concatenate([*(mark.middle for mark in marks), [backlash]]) + traits[:5]
        return found

    @property
    def _plunger(self) -> float:
        """What the dial shows for a closing, [mm/rad]."""
        return self.ready.outer_mm * self.ready.plunger_per_arc

    def _right_place(self, crowning: Field, eases: list[EaseOff]) -> tuple[float, Field]:
        """Closing at the right place, and its slopes; kept for the crowning last asked about."""
        key = crowning.tobytes()
        if self._nominal is None or self._nominal[0] != key:
            found = [flank.rigid(ease, NOMINAL) for flank, ease in zip(self._flanks, eases, strict=True)]
            slopes = sum((one[1] for one in found), np.zeros(_WAYS))
            slopes[:2] = 0.0  # the right place does not move with the gears
            self._nominal = key, sum(one[0] for one in found), slopes
        return self._nominal[1], self._nominal[2]


def eased(ease: EaseOff, traits: Field) -> EaseOff:
    """The relief of a flank with the set's own crowning and twist."""
    bias = float(np.clip(ease.bias + traits[7], -0.95, 0.95))
    along, across = (exp(float(np.clip(one, -1.5, 1.5))) for one in traits[5:7])
    length = float(np.clip(ease.length_um * along, 1.0, 500.0))
    return replace(ease, length_um=length, profile_um=float(np.clip(ease.profile_um * across, 1.0, 200.0)), bias=bias)


@dataclass(frozen=True)
class _Marks:
    """A painted flank: the middle of its patch (u, v) and, for the slopes, what it was worked out by."""

    ease: EaseOff
    errors: Errors
    at: Field
    rigid: Field
    loaded: Field
    strength: Field
    area: float
    middle: Field


class _Flank:
    """One flank with what its slopes need."""

    def __init__(self, grid: FlankGrid) -> None:
        self.grid = grid
        self.valid = np.isfinite(grid.field.roll_rad)
        where = np.nan_to_num(grid.field.roll_rad) / grid.pitch_rad * POSITIONS
        low = np.floor(where)
        self.share = where - low
        self.low = low.astype(np.int64) % POSITIONS
        self.high = (self.low + 1) % POSITIONS
        self._load: tuple[tuple[float, float, float], float, Field] | None = None

    def slopes(self, ease: EaseOff, errors: Errors) -> Field:
        """Change of eps at the nodes, shape (nodes, 5)."""
        grid = self.grid
        slide = grid.slide @ errors.vector
        along, across = 2.0 * (grid.u - ease.u0 - slide[0]), 2.0 * (grid.v - ease.v0 - slide[1])
        length, profile, root = ease.length_um * 1e-3, ease.profile_um * 1e-3, sqrt(ease.length_um * ease.profile_um) * 1e-3
        lean = (1.0 if grid.convex else -1.0) * root
        twist = lean * ease.bias * along * across
        by_along, by_across = (length * along - ease.bias * lean * across), (profile * across - ease.bias * lean * along)
        gap = np.empty((grid.u.size, _WAYS))
        gap[:, :2] = grid.response[:, :2] - 4.0 * (np.outer(by_along, grid.slide[0, :2]) + np.outer(by_across, grid.slide[1, :2]))
        gap[:, 2], gap[:, 3] = length * along**2 - twist, profile * across**2 - twist
        gap[:, 4] = -2.0 * lean * along * across
        return gap / grid.lever_mm[:, None]

    def at_samples(self, node_slopes: Field, which: Indices) -> Field:
        """Slopes of nodes carried to some of the samples."""
        samples = self.grid.samples
        first, second, share = samples.first[which], samples.second[which], samples.share[which, None]
        carried: Field = node_slopes[first] * (1.0 - share) + node_slopes[second] * share
        return carried

    def first_touch(self, at: Field, closing: Field) -> Indices:
        """The sample that touches first at each roll position, from eps at the samples."""
        samples = self.grid.samples
        hit = np.flatnonzero(at <= np.take(closing, samples.position))
        return hit[np.searchsorted(samples.position[hit], np.arange(POSITIONS))]

    def rigid(self, ease: EaseOff, errors: Errors) -> tuple[float, Field]:
        """Mean rigid closing [rad] and its slopes, shape (5,)."""
        eps = point_closing(self.grid, ease, errors)
        at = self.grid.samples.at(eps)
        closing = touching(self.grid, at)
        first = self.first_touch(at, closing)
        return float(closing.mean()), self.at_samples(self.slopes(ease, errors), first).mean(axis=0)

    def load(self, ease: EaseOff) -> tuple[float, Field]:
        """The brake's load and its slopes for the crowning; kept for the relief last asked about."""
        key = (ease.length_um, ease.profile_um, ease.bias)
        if self._load is None or self._load[0] != key:
            grid, samples = self.grid, self.grid.samples
            eps = point_closing(grid, ease, NOMINAL)
            at = samples.at(eps)
            rigid = touching(grid, at)
            closing = rigid + SQUEEZE_MM / float(grid.lever_mm.mean())
            carried = float(layer_load(grid, eps, closing)[0].mean())
            node_slopes = self.slopes(ease, NOMINAL)
            rigid_slopes = self.at_samples(node_slopes, self.first_touch(at, rigid))
            pressed = np.flatnonzero((closing[samples.position] > at) & (samples.length_mm2 > 0.0))
            weighed: Field = samples.length_mm2[pressed, None] * (
                rigid_slopes[samples.position[pressed]] - self.at_samples(node_slopes, pressed)
            )
            slopes = weighed.sum(axis=0) / POSITIONS
            slopes[:2] = 0.0  # the load is that of the right place
            self._load = key, carried, slopes
        return self._load[1], self._load[2]

    def marks(self, ease: EaseOff, errors: Errors) -> _Marks:
        """The painted patch and the closing."""
        grid = self.grid
        eps = point_closing(grid, ease, errors)
        at = grid.samples.at(eps)
        rigid = touching(grid, at)
        loaded = settled(grid, at, rigid, load=self.load(ease)[0], squeeze_mm=SQUEEZE_MM)
        closed = loaded[self.low] * (1.0 - self.share) + loaded[self.high] * self.share
        gap = np.where(self.valid, grid.lever_mm * (np.nan_to_num(eps) - closed), np.inf)
        strength = np.clip((1.25 * PAINT_MM - gap) / (0.5 * PAINT_MM), 0.0, 1.0)
        marked = grid.weight * strength
        area = max(float(marked.sum()), 1e-12)
        middle = np.array([float(marked @ grid.u), float(marked @ grid.v)]) / area
        return _Marks(ease=ease, errors=errors, at=at, rigid=rigid, loaded=loaded, strength=strength, area=area, middle=middle)

    def slopes_of(self, marks: _Marks) -> tuple[Field, Field]:
        """Slopes of the patch's middle, shape (2, 5), and of the mean closing, (5,)."""
        grid, samples = self.grid, self.grid.samples
        node_slopes, loaded, strength = self.slopes(marks.ease, marks.errors), marks.loaded, marks.strength
        pressed = np.flatnonzero((np.take(loaded, samples.position) > marks.at) & (samples.length_mm2 > 0.0))
        weight, position = samples.length_mm2[pressed], samples.position[pressed]
        weighed = weight[:, None] * self.at_samples(node_slopes, pressed)
        held = np.maximum(np.bincount(position, weight, POSITIONS), 1e-12)
        pushed = np.column_stack([np.bincount(position, weighed[:, way], POSITIONS) for way in range(_WAYS)])
        loaded_slopes = (self.load(marks.ease)[1] + pushed) / held[:, None]
        fading = np.flatnonzero((strength > 0.0) & (strength < 1.0))
        share = self.share[fading, None]
        closed_slopes = loaded_slopes[self.low[fading]] * (1.0 - share) + loaded_slopes[self.high[fading]] * share
        gap_slopes = grid.lever_mm[fading, None] * (node_slopes[fading] - closed_slopes)
        fainter = -grid.weight[fading, None] * gap_slopes / (0.5 * PAINT_MM)
        arms = np.vstack([grid.u[fading] - marks.middle[0], grid.v[fading] - marks.middle[1]])
        first = self.at_samples(node_slopes, self.first_touch(marks.at, marks.rigid))
        return arms @ fainter / marks.area, first.mean(axis=0)
