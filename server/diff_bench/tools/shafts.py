"""Half shafts, axle shafts and the ends of axle tubes."""

from __future__ import annotations

from typing import Any

from amber_core.wheel_ends.engagement import Engagement
from amber_core.wheel_ends.half_shaft import Home
from amber_core.wheel_ends.tube_register import RegisterPlan
from amber_core.words import say
from diff_bench.fields import SIDE, Field, Tool, least, line, mm, most
from work.as_left import Line

_AGAINST = {"before": say("Stands out, against before"), "other_side": say("Stands out, against the other side")}


def _home(question: Any, answer: Home, beside: dict[str, Any]) -> list[Line]:
    lines = [line("gap", say("Gap to the housing"), say("{gap:mm1}", gap=question.gap_now_mm), value=question.gap_now_mm)]
    if answer.extra_mm is not None and answer.against is not None:
        extra = say("{extra:+mm1}", extra=answer.extra_mm)
        lines.append(line("extra", _AGAINST[answer.against], extra, verdict=answer.verdict, value=answer.extra_mm))
    else:
        lines.append(line("extra", say("Nothing to compare with"), say("Measure the other side's gap.")))
    return lines


def _engagement(question: Any, answer: Engagement, beside: dict[str, Any]) -> list[Line]:
    engaged = say("{engaged:mm1}", engaged=answer.engaged_least_mm)
    return [
        line("engagement", say("Least engagement"), engaged, verdict=answer.verdict, value=answer.engaged_least_mm),
        line("wanted", say("Wanted"), say("{wanted:mm1}", wanted=answer.wanted_mm), value=answer.wanted_mm),
    ]


def _register(question: Any, answer: RegisterPlan, beside: dict[str, Any]) -> list[Line]:
    plane = answer.plane
    lines = [
        line("mean", say("Register, mean height"), say("{mean:mm2}", mean=plane.mean_mm), value=plane.mean_mm),
        line(
            "tilt",
            say("Out of true"),
            say("{tilt:mm2}, highest at {at:.0f}°", tilt=plane.tilt_mm, at=plane.high_at_deg),
            value=plane.tilt_mm,
        ),
        line("window", say("The stub must be"), say("{low:mm2-} to {high:mm2}", low=answer.low_mm, high=answer.high_mm)),
        line(
            "flush",
            say("Cut flush with the register"),
            say("would do") if answer.flush_ok else say("would not do"),
            verdict="in" if answer.flush_ok else "unknown",
        ),
    ]
    if answer.guide_range_mm is not None:
        low, high = answer.guide_range_mm
        guide = say("{low:mm2-} to {high:mm2}", low=low, high=high)
        lines.append(line("guide", say("Guide ring that would do"), guide, verdict="in"))
    elif answer.possible:
        lines.append(line("guide", say("Guide ring"), say("no even ring will do: cut high and trim"), verdict="edge"))
    if answer.cut_at_mm is not None:
        cut = say("{cut:mm2} above the flange face, all round", cut=answer.cut_at_mm)
        lines.append(line("cut", say("Cut line"), cut, value=answer.cut_at_mm))
    for one in answer.places:
        if one.trim_mm > 0.0:
            where = say("Trim at {at:.0f}°", at=one.angle_deg)
            lines.append(line(f"trim_{one.angle_deg:.0f}", where, say("{trim:mm2}", trim=one.trim_mm), verdict="out", value=one.trim_mm))
    return lines


TOOLS = (
    Tool(
        code="half_shaft",
        group="shafts",
        title=say("Half shaft home"),
        about=say("Whether the circlip has gone into its groove, by the gap to the housing."),
        computation="halfshaft.home",
        fields=(
            Field(name="gap_now_mm", label=say("Gap now")),
            SIDE,
            Field(name="gap_before_mm", label=say("Gap before it came out"), needed=False),
            Field(name="gap_other_side_mm", label=say("Gap on the other side"), needed=False),
            Field(
                name="tug",
                label=say("Tugged at the joint's body"),
                kind="choice",
                section="part",
                options={"holds": say("holds"), "comes_out": say("comes out")},
                needed=False,
            ),
            most("step_mm", say("Stands out when not home (rule: 3 mm)")),
            most("tolerance_mm", say("Counts as the same within (rule: 0.5 mm)")),
        ),
        tells=_home,
        cautions=(say("Tug at the joint's body, never at the boot or the shaft: the joint comes apart."),),
        steps=("half_shaft_home",),
        fills=lambda question, answer, beside: {f"insertion_gap_{beside.get('side', 'left')}": mm(question.gap_now_mm)},
    ),
    Tool(
        code="engagement",
        group="shafts",
        title=say("Shaft engagement"),
        about=say("How far a spline still reaches into its side gear when the shaft stands farthest out."),
        computation="shaft.engagement",
        fields=(
            SIDE,
            Field(name="engaged_home_mm", label=say("Reaches into the gear, fully home")),
            Field(name="outward_mm", label=say("Can stand out by"), hint=say("End play of the bearing, or of the clip.")),
            Field(name="spline_diameter_mm", label=say("Spline diameter")),
            Field(name="gear_spline_mm", label=say("Length of the gear's own spline"), needed=False),
            Field(name="gap_to_cross_mm", label=say("Gap to the cross pin, fully home"), needed=False),
            least("least_mm", say("Engagement, at least (rule: 0.8 of the spline's diameter)"), "shaft_engagement"),
        ),
        tells=_engagement,
        steps=("engagement",),
        fills=lambda question, answer, beside: {f"engagement_{beside.get('side', 'left')}": mm(answer.engaged_least_mm)},
    ),
    Tool(
        code="tube_end",
        group="shafts",
        title=say("Tube end"),
        about=say("Where to cut a tube's register for a bolted retainer, read at eight places of the clock."),
        computation="tube.register",
        fields=(
            Field(
                name="register",
                label=say("Height above the flange face"),
                angles=8,
                hint=say("Clockwise from the top, seen from the wheel. Depth gauge square on the flange face."),
            ),
            SIDE,
            least("min_mm", say("Stub, at least"), "stub_height", needed=True),
            most("max_mm", say("Stub, at most"), "stub_height", needed=True),
            Field(name="seat_mm", label=say("Retainer's seat above the flange face, backing plate included"), section="part", needed=False),
            Field(name="spigot_mm", label=say("Retainer's seal reaches below its seat"), section="part", needed=False),
            Field(name="guide_mm", label=say("Guide ring on the register"), section="part", needed=False),
            Field(name="diameter_mm", label=say("Diameter it was read on"), section="more", needed=False),
            Field(name="engagement_mm", label=say("Seal covers the stub by, at least"), section="more", begin="2.0 mm", needed=False),
            Field(name="clearance_mm", label=say("Stub stays off the seat by"), section="more", begin="0.1 mm", needed=False),
        ),
        tells=_register,
        cautions=(
            say("Do this side to the end, trial fit included, before you cut the other."),
            say("A change of how shafts are held belongs to a competent shop and may need approval: follow local rules."),
            say("Eye protection. Seal the tube off before you cut: swarf ruins the bearings."),
        ),
        steps=("register", "cut_checked"),
        fills=lambda question, answer, beside: {
            "stick_out_least": mm(min(one.value_mm for one in question.register)),
            "stick_out_most": mm(max(one.value_mm for one in question.register)),
        },
        window=("min_mm", "max_mm"),
    ),
)
