"""Writing at the bench: trials, readings, strike-outs; appended only."""

from __future__ import annotations

from dataclasses import asdict, dataclass
from typing import Any
from uuid import UUID

from django.db import transaction
from django.db.models import Q
from django.http import Http404

from amber_core.backlash.assess import MOST_READINGS
from amber_core.backlash.typed import Question, read_backlash
from amber_core.quantities import parse
from amber_core.words import say, together
from records.writing import Writing
from setup_bench.advice import estimate_of
from setup_bench.bench import Bench, bench_of, live
from setup_bench.models import BenchFinding, PreloadPart, Reading, StrikeOut, Trial, TrialBearings
from setup_bench.stacks import parse_stack, stored
from shared.gathering import rows_of
from shared.refusals import Conflict, Refusal
from stores.models import DrawerPlace
from stores.services import exchange
from work.services import fall_back, lock_work, note_work

FURTHEST_NOTCH = 400
FURTHEST_OFFSET_MM = 2.0
GOOD = ("in", "edge")


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
        choices = [{"label": one.label.told(), "typed": one.typed, "sure": one.sure} for one in question.choices]
        extra = {"question": {"code": question.code, "text": question.text.told(), "choices": choices}}
        super().__init__(question.text, code="question", field="typed", extra=extra)


def note_verdicts(bench: Bench, writing: Writing) -> None:
    """What the bench finds now is noted, and passed holds that no longer stand fall back; within the caller's transaction."""
    work, found = bench.work, bench.verdicts
    missing = together(one.text for one in found.missing).as_text()
    fields = ("backlash", "pattern", "missing")
    before = getattr(work, "bench_finding", None)
    noted = BenchFinding(work_id=work.pk, backlash=found.backlash, pattern=found.pattern, missing=missing)
    if before is None or any(getattr(before, name) != getattr(noted, name) for name in fields):
        BenchFinding.objects.bulk_create([noted], update_conflicts=True, unique_fields=["work"], update_fields=fields)
        work.bench_finding = noted
    stands = {"backlash": found.backlash in GOOD, "pattern": found.pattern in GOOD, "final_reading": not missing}
    fall_back(work, writing, [code for code, good in stands.items() if not good])
    note_work(work, writing)


@transaction.atomic(savepoint=False)
def begin_trial(writing: Writing, *, work_id: UUID, setting: Setting, after: int, from_drawer: bool, note: str) -> Bench:
    """Record what is in the housing now; the readings follow.

    `after` is the number of the trial it follows, 0 for the first; with `from_drawer` every shim must lie in the drawer.

    Raises
    ------
    Conflict
        When somebody else began a trial in the meantime, or took a shim.
    """
    bench = open_bench(work_id, writing)
    last = bench.trials[-1] if bench.trials else None
    if (last.number if last else 0) != after:
        raise Conflict(
            say("Somebody else has started a new trial on this job. Look at it before you change the shims."), code="newer_trial"
        )
    if setting.is_final and setting.bearings != TrialBearings.FINAL:
        raise Refusal(say("The final assembly needs the final bearings. Press the set-up bearings off first."), field="bearings")
    trial = Trial(work=bench.work, number=after + 1, note=note, **writing.row())
    trial.preload_part, trial.bearings, trial.is_final = setting.preload_part, setting.bearings, setting.is_final
    _put_in(bench, trial, last, setting, writing.length_unit)
    trial.bearing_offset_mm = _offset(bench, setting, writing.length_unit)
    if last is not None:
        _exchange(bench, last, trial, from_drawer, writing)
        trial.expected = expected_of(bench, trial)
        trial.expected_backlash_mm = trial.expected["backlash_mm"] if trial.expected else None
    trial.save(force_insert=True)
    bench = bench_of(work_id)
    note_verdicts(bench, writing)
    return bench


def _put_in(bench: Bench, trial: Trial, last: Trial | None, setting: Setting, unit: str) -> None:
    if bench.sheet.carrier_method == "adjusters":
        trial.ring_side_notches, trial.far_side_notches = _notches(setting)
    else:
        trial.ring_side_pieces = parse_stack(setting.ring_side or "", unit=unit, field="ring_side")
        trial.far_side_pieces = parse_stack(setting.far_side or "", unit=unit, field="far_side")
    if setting.depth:
        trial.depth_pieces = parse_stack(setting.depth, unit=unit, field="depth")
    elif last is not None and last.depth_pieces is not None:
        trial.depth_pieces = last.depth_pieces
    else:
        raise Refusal(say("Enter the depth shim that is in, as a stack, or none. Every move of the pinion starts from it."), field="depth")
    if setting.spacer:
        trial.spacer_pieces = parse_stack(setting.spacer, unit=unit, field="spacer")
    elif last is not None and setting.preload_part == last.preload_part:
        trial.spacer_pieces = last.spacer_pieces


def _offset(bench: Bench, setting: Setting, unit: str) -> float | None:
    """How much higher the real bearing stands than the set-up bearing that is in, [mm]: as typed, as in this work's trial before, or as on
    its sheet. It belongs to the trial, so that nothing typed here moves another job."""
    if setting.bearings != TrialBearings.SET_UP:
        return None
    if not setting.bearing_offset:
        before = (one.bearing_offset_mm for one in reversed(bench.trials) if one.bearing_offset_mm is not None)
        return next(before, bench.sheet.bearing_offset_mm)
    offset = parse(setting.bearing_offset, dimension="length", unit=unit, field="bearing_offset").value
    if abs(offset) > FURTHEST_OFFSET_MM:
        raise Refusal(
            say("The two bearings cannot differ by {offset:mm2}. Measure both again, loaded and turned.", offset=offset),
            field="bearing_offset",
        )
    return offset


