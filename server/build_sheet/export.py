"""A job as open files: JSON with everything, CSV with the readings."""

from __future__ import annotations

import csv
import io
import json
from base64 import b64encode
from typing import Any

from django.utils import timezone
from pydantic import BaseModel

from amber_core.words import storing
from build_sheet.job_file import (
    FORMAT,
    VERSION,
    AdoptionPart,
    AxleFactPart,
    BasisPart,
    BenchResultPart,
    CardPart,
    ConditionPart,
    DepthPart,
    DrivelineResultPart,
    FamilyPart,
    FollowUpEndPart,
    FollowUpPart,
    GearSetPart,
    HandOverPart,
    InstrumentCheckPart,
    JobFile,
    JointInspectionPart,
    NoiseFindingPart,
    OdometerPart,
    PartNeedPart,
    PartPhotoPart,
    PartRecordPart,
    PatternPart,
    PhotoPart,
    QuoteAnswerPart,
    QuotePart,
    RatioResultPart,
    ReadingPart,
    SignOffPart,
    SleeveStepPart,
    SpacerTryPart,
    StationPart,
    StationRecordPart,
    StepPart,
    StepPhotoPart,
    StepReadingPart,
    StrikeOutPart,
    TorquePart,
    TrialPart,
    VehiclePart,
    WallBuildPart,
    WayPart,
    WithdrawalPart,
    WorkPart,
    Written,
    content_hash,
)
from build_sheet.models import SignOff
from hand_over.models import FollowUpEnd, HandOver
from jobs.models import Job
from parts_wall.models import QuoteAnswer, QuoteLink, QuoteLinkEnd
from records.writing import hash_of
from setup_bench.models import Reading, Trial
from shared.csv_out import inert
from shared.models import Record
from stores.sheets import content_of
from vehicles.models import Place
from work.models import Area, StepRecord, Work

CSV_FIELDS = ["trial", "position_deg", "backlash_mm", "typed", "unit", "read_by", "read_at", "struck_out", "reason"]


def _written(record: Record) -> dict[str, Any]:
    return {"id": record.client_id, "by": record.by_name, "at": record.at}


def _same(record: Any, part: type[BaseModel], *left_out: str) -> dict[str, Any]:
    """The fields that a record and its part of the file have in common."""
    return {name: getattr(record, name) for name in part.model_fields if name not in ("id", "by", "at", *left_out)}


def job_file_text(job: Job) -> str:
    """The whole job as the text of its file."""
    with storing():
        plain = json.loads(job_file(job).model_dump_json())
    return json.dumps({**plain, "hash": content_hash(plain)}, indent=1, ensure_ascii=False)


def job_file(job: Job) -> JobFile:
    """Everything that is stored about a job; its hash is that of the text."""
    order = list(Place)
    return JobFile(
        format=FORMAT,
        version=VERSION,
        exported_at=timezone.now(),
        hash=hash_of(None),
        job=CardPart(id=job.pk, created_by=job.created_by_name, **_same(job, CardPart, "created_by")),
        vehicle=VehiclePart(id=job.vehicle_id, **_same(job.vehicle, VehiclePart)),
        stations=[
            StationPart(**_same(one, StationPart))
            for one in sorted(job.stations.all(), key=lambda station: order.index(Place(station.place)))
        ],
        station_records=[StationRecordPart(**_written(one), **_same(one, StationRecordPart)) for one in job.station_records.all()],
        axle_facts=[AxleFactPart(**_written(one), **_same(one, AxleFactPart)) for one in job.axle_facts.all()],
        works=[_work(one) for one in Work.objects.with_job().filter(job=job).order_by("number")],
        odometer=[OdometerPart(**_written(one), **_same(one, OdometerPart)) for one in job.vehicle.odometer.all()],
        hand_overs=[_hand_over(one) for one in job.hand_overs.prefetch_related("follow_ups__end")],
    )


