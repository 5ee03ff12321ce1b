"""The noise finder: from what is felt or recorded to the part that makes it."""

from __future__ import annotations

from typing import Any
from uuid import UUID

from django.http import HttpRequest, HttpResponse, JsonResponse
from ninja import File, Form, Router
from ninja.files import UploadedFile

from amber_core.vibration.felt import Felt, felt
from compute.api import RATE
from noise_finder import services
from noise_finder.models import Source
from noise_finder.present import finder_out, finding_csv, finding_out, recording_out, spectrum_csv
from noise_finder.schemas import (
    FeltIn,
    Kmh,
    NoiseDeskOut,
    NoiseFindingIn,
    NoiseFindingOut,
    NoiseFindingWholeOut,
    RecordedAnswer,
    RecordedInputs,
    RecordingOut,
    RecordingWholeOut,
    SimulateIn,
)
from shared.schemas import ErrorOut

router = Router(tags=["noise_finder"])

_REFUSALS = {403: ErrorOut, 404: ErrorOut, 409: ErrorOut, 422: ErrorOut}


@router.get("/jobs/{uuid:job_id}/noise-finder", response={200: NoiseDeskOut, 404: ErrorOut}, operation_id="noise_finder")
def noise_finder(request: HttpRequest, job_id: UUID) -> dict[str, Any]:
    """What the finder begins with: the drivetrain as far as it is known, recordings and findings."""
    return finder_out(services.finder_job(job_id))


@router.post("/noise-felt", response={200: Felt, 422: ErrorOut}, operation_id="noise_felt", throttle=RATE)
def noise_felt(request: HttpRequest, data: FeltIn) -> Felt:
    """Which part makes what is felt; nothing is kept."""
    return felt(data.felt)


@router.post("/noise-recorded", response={200: RecordedAnswer, **_REFUSALS}, operation_id="noise_recorded", throttle=RATE)
def noise_recorded(request: HttpRequest, data: RecordedInputs) -> RecordedAnswer:
    """A recording held against a drivetrain; nothing is kept."""
    found: RecordedAnswer = services.work_out(data)
    return found


@router.post("/jobs/{uuid:job_id}/recordings", response={201: RecordingOut, 413: ErrorOut, **_REFUSALS}, operation_id="recording_add")
def recording_add(
    request: HttpRequest,
    job_id: UUID,
    file: File[UploadedFile],
    client_id: Form[UUID],
    from_kmh: Form[Kmh],
    to_kmh: Form[Kmh],
) -> tuple[int, dict[str, Any]]:
    """A file of a logger, stored as it comes and read in the background."""
    kept = services.take_in(
        by=request.user,  # type: ignore[arg-type]
        job_id=job_id,
        client_id=client_id,
        name=file.name or "recording",
        source=Source.FILE,
        size_bytes=file.size or 0,
        pieces=file.chunks(services.CHUNK_BYTES),
        from_kmh=from_kmh,
        to_kmh=to_kmh,
    )
    return 201, recording_out(services.recording_by_id(kept.client_id))


@router.post("/jobs/{uuid:job_id}/simulated-recordings", response={201: RecordingOut, **_REFUSALS}, operation_id="recording_simulate")
def recording_simulate(request: HttpRequest, job_id: UUID, data: SimulateIn) -> tuple[int, dict[str, Any]]:
    """A run of the simulated recorder with faults to choose."""
    kept = services.simulate(by=request.user, job_id=job_id, given=data)  # type: ignore[arg-type]
    return 201, recording_out(services.recording_by_id(kept.client_id))


@router.get("/recordings/{uuid:recording_id}", response={200: RecordingWholeOut, 404: ErrorOut}, operation_id="recording")
def recording(request: HttpRequest, recording_id: UUID) -> dict[str, Any]:
    """A recording, how far it was read, and its order chart once it is."""
    return recording_out(services.recording_by_id(recording_id), whole=True)


@router.get("/recordings/{uuid:recording_id}/spectrum.csv", operation_id="recording_spectrum_csv", response={200: None})
def recording_spectrum_csv(request: HttpRequest, recording_id: UUID) -> HttpResponse:
    """The spectrum of a recording, as CSV."""
    one = services.recording_by_id(recording_id)
    return _attached(spectrum_csv(one), "spectrum.csv")


@router.post("/jobs/{uuid:job_id}/noise-findings", response={201: NoiseFindingOut, **_REFUSALS}, operation_id="noise_finding_keep")
def noise_finding_keep(request: HttpRequest, job_id: UUID, data: NoiseFindingIn) -> tuple[int, dict[str, Any]]:
    """Keep what was felt or recorded, with what came out, on the job."""
    kept = services.keep_finding(
        by=request.user,  # type: ignore[arg-type]
        job_id=job_id,
        client_id=data.client_id,
        title=data.title,
        asked=data.felt,
        recorded=data.recorded,
    )
    return 201, finding_out(kept)


@router.get("/noise-findings/{uuid:finding_id}", response={200: NoiseFindingWholeOut, 404: ErrorOut}, operation_id="noise_finding")
def noise_finding(request: HttpRequest, finding_id: UUID) -> dict[str, Any]:
    """A kept finding, as it was."""
    return finding_out(services.finding_by_id(finding_id), whole=True)


@router.get("/noise-findings/{uuid:finding_id}/file.csv", operation_id="noise_finding_csv", response={200: None})
def noise_finding_csv(request: HttpRequest, finding_id: UUID) -> HttpResponse:
    """The sources of a finding, as CSV."""
    one = services.finding_by_id(finding_id)
    return _attached(finding_csv(one), f"noise-{one.job.number}.csv")


@router.get("/noise-findings/{uuid:finding_id}/file.json", operation_id="noise_finding_json", response={200: None})
def noise_finding_json(request: HttpRequest, finding_id: UUID) -> HttpResponse:
    """Inputs and answer, as JSON."""
    one = services.finding_by_id(finding_id)
    whole = {"format": "amber-pinion.noise", "version": 1, **finding_out(one, whole=True)}
    headers = {"Content-Disposition": f'attachment; filename="noise-{one.job.number}.json"'}
    return JsonResponse(whole, headers=headers)


def _attached(content: str, name: str) -> HttpResponse:
    headers = {"Content-Disposition": f'attachment; filename="{name}"'}
    return HttpResponse(content, content_type="text/csv; charset=utf-8", headers=headers)
