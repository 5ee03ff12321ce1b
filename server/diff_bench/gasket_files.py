"""A gasket as a file: true to size on sheets of paper, and for a cutter."""

from __future__ import annotations

import io
import re
from dataclasses import dataclass
from math import ceil

from django.template.loader import render_to_string
from django.utils.safestring import mark_safe
from ezdxf.filemanagement import new
from ezdxf.units import MM

from amber_core.gaskets.template import Gasket, GasketQuestion
from shared.pdf import pdf_of

PAPERS_MM = {"a4": (210.0, 297.0), "letter": (215.9, 279.4)}
MARGIN_MM = 10.0
FOOT_MM = 12.0
OVERLAP_MM = 10.0
"""Neighbouring sheets show the same strip of this width, so that they can be laid over each other."""
_VIEW = re.compile(r'viewBox="([-\d.]+) ([-\d.]+) ([-\d.]+) ([-\d.]+)"')


@dataclass(frozen=True)
class Tile:
    """One sheet of paper: its name, and what of the drawing it shows, [mm]."""

    name: str
    left: float
    top: float
    wide: float
    high: float
    joins_left: str
    joins_up: str


def gasket_dxf(question: GasketQuestion, answer: Gasket) -> bytes:
    """The gasket as DXF (R2010, millimetres): circles as circles, other edges as closed polylines, on a layer each."""
    drawing = new("R2010", units=MM)
    space = drawing.modelspace()
    for layer, edge in (("OUTSIDE", question.outer), ("INSIDE", question.inner)):
        drawing.layers.add(layer)
        if edge is None:
            continue
        if edge.kind == "circle":
            space.add_circle(edge.middle, edge.radius_mm, dxfattribs={"layer": layer})
        else:
            space.add_lwpolyline([(x, y) for x, y in edge.corners], close=True, dxfattribs={"layer": layer})
    drawing.layers.add("HOLES")
    for x, y in answer.outline.holes:
        space.add_circle((x, y), (answer.outline.hole_mm or 0.0) / 2.0, dxfattribs={"layer": "HOLES"})
    out = io.StringIO()
    drawing.write(out)
    return out.getvalue().encode()


def tiles_of(svg: str, paper: str) -> list[Tile]:
    """How a drawing true to size lies on sheets of paper."""
    view = _VIEW.search(svg)
    assert view is not None
    left, top, wide, high = map(float, view.groups())
    width, height = PAPERS_MM[paper]
    tile_wide, tile_high = width - 2.0 * MARGIN_MM, height - 2.0 * MARGIN_MM - FOOT_MM
    step_x, step_y = tile_wide - OVERLAP_MM, tile_high - OVERLAP_MM
    columns, rows = (max(1, ceil((size - OVERLAP_MM) / step)) for size, step in ((wide, step_x), (high, step_y)))
    names = [[f"{chr(65 + row) if row < 26 else row}{column + 1}" for column in range(columns)] for row in range(rows)]
    return [
        Tile(
            name=names[row][column],
            left=left + column * step_x,
            top=top + row * step_y,
            wide=tile_wide,
            high=tile_high,
            joins_left=names[row][column - 1] if column else "",
            joins_up=names[row - 1][column] if row else "",
        )
        for row in range(rows)
        for column in range(columns)
    ]


def gasket_pdf(answer: Gasket, paper: str) -> bytes:
    """The gasket true to size on A4 or Letter, with marks where sheets overlap and a bar of 100 mm on each."""
    width, height = PAPERS_MM[paper]
    tiles = tiles_of(answer.svg, paper)
    inner = answer.svg[answer.svg.index(">") + 1 : answer.svg.rindex("</svg>")]
    context = {
        "drawing": mark_safe(inner),  # noqa: S308 - drawn by the core out of figures alone
        "tiles": [
            {
                "name": one.name,
                "view": f"{one.left:.4f} {one.top:.4f} {one.wide:.4f} {one.high:.4f}",
                "left": f"{one.left:.4f}",
                "top": f"{one.top:.4f}",
                "overlap_x": f"{one.left + OVERLAP_MM:.4f}",
                "overlap_y": f"{one.top + OVERLAP_MM:.4f}",
                "right": f"{one.left + one.wide:.4f}",
                "bottom": f"{one.top + one.high:.4f}",
                "joins_left": one.joins_left,
                "joins_up": one.joins_up,
            }
            for one in tiles
        ],
        "count": len(tiles),
        "page_wide": f"{width:g}",
        "page_high": f"{height:g}",
        "wide": f"{tiles[0].wide:g}",
        "high": f"{tiles[0].high:g}",
        "margin": f"{MARGIN_MM:g}",
        "overlap": f"{OVERLAP_MM:g}",
    }
    return pdf_of(render_to_string("diff_bench/gasket.html", context))
