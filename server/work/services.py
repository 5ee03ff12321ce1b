"""Changing a piece of work: booked, its sheet taken over, its gear set identified, its steps passed."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import asdict, dataclass
from datetime import datetime, timedelta
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
from amber_core.procedures.shaping import OWN
from amber_core.words import say
from jobs.models import Job, JobState
from jobs.services import CardGiven, begin_station, make_job, open_job, settle, wait_begins, wait_over
from records.writing import Writing, hash_of
from shared.pictures import Picture
from shared.refusals import Conflict, Refusal
from stores.models import AxleFamily, ShaftsHeld, SheetRevision
from stores.sheets import current_revision, newest_revision, revision_of
from vehicles.models import Assembly, Place, Vehicle, has_place
from vehicles.services import family_for, log_odometer, make_vehicle, place_of
from work.checks import judge_again
from work.gears import refuse_no_gears
from work.models import (
    LETS_ON,
    RING_AND_PINION,
    GearSetRecord,
    Outcome,
    ProcedureRevision,
    SheetAdoption,
    StepPhoto,
    StepReading,
    StepRecord,
    WayChoice,
    Work,
)
from work.run_sheet import RunSheet
from work.shaping import find_kind, shape_of, steps_of

MOST_WORKS = 20


def open_work(work_id: UUID, writing: Writing, action: Action) -> Work:
    """A piece of work, locked for this transaction, if this person may and neither it nor its job is signed off.

    Raises
    ------
    NotAllowed, Http404, Conflict
        With the reason.
    """
    work = _locked(Work.objects.with_job(), Q(pk=work_id), writing, action)
    prefetch_related_objects([work], "step_records__readings", "gear_sets", "way_choices")
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
    """The library of this kind's steps as this release has it, with what the shop adds; kept once under its own number."""
    shape = shape_of(kind)
    return _procedure(kind, library.plain(steps_of(kind)), shape.by_name if shape else "Amber Pinion")


def kept_procedure(kind: str, content: list[dict[str, Any]]) -> ProcedureRevision:
    """The steps that a file was worked by; this release's own where a hold point of the kind is not among them."""
    if not library.keeps_holds(kind, library.read(content)):
        return procedure_of(kind)
    return _procedure(kind, content, "Imported job")


def _procedure(kind: str, content: list[dict[str, Any]], by_name: str) -> ProcedureRevision:
    content_hash = hash_of(content)
    of_kind = ProcedureRevision.objects.filter(kind=kind).order_by("number")
    same = of_kind.filter(content_hash=content_hash).first()
    if same is not None:
        return same
    last = of_kind.last()
    made = {"core_version": amber_core.__version__, "content": content, "content_hash": content_hash, "by_name": by_name}
    return ProcedureRevision.objects.create(kind=kind, number=last.number + 1 if last else 1, **made)


@transaction.atomic
def book_job(
    writing: Writing,
    *,
    job_id: UUID,
    given: CardGiven,
    vehicle_id: UUID | None,
    vehicle: str,
    layout: str,
    first: WorkGiven,
    more: Sequence[WorkGiven] = (),
    odometer: str = "",
    sure: bool = False,
) -> Job:
    """A visit of a vehicle that is known or new, with its pieces of work.

    Raises
    ------
    Refusal
        When the vehicle has no such assembly, the kind does not fit it, or the Stores have no such family.
    """
    policy.require(writing.by, "edit_job")
    if vehicle_id is not None:
        known = Vehicle.objects.select_for_update().filter(pk=vehicle_id).first()
        if known is None:
            raise Refusal(say("This vehicle is not here."), code="not_found", field="vehicle_id")
    else:
        if not vehicle:
            raise Refusal(say("Enter the vehicle."), field="vehicle")
        _check_place(layout, first.place, first.field)
        known = make_vehicle(vehicle_id=None, owner=given.customer, name=vehicle, layout=layout)
    job = make_job(writing, job_id=job_id, vehicle=known, given=given)
    if odometer.strip():
        log_odometer(writing, known.pk, odometer, follows=True, sure=sure, field="odometer")
    for number, one in enumerate([first, *more], start=1):
        _book(job, writing, one, number=number)
    settle(job)
    return job


