"""Stores: families, spec sheets, the drawer."""

from __future__ import annotations

from typing import Any

from django.http import HttpRequest, HttpResponse
from ninja import File, Router, UploadedFile

from shared.schemas import ErrorOut
from stores import catalogue, services
from stores.models import UNITS, AxleFamily, Gearbox, Quantity, RatioOption, SpecLimit, TransferCase
from stores.schemas import CatalogueName, CatalogueTakenOut, FamilyOut, GearboxOut, ShimCountIn, TransferCaseOut

router = Router(tags=["stores"])


def limit_out(limit: SpecLimit, *, is_sample: bool) -> dict[str, Any]:
    """A line of the spec sheet."""
    quantity = Quantity(limit.quantity)
    return {
        "quantity": limit.quantity,
        "label": quantity.label,
        "least": limit.least,
        "greatest": limit.greatest,
        "unit": UNITS[quantity],
        "source_note": limit.source_note,
        "is_sample": is_sample,
    }


def ratio_out(one: RatioOption) -> dict[str, Any]:
    """A pair of tooth counts."""
    fields = ("pinion_teeth", "ring_teeth", "needs_carrier", "needs_thick_ring")
    return {**{name: getattr(one, name) for name in fields}, "ratio": one.ring_teeth / one.pinion_teeth}


def family_out(family: AxleFamily) -> dict[str, Any]:
    """A family with its sheet; wants `with_sheets()`."""
    plain = (
        "code",
        "name",
        "maker",
        "build",
        "carrier_method",
        "wheel_end",
        "ring_outer_diameter_mm",
        "offset_mm",
        "notch_mm",
        "is_sample",
    )
    return {
        **{field: getattr(family, field) for field in plain},
        "carrier_label": family.get_carrier_method_display(),
        "shim_place_label": family.get_shim_place_display(),
        "preload_label": family.get_preload_method_display(),
        "tooth_form_label": family.get_tooth_form_display(),
        "limits": [limit_out(limit, is_sample=family.is_sample) for limit in family.limits.all()],
        "ratios": [ratio_out(one) for one in family.ratios.all()],
        "shims": [{"place": row.place, "thickness_mm": float(row.thickness_mm), "count": row.count} for row in family.shims.all()],
    }


@router.get("/families", response=list[FamilyOut], operation_id="families")
def families(request: HttpRequest) -> list[dict[str, Any]]:
    """All axle families with their sheets."""
    return [family_out(family) for family in AxleFamily.objects.with_sheets()]


@router.put("/families/{code}/shims", response={200: FamilyOut, 403: ErrorOut, 422: ErrorOut}, operation_id="set_shim_count")
def set_shim_count(request: HttpRequest, code: str, data: ShimCountIn) -> dict[str, Any]:
    """How many shims of a thickness lie in the drawer."""
    services.set_count(by=request.user, code=code, **data.dict())  # type: ignore[arg-type]
    return family_out(AxleFamily.objects.with_sheets().get(code=code))


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
def catalogue_import(request: HttpRequest, kind: CatalogueName, file: File[UploadedFile]) -> dict[str, Any]:
    """Take a list in, whole or not at all."""
    content = file.read(catalogue.LARGEST_BYTES + 1)
    return catalogue.imported(by=request.user, kind=kind, content=content)  # type: ignore[arg-type]
