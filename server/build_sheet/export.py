"""A job as open files: JSON with everything, CSV with the readings."""

from __future__ import annotations

import csv
import io
from base64 import b64encode
from typing import Any

from django.utils import timezone

from build_sheet.job_file import (
    FORMAT,
    VERSION,
    AxleFactPart,
    BasisPart,
    CardPart,
    ConditionPart,
    DepthPart,
    DrivelineResultPart,
    FamilyPart,
    GearSetPart,
    InstrumentCheckPart,
    JobFile,
    JointInspectionPart,
    LimitPart,
    NoiseFindingPart,
    PatternPart,
    PhotoPart,
    RatioPart,
    RatioResultPart,
    ReadingPart,
    SignOffPart,
    SleeveStepPart,
    SpacerTryPart,
    StationPart,
    StepPart,
    StrikeOutPart,
    TorquePart,
    TrialPart,
    WithdrawalPart,
    Written,
)
from jobs.models import Job, Place
from setup_bench.models import Reading, Trial
from shared.models import Record

CSV_FIELDS = ["trial", "position_deg", "backlash_mm", "typed", "unit", "read_by", "read_at", "struck_out", "reason"]


def _written(record: Record) -> dict[str, Any]:
    return {"id": record.client_id, "by": record.by_name, "at": record.at}


def _same(record: Any, part: type, *left_out: str) -> dict[str, Any]:
    """The fields that a record and its part of the file have in common."""
    return {name: getattr(record, name) for name in part.model_fields if name not in ("id", "by", "at", *left_out)}


def _family(job: Job) -> FamilyPart:
    family = job.family
    limits = [LimitPart(**_same(one, LimitPart)) for one in family.limits.all()]
    ratios = [RatioPart(**_same(one, RatioPart)) for one in family.ratios.all()]
    return FamilyPart(**_same(family, FamilyPart, "limits", "ratios"), limits=limits, ratios=ratios)


def job_file(job: Job) -> JobFile:
    """Everything that is stored about a job."""
    trials = list(Trial.objects.filter(job=job).with_readings().prefetch_related("photos"))
    readings = [(trial, reading) for trial in trials for reading in trial.readings.all()]
    strikes = [reading.strike_out for _, reading in readings if hasattr(reading, "strike_out")]
    sign_offs = list(job.sign_offs.select_related("withdrawal"))
    withdrawals = [one.withdrawal for one in sign_offs if hasattr(one, "withdrawal")]
    order = list(Place)
    return JobFile(
        format=FORMAT,
        version=VERSION,
        exported_at=timezone.now(),
        job=CardPart(id=job.pk, created_by=job.created_by_name, **_same(job, CardPart, "created_by")),
        family=_family(job),
        stations=[
            StationPart(**_same(one, StationPart))
            for one in sorted(job.stations.all(), key=lambda station: order.index(Place(station.place)))
        ],
        gear_sets=[GearSetPart(**_written(one), **_same(one, GearSetPart)) for one in job.gear_sets.all()],
        steps=[StepPart(**_written(one), step=one.step_code, **_same(one, StepPart, "step")) for one in job.step_records.all()],
        trials=[TrialPart(**_written(one), **_same(one, TrialPart)) for one in trials],
        readings=[ReadingPart(**_written(one), trial=trial.client_id, **_same(one, ReadingPart, "trial")) for trial, one in readings],
        strike_outs=[StrikeOutPart(**_written(one), reading=one.reading.client_id, reason=one.reason) for one in strikes],
        sign_offs=[SignOffPart(**_written(one), **_same(one, SignOffPart)) for one in sign_offs],
        withdrawals=[WithdrawalPart(**_written(one), sign_off=one.sign_off.client_id, reason=one.reason) for one in withdrawals],
        **_bench_parts(job, trials),
    )


def _bench_parts(job: Job, trials: list[Trial]) -> dict[str, list[Any]]:
    """What was read beside the backlash."""

    def of_trials(name: str, part: type[Written], *left_out: str, **more: Any) -> list[Any]:
        rows = [(trial, one) for trial in trials for one in getattr(trial, name).all()]
        return [
            part(
                **_written(one),
                trial=trial.client_id,
                **_same(one, part, "trial", *left_out, *more),
                **{field: take(one) for field, take in more.items()},
            )
            for trial, one in rows
        ]

    def of_job(name: str, part: type[Written], **more: Any) -> list[Any]:
        rows = getattr(job, name).all()
        return [part(**_written(one), **_same(one, part, *more), **{field: take(one) for field, take in more.items()}) for one in rows]

    return {
        "conditions": [ConditionPart(**_written(one.conditions), trial=one.client_id) for one in trials if hasattr(one, "conditions")],
        "bases": of_job("bases", BasisPart),
        "photos": of_trials("photos", PhotoPart, content=lambda one: b64encode(bytes(one.content))),
        "patterns": of_trials("patterns", PatternPart, photo=lambda one: one.photo.client_id if one.photo else None),
        "torques": of_trials("torques", TorquePart),
        "depths": of_trials("depths", DepthPart),
        "sleeve_steps": of_job("sleeve_steps", SleeveStepPart, takes_back=lambda one: one.takes_back.client_id if one.takes_back else None),
        "spacer_tries": of_job("spacer_tries", SpacerTryPart),
        "instrument_checks": of_job("instrument_checks", InstrumentCheckPart),
        "axle_facts": of_job("axle_facts", AxleFactPart),
        "ratio_results": of_job("ratio_results", RatioResultPart),
        "driveline_results": of_job("driveline_results", DrivelineResultPart),
        "joint_inspections": of_job("joint_inspections", JointInspectionPart),
        "noise_findings": of_job(
            "noise_findings",
            NoiseFindingPart,
            felt=lambda one: one.inputs if one.kind == "felt" else None,
            felt_answer=lambda one: one.answer if one.kind == "felt" else None,
            recorded=lambda one: one.inputs if one.kind == "recorded" else None,
            recorded_answer=lambda one: one.answer if one.kind == "recorded" else None,
        ),
    }


def readings_csv(job: Job) -> str:
    """Every reading, struck out or not, a line each."""
    out = io.StringIO()
    table = csv.DictWriter(out, CSV_FIELDS)
    table.writeheader()
    for trial in Trial.objects.filter(job=job).with_readings():
        for reading in trial.readings.all():
            table.writerow(_line(trial, reading))
    return out.getvalue()


def _line(trial: Trial, reading: Reading) -> dict[str, Any]:
    strike = getattr(reading, "strike_out", None)
    line = {
        "trial": trial.number,
        "position_deg": f"{reading.angle_deg:g}",
        "backlash_mm": f"{reading.value_mm:.4f}",
        "typed": _inert(reading.typed),
        "unit": reading.unit,
        "read_by": _inert(reading.by_name),
        "read_at": reading.at.isoformat(),
        "struck_out": "yes" if strike else "no",
        "reason": _inert(strike.reason) if strike else "",
    }
    return line


def _inert(text: str) -> str:
    """A spreadsheet must not run what somebody typed."""
    return f"'{text}" if text[:1] in ("=", "+", "-", "@", "\t", "\r") else text
