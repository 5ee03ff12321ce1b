"""The run sheet on paper, for a bench without a screen: boxes for readings, cautions, bolts in tightening order."""

from __future__ import annotations

from math import cos, pi, sin
from typing import Any

from django.template.loader import render_to_string

from amber_core.words import Said, say
from shared.pdf import pdf_of
from work.models import Work
from work.present import work_out

_RADIUS = 34.0
_DRAWN = range(3, 25)
"""How many bolts a drawing of this size can show."""


def paper_html(work: Work) -> str:
    """The steps that are still open, to be filled in by hand."""
    shown = work_out(work)
    steps = [_step(one) for one in shown["steps"] if one["state"] != "passed"]
    done = sum(one["state"] == "passed" for one in shown["steps"])
    context = {"job": work.job, "vehicle": work.job.vehicle, "title": shown["title"], "family": shown["family_name"], "done": done}
    return render_to_string("build_sheet/run_sheet.html", {**context, "steps": steps, "all": len(shown["steps"])})


def paper_pdf(work: Work) -> bytes:
    """The same as PDF."""
    return pdf_of(paper_html(work))


def _step(one: dict[str, Any]) -> dict[str, Any]:
    fastener = one["fastener"]
    drawn = _bolts(fastener["order"]) if fastener and one["act"] == "bolts" and fastener["layout"] == "circle" else []
    asks = [{**ask, "window": _window(ask["limit"])} for ask in one["asks"]]
    return {**one, "bolts": drawn, "asks": asks, "tightening": _tightening(fastener) if fastener else []}


def _tightening(one: dict[str, Any]) -> list[Said | str]:
    """How bolts are tightened, in the reader's units."""
    found = [say("{label}: {count}", label=one["label"], count=one["count"]).told()]
    if one["layout"] == "row" and one["count"] > 1:
        found.append(say("in the order {order}", order=", ".join(map(str, one["order"]))).told())
    found += [say("stage {number}: {torque:Nm0}", number=number, torque=nm).told() for number, nm in enumerate(one["stages_nm"], start=1)]
    if one["angle_deg"] is not None:
        found.append(say("then turn by {angle:.0f}°", angle=one["angle_deg"]).told())
    flags = (
        (one["left_hand"], say("left-hand thread")),
        (one["one_time_use"], say("new ones every time")),
        (one["stages_nm"] and one["oiled"], say("thread oiled")),
        (one["stages_nm"] and not one["oiled"], say("thread dry")),
    )
    return [*found, *(word.told() for holds, word in flags if holds), *filter(None, (one["thread"], one["locked_by"]))]


def _window(limit: dict[str, Any] | None) -> Said | str:
    """The window of a value, in the reader's units."""
    if limit is None:
        return ""
    least, greatest, unit = limit["least"], limit["greatest"], limit["unit"]
    if least is None:
        return say("up to {greatest:g} {unit}", greatest=greatest, unit=unit).told()
    if greatest is None:
        return say("at least {least:g} {unit}", least=least, unit=unit).told()
    return say("{least:g} to {greatest:g} {unit}", least=least, greatest=greatest, unit=unit).told()


def _bolts(order: list[int]) -> list[dict[str, float]]:
    """Where each bolt stands in a drawing of 100 by 100, numbered as it is tightened."""
    if len(order) not in _DRAWN:
        return []
    places = []
    for turn, bolt in enumerate(order, start=1):
        angle = 2.0 * pi * (bolt - 1) / len(order)
        places.append({"turn": turn, "x": round(50.0 + _RADIUS * sin(angle), 2), "y": round(50.0 - _RADIUS * cos(angle), 2)})
    return places
