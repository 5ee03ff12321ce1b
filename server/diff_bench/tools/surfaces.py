"""Seal surfaces and gaskets."""

from __future__ import annotations

from typing import Any

from amber_core.errors import InvalidInput
from amber_core.fits.land import LandWays, moves_the_marks
from amber_core.gaskets.template import Gasket
from amber_core.words import Said, say
from diff_bench.fields import Field, Tool, line, mm, most
from shared.money import money
from work.as_left import Line

WAYS = {
    "as_it_is": say("As it is"),
    "polish": say("Polished round"),
    "set_over": say("Seal set over onto good metal"),
    "sleeve": say("Repair sleeve"),
    "new_part": say("New part"),
}


def _land(question: Any, answer: LandWays, beside: dict[str, Any]) -> list[Line]:
    lines = [
        line("undersize", say("Under nominal"), say("{undersize:mm2}", undersize=answer.undersize_mm), value=answer.undersize_mm),
    ]
    if answer.recommended is not None:
        lines.append(line("recommended", say("Recommended"), WAYS[answer.recommended], verdict="in"))
    for index, one in enumerate(answer.ways):
        cost = say("{total}, ready the same day", total=money(one.total))
        if one.wait_days:
            cost = say("{total}, {days:g} days to wait", total=money(one.total), days=one.wait_days)
        said = cost if one.reason is None else say("{cost}. {why}", cost=cost, why=one.reason.text)
        lines.append(
            line(f"way_{index}", WAYS[one.way], said if one.allowed else _closed(one.reason), verdict="in" if one.allowed else "out")
        )
    old, new = beside.get("old_length_mm"), beside.get("new_length_mm")
    if old is not None and new is not None:
        other = moves_the_marks(old, new)
        said = (
            say("{by:mm2} different: marks on the nut are worthless, measure the preload again.", by=abs(new - old))
            if other
            else say("the same")
        )
        lines.append(line("flange_length", say("New flange's length"), said, verdict="edge" if other else "in", value=new - old))
    return lines


def _closed(reason: Any) -> Said:
    return say("Not open. {why}", why=reason.text)


def _gasket(question: Any, answer: Gasket, beside: dict[str, Any]) -> list[Line]:
    lands = [land for one in answer.holes for land in (one.land_outer_mm, one.land_inner_mm) if land is not None]
    lines = [line("holes", say("Holes"), say("{count}", count=len(answer.holes)), value=float(len(answer.holes)))]
    if lands:
        least = min(lands)
        lines.append(line("land", say("Thinnest land"), say("{land:mm1}", land=least), verdict=answer.verdict, value=least))
    if answer.closure_deg is not None:
        off = abs(answer.closure_deg) > 3.0
        said = say("{left:+.1f}° of a full turn", left=answer.closure_deg)
        lines.append(line("closure", say("Chords leave"), said, verdict="unknown" if off else "in", value=answer.closure_deg))
    lines.append(line("area", say("Area"), say("{area:.0f} cm²", area=answer.area_mm2 / 100.0), value=answer.area_mm2))
    return lines


def _edge(name: str, what: Said, *, needed: bool) -> tuple[Field, ...]:
    kinds = {"circle": say("Circle"), "points": say("Points")}
    if not needed:
        kinds = {"none": say("None"), **kinds}
    return (
        Field(name=f"{name}.kind", label=what, kind="choice", section="part", options=kinds, begin="circle" if needed else "none"),
        Field(name=f"{name}.diameter_mm", label=say("{edge}: diameter", edge=what), when=(f"{name}.kind", "circle")),
        Field(
            name=f"{name}.points_mm",
            label=say("{edge}: points round it", edge=what),
            columns=(Field(name="x", label=say("x, to the right")), Field(name="y", label=say("y, up"))),
            pairs=True,
            when=(f"{name}.kind", "points"),
            hint=say("From any corner, in one direction round the edge. Or trace them on a photo."),
        ),
    )


def _shape_gasket(read: dict[str, Any]) -> dict[str, Any]:
    return {name: part for name, part in read.items() if not (isinstance(part, dict) and part.get("kind") == "none")}


_POINTS = (Field(name="x", label=say("x, to the right")), Field(name="y", label=say("y, up")))
_HOLES = "holes.kind"

