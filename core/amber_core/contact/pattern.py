"""What marking compound shows of a gap: the patch, its middle, extent and lean, and where it runs off."""

from __future__ import annotations

from dataclasses import dataclass
from math import atan2, degrees, sqrt

import numpy as np

from amber_core.contact.flank_grid import FlankGrid
from amber_core.gearset.flank import Field


@dataclass(frozen=True, slots=True, kw_only=True)
class EdgeShares:
    """A share for each edge of the flank, [-]."""

    toe: float
    heel: float
    root: float
    tip: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Patch:
    """The painted patch of one flank.

    `u, v` weighted centre; `u_min` to `v_max` extent; `area` share of the flank; `length`, `height` four standard deviations;
    `tilt_deg` lean of the long axis [deg]; `edge` how strongly each edge is marked; the rest [-].
    """

    u: float
    v: float
    u_min: float
    u_max: float
    v_min: float
    v_max: float
    area: float
    length: float
    height: float
    tilt_deg: float
    edge: EdgeShares
    second: list[float]


def marked(gap: Field, paint_mm: float) -> Field:
    """How strongly each node is marked, 0..1: full below 0.75 of the paint's thickness, none above 1.25."""
    strength: Field = np.clip((1.25 * paint_mm - gap) / (0.5 * paint_mm), 0.0, 1.0)
    return strength


def patch(grid: FlankGrid, gap: Field, paint_mm: float) -> Patch:
    """The patch that a gap leaves in paint of this thickness, [mm].

    Notes
    -----
    Weights are the local working depth by the trapezoid rule; the extent is that of gap < paint on the grid.
    """
    strength = marked(gap, paint_mm)
    weight = grid.weight * strength
    area = float(weight.sum())
    share = weight / area if area > 0.0 else grid.weight
    u, v = float(share @ grid.u), float(share @ grid.v)
    var_u, var_v = float(share @ (grid.u - u) ** 2), float(share @ (grid.v - v) ** 2)
    both = float(share @ ((grid.u - u) * (grid.v - v)))
    inside = gap < paint_mm
    if not inside.any():
        inside = gap == gap.min()
    shaped = strength.reshape(grid.nu, grid.nv)
    return Patch(
        u=u,
        v=v,
        u_min=float(grid.u[inside].min()),
        u_max=float(grid.u[inside].max()),
        v_min=float(grid.v[inside].min()),
        v_max=float(grid.v[inside].max()),
        area=area,
        length=4.0 * sqrt(var_u),
        height=4.0 * sqrt(var_v),
        tilt_deg=degrees(0.5 * atan2(2.0 * both, var_u - var_v)),
        edge=EdgeShares(
            toe=float(shaped[0].mean()), heel=float(shaped[-1].mean()), root=float(shaped[:, 0].mean()), tip=float(shaped[:, -1].mean())
        ),
        second=[var_u, var_v, both],
    )
