"""Clutch packs: their order, their shims, their breakaway torque."""

from __future__ import annotations

from typing import Any

from amber_core.clutch_pack.breakaway import Breakaway
from amber_core.clutch_pack.order import PackOrder, PackQuestion
from amber_core.clutch_pack.shims import PackShims, ShimmedSide
from amber_core.words import Said, say, together
from diff_bench.fields import Field, Tool, kit, least, line, mm, most
from work.as_left import Line

KINDS = {"friction": say("Friction plate"), "steel": say("Steel plate"), "wave": say("Wave plate"), "shim": say("Shim")}
KEYED = {"gear": say("side gear"), "case": say("case"), "none": say("nothing")}
_SPRING = say("The preload spring is under great force: eye protection, clamp it, and keep your face out of line. Never press it flat.")
_PLATES = (
    Field(name="kind", label=say("Plate"), kind="choice", options=KINDS),
    Field(name="keyed", label=say("Turns with"), kind="choice", options=KEYED),
)


def _order(question: PackQuestion, answer: PackOrder, beside: dict[str, Any]) -> list[Line]:
    lines = [line("faces", say("Rubbing faces"), say("{faces}", faces=answer.faces), value=float(answer.faces))]
    for one in answer.problems:
        where = say("Pack") if one.index is None else say("Plate {number}", number=one.index + 1)
        lines.append(line(f"plate_{one.index}", where, one.text, verdict="out"))
    if answer.same_as_found is not None:
        same = answer.same_as_found
        said = say("the same") if same else say("another order")
        lines.append(line("same_as_found", say("Against the order it came apart in"), said, verdict="in" if same else "edge"))
    return lines


def _pieces(side: ShimmedSide) -> Said:
    if side.pick is None:
        return say("none")
    if not side.pick.pieces:
        return say("no shim")
    pieces = (
        say("{thickness:mm2}", thickness=one.thickness_mm)
        if one.count == 1
        else say("{count} × {thickness:mm2}", count=one.count, thickness=one.thickness_mm)
        for one in side.pick.pieces
    )
    return together(pieces, " + ")


def _shims(question: Any, answer: PackShims, beside: dict[str, Any]) -> list[Line]:
    lines = []
    for name, what, side in (
        ("ring_side", say("Ring side"), answer.ring_side),
        ("far_side", say("Far side"), answer.far_side),
    ):
        wanted = say("{what}: shim wanted", what=what)
        lines.append(line(f"{name}_shim", wanted, say("{shim:mm2}", shim=side.shim_mm), value=side.shim_mm))
        lines.append(line(f"{name}_pick", say("{what}: fit", what=what), _pieces(side)))
        if side.pack_mm is not None:
            pack = say("{pack:mm2}", pack=side.pack_mm)
            lines.append(line(f"{name}_pack", say("{what}: pack then", what=what), pack, verdict=side.verdict, value=side.pack_mm))
    if answer.difference_mm is not None:
        difference = say("{difference:+mm2}", difference=answer.difference_mm)
        lines.append(line("difference", say("Ring side less far side"), difference, value=answer.difference_mm))
    return lines


def _packs(question: Any, answer: PackShims, beside: dict[str, Any]) -> dict[str, str]:
    """Each pack with its shims, by the side of the vehicle that it is on; none until it is told on which the ring gear is."""
    ring = beside.get("ring_on")
    if ring is None:
        return {}
    far = "left" if ring == "right" else "right"
    return {f"stack_{ring}": mm(answer.ring_side.pack_mm), f"stack_{far}": mm(answer.far_side.pack_mm)}


def _breakaway(question: Any, answer: Breakaway, beside: dict[str, Any]) -> list[Line]:
    torque = say("{torque:Nm0}", torque=answer.torque_nm)
    lines = [
        line("breakaway", say("Breakaway torque"), torque, verdict=answer.verdict, value=answer.torque_nm),
        line("spread", say("Spread of the readings"), say("{spread:Nm0}", spread=answer.spread_nm), value=answer.spread_nm),
    ]
    if answer.expected_nm is not None:
        expected = say("{expected:Nm0}", expected=answer.expected_nm)
        lines.append(line("expected", say("Expected of these packs"), expected, value=answer.expected_nm))
    return lines


_MIN, _MAX = say("Pack with its shims, at least"), say("Pack with its shims, at most")

