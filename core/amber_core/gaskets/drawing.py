"""A gasket as SVG, true to size in millimetres, with a bar to check the print by."""

from __future__ import annotations

from amber_core.gaskets.outline import Edge

BAR_MM = 100.0
MARGIN_MM = 10.0
BAR_ROOM_MM = 14.0


def drawn(outer: Edge, inner: Edge | None, holes: list[tuple[float, float]], hole_mm: float) -> str:
    """The gasket as SVG; y points down there, so what is up is drawn up.

    Parameters
    ----------
    outer, inner : Edge
        Its edges.
    holes : list of (x, y)
        Middles of the holes, [mm].
    hole_mm : float
        Their diameter, [mm].
    """
    left, top, wide, high = sheet_mm(outer, holes, hole_mm)
    parts = [_edge(one) for one in (outer, inner) if one is not None]
    parts += [f'<circle cx="{x:.4f}" cy="{-y:.4f}" r="{hole_mm / 2.0:.4f}"/>' for x, y in holes]
    parts += [f'<path d="M{x - 3:.4f} {-y:.4f}h6M{x:.4f} {-y - 3:.4f}v6"/>' for x, y in holes]
    bar_y, bar_x = top + high - MARGIN_MM, left + MARGIN_MM
    # filled, so that its ends are where the ink ends
    bar = (
        f'<path id="check-bar" d="M{bar_x:.4f} {bar_y:.4f}v-2h.35v2h{BAR_MM - 0.7:g}v-2h.35v4h-.35v-1.65h-{BAR_MM - 0.7:g}v1.65h-.35z" '
        'fill="#000" stroke="none"/>'
    )
    label = f'<text x="{bar_x + BAR_MM + 3:.4f}" y="{bar_y + 1.4:.4f}" font-size="4" fill="#000" stroke="none">100 mm</text>'
    body = "".join(parts)
    return (
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{wide:.4f}mm" height="{high:.4f}mm" '
        f'viewBox="{left:.4f} {top:.4f} {wide:.4f} {high:.4f}">'
        f'<g fill="none" stroke="#000" stroke-width="0.25">{body}{bar}</g>{label}</svg>'
    )


def sheet_mm(outer: Edge, holes: list[tuple[float, float]], hole_mm: float) -> tuple[float, float, float, float]:
    """Left, top, width and height of the drawing with its margin and the check bar under it, [mm], y downwards."""
    radius = hole_mm / 2.0
    xs = [x for x, _ in outer.corners] + [x + side for x, _ in holes for side in (-radius, radius)]
    ys = [-y for _, y in outer.corners] + [-y + side for _, y in holes for side in (-radius, radius)]
    wide = max(max(xs) - min(xs) + 2.0 * MARGIN_MM, BAR_MM + 20.0 + 2.0 * MARGIN_MM)
    return min(xs) - MARGIN_MM, min(ys) - MARGIN_MM, wide, max(ys) - min(ys) + 2.0 * MARGIN_MM + BAR_ROOM_MM


def _edge(edge: Edge) -> str:
    if edge.kind == "circle":
        x, y = edge.middle
        return f'<circle cx="{x:.4f}" cy="{-y:.4f}" r="{edge.radius_mm:.4f}"/>'
    points = " ".join(f"{x:.4f},{-y:.4f}" for x, y in edge.corners)
    return f'<polygon points="{points}"/>'
