"""The build sheet: sign-off, page, PDF, open files, import."""

from __future__ import annotations

from typing import Any
from uuid import UUID

from django.conf import settings
from django.http import HttpRequest, HttpResponse
from ninja import File, Router
from ninja.files import UploadedFile

from build_sheet import services
from build_sheet.export import job_file, readings_csv
from build_sheet.importing import import_job
from build_sheet.schemas import ImportedOut, SheetOut, SignOffIn, WithdrawIn
from build_sheet.sheet import sheet_html, sheet_pdf, sheet_state
from jobs.present import find_job
from shared.refusals import TooLarge
from shared.schemas import ErrorOut

router = Router(tags=["build_sheet"])

_REFUSALS = {403: ErrorOut, 404: ErrorOut, 409: ErrorOut, 422: ErrorOut}


def _download(content: bytes | str, kind: str, name: str) -> HttpResponse:
    return HttpResponse(content, content_type=kind, headers={"Content-Disposition": f'attachment; filename="{name}"'})


@router.get("/jobs/{uuid:job_id}/sheet", response={200: SheetOut, 404: ErrorOut}, operation_id="sheet")
def sheet(request: HttpRequest, job_id: UUID) -> dict[str, Any]:
    """Who signed, or what is missing."""
    return sheet_state(find_job(job_id), request.user)


@router.post("/jobs/{uuid:job_id}/sign-off", response={201: SheetOut, **_REFUSALS}, operation_id="sign_off")
def sign_off(request: HttpRequest, job_id: UUID, data: SignOffIn) -> tuple[int, dict[str, Any]]:
    """Sign the job off."""
    services.sign_off(by=request.user, job_id=job_id, client_id=data.client_id)  # type: ignore[arg-type]
    return 201, sheet_state(find_job(job_id), request.user)


@router.post("/jobs/{uuid:job_id}/withdraw", response={201: SheetOut, **_REFUSALS}, operation_id="sign_off_withdraw")
def sign_off_withdraw(request: HttpRequest, job_id: UUID, data: WithdrawIn) -> tuple[int, dict[str, Any]]:
    """Take a sign-off back."""
    services.withdraw(by=request.user, job_id=job_id, **data.dict())  # type: ignore[arg-type]
    return 201, sheet_state(find_job(job_id), request.user)


@router.get("/jobs/{uuid:job_id}/sheet.html", operation_id="sheet_html", include_in_schema=False)
def sheet_page(request: HttpRequest, job_id: UUID) -> HttpResponse:
    """The page to print."""
    return HttpResponse(sheet_html(find_job(job_id)))


@router.get("/jobs/{uuid:job_id}/sheet.pdf", operation_id="sheet_pdf", include_in_schema=False)
def sheet_as_pdf(request: HttpRequest, job_id: UUID) -> HttpResponse:
    """The page as PDF."""
    job = find_job(job_id)
    return _download(sheet_pdf(job), "application/pdf", f"build-sheet-{job.number}.pdf")


@router.get("/jobs/{uuid:job_id}/job.json", operation_id="job_json", include_in_schema=False)
def job_as_json(request: HttpRequest, job_id: UUID) -> HttpResponse:
    """The whole job as an open file."""
    job = find_job(job_id)
    return _download(job_file(job).model_dump_json(indent=1), "application/json", f"job-{job.number}.json")


@router.get("/jobs/{uuid:job_id}/readings.csv", operation_id="readings_csv", include_in_schema=False)
def readings_as_csv(request: HttpRequest, job_id: UUID) -> HttpResponse:
    """The readings, a line each."""
    job = find_job(job_id)
    return _download(readings_csv(job), "text/csv; charset=utf-8", f"readings-{job.number}.csv")


@router.post("/import", response={201: ImportedOut, 413: ErrorOut, **_REFUSALS}, operation_id="job_import")
def job_import(request: HttpRequest, file: File[UploadedFile]) -> tuple[int, dict[str, Any]]:
    """A job out of its file."""
    size = file.size or 0
    if size > settings.LARGEST_IMPORT_BYTES:
        most = settings.LARGEST_IMPORT_BYTES // 2**20
        raise TooLarge(f"The file has {size / 2**20:.0f} MB; a job has at most {most}. Nothing was imported.", code="too_large")
    job = import_job(by=request.user, content=file.read())  # type: ignore[arg-type]
    return 201, {"job_id": job.pk, "number": job.number}
