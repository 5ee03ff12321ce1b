"""One flank on a grid, with all that does not depend on where the gears stand: made once for a set.

Symbols: phi roll angle of a point, one roll position = all contact lines phi = phi0 + k pitch, pitch = 2 pi/z2, K positions a
pitch; a sample is where a grid edge crosses a position. Source: ease-off contact analysis.
"""

from __future__ import annotations

from dataclasses import dataclass
from math import hypot, pi

import numpy as np
from numpy.typing import NDArray

from amber_core.errors import InvalidInput
from amber_core.gearset.flank import Field, FlankField, conjugate_field, local_depth_mm
from amber_core.gearset.macro import Macro
from amber_core.words import say

POSITIONS = 48
"""Roll positions in a pitch, K [-]."""
STEEPEST = 5.0
"""A contact line that runs along u = const is not counted longer than this many grid steps, [-]."""

Indices = NDArray[np.int64]


@dataclass(frozen=True, slots=True, kw_only=True)
class Samples:
    """Crossings of grid edges with roll positions, sorted by position.

    `first` and `second` are node indices of the edge, `share` the weight of the second; `starts` begins each position's run.
    `length_mm2` is w = ds m^2/R of the light load, 0 on edges that do not lie on lines u = const, [mm^2].
    """

    first: Indices
    second: Indices
    share: Field
    position: Indices
    starts: Indices
    length_mm2: Field

    def at(self, node_values: Field) -> Field:
        """Values of nodes (flat) interpolated to the samples."""
        interpolated: Field = np.take(node_values, self.first) * (1.0 - self.share) + np.take(node_values, self.second) * self.share
        return interpolated


@dataclass(frozen=True, slots=True, kw_only=True)
class FlankGrid:
    """A flank on nu x nv nodes, flattened with v running fastest.

    `response` holds the change of the gap for the errors (dP, dG, dE, dS), shape (nodes, 4), [mm/mm, mm/rad]; `slide` that of
    the crowning's place (du, dv) for them, shape (2, 4), [1/mm, 1/rad]; `weight` the area's weights, adding up to 1.
    """

    convex: bool
    nu: int
    nv: int
    field: FlankField
    response: Field
    slide: Field
    weight: Field
    samples: Samples
    heel_lever_mm: float
    pitch_rad: float

    @property
    def u(self) -> Field:
        """u of the nodes, flat."""
        return self.field.u

    @property
    def v(self) -> Field:
        """v of the nodes, flat."""
        return self.field.v

    @property
    def lever_mm(self) -> Field:
        """|m| of the nodes, flat, [mm]."""
        return self.field.lever_mm


def build_grid(macro: Macro, *, convex: bool, nu: int, nv: int) -> FlankGrid:
    """Lay a grid over one flank and find its samples.

    Parameters
    ----------
    macro : Macro
        The set.
    convex : bool
        Which ring flank.
    nu, nv : int
        Nodes from toe to heel and from root to tip, [-].

    Returns
    -------
    FlankGrid
        All that does not depend on the assembly errors.

    Raises
    ------
    InvalidInput
        When no such tooth can be cut, or its flanks hardly meet.
    """
    u, v = (axis.ravel() for axis in np.meshgrid(np.linspace(0.0, 1.0, nu), np.linspace(0.0, 1.0, nv), indexing="ij"))
    field = conjugate_field(macro, convex=convex, u=u, v=v)
    if np.count_nonzero(np.isfinite(field.roll_rad)) < u.size // 2:
        raise InvalidInput("", say("Most of this flank never meets the pinion. Check the offset, the spiral angle and the cutter radius."))
    x, z = field.place[:, 0], field.place[:, 2]
    n = field.normal
    response = np.column_stack([n[:, 0], n[:, 2], -n[:, 1], n[:, 2] * x - n[:, 0] * z])
    ends = conjugate_field(macro, convex=convex, u=np.array([0.5, 1.0]), v=np.array([0.5, 0.5]))
    return FlankGrid(
        convex=convex,
        nu=nu,
        nv=nv,
        field=field,
        response=response,
        slide=_slide(macro, ends.place[0]),
        weight=_weight(macro, u, nu, nv),
        samples=_samples(macro, field, nu, nv),
        heel_lever_mm=float(ends.lever_mm[1]),
        pitch_rad=2.0 * pi / macro.given.ring_teeth,
    )


