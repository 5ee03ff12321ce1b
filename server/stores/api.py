"""Stores: families, spec sheets, the drawer."""

from __future__ import annotations

from typing import Annotated, Any

from django.http import HttpRequest, HttpResponse
from ninja import File, Form, Query, Router, UploadedFile

from accounts.policy import for_export
from records.writing import file_hash, write
from shared.schemas import ErrorOut
from stores import catalogue, editing, services, sheet_list
from stores.models import COUNTED, UNITS, AxleFamily, FastenerPlace, Gearbox, Quantity, TransferCase
from stores.present import family_out
from stores.schemas import (
    CatalogueIn,
    CatalogueName,
    CatalogueTakenOut,
    CsvName,
    DrawerName,
    FamilyIn,
    FamilyOut,
    FastenerPlaceOut,
    GearboxOut,
    QuantityOut,
    SharingIn,
    ShimCountIn,
    ShimMoveOut,
    TransferCaseOut,
)
from stores.sheets import LISTS

router = Router(tags=["stores"])


@router.get("/families", response=list[FamilyOut], operation_id="families")
def families(request: HttpRequest) -> list[dict[str, Any]]:
    """All axle families with their sheets; of a code that another workshop shares, the workshop's own."""
    found = [family_out(family) for family in AxleFamily.objects.with_sheets()]
    own = {one["code"] for one in found if not one["lent_by"]}
    return [one for one in found if not one["lent_by"] or one["code"] not in own]


@router.get("/quantities", response=list[QuantityOut], operation_id="quantities")
def quantities(request: HttpRequest) -> list[dict[str, Any]]:
    """What a sheet can limit."""
    return [{"quantity": one.value, "label": one.label, "unit": UNITS[one]} for one in Quantity if one.value not in COUNTED]


@router.get("/fastener-places", response=list[FastenerPlaceOut], operation_id="fastener_places")
def fastener_places(request: HttpRequest) -> list[dict[str, Any]]:
    """Where a sheet can say how bolts and nuts are tightened."""
    return [{"place": one.value, "label": one.label} for one in FastenerPlace]


@router.put("/families/{code}", response={200: FamilyOut, 403: ErrorOut, 409: ErrorOut, 422: ErrorOut}, operation_id="family_save")
def family_save(request: HttpRequest, code: str, data: FamilyIn) -> HttpResponse:
    """A family's sheet as it shall be from now on; what was begun keeps the revision that judges it."""
    given = data.fields("revision", "reason", *LISTS)
    lists = {name: [one.dict() for one in getattr(data, name)] for name in LISTS}
    return write(
        request,
        data,
        command="family_save",
        target=code,
        do=lambda writing: editing.save_family(writing, code=code, revision=data.revision, reason=data.reason, facts=given, lists=lists),
        show=lambda: _family_out(code),
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
        show=lambda: _family_out(code),
        out=FamilyOut,
        status=200,
    )


@router.get("/families/{code}/shim-moves", response=list[ShimMoveOut], operation_id="shim_moves")
def shim_moves(request: HttpRequest, code: str, place: DrawerName, thickness_mm: Annotated[float, Query(ge=0.001, le=50)]) -> Any:
    """What came and went of one thickness, the latest first."""
    return services.moves_of(code, place, thickness_mm)


@router.put("/families/{code}/sharing", response={200: FamilyOut, 403: ErrorOut, 409: ErrorOut, 422: ErrorOut}, operation_id="family_share")
def family_share(request: HttpRequest, code: str, data: SharingIn) -> HttpResponse:
    """Whether the other workshops of the installation work by this sheet too; work that has begun keeps it either way."""
    return write(
        request,
        data,
        command="family_share",
        target=code,
        do=lambda writing: editing.share_family(writing, code=code, shared=data.shared),
        show=lambda: _family_out(code),
        out=FamilyOut,
        status=200,
    )


def _family_out(code: str) -> dict[str, Any]:
    found = AxleFamily.objects.with_sheets().coded(code)
    assert found is not None
    return family_out(found)


@router.get("/gearboxes", response=list[GearboxOut], operation_id="gearboxes")
def gearboxes(request: HttpRequest) -> Any:
    """All gearboxes."""
    return Gearbox.objects.all()


@router.get("/transfer-cases", response=list[TransferCaseOut], operation_id="transfer_cases")
def transfer_cases(request: HttpRequest) -> Any:
    """All transfer cases."""
    return TransferCase.objects.all()


@router.get("/stores/{kind}.csv", operation_id="catalogue_csv", response={200: None}, auth=for_export)
def catalogue_csv(request: HttpRequest, kind: CsvName) -> HttpResponse:
    """Gearboxes, transfer cases, or families' ratios, limits, fasteners and oils as CSV."""
    headers = {"Content-Disposition": f'attachment; filename="{kind}.csv"'}
    return HttpResponse(catalogue.exported(kind), content_type="text/csv; charset=utf-8", headers=headers)


@router.get("/stores/sheets.json", operation_id="sheets_json", response={200: None}, auth=for_export)
def sheets_json(request: HttpRequest) -> HttpResponse:
    """Every family's whole sheet as JSON."""
    headers = {"Content-Disposition": 'attachment; filename="sheets.json"'}
    return HttpResponse(sheet_list.exported(), content_type="application/json", headers=headers)


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
        do=lambda writing: taken.append(
            sheet_list.imported(writing, content) if kind == "sheets" else catalogue.imported(writing, kind=kind, content=content)
        ),
        show=lambda: taken[0] if taken else {"added": 0, "changed": 0, "wrong": []},
        out=CatalogueTakenOut,
        status=200,
        more=file_hash(content),
    )