def _exchange(bench: Bench, last: Trial, trial: Trial, from_drawer: bool, writing: Writing) -> None:
    """The drawers get what came out of the housing and give what went in."""
    sides = (last.ring_side_pieces or []) + (last.far_side_pieces or []), (trial.ring_side_pieces or []) + (trial.far_side_pieces or [])
    depth = (last.depth_pieces or [], trial.depth_pieces or []) if last.depth_pieces is not None else ([], [])
    spacer = (last.spacer_pieces or [], trial.spacer_pieces or []) if last.spacer_pieces is not None else ([], [])
    for place, (out, into) in ((DrawerPlace.SIDE, sides), (DrawerPlace.DEPTH, depth), (DrawerPlace.SPACER, spacer)):
        must_have = from_drawer and (place == DrawerPlace.SIDE or bench.has_drawer(place))
        if stored(out) != stored(into):
            assert bench.work.sheet_revision is not None  # no bench without a family
            family = bench.work.sheet_revision.family
            exchange(writing, family, place, give_back=stored(out), take=stored(into), must_have=must_have)


def _notches(setting: Setting) -> tuple[int, int]:
    ring, far = setting.ring_side_notches, setting.far_side_notches
    if ring is None or far is None:
        raise Refusal(
            say("Enter the position of both adjusters in whole notches from the first trial; + is inward."), field="ring_side_notches"
        )
    if max(abs(ring), abs(far)) > FURTHEST_NOTCH:
        raise Refusal(
            say("Adjuster position must be within ±{furthest_notch} notches.", furthest_notch=FURTHEST_NOTCH), field="ring_side_notches"
        )
    return ring, far


def expected_of(bench: Bench, trial: Trial) -> dict[str, Any] | None:
    """What the estimate of the trials before says of this one; None when there is no estimate, or nothing was moved."""
    question = bench.question
    if question is None or all(one.backlash is None and not one.drive and not one.coast for one in question.trials):
        return None
    found = estimate_of(question).prediction(bench.housing_of(trial, bench.trials))
    return {**asdict(found.expected), "odds": found.odds, "pinion_mm": found.pinion_mm, "ring_mm": found.ring_mm}


def open_bench(work_id: UUID, writing: Writing) -> Bench:
    """A piece of work's bench, locked to be written to.

    Raises
    ------
    NotAllowed, Http404, Conflict
        With the reason.
    """
    return bench_of(lock_work(Q(pk=work_id), writing, "record"))


def open_trial(trial_id: UUID, writing: Writing) -> tuple[Trial, Bench]:
    """A trial by its client-made id, its work locked, with the whole bench.

    Raises
    ------
    NotAllowed, Http404, Conflict
        With the reason.
    """
    bench = bench_of(lock_work(Q(trials__client_id=trial_id), writing, "record"))
    return next(one for one in bench.trials if one.client_id == trial_id), bench


def add_read(trial: Trial, name: str, row: Any) -> None:
    """Put a row that was just stored among what was read of its trial, so that the bench is not read a second time."""
    if name == "readings":
        row._state.fields_cache["strike_out"] = None  # nobody can have struck it out yet
    rows_of(trial, name).append(row)


@transaction.atomic(savepoint=False)
def record_reading(writing: Writing, *, trial_id: UUID, angle_deg: float, typed: str, sure: bool) -> Bench:
    """Take one backlash reading; a bare number is in the unit that it was written in.

    Raises
    ------
    InvalidInput, Refusal
        For what cannot be a reading.
    Asked
        For what is possible but unlikely, unless `sure`.
    """
    trial, bench = open_trial(trial_id, writing)
    standing = live(trial)
    if len(standing) >= MOST_READINGS:
        raise Refusal(
            say("This trial already has {most_readings} readings, which is enough. Strike one out first.", most_readings=MOST_READINGS),
            field="typed",
        )
    others = [one.value_mm for one in standing]
    reading = read_backlash(typed, unit=writing.length_unit, others_mm=others, sure=sure)
    if isinstance(reading, Question):
        raise Asked(reading)
    row = Reading.objects.create(
        trial=trial, angle_deg=angle_deg, value_mm=reading.value, typed=reading.text, unit=reading.unit, **writing.row()
    )
    add_read(trial, "readings", row)
    note_verdicts(bench, writing)
    return bench


@transaction.atomic(savepoint=False)
def strike_out(writing: Writing, *, reading_id: UUID, reason: str) -> Bench:
    """Strike a reading out, with a reason; it stays visible. One that is struck out already keeps the first reason."""
    trial_id = Reading.objects.filter(client_id=reading_id).values_list("trial__client_id", flat=True).first()
    if trial_id is None:
        raise Http404
    if not reason:
        raise Refusal(say("Give a reason for striking out the reading."), field="reason")
    trial, bench = open_trial(trial_id, writing)
    reading = next(one for one in trial.readings.all() if one.client_id == reading_id)
    if not hasattr(reading, "strike_out"):
        reading.strike_out = StrikeOut.objects.create(reading=reading, reason=reason, **writing.row())
        note_verdicts(bench, writing)
    return bench
