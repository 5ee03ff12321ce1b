"""The noise finder: from what is felt or recorded to the part that makes it."""

from __future__ import annotations

import hashlib
from typing import Any
from uuid import UUID

from django.http import HttpRequest, HttpResponse, JsonResponse
from ninja import File, Form, Router
from ninja.files import UploadedFile

from accounts.policy import for_export
from amber_core.vibration.felt import Felt, felt
from compute.api import RATE
from noise_finder import services
from noise_finder.models import Source
from noise_finder.present import finder_out, finding_csv, finding_out, recording_out, spectrum_csv
from noise_finder.schemas import (
    FeltIn,
    NoiseDeskOut,
    NoiseFindingIn,
    NoiseFindingOut,
    NoiseFindingWholeOut,
    ReadAgainIn,
    RecordedAnswer,
    RecordedInputs,
    RecordingIn,
    RecordingOut,
    RecordingWholeOut,
    SimulateIn,
)
from records.writing import write
from shared.schemas import ErrorOut

router = Router(tags=["noise_finder"])

_REFUSALS = {403: ErrorOut, 404: ErrorOut, 409: ErrorOut, 422: ErrorOut}


@router.get("/work/{uuid:work_id}/noise-finder", response={200: NoiseDeskOut, 404: ErrorOut}, operation_id="noise_finder")
def noise_finder(request: HttpRequest, work_id: UUID) -> dict[str, Any]:
    """What the finder begins with: the drivetrain as far as it is known, recordings and findings."""
    return finder_out(services.finder_work(work_id))


@router.post("/noise-felt", response={200: Felt, 422: ErrorOut}, operation_id="noise_felt", throttle=RATE)
def noise_felt(request: HttpRequest, data: FeltIn) -> Felt:
    """Which part makes what is felt; nothing is kept."""
    return felt(data.felt)


@router.post("/noise-recorded", response={200: RecordedAnswer, **_REFUSALS}, operation_id="noise_recorded", throttle=RATE)
def noise_recorded(request: HttpRequest, data: RecordedInputs) -> RecordedAnswer:
    """A recording held against a drivetrain; nothing is kept."""
    found: RecordedAnswer = services.work_out(data)
    return found


@router.post("/work/{uuid:work_id}/recordings", response={201: RecordingOut, 413: ErrorOut, **_REFUSALS}, operation_id="recording_add")
def recording_add(request: HttpRequest, work_id: UUID, data: Form[RecordingIn], file: File[UploadedFile]) -> HttpResponse:
    """A file of a logger, stored as it comes and read in the background."""
    given = {"name": file.name or "recording", "source": Source.FILE, "size_bytes": file.size or 0, **data.fields()}
    return write(
        request,
        data,
        command="recording_add",
        target=work_id,
        do=lambda writing: services.take_in(writing, work_id=work_id, pieces=file.chunks(services.CHUNK_BYTES), **given),
        show=lambda: recording_out(services.recording_by_id(data.client_id)),
        out=RecordingOut,
        more=_hash(file),
    )


def _hash(file: UploadedFile) -> str:
    """SHA-256 of a file that is not held in memory whole."""
    found = hashlib.sha256()
    for piece in file.chunks(services.CHUNK_BYTES):
        found.update(piece)
    return found.hexdigest()


@router.post("/recordings/{uuid:recording_id}/read-again", response={201: RecordingOut, **_REFUSALS}, operation_id="recording_read_again")
def recording_read_again(request: HttpRequest, recording_id: UUID, data: ReadAgainIn) -> HttpResponse:
    """Read a recording again that could not be read."""
    return write(
        request,
        data,
        command="recording_read_again",
        target=recording_id,
        do=lambda writing: services.read_again(writing, recording_id=recording_id),
        show=lambda: recording_out(services.recording_by_id(recording_id)),
        out=RecordingOut,
    )


@router.post("/work/{uuid:work_id}/simulated-recordings", response={201: RecordingOut, **_REFUSALS}, operation_id="recording_simulate")
def recording_simulate(request: HttpRequest, work_id: UUID, data: SimulateIn) -> HttpResponse:
    """A run of the simulated recorder with faults to choose."""
    return write(
        request,
        data,
        command="recording_simulate",
        target=work_id,
        do=lambda writing: services.simulate(writing, work_id=work_id, given=data),
        show=lambda: recording_out(services.recording_by_id(data.client_id)),
        out=RecordingOut,
    )


@router.get("/recordings/{uuid:recording_id}", response={200: RecordingWholeOut, 404: ErrorOut}, operation_id="recording")
def recording(request: HttpRequest, recording_id: UUID) -> dict[str, Any]:
    """A recording, how far it was read, and its order chart once it is."""
    return recording_out(services.recording_by_id(recording_id), whole=True)


@router.get("/recordings/{uuid:recording_id}/spectrum.csv", operation_id="recording_spectrum_csv", response={200: None}, auth=for_export)
def recording_spectrum_csv(request: HttpRequest, recording_id: UUID) -> HttpResponse:
    """The spectrum of a recording, as CSV."""
    one = services.recording_by_id(recording_id)
    return _attached(spectrum_csv(one), "spectrum.csv")


@router.post("/work/{uuid:work_id}/noise-findings", response={201: NoiseFindingOut, **_REFUSALS}, operation_id="noise_finding_keep")
def noise_finding_keep(request: HttpRequest, work_id: UUID, data: NoiseFindingIn) -> HttpResponse:
    """Save what was felt or recorded, with what came out, to the work."""
    given: dict[str, Any] = {"title": data.title, "asked": data.felt, "recorded": data.recorded}
    return write(
        request,
        data,
        command="noise_finding_keep",
        target=work_id,
        do=lambda writing: services.keep_finding(writing, work_id=work_id, **given),
        show=lambda: finding_out(services.finding_by_id(data.client_id)),
        out=NoiseFindingOut,
    )


@router.get("/noise-findings/{uuid:finding_id}", response={200: NoiseFindingWholeOut, 404: ErrorOut}, operation_id="noise_finding")
def noise_finding(request: HttpRequest, finding_id: UUID) -> dict[str, Any]:
    """A kept finding, as it was."""
    return finding_out(services.finding_by_id(finding_id), whole=True)


@router.get("/noise-findings/{uuid:finding_id}/file.csv", operation_id="noise_finding_csv", response={200: None}, auth=for_export)
def noise_finding_csv(request: HttpRequest, finding_id: UUID) -> HttpResponse:
    """The sources of a finding, as CSV."""
    one = services.finding_by_id(finding_id)
    return _attached(finding_csv(one), f"noise-{one.work.job.number}.csv")


@router.get("/noise-findings/{uuid:finding_id}/file.json", operation_id="noise_finding_json", response={200: None}, auth=for_export)
def noise_finding_json(request: HttpRequest, finding_id: UUID) -> HttpResponse:
    """Inputs and answer, as JSON."""
    one = services.finding_by_id(finding_id)
    whole = {"format": "amber-pinion.noise", "version": 1, **finding_out(one, whole=True)}
    headers = {"Content-Disposition": f'attachment; filename="noise-{one.work.job.number}.json"'}
    return JsonResponse(whole, headers=headers)


def _attached(content: str, name: str) -> HttpResponse:
    headers = {"Content-Disposition": f'attachment; filename="{name}"'}
    return HttpResponse(content, content_type="text/csv; charset=utf-8", headers=headers)
