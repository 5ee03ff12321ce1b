"""The Diff bench: worked out while somebody types, kept on a piece of work, a gasket as a file."""

from __future__ import annotations

from typing import Any
from uuid import UUID

from django.http import HttpRequest, HttpResponse, JsonResponse
from ninja import Router

from accounts.models import User
from accounts.policy import for_export
from compute.api import RATE
from diff_bench import services
from diff_bench.gasket_files import gasket_dxf, gasket_pdf
from diff_bench.present import answer_out, bench_out, result_csv, result_out
from diff_bench.reading import Units, Values
from diff_bench.schemas import DiffAnswer, DiffBenchOut, DiffResultIn, DiffResultOut, DiffResultWholeOut, DiffWorkIn, GasketFileIn
from diff_bench.working import Worked, worked
from records.writing import answered, write
from shared.schemas import ErrorOut

router = Router(tags=["diff_bench"])

_REFUSALS = {403: ErrorOut, 404: ErrorOut, 409: ErrorOut, 422: ErrorOut}


def _worked(request: HttpRequest, tool: str, values: Values, gauge: str = "") -> Worked:
    return worked(tool, values, _units(request), gauge)


def _units(request: HttpRequest) -> Units:
    reader: User = request.user  # type: ignore[assignment]
    return Units(reader.length_unit, reader.torque_unit)


@router.get("/diff-bench", response=DiffBenchOut, operation_id="diff_bench_alone")
def diff_bench_alone(request: HttpRequest) -> HttpResponse:
    """The bench without a job, for a quick answer."""
    return answered(DiffBenchOut, bench_out(_units(request)))


@router.get("/work/{uuid:work_id}/diff-bench", response={200: DiffBenchOut, 404: ErrorOut}, operation_id="diff_bench")
def diff_bench(request: HttpRequest, work_id: UUID) -> HttpResponse:
    """The bench of a piece of work: limits of its sheet, its drawer, clocks that run, and what was kept."""
    return answered(DiffBenchOut, bench_out(_units(request), services.bench_work(work_id)))


@router.post("/diff-work", response={200: DiffAnswer, 422: ErrorOut}, operation_id="diff_work", throttle=RATE)
def diff_work(request: HttpRequest, data: DiffWorkIn) -> HttpResponse:
    """What a tool makes of what was typed; nothing is kept."""
    return answered(DiffAnswer, answer_out(_worked(request, data.tool, data.values, data.gauge)))


@router.post("/work/{uuid:work_id}/diff-results", response={201: DiffResultOut, **_REFUSALS}, operation_id="diff_result_keep")
def diff_result_keep(request: HttpRequest, work_id: UUID, data: DiffResultIn) -> HttpResponse:
    """Save an answer to the work, and to the step that it was measured for."""
    parts = {name: getattr(data, name) for name in ("tool", "values", "gauge", "title", "step")}
    return write(
        request,
        data,
        command="diff_result_keep",
        target=work_id,
        do=lambda writing: services.keep_result(writing, work_id=work_id, **parts),
        show=lambda: result_out(services.result_by_id(data.client_id)),
        out=DiffResultOut,
    )


@router.get("/diff-results/{uuid:result_id}", response={200: DiffResultWholeOut, 404: ErrorOut}, operation_id="diff_result")
def diff_result(request: HttpRequest, result_id: UUID) -> dict[str, Any]:
    """A kept answer, as it was."""
    return result_out(services.result_by_id(result_id), whole=True)


@router.get("/diff-results/{uuid:result_id}/file.csv", operation_id="diff_result_csv", response={200: None}, auth=for_export)
def diff_result_csv(request: HttpRequest, result_id: UUID) -> HttpResponse:
    """The figures, as CSV."""
    result = services.result_by_id(result_id)
    return _attached(result_csv(result).encode(), "text/csv; charset=utf-8", f"{result.about}-{result.work.job.number}.csv")


@router.get("/diff-results/{uuid:result_id}/file.json", operation_id="diff_result_json", response={200: None}, auth=for_export)
def diff_result_json(request: HttpRequest, result_id: UUID) -> HttpResponse:
    """Inputs and answer, as JSON."""
    result = services.result_by_id(result_id)
    whole = {"format": "amber-pinion.bench", "version": 1, **result_out(result, whole=True)}
    headers = {"Content-Disposition": f'attachment; filename="{result.about}-{result.work.job.number}.json"'}
    return JsonResponse(whole, headers=headers)


@router.post("/gasket-file", response={200: None, 422: ErrorOut}, operation_id="gasket_file", throttle=RATE)
def gasket_file(request: HttpRequest, data: GasketFileIn) -> HttpResponse:
    """The gasket as SVG, as DXF for a cutter, or true to size on sheets of paper."""
    found = services.finished(_worked(request, "gasket", data.values))
    if data.kind == "svg":
        return _attached(found.answer.svg.encode(), "image/svg+xml", "gasket.svg")
    if data.kind == "dxf":
        return _attached(gasket_dxf(found.question, found.answer), "application/dxf", "gasket.dxf")
    return _attached(gasket_pdf(found.answer, data.paper), "application/pdf", f"gasket-{data.paper}.pdf")


def _attached(content: bytes, kind: str, name: str) -> HttpResponse:
    return HttpResponse(content, content_type=kind, headers={"Content-Disposition": f'attachment; filename="{name}"'})
