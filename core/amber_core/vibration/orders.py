"""Frequencies of everything that turns, at a road speed."""

from __future__ import annotations

from dataclasses import dataclass, field, fields
from math import cos, radians
from typing import Literal

from amber_core import checks
from amber_core.errors import InvalidInput
from amber_core.ratios.limits import circumference_ok, ratio_ok, rpm_ok, speed_ok
from amber_core.words import say

TurnsWith = Literal["wheel", "prop", "gearbox_output", "engine"]


@dataclass(frozen=True, slots=True, kw_only=True)
class BearingQuestion:
    """Balls or rollers, their diameter, pitch circle [mm], contact angle [deg], speed of one race against the other [Hz], which turns."""

    balls: int
    ball_mm: float
    pitch_mm: float
    relative_hz: float
    contact_deg: float = 0.0
    turning: Literal["inner", "outer"] = "inner"

    def __post_init__(self) -> None:
        rollers_ok(self.balls, self.ball_mm, self.pitch_mm, self.contact_deg)
        checks.within("relative_hz", self.relative_hz, 0.0, 2000.0, say("Bearing speed must be 0 to 2 000 Hz."))


def rollers_ok(balls: int, ball_mm: float, pitch_mm: float, contact_deg: float) -> None:
    """Refuse a bearing that cannot be built.

    Raises
    ------
    InvalidInput
        On the field.
    """
    checks.within("balls", balls, 3, 200, say("Balls or rollers must be 3 to 200."))
    checks.within("ball_mm", ball_mm, 0.5, 200.0, say("Ball or roller diameter must be 0.5 to 200 mm."))
    checks.within("pitch_mm", pitch_mm, 2.0, 1000.0, say("Pitch circle diameter must be 2 to 1 000 mm."))
    checks.within("contact_deg", contact_deg, 0.0, 80.0, say("Contact angle must be 0 to 80 degrees."))
    if ball_mm >= pitch_mm:
        raise InvalidInput("ball_mm", say("The balls are larger than their pitch circle. Check which figure is which."))


@dataclass(frozen=True, slots=True, kw_only=True)
class BearingLines:
    """Frequencies of a fault in the outer race, the inner race, a ball (it shows mostly at twice this), and the cage, [Hz]."""

    bpfo_hz: float
    bpfi_hz: float
    bsf_hz: float
    ftf_hz: float


def bearing(given: BearingQuestion) -> BearingLines:
    """Where a bearing's faults show.

    Parameters
    ----------
    given : BearingQuestion
        n, d, D [mm], al [deg], f [Hz].

    Returns
    -------
    BearingLines
        g = d cos al / D; BPFO = n f (1 - g)/2; BPFI = n f (1 + g)/2; BSF = f D/(2 d) (1 - g^2); FTF = f (1 -+ g)/2, [Hz].

    Raises
    ------
    InvalidInput
        From BearingQuestion, with the field.

    Notes
    -----
    Without slip; real lines lie 0.5 to 2 % lower. Source: bearing kinematics of any vibration textbook.

    Examples
    --------
    >>> round(bearing(BearingQuestion(balls=9, ball_mm=11.9, pitch_mm=52.5, contact_deg=15, relative_hz=44.5)).bpfo_hz, 2)
    156.41
    """
    g = given.ball_mm * cos(radians(given.contact_deg)) / given.pitch_mm
    f = given.relative_hz
    return BearingLines(
        bpfo_hz=given.balls * f * (1.0 - g) / 2.0,
        bpfi_hz=given.balls * f * (1.0 + g) / 2.0,
        bsf_hz=f * given.pitch_mm / (2.0 * given.ball_mm) * (1.0 - g**2),
        ftf_hz=f * (1.0 - g if given.turning == "inner" else 1.0 + g) / 2.0,
    )


@dataclass(frozen=True, slots=True, kw_only=True)
class NamedBearing:
    """A bearing of the driveline: its name, what its turning race turns with, and its rollers."""

    name: str
    turns_with: TurnsWith
    balls: int
    ball_mm: float
    pitch_mm: float
    contact_deg: float = 0.0
    turning: Literal["inner", "outer"] = "inner"

    def __post_init__(self) -> None:
        if not self.name.strip() or len(self.name) > 40:
            raise InvalidInput("name", say("Bearing name must be 1 to 40 characters."))
        rollers_ok(self.balls, self.ball_mm, self.pitch_mm, self.contact_deg)

    def lines(self, hz: float) -> BearingLines:
        """Its frequencies when its turning race turns at `hz`."""
        asked = BearingQuestion(
            balls=self.balls,
            ball_mm=self.ball_mm,
            pitch_mm=self.pitch_mm,
            contact_deg=self.contact_deg,
            turning=self.turning,
            relative_hz=hz,
        )
        return bearing(asked)