TOOLS = (
    Tool(
        code="clutch_order",
        group="clutches",
        title=say("Clutch pack order"),
        about=say("Which plates rub and which stand wrongly, from the side gear outwards."),
        computation="clutchpack.order",
        fields=(
            Field(
                name="plates",
                label=say("Plates, from the side gear outwards"),
                section="part",
                columns=_PLATES,
                hint=say("Soak friction plates in modifier for as long as the maker says before they go in."),
            ),
            Field(name="as_found", label=say("As it came apart"), section="part", columns=_PLATES, needed=False),
            Field(
                name="doubled_allowed",
                label=say("Two plates keyed alike may lie together in this pack"),
                kind="flag",
                section="more",
                needed=False,
            ),
        ),
        tells=_order,
        cautions=(_SPRING,),
        steps=("packs_apart", "plates_judged"),
        clocks=("soak",),
    ),
    Tool(
        code="clutch_shims",
        group="clutches",
        title=say("Clutch pack shims"),
        about=say("Shims for both sides from one kit, from stacks measured under a clamp."),
        computation="clutchpack.shims",
        fields=(
            Field(
                name="ring_side.stack_mm",
                label=say("Ring side stack, without shims"),
                hint=say("Clamp it with the load, wet or dry, that the limit was measured with."),
            ),
            Field(name="far_side.stack_mm", label=say("Far side stack, without shims")),
            Field(name="ring_side.clamped", label=say("Ring side measured under a clamp"), kind="flag", begin="yes", needed=False),
            Field(name="far_side.clamped", label=say("Far side measured under a clamp"), kind="flag", begin="yes", needed=False),
            Field(
                name="plates",
                label=say("Plates"),
                kind="choice",
                section="part",
                options={"new": say("New"), "used": say("Used")},
                begin="new",
            ),
            Field(
                name="ring_on",
                label=say("Ring gear on the vehicle's"),
                kind="choice",
                section="part",
                options={"left": say("left"), "right": say("right")},
                needed=False,
                beside=True,
                hint=say("Then the packs go to the step of the run sheet by their sides."),
            ),
            least("min_mm", _MIN, "clutch_stack", needed=True),
            most("max_mm", _MAX, "clutch_stack", needed=True),
            least("wear_limit_mm", say("Wear limit of a used stack, without shims"), "clutch_wear"),
            kit("stock", say("Shims in the kit"), "clutch", needed=False),
            Field(name="max_pieces", label=say("Shims a side, at most"), kind="count", section="more", begin="2", needed=False),
            Field(name="clamp_n", label=say("Clamp load"), kind="force", section="more", needed=False),
            Field(name="wet", label=say("Plates were wet"), kind="flag", section="more", needed=False),
        ),
        tells=_shims,
        shapes=lambda read, beside: {"stock": [], **read},
        cautions=(_SPRING,),
        steps=("stack",),
        clocks=("soak",),
        fills=_packs,
        window=("min_mm", "max_mm"),
    ),
    Tool(
        code="breakaway",
        group="clutches",
        title=say("Breakaway torque"),
        about=say("What it takes to turn one wheel against the packs, and what these packs should give."),
        computation="clutchpack.breakaway",
        fields=(
            Field(
                name="by",
                label=say("Read by"),
                kind="choice",
                section="part",
                options={"wrench": say("Torque wrench"), "pull": say("Pull on a lever")},
                begin="wrench",
                beside=True,
            ),
            Field(
                name="test",
                label=say("Test"),
                kind="choice",
                section="part",
                options={
                    "free": say("Other wheel on the ground, gearbox in neutral"),
                    "case_held": say("In gear, both wheels up"),
                },
                begin="free",
            ),
            Field(name="readings_nm", label=say("Breakaway torque"), kind="torque", many=(1, 20), when=("by", "wrench")),
            Field(
                name="pulls",
                label=say("Pulls"),
                columns=(
                    Field(name="force_n", label=say("Force"), kind="force"),
                    Field(name="radius_mm", label=say("Lever, wheel middle to pull")),
                ),
                when=("by", "pull"),
            ),
            least("min_nm", say("Breakaway torque, at least"), "breakaway", "torque"),
            most("max_nm", say("Breakaway torque, at most"), "breakaway", "torque"),
            Field(name="faces_ring_side", label=say("Rubbing faces, ring side"), kind="count", section="more", needed=False),
            Field(name="faces_far_side", label=say("Rubbing faces, far side"), kind="count", section="more", needed=False),
            Field(name="spring_n", label=say("Preload spring"), kind="force", section="more", needed=False),
            Field(name="inner_mm", label=say("Rubbing face, inner diameter"), section="more", needed=False),
            Field(name="outer_mm", label=say("Rubbing face, outer diameter"), section="more", needed=False),
            Field(
                name="friction",
                label=say("Coefficient of friction (typical)"),
                kind="number",
                section="more",
                begin="0.10",
                needed=False,
            ),
        ),
        tells=_breakaway,
        cautions=(
            say("Engine off. Never run it in gear with one wheel on the ground: it drives off the stands."),
            say("Chock the wheels that stay on the ground."),
        ),
        steps=("breakaway", "as_found_breakaway"),
        fills=lambda question, answer, beside: dict.fromkeys(("breakaway", "as_found.breakaway"), f"{answer.torque_nm:.1f} Nm"),
    ),
)
