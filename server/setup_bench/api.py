"""The set-up bench: every write answers with the whole bench, so that the screen never guesses."""

from __future__ import annotations

from collections.abc import Callable
from typing import Annotated, Any
from uuid import UUID

from django.http import Http404, HttpRequest, HttpResponse
from ninja import File, Form, Query, Router, UploadedFile
from pydantic import Field

from amber_core.errors import InvalidInput
from amber_core.quantities import parse
from amber_core.words import say
from records.writing import Writing, bringing, file_hash, write
from setup_bench import recording, services
from setup_bench.advice_out import advice_out, contact_out, preview_out
from setup_bench.advice_out import odds_kept as kept_odds
from setup_bench.bench import Bench, bench_of
from setup_bench.kept import bench_answer
from setup_bench.models import PatternPhoto, Reading, Trial
from setup_bench.present import bench_out
from setup_bench.schemas import (
    AdviceOut,
    BasisIn,
    BenchOut,
    ConditionsIn,
    ContactOut,
    DepthIn,
    InstrumentCheckIn,
    OddsKeptOut,
    PatchIn,
    PatternIn,
    PhotoIn,
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
from shared.pictures import LARGEST_BYTES, kept_picture, picture_in
from shared.refusals import Refusal
from shared.schemas import ErrorOut, Written

_NO_ESTIMATE = say("There is no estimate yet. Identify the gear set and start a trial.")
Place = Annotated[float, Field(ge=-1.0, le=1.0, allow_inf_nan=False)]

router = Router(tags=["setup_bench"])

_REFUSALS = {403: ErrorOut, 404: ErrorOut, 409: ErrorOut, 422: ErrorOut}


def _written(
    request: HttpRequest, data: Written, command: str, target: UUID, do: Callable[[Writing], Bench], work_of: Callable[[], UUID]
) -> HttpResponse:
    """A write of the bench, answered with the bench as it is then."""
    done, bench = bringing(do, lambda: bench_of(work_of()))
    return write(request, data, command=command, target=target, do=done, show=lambda: bench_out(bench()), out=BenchOut)


def _work_of_trial(trial_id: UUID) -> UUID:
    found = Trial.objects.filter(client_id=trial_id).values_list("work_id", flat=True).first()
    if found is None:
        raise Http404
    return found


def _work_of_reading(reading_id: UUID) -> UUID:
    found = Reading.objects.filter(client_id=reading_id).values_list("trial__work_id", flat=True).first()
    if found is None:
        raise Http404
    return found


@router.get("/work/{uuid:work_id}/bench", response={200: BenchOut, 404: ErrorOut}, operation_id="bench")
def bench(request: HttpRequest, work_id: UUID) -> HttpResponse:
    """The bench of a piece of work."""
    return bench_answer(work_id)


@router.post("/work/{uuid:work_id}/trials", response={201: BenchOut, **_REFUSALS}, operation_id="trial_begin")
def trial_begin(request: HttpRequest, work_id: UUID, data: TrialIn) -> HttpResponse:
    """What is in the housing now."""
    setting = services.Setting(**data.fields("after", "from_drawer", "note"))
    more: dict[str, Any] = {"after": data.after, "from_drawer": data.from_drawer, "note": data.note}
    return _written(
        request,
        data,
        "trial_begin",
        work_id,
        lambda writing: services.begin_trial(writing, work_id=work_id, setting=setting, **more),
        lambda: work_id,
    )


@router.post("/trials/{uuid:trial_id}/readings", response={201: BenchOut, **_REFUSALS}, operation_id="reading_record")
def reading_record(request: HttpRequest, trial_id: UUID, data: ReadingIn) -> HttpResponse:
    """One reading; 422 with a question when it is possible but unlikely."""
    return _of_trial(request, trial_id, data, "reading_record", services.record_reading)


def _of_trial(request: HttpRequest, trial_id: UUID, data: Written, command: str, do: Callable[..., Bench], **given: Any) -> HttpResponse:
    """A write to a trial."""
    fields = given or data.fields()
    return _written(
        request, data, command, trial_id, lambda writing: do(writing, trial_id=trial_id, **fields), lambda: _work_of_trial(trial_id)
    )


def _of_work(request: HttpRequest, work_id: UUID, data: Written, command: str, do: Callable[..., Bench], **given: Any) -> HttpResponse:
    """A write to a piece of work."""
    fields = given or data.fields()
    return _written(request, data, command, work_id, lambda writing: do(writing, work_id=work_id, **fields), lambda: work_id)


@router.post("/readings/{uuid:reading_id}/strike-out", response={201: BenchOut, **_REFUSALS}, operation_id="reading_strike_out")
def reading_strike_out(request: HttpRequest, reading_id: UUID, data: StrikeOutIn) -> HttpResponse:
    """Strike a reading out."""
    return _written(
        request,
        data,
        "reading_strike_out",
        reading_id,
        lambda writing: services.strike_out(writing, reading_id=reading_id, reason=data.reason),
        lambda: _work_of_reading(reading_id),
    )


@router.get("/work/{uuid:work_id}/advice", response={200: AdviceOut, 404: ErrorOut, 422: ErrorOut}, operation_id="advice")
def advice(request: HttpRequest, work_id: UUID) -> dict[str, Any]:
    """The next move with its odds, and the map of the set-up."""
    return advice_out(bench_of(work_id))


@router.get("/work/{uuid:work_id}/contact", response={200: ContactOut, 404: ErrorOut, 422: ErrorOut}, operation_id="contact")
def contact(request: HttpRequest, work_id: UUID, pinion_mm: Place | None = None, ring_mm: Place | None = None) -> dict[str, Any]:
    """The patterns that this set would show at a place of the map; without one, where the last trial is thought to stand."""
    found = contact_out(bench_of(work_id), pinion_mm=pinion_mm, ring_mm=ring_mm)
    if found is None:
        raise Refusal(_NO_ESTIMATE, code="not_ready")
    return found


@router.post("/work/{uuid:work_id}/patch-preview", response={200: PreviewOut, 404: ErrorOut, 422: ErrorOut}, operation_id="patch_preview")
def patch_preview(request: HttpRequest, work_id: UUID, data: PatchIn) -> dict[str, Any]:
    """What a patch would say, while it is drawn; nothing is kept."""
    found = preview_out(bench_of(work_id), **data.dict())
    if found is None:
        raise Refusal(_NO_ESTIMATE, code="not_ready")
    return found


@router.get("/odds-kept", response=list[OddsKeptOut], operation_id="odds_kept")
def odds_kept(request: HttpRequest) -> list[dict[str, Any]]:
    """What the odds of this shop's moves were worth."""
    return kept_odds()


@router.post("/trials/{uuid:trial_id}/conditions", response={201: BenchOut, **_REFUSALS}, operation_id="conditions_confirm")
def conditions_confirm(request: HttpRequest, trial_id: UUID, data: ConditionsIn) -> HttpResponse:
    """The housing was looked at; its readings count."""
    return _of_trial(request, trial_id, data, "conditions_confirm", recording.confirm_conditions)


@router.post("/trials/{uuid:trial_id}/patterns", response={201: BenchOut, **_REFUSALS}, operation_id="pattern_record")
def pattern_record(request: HttpRequest, trial_id: UUID, data: PatternIn) -> HttpResponse:
    """A painted patch as it was read."""
    seen = recording.PatchSeen(**data.fields())
    return _of_trial(request, trial_id, data, "pattern_record", recording.record_pattern, seen=seen)


@router.post("/trials/{uuid:trial_id}/photos", response={201: PhotoOut, 413: ErrorOut, **_REFUSALS}, operation_id="photo_add")
def photo_add(request: HttpRequest, trial_id: UUID, data: Form[PhotoIn], file: File[UploadedFile]) -> HttpResponse:
    """A picture of a painted tooth."""
    content = file.read(LARGEST_BYTES + 1)
    picture = picture_in(content)
    return write(
        request,
        data,
        command="photo_add",
        target=trial_id,
        do=lambda writing: recording.add_photo(writing, trial_id=trial_id, flank=data.flank, picture=picture),
        show=lambda: {"id": data.client_id},
        out=PhotoOut,
        more=file_hash(content),
    )


@router.get("/photos/{uuid:photo_id}", operation_id="photo", include_in_schema=False)
def photo(request: HttpRequest, photo_id: UUID) -> HttpResponse:
    """The picture itself; it never changes."""
    kept = PatternPhoto.objects.filter(client_id=photo_id).first()
    if kept is None:
        raise Http404
    return kept_picture(kept.content, kept.media_type)


@router.post("/trials/{uuid:trial_id}/torques", response={201: BenchOut, **_REFUSALS}, operation_id="torque_record")
def torque_record(request: HttpRequest, trial_id: UUID, data: TorqueIn) -> HttpResponse:
    """A rotating torque."""
    given = recording.TorqueTyped(**data.fields())
    return _of_trial(request, trial_id, data, "torque_record", recording.record_torque, given=given)


@router.post("/trials/{uuid:trial_id}/depths", response={201: BenchOut, **_REFUSALS}, operation_id="depth_record")
def depth_record(request: HttpRequest, trial_id: UUID, data: DepthIn) -> HttpResponse:
    """A measured depth."""
    return _of_trial(request, trial_id, data, "depth_record", recording.record_depth, tool=data.tool, given=data.fields("tool"))


@router.post("/work/{uuid:work_id}/basis", response={201: BenchOut, **_REFUSALS}, operation_id="basis_set")
def basis_set(request: HttpRequest, work_id: UUID, data: BasisIn) -> HttpResponse:
    """New or used set, the driving flank, the places round the ring, and what a used set was found with."""
    fields = data.fields("found_backlash")
    return _of_work(request, work_id, data, "basis_set", recording.set_basis, fields=fields, found_backlash=data.found_backlash)


@router.post("/work/{uuid:work_id}/sleeve-steps", response={201: BenchOut, **_REFUSALS}, operation_id="sleeve_step_record")
def sleeve_step_record(request: HttpRequest, work_id: UUID, data: SleeveStepIn) -> HttpResponse:
    """A step of the nut on a crush sleeve."""
    return _of_work(request, work_id, data, "sleeve_step_record", recording.sleeve_step)


@router.post(
    "/work/{uuid:work_id}/sleeve-steps/{uuid:step_id}/take-back",
    response={201: BenchOut, **_REFUSALS},
    operation_id="sleeve_step_take_back",
)
def sleeve_step_take_back(request: HttpRequest, work_id: UUID, step_id: UUID, data: StrikeOutIn) -> HttpResponse:
    """A mistyped step."""
    command = f"sleeve_step_take_back {step_id}"
    return _of_work(request, work_id, data, command, recording.take_back_sleeve_step, step_id=step_id, reason=data.reason)


@router.post("/work/{uuid:work_id}/spacer-tries", response={201: BenchOut, **_REFUSALS}, operation_id="spacer_try_record")
def spacer_try_record(request: HttpRequest, work_id: UUID, data: SpacerTryIn) -> HttpResponse:
    """A trial stack with the solid spacer."""
    return _of_work(request, work_id, data, "spacer_try_record", recording.spacer_try)


@router.post("/work/{uuid:work_id}/instrument-checks", response={201: BenchOut, **_REFUSALS}, operation_id="instrument_check")
def instrument_check(request: HttpRequest, work_id: UUID, data: InstrumentCheckIn) -> HttpResponse:
    """Zero, gauge block, back to the mark."""
    return _of_work(request, work_id, data, "instrument_check", recording.check_instrument)


@router.get("/typed-length", response=TypedLengthOut, operation_id="typed_length")
def typed_length(request: HttpRequest, typed: Annotated[str, Query(max_length=200)]) -> dict[str, Any]:
    """What a text in the strip would be, while it is typed."""
    try:
        return {"value_mm": parse(typed, dimension="length", unit=request.user.length_unit).value}  # type: ignore[union-attr]
    except InvalidInput:
        return {"value_mm": None}
