"""Bearings and fits: end play, press fits, clearance, old against new, loose rollers."""

from __future__ import annotations

from typing import Any

from amber_core.bearings.compare import BearingComparison
from amber_core.bearings.full_complement import Rollers
from amber_core.endplay.hot import HotPlay
from amber_core.endplay.loop import PlayTrial, torque_per_mm
from amber_core.endplay.shims import EndPlayStack
from amber_core.errors import InvalidInput
from amber_core.fits.clearance import Clearance
from amber_core.fits.press import PressFit
from amber_core.words import Said, say, together
from diff_bench.fields import Field, Tool, kit, least, line, mm, most
from work.as_left import Line

_HEAT = say(
    "Even heat, no flame, 120 °C at most for an open cone with a steel cage; about 100 °C with a polymer cage; never a sealed, greased or "
    "sensor bearing. Hot parts burn: gloves."
)
_PRESSING = say("Hardened rings splinter under the press: guard and eye protection. Press a cone on its inner ring, a cup on its outer.")


def _trials(read: dict[str, Any], beside: dict[str, Any]) -> dict[str, Any]:
    """The last trial is what the next stack comes from; two with torque tell how torque follows the stack."""
    trials = [PlayTrial(**row) for row in read.pop("trials", [])]
    if not trials:
        return read
    last, slope = trials[-1], torque_per_mm(trials)
    found = {"stack_mm": last.stack_mm, "end_play_mm": last.end_play_mm, "rotating_torque_nm": last.rotating_torque_nm}
    light = read.get("school") == "light_preload"
    if light and found["end_play_mm"]:
        found["rotating_torque_nm"] = None  # with play there is no preload to read
    elif light and found["rotating_torque_nm"] is not None:
        found["end_play_mm"] = None
    low, high = (read.pop(name, None) for name in (("torque_min", "torque_max") if light else ("play_min", "play_max")))
    for name in ("torque_min", "torque_max", "play_min", "play_max"):
        read.pop(name, None)
    slope = read.pop("torque_per_mm_nm", None) or slope
    if high is None:
        raise InvalidInput(
            "torque_max" if light else "play_max", say("Give the most that is allowed, from the sheet or the maker's manual.")
        )
    return {
        **read,
        "window": {"min": low or 0.0, "max": high},
        **({"torque_per_mm_nm": slope} if slope else {}),
        **{k: v for k, v in found.items() if v is not None},
    }


def _end_play(question: Any, answer: EndPlayStack, beside: dict[str, Any]) -> list[Line]:
    lines = []
    if question.end_play_mm is not None:
        lines.append(
            line(
                "end_play",
                say("End play of the last trial"),
                say("{play:mm2}", play=question.end_play_mm),
                verdict=answer.verdict,
                value=question.end_play_mm,
            )
        )
    if question.rotating_torque_nm is not None:
        torque = say("{torque:Nm2}", torque=question.rotating_torque_nm)
        lines.append(line("torque", say("Rotating torque of the last trial"), torque, verdict=answer.verdict))
    if answer.verdict == "in":
        lines.append(
            line("stack", say("Stack"), say("{stack:mm2} stays in", stack=question.stack_mm), verdict="in", value=question.stack_mm)
        )
        return [*lines, *_broken_up(beside)]
    if answer.change_mm is not None:
        lines.append(line("change", say("Change of the stack"), say("{change:+mm2}", change=answer.change_mm), value=answer.change_mm))
    lines.append(line("stack", say("Next stack"), say("{stack:mm2}", stack=answer.stack_mm), value=answer.stack_mm))
    if answer.pick is not None:
        pieces = [say("{count} × {thickness:mm2}", count=one.count, thickness=one.thickness_mm) for one in answer.pick.pieces]
        said = together(pieces, " + ") if pieces else say("no shim")
        total = say("{pieces} = {total:mm2}", pieces=said, total=answer.pick.total_mm)
        lines.append(line("pick", say("From the drawer"), total, verdict="in" if answer.pick.within else "edge"))
    return [*lines, *_broken_up(beside)]


def _broken_up(beside: dict[str, Any]) -> list[Line]:
    if not beside.get("broken_up"):
        return []
    return [line("broken_up", say("Broken-up shims"), say("The old stack is no guide: start from what is measured now."), verdict="edge")]