def _hand_over(given: HandOver) -> HandOverPart:
    """The page as it was given, with what comes due and what became of it."""
    follow_ups = []
    for one in given.follow_ups.all():
        end: FollowUpEnd | None = getattr(one, "end", None)
        ended = FollowUpEndPart(**_written(end), **_same(end, FollowUpEndPart)) if end is not None else None
        follow_ups.append(FollowUpPart(end=ended, **_same(one, FollowUpPart, "end")))
    return HandOverPart(
        **_written(given), page=json.loads(given.text), follow_ups=follow_ups, **_same(given, HandOverPart, "page", "follow_ups")
    )


def _work(work: Work) -> WorkPart:
    """A piece of work with everything that was recorded of it."""
    trials = list(Trial.objects.filter(work=work).with_readings().prefetch_related("photos"))
    readings = [(trial, reading) for trial in trials for reading in trial.readings.all()]
    strikes = [reading.strike_out for _, reading in readings if hasattr(reading, "strike_out")]
    sign_offs = list(work.sign_offs.select_related("withdrawal", "document"))
    withdrawals = [one.withdrawal for one in sign_offs if hasattr(one, "withdrawal")]
    adoptions = work.sheet_adoptions.select_related("before", "after")
    choices: dict[str, Any] = {"kind": work.kind, "place": work.assembly.place}
    return WorkPart(
        **choices,
        id=work.pk,
        title=work.own_title,
        number=work.number,
        procedure=work.procedure.content,
        sheet_revision=work.sheet_revision.number if work.sheet_revision else None,
        sheet=FamilyPart(**content_of(work.sheet)) if work.sheet_revision else None,
        created_by=work.created_by_name,
        created_at=work.created_at,
        sheet_adoptions=[
            AdoptionPart(**_written(one), before=one.before.number, after=one.after.number, reason=one.reason) for one in adoptions
        ],
        ways=[WayPart(**_written(one), **_same(one, WayPart)) for one in work.way_choices.all()],
        gear_sets=[GearSetPart(**_written(one), **_same(one, GearSetPart)) for one in work.gear_sets.all()],
        step_photos=[
            StepPhotoPart(
                **_written(one), step=one.step_code, content=b64encode(bytes(one.content)), **_same(one, StepPhotoPart, "step", "content")
            )
            for one in work.step_photos.all()
        ],
        steps=[_step(one) for one in work.step_records.prefetch_related("readings")],
        trials=[TrialPart(**_written(one), **_same(one, TrialPart)) for one in trials],
        readings=[ReadingPart(**_written(one), trial=trial.client_id, **_same(one, ReadingPart, "trial")) for trial, one in readings],
        strike_outs=[StrikeOutPart(**_written(one), reading=one.reading.client_id, reason=one.reason) for one in strikes],
        sign_offs=[_sign_off(one) for one in sign_offs],
        withdrawals=[WithdrawalPart(**_written(one), sign_off=one.sign_off.client_id, reason=one.reason) for one in withdrawals],
        **_bench_parts(work, trials),
    )


def _quote(link: QuoteLink) -> QuotePart:
    end: QuoteLinkEnd | None = getattr(link, "end", None)
    answer: QuoteAnswer | None = getattr(link, "answer", None)
    return QuotePart(
        **_written(link),
        **_same(link, QuotePart, "end", "answer"),
        end=Written(**_written(end)) if end is not None else None,
        answer=QuoteAnswerPart(id=answer.client_id, at=answer.at, **_same(answer, QuoteAnswerPart)) if answer is not None else None,
    )


def _step(one: StepRecord) -> StepPart:
    readings = [StepReadingPart(**_written(read), **_same(read, StepReadingPart)) for read in one.readings.all()]
    return StepPart(**_written(one), step=one.step_code, readings=readings, **_same(one, StepPart, "step", "readings"))


def _sign_off(one: SignOff) -> SignOffPart:
    found = {name: getattr(one, name) for name in ("statement", "verdict", "origin")}
    if hasattr(one, "document"):
        kept = one.document
        more = {"document": kept.text, "document_hash": kept.text_hash}
        found |= {**more, "core_version": kept.core_version, "reconstructed": kept.reconstructed}
    return SignOffPart(**_written(one), **found)


