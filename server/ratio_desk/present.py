"""The ratio desk as the API and its files show it."""

from __future__ import annotations

import csv
import io
from typing import Any

from amber_core.ratios.choose import Use, Weights
from amber_core.ratios.vehicle import Engine, Load, TorquePoint
from ratio_desk.schemas import FirstFigures, SpeedometerIn
from stores.models import Gearbox, TransferCase
from stores.present import ratio_out
from vehicles.models import BOTH_DRIVEN, AxleEnd
from work.kept import shown
from work.match import end_known, match_out
from work.models import KeptAnswer, Work

FIRST = FirstFigures(
    engine=Engine(idle_rpm=800, redline_rpm=4200, torque=[TorquePoint(rpm=1500, torque_nm=280), TorquePoint(rpm=4000, torque_nm=220)]),
    load=Load(mass_kg=2500, drag_area_m2=1.4),
    use=Use(cruise_kmh=80, cruise_rpm_min=1800, cruise_rpm_max=2300, hold_grade_pct=6, start_grade_pct=20),
    weights=Weights(),
    speedometer=SpeedometerIn(factor_before=1.02),
    grades_pct=[5.0, 10.0, 20.0],
)


def desk_out(work: Work) -> dict[str, Any]:
    """What the desk begins with."""
    job, sheet = work.job, work.sheet
    both = job.vehicle.layout in BOTH_DRIVEN
    return {
        "job_id": job.pk,
        "work_id": work.pk,
        "job_number": job.number,
        "vehicle": job.vehicle.name,
        "vehicle_id": job.vehicle_id,
        "vehicle_version": job.vehicle.version,
        "gearbox": job.vehicle.gearbox,
        "transfer_case": job.vehicle.transfer_case,
        "layout": job.vehicle.layout,
        "axle": work.axle,
        "use": job.use,
        "family_name": sheet.name,
        "is_sample": sheet.is_sample,
        "ring_outer_diameter_mm": sheet.ring_outer_diameter_mm,
        "signed_off": work.signed_off_at is not None,
        "ratios": [ratio_out(one) for one in sheet.ratios],
        "front": end_known(job, AxleEnd.FRONT).__dict__ if both else None,
        "rear": end_known(job, AxleEnd.REAR).__dict__,
        "match": match_out(job),
        "gearboxes": list(Gearbox.objects.all()),
        "transfer_cases": list(TransferCase.objects.all()),
        "first": FIRST,
        "results": [result_out(one) for one in work.kept],
    }


def result_out(result: KeptAnswer, *, whole: bool = False) -> dict[str, Any]:
    """A kept result, with or without what it holds."""
    listed = {**shown(result), "links": [one.expires_at for one in result.ratio_links.all()]}
    return {**listed, "inputs": result.inputs, "answer": result.answer} if whole else listed


def result_csv(result: KeptAnswer) -> str:
    """A line for every gear of every gearing; units in the header."""
    out = io.StringIO()
    writer = csv.writer(out)
    writer.writerow(
        ["gearing", "gear", "total_ratio", "km_h_at_idle", "km_h_at_redline", "rpm_at_cruise", "grade_pct_at_cruise", "rpm_after_upshift"]
    )
    for one in result.answer["compared"]["gearings"]:
        for number, gear in enumerate(one["gears"], start=1):
            row = [gear[name] for name in ("ratio", "idle_kmh", "redline_kmh", "cruise_rpm", "cruise_grade_pct", "rpm_after")]
            writer.writerow([one["name"], number, *("" if value is None else f"{value:.3f}" for value in row)])
    return out.getvalue()