def _press(question: Any, answer: PressFit, beside: dict[str, Any]) -> list[Line]:
    lines = [
        line(
            "interference",
            say("Interference"),
            say("{interference:mm3}", interference=answer.interference_mm),
            verdict=answer.verdict,
            value=answer.interference_mm,
        ),
        line("force", say("Press force"), say("{force:.1f} kN", force=answer.press_force_n / 1000.0)),
        line("torque", say("Torque it holds by friction"), say("{torque:Nm0}", torque=answer.torque_nm)),
        line("stress", say("Stress of the hub at its bore"), say("{stress:.0f} MPa", stress=answer.hub_stress_mpa)),
    ]
    if answer.heat_needed_c is not None:
        hot = answer.heat_needed_c > question.max_heat_c
        needed = say("{heat:.0f} °C", heat=answer.heat_needed_c)
        lines.append(line("heat", say("Heat to drop on"), needed, verdict="edge" if hot else "in", value=answer.heat_needed_c))
    if answer.clearance_hot_mm is not None:
        lines.append(
            line(
                "clearance_hot",
                say("Clearance when heated or chilled so"),
                say("{gap:mm3}", gap=answer.clearance_hot_mm),
                verdict="in" if answer.clearance_hot_mm > 0.0 else "out",
            )
        )
    if answer.interference_hot_mm is not None:
        warm = answer.interference_hot_mm
        lines.append(
            line("interference_hot", say("Interference in service"), say("{gap:mm3}", gap=warm), verdict="in" if warm > 0.0 else "edge")
        )
    return lines


def _clearance(question: Any, answer: Clearance, beside: dict[str, Any]) -> list[Line]:
    span = say("{least:mm2-} to {most:mm2}", least=answer.least_mm, most=answer.greatest_mm)
    return [
        line("clearance", say("Clearance"), span, verdict=answer.verdict, value=answer.greatest_mm),
        line("shaft_round", say("Pin or shaft out of round"), say("{round:mm2}", round=answer.shaft_out_of_round_mm)),
        line("bore_round", say("Bore out of round"), say("{round:mm2}", round=answer.bore_out_of_round_mm)),
    ]


def _side(what: Said, difference: float) -> Said:
    return (
        say("{what}: {by:mm2} taller", what=what, by=difference)
        if difference >= 0.0
        else say("{what}: {by:mm2} shorter", what=what, by=-difference)
    )


def _compare(question: Any, answer: BearingComparison, beside: dict[str, Any]) -> list[Line]:
    ring, far = answer.difference_mm.ring_side, answer.difference_mm.far_side
    move, tighter = answer.if_left.ring_move_mm, answer.if_left.preload_change_mm
    moved = say("{by:mm2} away from the pinion", by=move) if move >= 0.0 else say("{by:mm2} toward the pinion", by=-move)
    preload = say("{by:mm2} tighter", by=tighter) if tighter >= 0.0 else say("{by:mm2} looser", by=-tighter)
    both = say("{ring}, {far}", ring=_side(say("ring side"), ring), far=_side(say("far side"), far))
    reuse = say("The same shims go back.") if answer.reuse else say("Change the shims.")
    return [
        line("difference", say("New bearings"), both),
        line("reuse", say("Shims"), reuse, verdict="in" if answer.reuse else "edge"),
        line(
            "ring_shim",
            say("Ring side shim"),
            say("{shim:mm2}", shim=answer.shims.ring_side_mm),
            value=answer.shims.ring_side_mm,
            verdict="out" if answer.shims.ring_side_mm < 0.0 else "unknown",
        ),
        line(
            "far_shim",
            say("Far side shim"),
            say("{shim:mm2}", shim=answer.shims.far_side_mm),
            value=answer.shims.far_side_mm,
            verdict="out" if answer.shims.far_side_mm < 0.0 else "unknown",
        ),
        line("ring_move", say("Left as they were, the ring gear moves"), moved, value=move),
        line("preload", say("and the preload gets"), preload, value=tighter),
    ]


def _rollers(question: Any, answer: Rollers, beside: dict[str, Any]) -> list[Line]:
    lines = [line("fits", say("Fit round the circle"), say("{fits}", fits=answer.fits), value=float(answer.fits))]
    if question.counted is not None:
        counted = say("{counted}", counted=question.counted)
        lines.append(line("counted", say("Counted"), counted, verdict=answer.verdict, value=float(question.counted)))
    if answer.missing is not None:
        missing = say("{missing}", missing=answer.missing)
        lines.append(line("missing", say("Missing"), missing, verdict="out" if answer.missing else "in", value=float(answer.missing)))
    lines.append(line("gap", say("Gap left round the circle"), say("{gap:mm2}", gap=answer.gap_mm), value=answer.gap_mm))
    return lines


def _hot(question: Any, answer: HotPlay, beside: dict[str, Any]) -> list[Line]:
    return [
        line("change", say("Change when hot"), say("{change:+mm3}", change=answer.change_mm), value=answer.change_mm),
        line(
            "play_hot",
            say("End play when hot"),
            say("{play:mm3}", play=answer.play_hot_mm),
            verdict="edge" if answer.reasons else "in",
            value=answer.play_hot_mm,
        ),
    ]


