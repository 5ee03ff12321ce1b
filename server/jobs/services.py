"""Changing a visit: its card, the map, what is known of both ends of the vehicle."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date
from typing import Any
from uuid import UUID

from django.db import connection, transaction
from django.http import Http404
from django.utils import timezone

from accounts import policy
from accounts.policy import Action
from amber_core.tyres.designation import TyreText, parse_tyre
from amber_core.tyres.rollout import RollOut, roll_out
from amber_core.words import Said, say
from jobs.models import AxleFact, Job, JobState, Station, StationRecord, StationState, WaitsFor
from records.writing import Writing
from shared.refusals import Conflict, Refusal
from shared.scope import EVERY, in_shop
from vehicles.models import AXLE_OF, PLACES, AxleEnd, Place, Vehicle, has_place
from vehicles.services import change

_NUMBERS_LOCK = 0x616D6265  # two numbers are never chosen at once


@dataclass(frozen=True)
class CardGiven:
    """What somebody writes on the card of a visit."""

    customer: str
    complaint: str
    use: str
    use_note: str
    promised_on: date | None = None


def open_job(job_id: UUID, writing: Writing, action: Action) -> Job:
    """The job, locked for this transaction, if this person may and it is not signed off.

    Raises
    ------
    NotAllowed, Http404, Conflict
        With the reason.
    """
    policy.require(writing.by, action)
    job = Job.objects.select_for_update(of=("self",)).select_related("vehicle").filter(pk=job_id).first()
    if job is None:
        raise Http404
    if job.signed_off_at is not None:
        raise Conflict(say("This job is signed off. A foreman can take back the sign-off, with a reason."), code="signed_off")
    return job


def next_number() -> int:
    """The next job number, from a sequence; numbers that imported jobs brought with them are stepped over."""
    lock_numbers()
    with connection.cursor() as cursor:
        while True:
            cursor.execute("SELECT nextval('jobs_job_number')")
            number = int(cursor.fetchone()[0])
            if not number_in_use(number):
                return number


def number_in_use(number: int) -> bool:
    """Whether a job of any workshop of the installation has it."""
    with in_shop(EVERY):
        return bool(Job.objects.filter(number=number).exists())


def lock_numbers() -> None:
    """Nobody else chooses a job number until the transaction ends."""
    with connection.cursor() as cursor:
        cursor.execute("SELECT pg_advisory_xact_lock(%s)", (_NUMBERS_LOCK,))


def make_job(writing: Writing, *, job_id: UUID, vehicle: Vehicle, given: CardGiven) -> Job:
    """A visit with its map; within the caller's transaction."""
    job = Job(pk=job_id, number=next_number(), vehicle=vehicle, created_by=writing.by, created_by_name=str(writing.by), next_action="")
    for name in ("customer", "complaint", "use", "use_note", "promised_on"):
        setattr(job, name, getattr(given, name))
    job.search = job.searched
    job.save(force_insert=True)
    Station.objects.bulk_create(Station(job=job, place=place) for place in PLACES[vehicle.layout])
    return job


@transaction.atomic
def edit_job(writing: Writing, *, job_id: UUID, version: int, changes: dict[str, Any]) -> Job:
    """Change the card, if nobody else has since it was read.

    Raises
    ------
    Conflict
        When the version has moved on; the caller shows both.
    """
    job = open_job(job_id, writing, "edit_job")
    if job.version != version:
        raise Conflict(say("Somebody else changed this job while you were editing it. Choose which version to keep."), code="conflict")
    named = {"vehicle": "name", "layout": "layout", "registration": "registration"}
    of_vehicle = {named[name]: changes.pop(name) for name in list(changes) if name in named}
    _keep_work_places(job, of_vehicle.get("layout"))
    for field, value in changes.items():
        setattr(job, field, value)
    vehicle = Vehicle.objects.select_for_update().get(pk=job.vehicle_id)
    change(vehicle, of_vehicle)
    job.vehicle = vehicle
    _fit_stations(job)
    job.search = job.searched
    job.version += 1
    job.save()
    settle(job)
    return job


def _keep_work_places(job: Job, layout: str | None) -> None:
    if layout is None:
        return
    for work in job.works.select_related("assembly"):
        if not has_place(layout, work.assembly.place):
            raise Refusal(say("Work is booked on an assembly that this kind of vehicle does not have."), field="layout")


def _fit_stations(job: Job) -> None:
    wanted = PLACES[job.vehicle.layout]
    present = set(job.stations.values_list("place", flat=True))
    Station.objects.bulk_create(Station(job=job, place=place) for place in wanted if place not in present)
    job.stations.exclude(place__in=wanted).delete()


@transaction.atomic
def set_station(writing: Writing, *, job_id: UUID, place: str, state: str, note: str, version: int) -> Job:
    """Say how a part of the driveline was found; what was said before stays on the record.

    Raises
    ------
    Conflict
        When somebody else said something of it since it was read.
    """
    job = open_job(job_id, writing, "record")
    station = job.stations.select_for_update().filter(place=place).first()
    if station is None:
        raise Refusal(say("This part is not on the vehicle's map."), code="not_found", field="place")
    if station.version != version:
        raise Conflict(say("Somebody else has just recorded this part. Look at it before you change it."), code="conflict")
    say_station(station, state, note, writing.row())
    return job


