"""A driveline in its vehicle: where its joints stand for a wedge, shims, clocking, and a place of the axle."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np
import numpy.typing as npt

from amber_core import checks
from amber_core.driveline import axes
from amber_core.driveline.axes import AxisAngles, Chain, Vectors
from amber_core.driveline.chain import Complex, JointKind, jumps, shares_ok, terms, weights
from amber_core.errors import InvalidInput
from amber_core.words import say

Field = npt.NDArray[np.float64]
MOST_CASES = 60


@dataclass(frozen=True, slots=True, kw_only=True)
class Case:
    """A place of the axle against ride height.

    Parameters
    ----------
    name : str
        For people.
    dx_mm, dy_mm, dz_mm : float
        Move of the axle's centre rearward, left, up (bump), [mm].
    pitch_deg, wrap_deg : float
        Turn of the axle by the suspension, and by its springs under torque; nose up +, [deg].
    weight : float
        How much the case counts, [-].
    rpm : float, optional
        Shaft speed in this case when it is not the common one, [rpm].
    """

    name: str = ""
    dx_mm: float = 0.0
    dy_mm: float = 0.0
    dz_mm: float = 0.0
    pitch_deg: float = 0.0
    wrap_deg: float = 0.0
    weight: float = 1.0
    rpm: float | None = None

    def __post_init__(self) -> None:
        for name in ("dx_mm", "dy_mm", "dz_mm"):
            checks.within(name, getattr(self, name), -600.0, 600.0, say("Axle travel must be less than 600 mm. Give it in millimetres."))
        for name in ("pitch_deg", "wrap_deg"):
            checks.within(name, getattr(self, name), -45.0, 45.0, say("Axle turn must be less than 45 degrees."))
        checks.within("weight", self.weight, 0.0, 1e6, say("Weight must be 0 or more."))
        checks.within("rpm", self.rpm, 0.0, 20000.0, say("Shaft speed must be 0 to 20 000 rpm."))


@dataclass(frozen=True, slots=True, kw_only=True)
class CentreBearing:
    """Middle of a centre bearing [mm], and how far behind the joint ahead of its shaft the joint behind it lies, along the shaft [mm]."""

    bearing_mm: list[float]
    joint_from_front_mm: float

    def __post_init__(self) -> None:
        axes.point(self.bearing_mm, "bearing_mm")
        checks.within("joint_from_front_mm", self.joint_from_front_mm, 20.0, 5000.0, say("Shaft length must be 20 to 5 000 mm."))


@dataclass(frozen=True, slots=True, kw_only=True)
class Mount:
    """What the gearbox or transfer case turns about (its front mounts) and where it is shimmed (its tail mount), [mm]."""

    pivot_mm: list[float]
    mount_mm: list[float]

    def __post_init__(self) -> None:
        pivot, mount = axes.point(self.pivot_mm, "pivot_mm"), axes.point(self.mount_mm, "mount_mm")
        if mount[0] - pivot[0] < 50.0:
            raise InvalidInput("mount_mm", say("The tail mount lies behind the front mounts: at least 50 mm."))


@dataclass(frozen=True, slots=True, kw_only=True)
class Vehicle:
    """A driveline as it stands at ride height.

    Parameters
    ----------
    output_joint_mm, pinion_joint_mm : list of float
        First and last joint centre: rearward, left, up, [mm].
    output_axis, pinion_axis : list of float or AxisAngles
        End axes along the chain.
    axle_centre_mm : list of float
        A point of the wheel axis, about which the axle turns, [mm].
    clock_deg : list of float
        Clocking of every shaft, [deg].
    joints, front_share : list
        As in a chain of joints.
    cases : list of Case
        Places of the axle; ride height alone when left out.
    centre_bearing, second_bearing : CentreBearing, optional
        Of a shaft in two or three parts.
    mount : Mount, optional
        How the output can be raised or lowered.
    chain : {"rear", "front"}
        Which way the driveline runs.
    """

    output_joint_mm: list[float]
    output_axis: list[float] | AxisAngles
    pinion_joint_mm: list[float]
    pinion_axis: list[float] | AxisAngles
    axle_centre_mm: list[float]
    clock_deg: list[float] | None = None
    joints: list[JointKind] | None = None
    front_share: list[float] | None = None
    cases: list[Case] | None = None
    centre_bearing: CentreBearing | None = None
    second_bearing: CentreBearing | None = None
    mount: Mount | None = None
    chain: Chain = "rear"

    def __post_init__(self) -> None:
        for name in ("output_joint_mm", "pinion_joint_mm", "axle_centre_mm"):
            axes.point(getattr(self, name), name)
        for name in ("output_axis", "pinion_axis"):
            axes.axis_vector(getattr(self, name), name, self.chain)
        if self.second_bearing is not None and self.centre_bearing is None:
            raise InvalidInput("centre_bearing", say("A second centre bearing needs a first one."))
        for name, wanted, what in (
            ("clock_deg", self.shaft_count, say("a clocking for every propshaft")),
            ("joints", self.shaft_count + 1, say("a kind for every joint")),
        ):
            value = getattr(self, name)
            if value is not None and len(value) != wanted:
                raise InvalidInput(name, say("Give {what}: {wanted}, not {count}.", what=what, wanted=wanted, count=len(value)))
        if self.front_share is not None:
            shares_ok(self.front_share, self.shaft_count + 1)
        if self.cases is not None and not 1 <= len(self.cases) <= MOST_CASES:
            raise InvalidInput("cases", say("Give 1 to {most_cases} axle positions.", most_cases=MOST_CASES))
        if self.cases is not None and sum(one.weight for one in self.cases) <= 0.0:
            raise InvalidInput("cases", say("At least one axle position must have a weight of more than 0."))
        ends = np.subtract(self.pinion_joint_mm, self.output_joint_mm)
        if float(np.linalg.norm(ends)) < 50.0:
            raise InvalidInput("pinion_joint_mm", say("The propshaft is shorter than 50 mm. Check the two joint centres."))
        if (ends[0] > 0.0) != (self.chain == "rear"):
            text = (
                say("A rear driveline runs rearward from the output. X points rearward: check the sign.")
                if self.chain == "rear"
                else say("A front driveline runs forward from the output. X points rearward: check the sign.")
            )
            raise InvalidInput("pinion_joint_mm", text)

    @property
    def bearings(self) -> list[CentreBearing]:
        """Centre bearings, front to axle."""
        return [one for one in (self.centre_bearing, self.second_bearing) if one is not None]

    @property
    def shaft_count(self) -> int:
        """How many shafts there are."""
        return 1 + sum(one is not None for one in (self.centre_bearing, self.second_bearing))

    @property
    def kinds(self) -> list[JointKind]:
        """Kind of every joint."""
        return self.joints if self.joints is not None else ["cardan"] * (self.shaft_count + 1)

    @property
    def shares(self) -> list[float]:
        """Share of the front half of every joint."""
        return self.front_share if self.front_share is not None else [0.5] * (self.shaft_count + 1)

    @property
    def clocks(self) -> list[float]:
        """Clocking of every shaft, [deg]."""
        return self.clock_deg if self.clock_deg is not None else [0.0] * self.shaft_count

    @property
    def places(self) -> list[Case]:
        """Places of the axle."""
        return self.cases if self.cases is not None else [Case(name="ride")]

    @property
    def forward(self) -> float:
        """+1 where the chain runs rearward, -1 where it runs forward."""
        return 1.0 if self.chain == "rear" else -1.0

    def with_clocks(self, clock_deg: list[float]) -> Vehicle:
        """The same vehicle, clocked otherwise."""
        return replace(self, clock_deg=clock_deg)


@dataclass(frozen=True, slots=True)
class Settings:
    """What is set, as arrays (settings,): wedge [deg], centre-bearing shim and tail-mount shim [mm]; clocking (settings, shafts) [deg]."""

    wedge_deg: Field
    shim_mm: Field
    mount_mm: Field
    clock_deg: Field

    @staticmethod
    def of(vehicle: Vehicle, wedge_deg: float = 0.0, shim_mm: float = 0.0, mount_mm: float = 0.0) -> Settings:
        """One setting, clocked as the vehicle is."""
        return Settings(np.array([wedge_deg]), np.array([shim_mm]), np.array([mount_mm]), np.array([vehicle.clocks]))


@dataclass(frozen=True, slots=True)
class Axle:
    """Places of the axle as arrays (places,): moves [mm] and turn of its nose, up + [deg]."""

    move_mm: Field
    nose_deg: Field

    @staticmethod
    def of(cases: list[Case]) -> Axle:
        """From a list of cases."""
        return Axle(
            np.array([[one.dx_mm, one.dy_mm, one.dz_mm] for one in cases]),
            np.array([one.pitch_deg + one.wrap_deg for one in cases]),
        )


@dataclass(frozen=True, slots=True)
class Placed:
    """Joint centres (settings, places, joints, 3) [mm] and unit axes (settings, places, members, 3), in people's frame."""

    points_mm: Vectors
    axes: Vectors


