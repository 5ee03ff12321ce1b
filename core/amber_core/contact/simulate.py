"""The painted pattern and the backlash of a set for a given place of pinion and ring."""

from __future__ import annotations

from dataclasses import dataclass, field

import numpy as np

from amber_core import checks
from amber_core.contact.contact_set import USUAL_NU, USUAL_NV, contact_set
from amber_core.contact.flank_grid import POSITIONS, FlankGrid
from amber_core.contact.mesh import Errors, first_touch, flank_gap, point_closing
from amber_core.contact.pattern import EdgeShares, marked, patch
from amber_core.gearset.description import EaseOff, GearSetDescription
from amber_core.gearset.flank import Field
from amber_core.words import say


@dataclass(frozen=True, slots=True, kw_only=True)
class GridSize:
    """Nodes of a flank from toe to heel (nu) and from root to tip (nv), [-]."""

    nu: int = USUAL_NU
    nv: int = USUAL_NV

    def __post_init__(self) -> None:
        checks.within("nu", self.nu, 11, 121, say("Nodes from toe to heel must be 11 to 121."))
        checks.within("nv", self.nv, 7, 81, say("Nodes from root to tip must be 7 to 81."))


@dataclass(frozen=True, slots=True, kw_only=True)
class ContactQuestion:
    """A set and where its gears stand.

    Parameters
    ----------
    set : GearSetDescription
        The gear set.
    pinion_mm, ring_mm : float
        dP, + away from the ring axis (too shallow), and dG, + away from the pinion, [mm].
    offset_error_mm : float
        dE, + larger, [mm].
    shaft_angle_mrad : float
        dS, + larger, [mrad].
    paint_um : float
        Thickness of the marking compound, [um].
    squeeze_um : float
        Approach under the brake drag, [um]; 0 for rigid.
    grid : GridSize
        Nodes of a flank.
    want_mask : bool
        Whether the answer carries the pattern itself.
    """

    set: GearSetDescription
    pinion_mm: float
    ring_mm: float
    offset_error_mm: float = 0.0
    shaft_angle_mrad: float = 0.0
    paint_um: float = 6.0
    squeeze_um: float = 3.0
    grid: GridSize = field(default_factory=GridSize)
    want_mask: bool = False

    def __post_init__(self) -> None:
        for name in ("pinion_mm", "ring_mm", "offset_error_mm"):
            checks.within(name, getattr(self, name), -2.0, 2.0, say("Gear position must be within ±2 mm. Give it in millimetres."))
        checks.within("shaft_angle_mrad", self.shaft_angle_mrad, -20.0, 20.0, say("Shaft angle error must be within ±20 milliradians."))
        checks.within("paint_um", self.paint_um, 0.5, 50.0, say("Marking compound thickness must be 0.5 to 50 µm."))
        checks.within("squeeze_um", self.squeeze_um, 0.0, 30.0, say("Squeeze under brake drag must be 0 to 30 µm."))

    @property
    def errors(self) -> Errors:
        """The assembly errors in the model's units."""
        return Errors(
            pinion_mm=self.pinion_mm, ring_mm=self.ring_mm, offset_mm=self.offset_error_mm, shaft_rad=1e-3 * self.shaft_angle_mrad
        )


@dataclass(frozen=True, slots=True, kw_only=True)
class FlankPattern:
    """The pattern of one flank; places and shares [-], `tilt_deg` [deg], transmission errors peak to peak [urad].

    `edge` is how strongly each edge is marked; `edge_contact` the share of the roll in which that edge touches first (hard
    contact); `mask` nv x nu, 0 to 1, root first.
    """

    flank: str
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
    edge_contact: EdgeShares
    te_urad: float
    te_loaded_urad: float
    mask: list[list[float]] | None