def _bench_parts(work: Work, trials: list[Trial]) -> dict[str, Any]:
    """What was read beside the backlash, and what the desks kept."""

    def of_trials(name: str, part: type[BaseModel], *left_out: str, **more: Any) -> list[Any]:
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

    def of_work(name: str, part: type[BaseModel], **more: Any) -> list[Any]:
        rows = getattr(work, name).all()
        return [part(**_written(one), **_same(one, part, *more), **{field: take(one) for field, take in more.items()}) for one in rows]

    def of_desk(area: Area, part: type[BaseModel], **more: Any) -> list[Any]:
        rows = work.kept_answers.filter(area=area)
        return [part(**_written(one), **_same(one, part, *more), **{field: take(one) for field, take in more.items()}) for one in rows]

    checked = [one for one in trials if hasattr(one, "conditions")]
    return {
        "conditions": [ConditionPart(**_written(one.conditions), trial=one.client_id, points=one.conditions.points) for one in checked],
        "bases": of_work("bases", BasisPart),
        "photos": of_trials("photos", PhotoPart, content=lambda one: b64encode(bytes(one.content))),
        "patterns": of_trials(
            "patterns",
            PatternPart,
            photo=lambda one: one.photo.client_id if one.photo else None,
            replaces=lambda one: one.replaces.client_id if one.replaces else None,
        ),
        "torques": of_trials("torques", TorquePart),
        "depths": of_trials("depths", DepthPart),
        "sleeve_steps": of_work(
            "sleeve_steps", SleeveStepPart, takes_back=lambda one: one.takes_back.client_id if one.takes_back else None
        ),
        "spacer_tries": of_work("spacer_tries", SpacerTryPart),
        "instrument_checks": of_work("instrument_checks", InstrumentCheckPart),
        "wall_builds": of_work("wall_builds", WallBuildPart),
        "part_records": of_work("part_records", PartRecordPart, undoes=lambda one: one.undoes.client_id if one.undoes else None),
        "part_photos": [PartPhotoPart(**_written(one), key=one.key) for one in work.part_photos.defer("content", "small")],
        "part_needs": of_work("part_needs", PartNeedPart),
        "quotes": [_quote(one) for one in work.quote_links.select_related("end", "answer")],
        "ratio_results": of_desk(Area.RATIO, RatioResultPart),
        "driveline_results": of_desk(Area.DRIVELINE, DrivelineResultPart, shaft=lambda one: one.about),
        "joint_inspections": of_work("joint_inspections", JointInspectionPart),
        "bench_results": of_desk(Area.DIFF, BenchResultPart, tool=lambda one: one.about, step=lambda one: one.step_code),
        "noise_findings": of_desk(
            Area.NOISE,
            NoiseFindingPart,
            kind=lambda one: one.about,
            felt=lambda one: one.inputs if one.about == "felt" else None,
            felt_answer=lambda one: one.answer if one.about == "felt" else None,
            recorded=lambda one: one.inputs if one.about == "recorded" else None,
            recorded_answer=lambda one: one.answer if one.about == "recorded" else None,
        ),
    }


def readings_csv(work: Work) -> str:
    """Every reading, struck out or not, a line each."""
    out = io.StringIO()
    table = csv.DictWriter(out, CSV_FIELDS)
    table.writeheader()
    for trial in Trial.objects.filter(work=work).with_readings():
        for reading in trial.readings.all():
            table.writerow(_line(trial, reading))
    return out.getvalue()


def _line(trial: Trial, reading: Reading) -> dict[str, Any]:
    strike = getattr(reading, "strike_out", None)
    return {
        "trial": trial.number,
        "position_deg": f"{reading.angle_deg:g}",
        "backlash_mm": f"{reading.value_mm:.4f}",
        "typed": inert(reading.typed),
        "unit": reading.unit,
        "read_by": inert(reading.by_name),
        "read_at": reading.at.isoformat(),
        "struck_out": "yes" if strike else "no",
        "reason": inert(strike.reason) if strike else "",
    }
