"""Writing what is read beside the backlash: conditions, patterns, torques, depth, sleeve, spacer, instruments. Appended only."""

from __future__ import annotations

from dataclasses import asdict, dataclass
from typing import Any, TypeVar
from uuid import UUID

from django.db import transaction
from django.http import Http404

from accounts.models import User
from amber_core.depth.measure import DepthReading as DepthQuestion
from amber_core.depth.measure import measure_depth
from amber_core.preload.pull import Pull, torque_from_pull
from amber_core.quantities import Typed, parse
from jobs.models import Job
from jobs.run_sheet import RunSheet
from jobs.services import open_job
from setup_bench.models import (
    Basis,
    ConditionCheck,
    DepthReading,
    InstrumentCheck,
    PatternPhoto,
    PatternReading,
    SleeveStep,
    SpacerTry,
    TorqueReading,
)
from setup_bench.preload import standing_steps
from setup_bench.question import depth_shims_mm
from setup_bench.services import open_trial
from setup_bench.stacks import parse_stack
from setup_bench.verdicts import note_verdicts
from shared.models import Record
from shared.refusals import Conflict, Refusal, TooLarge
from stores.models import Quantity

LARGEST_PHOTO_BYTES = 3 * 2**20
INSTRUMENT_OFF_MM = 0.01
_PICTURES = {b"\xff\xd8\xff": "image/jpeg", b"\x89PNG": "image/png", b"RIFF": "image/webp"}

R = TypeVar("R", bound=Record)


def _once(kind: type[R], client_id: UUID, by: User, **fields: Any) -> R:
    """Append a row, or find the one of the same id."""
    kept = kind._default_manager.filter(client_id=client_id).first()
    return kept or kind._default_manager.create(client_id=client_id, by=by, by_name=str(by), **fields)


@transaction.atomic
def confirm_conditions(*, by: User, trial_id: UUID, client_id: UUID) -> Job:
    """Somebody looked at the housing: its readings count."""
    trial, job = open_trial(trial_id, by)
    if not hasattr(trial, "conditions"):
        _once(ConditionCheck, client_id, by, trial=trial)
        note_verdicts(job, by)
    return job


@dataclass(frozen=True)
class PatchSeen:
    """A patch as it was drawn: middle, length, height [-], lean [deg], and where it runs off."""

    flank: str
    u: float
    v: float
    length: float
    height: float
    tilt_deg: float
    runs_off: list[str]
    photo: UUID | None
    photo_place: dict[str, float] | None
    note: str


@transaction.atomic
def record_pattern(*, by: User, trial_id: UUID, client_id: UUID, seen: PatchSeen) -> Job:
    """A painted patch as somebody reads it."""
    trial, job = open_trial(trial_id, by)
    photo = None
    if seen.photo is not None:
        photo = PatternPhoto.objects.filter(client_id=seen.photo, trial__job=job).first()
        if photo is None:
            raise Refusal("The photo of this pattern has not arrived: add it again.", field="photo")
    fields = {**asdict(seen), "photo": photo, "runs_off": sorted(set(seen.runs_off))}
    _once(PatternReading, client_id, by, trial=trial, **fields)
    note_verdicts(job, by)
    return job


@transaction.atomic
def add_photo(*, by: User, trial_id: UUID, client_id: UUID, flank: str, content: bytes) -> PatternPhoto:
    """Keep a picture of a painted tooth.

    Raises
    ------
    TooLarge, Refusal
        When it is no picture, or a very large one.
    """
    if len(content) > LARGEST_PHOTO_BYTES:
        raise TooLarge(
            f"The photo has {len(content) / 2**20:.0f} MB; at most {LARGEST_PHOTO_BYTES // 2**20}.", code="too_large", field="photo"
        )
    media_type = next((kind for start, kind in _PICTURES.items() if content.startswith(start)), None)
    if media_type is None:
        raise Refusal("This file is no picture: take a JPEG, PNG or WebP.", field="photo")
    trial, _ = open_trial(trial_id, by)
    return _once(PatternPhoto, client_id, by, trial=trial, flank=flank, content=content, media_type=media_type)


