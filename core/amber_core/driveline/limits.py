"""What a driveline's angles and accelerations are held against, and of what nature each limit is."""

from __future__ import annotations

from dataclasses import dataclass, field, fields
from math import degrees, radians, sqrt
from typing import Literal

from amber_core import checks
from amber_core.driveline.chain import JointKind, rad_per_s, shaft_rpm_ok
from amber_core.driveline.equivalent import Excitation
from amber_core.errors import InvalidInput
from amber_core.verdicts import SLACK, VerdictWord
from amber_core.words import Said, say

Status = Literal["rule", "formula", "maker"]
ANGLE_STEP_DEG = 0.1
"""What an inclinometer can tell, [deg]."""
_ACCELERATION_SHARE = 0.02


@dataclass(frozen=True, slots=True, kw_only=True)
class SpeedQuestion:
    """Shaft speed [rpm], mean of a shaft's two joint angles [deg], and the accelerations allowed [rad/s^2]."""

    rpm: float
    mean_angle_deg: float | None = None
    inertia_rad_s2: float = 1000.0
    torsional_rad_s2: float = 300.0

    def __post_init__(self) -> None:
        shaft_rpm_ok("rpm", self.rpm)
        checks.above_zero("rpm", self.rpm, say("Propshaft speed"))
        checks.within("mean_angle_deg", self.mean_angle_deg, 0.01, 80.0, say("Mean angle must be 0.01 to 80 degrees."))
        for name in ("inertia_rad_s2", "torsional_rad_s2"):
            checks.within(name, getattr(self, name), 1.0, 100000.0, say("Acceleration allowed must be 1 to 100 000 rad/s2."))


@dataclass(frozen=True, slots=True, kw_only=True)
class SpeedLimits:
    """Largest angle of the driving joint, largest equivalent angle, largest difference of a shaft's end angles (null without their mean)
    [deg]; whether that difference can be reached at all."""

    max_angle_deg: float
    max_equivalent_deg: float
    max_end_difference_deg: float | None
    end_difference_limits: bool | None


def speed_limits(given: SpeedQuestion) -> SpeedLimits:
    """How large angles may be at a shaft speed.

    Parameters
    ----------
    given : SpeedQuestion
        n [rpm], mean b [deg], a_lim [rad/s^2].

    Returns
    -------
    SpeedLimits
        b <= sqrt(a_inertia) / w; b_eq <= sqrt(a_torsional) / w; |b1 - b2| <= a_torsional / (2 w^2 b_mean), [deg].

    Raises
    ------
    InvalidInput
        From SpeedQuestion, with the field.

    Notes
    -----
    Formulas of second order on accelerations that are rules of thumb; n b <= 17 300 rpm deg for 1000 rad/s^2.

    Examples
    --------
    >>> round(speed_limits(SpeedQuestion(rpm=3500, mean_angle_deg=3)).max_angle_deg, 2)
    4.94
    """
    speed = rad_per_s(given.rpm)
    mean = given.mean_angle_deg
    difference = None if mean is None else degrees(given.torsional_rad_s2 / (2.0 * speed**2 * radians(mean)))
    return SpeedLimits(
        max_angle_deg=degrees(sqrt(given.inertia_rad_s2) / speed),
        max_equivalent_deg=degrees(sqrt(given.torsional_rad_s2) / speed),
        max_end_difference_deg=difference,
        end_difference_limits=None if difference is None or mean is None else difference < 2.0 * mean,
    )


