"""The torque sequence of a bolt pattern: the order, the stages, and what the wrench is set to."""

from __future__ import annotations

from dataclasses import dataclass, field
from math import atan2, cos, hypot, radians
from typing import Literal

from amber_core import checks
from amber_core.errors import InvalidInput
from amber_core.words import say

MOST_BOLTS = 200
MOST_NM = 10_000.0


@dataclass(frozen=True, slots=True, kw_only=True)
class TorquePlanQuestion:
    """A count of bolts or their places, the target torque, and the wrench.

    Parameters
    ----------
    count, points_mm : int, list of [x, y]
        One of the two: how many bolts, or where each stands, [mm], numbered as given.
    target_nm : float
        Torque of the last stage, [N m].
    layout : {"circle", "row"}
        Where a count is given: round a circle, or along a row.
    stages : list of float
        Rising parts of the target, over 0 to 1.
    repeat_last : bool
        Go round once more at the last stage, as a gasket relaxes.
    angle_deg : float, optional
        Turned after the last stage, [deg]; given back.
    wrench_mm, adapter_mm, adapter_angle_deg : float, optional
        Grip to square of the wrench, length of an adapter, [mm], and its angle from straight out, [deg].
    """

    target_nm: float
    count: int | None = None
    points_mm: list[list[float]] | None = None
    layout: Literal["circle", "row"] = "circle"
    stages: list[float] = field(default_factory=lambda: [0.5, 0.8, 1.0])
    repeat_last: bool = False
    angle_deg: float | None = None
    wrench_mm: float | None = None
    adapter_mm: float | None = None
    adapter_angle_deg: float = 0.0

    def __post_init__(self) -> None:
        if (self.count is None) == (self.points_mm is None):
            raise InvalidInput(
                "count" if self.count is None else "points_mm",
                say("Give either the number of bolts or the place of each one."),
            )
        checks.within("count", self.count, 1, MOST_BOLTS, say("Number of bolts must be 1 to {most}.", most=MOST_BOLTS))
        checks.within("target_nm", self.target_nm, 0.0, MOST_NM, say("Torque must be 0 to {most:.0f} Nm. Check the unit.", most=MOST_NM))
        self._check_points()
        self._check_stages()
        checks.within("angle_deg", self.angle_deg, 0.0, 720.0, say("Torque angle must be 0 to 720 degrees."))
        checks.above_zero("wrench_mm", self.wrench_mm, say("Wrench length"))
        checks.within("adapter_mm", self.adapter_mm, 0.0, 5000.0, say("Adapter length must be 0 to 5000 mm."))
        checks.within("adapter_angle_deg", self.adapter_angle_deg, -360.0, 360.0, say("Adapter angle must be −360 to 360 degrees."))
        if self.wrench_mm is not None and self.lever_mm <= checks.LEAST:
            raise InvalidInput(
                "adapter_angle_deg", say("The adapter points back past the grip: the wrench has no lever left. Turn the adapter forward.")
            )

    def _check_points(self) -> None:
        if self.points_mm is None:
            return
        if self.layout == "row":
            raise InvalidInput("layout", say("A row is numbered along it: give the number of bolts, not their places."))
        if not 1 <= len(self.points_mm) <= MOST_BOLTS:
            raise InvalidInput("points_mm", say("Number of bolts must be 1 to {most}.", most=MOST_BOLTS))
        for index, point in enumerate(self.points_mm):
            if len(point) != 2:
                raise InvalidInput(f"points_mm[{index}]", say("A place has two figures: x and y in mm."))
            if max(map(abs, point)) > 1e5:
                raise InvalidInput(f"points_mm[{index}]", say("This bolt is more than 100 m away. Check the unit."))

    def _check_stages(self) -> None:
        if not 1 <= len(self.stages) <= 20:
            raise InvalidInput("stages", say("Give 1 to 20 stages."))
        if any(not 0.0 < one <= 1.0 for one in self.stages) or any(b <= a for a, b in zip(self.stages, self.stages[1:], strict=False)):
            raise InvalidInput("stages", say("Stages must rise, each over 0 and at most 1, such as 0.5, 0.8, 1."))

    @property
    def lever_mm(self) -> float:
        """Grip to bolt, along the wrench, [mm]."""
        return (self.wrench_mm or 0.0) + (self.adapter_mm or 0.0) * cos(radians(self.adapter_angle_deg))


@dataclass(frozen=True, slots=True, kw_only=True)
class Stage:
    """Torque at the bolt and setting of the wrench, [N m]; no setting without a wrench length."""

    nm: float
    setting_nm: float | None


@dataclass(frozen=True, slots=True, kw_only=True)
class TorquePlan:
    """Bolt numbers from 1 in tightening order, the stages, and the angle turned after the last one, [deg]."""

    order: list[int]
    stages: list[Stage]
    angle_deg: float | None


def plan_torque(given: TorquePlanQuestion) -> TorquePlan:
    """The order and stages that draw a joint down evenly.

    Parameters
    ----------
    given : TorquePlanQuestion
        Bolts, torque [N m], wrench [mm].

    Returns
    -------
    TorquePlan
        Order and stages [N m].

    Raises
    ------
    InvalidInput
        From TorquePlanQuestion, with the field.

    Notes
    -----
    Round a circle of n: odd n goes on by (n - 1)/2; even n takes opposite pairs, the next pair being the one whose axis is farthest from
    the nearest axis done. A row goes from the middle outwards. Wrench setting = M L/(L + A cos a), by moments about the bolt.

    Examples
    --------
    >>> plan_torque(TorquePlanQuestion(count=5, target_nm=120.0)).order
    [1, 3, 5, 2, 4]
    """
    if given.points_mm is not None:
        numbers = _round_the_middle(given.points_mm)
        order = [numbers[place] for place in _circle(len(numbers))]
    else:
        assert given.count is not None
        order = [place + 1 for place in (_row if given.layout == "row" else _circle)(given.count)]
    shares = [*given.stages, *([given.stages[-1]] if given.repeat_last else [])]
    part = None if given.wrench_mm is None else given.wrench_mm / given.lever_mm
    stages = [Stage(nm=given.target_nm * one, setting_nm=None if part is None else given.target_nm * one * part) for one in shares]
    return TorquePlan(order=order, stages=stages, angle_deg=given.angle_deg)


def _circle(count: int) -> list[int]:
    if count % 2 or count == 2:
        step = (count - 1) // 2 if count % 2 else 1
        return [index * step % count for index in range(count)] if count > 1 else [0]
    half = count // 2
    done = [0]
    while len(done) < half:
        left = [one for one in range(half) if one not in done]
        done.append(max(left, key=lambda one: (min(_apart(one, other, half) for other in done), -one)))
    return [bolt for one in done for bolt in (one, one + half)]


def _apart(a: int, b: int, half: int) -> int:
    """Between two axes, in steps of the circle; half of them make a half turn."""
    turn = abs(a - b)
    return min(turn, half - turn)


def _row(count: int) -> list[int]:
    middle = (count - 1) / 2.0
    return sorted(range(count), key=lambda place: (abs(place - middle), place))


def _round_the_middle(points: list[list[float]]) -> list[int]:
    """Bolt numbers round their centroid, begun at the first."""
    x, y = (sum(axis) / len(points) for axis in zip(*points, strict=True))

    def turned(index: int) -> tuple[float, float]:
        dx, dy = points[index][0] - x, points[index][1] - y
        return atan2(dy, dx), hypot(dx, dy)

    ordered = sorted(range(len(points)), key=turned)
    first = ordered.index(0)
    return [index + 1 for index in ordered[first:] + ordered[:first]]