@dataclass(frozen=True)
class TorqueTyped:
    """A torque as it was typed: as such, or as a force on a string or lever with its radius."""

    what: str
    typed: str
    radius: str
    bearings: str
    seal: str
    seal_drag: str


@transaction.atomic
def record_torque(*, by: User, trial_id: UUID, client_id: UUID, given: TorqueTyped) -> Job:
    """The rotating torque, turning steadily."""
    trial, job = open_trial(trial_id, by)
    read, radius = _torque(given.typed, given.radius, by)
    drag = parse(given.seal_drag, dimension="torque", unit=by.torque_unit, field="seal_drag").value if given.seal_drag else None
    fields = {"what": given.what, "bearings": given.bearings, "seal": given.seal, "seal_drag_nm": drag, "radius_mm": radius}
    _once(TorqueReading, client_id, by, trial=trial, value_nm=read.value, typed=read.text, unit=read.unit, **fields)
    note_verdicts(job, by)
    return job


def _torque(typed: str, radius: str, by: User) -> tuple[Typed, float | None]:
    """A torque, and the radius it was pulled at [mm]."""
    if not radius:
        read = parse(typed, dimension="torque", unit=by.torque_unit)
        if not 0.0 <= read.value <= 500.0:
            raise Refusal(f"{read.text} would be {read.value:.1f} Nm, and no pinion turns that hard: check the unit.", field="typed")
        return read, None
    force = parse(typed, dimension="force", unit="n")
    arm = parse(radius, dimension="length", unit="mm", field="radius")
    pulled = torque_from_pull(Pull(force_n=force.value, radius_mm=arm.value)).torque_nm
    return Typed(value=pulled, number=force.number, unit=force.unit, text=force.text, bare=force.bare), arm.value


@transaction.atomic
def record_depth(*, by: User, trial_id: UUID, client_id: UUID, tool: str, given: dict[str, str]) -> Job:
    """A measured depth: typed lengths of the reading, the bar, the arbor's radius, the reference face and the pinion's mark."""
    trial, job = open_trial(trial_id, by)
    nominal = RunSheet(job).limits.get(Quantity.DEPTH)
    typed = {name: parse(text, dimension="length", unit="mm", field=name).value for name, text in given.items() if text}
    if "reading" not in typed:
        raise Refusal("Type what the depth micrometer or the tool reads.", field="reading")
    if "nominal" not in typed:
        if nominal is None or nominal.least is None:
            raise Refusal("The spec sheet gives no depth: type the nominal distance from the maker's manual.", field="nominal")
        typed["nominal"] = (nominal.least + (nominal.greatest or nominal.least)) / 2.0
    question = DepthQuestion(
        **{f"{name}_mm": value for name, value in typed.items()},
        shim_mm=depth_shims_mm(list(job.trials.with_readings()), job.family)[-1],
        shim_place=job.family.shim_place,  # type: ignore[arg-type]
    )
    found = measure_depth(question)
    if abs(found.error_mm) > 5.0:
        raise Refusal(f"That would be {found.error_mm:+.1f} mm from the right depth: check bar, arbor and reference face.", field="reading")
    fields = {"tool": tool, "question": asdict(question), "distance_mm": found.distance_mm, "error_mm": found.error_mm}
    _once(DepthReading, client_id, by, trial=trial, **fields)
    note_verdicts(job, by)
    return job


@transaction.atomic
def set_basis(*, by: User, job_id: UUID, client_id: UUID, fields: dict[str, Any], found_backlash: str) -> Job:
    """New or used set, which flank drives, and what a used set was found with."""
    job = open_job(job_id, by, "record")
    read = parse(found_backlash, dimension="length", unit=by.length_unit, field="found_backlash").value if found_backlash else None
    _once(Basis, client_id, by, job=job, found_backlash_mm=read, **fields)
    note_verdicts(job, by)
    return job