@dataclass(frozen=True, slots=True, kw_only=True)
class ContactAnswer:
    """Both patterns, backlash as plunger and as arc [mm], `tight` when it cannot be assembled, slopes of the plunger [mm/mm]."""

    drive: FlankPattern
    coast: FlankPattern
    backlash_mm: float
    backlash_arc_mm: float
    tight: bool
    backlash_per_ring_move: float
    backlash_per_pinion_move: float


def simulate_contact(given: ContactQuestion) -> ContactAnswer:
    """Patterns and backlash from tooth geometry.

    Parameters
    ----------
    given : ContactQuestion
        Set, dP, dG, dE [mm], dS [mrad], paint and squeeze [um].

    Returns
    -------
    ContactAnswer
        Patterns of drive and coast [-], backlash [mm], slopes [mm/mm].

    Raises
    ------
    InvalidInput
        When a field is off its range, or no such set can exist.

    Notes
    -----
    Conjugate contact at every flank point, a quadratic ease-off with twist, closing at each roll angle with the neighbouring
    pairs, a light elastic layer. Rigid bodies otherwise: no deflection of housing or shafts, so no pattern under full load.

    Examples
    --------
    >>> known = GearSetDescription(ring_teeth=41, pinion_teeth=11, ring_outer_diameter_mm=215.0, offset_mm=30.0)
    >>> shallow = simulate_contact(ContactQuestion(set=known, pinion_mm=0.1, ring_mm=0.0))
    >>> shallow.drive.v > 0.5  # farther from the ring axis: toward the tip
    True
    """
    ready = contact_set(given.set, nu=given.grid.nu, nv=given.grid.nv)
    arc = ready.backlash_arc_mm(given.errors)
    pinion, ring = ready.arc_slopes(pinion_mm=given.pinion_mm, ring_mm=given.ring_mm)
    return ContactAnswer(
        drive=_pattern(ready.drive, ready.ease_drive, given),
        coast=_pattern(ready.coast, ready.ease_coast, given),
        backlash_mm=arc * ready.plunger_per_arc,
        backlash_arc_mm=arc,
        tight=arc <= 0.0,
        backlash_per_ring_move=ring * ready.plunger_per_arc,
        backlash_per_pinion_move=pinion * ready.plunger_per_arc,
    )


def _pattern(grid: FlankGrid, ease: EaseOff, given: ContactQuestion) -> FlankPattern:
    gap, rigid, loaded = flank_gap(grid, ease, given.errors, 1e-3 * given.squeeze_um)
    paint = 1e-3 * given.paint_um
    found = patch(grid, gap, paint)
    return FlankPattern(
        flank="convex" if grid.convex else "concave",
        u=found.u,
        v=found.v,
        u_min=found.u_min,
        u_max=found.u_max,
        v_min=found.v_min,
        v_max=found.v_max,
        area=found.area,
        length=found.length,
        height=found.height,
        tilt_deg=found.tilt_deg,
        edge=found.edge,
        edge_contact=_edge_contact(grid, point_closing(grid, ease, given.errors)),
        te_urad=1e6 * float(np.ptp(rigid)),
        te_loaded_urad=1e6 * float(np.ptp(loaded)),
        mask=_mask(grid, gap, paint) if given.want_mask else None,
    )


def _mask(grid: FlankGrid, gap: Field, paint: float) -> list[list[float]]:
    """How strongly each node is marked, nv x nu, root first."""
    return [[round(float(one), 3) for one in row] for row in marked(gap, paint).reshape(grid.nu, grid.nv).T]


def _edge_contact(grid: FlankGrid, eps: Field) -> EdgeShares:
    touch = first_touch(grid, eps)
    a, b = grid.samples.first[touch], grid.samples.second[touch]

    def share(values: Field, bound: float) -> float:
        return float(np.count_nonzero((values[a] == bound) & (values[b] == bound)) / POSITIONS)

    return EdgeShares(toe=share(grid.u, 0.0), heel=share(grid.u, 1.0), root=share(grid.v, 0.0), tip=share(grid.v, 1.0))
