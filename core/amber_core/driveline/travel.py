"""Suspension travel: plunge of the slip joint and the joints' largest angles, from droop to bump."""

from __future__ import annotations

from dataclasses import dataclass
from math import hypot

import numpy as np

from amber_core import checks
from amber_core.driveline.state import settings_ok
from amber_core.driveline.vehicle import Axle, Field, Settings, Vehicle, work
from amber_core.errors import InvalidInput
from amber_core.words import say

STEPS = 181


@dataclass(frozen=True, slots=True, kw_only=True)
class TravelQuestion:
    """A vehicle and how its axle travels.

    Parameters
    ----------
    vehicle : Vehicle
        At ride height; its cases are not used.
    droop_mm, bump_mm : float
        How far the axle goes down (negative) and up, [mm].
    pivot_mm : list of float, optional
        Side-view pivot of the arm or of the front half of the spring: rearward, up, [mm]; straight up and down without.
    pitch_ratio : float
        Turn of the axle over the turn of the arm: 1 fixed to it, 0 parallel links, [-].
    wedge_deg, shim_mm, mount_mm : float
        As in `driveline.state`.
    """

    vehicle: Vehicle
    droop_mm: float
    bump_mm: float
    pivot_mm: list[float] | None = None
    pitch_ratio: float = 1.0
    wedge_deg: float = 0.0
    shim_mm: float = 0.0
    mount_mm: float = 0.0

    def __post_init__(self) -> None:
        checks.within("droop_mm", self.droop_mm, -600.0, 0.0, say("Droop must be −600 to 0 mm."))
        checks.within("bump_mm", self.bump_mm, 0.0, 600.0, say("Bump must be 0 to 600 mm."))
        checks.within("pitch_ratio", self.pitch_ratio, -1.0, 2.0, say("Axle turn per arm turn must be −1 to 2."))
        checks.within("wedge_deg", self.wedge_deg, -45.0, 45.0, say("Wedge angle must be less than 45 degrees."))
        settings_ok(self.vehicle, self.shim_mm, self.mount_mm)
        if self.pivot_mm is not None:
            if len(self.pivot_mm) != 2:
                raise InvalidInput("pivot_mm", say("Give two numbers for the pivot: rearward and up."))
            arm = np.subtract(np.array(self.vehicle.axle_centre_mm)[[0, 2]], self.pivot_mm)
            reach = max(abs(arm[1] + self.droop_mm), abs(arm[1] + self.bump_mm))
            if hypot(*arm) <= reach + 1.0 or abs(arm[0]) < 1.0:
                raise InvalidInput("pivot_mm", say("The arm is too short for this travel. Check the pivot."))

    def axle(self, dz_mm: Field) -> Axle:
        """Places of the axle at heights dz [mm]."""
        move, pitch = axle_path(self.vehicle, dz_mm, self.pivot_mm, self.pitch_ratio)
        return Axle(np.stack([move, np.zeros_like(dz_mm), dz_mm], axis=-1), pitch)


def axle_path(vehicle: Vehicle, dz_mm: Field, pivot_mm: list[float] | None, pitch_ratio: float) -> tuple[Field, Field]:
    """Rearward move [mm] and nose-up turn [deg] of the axle at heights dz [mm].

    Notes
    -----
    The arm keeps its radius: x1 = sign sqrt(R^2 - z1^2). With phi its change of elevation, seen from the pivot outward, pitch = -ratio phi
    when the pivot lies on the nose side of the axle (bump lowers the nose), +ratio phi otherwise.
    """
    if pivot_mm is None:
        return np.zeros_like(dz_mm), np.zeros_like(dz_mm)
    x0 = vehicle.axle_centre_mm[0] - pivot_mm[0]
    z0 = vehicle.axle_centre_mm[2] - pivot_mm[1]
    z1 = z0 + dz_mm
    x1 = np.sign(x0) * np.sqrt(x0**2 + z0**2 - z1**2)
    phi = np.arctan2(z1, np.abs(x1)) - np.arctan2(z0, abs(x0))
    nose_side = x0 * vehicle.forward > 0.0
    return x1 - x0, np.degrees(-pitch_ratio * phi if nose_side else pitch_ratio * phi)