def _turned(vectors: Vectors, nose_rad: Field) -> Vectors:
    """rot(v) = (X cos g + Z sin g, Y, -X sin g + Z cos g), people's frame, X rearward: what lies ahead of the axis goes up."""
    c, s = np.cos(nose_rad), np.sin(nose_rad)
    x, y, z = np.broadcast_arrays(vectors[..., 0], vectors[..., 1], vectors[..., 2])
    x, y, z = (np.broadcast_to(part, np.broadcast_shapes(part.shape, c.shape)) for part in (x, y, z))
    return np.stack([x * c + z * s, y, -x * s + z * c], axis=-1)


def place(vehicle: Vehicle, settings: Settings, axle: Axle) -> Placed:
    """Where every joint and axis stands, for every setting at every place of the axle.

    Notes
    -----
    The axle turns by g = wedge + pitch + wrap about its centre A: pinion axis rot(axis), P = A + dA + rot(P_ride - A); g is negated for a
    front axle, whose nose points rearward. A tail-mount shim h turns the gearbox about its front mounts by -h / (x_mount - x_pivot).
    A centre bearing raised by its shim aims the shaft ahead of it: P_2 = P_1 + L unit(C + shim Z - P_1).
    """
    shape = (len(settings.wedge_deg), len(axle.nose_deg))
    nose = vehicle.forward * np.radians(settings.wedge_deg[:, None] + axle.nose_deg[None, :])
    centre = np.array(vehicle.axle_centre_mm)
    pinion = centre + axle.move_mm[None] + _turned(np.array(vehicle.pinion_joint_mm) - centre, nose)
    pin_axis = _turned(axes.axis_vector(vehicle.pinion_axis, "pinion_axis", vehicle.chain), nose)
    first, out_axis = _output(vehicle, settings.mount_mm)
    points = [np.broadcast_to(first[:, None, :], (*shape, 3))]
    for number, bearing in enumerate(vehicle.bearings):
        lift = settings.shim_mm if number == 0 else np.zeros_like(settings.shim_mm)
        seat = np.array(bearing.bearing_mm) + lift[:, None, None] * np.array([0.0, 0.0, 1.0])
        points.append(points[-1] + bearing.joint_from_front_mm * axes.unit(seat - points[-1]))
    points.append(np.broadcast_to(pinion, (*shape, 3)))
    places = np.stack(points, axis=-2)
    shafts = axes.unit(np.diff(places, axis=-2))
    out = axes.along(np.broadcast_to(out_axis[:, None, :], (*shape, 3)), shafts[..., 0, :])
    pin = axes.along(np.broadcast_to(pin_axis, (*shape, 3)), shafts[..., -1, :])
    return Placed(places, np.concatenate([out[..., None, :], shafts, pin[..., None, :]], axis=-2))