TOOLS = (
    Tool(
        code="end_play",
        group="bearings",
        title=say("End play by shims"),
        about=say("A transfer-case output or any pair of bearings: trial after trial to the school that was chosen."),
        computation="endplay.shims",
        fields=(
            Field(
                name="school",
                label=say("School"),
                kind="choice",
                section="part",
                options={
                    "free_play": say("Small free play"),
                    "zero": say("No play, barely any drag"),
                    "light_preload": say("Light preload by rotating torque"),
                },
                begin="zero",
                hint=say(
                    "The sheet comes first. Where it is silent: no play to barely any drag for new bearings in an aluminium case; a small "
                    "free play in iron or with a long hot shaft."
                ),
            ),
            Field(
                name="shim_effect",
                label=say("A thicker stack"),
                kind="choice",
                section="part",
                options={"adds_play": say("gives more play"), "removes_play": say("takes play away")},
                begin="adds_play",
            ),
            Field(
                name="trials",
                label=say("Trials"),
                columns=(
                    Field(name="stack_mm", label=say("Stack"), kind="stack", hint=say("such as 0.50 + 0.34")),
                    Field(name="nut_nm", label=say("Nut torque"), kind="torque", needed=False),
                    Field(name="pushed_in_mm", label=say("Dial, pushed in"), needed=False, fine=True),
                    Field(name="pulled_out_mm", label=say("Dial, pulled out"), needed=False, fine=True),
                    Field(name="rotating_torque_nm", label=say("Rotating torque"), kind="torque", needed=False),
                ),
                hint=say("Seat it with the old nut at low torque while turning. Fix the dial to the case and gauge along the axis."),
            ),
            least("play_min", say("End play, at least"), "output_end_play", fine=True),
            most("play_max", say("End play, at most"), "output_end_play", fine=True),
            least("torque_min", say("Rotating torque, at least"), "output_torque", "torque"),
            most("torque_max", say("Rotating torque, at most"), "output_torque", "torque"),
            kit("stock", say("Shims in the drawer"), "output", needed=False),
            Field(
                name="broken_up",
                label=say("Some of the old shims were broken up"),
                kind="flag",
                section="more",
                needed=False,
                beside=True,
            ),
            Field(
                name="torque_per_mm_nm",
                label=say("Torque gained per mm of stack"),
                kind="number",
                section="more",
                needed=False,
                hint=say("Found from two trials where there are two."),
            ),
        ),
        tells=_end_play,
        shapes=_trials,
        steps=("end_play_trial", "end_play"),
        fills=lambda question, answer, beside: {
            "trial_stack": mm(question.stack_mm),
            **dict.fromkeys(("trial_end_play", "end_play"), mm(question.end_play_mm)),
        },
        window=("play_min", "play_max"),
    ),
    Tool(
        code="press_fit",
        group="bearings",
        title=say("Press fit"),
        about=say("Interference of a bearing or ring on its seat: heat, force, and whether it holds when warm."),
        computation="fit.press",
        fields=(
            Field(name="shaft_mm", label=say("Shaft or tube")),
            Field(name="bore_mm", label=say("Bore")),
            Field(name="length_mm", label=say("Length of the fit")),
            Field(name="hub_outer_mm", label=say("Outside of the hub or ring")),
            Field(name="shaft_bore_mm", label=say("Bore of the shaft or tube"), needed=False),
            Field(name="heat_to_c", label=say("Hub heated to"), kind="temperature", section="part", needed=False),
            Field(name="chill_to_c", label=say("Shaft chilled to"), kind="temperature", section="part", needed=False),
            Field(name="service_c", label=say("Warm in service"), kind="temperature", section="part", needed=False),
            most("max_heat_c", say("Heat, at most"), kind="temperature"),
            most("hub_yield_mpa", say("Yield stress of the hub (MPa)"), kind="number"),
            Field(name="room_c", label=say("Room"), kind="temperature", section="more", begin="20", needed=False),
            Field(name="friction", label=say("Friction (typical)"), kind="number", section="more", begin="0.12", needed=False),
            Field(name="slip_on_mm", label=say("Clearance to slip on (rule)"), section="more", needed=False),
            Field(
                name="e_hub_gpa", label=say("Young's modulus of the hub (GPa)"), kind="number", section="more", begin="207", needed=False
            ),
            Field(name="nu_hub", label=say("Poisson's ratio of the hub"), kind="number", section="more", begin="0.29", needed=False),
            Field(
                name="alpha_hub", label=say("Expansion of the hub (1/K)"), kind="number", section="more", begin="0.0000117", needed=False
            ),
            Field(
                name="alpha_shaft",
                label=say("Expansion of the shaft (1/K)"),
                kind="number",
                section="more",
                begin="0.0000117",
                needed=False,
            ),
        ),
        tells=_press,
        cautions=(_HEAT, _PRESSING),
        steps=("press_wheel", "press_bearings", "press_bearings_hot"),
    ),
    Tool(
        code="clearance",
        group="bearings",
        title=say("Clearance"),
        about=say("A pin in its bores or a shaft in its bush: clearance, and how far out of round."),
        computation="fit.clearance",
        fields=(
            Field(name="shaft_mm", label=say("Pin or shaft"), many=(1, 8)),
            Field(name="bore_mm", label=say("Bore"), many=(1, 8)),
            least("min_mm", say("Clearance, at least"), "pin_clearance", fine=True),
            most("max_mm", say("Clearance, at most"), "pin_clearance", fine=True),
        ),
        tells=_clearance,
        steps=("pin_measured",),
        fills=lambda question, answer, beside: {"pin_worn": mm(min(question.shaft_mm)), "pin_bore": mm(max(question.bore_mm))},
        window=("min_mm", "max_mm"),
    ),
    Tool(
        code="bearings",
        group="bearings",
        title=say("Bearings, old against new"),
        about=say("What the shims have to be with new side bearings, and what happens if they are left."),
        computation="bearing.compare",
        fields=(
            Field(
                name="old.ring_side_mm",
                label=say("Old bearing, ring side"),
                many=(1, 6),
                hint=say("Cone in its cup, loaded and turned."),
            ),
            Field(name="old.far_side_mm", label=say("Old bearing, far side"), many=(1, 6)),
            Field(name="new.ring_side_mm", label=say("New bearing, ring side"), many=(1, 6)),
            Field(name="new.far_side_mm", label=say("New bearing, far side"), many=(1, 6)),
            Field(name="ring_side_shim_mm", label=say("Ring side shim that was in"), kind="stack"),
            Field(name="far_side_shim_mm", label=say("Far side shim that was in"), kind="stack"),
            Field(
                name="carrier",
                label=say("Shims"),
                kind="choice",
                section="part",
                options={"side_shims": say("beside the bearings"), "cover_shims": say("under the side covers")},
                begin="side_shims",
            ),
            most("same_mm", say("Counts as the same within (rule: 0.02 mm)"), fine=True),
        ),
        tells=_compare,
        verdict=lambda answer: "out" if answer.reasons else "in" if answer.reuse else "edge",
        steps=("press_bearings", "cover_shims"),
    ),
    Tool(
        code="rollers",
        group="bearings",
        title=say("Loose rollers"),
        about=say("How many rollers fit round the race, and how many are missing."),
        computation="bearing.full_complement",
        fields=(
            Field(
                name="given",
                label=say("Known"),
                kind="choice",
                section="part",
                options={"inner_race": say("Inner race"), "pitch": say("Circle through the rollers' middles")},
                begin="inner_race",
                beside=True,
            ),
            Field(name="roller_mm", label=say("Roller diameter")),
            Field(name="inner_race_mm", label=say("Inner race diameter"), when=("given", "inner_race")),
            Field(name="pitch_mm", label=say("Circle through the rollers' middles"), when=("given", "pitch")),
            Field(name="counted", label=say("Counted"), kind="count", needed=False, hint=say("Or tap them in on the drawing.")),
            Field(
                name="sheet_count",
                label=say("Count of the sheet"),
                kind="count",
                section="limits",
                needed=False,
                limit="rollers",
                side="greatest",
            ),
        ),
        tells=_rollers,
        steps=("rollers",),
        fills=lambda question, answer, beside: {
            "rollers_due": str(answer.fits if question.sheet_count is None else question.sheet_count),
            "rollers": "" if question.counted is None else str(question.counted),
        },
    ),
    Tool(
        code="hot_play",
        group="bearings",
        title=say("End play when hot"),
        about=say("What case and shaft do to the end play when they get warm. Not for pairs that a nut on the shaft holds."),
        computation="endplay.hot",
        fields=(
            Field(name="span_mm", label=say("Distance between the bearings")),
            Field(name="play_cold_mm", label=say("End play when cold"), hint=say("Negative for preload."), fine=True),
            Field(name="rise_k", label=say("Case gets warmer by (K)"), kind="number"),
            Field(name="rise_shaft_k", label=say("Shaft gets warmer by (K)"), kind="number", needed=False),
            Field(
                name="case",
                label=say("Case of"),
                kind="choice",
                section="part",
                options={"aluminium": say("Aluminium"), "iron": say("Iron")},
                begin="aluminium",
            ),
            Field(name="shaft", label=say("Shaft of"), kind="choice", section="part", options={"steel": say("Steel")}, begin="steel"),
        ),
        tells=_hot,
        verdict=lambda answer: "edge" if answer.reasons else "in",
    ),
)