@dataclass(frozen=True, slots=True, kw_only=True)
class TravelPoint:
    """One height of the axle [mm]: length of the slip shaft [mm], joint angles and equivalent angle [deg]."""

    dz_mm: float
    length_mm: float
    joint_angle_deg: list[float]
    b_eq_deg: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Travel:
    """Length of the slip shaft at ride, at its shortest and longest, fully down and fully up [mm], and where the extremes lie [mm];
    how far it is pushed in and drawn out from ride [mm]; largest angle of every joint and largest equivalent angle [deg]; the sweep."""

    length_ride_mm: float
    length_min_mm: float
    length_max_mm: float
    shortest_at_mm: float
    longest_at_mm: float
    length_droop_mm: float
    length_bump_mm: float
    plunge_in_mm: float
    plunge_out_mm: float
    joint_max_deg: list[float]
    joint_max_at_mm: list[float]
    b_eq_max_deg: float
    sweep: list[TravelPoint]


def travel(given: TravelQuestion) -> Travel:
    """Sweep the axle from droop to bump.

    Parameters
    ----------
    given : TravelQuestion
        Vehicle, travel [mm], path.

    Returns
    -------
    Travel
        Lengths between the joint centres of the last shaft, which carries the slip joint, [mm]; angles [deg].

    Raises
    ------
    InvalidInput
        From TravelQuestion, with the field.

    Notes
    -----
    181 heights and ride itself. The extremes need not lie at the ends: the shaft is longest or shortest where it passes square to the
    path. Measured places of the axle beat any model of its path.

    Examples
    --------
    >>> car = Vehicle(output_joint_mm=[0, 0, 0], output_axis=[1, 0, 0], pinion_joint_mm=[1000, 0, 0], pinion_axis=[1, 0, 0],
    ...     axle_centre_mm=[1300, 0, 0])
    >>> round(travel(TravelQuestion(vehicle=car, droop_mm=-100, bump_mm=100)).plunge_out_mm, 2)
    4.99
    """
    heights = np.union1d(np.linspace(given.droop_mm, given.bump_mm, STEPS), [0.0])
    settings = Settings.of(given.vehicle, given.wedge_deg, given.shim_mm, given.mount_mm)
    worked = work(given.vehicle, settings, given.axle(heights))
    points = worked.placed.points_mm[0]
    last = points[:, -1] - points[:, -2]
    lengths = np.linalg.norm(last, axis=-1)
    angles, residual = np.degrees(worked.beta[0]), np.degrees(np.sqrt(worked.residual[0]))
    ride = float(lengths[int(np.argmin(np.abs(heights)))])
    shortest, longest = int(lengths.argmin()), int(lengths.argmax())
    return Travel(
        length_ride_mm=ride,
        length_min_mm=float(lengths[shortest]),
        length_max_mm=float(lengths[longest]),
        shortest_at_mm=float(heights[shortest]),
        longest_at_mm=float(heights[longest]),
        length_droop_mm=float(lengths[0]),
        length_bump_mm=float(lengths[-1]),
        plunge_in_mm=ride - float(lengths[shortest]),
        plunge_out_mm=float(lengths[longest]) - ride,
        joint_max_deg=angles.max(axis=0).tolist(),
        joint_max_at_mm=heights[angles.argmax(axis=0)].tolist(),
        b_eq_max_deg=float(residual.max()),
        sweep=[
            TravelPoint(dz_mm=float(height), length_mm=float(length), joint_angle_deg=row.tolist(), b_eq_deg=float(left))
            for height, length, row, left in zip(heights, lengths, angles, residual, strict=True)
        ],
    )