def _slide(macro: Macro, middle: Field) -> Field:
    """How far the crowning, which sits on the pinion, slides over the ring for each error."""
    x, y, z = (float(one) for one in middle)
    radius = hypot(x, y)
    along_radius = np.array([x / radius, 0.0, -y / radius, -z * x / radius])
    along_axis = np.array([0.0, 1.0, 0.0, x])
    sine, cosine = np.sin(macro.ring_pitch_rad), np.cos(macro.ring_pitch_rad)
    return np.array(
        [
            (along_radius * sine - along_axis * cosine) / macro.given.face_mm,
            (along_radius * cosine + along_axis * sine) / macro.depth_mm,
        ]
    )


def _trapezoid(count: int) -> Field:
    weights = np.ones(count)
    weights[[0, -1]] = 0.5
    return weights


def _weight(macro: Macro, u: Field, nu: int, nv: int) -> Field:
    weights: Field = local_depth_mm(macro, u) * np.outer(_trapezoid(nu), _trapezoid(nv)).ravel()
    share: Field = weights / weights.sum()
    return share


def _samples(macro: Macro, field: FlankField, nu: int, nv: int) -> Samples:
    nodes = np.arange(nu * nv).reshape(nu, nv)
    across = (nodes[:, :-1].ravel(), nodes[:, 1:].ravel())  # along lines u = const
    along = (nodes[:-1, :].ravel(), nodes[1:, :].ravel())
    first, second = np.concatenate([across[0], along[0]]), np.concatenate([across[1], along[1]])
    on_u_line = np.arange(first.size) < across[0].size
    step = 2.0 * pi / macro.given.ring_teeth / POSITIONS
    begin, end = field.roll_rad[first] / step, field.roll_rad[second] / step
    met = np.isfinite(begin) & np.isfinite(end) & (begin != end)
    first, second, begin, end, on_u_line = first[met], second[met], begin[met], end[met], on_u_line[met]
    low = np.ceil(np.minimum(begin, end)).astype(np.int64)
    many = np.floor(np.maximum(begin, end)).astype(np.int64) - low + 1
    edge = np.repeat(np.arange(first.size), many)
    crossed = low[edge] + np.arange(edge.size) - np.repeat(np.cumsum(many) - many, many)
    share = (crossed - begin[edge]) / (end[edge] - begin[edge])
    order = np.argsort(crossed % POSITIONS, kind="stable")
    edge, share, position = edge[order], share[order], (crossed % POSITIONS)[order]
    present, starts = np.unique(position, return_index=True)
    if present.size != POSITIONS:
        raise InvalidInput("grid", say("The grid is too coarse to follow a tooth through its mesh. Use more nodes."))
    node_length = _line_length(macro, field, nu, nv)
    samples = Samples(
        first=first[edge],
        second=second[edge],
        share=share,
        position=position,
        starts=starts.astype(np.int64),
        length_mm2=np.zeros(edge.size),
    )
    loaded = samples.at(node_length) * samples.at(field.lever_mm) ** 2 / macro.mean_radius_mm
    return Samples(
        first=samples.first,
        second=samples.second,
        share=share,
        position=position,
        starts=samples.starts,
        length_mm2=np.where(on_u_line[edge], loaded, 0.0),
    )


def _line_length(macro: Macro, field: FlankField, nu: int, nv: int) -> Field:
    """Length of contact line that belongs to a crossing of a line u = const, at the nodes, [mm]."""
    roll = field.roll_rad.reshape(nu, nv)
    along, across = np.gradient(roll, 1.0 / (nu - 1), 1.0 / (nv - 1))
    face, depth = macro.given.face_mm, local_depth_mm(macro, field.u).reshape(nu, nv)
    with np.errstate(divide="ignore", invalid="ignore"):
        steepness = np.sqrt(1.0 + (depth * along / (face * across)) ** 2)
    length: Field = face / (nu - 1) * np.minimum(STEEPEST, np.nan_to_num(steepness, nan=STEEPEST, posinf=STEEPEST)).ravel()
    return length