TOOLS = (
    Tool(
        code="seal_surface",
        group="surfaces",
        title=say("Seal surface"),
        about=say("The surface a seal runs on: which ways of mending it are open, and what each costs."),
        computation="fit.land",
        fields=(
            Field(name="nominal_mm", label=say("Diameter when new"), section="limits", limit="seal_surface", side="greatest"),
            Field(name="readings_mm", label=say("Diameter beside the groove"), many=(1, 6)),
            Field(name="groove_mm", label=say("Depth of the groove"), needed=False),
            Field(name="clean_band_mm", label=say("Good metal beside it, wide"), needed=False),
            Field(name="fingernail", label=say("A fingernail catches in the groove"), kind="flag", section="part", needed=False),
            Field(name="pitted", label=say("Pitted where the seal runs"), kind="flag", section="part", needed=False),
            Field(name="width_mm", label=say("Width of the surface"), section="part", needed=False, beside=True),
            Field(name="groove_at_mm", label=say("Groove, from the outer edge"), section="part", needed=False, beside=True),
            Field(
                name="pits",
                label=say("Pits"),
                section="part",
                columns=(Field(name="at_mm", label=say("From the outer edge")),),
                needed=False,
                beside=True,
                hint=say("With the width of the surface they are drawn where they lie."),
            ),
            Field(
                name="ways",
                label=say("Ways and prices"),
                section="part",
                columns=(
                    Field(name="way", label=say("Way"), kind="choice", options=WAYS),
                    Field(name="price", label=say("Parts"), kind="money", begin="0"),
                    Field(name="minutes", label=say("Minutes"), kind="minutes", begin="0"),
                    Field(name="sleeve_from_mm", label=say("Sleeve fits from"), needed=False),
                    Field(name="sleeve_to_mm", label=say("to"), needed=False),
                    Field(name="wait_days", label=say("Days to wait"), kind="number", needed=False),
                ),
            ),
            Field(name="hourly", label=say("Price of an hour"), kind="money", section="part"),
            Field(name="old_length_mm", label=say("Old flange's length"), needed=False, beside=True),
            Field(name="new_length_mm", label=say("New flange's length"), needed=False, beside=True),
            most("max_undersize_mm", say("Under nominal, at most (rule: 0.10 mm)")),
            most("polish_depth_mm", say("Polishing takes off, radially, at most (rule: 0.02 mm)")),
        ),
        tells=_land,
        shapes=lambda read, beside: {**read, "pitted": bool(read.get("pitted") or beside.get("pits"))},
        verdict=lambda answer: "in" if answer.recommended == "as_it_is" else "out",
        cautions=(say("Polish round and round only: a spiral pumps oil out. Keep grit out of the bearing."),),
        steps=("flange_land", "flange_length"),
        fills=lambda question, answer, beside: {
            "as_found.flange_length": mm(beside.get("old_length_mm")),
            "flange_length": mm(beside.get("new_length_mm")),
        },
    ),
    Tool(
        code="gasket",
        group="surfaces",
        title=say("Gasket"),
        about=say("A gasket drawn true to size from its bolt circle, from chords, or from points; thin places marked."),
        computation="gasket.template",
        fields=(
            *_edge("outer", say("Outside edge"), needed=True),
            *_edge("inner", say("Inside edge"), needed=False),
            Field(
                name=_HOLES,
                label=say("Holes"),
                kind="choice",
                section="part",
                options={
                    "circle": say("Evenly round a circle"),
                    "chords": say("By the chords between them"),
                    "points": say("Points"),
                    "none": say("None"),
                },
                begin="circle",
            ),
            Field(name="holes.count", label=say("Number of holes"), kind="count", when=(_HOLES, "circle")),
            Field(name="holes.pitch_circle_mm", label=say("Bolt circle"), when=(_HOLES, "circle")),
            Field(name="chords.pitch_circle_mm", label=say("Bolt circle"), when=(_HOLES, "chords")),
            Field(
                name="holes.chords_mm",
                label=say("Chord to the next hole"),
                many=(3, 40),
                when=(_HOLES, "chords"),
                hint=say("Clockwise from the first hole, the last back to the first."),
            ),
            Field(name="holes.points_mm", label=say("Middles of the holes"), columns=_POINTS, pairs=True, when=(_HOLES, "points")),
            Field(name="hole_mm", label=say("Hole diameter"), needed=False),
            Field(
                name="first_deg",
                label=say("First hole, degrees from the top"),
                kind="angle",
                section="more",
                needed=False,
            ),
            most("min_land_mm", say("Land round a hole, at least (usual: 3 mm)")),
        ),
        tells=_gasket,
        shapes=lambda read, beside: _shape_gasket(_holes(read)),
        steps=("cover_seal", "cover"),
    ),
)


def _holes(read: dict[str, Any]) -> dict[str, Any]:
    """What belongs to every kind of holes is asked for once."""
    holes = {**read.get("holes", {}), **read.pop("chords", {})}
    hole, first = read.pop("hole_mm", None), read.pop("first_deg", None)
    if holes.get("kind") in ("circle", "chords", "points"):
        if hole is None:
            raise InvalidInput("hole_mm", say("Give the diameter of the holes."))
        holes["hole_mm"] = hole
    if holes.get("kind") in ("circle", "chords") and first is not None:
        holes["first_deg"] = first
    return {**read, "holes": holes}
