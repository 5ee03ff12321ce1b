"""A job out of its file: all of it, or nothing and one sentence."""

from __future__ import annotations

import json
from typing import Any
from uuid import UUID

from django.conf import settings
from django.core.exceptions import ObjectDoesNotExist
from django.db import IntegrityError, transaction
from django.utils import timezone
from pydantic import BaseModel, ValidationError

from accounts import policy
from accounts.models import User
from amber_core import payload
from build_sheet.job_file import FORMAT, VERSION, FamilyPart, JobFile, Written
from build_sheet.models import SignOff, Withdrawal
from driveline_desk.models import DrivelineResult, JointInspection
from jobs.models import PLACES, AxleEnd, AxleFact, GearSetRecord, Job, Layout, Station, StepRecord
from jobs.services import next_number, refresh
from noise_finder.models import NoiseFinding
from ratio_desk.models import RatioResult
from setup_bench.models import (
    Basis,
    ConditionCheck,
    DepthReading,
    InstrumentCheck,
    PatternPhoto,
    PatternReading,
    Reading,
    SleeveStep,
    SpacerTry,
    StrikeOut,
    TorqueReading,
    Trial,
)
from setup_bench.verdicts import bench_verdicts
from shared.refusals import Conflict, Refusal, TooLarge
from stores.models import AxleFamily, RatioOption, SpecLimit

_OF_TRIALS = ("conditions", "photos", "patterns", "torques", "depths")


def read_file(content: bytes) -> JobFile:
    """Check a file before anything is stored.

    Raises
    ------
    TooLarge, Refusal
        With one sentence: too large, cut off, of another kind, newer, or a field that does not fit.
    """
    limit = settings.LARGEST_IMPORT_BYTES
    if len(content) > limit:
        raise TooLarge(
            f"The file has {len(content) / 2**20:.0f} MB; a job has at most {limit // 2**20}. Nothing was imported.", code="too_large"
        )
    plain = _parsed(content)
    if not isinstance(plain, dict) or plain.get("format") != FORMAT:
        raise Refusal("This is not a job file of Amber Pinion. Nothing was imported.", code="other_format")
    version = plain.get("version")
    if not isinstance(version, int) or isinstance(version, bool) or version < 1:
        raise Refusal("The file does not say which version it has. Nothing was imported.", code="no_version", field="version")
    if version > VERSION:
        text = f"The file was written by a newer release (version {version}; this one reads up to {VERSION}). Nothing was imported."
        raise Refusal(text, code="newer_version", field="version")
    try:
        found = JobFile.model_validate(plain)
    except ValidationError as wrong:
        first = wrong.errors()[0]
        path = "".join(f"[{part}]" if isinstance(part, int) else f".{part}" for part in first["loc"]).lstrip(".")
        raise Refusal(f"{path}: {first['msg'].rstrip('.')}. Nothing was imported.", code="bad_file", field=path) from None
    _check_references(found)
    return found


def _parsed(content: bytes) -> Any:
    try:
        return json.loads(content.decode("utf-8-sig"))
    except UnicodeDecodeError:
        raise Refusal("The file is not text, so it cannot be a job. Nothing was imported.", code="not_json") from None
    except (json.JSONDecodeError, RecursionError) as wrong:
        where = f" at line {wrong.lineno}" if isinstance(wrong, json.JSONDecodeError) else ""
        text = f"The file is cut off or damaged{where}: export it again and take the whole file. Nothing was imported."
        raise Refusal(text, code="not_json") from None


