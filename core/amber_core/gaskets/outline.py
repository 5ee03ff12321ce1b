"""The edges of a gasket: a circle, or points joined by straight lines."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property
from math import cos, hypot, pi, sin
from typing import Literal, cast

import shapely

from amber_core import checks
from amber_core.errors import InvalidInput
from amber_core.words import say

MOST_POINTS = 2000
CORNERS = 180
"""Points that a circle is given out as."""
FARTHEST_MM = 5000.0


def check_point(field: str, point: list[float]) -> None:
    """Refuse what is no point [x, y] on a bench.

    Raises
    ------
    InvalidInput
        On `field`.
    """
    if len(point) != 2:
        raise InvalidInput(field, say("A point has two figures: x and y in mm."))
    if not all(abs(one) <= FARTHEST_MM for one in point):
        raise InvalidInput(field, say("A point must be within 5 000 mm of the middle. Check the unit."))


@dataclass(frozen=True, kw_only=True)
class Edge:
    """An edge of the gasket: ``circle`` with its diameter and middle, or ``points`` in order round it, [mm]; x right, y up."""

    kind: Literal["circle", "points"]
    diameter_mm: float | None = None
    centre_mm: list[float] | None = None
    points_mm: list[list[float]] | None = None

    def __post_init__(self) -> None:
        if self.kind == "circle":
            if self.points_mm is not None:
                raise InvalidInput("points_mm", say("A circle is given by its diameter, not by points."))
            if self.diameter_mm is None:
                raise InvalidInput("diameter_mm", say("Give the diameter of the circle."))
            checks.above_zero("diameter_mm", self.diameter_mm, say("Diameter"))
            checks.within("diameter_mm", self.diameter_mm, 0.0, FARTHEST_MM, say("Diameter must be under 5 000 mm. Check the unit."))
            if self.centre_mm is not None:
                check_point("centre_mm", self.centre_mm)
            return
        for field in ("diameter_mm", "centre_mm"):
            if getattr(self, field) is not None:
                raise InvalidInput(field, say("An edge of points has no diameter and no middle."))
        points = self.points_mm or []
        if not 3 <= len(points) <= MOST_POINTS:
            raise InvalidInput("points_mm", say("Give 3 to {most} points round the edge.", most=MOST_POINTS))
        for index, point in enumerate(points):
            check_point(f"points_mm[{index}]", point)
        if not self.shape.is_valid or self.area_mm2 < checks.LEAST:
            raise InvalidInput("points_mm", say("This edge crosses itself. Go round it in one direction, point after point."))

    @cached_property
    def shape(self) -> shapely.Polygon:
        """The polygon of an edge of points; of a circle, a fine one."""
        return shapely.Polygon(self.corners)

    @property
    def middle(self) -> tuple[float, float]:
        """Of a circle, [mm]."""
        x, y = self.centre_mm or (0.0, 0.0)
        return x, y

    @property
    def radius_mm(self) -> float:
        """Of a circle, [mm]."""
        return (self.diameter_mm or 0.0) / 2.0

    @property
    def corners(self) -> list[list[float]]:
        """The edge as points, [mm]."""
        if self.kind == "points":
            return [list(map(float, one)) for one in self.points_mm or []]
        (x, y), turn = self.middle, 2.0 * pi / CORNERS
        return [[x + self.radius_mm * sin(turn * k), y + self.radius_mm * cos(turn * k)] for k in range(CORNERS)]

    @property
    def area_mm2(self) -> float:
        """The area inside, [mm2]."""
        return pi * self.radius_mm**2 if self.kind == "circle" else cast(float, self.shape.area)

    def depth_mm(self, x: float, y: float) -> float:
        """How far a point lies inside the edge, negative outside, [mm]."""
        if self.kind == "circle":
            return self.radius_mm - hypot(x - self.middle[0], y - self.middle[1])
        point = shapely.Point(x, y)
        away = cast(float, self.shape.exterior.distance(point))
        return away if self.shape.covers(point) else -away

    def holds(self, inner: Edge) -> bool:
        """Whether another edge lies wholly inside this one."""
        if inner.kind == "circle":
            return self.depth_mm(*inner.middle) >= inner.radius_mm - 1e-9
        if self.kind == "circle":
            return all(self.depth_mm(x, y) >= -1e-9 for x, y in inner.corners)
        return bool(self.shape.covers(inner.shape))
