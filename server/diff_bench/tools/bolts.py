"""Bolts and nuts."""

from __future__ import annotations

from typing import Any

from amber_core.fasteners.castle import CastleNut
from amber_core.fasteners.estimate import TorqueEstimate
from amber_core.fasteners.sequence import TorquePlan
from amber_core.fasteners.turning import Turning
from amber_core.words import Said, say
from diff_bench.fields import Field, Tool, least, line, mm, most
from work.as_left import Line

_STATES = {
    "seating": say("Still closing"),
    "pulling": say("Pulling"),
    "yielding": say("Stretching: stop"),
    "there": say("At its torque"),
}


def _plan(question: Any, answer: TorquePlan, beside: dict[str, Any]) -> list[Line]:
    lines = [line("order", say("Torque sequence"), Said.of(", ".join(map(str, answer.order))))]
    for index, one in enumerate(answer.stages):
        said = (
            say("{nm:Nm0}", nm=one.nm)
            if one.setting_nm is None
            else say("{nm:Nm0} at the bolt, set the wrench to {setting:Nm0}", nm=one.nm, setting=one.setting_nm)
        )
        lines.append(line(f"stage_{index}", say("Stage {number}", number=index + 1), said))
    if answer.angle_deg is not None:
        lines.append(line("angle", say("Then turn by"), say("{angle:.0f}°", angle=answer.angle_deg)))
    return lines


def _turning(question: Any, answer: Turning, beside: dict[str, Any]) -> list[Line]:
    verdict = {"there": "in", "yielding": "out"}.get(answer.state, "unknown")
    lines = [line("state", say("The bolt"), _STATES[answer.state], verdict=verdict)]  # type: ignore[arg-type]
    if answer.slope_nm_per_deg is not None:
        lines.append(line("slope", say("Torque gained in 10°"), say("{slope:Nm1}", slope=10.0 * answer.slope_nm_per_deg)))
    return lines


def _estimate(question: Any, answer: TorqueEstimate, beside: dict[str, Any]) -> list[Line]:
    by = say("by the bolt") if answer.limited_by == "bolt" else say("by the tapped thread")
    return [
        line("torque", say("Torque (typical)"), say("{torque:Nm0}", torque=answer.torque_nm), value=answer.torque_nm),
        line("preload", say("Bolt load"), say("{load:.1f} kN", load=answer.preload_n / 1000.0)),
        line("limited", say("Limited"), by),
    ]


def _castle(question: Any, answer: CastleNut, beside: dict[str, Any]) -> list[Line]:
    lines = [line("step", say("One position is"), say("{step:mm3} of play", step=answer.step_mm))]
    if answer.back_positions is not None and answer.play_then_mm is not None:
        back = answer.back_positions
        said = (
            say("leave it where it is")
            if back == 0
            else say("{count} looser", count=back)
            if back > 0
            else say("{count} tighter", count=-back)
        )
        lines.append(line("back", say("Positions"), said, value=float(back)))
        play = say("{play:mm3}", play=answer.play_then_mm)
        lines.append(line("play_then", say("Play then"), play, verdict=answer.verdict, value=answer.play_then_mm))
    return lines