def _check_references(found: JobFile) -> None:
    trials, readings = {one.id for one in found.trials}, {one.id for one in found.readings}
    sign_offs, steps = {one.id for one in found.sign_offs}, {one.id for one in found.sleeve_steps}
    pointers: list[tuple[str, str, Any, set[Any]]] = [
        *(("readings", "trial", one.trial, trials) for one in found.readings),
        *(("strike_outs", "reading", one.reading, readings) for one in found.strike_outs),
        *(("withdrawals", "sign_off", one.sign_off, sign_offs) for one in found.withdrawals),
        *((part, "trial", one.trial, trials) for part in _OF_TRIALS for one in getattr(found, part)),
        *(("patterns", "photo", one.photo, {photo.id for photo in found.photos}) for one in found.patterns if one.photo),
        *(("sleeve_steps", "takes_back", one.takes_back, steps) for one in found.sleeve_steps if one.takes_back),
    ]
    for part, field, target, known in pointers:
        if target not in known:
            text = f"An entry of {part} points to a {field.replace('_', ' ')} that the file does not hold ({target}). Nothing was imported."
            raise Refusal(text, code="missing_reference", field=f"{part}.{field}")
    adjusters = found.family.carrier_method == "adjusters"
    for trial in found.trials:
        notches = None not in (trial.ring_side_notches, trial.far_side_notches)
        stacks = None not in (trial.ring_side_pieces, trial.far_side_pieces)
        if notches is stacks or notches is not adjusters:
            raise Refusal(f"Trial {trial.number} does not fit how this axle is set. Nothing was imported.", code="bad_file", field="trials")
    if found.job.layout == Layout.REAR and found.job.axle == AxleEnd.FRONT:
        raise Refusal("The file has a front axle on a rear-wheel-drive vehicle. Nothing was imported.", code="bad_file", field="job.axle")


def import_job(*, by: User, content: bytes) -> Job:
    """Store a job from its file.

    Raises
    ------
    NotAllowed, TooLarge, Refusal, Conflict
        With one sentence; nothing half-written remains.
    """
    policy.require(by, "import_job")
    found = read_file(content)
    if Job.objects.filter(pk=found.job.id).exists():
        raise Conflict(f"Job {found.job.number} is here already. Nothing was imported.", code="here_already")
    try:
        with transaction.atomic():
            return _store(found, by)
    except IntegrityError:
        text = "Parts of this file are stored here already, or stand twice in it. Nothing was imported."
        raise Conflict(text, code="here_already") from None


def _store(found: JobFile, by: User) -> Job:
    card = found.job
    number = card.number if not Job.objects.filter(number=card.number).exists() else next_number()
    plain = card.model_dump(exclude={"id", "number", "created_by"})
    job = Job.objects.create(
        pk=card.id,
        number=number,
        family=_family(found.family),
        created_by_name=card.created_by,
        next_action="",
        imported_by_name=str(by),
        imported_at=timezone.now(),
        **plain,
    )
    states = {one.place: one for one in found.stations}
    Station.objects.bulk_create(
        Station(job=job, place=place, state=states[place].state, note=states[place].note)
        if place in states
        else Station(job=job, place=place)
        for place in PLACES[job.layout]
    )
    GearSetRecord.objects.bulk_create(GearSetRecord(job=job, **_record(one)) for one in found.gear_sets)
    StepRecord.objects.bulk_create(StepRecord(job=job, step_code=one.step, **_record(one, "step")) for one in found.steps)
    trials = {one.id: Trial.objects.create(job=job, **_record(one)) for one in found.trials}
    readings = {one.id: Reading(trial=trials[one.trial], **_record(one, "trial")) for one in found.readings}
    Reading.objects.bulk_create(readings.values())
    StrikeOut.objects.bulk_create(StrikeOut(reading=readings[one.reading], **_record(one, "reading")) for one in found.strike_outs)
    sign_offs = {one.id: SignOff.objects.create(job=job, **_record(one)) for one in found.sign_offs}
    for one in found.withdrawals:
        Withdrawal.objects.create(sign_off=sign_offs[one.sign_off], **_record(one, "sign_off"))
    _store_bench(found, job, trials)
    _store_ratios(found, job)
    _store_drivelines(found, job)
    _conclude(job)
    return job


def _store_bench(found: JobFile, job: Job, trials: dict[UUID, Trial]) -> None:
    """What was read beside the backlash."""
    Basis.objects.bulk_create(Basis(job=job, **_record(one)) for one in found.bases)
    ConditionCheck.objects.bulk_create(ConditionCheck(trial=trials[one.trial], **_record(one, "trial")) for one in found.conditions)
    photos = {one.id: PatternPhoto.objects.create(trial=trials[one.trial], **_record(one, "trial")) for one in found.photos}
    PatternReading.objects.bulk_create(
        PatternReading(trial=trials[one.trial], photo=photos[one.photo] if one.photo else None, **_record(one, "trial", "photo"))
        for one in found.patterns
    )
    TorqueReading.objects.bulk_create(TorqueReading(trial=trials[one.trial], **_record(one, "trial")) for one in found.torques)
    DepthReading.objects.bulk_create(DepthReading(trial=trials[one.trial], **_record(one, "trial")) for one in found.depths)
    steps: dict[UUID, SleeveStep] = {}
    for one in found.sleeve_steps:
        before = steps.get(one.takes_back) if one.takes_back else None
        steps[one.id] = SleeveStep.objects.create(job=job, takes_back=before, **_record(one, "takes_back"))
    SpacerTry.objects.bulk_create(SpacerTry(job=job, **_record(one)) for one in found.spacer_tries)
    InstrumentCheck.objects.bulk_create(InstrumentCheck(job=job, **_record(one)) for one in found.instrument_checks)


