"""The ratio desk: worked out while somebody turns the knobs, kept on the job, lent to the customer by a link."""

from __future__ import annotations

from dataclasses import replace
from typing import Any
from uuid import UUID

from django.http import HttpRequest, HttpResponse, JsonResponse
from ninja import Router

from accounts.models import Shop
from accounts.policy import for_export
from amber_core.words import reading_as
from amber_core.words.reader import current
from compute.api import RATE
from ratio_desk import services
from ratio_desk.present import desk_out, result_csv, result_out
from ratio_desk.schemas import DeskOut, FittedIn, LinkIn, LinkOut, RatioAnswer, RatioInputs, ResultIn, ResultOut, ResultWholeOut, SharedOut
from ratio_desk.work import work_out
from records.writing import answered, write
from shared.links import ToldOnce
from shared.schemas import ErrorOut

router = Router(tags=["ratio_desk"])

_REFUSALS = {403: ErrorOut, 404: ErrorOut, 409: ErrorOut, 422: ErrorOut}


@router.get("/work/{uuid:work_id}/ratio-desk", response={200: DeskOut, 404: ErrorOut}, operation_id="ratio_desk")
def ratio_desk(request: HttpRequest, work_id: UUID) -> dict[str, Any]:
    """What the desk begins with: the vehicle's ends, the sheet's ratios, gearboxes, and what was kept."""
    return desk_out(services.ratio_work(work_id))


@router.post("/ratio-work", response={200: RatioAnswer, 422: ErrorOut}, operation_id="ratio_work", throttle=RATE)
def ratio_work(request: HttpRequest, data: RatioInputs) -> RatioAnswer:
    """Everything that the desk shows for these inputs; nothing is kept."""
    return work_out(data)


@router.post("/work/{uuid:work_id}/ratio-results", response={201: ResultOut, **_REFUSALS}, operation_id="ratio_result_keep")
def ratio_result_keep(request: HttpRequest, work_id: UUID, data: ResultIn) -> HttpResponse:
    """Save an answer with its inputs to the work."""
    return write(
        request,
        data,
        command="ratio_result_keep",
        target=work_id,
        do=lambda writing: services.keep_result(writing, work_id=work_id, title=data.title, inputs=data.inputs),
        show=lambda: result_out(services.result_by_id(data.client_id)),
        out=ResultOut,
    )


@router.get("/ratio-results/{uuid:result_id}", response={200: ResultWholeOut, 404: ErrorOut}, operation_id="ratio_result")
def ratio_result(request: HttpRequest, result_id: UUID) -> dict[str, Any]:
    """A kept answer, as it was."""
    return result_out(services.result_by_id(result_id), whole=True)


@router.get("/ratio-results/{uuid:result_id}/file.csv", operation_id="ratio_result_csv", response={200: None}, auth=for_export)
def ratio_result_csv(request: HttpRequest, result_id: UUID) -> HttpResponse:
    """Gear by gear, as CSV."""
    result = services.result_by_id(result_id)
    headers = {"Content-Disposition": f'attachment; filename="ratio-{result.work.job.number}.csv"'}
    return HttpResponse(result_csv(result), content_type="text/csv; charset=utf-8", headers=headers)


@router.get("/ratio-results/{uuid:result_id}/file.json", operation_id="ratio_result_json", response={200: None}, auth=for_export)
def ratio_result_json(request: HttpRequest, result_id: UUID) -> HttpResponse:
    """Inputs and answer, as JSON."""
    result = services.result_by_id(result_id)
    whole = {"format": "amber-pinion.ratio", "version": 1, **result_out(result, whole=True)}
    headers = {"Content-Disposition": f'attachment; filename="ratio-{result.work.job.number}.json"'}
    return JsonResponse(whole, headers=headers)


@router.post("/ratio-results/{uuid:result_id}/fitted", response={201: ResultOut, **_REFUSALS}, operation_id="ratio_result_fitted")
def ratio_result_fitted(request: HttpRequest, result_id: UUID, data: FittedIn) -> HttpResponse:
    """What was fitted goes onto the vehicle: tyres and teeth of every driven end."""
    return write(
        request,
        data,
        command="ratio_result_fitted",
        target=result_id,
        do=lambda writing: services.put_on_vehicle(writing, result_id=result_id, gearing=data.gearing),
        show=lambda: result_out(services.result_by_id(result_id)),
        out=ResultOut,
    )


@router.post("/ratio-results/{uuid:result_id}/links", response={201: LinkOut, **_REFUSALS}, operation_id="ratio_link_make")
def ratio_link_make(request: HttpRequest, result_id: UUID, data: LinkIn) -> HttpResponse:
    """A link that shows this result alone to whoever has it, until it expires."""
    made = ToldOnce()

    return write(
        request,
        data,
        command="ratio_link_make",
        target=result_id,
        do=lambda writing: made.keep(services.lend(writing, result_id=result_id, days=data.days)),
        show=made.told,
        out=LinkOut,
    )


@router.get("/shared-ratios/{token}", response={200: SharedOut, 404: ErrorOut}, operation_id="shared_ratio", auth=None)
def shared_ratio(request: HttpRequest, token: str, imperial: bool = False) -> HttpResponse:
    """What a link shows, without a login; in miles and pounds where that is asked for."""
    link = services.lent(token)
    result = link.result
    shown = {
        "shop_name": Shop.get().name,
        "vehicle": result.work.job.vehicle.name,
        "title": result.title,
        "at": result.at,
        "expires_at": link.expires_at,
        "inputs": result.inputs,
        "answer": result.answer,
    }
    with reading_as(replace(current(), length="thou" if imperial else "mm")):
        return answered(SharedOut, shown)