TOOLS = (
    Tool(
        code="bolts",
        group="bolts",
        title=say("Torque sequence"),
        about=say("The order round a part, its stages, and the wrench setting with an adapter."),
        computation="torque.plan",
        fields=(
            Field(name="count", label=say("Number of bolts"), kind="count"),
            Field(name="target_nm", label=say("Torque"), kind="torque"),
            Field(
                name="layout",
                label=say("Layout"),
                kind="choice",
                section="part",
                options={"circle": say("Round a circle"), "row": say("In a row")},
                begin="circle",
            ),
            Field(
                name="repeat_last",
                label=say("Once more round at the last stage (gaskets relax)"),
                kind="flag",
                section="part",
                needed=False,
            ),
            Field(name="angle_deg", label=say("Then turned by"), kind="angle", needed=False),
            Field(name="wrench_mm", label=say("Wrench, grip to square"), section="more", needed=False),
            Field(name="adapter_mm", label=say("Adapter"), section="more", needed=False),
            Field(name="adapter_angle_deg", label=say("Adapter angle (0 = straight out)"), kind="angle", section="more", needed=False),
        ),
        tells=_plan,
        verdict=lambda answer: None,
        cautions=(say("Think where a reaction bar goes when the socket slips."),),
    ),
    Tool(
        code="turning",
        group="bolts",
        title=say("Bolt that turns"),
        about=say("Whether a bolt still pulls, or turns without gaining torque."),
        computation="torque.turning",
        fields=(
            Field(name="target_nm", label=say("Torque wanted"), kind="torque", section="limits"),
            Field(
                name="steps",
                label=say("Turn and torque"),
                columns=(
                    Field(name="turn_deg", label=say("Turned to"), kind="angle"),
                    Field(name="torque_nm", label=say("Torque"), kind="torque"),
                ),
            ),
            Field(name="run_down_nm", label=say("Run-down torque of a locking nut or insert"), kind="torque", section="more", needed=False),
            Field(name="tightened_by_angle", label=say("Tightened by angle"), kind="flag", section="more", needed=False),
        ),
        tells=_turning,
        verdict=lambda answer: {"there": "in", "yielding": "out"}.get(answer.state, "unknown"),  # type: ignore[return-value,arg-type]
    ),
    Tool(
        code="torque_estimate",
        group="bolts",
        title=say("Torque where the sheet is silent"),
        about=say("A typical torque from size, grade and thread. The sheet's figure comes first."),
        computation="torque.estimate",
        fields=(
            Field(name="diameter_mm", label=say("Thread diameter")),
            Field(name="pitch_mm", label=say("Thread pitch")),
            Field(
                name="grade",
                label=say("Grade"),
                kind="choice",
                section="part",
                options={one: Said.of(one) for one in ("5.8", "8.8", "10.9", "12.9", "G5", "G8")},
            ),
            Field(
                name="lubricated",
                label=say("Thread"),
                kind="choice",
                section="part",
                options={"no": say("Dry"), "yes": say("Oiled, or with thread locker")},
            ),
            Field(
                name="into",
                label=say("Into"),
                kind="choice",
                section="part",
                options={"steel": say("Steel"), "iron": say("Iron"), "aluminium": say("Aluminium")},
                begin="steel",
            ),
            Field(name="engagement_mm", label=say("Thread engaged"), section="more", needed=False),
        ),
        tells=_estimate,
        verdict=lambda answer: None,
        shapes=lambda read, beside: {**read, "lubricated": read.get("lubricated") == "yes"},
        cautions=(say("A dry figure on an oiled thread stretches the bolt."),),
    ),
    Tool(
        code="castle_nut",
        group="bolts",
        title=say("Castellated nut"),
        about=say("Which slot the split pin goes through, and the play then."),
        computation="nut.castle",
        fields=(
            Field(name="play_mm", label=say("Play now, with the pin able to go in"), fine=True),
            Field(name="pitch_mm", label=say("Thread pitch"), section="part"),
            Field(name="slots", label=say("Slots of the nut"), kind="count", section="part"),
            Field(name="holes", label=say("Holes through the stud"), kind="count", section="part", begin="1"),
            least("min_mm", say("Play, at least"), "wheel_end_play", needed=True, fine=True),
            most("max_mm", say("Play, at most"), "wheel_end_play", needed=True, fine=True),
            Field(name="thread_factor", label=say("Play per mm of nut travel"), kind="number", section="more", begin="1.0", needed=False),
        ),
        tells=_castle,
        cautions=(say("A nut tightened to a torque goes on to the next slot, never back. This is for a nut that sets play."),),
        steps=("hub_built", "end_play"),
        fills=lambda question, answer, beside: {"end_play": mm(answer.play_then_mm)},
        window=("min_mm", "max_mm"),
    ),
)
