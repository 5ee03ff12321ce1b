"""Changing a piece of work: booked, its sheet taken over, its gear set identified, its steps passed."""

from __future__ import annotations

from dataclasses import asdict
from typing import Any
from uuid import UUID

from django.db import transaction
from django.db.models import Model, Q, QuerySet, prefetch_related_objects
from django.http import Http404
from django.utils import timezone

import amber_core
from accounts import policy
from accounts.policy import Action
from amber_core.errors import InvalidInput
from amber_core.gearset.identify import GearSetClues, identify_gear_set
from amber_core.procedures import library
from amber_core.words import say
from jobs.models import Job, JobState
from jobs.services import CardGiven, begin_station, make_job, open_job, settle
from records.writing import Writing, hash_of
from shared.refusals import Conflict, Refusal
from stores.models import SheetRevision
from stores.services import family_by_code
from stores.sheets import current_revision, newest_revision, revision_of
from vehicles.models import PLACES, Assembly, Place, Vehicle
from vehicles.services import log_odometer, make_vehicle, place_of
from work.checks import judge_again
from work.gears import refuse_no_gears
from work.models import GearSetRecord, Kind, Outcome, ProcedureRevision, SheetAdoption, StepRecord, WayChoice, Work
from work.run_sheet import RunSheet

MOST_WORKS = 20


def open_work(work_id: UUID, writing: Writing, action: Action) -> Work:
    """A piece of work, locked for this transaction, if this person may and neither it nor its job is signed off.

    Raises
    ------
    NotAllowed, Http404, Conflict
        With the reason.
    """
    work = _locked(Work.objects.with_job(), Q(pk=work_id), writing, action)
    prefetch_related_objects([work], "step_records", "gear_sets")
    return work


def lock_work(where: Q, writing: Writing, action: Action) -> UUID:
    """The same for whoever reads the work with more: locked, and refused in the same words.

    Raises
    ------
    NotAllowed, Http404, Conflict
        With the reason.
    """
    rows = Work.objects.select_related("job").only("signed_off_at", "job__number").order_by()
    return _locked(rows, where, writing, action).pk


def _locked(rows: QuerySet[Work], where: Q, writing: Writing, action: Action) -> Work:
    policy.require(writing.by, action)
    work = rows.select_for_update(of=("self", "job")).filter(where).first()
    if work is None:
        raise Http404
    refuse_signed(work)
    return work


def refuse_signed(work: Work) -> None:
    """Nothing more is written to what is signed off.

    Raises
    ------
    Conflict
        `signed_off`.
    """
    if work.signed_off_at is not None:
        raise Conflict(say("This work is signed off. A foreman can take back the sign-off, with a reason."), code="signed_off")


def procedure_of(kind: str) -> ProcedureRevision:
    """The library of this kind's steps as this release has it, kept once under its own number."""
    content = library.plain(library.library(kind))
    content_hash = hash_of(content)
    last = ProcedureRevision.objects.filter(kind=kind).order_by("number").last()
    if last is not None and last.content_hash == content_hash:
        return last
    number = last.number + 1 if last else 1
    return ProcedureRevision.objects.create(
        kind=kind,
        number=number,
        core_version=amber_core.__version__,
        content=content,
        content_hash=content_hash,
        by_name="Amber Pinion",
    )


@transaction.atomic
def book_job(
    writing: Writing,
    *,
    job_id: UUID,
    given: CardGiven,
    vehicle_id: UUID | None,
    vehicle: str,
    layout: str,
    axle: str,
    family: str,
    kind: str = Kind.RING_AND_PINION,
) -> Job:
    """A visit of a vehicle that is known or new, with its first piece of work.

    Raises
    ------
    Refusal
        When the vehicle has no such axle, or the Stores no such family.
    """
    policy.require(writing.by, "edit_job")
    family_by_code(family)
    if vehicle_id is not None:
        known = Vehicle.objects.select_for_update().filter(pk=vehicle_id).first()
        if known is None:
            raise Refusal(say("This vehicle is not here."), code="not_found", field="vehicle_id")
    else:
        _check_axle(layout, axle)
        known = make_vehicle(vehicle_id=None, owner=given.customer, name=vehicle, layout=layout)
    _check_axle(known.layout, axle)
    job = make_job(writing, job_id=job_id, vehicle=known, given=given)
    _add(job, writing, work_id=job_id, number=1, kind=kind, axle=axle, family=family)
    return job


def _check_axle(layout: str, axle: str) -> None:
    if place_of(axle) not in PLACES[layout]:
        raise Refusal(
            say("This kind of vehicle has no driven front axle. Choose the rear one.")
            if axle == "front"
            else say("This kind of vehicle has no driven rear axle. Choose the front one."),
            field="axle",
        )