@dataclass(frozen=True, slots=True, kw_only=True)
class Allowed:
    """What is allowed; rules of thumb unless named in `from_maker`.

    Parameters
    ----------
    torsional_rad_s2, torsional_tolerated_rad_s2 : float
        Good up to the first, tolerated in less sensitive vehicles up to the second, [rad/s^2].
    inertia_rad_s2 : float
        Of each shaft, on drive and on coast, [rad/s^2].
    running_min_deg, running_preferred_deg : float
        Least running angle of a cross in needles: at least, and preferred, [deg].
    equivalent_deg : float
        Equivalent angle where no speed is known, [deg].
    end_difference_deg : float
        Between a shaft's two joint angles where no speed is known, [deg].
    joint_limit_deg : float, optional
        Angle at which the yokes of a joint touch, from the part, [deg].
    from_maker : list of str
        Names of the fields above that come from the maker.
    """

    torsional_rad_s2: float = 300.0
    torsional_tolerated_rad_s2: float = 500.0
    inertia_rad_s2: float = 1000.0
    running_min_deg: float = 0.5
    running_preferred_deg: float = 1.0
    equivalent_deg: float = 3.0
    end_difference_deg: float = 1.0
    joint_limit_deg: float | None = None
    from_maker: list[str] = field(default_factory=list)

    def __post_init__(self) -> None:
        for name in ("torsional_rad_s2", "torsional_tolerated_rad_s2", "inertia_rad_s2"):
            checks.within(name, getattr(self, name), 1.0, 100000.0, say("Acceleration allowed must be 1 to 100 000 rad/s2."))
        checks.window_in_order(self.torsional_rad_s2, self.torsional_tolerated_rad_s2, "torsional_rad_s2", say("acceleration"))
        for name in ("running_min_deg", "running_preferred_deg", "equivalent_deg", "end_difference_deg"):
            checks.within(name, getattr(self, name), 0.0, 20.0, say("Angle must be 0 to 20 degrees."))
        checks.window_in_order(self.running_min_deg, self.running_preferred_deg, "running_min_deg", say("running angle"))
        checks.within("joint_limit_deg", self.joint_limit_deg, 1.0, 80.0, say("Angle limit of the joint must be 1 to 80 degrees."))
        known = {one.name for one in fields(self)}
        for index, name in enumerate(self.from_maker):
            if name not in known:
                raise InvalidInput(f"from_maker[{index}]", say("There is no limit called “{name}”.", name=name))

    def status(self, name: str, otherwise: Status = "rule") -> Status:
        """Of what nature a limit is."""
        return "maker" if name in self.from_maker else otherwise


@dataclass(frozen=True, slots=True, kw_only=True)
class HeldLimit:
    """A figure against its limit; `place` is the joint or shaft, counted from the driver; unit deg or rad/s2."""

    name: str
    what: Said
    place: int | None
    value: float
    limit: float
    side: Literal["min", "max"]
    unit: str
    verdict: VerdictWord
    source: Said
    status: Status


_SOURCES: dict[Status, Said] = {
    "rule": say("rule of thumb; the maker's manual comes first"),
    "formula": say("worked out from a rule of thumb; the maker's manual comes first"),
    "maker": say("the maker's figure, as entered"),
}


def held(
    name: str,
    what: Said,
    value: float,
    limit: float,
    *,
    status: Status,
    place: int | None = None,
    side: Literal["min", "max"] = "max",
    unit: str = "deg",
    softer: float | None = None,
) -> HeldLimit:
    """Hold a figure against a limit; between it and `softer` it is on the edge."""
    step = ANGLE_STEP_DEG if unit == "deg" else _ACCELERATION_SHARE * limit
    room = limit - value if side == "max" else value - limit
    verdict: VerdictWord = "in" if room > step else "edge" if room >= -SLACK else "out"
    if softer is not None and verdict == "out":
        verdict = "edge" if (softer - value if side == "max" else value - softer) >= -SLACK else "out"
    source = _SOURCES[status]
    return HeldLimit(
        name=name,
        what=what,
        place=place,
        value=value,
        limit=limit,
        side=side,
        unit=unit,
        verdict=verdict,
        source=source,
        status=status,
    )


