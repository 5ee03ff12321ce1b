"""The hand-over of a job, its page, its calendar, and what comes due."""

from __future__ import annotations

from typing import Any
from uuid import UUID

from django.http import HttpRequest, HttpResponse
from ninja import Router

from amber_core.words import say
from hand_over import services
from hand_over.calendar import ics_of
from hand_over.page import latest_of, page_html, page_pdf
from hand_over.schemas import DueOut, FollowUpEndIn, HandOverIn, HandOverOut
from hand_over.services import due_now, find_job, follow_up_out
from records.writing import write
from shared.refusals import Refusal
from shared.schemas import ErrorOut

router = Router(tags=["hand_over"])

_REFUSALS = {403: ErrorOut, 404: ErrorOut, 409: ErrorOut, 422: ErrorOut}


def hand_over_out(job_id: UUID) -> dict[str, Any]:
    """The hand-over of a job as the API shows it."""
    job = find_job(job_id)
    given = latest_of(job)
    read = job.vehicle.odometer.order_by("at", "id").last()
    due = given.follow_ups.select_related("end", "vehicle", "hand_over__job") if given else []
    return {
        "job_id": job.pk,
        "number": job.number,
        "vehicle": job.vehicle.name,
        "signed": job.signed_off_at is not None,
        "last_km": read.km if read else None,
        "received_by": given.received_by if given else None,
        "by_name": given.by_name if given else None,
        "at": given.at if given else None,
        "by_file": given is not None and given.by_file,
        "follow_ups": [follow_up_out(one) for one in due],
    }


@router.get("/jobs/{uuid:job_id}/hand-over", response={200: HandOverOut, 404: ErrorOut}, operation_id="hand_over")
def hand_over(request: HttpRequest, job_id: UUID) -> dict[str, Any]:
    """Whether it may be handed over, and what was."""
    return hand_over_out(job_id)


@router.post("/jobs/{uuid:job_id}/hand-over", response={201: HandOverOut, **_REFUSALS}, operation_id="hand_over_give")
def hand_over_give(request: HttpRequest, job_id: UUID, data: HandOverIn) -> HttpResponse:
    """Give the vehicle back."""
    told = {name: getattr(data, name) for name in ("not_done", "guarantee", "old_parts", "come_back")}
    rest = {name: getattr(data, name) for name in ("odometer", "received_by", "sure")}
    return write(
        request,
        data,
        command="hand_over_give",
        target=job_id,
        do=lambda writing: services.hand_over(writing, job_id=job_id, told=told, **rest),
        show=lambda: hand_over_out(job_id),
        out=HandOverOut,
    )


@router.get("/jobs/{uuid:job_id}/hand-over.html", operation_id="hand_over_html", include_in_schema=False)
def hand_over_html(request: HttpRequest, job_id: UUID) -> HttpResponse:
    """The page."""
    return HttpResponse(page_html(find_job(job_id)))


@router.get("/jobs/{uuid:job_id}/hand-over.pdf", operation_id="hand_over_pdf", include_in_schema=False)
def hand_over_pdf(request: HttpRequest, job_id: UUID) -> HttpResponse:
    """The page as PDF."""
    job = find_job(job_id)
    return _download(page_pdf(job), "application/pdf", f"hand-over-{job.number}.pdf")


@router.get("/jobs/{uuid:job_id}/hand-over.ics", operation_id="hand_over_ics", include_in_schema=False)
def hand_over_ics(request: HttpRequest, job_id: UUID) -> HttpResponse:
    """The dates as a calendar file."""
    job = find_job(job_id)
    given = latest_of(job)
    if given is None:
        raise Refusal(say("The vehicle was not handed over yet, so nothing is due."), code="not_ready")
    return _download(ics_of(given), "text/calendar; charset=utf-8", f"hand-over-{job.number}.ics")


def _download(content: bytes, kind: str, name: str) -> HttpResponse:
    return HttpResponse(content, content_type=kind, headers={"Content-Disposition": f'attachment; filename="{name}"'})


def due_out() -> dict[str, Any]:
    """What is due today."""
    return {"due": [follow_up_out(one) for one in due_now()]}


@router.post("/follow-ups/{int:follow_up_id}/end", response={201: DueOut, **_REFUSALS}, operation_id="follow_up_end")
def follow_up_end(request: HttpRequest, follow_up_id: int, data: FollowUpEndIn) -> HttpResponse:
    """Tick a follow-up off."""
    given = data.fields()
    return write(
        request,
        data,
        command="follow_up_end",
        target=follow_up_id,
        do=lambda writing: services.end_follow_up(writing, follow_up_id=follow_up_id, **given),
        show=due_out,
        out=DueOut,
    )
