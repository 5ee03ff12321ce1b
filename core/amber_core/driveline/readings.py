"""From what a gauge shows under a vehicle to members, joint centres and a vehicle model."""

from __future__ import annotations

from dataclasses import dataclass
from math import atan, degrees
from typing import Literal

import numpy as np

from amber_core import checks
from amber_core.driveline import axes
from amber_core.driveline.axes import AxisAngles, Chain, Vectors
from amber_core.driveline.chain import JointKind, shares_ok
from amber_core.driveline.vehicle import CentreBearing, Mount, Vehicle
from amber_core.errors import InvalidInput
from amber_core.words import Said, say

_STEEPEST_DEG = 60.0
_MOST_FRAME_DEG = 15.0
_BEARING_AT = 0.92
"""Where along its shaft a centre bearing sits when nobody measured it, [-]."""


@dataclass(frozen=True, slots=True, kw_only=True)
class GaugeReading:
    """An angle as the gauge shows it [deg], whether it counts from level or from plumb, and which way the member falls: the end nearer the
    axle lower or higher; left out, the sign says it, + = lower."""

    value_deg: float
    reference: Literal["level", "plumb"] = "level"
    axle_end: Literal["lower", "higher"] | None = None

    def __post_init__(self) -> None:
        checks.within("value_deg", self.value_deg, -180.0, 180.0, say("Angle must be −180 to 180 degrees."))
        if abs(self._from_level) > _STEEPEST_DEG:
            text = (
                say("{value:g} degrees is steeper than any driveline. Was it read from plumb?", value=self.value_deg)
                if self.reference == "level"
                else say("{value:g} degrees is steeper than any driveline. Was it read from level?", value=self.value_deg)
            )
            raise InvalidInput("value_deg", text)

    @property
    def _from_level(self) -> float:
        size = abs(self.value_deg)
        size = min(size, 180.0 - size)  # a gauge turned end for end
        return size if self.reference == "level" else 90.0 - size

    @property
    def slope_deg(self) -> float:
        """Slope, + = the end nearer the axle is lower, [deg]."""
        falls = self.axle_end == "lower" if self.axle_end is not None else self.value_deg >= 0.0
        return self._from_level if falls else -self._from_level


@dataclass(frozen=True, slots=True, kw_only=True)
class ReadMember:
    """A member: its slope as the gauge shows it, and its plan angle [deg], or how far its axle end lies to the left [mm] over a distance
    along the vehicle [mm]."""

    side: GaugeReading
    plan_deg: float | None = None
    left_mm: float | None = None
    over_mm: float | None = None

    def __post_init__(self) -> None:
        checks.within("plan_deg", self.plan_deg, -60.0, 60.0, say("Plan angle must be −60 to 60 degrees."))
        checks.within("left_mm", self.left_mm, -2000.0, 2000.0, say("Offset to the side must be −2 000 to 2 000 mm."))
        checks.within("over_mm", self.over_mm, 10.0, 6000.0, say("Distance along the vehicle must be 10 to 6 000 mm."))
        if (self.left_mm is None) != (self.over_mm is None):
            raise InvalidInput(
                "over_mm", say("A plan angle needs both figures: the offset to the left and the distance along the vehicle.")
            )

    @property
    def plan(self) -> float:
        """Plan angle, + = axle end farther left, [deg]."""
        if self.left_mm is not None and self.over_mm is not None:
            return degrees(atan(self.left_mm / self.over_mm))
        return self.plan_deg or 0.0


@dataclass(frozen=True, slots=True, kw_only=True)
class ReadShaft:
    """A shaft: joint centre to joint centre [mm], its reading (not needed with measured points), how far behind its front joint the centre
    bearing sits when it carries one [mm], clocking [deg]."""

    length_mm: float | None = None
    member: ReadMember | None = None
    bearing_from_front_mm: float | None = None
    clock_deg: float = 0.0

    def __post_init__(self) -> None:
        checks.within("length_mm", self.length_mm, 50.0, 6000.0, say("Shaft length must be 50 to 6 000 mm. Give it in millimetres."))
        checks.within(
            "bearing_from_front_mm", self.bearing_from_front_mm, 10.0, 6000.0, say("Distance to the centre bearing must be 10 to 6 000 mm.")
        )
        checks.within("clock_deg", self.clock_deg, -180.0, 180.0, say("Clocking must be −180 to 180 degrees."))


