"""Writing at the bench: trials, readings, strike-outs; appended only, and a retry with the same id changes nothing."""

from __future__ import annotations

from dataclasses import dataclass
from uuid import UUID

from django.db import transaction
from django.http import Http404

from accounts import policy
from accounts.models import User
from amber_core.backlash.assess import MOST_READINGS
from amber_core.backlash.typed import Question, read_backlash
from jobs.models import Job
from jobs.services import note_backlash, open_job
from setup_bench.estimate import assess, geometry_of, live, ring_move_mm, window_of
from setup_bench.models import Reading, StrikeOut, Trial
from setup_bench.stacks import parse_stack, stored
from shared.refusals import Conflict, Refusal
from stores.models import CarrierMethod
from stores.services import exchange

FURTHEST_NOTCH = 400


@dataclass(frozen=True)
class Setting:
    """What was put into the housing: typed stacks, or adjuster positions in notches."""

    ring_side: str | None
    far_side: str | None
    ring_side_notches: int | None
    far_side_notches: int | None


class Asked(Refusal):
    """Not taken yet: the reading is possible but unlikely."""

    def __init__(self, question: Question) -> None:
        choices = [{"label": one.label, "typed": one.typed, "sure": one.sure} for one in question.choices]
        extra = {"question": {"code": question.code, "text": question.text, "choices": choices}}
        super().__init__(question.text, code="question", field="typed", extra=extra)


@transaction.atomic
def begin_trial(*, by: User, job_id: UUID, client_id: UUID, setting: Setting, after: int, from_drawer: bool, note: str) -> Trial:
    """Record what stands in the housing now; the readings follow.

    `after` is the number of the trial it follows, 0 for the first; with `from_drawer` every shim must lie in the drawer.

    Raises
    ------
    Conflict
        When somebody else began a trial in the meantime, or took a shim.
    """
    job = open_job(job_id, by, "record")
    if (kept := Trial.objects.filter(client_id=client_id).first()) is not None:
        return kept
    last = job.trials.with_readings().last()
    if (last.number if last else 0) != after:
        raise Conflict("Somebody else has begun a new trial on this job. Look at it before you change the housing.", code="newer_trial")
    trial = Trial(client_id=client_id, job=job, number=after + 1, by=by, by_name=str(by), note=note)
    if job.family.carrier_method == CarrierMethod.ADJUSTERS:
        trial.ring_side_notches, trial.far_side_notches = _notches(setting)
    else:
        trial.ring_side_pieces = parse_stack(setting.ring_side or "", unit=by.length_unit, field="ring_side")
        trial.far_side_pieces = parse_stack(setting.far_side or "", unit=by.length_unit, field="far_side")
        if last is not None:
            exchange(
                job.family,
                give_back=stored(last.ring_side_pieces) + stored(last.far_side_pieces),
                take=trial.ring_side_pieces + trial.far_side_pieces,
                must_have=from_drawer,
            )
    if last is not None:
        trial.expected_backlash_mm = _expected(job, last, trial)
    trial.save(force_insert=True)
    note_backlash(job, by, "unknown")
    return trial


def _notches(setting: Setting) -> tuple[int, int]:
    ring, far = setting.ring_side_notches, setting.far_side_notches
    if ring is None or far is None:
        raise Refusal("Give both adjusters' positions in whole notches from the first trial, + = in.", field="ring_side_notches")
    if max(abs(ring), abs(far)) > FURTHEST_NOTCH:
        raise Refusal(f"No adjuster turns more than {FURTHEST_NOTCH} notches.", field="ring_side_notches")
    return ring, far


def _expected(job: Job, before: Trial, after: Trial) -> float | None:
    geometry = geometry_of(job)
    verdict = assess(before, window_of(job.family), geometry)
    if geometry is None or verdict is None:
        return None
    return verdict.mean_mm + geometry.backlash_per_ring_move * ring_move_mm(job.family, before, after)


def _trial(trial_id: UUID, by: User) -> tuple[Trial, Job]:
    """A trial by its client-made id, its job locked."""
    policy.require(by, "record")
    found = Trial.objects.filter(client_id=trial_id).values_list("job_id", flat=True).first()
    if found is None:
        raise Http404
    job = open_job(found, by, "record")
    return job.trials.with_readings().get(client_id=trial_id), job


@transaction.atomic
def record_reading(*, by: User, trial_id: UUID, client_id: UUID, angle_deg: float, typed: str, sure: bool) -> Trial:
    """Take one backlash reading.

    Raises
    ------
    InvalidInput, Refusal
        For what cannot be a reading.
    Asked
        For what is possible but unlikely, unless `sure`.
    """
    trial, job = _trial(trial_id, by)
    if any(reading.client_id == client_id for reading in trial.readings.all()):
        return trial
    standing = live(trial)
    if len(standing) >= MOST_READINGS:
        raise Refusal(f"This trial has {MOST_READINGS} readings, more than a ring needs. Strike one out first.", field="typed")
    others = [one.value_mm for one in standing]
    reading = read_backlash(typed, unit=by.length_unit, others_mm=others, sure=sure)
    if isinstance(reading, Question):
        raise Asked(reading)
    Reading.objects.create(
        client_id=client_id,
        trial=trial,
        by=by,
        by_name=str(by),
        angle_deg=angle_deg,
        value_mm=reading.value,
        typed=reading.text,
        unit=reading.unit,
    )
    return _judged(trial.client_id, job, by)


@transaction.atomic
def strike_out(*, by: User, reading_id: UUID, client_id: UUID, reason: str) -> Trial:
    """Strike a reading out, with a reason; it stays visible."""
    policy.require(by, "record")
    reading = Reading.objects.select_related("trial").filter(client_id=reading_id).first()
    if reading is None:
        raise Http404
    if not reason:
        raise Refusal("Say why the reading is struck out.", field="reason")
    trial, job = _trial(reading.trial.client_id, by)
    if StrikeOut.objects.filter(reading=reading).exists():
        return trial
    StrikeOut.objects.create(client_id=client_id, reading=reading, by=by, by_name=str(by), reason=reason)
    return _judged(trial.client_id, job, by)


def _judged(trial_id: UUID, job: Job, by: User) -> Trial:
    """The trial read anew, its verdict noted on the job if it is the last one."""
    trial = job.trials.with_readings().get(client_id=trial_id)
    if trial.number == job.trials.count():
        verdict = assess(trial, window_of(job.family), geometry_of(job))
        note_backlash(job, by, verdict.verdict if verdict else "unknown")
    return trial
