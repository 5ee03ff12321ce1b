"""The order sheet for a shaft maker, as PDF."""

from __future__ import annotations

from typing import Any

from django.template.loader import render_to_string

from accounts.models import Shop
from amber_core.driveline.clocking import whole_teeth
from amber_core.words import retold, say
from driveline_desk.models import ShaftName
from driveline_desk.present import can_order
from shared.pdf import pdf_of
from shared.refusals import Refusal
from work.models import KeptAnswer

_JOINTS = {"cardan": say("single Cardan joint"), "double_cardan": say("double Cardan joint"), "cv": say("constant-velocity joint")}
_BALANCE_SHARE = 1.1
"""A shaft is balanced a little over the greatest speed it meets, [-]."""


def order_pdf(result: KeptAnswer) -> bytes:
    """What a shaft maker needs: length, ends, tube, phase, balance speed.

    Raises
    ------
    Refusal
        While nobody has ticked how the length was taken.
    """
    return pdf_of(render_to_string("driveline_desk/order.html", order_context(result)))


def order_context(result: KeptAnswer) -> dict[str, Any]:
    """What the template shows; the remedy that was tried counts, where there is one."""
    if not can_order(result.inputs):
        raise Refusal(
            say(
                "The length only counts at ride height, with the vehicle level and the suspension loaded. Tick all "
                "three, save it again, then order."
            ),
            field="inputs.order",
        )
    inputs, answer = result.inputs, retold(result.answer)
    setting = answer["tried"] or answer["now"]
    tried = inputs["tried"] or {}
    kinds = inputs["readings"]["joints"] or ["cardan"] * len(setting["analysed"]["joint_angle_deg"])
    clocks = tried.get("clock_deg") or answer["read"]["vehicle"]["clock_deg"]
    teeth = inputs["teeth"] or [None] * len(clocks)
    tubes = {one["number"]: one["shaft"] for one in answer["tubes"]}
    shafts = [
        {
            "number": number,
            "length": length,
            "front": _JOINTS[kinds[number - 1]] if number == 1 else say("centre bearing and {joint}", joint=_JOINTS[kinds[number - 1]]),
            "rear": _JOINTS[kinds[number]],
            "clock": clocks[number - 1],
            "teeth": whole_teeth(clocks[number - 1], teeth[number - 1]) if teeth[number - 1] else None,
            "spline": teeth[number - 1],
            "tube": tubes.get(number),
        }
        for number, length in enumerate(setting["analysed"]["shaft_length_mm"], start=1)
    ]
    order = inputs["order"]
    return {
        "shop": Shop.get().name,
        "job": result.work.job,
        "result": result,
        "title": ShaftName(result.about).label,
        "shafts": shafts,
        "face_to_face_mm": answer["face_to_face_mm"],
        "one_piece": len(shafts) == 1,
        "tube": (inputs["tube"] or {}).get("tube"),
        "travel": setting["travel"],
        "slip": setting["slip"],
        "rpm": answer["rpm"],
        "balance_rpm": _BALANCE_SHARE * answer["rpm"],
        "order": order,
        "tried": answer["tried"] is not None,
        "settings": {name: value for name, value in tried.items() if name != "clock_deg" and value},
        "torque": answer["torque"],
        "warnings": answer["warnings"],
    }