def hold_chain(angles_deg: list[float], kinds: list[JointKind], shaken: Excitation, rpm: float, allowed: Allowed) -> list[HeldLimit]:
    """Every limit that applies to a chain; without a shaft speed only those of the angles themselves.

    Parameters
    ----------
    angles_deg : list of float
        Joint angles, driver first, [deg].
    kinds : list
        Their kinds.
    shaken : Excitation
        The chain's excitation at `rpm`.
    rpm : float
        Shaft speed, 0 when it is not known, [rpm].
    allowed : Allowed
        The limits.
    """
    found: list[HeldLimit] = []
    at = SpeedQuestion(rpm=rpm, inertia_rad_s2=allowed.inertia_rad_s2, torsional_rad_s2=allowed.torsional_rad_s2) if rpm > 0 else None
    by_speed = speed_limits(at) if at is not None else None
    for number, (angle, kind) in enumerate(zip(angles_deg, kinds, strict=True), start=1):
        if by_speed is not None and kind != "cv":
            # the coupling of a double Cardan runs at half the angle
            most = by_speed.max_angle_deg * (2.0 if kind == "double_cardan" else 1.0)
            status = allowed.status("inertia_rad_s2", "formula")
            found.append(held("joint_angle", say("Joint {number} at this speed", number=number), angle, most, place=number, status=status))
        if kind == "cardan":
            found.append(
                held(
                    "running_angle",
                    say("Joint {number}, least angle so that the needles roll", number=number),
                    angle,
                    allowed.running_preferred_deg,
                    place=number,
                    side="min",
                    softer=allowed.running_min_deg,
                    status=allowed.status("running_min_deg"),
                )
            )
        if allowed.joint_limit_deg is not None:
            what = say("Joint {number} before the yokes touch", number=number)
            found.append(held("joint_limit", what, angle, allowed.joint_limit_deg, place=number, status=allowed.status("joint_limit_deg")))
    found += _residual(angles_deg, kinds, shaken, rpm, by_speed, allowed)
    return found


def _ends(front_deg: float, rear_deg: float, rpm: float, allowed: Allowed) -> HeldLimit:
    """The two end angles of a shaft against one another: by the maker's figure, by speed where it is known, else by the usual degree."""
    difference, mean = abs(front_deg - rear_deg), (front_deg + rear_deg) / 2.0
    what = say("Difference of the two end angles")
    if rpm <= 0.0 or mean < ANGLE_STEP_DEG or "end_difference_deg" in allowed.from_maker:
        return held("end_difference", what, difference, allowed.end_difference_deg, status=allowed.status("end_difference_deg"))
    most = speed_limits(SpeedQuestion(rpm=rpm, mean_angle_deg=mean, torsional_rad_s2=allowed.torsional_rad_s2)).max_end_difference_deg
    assert most is not None
    softer = most * allowed.torsional_tolerated_rad_s2 / allowed.torsional_rad_s2
    return held("end_difference", what, difference, most, status=allowed.status("torsional_rad_s2", "formula"), softer=softer)


def _residual(
    angles_deg: list[float], kinds: list[JointKind], shaken: Excitation, rpm: float, by_speed: SpeedLimits | None, allowed: Allowed
) -> list[HeldLimit]:
    """What is left at the end of the chain, and what shakes its shafts."""
    most = by_speed.max_equivalent_deg if by_speed else allowed.equivalent_deg
    soft = (allowed.torsional_tolerated_rad_s2 / allowed.torsional_rad_s2) ** 0.5
    name = "torsional_rad_s2" if by_speed else "equivalent_deg"
    status = allowed.status(name, "formula" if by_speed else "rule")
    found = [
        held("equivalent_angle", say("Equivalent angle"), shaken.b_eq_deg, most, status=status, softer=most * soft if by_speed else None)
    ]
    if len(angles_deg) == 2 and set(kinds) == {"cardan"}:
        found.append(_ends(angles_deg[0], angles_deg[1], rpm, allowed))
    if by_speed is None:
        return found
    found.append(
        held(
            "torsional",
            say("Torsional vibration"),
            shaken.torsional_rad_s2,
            allowed.torsional_rad_s2,
            unit="rad/s2",
            softer=allowed.torsional_tolerated_rad_s2,
            status=allowed.status("torsional_rad_s2"),
        )
    )
    for way, values in (("drive", shaken.inertia_drive_rad_s2), ("coast", shaken.inertia_coast_rad_s2)):
        for shaft, value in enumerate(values, start=1):
            drive = way == "drive"
            what = (
                say("Propshaft {shaft}, inertia effect (drive)", shaft=shaft)
                if drive
                else say("Propshaft {shaft}, inertia effect (coast)", shaft=shaft)
            )
            status = allowed.status("inertia_rad_s2")
            found.append(held(f"inertia_{way}", what, value, allowed.inertia_rad_s2, place=shaft, unit="rad/s2", status=status))
    return found
