"""The driveline desk as the API and its files show it."""

from __future__ import annotations

import csv
import io
from typing import Any

from amber_core import payload
from amber_core.driveline.axes import Chain
from amber_core.driveline.inspection import JointFelt, inspect_joint
from amber_core.driveline.limits import Allowed
from amber_core.driveline.readings import AxlePlace, GaugeReading, ReadingsQuestion, ReadMember, ReadShaft
from amber_core.shafts.tube import Tube
from driveline_desk.models import JointInspection
from driveline_desk.schemas import DrivelineInputs, SpeedIn, TravelIn, TubeIn
from vehicles.models import PLACES, Place
from work.kept import shown
from work.match import end_known
from work.models import KeptAnswer, Work


def desk_out(work: Work) -> dict[str, Any]:
    """What the desk begins with."""
    job, end = work.job, end_known(work.job, work.axle)
    has_front = Place.FRONT_SHAFT in PLACES[job.vehicle.layout]
    return {
        "job_id": job.pk,
        "work_id": work.pk,
        "job_number": job.number,
        "vehicle": job.vehicle.name,
        "layout": job.vehicle.layout,
        "complaint": job.complaint,
        "signed_off": work.signed_off_at is not None,
        "circumference_m": end.circumference_m,
        "ratio": end.ratio,
        "first_rear": first_inputs(work, "rear"),
        "first_front": first_inputs(work, "front") if has_front else None,
        "results": [result_out(one) for one in work.kept],
        "inspections": [inspection_out(one) for one in work.joint_inspections.all()],
    }


def first_inputs(work: Work, chain: Chain) -> DrivelineInputs:
    """What a desk begins with: sample figures that show what to measure, and what is known of the vehicle."""
    end = end_known(work.job, work.axle)
    length = 1250.0 if chain == "rear" else 820.0
    readings = ReadingsQuestion(
        output=ReadMember(side=GaugeReading(value_deg=3.0, axle_end="lower")),
        shafts=[
            ReadShaft(length_mm=length, member=ReadMember(side=GaugeReading(value_deg=6.5, axle_end="lower"), left_mm=0.0, over_mm=length))
        ],
        pinion=ReadMember(side=GaugeReading(value_deg=3.0, axle_end="lower")),
        chain=chain,
        joints=["cardan", "cardan"],
        axle=AxlePlace(),
    )
    speed = SpeedIn(speed_kmh=90, circumference_m=end.circumference_m or 2.2, ratio=end.ratio or 4.1)
    tube = TubeIn(tube=Tube(outer_mm=76.2, wall_mm=2.1))
    return DrivelineInputs(readings=readings, teeth=[None], speed=speed, allowed=Allowed(), travel=TravelIn(), tube=tube)


def result_out(result: KeptAnswer, *, whole: bool = False) -> dict[str, Any]:
    """A kept result, with or without what it holds."""
    listed = {**shown(result), "shaft": result.about, "can_order": can_order(result.inputs)}
    return {**listed, "inputs": result.inputs, "answer": result.answer} if whole else listed


def can_order(inputs: dict[str, Any]) -> bool:
    """A length counts once somebody has ticked that it was taken loaded, level and at ride height."""
    return all(inputs["order"][name] for name in ("at_ride_height", "vehicle_level", "suspension_loaded"))


def inspection_out(one: JointInspection) -> dict[str, Any]:
    """A joint as it was felt, with what the rules say of it now."""
    felt = payload.read(JointFelt, one.felt)
    shown = {name: getattr(one, name) for name in ("shaft", "joint", "felt", "decision", "note", "by_name", "at")}
    return {"id": one.client_id, "judged": inspect_joint(felt), **shown}


def result_csv(result: KeptAnswer) -> str:
    """A line for every joint at every place of the axle, as it is and as tried; units in the header."""
    out = io.StringIO()
    writer = csv.writer(out)
    writer.writerow(
        ["setting", "place", "joint", "angle_deg", "equivalent_angle_deg", "shaft_rpm", "share_of_limit", "x_mm", "y_mm", "z_mm"]
    )
    for setting in ("now", "tried"):
        for case in (result.answer[setting] or {"cases": []})["cases"]:
            state = case["state"]
            for number, (angle, point) in enumerate(zip(state["joint_angle_deg"], state["points_mm"], strict=True), start=1):
                row = [f"{angle:.3f}", f"{state['b_eq_deg']:.3f}", f"{case['rpm']:.0f}", f"{case['use']:.3f}"]
                writer.writerow([setting, case["name"], number, *row, *(f"{one:.1f}" for one in point)])
    return out.getvalue()
