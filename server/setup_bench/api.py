"""The set-up bench: every write answers with the whole bench, so that the screen never guesses."""

from __future__ import annotations

from typing import Annotated, Any
from uuid import UUID

from django.http import HttpRequest, HttpResponse
from ninja import File, Form, Query, Router, UploadedFile
from pydantic import Field

from amber_core.errors import InvalidInput
from amber_core.quantities import parse
from jobs.models import Job
from setup_bench import recording, services
from setup_bench.advice_out import advice_out, contact_out, preview_out
from setup_bench.advice_out import odds_kept as kept_odds
from setup_bench.present import bench_out
from setup_bench.question import bench_job
from setup_bench.schemas import (
    AdviceOut,
    BasisIn,
    BenchOut,
    ConditionsIn,
    ContactOut,
    DepthIn,
    FlankName,
    InstrumentCheckIn,
    OddsKeptOut,
    PatchIn,
    PatternIn,
    PhotoOut,
    PreviewOut,
    ReadingIn,
    SleeveStepIn,
    SpacerTryIn,
    StrikeOutIn,
    TorqueIn,
    TrialIn,
    TypedLengthOut,
)
from shared.refusals import Refusal
from shared.schemas import ErrorOut

_NO_ESTIMATE = "There is no estimate yet: identify the gear set and begin a trial."
Place = Annotated[float, Field(ge=-1.0, le=1.0, allow_inf_nan=False)]

router = Router(tags=["setup_bench"])

_REFUSALS = {403: ErrorOut, 404: ErrorOut, 409: ErrorOut, 422: ErrorOut}


@router.get("/jobs/{uuid:job_id}/bench", response={200: BenchOut, 404: ErrorOut, 422: ErrorOut}, operation_id="bench")
def bench(request: HttpRequest, job_id: UUID) -> dict[str, Any]:
    """The bench of a job."""
    return bench_out(bench_job(job_id))


@router.post("/jobs/{uuid:job_id}/trials", response={201: BenchOut, **_REFUSALS}, operation_id="trial_begin")
def trial_begin(request: HttpRequest, job_id: UUID, data: TrialIn) -> tuple[int, dict[str, Any]]:
    """What stands in the housing now."""
    plain = data.dict(exclude={"client_id", "after", "from_drawer", "note"})
    setting = services.Setting(**plain)
    services.begin_trial(
        by=request.user,  # type: ignore[arg-type]
        job_id=job_id,
        client_id=data.client_id,
        setting=setting,
        after=data.after,
        from_drawer=data.from_drawer,
        note=data.note,
    )
    return 201, bench_out(bench_job(job_id))


@router.post("/trials/{uuid:trial_id}/readings", response={201: BenchOut, **_REFUSALS}, operation_id="reading_record")
def reading_record(request: HttpRequest, trial_id: UUID, data: ReadingIn) -> tuple[int, dict[str, Any]]:
    """One reading; 422 with a question when it is possible but unlikely."""
    trial = services.record_reading(by=request.user, trial_id=trial_id, **data.dict())  # type: ignore[arg-type]
    return 201, bench_out(bench_job(trial.job_id))


@router.post("/readings/{uuid:reading_id}/strike-out", response={201: BenchOut, **_REFUSALS}, operation_id="reading_strike_out")
def reading_strike_out(request: HttpRequest, reading_id: UUID, data: StrikeOutIn) -> tuple[int, dict[str, Any]]:
    """Strike a reading out."""
    trial = services.strike_out(by=request.user, reading_id=reading_id, **data.dict())  # type: ignore[arg-type]
    return 201, bench_out(bench_job(trial.job_id))


def _after(job: Job) -> tuple[int, dict[str, Any]]:
    return 201, bench_out(bench_job(job.pk))