@dataclass(frozen=True, slots=True, kw_only=True)
class AxlePlace:
    """From the pinion's joint to the wheel axis: towards the axle's own side, along the vehicle [mm], and how much lower it lies [mm]."""

    along_mm: float = 280.0
    down_mm: float = 25.0

    def __post_init__(self) -> None:
        checks.within(
            "along_mm", self.along_mm, 10.0, 1500.0, say("Distance from the pinion joint to the wheel axis must be 10 to 1 500 mm.")
        )
        checks.within("down_mm", self.down_mm, -500.0, 500.0, say("Height of the wheel axis must be within ±500 mm of the pinion joint."))


@dataclass(frozen=True, slots=True, kw_only=True)
class MountPlace:
    """From the output's joint: how far ahead the front mounts and the tail mount of gearbox and transfer case lie [mm]."""

    front_ahead_mm: float
    tail_ahead_mm: float

    def __post_init__(self) -> None:
        for name in ("front_ahead_mm", "tail_ahead_mm"):
            checks.within(name, getattr(self, name), -2000.0, 3000.0, say("Mounts must be within 3 m of the gearbox output."))
        if self.front_ahead_mm - self.tail_ahead_mm < 50.0:
            raise InvalidInput("front_ahead_mm", say("The front mounts must be at least 50 mm ahead of the tail mount."))


@dataclass(frozen=True, slots=True, kw_only=True)
class ReadingsQuestion:
    """A driveline as it was measured: output, shafts and pinion; joint centres [mm] when they were measured; how the frame lies (its rear
    end lower or higher); where the wheel axis and the mounts are; kinds of the joints; of a double Cardan the share of its angle that its
    front half takes [-]."""

    output: ReadMember
    shafts: list[ReadShaft]
    pinion: ReadMember
    points_mm: list[list[float]] | None = None
    frame: GaugeReading | None = None
    axle: AxlePlace | None = None
    mount: MountPlace | None = None
    joints: list[JointKind] | None = None
    front_share: list[float] | None = None
    chain: Chain = "rear"

    def __post_init__(self) -> None:
        if not 1 <= len(self.shafts) <= 3:
            raise InvalidInput("shafts", say("Give one to three propshafts."))
        count = len(self.shafts)
        if self.joints is not None and len(self.joints) != count + 1:
            raise InvalidInput("joints", say("Give a kind for every joint: {value}.", value=count + 1))
        if self.front_share is not None:
            shares_ok(self.front_share, count + 1)
        if self.frame is not None and abs(self.frame.slope_deg) > _MOST_FRAME_DEG:
            raise InvalidInput(
                "frame.value_deg",
                say("Frame slope must be within ±{most_frame_deg:g} degrees. Check the reading.", most_frame_deg=_MOST_FRAME_DEG),
            )
        if self.points_mm is None:
            for index, one in enumerate(self.shafts):
                for name in ("member", "length_mm"):
                    if getattr(one, name) is None:
                        raise InvalidInput(
                            f"shafts[{index}].{name}", say("Without measured points, every propshaft needs its slope and length.")
                        )
            return
        if len(self.points_mm) != count + 1:
            raise InvalidInput(
                "points_mm", say("Give the centre of every joint: {value}, not {count}.", value=count + 1, count=len(self.points_mm))
            )
        for index, one_point in enumerate(self.points_mm):
            axes.point(one_point, f"points_mm[{index}]")
            if index and float(np.linalg.norm(np.subtract(one_point, self.points_mm[index - 1]))) < 50.0:
                raise InvalidInput(f"points_mm[{index}]", say("Two joints are closer than 50 mm. Check the figures."))


@dataclass(frozen=True, slots=True, kw_only=True)
class Read:
    """Slope against the frame and plan angle of every member [deg]; joint centres [mm: rearward, left, up]; unit axes of all members; the
    same as a vehicle; what was taken for granted."""

    members: list[list[float]]
    points_mm: list[list[float]]
    axes: list[list[float]]
    vehicle: Vehicle
    notes: list[Said]