@dataclass(frozen=True)
class WorkGiven:
    """A piece of work as it is booked; `field` is where its place was given."""

    id: UUID
    place: str
    kind: str = RING_AND_PINION
    family: str = ""
    field: str = "place"


_NO_AXLE = {
    Place.FRONT_AXLE: say("This kind of vehicle has no driven front axle. Choose the rear one."),
    Place.REAR_AXLE: say("This kind of vehicle has no driven rear axle. Choose the front one."),
}


def _check_place(layout: str, place: str, field: str) -> None:
    if not has_place(layout, place):
        nowhere = say("This kind of vehicle has no such assembly.")
        raise Refusal(_NO_AXLE.get(Place(place), nowhere), field=field)


def _check_fit(one: WorkGiven, held: str) -> None:
    """Refuse a kind that does not fit the assembly, or lacks the family that its bench wants."""
    kind = find_kind(one.kind)
    if one.place not in kind.places:
        text = say("{kind} is not done on this part. Choose another place or another kind of work.", kind=kind.title)
        raise Refusal(text, code="does_not_fit", field="kind")
    if kind.bench and not one.family:
        raise Refusal(say("{kind} is set up on the Set-up bench: choose the axle family.", kind=kind.title), field="family")
    wrong = (one.kind in _BEAM_ONLY and held == ShaftsHeld.HALF_SHAFTS) or (
        one.kind == "half_shafts" and held not in ("", ShaftsHeld.HALF_SHAFTS)
    )
    if wrong:
        text = say(
            "{kind} does not fit this axle: its sheet says {held}. Choose another kind, or correct the sheet in the Stores.",
            kind=kind.title,
            held=ShaftsHeld(held).label,
        )
        raise Refusal(text, code="does_not_fit", field="kind")


_BEAM_ONLY = ("third_member", "retention", "wheel_bearings")
"""Kinds that an axle with half shafts has not got the parts for."""


def _book(job: Job, writing: Writing, one: WorkGiven, *, number: int) -> Work:
    """Check a piece of work against its vehicle and add it; within the caller's transaction."""
    _check_place(job.vehicle.layout, one.place, one.field)
    family = family_for(one.place, one.family) if one.family else None
    _check_fit(one, family.shafts if family else "")
    if any(other.kind == one.kind and other.assembly.place == one.place for other in job.works.select_related("assembly")):
        raise Refusal(say("This work is already on the job."), field=one.field)
    return _add(job, writing, one, family, number=number)


@transaction.atomic
def add_work(writing: Writing, *, job_id: UUID, given: WorkGiven) -> Work:
    """One more piece of work on a job.

    Raises
    ------
    Refusal, Conflict
        When the vehicle has no such assembly, the kind does not fit it, or this work is booked on it already.
    """
    job = open_job(job_id, writing, "edit_job")
    numbers = list(job.works.values_list("number", flat=True))
    if len(numbers) >= MOST_WORKS:
        raise Refusal(say("A job can have {most_works} pieces of work at most.", most_works=MOST_WORKS), field="kind")
    return _book(job, writing, given, number=max(numbers, default=0) + 1)


