"""The set-up bench: every write answers with the whole bench, so that the screen never guesses."""

from __future__ import annotations

from typing import Annotated, Any
from uuid import UUID

from django.http import HttpRequest
from ninja import Query, Router

from amber_core.errors import InvalidInput
from amber_core.quantities import parse
from setup_bench import services
from setup_bench.present import bench_job, bench_out
from setup_bench.schemas import BenchOut, ReadingIn, StrikeOutIn, TrialIn, TypedLengthOut
from shared.schemas import ErrorOut

router = Router(tags=["setup_bench"])

_REFUSALS = {403: ErrorOut, 404: ErrorOut, 409: ErrorOut, 422: ErrorOut}


@router.get("/jobs/{uuid:job_id}/bench", response={200: BenchOut, 404: ErrorOut, 422: ErrorOut}, operation_id="bench")
def bench(request: HttpRequest, job_id: UUID) -> dict[str, Any]:
    """The bench of a job."""
    return bench_out(bench_job(job_id))


@router.post("/jobs/{uuid:job_id}/trials", response={201: BenchOut, **_REFUSALS}, operation_id="trial_begin")
def trial_begin(request: HttpRequest, job_id: UUID, data: TrialIn) -> tuple[int, dict[str, Any]]:
    """What stands in the housing now."""
    setting = services.Setting(
        ring_side=data.ring_side,
        far_side=data.far_side,
        ring_side_notches=data.ring_side_notches,
        far_side_notches=data.far_side_notches,
    )
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


@router.get("/typed-length", response=TypedLengthOut, operation_id="typed_length")
def typed_length(request: HttpRequest, typed: Annotated[str, Query(max_length=200)]) -> dict[str, Any]:
    """What a text in the strip would be, while it is typed."""
    try:
        return {"value_mm": parse(typed, dimension="length", unit=request.user.length_unit).value}  # type: ignore[union-attr]
    except InvalidInput:
        return {"value_mm": None}