def from_readings(given: ReadingsQuestion) -> Read:
    """Slopes against the frame, joint centres and a vehicle model from what was read under the vehicle.

    Parameters
    ----------
    given : ReadingsQuestion
        Gauge readings [deg], lengths and offsets [mm].

    Returns
    -------
    Read
        s, p [deg]; P_j [mm]; the vehicle for `driveline.state`, `.travel` and `.recommend`.

    Raises
    ------
    InvalidInput
        From ReadingsQuestion, with the field.

    Notes
    -----
    A gauge laid on a member reads its true slope (inclinometer). A frame whose rear end is lower by f adds f to every slope of a rear chain
    and takes it from every slope of a front chain, so it is taken off again. Without measured points the joint centres follow from
    lengths and directions, the output's joint being 0, 0, 0.

    Examples
    --------
    >>> level = ReadMember(side=GaugeReading(value_deg=87, reference="plumb"))
    >>> found = from_readings(ReadingsQuestion(output=level, shafts=[ReadShaft(length_mm=1300, member=level)], pinion=level))
    >>> found.members[0], round(found.points_mm[1][2], 1)
    ([3.0, 0.0], -68.0)
    """
    forward = 1.0 if given.chain == "rear" else -1.0
    tilt = 0.0 if given.frame is None else forward * given.frame.slope_deg
    read = [given.output, *(one.member for one in given.shafts), given.pinion]
    slopes = [None if one is None else (one.side.slope_deg - tilt, one.plan) for one in read]
    ends = [
        AxisAngles(side_deg=pair[0], plan_deg=pair[1], side_kind="inclinometer") for pair in (slopes[0], slopes[-1]) if pair is not None
    ]
    points = _points(given, slopes)
    shafts = axes.unit(np.diff(points, axis=0))
    directions = np.vstack([axes.from_angles(ends[0], given.chain), shafts, axes.from_angles(ends[1], given.chain)])
    place = given.axle or AxlePlace()
    centre = points[-1] + np.array([forward * place.along_mm, 0.0, -place.down_mm])
    bearings = [_bearing(points, shafts, index, one) for index, one in enumerate(given.shafts[:-1])]
    vehicle = Vehicle(
        output_joint_mm=points[0].tolist(),
        output_axis=ends[0],
        pinion_joint_mm=points[-1].tolist(),
        pinion_axis=ends[1],
        axle_centre_mm=centre.tolist(),
        clock_deg=[one.clock_deg for one in given.shafts],
        joints=given.joints,
        front_share=given.front_share,
        centre_bearing=bearings[0] if bearings else None,
        second_bearing=bearings[1] if len(bearings) > 1 else None,
        mount=_mount(points[0], given.mount),
        chain=given.chain,
    )
    return Read(
        members=[[side, plan] for side, plan in (_reading_of(one) for one in directions)],
        points_mm=points.tolist(),
        axes=directions.tolist(),
        vehicle=vehicle,
        notes=_notes(given),
    )


def _points(given: ReadingsQuestion, slopes: list[tuple[float, float] | None]) -> Vectors:
    if given.points_mm is not None:
        return np.array(given.points_mm)
    at, found = np.zeros(3), [np.zeros(3)]
    for shaft, pair in zip(given.shafts, slopes[1:-1], strict=True):
        assert pair is not None and shaft.length_mm is not None
        axis = AxisAngles(side_deg=pair[0], plan_deg=pair[1], side_kind="inclinometer")
        at = at + shaft.length_mm * axes.from_angles(axis, given.chain)
        found.append(at)
    return np.array(found)


def _reading_of(axis: Vectors) -> tuple[float, float]:
    """Slope as a gauge laid on it would read it, and plan angle, [deg]."""
    return degrees(float(np.arcsin(np.clip(-axis[2], -1.0, 1.0)))), degrees(atan(axis[1] / abs(axis[0])))


def _bearing(points: Vectors, shafts: Vectors, index: int, shaft: ReadShaft) -> CentreBearing:
    length = float(np.linalg.norm(points[index + 1] - points[index]))
    at = shaft.bearing_from_front_mm if shaft.bearing_from_front_mm is not None else _BEARING_AT * length
    if at > length + 1e-9:
        raise InvalidInput(
            f"shafts[{index}].bearing_from_front_mm", say("The centre bearing must sit on its own propshaft, ahead of the joint behind it.")
        )
    return CentreBearing(bearing_mm=(points[index] + at * shafts[index]).tolist(), joint_from_front_mm=length)


def _mount(output: Vectors, given: MountPlace | None) -> Mount | None:
    if given is None:
        return None
    pivot, tail = (output + np.array([-ahead, 0.0, 0.0]) for ahead in (given.front_ahead_mm, given.tail_ahead_mm))
    return Mount(pivot_mm=pivot.tolist(), mount_mm=tail.tolist())


def _notes(given: ReadingsQuestion) -> list[Said]:
    found = []
    if given.frame is None:
        found.append(say("The vehicle is taken as level. Read the frame slope to correct for a sloping floor."))
    if given.axle is None:
        found.append(
            say(
                "The wheel axis was not measured: {past:mm0} past the pinion joint and {lower:mm0} lower is assumed.",
                past=AxlePlace().along_mm,
                lower=AxlePlace().down_mm,
            )
        )
    if any(one.bearing_from_front_mm is None for one in given.shafts[:-1]):
        found.append(say("The centre bearing was not measured: near the rear end of its propshaft is assumed."))
    return found
