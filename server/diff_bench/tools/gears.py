"""Lockers and side gears."""

from __future__ import annotations

from typing import Any

from amber_core.differential.locker import LockerGap
from amber_core.differential.side_gear import SideGearPlay
from amber_core.words import say
from diff_bench.fields import Field, Tool, kit, least, line, mm, most
from work.as_left import Line

_WAYS = {
    "left_forward": say("Left wheel, forward"),
    "left_back": say("Left wheel, backward"),
    "right_forward": say("Right wheel, forward"),
    "right_back": say("Right wheel, backward"),
}
_TESTED = {"": say("not tested"), "ratchets": say("ratchets"), "binds": say("binds")}


def _locker(question: Any, answer: LockerGap, beside: dict[str, Any]) -> list[Line]:
    window = say("{least:mm2-} to {most:mm2}", least=answer.least_mm, most=answer.greatest_mm)
    lines = [
        line("locker_gap", say("Locker gap"), window, verdict=answer.verdict, value=answer.mean_mm),
        line("spread", say("End to end"), say("{spread:mm2}", spread=answer.spread_mm), value=answer.spread_mm),
    ]
    if answer.with_washers_mm is not None and answer.without_washers_mm is not None:
        lines.append(line("with_washers", say("With both washers"), say("{gap:mm2}", gap=answer.with_washers_mm)))
        lines.append(line("without_washers", say("Without washers"), say("{gap:mm2}", gap=answer.without_washers_mm)))
    tested = [beside.get(f"ratchet.{way}") for way in _WAYS]
    if any(tested):
        good = tested.count("ratchets")
        verdict = "out" if "binds" in tested else "in" if good == len(_WAYS) else "unknown"
        lines.append(line("ratchet", say("Ratchet test"), say("{good} of {all} ways", good=good, all=len(_WAYS)), verdict=verdict))  # type: ignore[arg-type]
    return lines


def _side_gear(question: Any, answer: SideGearPlay, beside: dict[str, Any]) -> list[Line]:
    play = say("{play:mm2}", play=answer.play_mm)
    lines = [line("side_gear_play", say("Side-gear play"), play, verdict=answer.verdict, value=answer.play_mm)]
    if answer.washer_change_mm is not None:
        change = answer.washer_change_mm
        said = say("{change:mm2} thicker", change=change) if change >= 0.0 else say("{change:mm2} thinner", change=-change)
        lines.append(line("washer_change", say("Thrust washer"), said, value=change))
    if answer.washer_wanted_mm is not None:
        lines.append(line("washer_wanted", say("Washer wanted"), say("{washer:mm2}", washer=answer.washer_wanted_mm)))
    if answer.pick_mm is not None:
        lines.append(line("washer", say("Nearest in the drawer"), say("{washer:mm2}", washer=answer.pick_mm), value=answer.pick_mm))
    return lines


TOOLS = (
    Tool(
        code="locker_gap",
        group="gears",
        title=say("Locker gap"),
        about=say("The gap between the two halves at both ends, and the ratchet test."),
        computation="locker.gap",
        fields=(
            Field(
                name="readings_mm",
                label=say("Gap"),
                many=(2, 8),
                places=(say("first end"), say("second end")),
                hint=say("Spread the halves with the pin in, and measure beside it at both ends."),
            ),
            Field(
                name="washers",
                label=say("Thrust washers"),
                kind="choice",
                section="part",
                options={"fitted": say("Fitted"), "left_out": say("Left out"), "unknown": say("Not known")},
                begin="fitted",
            ),
            Field(name="washer_mm", label=say("Washer thickness"), section="part", needed=False),
            least("min_mm", say("Gap, at least"), "locker_gap", needed=True),
            most("max_mm", say("Gap, at most"), "locker_gap", needed=True),
            *(
                Field(
                    name=f"ratchet.{way}",
                    label=label,
                    kind="choice",
                    section="part",
                    options={code: word for code, word in _TESTED.items() if code},
                    needed=False,
                    beside=True,
                )
                for way, label in _WAYS.items()
            ),
            Field(name="max_spread_mm", label=say("Difference end to end, at most (rule)"), section="more", begin="0.10 mm", needed=False),
        ),
        tells=_locker,
        cautions=(say("Fingers out of the differential while anybody turns a wheel."),),
        steps=("locker_gap", "ratchet_test"),
        clocks=("compound_cured",),
        fills=lambda question, answer, beside: {
            "gap_first": mm(question.readings_mm[0]),
            "gap_second": mm(question.readings_mm[1]),
            "ratchets": str([beside.get(f"ratchet.{way}") for way in _WAYS].count("ratchets")),
        },
        window=("min_mm", "max_mm"),
    ),
    Tool(
        code="side_gear",
        group="gears",
        title=say("Side-gear play"),
        about=say("Play of one side gear, and the thrust washer that brings it in."),
        computation="lash.side_gear",
        fields=(
            Field(name="plays_mm", label=say("Play of this side gear"), many=(1, 8), fine=True),
            Field(
                name="measured",
                label=say("Measured"),
                kind="choice",
                section="part",
                options={"axial": say("along the axis"), "tooth": say("at the tooth")},
                begin="axial",
            ),
            Field(name="washer_mm", label=say("Washer fitted now"), section="part", needed=False),
            least("min_mm", say("Play, at least"), "side_gear_play", fine=True),
            most("max_mm", say("Play, at most"), "side_gear_play", fine=True),
            kit("washer_stock", say("Washers in the drawer"), "washer", needed=False),
            Field(
                name="play_per_washer",
                label=say("Play lost per mm of washer (rule: 1.0, at the tooth 0.7)"),
                kind="number",
                section="more",
                needed=False,
            ),
        ),
        tells=_side_gear,
        steps=("gears_in", "washers"),
        fills=lambda question, answer, beside: {"side_gear_play": mm(answer.play_mm)},
        window=("min_mm", "max_mm"),
    ),
)
