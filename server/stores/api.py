"""Stores: families, spec sheets, the drawer."""

from __future__ import annotations

from typing import Annotated, Any

from django.http import HttpRequest, HttpResponse
from ninja import File, Form, Query, Router, UploadedFile

from records.writing import file_hash, write
from shared.schemas import ErrorOut
from stores import catalogue, editing, services
from stores.models import UNITS, AxleFamily, Gearbox, Quantity, TransferCase
from stores.present import family_out
from stores.schemas import (
    CatalogueIn,
    CatalogueName,
    CatalogueTakenOut,
    DrawerName,
    FamilyIn,
    FamilyOut,
    GearboxOut,
    QuantityOut,
    ShimCountIn,
    ShimMoveOut,
    TransferCaseOut,
)

router = Router(tags=["stores"])


@router.get("/families", response=list[FamilyOut], operation_id="families")
def families(request: HttpRequest) -> list[dict[str, Any]]:
    """All axle families with their sheets."""
    return [family_out(family) for family in AxleFamily.objects.with_sheets()]


@router.get("/quantities", response=list[QuantityOut], operation_id="quantities")
def quantities(request: HttpRequest) -> list[dict[str, Any]]:
    """What a sheet can limit."""
    return [{"quantity": one.value, "label": one.label, "unit": UNITS[one]} for one in Quantity]


@router.put("/families/{code}", response={200: FamilyOut, 403: ErrorOut, 409: ErrorOut, 422: ErrorOut}, operation_id="family_save")
def family_save(request: HttpRequest, code: str, data: FamilyIn) -> HttpResponse:
    """A family's sheet as it shall be from now on; what was begun keeps the revision that judges it."""
    given = data.fields("revision", "reason", "limits", "ratios")
    lists = {"limits": [one.dict() for one in data.limits], "ratios": [one.dict() for one in data.ratios]}
    return write(
        request,
        data,
        command="family_save",
        target=code,
        do=lambda writing: editing.save_family(writing, code=code, revision=data.revision, reason=data.reason, facts=given, **lists),
        show=lambda: family_out(AxleFamily.objects.with_sheets().get(code=code)),
        out=FamilyOut,
        status=200,
    )


@router.put("/families/{code}/shims", response={200: FamilyOut, 403: ErrorOut, 409: ErrorOut, 422: ErrorOut}, operation_id="set_shim_count")
def set_shim_count(request: HttpRequest, code: str, data: ShimCountIn) -> HttpResponse:
    """How many shims of a thickness lie in the drawer; 409 when somebody counted or took one since it was read."""
    return write(
        request,
        data,
        command="set_shim_count",
        target=code,
        do=lambda writing: services.set_count(writing, code=code, **data.fields()),
        show=lambda: family_out(AxleFamily.objects.with_sheets().get(code=code)),
        out=FamilyOut,
        status=200,
    )


@router.get("/families/{code}/shim-moves", response=list[ShimMoveOut], operation_id="shim_moves")
def shim_moves(request: HttpRequest, code: str, place: DrawerName, thickness_mm: Annotated[float, Query(ge=0.001, le=50)]) -> Any:
    """What came and went of one thickness, the latest first."""
    return services.moves_of(code, place, thickness_mm)


@router.get("/gearboxes", response=list[GearboxOut], operation_id="gearboxes")
def gearboxes(request: HttpRequest) -> Any:
    """All gearboxes."""
    return Gearbox.objects.all()


@router.get("/transfer-cases", response=list[TransferCaseOut], operation_id="transfer_cases")
def transfer_cases(request: HttpRequest) -> Any:
    """All transfer cases."""
    return TransferCase.objects.all()


@router.get("/stores/{kind}.csv", operation_id="catalogue_csv", response={200: None})
def catalogue_csv(request: HttpRequest, kind: CatalogueName) -> HttpResponse:
    """Gearboxes, transfer cases or families' ratios as CSV."""
    headers = {"Content-Disposition": f'attachment; filename="{kind}.csv"'}
    return HttpResponse(catalogue.exported(kind), content_type="text/csv; charset=utf-8", headers=headers)


@router.post(
    "/stores/{kind}/import",
    response={200: CatalogueTakenOut, 403: ErrorOut, 413: ErrorOut, 422: ErrorOut},
    operation_id="catalogue_import",
)
def catalogue_import(request: HttpRequest, kind: CatalogueName, file: File[UploadedFile], data: Form[CatalogueIn]) -> HttpResponse:
    """Take a list in, whole or not at all."""
    content = file.read(catalogue.LARGEST_BYTES + 1)
    taken: list[dict[str, Any]] = []
    return write(
        request,
        data,
        command="catalogue_import",
        target=kind,
        do=lambda writing: taken.append(catalogue.imported(writing, kind=kind, content=content)),
        show=lambda: taken[0] if taken else {"added": 0, "changed": 0, "wrong": []},
        out=CatalogueTakenOut,
        status=200,
        more=file_hash(content),
    )
