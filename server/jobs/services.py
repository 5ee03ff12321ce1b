"""Changing a job: every write in one transaction, a retry with the same id changes nothing."""

from __future__ import annotations

from dataclasses import asdict, dataclass
from typing import Any
from uuid import UUID

from django.db import transaction
from django.http import Http404
from django.utils import timezone

from accounts import policy
from accounts.models import Shop, User
from accounts.policy import Action
from amber_core.gearset.identify import GearSetClues, identify_gear_set
from amber_core.tyres.designation import TyreText, parse_tyre
from amber_core.tyres.rollout import RollOut, roll_out
from jobs.models import (
    PLACES,
    AxleEnd,
    AxleFact,
    GearSetRecord,
    Job,
    JobState,
    Layout,
    Outcome,
    Place,
    Station,
    StationState,
    StepRecord,
    Verdict,
    WaitsFor,
)
from jobs.run_sheet import RunSheet
from shared.refusals import Conflict, Refusal
from stores.services import family_by_code


@dataclass(frozen=True)
class JobGiven:
    """What somebody writes on the job's card."""

    customer: str
    vehicle: str
    layout: str
    axle: str
    family: str
    complaint: str
    use: str
    use_note: str


def open_job(job_id: UUID, by: User, action: Action) -> Job:
    """The job, locked for this transaction, if this person may and it is not signed off.

    Raises
    ------
    NotAllowed, Http404, Conflict
        With the reason.
    """
    policy.require(by, action)
    job = Job.objects.select_for_update(of=("self",)).select_related("family").filter(pk=job_id).first()
    if job is None:
        raise Http404
    if job.signed_off_at is not None:
        raise Conflict("This job is signed off. A foreman can take the sign-off back, with a reason.", code="signed_off")
    return job


def next_number() -> int:
    """The next job number; the shop's row is locked until the transaction ends."""
    Shop.get()
    shop = Shop.objects.select_for_update().get(pk=1)
    shop.last_job_number += 1
    shop.save(update_fields=["last_job_number"])
    return shop.last_job_number


@transaction.atomic
def create_job(*, by: User, job_id: UUID, given: JobGiven) -> Job:
    """Make a job with its driveline; a retry finds the first one."""
    policy.require(by, "edit_job")
    family = family_by_code(given.family)
    _check_axle(given.layout, given.axle)
    number = next_number()  # also keeps two retries from running side by side
    if (kept := Job.objects.filter(pk=job_id).first()) is not None:
        return kept
    fields = {**asdict(given), "family": family}
    job = Job(pk=job_id, number=number, created_by=by, created_by_name=str(by), next_action="", **fields)
    job.save(force_insert=True)
    Station.objects.bulk_create(Station(job=job, place=place) for place in PLACES[given.layout])
    refresh(job)
    return job


@transaction.atomic
def edit_job(*, by: User, job_id: UUID, version: int, changes: dict[str, Any]) -> Job:
    """Change the card, if nobody else has since it was read.

    Raises
    ------
    Conflict
        When the version has moved on; the caller shows both.
    """
    job = open_job(job_id, by, "edit_job")
    if job.version != version:
        raise Conflict("Somebody else changed this job while you were writing. Choose what should stand.", code="conflict")
    _check_axle(changes.get("layout", job.layout), changes.get("axle", job.axle))
    if "family" in changes:
        family = family_by_code(changes.pop("family"))
        if family.pk != job.family_id and job.trials.exists():
            raise Refusal("The axle family cannot change once trials are recorded: make a new job.", field="family")
        job.family = family
    for field, value in changes.items():
        setattr(job, field, value)
    wanted = PLACES[job.layout]
    present = set(job.stations.values_list("place", flat=True))
    Station.objects.bulk_create(Station(job=job, place=place) for place in wanted if place not in present)
    job.stations.exclude(place__in=wanted).delete()
    refresh(job)
    return job


def _check_axle(layout: str, axle: str) -> None:
    if layout == Layout.REAR and axle == AxleEnd.FRONT:
        raise Refusal("A rear-wheel-drive vehicle has no driven front axle: choose the rear axle.", field="axle")


@transaction.atomic
def set_station(*, by: User, job_id: UUID, place: str, state: str, note: str) -> Job:
    """Say how a part of the driveline was found."""
    job = open_job(job_id, by, "record")
    if not job.stations.filter(place=place).update(state=state, note=note):
        raise Refusal("This vehicle has no such part on its map.", code="not_found", field="place")
    refresh(job)
    return job


@transaction.atomic
def record_gear_set(*, by: User, job_id: UUID, client_id: UUID, clues: GearSetClues, chosen: tuple[int, int]) -> Job:
    """Keep an identification: what was counted, what it gave, and the pair of teeth it was taken for.

    Raises
    ------
    InvalidInput
        When what was counted does not hold together.
    """
    job = open_job(job_id, by, "record")
    if not GearSetRecord.objects.filter(client_id=client_id).exists():
        answer = identify_gear_set(clues)
        if clues.ring_teeth is None and not any((one.pinion_teeth, one.ring_teeth) == chosen for one in answer.candidates):
            raise Refusal("The turns counted do not allow this pair: choose one of the candidates.", field="pinion_teeth")
        GearSetRecord.objects.create(
            client_id=client_id,
            job=job,
            by=by,
            by_name=str(by),
            pinion_teeth=chosen[0],
            ring_teeth=chosen[1],
            question=asdict(clues),
            answer=asdict(answer),
        )
        refresh(job)
    return job