def _store_ratios(found: JobFile, job: Job) -> None:
    """What is known of the vehicle's ends, and kept answers of the ratio desk."""
    AxleFact.objects.bulk_create(AxleFact(job=job, **_record(one)) for one in found.axle_facts)
    RatioResult.objects.bulk_create(
        RatioResult(
            job=job,
            **_record(one, "inputs", "answer"),
            inputs=one.inputs.model_dump(mode="json"),
            answer=one.answer.model_dump(mode="json"),
        )
        for one in found.ratio_results
    )


def _store_drivelines(found: JobFile, job: Job) -> None:
    """Kept answers of the driveline desk, inspected joints, and findings of the noise finder; their recordings are not in the file."""
    DrivelineResult.objects.bulk_create(
        DrivelineResult(
            job=job,
            **_record(one, "inputs", "answer"),
            inputs=one.inputs.model_dump(mode="json"),
            answer=one.answer.model_dump(mode="json"),
        )
        for one in found.driveline_results
    )
    for one in found.joint_inspections:
        if one.decision != one.proposed and not one.note:
            text = f"Joint {one.joint} was decided otherwise than proposed, and the file does not say why. Nothing was imported."
            raise Refusal(text, code="bad_file", field="joint_inspections")
    JointInspection.objects.bulk_create(
        JointInspection(job=job, **_record(one, "felt"), felt=payload.plain(one.felt)) for one in found.joint_inspections
    )
    for one in found.noise_findings:
        asked, answer = (one.felt, one.felt_answer) if one.kind == "felt" else (one.recorded, one.recorded_answer)
        if asked is None or answer is None:
            text = f"The finding “{one.title}” holds no question or no answer. Nothing was imported."
            raise Refusal(text, code="bad_file", field="noise_findings")
        parts = ("felt", "felt_answer", "recorded", "recorded_answer")
        NoiseFinding.objects.create(job=job, **_record(one, *parts), inputs=_plain(asked), answer=_plain(answer))


def _plain(part: Any) -> dict[str, Any]:
    """A dataclass of the core or a schema, as it is stored."""
    return part.model_dump(mode="json") if isinstance(part, BaseModel) else payload.plain(part)


def _record(part: Written, *left_out: str) -> dict[str, Any]:
    """The fields of a record; the account stays empty, since a name in a file is no login here."""
    plain = part.model_dump(exclude={"id", "by", "at", *left_out})
    return {"client_id": part.id, "by_name": part.by, "at": part.at, **plain}


def _family(part: FamilyPart) -> AxleFamily:
    """The shop's own family of that code; made from the file when the Stores have none."""
    try:
        return AxleFamily.objects.get(code=part.code)
    except ObjectDoesNotExist:
        family = AxleFamily.objects.create(**part.model_dump(exclude={"limits", "ratios"}))
        SpecLimit.objects.bulk_create(SpecLimit(family=family, **one.model_dump()) for one in part.limits)
        RatioOption.objects.bulk_create(RatioOption(family=family, **one.model_dump()) for one in part.ratios)
        return family


def _conclude(job: Job) -> None:
    """Verdict, state and next action are worked out here, not believed."""
    updated_at = job.updated_at
    found = bench_verdicts(job)
    job.backlash_verdict, job.pattern_verdict, job.final_missing = found.backlash, found.pattern, found.missing
    standing = job.sign_offs.filter(withdrawal__isnull=True).last()
    job.signed_off_at = standing.at if standing else None
    refresh(job)
    Job.objects.filter(pk=job.pk).update(updated_at=updated_at, version=1)
    job.refresh_from_db()