@dataclass(frozen=True, slots=True, kw_only=True)
class Drivetrain:
    """Rolling circumference [m]; axle, hub and transfer ratio [-]; teeth of the pinion; engine's cylinders and strokes; whether a front
    shaft turns as well; bearings."""

    circumference_m: float
    axle_ratio: float
    hub_ratio: float = 1.0
    transfer_ratio: float = 1.0
    pinion_teeth: int | None = None
    cylinders: int | None = None
    strokes: int = 4
    front_shaft: bool = False
    bearings: list[NamedBearing] = field(default_factory=list)

    def __post_init__(self) -> None:
        circumference_ok("circumference_m", self.circumference_m)
        ratio_ok("axle_ratio", self.axle_ratio)
        ratio_ok("hub_ratio", self.hub_ratio)
        ratio_ok("transfer_ratio", self.transfer_ratio)
        checks.within("pinion_teeth", self.pinion_teeth, 3, 60, say("Pinion teeth must be 3 to 60."))
        checks.within("cylinders", self.cylinders, 1, 24, say("Cylinders must be 1 to 24."))
        if self.strokes not in (2, 4):
            raise InvalidInput("strokes", say("Strokes must be 2 or 4."))
        if len(self.bearings) > 20:
            raise InvalidInput("bearings", say("Give up to 20 bearings."))

    def at(self, speed_kmh: float, *, gear_ratio: float | None = None, engine_rpm: float | None = None) -> OrdersQuestion:
        """The question of what turns how fast at a road speed [km/h], in a gear [-] or at an engine speed [rpm].

        Raises
        ------
        InvalidInput
            From OrdersQuestion, with the field.
        """
        own = {one.name: getattr(self, one.name) for one in fields(Drivetrain)}
        return OrdersQuestion(**own, speed_kmh=speed_kmh, gear_ratio=gear_ratio, engine_rpm=engine_rpm)


@dataclass(frozen=True, slots=True, kw_only=True)
class OrdersQuestion(Drivetrain):
    """A drivetrain at a road speed [km/h], with the gear's ratio [-] or the engine's speed [rpm]; neither leaves the engine out."""

    speed_kmh: float
    gear_ratio: float | None = None
    engine_rpm: float | None = None

    def __post_init__(self) -> None:
        Drivetrain.__post_init__(self)
        speed_ok("speed_kmh", self.speed_kmh)
        if self.gear_ratio is not None:
            ratio_ok("gear_ratio", self.gear_ratio, 30.0)
        rpm_ok("engine_rpm", self.engine_rpm)


@dataclass(frozen=True, slots=True, kw_only=True)
class Orders:
    """Frequency of every source, [Hz]; groups of names that no frequency can tell apart."""

    frequencies_hz: dict[str, float]
    inseparable: list[list[str]]


def orders(given: OrdersQuestion) -> Orders:
    """What turns how fast.

    Parameters
    ----------
    given : OrdersQuestion
        v [km/h], C [m], ratios [-], n [rpm].

    Returns
    -------
    Orders
        tyre = v/3.6/C; ring = tyre x hub; prop = ring x axle; gearbox output = prop x transfer; engine = that x gear, or n/60, [Hz].

    Raises
    ------
    InvalidInput
        From OrdersQuestion, with the field.

    Notes
    -----
    Prop once: balance and run-out; twice: joint angles. Mesh = prop x pinion teeth. Firing = cylinders/2 a turn with four strokes, else
    cylinders. Without hub reduction ring and tyre are one frequency; in a direct gear prop and engine are.

    Examples
    --------
    >>> round(orders(OrdersQuestion(speed_kmh=95, circumference_m=2.43, axle_ratio=4.1)).frequencies_hz["prop_1x"], 2)
    44.52
    """
    tyre = given.speed_kmh / 3.6 / given.circumference_m
    ring = tyre * given.hub_ratio
    prop = ring * given.axle_ratio
    output = prop * given.transfer_ratio
    found = {"tyre_1x": tyre, "tyre_2x": 2 * tyre, "tyre_3x": 3 * tyre, "ring_1x": ring, "prop_1x": prop, "prop_2x": 2 * prop}
    if given.front_shaft:
        found |= {"front_prop_1x": prop, "front_prop_2x": 2 * prop}
    if given.pinion_teeth is not None:
        found["axle_mesh"] = prop * given.pinion_teeth
    if given.transfer_ratio != 1.0:
        found["gearbox_output_1x"] = output
    engine = given.engine_rpm / 60.0 if given.engine_rpm is not None else None
    if engine is None and given.gear_ratio is not None:
        engine = output * given.gear_ratio
    if engine is not None:
        found |= {"engine_half": engine / 2, "engine_1x": engine}
        if given.cylinders is not None:
            found["engine_firing"] = engine * given.cylinders * (0.5 if given.strokes == 4 else 1.0)
    turning = {"wheel": tyre, "prop": prop, "gearbox_output": output, "engine": engine}
    for one in given.bearings:
        hz = turning[one.turns_with]
        if hz is not None:
            lines = one.lines(hz)
            named = {"outer": lines.bpfo_hz, "inner": lines.bpfi_hz, "ball": 2 * lines.bsf_hz, "cage": lines.ftf_hz}
            found |= {f"{one.name}_{part}": value for part, value in named.items()}
    return Orders(frequencies_hz=found, inseparable=_together(found))


def _together(frequencies_hz: dict[str, float]) -> list[list[str]]:
    groups: list[list[str]] = []
    for name, hz in frequencies_hz.items():
        home = next((group for group in groups if abs(frequencies_hz[group[0]] - hz) <= 1e-3 * max(hz, 1e-9)), None)
        if home is None:
            groups.append([name])
        else:
            home.append(name)
    return [group for group in groups if len(group) > 1]