@transaction.atomic
def add_work(writing: Writing, *, job_id: UUID, work_id: UUID, kind: str, axle: str, family: str) -> Work:
    """One more piece of work on a job.

    Raises
    ------
    Refusal, Conflict
        When the vehicle has no such axle, or this work is booked on it already.
    """
    job = open_job(job_id, writing, "edit_job")
    _check_axle(job.vehicle.layout, axle)
    works = list(job.works.select_related("assembly"))
    if len(works) >= MOST_WORKS:
        raise Refusal(say("A job can have {most_works} pieces of work at most.", most_works=MOST_WORKS), field="kind")
    if any(one.kind == kind and one.assembly.place == place_of(axle) for one in works):
        raise Refusal(say("This work is already on the job."), field="axle")
    number = max((one.number for one in works), default=0) + 1
    return _add(job, writing, work_id=work_id, number=number, kind=kind, axle=axle, family=family)


def _add(job: Job, writing: Writing, *, work_id: UUID, number: int, kind: str, axle: str, family: str) -> Work:
    revision = current_revision(family_by_code(family), writing)
    assembly, _ = Assembly.objects.get_or_create(vehicle=job.vehicle, place=place_of(axle))
    if assembly.family_id != revision.family_id:
        assembly.family_id = revision.family_id
        assembly.save(update_fields=["family"])
    work = Work(
        pk=work_id,
        job=job,
        number=number,
        kind=kind,
        assembly=assembly,
        sheet_revision=revision,
        procedure=procedure_of(kind),
        next_action="",
        created_by=writing.by,
        created_by_name=str(writing.by),
    )
    work.save(force_insert=True)
    refresh(work)
    return work


@transaction.atomic
def edit_work(writing: Writing, *, work_id: UUID, version: int, axle: str | None, family: str | None) -> Work:
    """Change what the work is on, if nobody else has since it was read.

    Raises
    ------
    Conflict
        When the version has moved on.
    Refusal
        When work was recorded that belongs to the family as it is.
    """
    work = open_work(work_id, writing, "edit_job")
    _same_version(work, version)
    if family is not None:
        chosen = family_by_code(family)
        if chosen.pk != work.sheet_revision.family_id:
            if work.begun:
                raise Refusal(say("The axle family cannot be changed once work is recorded. Add another piece of work."), field="family")
            work.sheet_revision = current_revision(chosen, writing)
            Assembly.objects.filter(pk=work.assembly_id).update(family=chosen)
    if axle is not None:
        _check_axle(work.job.vehicle.layout, axle)
        work.assembly, _ = Assembly.objects.get_or_create(vehicle=work.job.vehicle, place=place_of(axle))
    work.version += 1
    work.save(update_fields=["assembly", "sheet_revision", "version"])
    refresh(work)
    return work


def _same_version(work: Work, version: int) -> None:
    if work.version != version:
        raise Conflict(say("Somebody else changed this work while you were editing it. Choose which version to keep."), code="conflict")


def newer_sheet(work: Work) -> SheetRevision | None:
    """A newer revision of the sheet than the one this work is judged by; None when there is none."""
    mine = work.sheet_revision
    newest = newest_revision(mine.family_id)
    if newest is None or newest.content_hash == mine.content_hash or (newest.number < mine.number and not mine.from_file):
        return None
    return newest


@transaction.atomic
def adopt_sheet(writing: Writing, *, work_id: UUID, revision: int, version: int, reason: str) -> Work:
    """Judge this work by another revision of its sheet from now on, with a reason; which one it was before stays on the record.

    Raises
    ------
    Refusal, Conflict
        Without a reason, for an unknown revision, or when somebody else changed the work.
    """
    work = open_work(work_id, writing, "record")
    _same_version(work, version)
    if not reason:
        raise Refusal(say("Give a reason for changing to another revision of the sheet."), field="reason")
    after = revision_of(work.sheet_revision.family, revision)
    if after.pk == work.sheet_revision_id:
        raise Refusal(say("The work is already judged by this revision."), field="revision")
    SheetAdoption.objects.create(work=work, before=work.sheet_revision, after=after, reason=reason, **writing.row())
    work.sheet_revision = after
    work.version += 1
    work.save(update_fields=["assembly", "sheet_revision", "version"])
    refresh(work)
    judge_again(work, writing)
    return work


@transaction.atomic
def choose_way(writing: Writing, *, work_id: UUID, question: str, way: str, reason: str) -> Work:
    """Which of several ways the work is done in, with the reason; an earlier choice stays on the record."""
    work = open_work(work_id, writing, "record")
    if not reason:
        raise Refusal(say("Give a reason for doing it this way."), field="reason")
    WayChoice.objects.create(work=work, question=question, way=way, reason=reason, **writing.row())
    note_work(work, writing)
    return work


