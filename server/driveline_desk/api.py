"""The driveline desk: worked out while somebody types or drags, kept on the job, ordered from a shaft maker."""

from __future__ import annotations

from typing import Any
from uuid import UUID

from django.http import HttpRequest, HttpResponse, JsonResponse
from ninja import Router

from accounts.policy import for_export
from compute.api import RATE
from driveline_desk import services
from driveline_desk.models import JointInspection
from driveline_desk.order import order_pdf
from driveline_desk.present import desk_out, inspection_out, result_csv, result_out
from driveline_desk.schemas import (
    DrivelineAnswer,
    DrivelineDeskOut,
    DrivelineInputs,
    DrivelineResultIn,
    DrivelineResultOut,
    DrivelineResultWholeOut,
    InspectionIn,
    InspectionOut,
    RemedyIn,
    RemedyOut,
)
from driveline_desk.work import remedies, work_out
from records.writing import write
from shared.schemas import ErrorOut

router = Router(tags=["driveline_desk"])

_REFUSALS = {403: ErrorOut, 404: ErrorOut, 409: ErrorOut, 422: ErrorOut}


@router.get("/work/{uuid:work_id}/driveline-desk", response={200: DrivelineDeskOut, 404: ErrorOut}, operation_id="driveline_desk")
def driveline_desk(request: HttpRequest, work_id: UUID) -> dict[str, Any]:
    """What the desk begins with: tyre and ratio where they are known, what was kept, joints that were inspected."""
    return desk_out(services.driveline_work(work_id))


@router.post("/driveline-work", response={200: DrivelineAnswer, 422: ErrorOut}, operation_id="driveline_work", throttle=RATE)
def driveline_work(request: HttpRequest, data: DrivelineInputs) -> DrivelineAnswer:
    """Everything that the desk shows for these inputs; nothing is kept."""
    return work_out(data)


@router.post("/driveline-remedies", response={200: RemedyOut, 422: ErrorOut}, operation_id="driveline_remedies", throttle=RATE)
def driveline_remedies(request: HttpRequest, data: RemedyIn) -> dict[str, Any]:
    """The smallest set of changes that brings everything into its limits, and the best settings of all that may be changed."""
    return {"recommended": remedies(data)}


@router.post(
    "/work/{uuid:work_id}/driveline-results", response={201: DrivelineResultOut, **_REFUSALS}, operation_id="driveline_result_keep"
)
def driveline_result_keep(request: HttpRequest, work_id: UUID, data: DrivelineResultIn) -> HttpResponse:
    """Save an answer with its inputs to the work."""
    return write(
        request,
        data,
        command="driveline_result_keep",
        target=work_id,
        do=lambda writing: services.keep_result(writing, work_id=work_id, title=data.title, inputs=data.inputs),
        show=lambda: result_out(services.result_by_id(data.client_id)),
        out=DrivelineResultOut,
    )


@router.get("/driveline-results/{uuid:result_id}", response={200: DrivelineResultWholeOut, 404: ErrorOut}, operation_id="driveline_result")
def driveline_result(request: HttpRequest, result_id: UUID) -> dict[str, Any]:
    """A kept answer, as it was."""
    return result_out(services.result_by_id(result_id), whole=True)


@router.get("/driveline-results/{uuid:result_id}/file.csv", operation_id="driveline_result_csv", response={200: None}, auth=for_export)
def driveline_result_csv(request: HttpRequest, result_id: UUID) -> HttpResponse:
    """Every joint at every place of the axle, as CSV."""
    result = services.result_by_id(result_id)
    return _attached(result_csv(result), "text/csv; charset=utf-8", f"driveline-{result.work.job.number}.csv")


@router.get("/driveline-results/{uuid:result_id}/file.json", operation_id="driveline_result_json", response={200: None}, auth=for_export)
def driveline_result_json(request: HttpRequest, result_id: UUID) -> HttpResponse:
    """Inputs and answer, as JSON."""
    result = services.result_by_id(result_id)
    whole = {"format": "amber-pinion.driveline", "version": 1, **result_out(result, whole=True)}
    headers = {"Content-Disposition": f'attachment; filename="driveline-{result.work.job.number}.json"'}
    return JsonResponse(whole, headers=headers)


@router.get(
    "/driveline-results/{uuid:result_id}/order.pdf", operation_id="driveline_order_pdf", response={200: None, 404: ErrorOut, 422: ErrorOut}
)
def driveline_order_pdf(request: HttpRequest, result_id: UUID) -> HttpResponse:
    """The order sheet for a shaft maker."""
    result = services.result_by_id(result_id)
    return _attached(order_pdf(result), "application/pdf", f"shaft-order-{result.work.job.number}.pdf")


def _attached(content: str | bytes, kind: str, name: str) -> HttpResponse:
    return HttpResponse(content, content_type=kind, headers={"Content-Disposition": f'attachment; filename="{name}"'})


@router.post("/work/{uuid:work_id}/joint-inspections", response={201: InspectionOut, **_REFUSALS}, operation_id="joint_inspection_keep")
def joint_inspection_keep(request: HttpRequest, work_id: UUID, data: InspectionIn) -> HttpResponse:
    """Keep what hand and eye said of a joint, and what was decided."""
    parts = {name: getattr(data, name) for name in ("shaft", "joint", "felt", "decision", "note")}
    return write(
        request,
        data,
        command="joint_inspection_keep",
        target=work_id,
        do=lambda writing: services.keep_inspection(writing, work_id=work_id, **parts),
        show=lambda: inspection_out(JointInspection.objects.get(client_id=data.client_id)),
        out=InspectionOut,
    )