@dataclass(frozen=True)
class EndGiven:
    """One end of the vehicle as somebody writes it."""

    end: str
    tyre: str
    rollout_mm: float | None
    turns: float
    pinion_teeth: int | None
    ring_teeth: int | None


@transaction.atomic
def record_axle_fact(*, by: User, job_id: UUID, client_id: UUID, given: EndGiven) -> Job:
    """What is known of one end of the vehicle.

    Raises
    ------
    Refusal
        When the tyre cannot be read, or only one of the tooth counts is given.
    """
    job = open_job(job_id, by, "edit_job")
    if AxleFact.objects.filter(client_id=client_id).exists():
        return job
    if job.layout == Layout.REAR and given.end == AxleEnd.FRONT:
        raise Refusal("A rear-wheel-drive vehicle has no driven front axle.", field="end")
    if (given.pinion_teeth is None) != (given.ring_teeth is None):
        raise Refusal("Give both tooth counts, or none.", field="pinion_teeth")
    if given.pinion_teeth is not None and given.ring_teeth is not None and given.ring_teeth <= given.pinion_teeth:
        raise Refusal("The ring has more teeth than the pinion.", field="ring_teeth")
    around, measured = None, given.rollout_mm is not None
    if given.tyre.strip():
        tyre = parse_tyre(TyreText(text=given.tyre, rollout_mm=given.rollout_mm, turns=given.turns))
        if not tyre.valid:
            raise Refusal(tyre.reasons[0].text, field="tyre")
        around = tyre.circumference_m
    elif given.rollout_mm is not None:
        around = roll_out(RollOut(rollout_mm=given.rollout_mm, turns=given.turns)).circumference_m
    teeth = {"pinion_teeth": given.pinion_teeth, "ring_teeth": given.ring_teeth}
    fields = {"end": given.end, "tyre": given.tyre.strip(), "circumference_m": around, "measured": measured, **teeth}
    AxleFact.objects.create(client_id=client_id, job=job, by=by, by_name=str(by), **fields)
    refresh(job)
    return job


@transaction.atomic
def pass_step(*, by: User, job_id: UUID, client_id: UUID, code: str, typed: str, note: str) -> Job:
    """Pass a step with what it asks for.

    Raises
    ------
    Refusal, InvalidInput
        With what keeps it shut.
    """
    job = open_job(job_id, by, "record")
    if StepRecord.objects.filter(client_id=client_id).exists():
        return job
    taken = RunSheet(job).take(code, typed, by.torque_unit)
    record_step(job, by, code, Outcome.PASSED, client_id=client_id, entered=taken.entered, value=taken.value, note=note)
    refresh(job)
    return job


@transaction.atomic
def take_back_step(*, by: User, job_id: UUID, client_id: UUID, code: str, reason: str) -> Job:
    """Take a passed step back, with a reason; its record stays."""
    job = open_job(job_id, by, "record")
    if StepRecord.objects.filter(client_id=client_id).exists():
        return job
    sheet = RunSheet(job)
    sheet.step(code)
    if code not in sheet.latest or sheet.latest[code].outcome != Outcome.PASSED:
        raise Refusal("This step has not been passed, so it cannot be taken back.", field="step")
    if not reason:
        raise Refusal("Say why the step is taken back.", field="reason")
    record_step(job, by, code, Outcome.TAKEN_BACK, client_id=client_id, note=reason)
    refresh(job)
    return job


def record_step(
    job: Job,
    by: User,
    code: str,
    outcome: str,
    *,
    client_id: UUID | None = None,
    entered: str = "",
    value: float | None = None,
    note: str = "",
) -> None:
    """Append a row to the run sheet; within the caller's transaction."""
    record = StepRecord(job=job, by=by, by_name=str(by), step_code=code, outcome=outcome, entered=entered, value=value, note=note)
    if client_id is not None:
        record.client_id = client_id
    record.save(force_insert=True)


def note_bench(job: Job, by: User, *, backlash: str, pattern: str, missing: str) -> None:
    """What the bench found; a passed hold falls back when it no longer holds. Within the caller's transaction."""
    sheet, good = RunSheet(job), (Verdict.IN, Verdict.EDGE)
    job.backlash_verdict, job.pattern_verdict, job.final_missing = backlash, pattern, missing
    holds = {"backlash": backlash in good, "pattern": pattern in good, "final_reading": not missing}
    for code, stands in holds.items():
        latest = sheet.latest.get(code)
        if not stands and latest is not None and latest.outcome == Outcome.PASSED:
            record_step(job, by, code, Outcome.TAKEN_BACK, note="The readings changed after this was passed.")
    axle = Place.FRONT_AXLE if job.axle == AxleEnd.FRONT else Place.REAR_AXLE
    job.stations.filter(place=axle, state=StationState.NOT_LOOKED_AT).update(state=StationState.IN_WORK)
    refresh(job)


def refresh(job: Job) -> None:
    """Work out state and next action anew, count the version up, save. Within the caller's transaction."""
    sheet = RunSheet(job)
    step = sheet.next
    if job.signed_off_at is not None:
        state, action = JobState.DONE, "Hand over the build sheet"
    elif step is None:
        state, action = JobState.TO_SIGN, "Sign the job off"
    else:
        begun = sheet.begun or job.trials.exists()
        state = JobState.IN_WORK if begun else JobState.BOOKED
        action = step.title
        if job.waits_for != WaitsFor.NOTHING:
            state = JobState.WAITING
    job.put_in_state(state)
    job.next_action = action
    job.version += 1
    job.updated_at = timezone.now()
    job.save()
