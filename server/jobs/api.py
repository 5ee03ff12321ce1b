"""Jobs: the card, the map, the gear set, the run sheet."""

from __future__ import annotations

from typing import Any
from uuid import UUID

from django.http import HttpRequest
from ninja import Router

from amber_core.gearset.identify import GearSetClues
from jobs import services
from jobs.present import find_job, job_out
from jobs.schemas import AxleFactIn, GearSetIn, JobEdit, JobIn, JobOut, PlaceName, StationIn, StepBackIn, StepPassIn
from shared.refusals import Conflict
from shared.schemas import ErrorOut

router = Router(tags=["jobs"])

_REFUSALS = {403: ErrorOut, 404: ErrorOut, 409: ErrorOut, 422: ErrorOut}


@router.post("/jobs", response={201: JobOut, **_REFUSALS}, operation_id="job_create")
def job_create(request: HttpRequest, data: JobIn) -> tuple[int, dict[str, Any]]:
    """A new job."""
    given = services.JobGiven(**data.dict(exclude={"id"}))
    job = services.create_job(by=request.user, job_id=data.id, given=given)  # type: ignore[arg-type]
    return 201, job_out(find_job(job.pk))


@router.get("/jobs/{uuid:job_id}", response={200: JobOut, 404: ErrorOut}, operation_id="job")
def job(request: HttpRequest, job_id: UUID) -> dict[str, Any]:
    """All of a job's page."""
    return job_out(find_job(job_id))


@router.patch("/jobs/{uuid:job_id}", response={200: JobOut, **_REFUSALS}, operation_id="job_edit")
def job_edit(request: HttpRequest, job_id: UUID, data: JobEdit) -> dict[str, Any]:
    """Change the card; 409 with what is stored now when somebody was faster."""
    changes = {field: value for field, value in data.dict(exclude={"version"}).items() if value is not None}
    try:
        services.edit_job(by=request.user, job_id=job_id, version=data.version, changes=changes)  # type: ignore[arg-type]
    except Conflict as conflict:
        if conflict.code == "conflict":
            now = JobOut.model_validate(job_out(find_job(job_id))).model_dump(mode="json")
            conflict.extra["current"] = now
        raise
    return job_out(find_job(job_id))


@router.put("/jobs/{uuid:job_id}/stations/{place}", response={200: JobOut, **_REFUSALS}, operation_id="station_set")
def station_set(request: HttpRequest, job_id: UUID, place: PlaceName, data: StationIn) -> dict[str, Any]:
    """How a part of the driveline was found."""
    services.set_station(by=request.user, job_id=job_id, place=place, **data.dict())  # type: ignore[arg-type]
    return job_out(find_job(job_id))


@router.post("/jobs/{uuid:job_id}/gear-set", response={201: JobOut, **_REFUSALS}, operation_id="gear_set_record")
def gear_set_record(request: HttpRequest, job_id: UUID, data: GearSetIn) -> tuple[int, dict[str, Any]]:
    """Keep what was counted."""
    teeth = {} if data.by_turns else {"pinion_teeth": data.pinion_teeth, "ring_teeth": data.ring_teeth}
    rest = data.dict(exclude={"client_id", "pinion_teeth", "ring_teeth", "by_turns"})
    clues = GearSetClues(**teeth, **rest)
    services.record_gear_set(
        by=request.user,  # type: ignore[arg-type]
        job_id=job_id,
        client_id=data.client_id,
        clues=clues,
        chosen=(data.pinion_teeth, data.ring_teeth),
    )
    return 201, job_out(find_job(job_id))


@router.post("/jobs/{uuid:job_id}/axle-facts", response={201: JobOut, **_REFUSALS}, operation_id="axle_fact_record")
def axle_fact_record(request: HttpRequest, job_id: UUID, data: AxleFactIn) -> tuple[int, dict[str, Any]]:
    """What is known of one end of the vehicle: tyre and teeth."""
    given = services.EndGiven(**data.dict(exclude={"client_id"}))
    services.record_axle_fact(by=request.user, job_id=job_id, client_id=data.client_id, given=given)  # type: ignore[arg-type]
    return 201, job_out(find_job(job_id))


@router.post("/jobs/{uuid:job_id}/steps/{code}/pass", response={201: JobOut, **_REFUSALS}, operation_id="step_pass")
def step_pass(request: HttpRequest, job_id: UUID, code: str, data: StepPassIn) -> tuple[int, dict[str, Any]]:
    """Pass a step of the run sheet."""
    services.pass_step(by=request.user, job_id=job_id, code=code, **data.dict())  # type: ignore[arg-type]
    return 201, job_out(find_job(job_id))


@router.post("/jobs/{uuid:job_id}/steps/{code}/take-back", response={201: JobOut, **_REFUSALS}, operation_id="step_take_back")
def step_take_back(request: HttpRequest, job_id: UUID, code: str, data: StepBackIn) -> tuple[int, dict[str, Any]]:
    """Take a step back."""
    services.take_back_step(by=request.user, job_id=job_id, code=code, **data.dict())  # type: ignore[arg-type]
    return 201, job_out(find_job(job_id))