@router.get("/jobs/{uuid:job_id}/advice", response={200: AdviceOut, 404: ErrorOut, 422: ErrorOut}, operation_id="advice")
def advice(request: HttpRequest, job_id: UUID) -> dict[str, Any]:
    """The next move with its odds, and the map of the set-up."""
    return advice_out(bench_job(job_id))


@router.get("/jobs/{uuid:job_id}/contact", response={200: ContactOut, 404: ErrorOut, 422: ErrorOut}, operation_id="contact")
def contact(request: HttpRequest, job_id: UUID, pinion_mm: Place | None = None, ring_mm: Place | None = None) -> dict[str, Any]:
    """The patterns that this set would show at a place of the map; without one, where the last trial is thought to stand."""
    found = contact_out(bench_job(job_id), pinion_mm=pinion_mm, ring_mm=ring_mm)
    if found is None:
        raise Refusal(_NO_ESTIMATE, code="not_ready")
    return found


@router.post("/jobs/{uuid:job_id}/patch-preview", response={200: PreviewOut, 404: ErrorOut, 422: ErrorOut}, operation_id="patch_preview")
def patch_preview(request: HttpRequest, job_id: UUID, data: PatchIn) -> dict[str, Any]:
    """What a patch would say, while it is drawn; nothing is kept."""
    found = preview_out(bench_job(job_id), **data.dict())
    if found is None:
        raise Refusal(_NO_ESTIMATE, code="not_ready")
    return found


@router.get("/odds-kept", response=list[OddsKeptOut], operation_id="odds_kept")
def odds_kept(request: HttpRequest) -> list[dict[str, Any]]:
    """What the odds of this shop's moves were worth."""
    return kept_odds()


@router.post("/trials/{uuid:trial_id}/conditions", response={201: BenchOut, **_REFUSALS}, operation_id="conditions_confirm")
def conditions_confirm(request: HttpRequest, trial_id: UUID, data: ConditionsIn) -> tuple[int, dict[str, Any]]:
    """The housing was looked at; its readings count."""
    return _after(recording.confirm_conditions(by=request.user, trial_id=trial_id, client_id=data.client_id))  # type: ignore[arg-type]


@router.post("/trials/{uuid:trial_id}/patterns", response={201: BenchOut, **_REFUSALS}, operation_id="pattern_record")
def pattern_record(request: HttpRequest, trial_id: UUID, data: PatternIn) -> tuple[int, dict[str, Any]]:
    """A painted patch as it was read."""
    seen = recording.PatchSeen(**data.dict(exclude={"client_id"}))
    return _after(recording.record_pattern(by=request.user, trial_id=trial_id, client_id=data.client_id, seen=seen))  # type: ignore[arg-type]


@router.post("/trials/{uuid:trial_id}/photos", response={201: PhotoOut, 413: ErrorOut, **_REFUSALS}, operation_id="photo_add")
def photo_add(
    request: HttpRequest, trial_id: UUID, flank: Form[FlankName], client_id: Form[UUID], file: File[UploadedFile]
) -> tuple[int, dict[str, Any]]:
    """A picture of a painted tooth."""
    content = file.read(recording.LARGEST_PHOTO_BYTES + 1)
    kept = recording.add_photo(by=request.user, trial_id=trial_id, client_id=client_id, flank=flank, content=content)  # type: ignore[arg-type]
    return 201, {"id": kept.client_id}


@router.get("/photos/{uuid:photo_id}", operation_id="photo", include_in_schema=False)
def photo(request: HttpRequest, photo_id: UUID) -> HttpResponse:
    """The picture itself; it never changes."""
    kept = recording.photo(photo_id)
    headers = {"Cache-Control": "private, max-age=31536000, immutable", "X-Content-Type-Options": "nosniff"}
    return HttpResponse(bytes(kept.content), content_type=kept.media_type, headers=headers)


