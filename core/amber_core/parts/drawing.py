"""Where each part stands in the exploded drawing of its assembly: plain coordinates, seen from above, forward upward."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

from amber_core.parts.assembly import Assembly, Place
from amber_core.parts.catalogue import At

WIDTH, HEIGHT = 1180.0, 540.0
_MIDDLE = 590.0
_WHEELS_Y = 390.0
_STEP = 23.0
_INSIDE_X, _INSIDE_Y = 330.0, 250.0
"""Where the inside of the carrier is drawn: beside the pinion axis, where there is room."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Spot:
    """A place in the drawing: its middle, and the direction of its axis in degrees clockwise from rightward."""

    key: str
    x: float
    y: float
    turned_deg: float


@dataclass(frozen=True, slots=True, kw_only=True)
class AxisLine:
    """The line that parts of one axis stand on."""

    axis: str
    x1: float
    y1: float
    x2: float
    y2: float


@lru_cache(maxsize=64)
def spots_of(assembly: Assembly, *, ring_on_left: bool = True) -> tuple[Spot, ...]:
    """Where every part of an assembly stands. Parts that would cover one another stand side by side.

    Parameters
    ----------
    ring_on_left : bool
        Whether the ring gear lies to the left of the pinion, seen from behind.
    """
    taken: dict[tuple[float, float], int] = {}
    found = []
    for key, place in assembly.places.items():
        x, y, turned = _spot(place, place.part.drawn_at(assembly.facts), ring_on_left)
        again = taken.get((x, y), 0)
        taken[(x, y)] = again + 1
        if again:  # beside the one that stands there already, across the axis
            x, y = (x + 26.0 * again, y) if turned == 90.0 else (x, y + 30.0 * again)
        found.append(Spot(key=key, x=round(x, 1), y=round(y, 1), turned_deg=turned))
    return tuple(found)


@lru_cache(maxsize=64)
def axes_of(spots: tuple[Spot, ...], assembly: Assembly) -> list[AxisLine]:
    """The centre lines, from the first part on each to the last."""
    lines: dict[tuple[str, float], list[Spot]] = {}
    for spot in spots:
        at = assembly.places[spot.key].part.drawn_at(assembly.facts)
        if at.off == 0 and at.axis not in "UJ":
            across = spot.x if spot.turned_deg == 90.0 else spot.y
            lines.setdefault((at.axis, across), []).append(spot)
    return [
        AxisLine(
            axis=axis,
            x1=min(one.x for one in on),
            y1=min(one.y for one in on),
            x2=max(one.x for one in on),
            y2=max(one.y for one in on),
        )
        for (axis, _), on in lines.items()
        if len(on) > 1
    ]


def _spot(place: Place, at: At, ring_on_left: bool) -> tuple[float, float, float]:
    side = _sign(place, ring_on_left)
    off = 30.0 * at.off
    if at.axis == "X":
        return _MIDDLE + (side or (-1.0 if at.along and ring_on_left else 1.0)) * _STEP * at.along, _WHEELS_Y + off, 0.0
    if at.axis == "D":
        return _INSIDE_X + (side or 1.0) * 36.0 * at.along, _INSIDE_Y + off, 0.0
    if at.axis == "Q":
        return _INSIDE_X, _INSIDE_Y - 26.0 * at.along, 90.0
    if at.axis == "Y":
        return _MIDDLE + off, _WHEELS_Y - 20.0 * (at.along + (0.0 if at.along else 0.9)), 90.0
    if at.axis == "R":
        return _MIDDLE, _WHEELS_Y + 26.0 * at.along + 8.0, 90.0
    if at.axis == "Z":
        return 40.0 + 44.0 * at.along, 36.0 + off, 0.0
    if at.axis == "T":
        return 360.0 + 40.0 * at.along * (-1.0 if place.side == "front" and at.along else 1.0), 300.0 + off, 0.0
    if at.axis == "J":
        number = ("front", "centre", "rear").index(place.side)
        return 700.0 + 150.0 * number + 26.0 * at.along, 120.0, 0.0
    return 60.0, 60.0 + 42.0 * at.along, 0.0


def _sign(place: Place, ring_on_left: bool) -> float:
    """To the left under 0, to the right over it; 0 without a side."""
    stands = {"left": -1.0, "right": 1.0, "ring": -1.0 if ring_on_left else 1.0, "far": 1.0 if ring_on_left else -1.0}
    return stands.get(place.side, 0.0)
