"""The Stores as the API shows them."""

from __future__ import annotations

from typing import Any

from stores.models import AxleFamily
from stores.sheets import SheetLimit, SheetRatio, sheet_of


def limit_out(limit: SheetLimit, *, is_sample: bool) -> dict[str, Any]:
    """A line of the spec sheet."""
    return {
        "quantity": limit.quantity,
        "label": limit.label,
        "least": limit.least,
        "greatest": limit.greatest,
        "unit": limit.unit,
        "source_note": limit.source_note,
        "is_sample": is_sample,
    }


def ratio_out(one: SheetRatio) -> dict[str, Any]:
    """A pair of tooth counts."""
    fields = ("pinion_teeth", "ring_teeth", "needs_carrier", "needs_thick_ring")
    return {**{name: getattr(one, name) for name in fields}, "ratio": one.ring_teeth / one.pinion_teeth}


def family_out(family: AxleFamily) -> dict[str, Any]:
    """A family with its sheet and its drawers; wants `with_sheets()`."""
    sheet = sheet_of(family)
    plain = (
        "code",
        "name",
        "maker",
        "build",
        "carrier_method",
        "carrier_label",
        "shim_place",
        "shim_place_label",
        "preload_method",
        "preload_label",
        "shafts",
        "has_spreader",
        "has_speed_ring",
        "tooth_form",
        "torque_window_seal",
        "bearing_offset_mm",
        "backlash_places",
        "tooth_form_label",
        "wheel_end",
        "ring_outer_diameter_mm",
        "offset_mm",
        "notch_mm",
        "is_sample",
    )
    return {
        **{field: getattr(sheet, field) for field in plain},
        "revision": max((one.number for one in family.revisions.all()), default=0),
        "limits": [limit_out(limit, is_sample=sheet.is_sample) for limit in sheet.limits],
        "ratios": [ratio_out(one) for one in sheet.ratios],
        "shims": [
            {"place": row.place, "thickness_mm": float(row.thickness_mm), "count": row.count, "version": row.version}
            for row in family.shims.all()
        ],
    }