@router.post("/trials/{uuid:trial_id}/torques", response={201: BenchOut, **_REFUSALS}, operation_id="torque_record")
def torque_record(request: HttpRequest, trial_id: UUID, data: TorqueIn) -> tuple[int, dict[str, Any]]:
    """A rotating torque."""
    given = recording.TorqueTyped(**data.dict(exclude={"client_id"}))
    return _after(recording.record_torque(by=request.user, trial_id=trial_id, client_id=data.client_id, given=given))  # type: ignore[arg-type]


@router.post("/trials/{uuid:trial_id}/depths", response={201: BenchOut, **_REFUSALS}, operation_id="depth_record")
def depth_record(request: HttpRequest, trial_id: UUID, data: DepthIn) -> tuple[int, dict[str, Any]]:
    """A measured depth."""
    given = data.dict(exclude={"client_id", "tool"})
    job = recording.record_depth(by=request.user, trial_id=trial_id, client_id=data.client_id, tool=data.tool, given=given)  # type: ignore[arg-type]
    return _after(job)


@router.post("/jobs/{uuid:job_id}/basis", response={201: BenchOut, **_REFUSALS}, operation_id="basis_set")
def basis_set(request: HttpRequest, job_id: UUID, data: BasisIn) -> tuple[int, dict[str, Any]]:
    """New or used set, the driving flank, and what a used set was found with."""
    fields = data.dict(exclude={"client_id", "found_backlash"})
    found = data.found_backlash
    return _after(recording.set_basis(by=request.user, job_id=job_id, client_id=data.client_id, fields=fields, found_backlash=found))  # type: ignore[arg-type]


@router.post("/jobs/{uuid:job_id}/sleeve-steps", response={201: BenchOut, **_REFUSALS}, operation_id="sleeve_step_record")
def sleeve_step_record(request: HttpRequest, job_id: UUID, data: SleeveStepIn) -> tuple[int, dict[str, Any]]:
    """A step of the nut on a crush sleeve."""
    return _after(recording.sleeve_step(by=request.user, job_id=job_id, **data.dict()))  # type: ignore[arg-type]


@router.post(
    "/jobs/{uuid:job_id}/sleeve-steps/{uuid:step_id}/take-back", response={201: BenchOut, **_REFUSALS}, operation_id="sleeve_step_take_back"
)
def sleeve_step_take_back(request: HttpRequest, job_id: UUID, step_id: UUID, data: StrikeOutIn) -> tuple[int, dict[str, Any]]:
    """A mistyped step."""
    job = recording.take_back_sleeve_step(by=request.user, job_id=job_id, step_id=step_id, **data.dict())  # type: ignore[arg-type]
    return _after(job)


@router.post("/jobs/{uuid:job_id}/spacer-tries", response={201: BenchOut, **_REFUSALS}, operation_id="spacer_try_record")
def spacer_try_record(request: HttpRequest, job_id: UUID, data: SpacerTryIn) -> tuple[int, dict[str, Any]]:
    """A trial stack with the solid spacer."""
    return _after(recording.spacer_try(by=request.user, job_id=job_id, **data.dict()))  # type: ignore[arg-type]


@router.post("/jobs/{uuid:job_id}/instrument-checks", response={201: BenchOut, **_REFUSALS}, operation_id="instrument_check")
def instrument_check(request: HttpRequest, job_id: UUID, data: InstrumentCheckIn) -> tuple[int, dict[str, Any]]:
    """Zero, gauge block, back to the mark."""
    return _after(recording.check_instrument(by=request.user, job_id=job_id, **data.dict()))  # type: ignore[arg-type]


@router.get("/typed-length", response=TypedLengthOut, operation_id="typed_length")
def typed_length(request: HttpRequest, typed: Annotated[str, Query(max_length=200)]) -> dict[str, Any]:
    """What a text in the strip would be, while it is typed."""
    try:
        return {"value_mm": parse(typed, dimension="length", unit=request.user.length_unit).value}  # type: ignore[union-attr]
    except InvalidInput:
        return {"value_mm": None}