def say_station(station: Station, state: str, note: str, row: dict[str, Any]) -> None:
    """Set a station and keep the record of it; within the caller's transaction."""
    station.state, station.note, station.version = state, note, station.version + 1
    station.save()
    StationRecord.objects.create(job_id=station.job_id, place=station.place, state=state, note=note, **row)


def find_station(job: Job, place: str, state: str, writing: Writing, *, only: str | None = None) -> None:
    """A part's state follows from work on it: set when it is another, and, with `only`, when it was that; within the transaction."""
    station = next((one for one in job.stations.all() if one.place == place), None)
    if station is not None and station.state != state and only in (None, station.state):
        say_station(station, state, station.note, writing.also())


def begin_station(job: Job, place: Place, writing: Writing) -> None:
    """Work on a part was begun."""
    find_station(job, place, StationState.IN_WORK, writing, only=StationState.NOT_LOOKED_AT)


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
def record_axle_fact(writing: Writing, *, job_id: UUID, given: EndGiven, follows: bool = False) -> Job:
    """What is known of one end of the vehicle; `follows` for a further row of the same write.

    Raises
    ------
    Refusal
        When the tyre cannot be read, or only one of the tooth counts is given.
    """
    job = open_job(job_id, writing, "edit_job")
    if AXLE_OF[AxleEnd(given.end)] not in PLACES[job.vehicle.layout]:
        raise Refusal(say("A rear-wheel-drive vehicle has no driven front axle."), field="end")
    if (given.pinion_teeth is None) != (given.ring_teeth is None):
        raise Refusal(say("Enter both tooth counts, or neither."), field="pinion_teeth")
    if given.pinion_teeth is not None and given.ring_teeth is not None and given.ring_teeth <= given.pinion_teeth:
        raise Refusal(say("The ring gear must have more teeth than the pinion."), field="ring_teeth")
    around, measured = None, given.rollout_mm is not None
    if given.tyre.strip():
        tyre = parse_tyre(TyreText(text=given.tyre, rollout_mm=given.rollout_mm, turns=given.turns))
        if not tyre.valid:
            raise Refusal(tyre.reasons[0].text, field="tyre")
        around = tyre.circumference_m
    elif given.rollout_mm is not None:
        around = roll_out(RollOut(rollout_mm=given.rollout_mm, turns=given.turns)).circumference_m
    if around is not None and not 0.3 <= around <= 12.0:
        raise Refusal(
            say(
                "That would be {around:.2f} m for one turn of the wheel. A tyre rolls 0.3 to 12 m: check the unit and the turns.",
                around=around,
            ),
            field="rollout_mm",
        )
    teeth = {"pinion_teeth": given.pinion_teeth, "ring_teeth": given.ring_teeth}
    fields = {"end": given.end, "tyre": given.tyre.strip(), "circumference_m": around, "measured": measured, **teeth}
    AxleFact.objects.create(job=job, **fields, **(writing.also() if follows else writing.row()))
    touch(job)
    return job


def wait_begins(job: Job, waits_for: str, note: str) -> None:
    """The job waits for something, and says what lies where; within the caller's transaction, which settles it."""
    job.waits_for, job.waits_note = waits_for, note[:200]
    job.save(update_fields=["waits_for", "waits_note"])


def wait_over(job: Job) -> None:
    """What the job waited for is there; within the caller's transaction, which settles it."""
    wait_begins(job, WaitsFor.NOTHING, "")


def touch(job: Job) -> None:
    """Something was recorded on the job: it moves up on the Floor. Its card's version stays."""
    job.updated_at = timezone.now()
    job.save(update_fields=["updated_at"])


def settle(job: Job) -> None:
    """State and next action out of the pieces of work; saves these alone. Within the caller's transaction."""
    works = sorted(job.works.all(), key=lambda one: (one.floor_order, one.number))
    unsigned = [one for one in works if one.signed_off_at is None]
    job.signed_off_at = max((one.signed_off_at for one in works if one.signed_off_at), default=None) if not unsigned else None
    if job.signed_off_at is not None:
        state, action = JobState.DONE, say("Hand over the build sheet")
    elif not works:
        state, action = JobState.BOOKED, say("Add a piece of work")
    else:
        first = min(unsigned, key=lambda one: (one.state != JobState.IN_WORK, one.number))
        everything = all(one.state in (JobState.TO_SIGN, JobState.DONE) for one in works)
        begun = any(one.state != JobState.BOOKED for one in works)
        state = JobState.TO_SIGN if everything else JobState.IN_WORK if begun else JobState.BOOKED
        action = Said.of(first.next_action)
        if len(works) > 1:
            action = say("{place}: {action}", place=first.assembly.get_place_display(), action=action)
        if job.waits_for != WaitsFor.NOTHING and state != JobState.TO_SIGN:
            state = JobState.WAITING
    job.put_in_state(state)
    job.next_action = action.as_text()
    job.updated_at = timezone.now()
    job.save(update_fields=["state", "floor_order", "next_action", "updated_at", "signed_off_at"])