@transaction.atomic
def sleeve_step(
    *, by: User, job_id: UUID, client_id: UUID, sleeve: int, nut_turn_deg: float, typed: str, nut_torque_nm: float | None
) -> Job:
    """A step of the nut on a crush sleeve, and the rotating torque after it.

    Raises
    ------
    Refusal
        When the nut would have gone back: a sleeve goes one way.
    """
    job = open_job(job_id, by, "record")
    if SleeveStep.objects.filter(client_id=client_id).exists():
        return job
    standing = standing_steps(job)
    used = max((one.sleeve for one in job.sleeve_steps.all()), default=0)
    if sleeve not in (max(used, 1), used + 1):
        raise Conflict("Somebody else has begun another sleeve. Look at the run again.", code="newer_sleeve")
    last = next((one for one in reversed(standing) if one.sleeve == sleeve), None)
    if last is not None and nut_turn_deg <= last.nut_turn_deg:
        text = f"The last step was at {last.nut_turn_deg:g}°: the nut only goes on. Take that step back if it was mistyped."
        raise Refusal(text, field="nut_turn_deg")
    read, _ = _torque(typed, "", by)
    fields = {"rotating_torque_nm": read.value, "typed": read.text, "unit": read.unit, "nut_torque_nm": nut_torque_nm}
    _once(SleeveStep, client_id, by, job=job, sleeve=sleeve, nut_turn_deg=nut_turn_deg, **fields)
    return job


@transaction.atomic
def take_back_sleeve_step(*, by: User, job_id: UUID, client_id: UUID, step_id: UUID, reason: str) -> Job:
    """Take a mistyped step back, with a reason; both rows stay."""
    job = open_job(job_id, by, "record")
    step = job.sleeve_steps.filter(client_id=step_id, takes_back__isnull=True).first()
    if step is None:
        raise Http404
    if not reason:
        raise Refusal("Say why the step is taken back.", field="reason")
    if not hasattr(step, "taken_back_by"):
        fields = {name: getattr(step, name) for name in ("sleeve", "nut_turn_deg", "rotating_torque_nm", "typed", "unit", "nut_torque_nm")}
        _once(SleeveStep, client_id, by, job=job, takes_back=step, reason=reason, **fields)
    return job


@transaction.atomic
def spacer_try(*, by: User, job_id: UUID, client_id: UUID, stack: str, end_play: str, torque: str) -> Job:
    """A trial stack with the solid spacer."""
    job = open_job(job_id, by, "record")
    pieces = parse_stack(stack, unit=by.length_unit, field="stack")
    play = parse(end_play, dimension="length", unit=by.length_unit, field="end_play").value if end_play else None
    read = parse(torque, dimension="torque", unit=by.torque_unit, field="torque").value if torque else None
    if play is None and read is None:
        raise Refusal("Read the end play, or the rotating torque, at full nut torque.", field="end_play")
    _once(SpacerTry, client_id, by, job=job, pieces=pieces, end_play_mm=play, rotating_torque_nm=read)
    return job


@transaction.atomic
def check_instrument(*, by: User, job_id: UUID, client_id: UUID, zero: str, block: str, block_read: str, back: str) -> Job:
    """One minute before readings: zero, gauge block, back to the mark."""
    job = open_job(job_id, by, "record")
    unit = by.length_unit
    typed = {"zero": zero, "block": block, "block_read": block_read, "back": back}
    read = {name: parse(text, dimension="length", unit=unit, field=name).value for name, text in typed.items()}
    if read["block"] <= 0.0:
        raise Refusal("A gauge block is thicker than nothing.", field="block")
    off = max(abs(read["zero"]), abs(read["block_read"] - read["block"]), abs(read["back"]))
    fields = {"zero_mm": read["zero"], "block_mm": read["block"], "block_read_mm": read["block_read"], "return_mm": read["back"]}
    _once(InstrumentCheck, client_id, by, job=job, good=off <= INSTRUMENT_OFF_MM + 1e-9, **fields)
    return job


def photo(photo_id: UUID) -> PatternPhoto:
    """A picture by its id.

    Raises
    ------
    Http404
        When there is none.
    """
    found: PatternPhoto | None = PatternPhoto.objects.filter(client_id=photo_id).first()
    if found is None:
        raise Http404
    return found