@transaction.atomic
def record_gear_set(writing: Writing, *, work_id: UUID, clues: GearSetClues, chosen: tuple[int, int]) -> Work:
    """Keep an identification: what was counted, what it gave, and the pair of teeth it was taken for. A pair that makes no gear set on this
    axle is refused before anything is stored.

    Raises
    ------
    InvalidInput, Refusal
        When what was counted does not hold together.
    """
    work = open_work(work_id, writing, "record")
    answer = identify_gear_set(clues)
    if clues.ring_teeth is None and not any((one.pinion_teeth, one.ring_teeth) == chosen for one in answer.candidates):
        raise Refusal(
            say("These teeth do not fit the counted turns. Count again, or choose one of the pairs that fit."), field="ring_teeth"
        )
    if chosen[1] <= chosen[0]:
        raise Refusal(say("The ring gear must have more teeth than the pinion."), field="ring_teeth")
    try:
        refuse_no_gears(work.sheet, *chosen)
    except InvalidInput as wrong:
        raise Refusal(
            say(
                "{pinion} and {ring} teeth do not make a gear set for this axle: {message}",
                pinion=chosen[0],
                ring=chosen[1],
                message=wrong.message,
            ),
            field="ring_teeth",
        ) from None
    teeth = {"pinion_teeth": chosen[0], "ring_teeth": chosen[1]}
    GearSetRecord.objects.create(work=work, question=asdict(clues), answer=asdict(answer), **teeth, **writing.row())
    forget(work, "gear_sets")
    note_work(work, writing)
    judge_again(work, writing)
    return work


@transaction.atomic
def pass_step(writing: Writing, *, work_id: UUID, code: str, typed: str, note: str) -> Work:
    """Pass a step with what it asks for.

    Raises
    ------
    Refusal, InvalidInput
        With what keeps it shut.
    """
    work = open_work(work_id, writing, "record")
    sheet = RunSheet(work)
    taken = sheet.take(code, typed, writing.torque_unit)
    record_step(work, writing, code, Outcome.PASSED, row=writing.row(), entered=taken.entered, value=taken.value, note=note)
    if sheet.step(code).check == "odometer" and taken.value is not None:
        log_odometer(writing, work.job.vehicle_id, taken.entered, follows=True)
    note_work(work, writing)
    return work


@transaction.atomic
def take_back_step(writing: Writing, *, work_id: UUID, code: str, reason: str) -> Work:
    """Take a passed step back, with a reason; its record stays."""
    work = open_work(work_id, writing, "record")
    sheet = RunSheet(work)
    sheet.step(code)
    if code not in sheet.latest or sheet.latest[code].outcome != Outcome.PASSED:
        raise Refusal(say("This step has not been done, so it cannot be taken back."), field="step")
    if not reason:
        raise Refusal(say("Give a reason for taking back the step."), field="reason")
    record_step(work, writing, code, Outcome.TAKEN_BACK, row=writing.row(), note=reason)
    note_work(work, writing)
    return work


def record_step(
    work: Work,
    writing: Writing,
    code: str,
    outcome: str,
    *,
    row: dict[str, Any] | None = None,
    entered: str = "",
    value: float | None = None,
    note: str = "",
) -> None:
    """Append a row to the run sheet; within the caller's transaction."""
    fields = {"step_code": code, "outcome": outcome, "entered": entered, "value": value, "note": note}
    StepRecord.objects.create(work=work, **fields, **(row or writing.also()))
    forget(work, "step_records")


def fall_back(work: Work, writing: Writing, codes: list[str]) -> None:
    """Passed steps that no longer hold are taken back, and the record says so; within the caller's transaction."""
    latest = RunSheet(work).latest
    for code in codes:
        record = latest.get(code)
        if record is not None and record.outcome == Outcome.PASSED:
            record_step(work, writing, code, Outcome.TAKEN_BACK, note=say("The readings changed after this step was done."))


def note_work(work: Work, writing: Writing) -> None:
    """Work was recorded: the assembly is in work, state and next action follow; within the caller's transaction."""
    if not work.begun:
        begin_station(work.job, Place(work.assembly.place), writing)
    work.begun = True
    refresh(work)


def refresh(work: Work) -> None:
    """Work out state and next action of the work and its job, and save these alone: no card changes, and no version of one moves."""
    step = RunSheet(work).next
    if work.signed_off_at is not None:
        state, action = JobState.DONE, say("Hand over the build sheet")
    elif step is None:
        state, action = JobState.TO_SIGN, say("Sign off the work")
    else:
        state, action = (JobState.IN_WORK if work.begun else JobState.BOOKED), step.title
    work.state, work.next_action, work.updated_at = state, action.as_text(), timezone.now()
    work.save(update_fields=["state", "begun", "next_action", "updated_at", "signed_off_at"])
    if not _among_those_read(work):
        forget(work.job, "works")
    settle(work.job)


def _among_those_read(work: Work) -> bool:
    """Whether the works that were read along with the job have this very instance among them, so that they say what it says."""
    read = getattr(work.job, "_prefetched_objects_cache", {}).get("works", ())
    return any(one is work for one in read)


def forget(row: Model, *names: str) -> None:
    """What was read along with a row is read again when it is next asked for."""
    read = getattr(row, "_prefetched_objects_cache", {})
    for name in names:
        read.pop(name, None)
