"""Writing at the bench: trials, readings, strike-outs; appended only, and a retry with the same id changes nothing."""

from __future__ import annotations

from dataclasses import asdict, dataclass
from typing import Any
from uuid import UUID

from django.db import transaction
from django.http import Http404

from accounts import policy
from accounts.models import User
from amber_core.backlash.assess import MOST_READINGS
from amber_core.backlash.typed import Question, read_backlash
from amber_core.quantities import parse
from jobs.models import Job
from jobs.services import open_job
from setup_bench.advice import estimate_of
from setup_bench.estimate import live
from setup_bench.models import PreloadPart, Reading, StrikeOut, Trial, TrialBearings
from setup_bench.question import depth_shims_mm, has_drawer, housing_of, question_of
from setup_bench.stacks import parse_stack, stored
from setup_bench.verdicts import note_verdicts
from shared.refusals import Conflict, Refusal
from stores.models import CarrierMethod, DrawerPlace
from stores.services import exchange

FURTHEST_NOTCH = 400
FURTHEST_OFFSET_MM = 2.0


@dataclass(frozen=True)
class Setting:
    """What was put into the housing: typed stacks, or adjuster positions in notches; no depth typed means that it stayed."""

    ring_side: str | None = None
    far_side: str | None = None
    ring_side_notches: int | None = None
    far_side_notches: int | None = None
    depth: str | None = None
    spacer: str | None = None
    preload_part: str = PreloadPart.NOTHING
    bearings: str = TrialBearings.FINAL
    is_final: bool = False
    bearing_offset: str | None = None


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
    before = list(job.trials.with_readings())
    last = before[-1] if before else None
    if (last.number if last else 0) != after:
        raise Conflict("Somebody else has begun a new trial on this job. Look at it before you change the housing.", code="newer_trial")
    if setting.is_final and setting.bearings != TrialBearings.FINAL:
        raise Refusal("The final assembly has the final bearings in: press the set-up bearings off first.", field="bearings")
    trial = Trial(client_id=client_id, job=job, number=after + 1, by=by, by_name=str(by), note=note)
    trial.preload_part, trial.bearings, trial.is_final = setting.preload_part, setting.bearings, setting.is_final
    _put_in(job, trial, last, setting, by.length_unit)
    _remember_offset(job, setting, by.length_unit)
    if last is not None:
        _exchange(job, last, trial, from_drawer)
        trial.expected = expected_of(job, before, trial)
        trial.expected_backlash_mm = trial.expected["backlash_mm"] if trial.expected else None
    trial.save(force_insert=True)
    note_verdicts(job, by)
    return trial


def _put_in(job: Job, trial: Trial, last: Trial | None, setting: Setting, unit: str) -> None:
    if job.family.carrier_method == CarrierMethod.ADJUSTERS:
        trial.ring_side_notches, trial.far_side_notches = _notches(setting)
    else:
        trial.ring_side_pieces = parse_stack(setting.ring_side or "", unit=unit, field="ring_side")
        trial.far_side_pieces = parse_stack(setting.far_side or "", unit=unit, field="far_side")
    if setting.depth:
        trial.depth_pieces = parse_stack(setting.depth, unit=unit, field="depth")
    elif last is not None and last.depth_pieces is not None:
        trial.depth_pieces = last.depth_pieces
    else:
        raise Refusal("Say which depth shim is in, as a stack, or none: every move of the pinion starts from it.", field="depth")
    if setting.spacer:
        trial.spacer_pieces = parse_stack(setting.spacer, unit=unit, field="spacer")
    elif last is not None and setting.preload_part == last.preload_part:
        trial.spacer_pieces = last.spacer_pieces


def _remember_offset(job: Job, setting: Setting, unit: str) -> None:
    """How much higher the family's real bearings stand than the shop's set-up ones: measured once."""
    if not setting.bearing_offset or setting.bearings != TrialBearings.SET_UP:
        return
    offset = parse(setting.bearing_offset, dimension="length", unit=unit, field="bearing_offset").value
    if abs(offset) > FURTHEST_OFFSET_MM:
        raise Refusal(f"The two bearings differ by {offset:.2f} mm? Measure both again, loaded and turned.", field="bearing_offset")
    job.family.bearing_offset_mm = offset
    job.family.save(update_fields=["bearing_offset_mm"])


def _exchange(job: Job, last: Trial, trial: Trial, from_drawer: bool) -> None:
    """The drawers get what came out of the housing and give what went in."""
    sides = (last.ring_side_pieces or []) + (last.far_side_pieces or []), (trial.ring_side_pieces or []) + (trial.far_side_pieces or [])
    depth = (last.depth_pieces or [], trial.depth_pieces or []) if last.depth_pieces is not None else ([], [])
    spacer = (last.spacer_pieces or [], trial.spacer_pieces or []) if last.spacer_pieces is not None else ([], [])
    for place, (out, into) in ((DrawerPlace.SIDE, sides), (DrawerPlace.DEPTH, depth), (DrawerPlace.SPACER, spacer)):
        must_have = from_drawer and (place == DrawerPlace.SIDE or has_drawer(job.family, place))
        if stored(out) != stored(into):
            exchange(job.family, place, give_back=stored(out), take=stored(into), must_have=must_have)


def _notches(setting: Setting) -> tuple[int, int]:
    ring, far = setting.ring_side_notches, setting.far_side_notches
    if ring is None or far is None:
        raise Refusal("Give both adjusters' positions in whole notches from the first trial, + = in.", field="ring_side_notches")
    if max(abs(ring), abs(far)) > FURTHEST_NOTCH:
        raise Refusal(f"No adjuster turns more than {FURTHEST_NOTCH} notches.", field="ring_side_notches")
    return ring, far


def expected_of(job: Job, before: list[Trial], trial: Trial) -> dict[str, Any] | None:
    """What the estimate of the trials before says of this one; None when there is no estimate, or nothing was moved."""
    question = question_of(job, before)
    if question is None or all(one.backlash is None and one.drive is None and one.coast is None for one in question.trials):
        return None
    shim = depth_shims_mm([*before, trial], job.family, bearings=before[-1].bearings)[-1]
    found = estimate_of(question).prediction(housing_of(trial, shim))
    return {**asdict(found.expected), "odds": found.odds, "pinion_mm": found.pinion_mm, "ring_mm": found.ring_mm}


def open_trial(trial_id: UUID, by: User) -> tuple[Trial, Job]:
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
    trial, job = open_trial(trial_id, by)
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
    trial, job = open_trial(reading.trial.client_id, by)
    if StrikeOut.objects.filter(reading=reading).exists():
        return trial
    StrikeOut.objects.create(client_id=client_id, reading=reading, by=by, by_name=str(by), reason=reason)
    return _judged(trial.client_id, job, by)


def _judged(trial_id: UUID, job: Job, by: User) -> Trial:
    """The trial read anew, what it shows noted on the job."""
    note_verdicts(job, by)
    return job.trials.with_readings().get(client_id=trial_id)