def _add(job: Job, writing: Writing, given: WorkGiven, family: AxleFamily | None, *, number: int) -> Work:
    revision = current_revision(family, writing) if family is not None else None
    assembly, _ = Assembly.objects.get_or_create(vehicle=job.vehicle, place=given.place)
    if revision is not None and assembly.family_id != revision.family_id:
        assembly.family_id = revision.family_id
        assembly.save(update_fields=["family"])
    work = Work(
        pk=given.id,
        job=job,
        number=number,
        kind=given.kind,
        own_title=str(find_kind(given.kind).title) if given.kind.startswith(OWN) else "",
        assembly=assembly,
        sheet_revision=revision,
        procedure=procedure_of(given.kind),
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
        chosen = family_for(work.assembly.place, family)
        if work.sheet_revision is None or chosen.pk != work.sheet_revision.family_id:
            if work.begun and work.sheet_revision is not None:
                raise Refusal(say("The axle family cannot be changed once work is recorded. Add another piece of work."), field="family")
            work.sheet_revision = current_revision(chosen, writing)
            Assembly.objects.filter(pk=work.assembly_id).update(family=chosen)
    if axle is not None:
        _check_place(work.job.vehicle.layout, place_of(axle), "axle")
        if place_of(axle) not in find_kind(work.kind).places:
            raise Refusal(say("This kind of work is not done on an axle."), code="does_not_fit", field="axle")
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
    if mine is None:
        return None
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
    if work.sheet_revision is None:
        raise Refusal(say("This work has no axle family yet. Choose one on its card."), field="revision")
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


MOST_PHOTOS = 40
"""Pictures of one step."""


@transaction.atomic
def add_photo(writing: Writing, *, work_id: UUID, code: str, picture: Picture) -> Work:
    """Keep a picture taken at a step; it can be added before and after the step is passed.

    Raises
    ------
    Refusal
        For a step that this run sheet does not have, or with as many pictures as a step can have.
    """
    work = open_work(work_id, writing, "record")
    RunSheet(work).step(code)
    if work.step_photos.filter(step_code=code).count() >= MOST_PHOTOS:
        raise Refusal(say("A step can have {most} photos at most.", most=MOST_PHOTOS), field="file")
    StepPhoto.objects.create(work=work, step_code=code, content=picture.content, media_type=picture.media_type, **writing.row())
    return work


@transaction.atomic
def choose_way(writing: Writing, *, work_id: UUID, question: str, way: str, reason: str) -> Work:
    """Which of several ways the work is done in, with the reason; an earlier choice stays on the record.

    The one that is recommended, or one of several that nobody recommends, needs no reason the first time. Steps that stay the same stay
    passed.

    Raises
    ------
    Refusal
        For a question or a way that this run sheet does not have or that is not open, or without a reason.
    """
    work = open_work(work_id, writing, "record")
    sheet = RunSheet(work)
    step = sheet.reach(question)
    chosen = next((one for one in step.ways if one.code == way), None)
    if chosen is None:
        raise Refusal(say("“{title}” has no such way.", title=step.title), field="way")
    if shut := sheet.shut(question, way):
        raise Refusal(shut, code="held", field="way")
    advised = sheet.advised(step)
    if not reason and (question in sheet.choices or (advised and way != advised)):
        raise Refusal(say("Give a reason for doing it this way."), field="reason")
    said = reason or (say("Recommended") if way == advised else say("As it is"))
    WayChoice.objects.create(work=work, question=question, way=way, reason=said, **writing.row())
    record_step(work, writing, question, Outcome.PASSED, entered=str(chosen.title)[:200], note=reason)
    forget(work, "way_choices")
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
def pass_step(
    writing: Writing,
    *,
    work_id: UUID,
    code: str,
    typed: str = "",
    values: dict[str, str] | None = None,
    note: str = "",
    keep: bool = False,
    sure: bool = False,
) -> Work:
    """Pass a step with what it asks for. With `keep`, a reading that is out is recorded too, and the step stays open.

    Raises
    ------
    Refusal, InvalidInput
        With what keeps it shut.
    """
    work = open_work(work_id, writing, "record")
    sheet = RunSheet(work)
    step = sheet.step(code)
    if code in sheet.passed and code != "gear_set" and sheet.latest[code].outcome in LETS_ON:
        who = sheet.latest[code].by_name
        raise Conflict(say("{who} has just passed this step.", who=who), code="passed_already")
    taken = sheet.take(code, {"": typed, **(values or {})}, writing.length_unit, writing.torque_unit)
    if taken.out and not keep:
        text = say("{text} The hold point stays closed.", text=taken.out) if step.hold else taken.out
        raise Refusal(text, code="out_of_window", field="typed")
    outcome = Outcome.OUT if taken.out and step.hold else Outcome.PASSED
    record = record_step(work, writing, code, outcome, row=writing.row(), entered=taken.entered, value=taken.value, note=note)
    StepReading.objects.bulk_create(
        StepReading(record=record, name=one.ask.name, entered=one.entered[:60], value=one.value, **writing.also()) for one in taken.values
    )
    for one in taken.values:
        if one.ask.name == "odometer":
            log_odometer(writing, work.job.vehicle_id, one.entered, follows=True, sure=sure)
    if step.act == "wait":
        wait_over(work.job)
    note_work(work, writing)
    return work


@transaction.atomic
def begin_step(writing: Writing, *, work_id: UUID, code: str, minutes: int | None, waits_for: str, note: str) -> Work:
    """Start a clock, or park the work until something arrives.

    Raises
    ------
    Refusal
        When the step is neither, runs already, or a wait does not say what lies where.
    """
    work = open_work(work_id, writing, "record")
    sheet = RunSheet(work)
    step = sheet.reach(code)
    if step.act not in ("clock", "wait"):
        raise Refusal(say("This step has no clock to start."), field="step")
    if sheet.running(step) is not None or code in sheet.passed:
        raise Refusal(say("It is running already."), code="running", field="step")
    until = None
    if step.act == "clock":
        until = timezone.now() + timedelta(minutes=minutes or step.wait_minutes)
    elif not note:
        raise Refusal(say("Write down what lies where, and whether the vehicle may be rolled."), field="note")
    else:
        wait_begins(work.job, waits_for, note)
    record_step(work, writing, code, Outcome.BEGUN, row=writing.row(), until=until, note=note)
    note_work(work, writing)
    return work


@transaction.atomic
def skip_step(writing: Writing, *, work_id: UUID, code: str, reason: str) -> Work:
    """Leave out a step that may be left out, or end a clock before its time; with a reason.

    Raises
    ------
    Refusal
        At a hold point, or without a reason.
    """
    work = open_work(work_id, writing, "record")
    sheet = RunSheet(work)
    step = sheet.reach(code)
    running = step.act == "clock" and sheet.running(step) is not None
    if not running and not step.may_skip:
        text = say("A hold point cannot be skipped.") if step.hold else say("This step cannot be skipped.")
        raise Refusal(text, code="held", field="step")
    if not reason:
        raise Refusal(
            say("Give a reason for cutting the clock short.") if running else say("Give a reason for skipping it."), field="reason"
        )
    record_step(work, writing, code, Outcome.CUT_SHORT if running else Outcome.SKIPPED, row=writing.row(), note=reason)
    note_work(work, writing)
    return work


@transaction.atomic
def take_back_step(writing: Writing, *, work_id: UUID, code: str, reason: str) -> Work:
    """Take a passed step back, with a reason; its record stays."""
    work = open_work(work_id, writing, "record")
    sheet = RunSheet(work)
    sheet.step(code)
    if code not in sheet.latest or sheet.latest[code].outcome not in (*LETS_ON, Outcome.BEGUN):
        raise Refusal(say("This step has not been done, so it cannot be taken back."), field="step")
    if not reason:
        raise Refusal(say("Give a reason for taking back the step."), field="reason")
    if sheet.step(code).act == "wait" and sheet.running(sheet.step(code)) is not None:
        wait_over(work.job)
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
    until: datetime | None = None,
    note: str = "",
) -> StepRecord:
    """Append a row to the run sheet; within the caller's transaction."""
    fields = {"step_code": code, "outcome": outcome, "entered": entered, "value": value, "until": until, "note": note[:400]}
    record = StepRecord.objects.create(work=work, **fields, **(row or writing.also()))
    forget(work, "step_records")
    return record


