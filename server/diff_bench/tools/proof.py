"""Runout, air lines and heat."""

from __future__ import annotations

from typing import Any

from amber_core.air_lines.hold import AirHold
from amber_core.road_test.heat import HeatVerdict
from amber_core.runout.assess import RunoutVerdict
from amber_core.words import Said, say
from diff_bench.fields import Field, Tool, line, mm, most
from work.as_left import Line

PARTS = {
    "flange_runout": say("Carrier flange"),
    "ring_back": say("Ring gear back face"),
    "pinion_flange": say("Pinion flange"),
    "axle_flange": say("Wheel flange"),
    "tube_runout": say("Propshaft tube"),
}
_CAUSES = {
    "once_per_turn": say("Once in a turn: bent, or it does not sit square"),
    "local": say("One place alone: dried thread locker, a burr or dirt"),
    "none": say("No pattern"),
}


def _runout(question: Any, answer: RunoutVerdict, beside: dict[str, Any]) -> list[Line]:
    part = PARTS[beside.get("part", "flange_runout")]
    runout = say("{tir:mm2}", tir=answer.tir_mm)
    lines = [
        line(beside.get("part", "flange_runout"), say("{part}: runout", part=part), runout, verdict=answer.verdict, value=answer.tir_mm)
    ]
    cause = _CAUSES[answer.bent_or_dirt]
    if answer.local_at_deg is not None:
        cause = say("{cause}, at {at:.0f}°. Clean it and read again.", cause=cause, at=answer.local_at_deg)
    lines.append(line("cause", say("Looks like"), cause, verdict="edge" if answer.bent_or_dirt == "local" else "unknown"))
    return lines


def _air(question: Any, answer: AirHold, beside: dict[str, Any]) -> list[Line]:
    return [
        line(
            "drop",
            say("Drop, temperature counted out"),
            say("{drop:.1f} kPa", drop=answer.drop_kpa),
            verdict=answer.verdict,
            value=answer.drop_kpa,
        ),
        line("per_hour", say("In an hour"), say("{drop:.0f} kPa", drop=answer.drop_per_hour_kpa), value=answer.drop_per_hour_kpa),
        line("end", say("End pressure at the first temperature"), say("{end:.0f} kPa", end=answer.corrected_end_kpa)),
    ]


def _heat(question: Any, answer: HeatVerdict, beside: dict[str, Any]) -> list[Line]:
    lines = [
        line(
            f"rise_{one.place}",
            Said.of(one.place.capitalize()),
            say("{rise:.0f} °C over the air, up to {most:.0f} is usual", rise=one.rise_k, most=one.max_rise_k),
            verdict=one.verdict,
            value=one.rise_k,
        )
        for one in answer.rises
    ]
    if answer.difference_k is not None:
        lines.append(line("difference", say("Left against right"), say("{by:.0f} °C apart", by=answer.difference_k)))
    return lines


def _places(read: dict[str, Any], beside: dict[str, Any]) -> dict[str, Any]:
    places = read.pop("places", {})
    return {**read, "readings": [{"place": place, "celsius": celsius} for place, celsius in places.items()]}


TOOLS = (
    Tool(
        code="runout",
        group="proof",
        title=say("Flange runout"),
        about=say("A face or tube turned under the dial: how far out, and whether it is bent or dirty."),
        computation="runout.assess",
        fields=(
            Field(name="part", label=say("Part"), kind="choice", section="part", options=PARTS, begin="flange_runout", beside=True),
            Field(
                name="readings",
                fine=True,
                label=say("Dial"),
                angles=8,
                hint=say("Clean it first. Turn it by hand, and read the dial at eight places; figures under zero count as they are."),
            ),
            most("max_tir_mm", say("Runout, at most"), "flange_runout", needed=True, fine=True),
        ),
        tells=_runout,
        steps=("flange_runout", "journal", "shaft_back"),
        fills=lambda question, answer, beside: dict.fromkeys(("flange_runout", "axle_flange_runout", "tube_runout"), mm(answer.tir_mm)),
        window=("", "max_tir_mm"),
    ),
    Tool(
        code="air_hold",
        group="proof",
        title=say("Air line hold"),
        about=say("Whether an air line holds its pressure, with the temperature counted out."),
        computation="air.hold",
        fields=(
            Field(
                name="start_kpa", label=say("Pressure at the start"), kind="pressure", hint=say("Gauge pressure, supply shut off, settled.")
            ),
            Field(name="start_c", label=say("Air at the start"), kind="temperature"),
            Field(name="end_kpa", label=say("Pressure at the end"), kind="pressure"),
            Field(name="end_c", label=say("Air at the end"), kind="temperature"),
            Field(name="minutes", label=say("Minutes between"), kind="minutes"),
            most("max_drop_kpa", say("Drop, at most"), "air_drop", "pressure", needed=True),
            Field(name="ambient_kpa", label=say("Air pressure outside"), kind="pressure", section="more", begin="101.3", needed=False),
        ),
        tells=_air,
        cautions=(say("Let the air down before a line is opened."),),
        steps=("air_test",),
    ),
    Tool(
        code="heat",
        group="proof",
        title=say("Temperatures after a drive"),
        about=say("Which place is too hot, and whether left and right differ."),
        computation="heat.judge",
        fields=(
            Field(name="ambient_c", label=say("Air"), kind="temperature"),
            Field(name="places.pinion", label=say("Pinion"), kind="temperature", needed=False),
            Field(name="places.left", label=say("Left wheel end"), kind="temperature", needed=False),
            Field(name="places.right", label=say("Right wheel end"), kind="temperature", needed=False),
        ),
        tells=_heat,
        shapes=_places,
        cautions=(say("Hot parts burn: do not touch to find out. Coast to a stop, brakes heat the hubs."),),
    ),
)