def _output(vehicle: Vehicle, mount_mm: Field) -> tuple[Vectors, Vectors]:
    """Output joint and axis for every tail-mount shim."""
    joint = np.array(vehicle.output_joint_mm)
    axis = axes.axis_vector(vehicle.output_axis, "output_axis", vehicle.chain)
    if vehicle.mount is None:
        count = len(mount_mm)
        return np.broadcast_to(joint, (count, 3)), np.broadcast_to(axis, (count, 3))
    pivot = np.array(vehicle.mount.pivot_mm)
    turn = -np.arctan(mount_mm / (vehicle.mount.mount_mm[0] - vehicle.mount.pivot_mm[0]))
    return pivot + _turned(joint - pivot, turn), _turned(axis, turn)


@dataclass(frozen=True, slots=True)
class Worked:
    """Where everything stands; joint angles (settings, places, joints) [rad], plane angles (settings, places, shafts) [deg], terms as the
    angles [rad^2]."""

    placed: Placed
    beta: Field
    eps: Field
    terms: Complex

    @property
    def residual(self) -> Field:
        """b_eq^2 of every setting at every place, [rad^2]."""
        found: Field = np.abs(self.terms.sum(axis=-1))
        return found


def work(vehicle: Vehicle, settings: Settings, axle: Axle) -> Worked:
    """Places, angles and second-order terms for every setting at every place of the axle."""
    placed = place(vehicle, settings, axle)
    found = axes.joints_of(axes.mirrored(placed.axes))
    clock = settings.clock_deg[:, None, :]
    added = terms(found.beta, found.eps, clock, weights(vehicle.kinds, vehicle.shares), jumps(vehicle.kinds))
    return Worked(placed, found.beta, found.eps, added)
