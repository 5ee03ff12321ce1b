"""The build sheet: sign-off, page, PDF, open files, import."""

from __future__ import annotations

from typing import Any
from uuid import UUID

from django.http import HttpRequest, HttpResponse
from ninja import File, Form, Router
from ninja.files import UploadedFile

from accounts.policy import for_export
from amber_core.words import say
from build_sheet import services
from build_sheet.export import job_file_text, readings_csv
from build_sheet.importing import import_job, too_large
from build_sheet.paper import paper_html, paper_pdf
from build_sheet.schemas import ImportedOut, ImportIn, SheetOut, SignOffIn, WithdrawIn
from build_sheet.sheet import sheet_html, sheet_pdf, sheet_state
from build_sheet.zipped import is_zip, zip_of
from jobs.models import Job
from records.writing import file_hash, write
from shared.refusals import Refusal
from shared.schemas import ErrorOut
from work.models import Work
from work.present import find_job, find_work

router = Router(tags=["build_sheet"])

_REFUSALS = {403: ErrorOut, 404: ErrorOut, 409: ErrorOut, 422: ErrorOut}


def _download(content: bytes | str, kind: str, name: str) -> HttpResponse:
    return HttpResponse(content, content_type=kind, headers={"Content-Disposition": f'attachment; filename="{name}"'})


def _name(work: Work) -> str:
    return f"{work.job.number}" if work.number == 1 else f"{work.job.number}-{work.number}"


@router.get("/work/{uuid:work_id}/sheet", response={200: SheetOut, 404: ErrorOut}, operation_id="sheet")
def sheet(request: HttpRequest, work_id: UUID) -> dict[str, Any]:
    """Who signed, or what is missing."""
    return sheet_state(find_work(work_id), request.user)


@router.post("/work/{uuid:work_id}/sign-off", response={201: SheetOut, **_REFUSALS}, operation_id="sign_off")
def sign_off(request: HttpRequest, work_id: UUID, data: SignOffIn) -> HttpResponse:
    """Sign the work off."""
    return write(
        request,
        data,
        command="sign_off",
        target=work_id,
        do=lambda writing: services.sign_off(writing, work_id=work_id),
        show=lambda: sheet_state(find_work(work_id), request.user),
        out=SheetOut,
    )


@router.post("/work/{uuid:work_id}/withdraw", response={201: SheetOut, **_REFUSALS}, operation_id="sign_off_withdraw")
def sign_off_withdraw(request: HttpRequest, work_id: UUID, data: WithdrawIn) -> HttpResponse:
    """Take a sign-off back."""
    return write(
        request,
        data,
        command="sign_off_withdraw",
        target=work_id,
        do=lambda writing: services.withdraw(writing, work_id=work_id, reason=data.reason),
        show=lambda: sheet_state(find_work(work_id), request.user),
        out=SheetOut,
    )


@router.get("/work/{uuid:work_id}/sheet.html", operation_id="sheet_html", include_in_schema=False)
def sheet_page(request: HttpRequest, work_id: UUID, sign_off: UUID | None = None) -> HttpResponse:
    """The page to print."""
    return HttpResponse(sheet_html(find_work(work_id), sign_off))


@router.get("/work/{uuid:work_id}/sheet.pdf", operation_id="sheet_pdf", include_in_schema=False)
def sheet_as_pdf(request: HttpRequest, work_id: UUID, sign_off: UUID | None = None) -> HttpResponse:
    """The page as PDF."""
    work = find_work(work_id)
    return _download(sheet_pdf(work, sign_off), "application/pdf", f"build-sheet-{_name(work)}.pdf")


@router.get("/work/{uuid:work_id}/run-sheet.html", operation_id="run_sheet_html", include_in_schema=False)
def run_sheet_page(request: HttpRequest, work_id: UUID) -> HttpResponse:
    """The run sheet to print and fill in by hand."""
    return HttpResponse(paper_html(find_work(work_id)))


@router.get("/work/{uuid:work_id}/run-sheet.pdf", operation_id="run_sheet_pdf", include_in_schema=False)
def run_sheet_as_pdf(request: HttpRequest, work_id: UUID) -> HttpResponse:
    """The same as PDF."""
    work = find_work(work_id)
    return _download(paper_pdf(work), "application/pdf", f"run-sheet-{_name(work)}.pdf")


@router.get("/jobs/{uuid:job_id}/job.json", operation_id="job_json", include_in_schema=False, auth=for_export)
def job_as_json(request: HttpRequest, job_id: UUID) -> HttpResponse:
    """The whole job as an open file."""
    job = find_job(job_id)
    return _download(job_file_text(job), "application/json", f"job-{job.number}.json")


@router.get("/jobs/{uuid:job_id}/job.zip", operation_id="job_zip", include_in_schema=False, auth=for_export)
def job_as_zip(request: HttpRequest, job_id: UUID) -> HttpResponse:
    """The same with the pictures of the Parts wall."""
    job = find_job(job_id)
    return _download(zip_of(job), "application/zip", f"job-{job.number}.zip")


@router.get("/work/{uuid:work_id}/readings.csv", operation_id="readings_csv", include_in_schema=False, auth=for_export)
def readings_as_csv(request: HttpRequest, work_id: UUID) -> HttpResponse:
    """The readings, a line each."""
    work = find_work(work_id)
    return _download(readings_csv(work), "text/csv; charset=utf-8", f"readings-{_name(work)}.csv")


@router.post("/import", response={201: ImportedOut, 413: ErrorOut, **_REFUSALS}, operation_id="job_import")
def job_import(request: HttpRequest, file: File[UploadedFile], data: Form[ImportIn]) -> HttpResponse:
    """A job out of its file."""
    if (large := too_large(file.size or 0, zipped=is_zip(file.read(4)))) is not None:
        raise large
    file.seek(0)
    content = file.read()
    made: list[Job] = []

    def told() -> dict[str, Any]:
        if not made:
            raise Refusal(say("This file was already imported."), code="here_already")
        return {"job_id": made[0].pk, "number": made[0].number}

    return write(
        request,
        data,
        command="job_import",
        do=lambda writing: made.append(import_job(writing, content=content, vehicle=data.vehicle)),
        show=told,
        out=ImportedOut,
        more=file_hash(content),
    )
