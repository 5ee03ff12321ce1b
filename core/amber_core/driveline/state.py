"""One state of a driveline in its vehicle: one setting at one place of the axle."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from amber_core import checks
from amber_core.driveline import axes
from amber_core.driveline.chain import equivalent_deg
from amber_core.driveline.vehicle import Axle, Case, Settings, Vehicle, Worked, work
from amber_core.errors import InvalidInput
from amber_core.words import say


def settings_ok(vehicle: Vehicle, shim_mm: float | None, mount_mm: float | None) -> None:
    """Refuse a shim where there is nothing to put it under.

    Raises
    ------
    InvalidInput
        On ``shim_mm`` or ``mount_mm``.
    """
    if shim_mm and vehicle.centre_bearing is None:
        raise InvalidInput("shim_mm", say("There is no centre bearing to shim."))
    if mount_mm and vehicle.mount is None:
        raise InvalidInput("mount_mm", say("Enter the gearbox mounts first: where it is mounted and what it turns about."))


@dataclass(frozen=True, slots=True, kw_only=True)
class StateQuestion:
    """A vehicle, its wedge [deg, nose up +], centre-bearing and tail-mount shims [mm, up +], clocking [deg], and a place of the axle."""

    vehicle: Vehicle
    wedge_deg: float = 0.0
    shim_mm: float = 0.0
    mount_mm: float = 0.0
    clock_deg: list[float] | None = None
    case: Case | None = None

    def __post_init__(self) -> None:
        checks.within("wedge_deg", self.wedge_deg, -45.0, 45.0, say("Wedge angle must be less than 45 degrees."))
        for name in ("shim_mm", "mount_mm"):
            checks.within(name, getattr(self, name), -300.0, 300.0, say("Shim must be thinner than 300 mm."))
        settings_ok(self.vehicle, self.shim_mm, self.mount_mm)
        if self.clock_deg is not None:
            self.vehicle.with_clocks(self.clock_deg)


@dataclass(frozen=True, slots=True, kw_only=True)
class State:
    """Joint angles, plane angles, slopes of output and pinion, equivalent angle [deg]; shaft lengths and joint centres [mm]; unit axes
    of all members (rearward, left, up)."""

    joint_angle_deg: list[float]
    plane_angle_deg: list[float]
    output_side_deg: float
    pinion_side_deg: float
    last_shaft_mm: float
    shaft_length_mm: list[float]
    pinion_joint_mm: list[float]
    points_mm: list[list[float]]
    axes: list[list[float]]
    b_eq_deg: float


def state(given: StateQuestion) -> State:
    """Where everything stands for one setting at one place of the axle.

    Parameters
    ----------
    given : StateQuestion
        Vehicle [mm, deg], settings [deg, mm], case.

    Returns
    -------
    State
        Angles [deg], lengths and places [mm].

    Raises
    ------
    InvalidInput
        From StateQuestion, with the field.

    Notes
    -----
    A wedge turns the pinion and also moves its joint; see `vehicle.place`.

    Examples
    --------
    >>> car = Vehicle(output_joint_mm=[0, 0, 0], output_axis=[1, 0, 0], pinion_joint_mm=[1000, 0, 0], pinion_axis=[1, 0, 0],
    ...     axle_centre_mm=[1300, 0, 0])
    >>> round(state(StateQuestion(vehicle=car, wedge_deg=2)).pinion_side_deg, 6)
    2.0
    """
    return states_of(worked_of(given, [given.case or Case()]))[0]


def worked_of(given: StateQuestion, cases: list[Case]) -> Worked:
    """The geometry of one setting, solved once for all these places of the axle; the case of the question is not looked at."""
    vehicle = given.vehicle if given.clock_deg is None else given.vehicle.with_clocks(given.clock_deg)
    return work(vehicle, Settings.of(vehicle, given.wedge_deg, given.shim_mm, given.mount_mm), Axle.of(cases))


def states_of(worked: Worked) -> list[State]:
    """Where everything stands at every place of the axle, for the first setting."""
    return [_state(worked, place) for place in range(worked.beta.shape[1])]


def _state(worked: Worked, place: int) -> State:
    points, directions = worked.placed.points_mm[0, place], worked.placed.axes[0, place]
    lengths = np.linalg.norm(np.diff(points, axis=0), axis=1).tolist()
    return State(
        joint_angle_deg=np.degrees(worked.beta[0, place]).tolist(),
        plane_angle_deg=worked.eps[0, place].tolist(),
        output_side_deg=axes.side_deg(directions[0]),
        pinion_side_deg=axes.side_deg(directions[-1]),
        last_shaft_mm=lengths[-1],
        shaft_length_mm=lengths,
        pinion_joint_mm=points[-1].tolist(),
        points_mm=points.tolist(),
        axes=directions.tolist(),
        b_eq_deg=equivalent_deg(complex(worked.terms[0, place].sum())),
    )
