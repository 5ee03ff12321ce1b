"""A gasket from what was measured: where the holes stand, where it is thin, and its drawing true to size."""

from __future__ import annotations

from dataclasses import dataclass

from amber_core import checks
from amber_core.errors import InvalidInput
from amber_core.gaskets.drawing import drawn
from amber_core.gaskets.holes import Holes
from amber_core.gaskets.outline import Edge
from amber_core.verdicts import Limit, Reason, VerdictWord, held, worse
from amber_core.words import say

MOST_CLOSURE_DEG = 3.0
"""What the chords may leave of a full turn, or be too long by, [deg]."""


@dataclass(frozen=True, slots=True, kw_only=True)
class GasketQuestion:
    """The outside edge, the inside edge where there is one, the holes, and the least land round a hole [mm]."""

    outer: Edge
    inner: Edge | None = None
    holes: Holes | None = None
    min_land_mm: float = 3.0
    resolution_mm: float = 0.01

    def __post_init__(self) -> None:
        checks.within("min_land_mm", self.min_land_mm, 0.0, 500.0, say("Least land must be 0 to 500 mm."))
        checks.resolution_ok(self.resolution_mm)
        if self.inner is not None and not self.outer.holds(self.inner):
            raise InvalidInput("inner", say("The inside edge reaches over the outside edge. Check both."))


@dataclass(frozen=True, slots=True, kw_only=True)
class GasketHole:
    """A hole and the land from its edge to the outside and to the inside of the gasket, [mm]; negative where it breaks through."""

    x_mm: float
    y_mm: float
    land_outer_mm: float
    land_inner_mm: float | None
    verdict: VerdictWord


@dataclass(frozen=True, slots=True, kw_only=True)
class GasketOutline:
    """Edges as points, middles of the holes, and their diameter, [mm]."""

    outer: list[list[float]]
    inner: list[list[float]] | None
    holes: list[list[float]]
    hole_mm: float | None


@dataclass(frozen=True, slots=True, kw_only=True)
class Gasket:
    """Holes, what the chords leave of a turn [deg], area [mm2], and the drawing: as SVG, true to size, and as points."""

    holes: list[GasketHole]
    closure_deg: float | None
    area_mm2: float
    verdict: VerdictWord
    reasons: list[Reason]
    svg: str
    outline: GasketOutline


def make_template(given: GasketQuestion) -> Gasket:
    """Make the template of a gasket.

    Parameters
    ----------
    given : GasketQuestion
        Edges and holes, [mm]; x right, y up, angles clockwise from the top, seen from the face.

    Returns
    -------
    Gasket
        Places and lands [mm], area [mm2].

    Raises
    ------
    InvalidInput
        From GasketQuestion, with the field.

    Notes
    -----
    Land = distance from the hole's edge to the nearest point of an edge. Chords: each turns by 2 asin(c/D); what they leave of a full
    turn is spread evenly over them. Area = outer - inner - holes.

    Examples
    --------
    >>> outer = Edge(kind="circle", diameter_mm=210.0)
    >>> holes = Holes(kind="circle", count=8, pitch_circle_mm=186.0, hole_mm=9.0)
    >>> round(make_template(GasketQuestion(outer=outer, holes=holes)).holes[0].land_outer_mm, 3)
    7.5
    """
    middles = given.holes.middles() if given.holes is not None else []
    holes = [_hole(given, given.holes.hole_mm, x, y) for x, y in middles] if given.holes is not None else []
    closure = given.holes.closure_deg if given.holes is not None else None
    reasons = [_thin(given, index, one) for index, one in enumerate(holes) if one.verdict == "out"]
    verdict = worse([one.verdict for one in holes]) if holes else "in"
    if closure is not None and abs(closure) > MOST_CLOSURE_DEG:
        verdict = worse([verdict, "unknown"])
        text = say("The chords do not close: {left:.1f}° of the full turn are left. Measure chords and bolt circle again.", left=closure)
        over = say("The chords do not close: they go {over:.1f}° over the full turn. Measure chords and bolt circle again.", over=-closure)
        reasons.append(Reason(code="does_not_close", text=text if closure > 0.0 else over, field="holes.chords_mm"))
    area = given.outer.area_mm2 - (given.inner.area_mm2 if given.inner else 0.0)
    outline = GasketOutline(
        outer=given.outer.corners,
        inner=given.inner.corners if given.inner else None,
        holes=[[x, y] for x, y in middles],
        hole_mm=given.holes.hole_mm if given.holes is not None else None,
    )
    return Gasket(
        holes=holes,
        closure_deg=closure,
        area_mm2=area - (given.holes.area_mm2 * len(middles) if given.holes is not None else 0.0),
        verdict=verdict,
        reasons=reasons,
        svg=drawn(given.outer, given.inner, [(x, y) for x, y in middles], given.holes.hole_mm if given.holes is not None else 0.0),
        outline=outline,
    )


def _hole(given: GasketQuestion, hole_mm: float, x: float, y: float) -> GasketHole:
    radius = hole_mm / 2.0
    outer = given.outer.depth_mm(x, y) - radius
    inner = None if given.inner is None else -given.inner.depth_mm(x, y) - radius
    lands = [one for one in (outer, inner) if one is not None]
    limits = [
        Limit(value=one, bound=given.min_land_mm, side="min", field="min_land_mm", what=say("The land"), unit="mm", digits=1)
        for one in lands
    ]
    return GasketHole(x_mm=x, y_mm=y, land_outer_mm=outer, land_inner_mm=inner, verdict=held(limits, given.resolution_mm)[0])


def _thin(given: GasketQuestion, index: int, hole: GasketHole) -> Reason:
    least = min(one for one in (hole.land_outer_mm, hole.land_inner_mm) if one is not None)
    text = (
        say("Hole {number} breaks through the edge.", number=index + 1)
        if least < 0.0
        else say("Hole {number} leaves only {land:mm1} of land. It will leak there first.", number=index + 1, land=least)
    )
    return Reason(code="thin_land", text=text, field=f"holes[{index}]")