def fall_back(work: Work, writing: Writing, codes: list[str]) -> None:
    """Passed steps that no longer hold are taken back, and the record says so; within the caller's transaction."""
    latest = RunSheet(work).latest
    for code in codes:
        record = latest.get(code)
        if record is not None and record.outcome in LETS_ON:
            record_step(work, writing, code, Outcome.TAKEN_BACK, note=say("The readings changed after this step was done."))


def note_work(work: Work, writing: Writing) -> None:
    """Work was recorded: the assembly is in work, state and next action follow; within the caller's transaction."""
    if not work.begun:
        begin_station(work.job, Place(work.assembly.place), writing)
    work.begun = True
    refresh(work)


def refresh(work: Work) -> None:
    """Work out state and next action of the work and its job, and save these alone: no card changes, and no version of one moves."""
    step = RunSheet(work).open_now
    if work.signed_off_at is not None:
        state, action = JobState.DONE, say("Hand over the build sheet")
    elif step is None:
        state, action = JobState.TO_SIGN, say("Sign off the work")
    else:
        state, action = (JobState.IN_WORK if work.begun else JobState.BOOKED), step.title
    work.state, work.next_action, work.updated_at = state, action.as_text(), timezone.now()
    work.save(update_fields=["state", "begun", "next_action", "updated_at", "signed_off_at", "as_left"])
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
