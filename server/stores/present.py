"""The Stores as the API shows them."""

from __future__ import annotations

from typing import Any

from accounts.models import own_shop
from amber_core.fluids.plan import FluidQuestion, plan_fluid
from amber_core.words import Said, say
from stores.models import AxleFamily
from stores.sheets import SheetFastener, SheetFluid, SheetLimit, SheetRatio, sheet_of


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


def fastener_out(one: SheetFastener, *, is_sample: bool) -> dict[str, Any]:
    """Bolts or nuts of one place."""
    return {**vars(one), "label": one.label, "is_sample": is_sample}


def fluid_out(one: SheetFluid, *, is_sample: bool) -> dict[str, Any]:
    """One kind of oil, and what goes in first."""
    return {**vars(one), "is_sample": is_sample, "text": _filling(one)}


def _filling(one: SheetFluid) -> Said:
    plan = plan_fluid(FluidQuestion(capacity_l=one.litres, modifier_ml=one.modifier_ml, level_below_plug_mm=one.level_below_plug_mm))
    level = (
        say("Level {below:mm0} below the plug.", below=plan.dip_mm)
        if one.level_below_plug_mm
        else say("Level at the lower edge of the plug.")
    )
    if not plan.modifier_ml:
        return say("{litres:.2f} l, {bottles} bottles of 1 l. {level}", litres=one.litres, bottles=plan.bottles, level=level)
    return say(
        "{modifier:.0f} ml of friction modifier first, then {oil:.2f} l of oil, {bottles} bottles of 1 l. {level}",
        modifier=plan.modifier_ml,
        oil=one.litres - plan.modifier_ml / 1000.0,
        bottles=plan.bottles,
        level=level,
    )


def ratio_out(one: SheetRatio) -> dict[str, Any]:
    """A pair of tooth counts."""
    fields = ("pinion_teeth", "ring_teeth", "needs_carrier", "needs_thick_ring")
    return {**{name: getattr(one, name) for name in fields}, "ratio": one.ring_teeth / one.pinion_teeth}


def family_out(family: AxleFamily) -> dict[str, Any]:
    """A family with its sheet and its drawers; wants `with_sheets()`."""
    sheet = sheet_of(family)
    plain = (
        "code",
        "part",
        "part_label",
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
        "shared": family.shared,
        "lent_by": "" if family.shop_id == own_shop() else family.shop.name,
        **{field: getattr(sheet, field) for field in plain},
        "revision": max((one.number for one in family.revisions.all() if not one.from_file), default=0),
        "limits": [limit_out(limit, is_sample=sheet.is_sample) for limit in sheet.limits],
        "ratios": [ratio_out(one) for one in sheet.ratios],
        "fasteners": [fastener_out(one, is_sample=sheet.is_sample) for one in sheet.fasteners],
        "fluids": [fluid_out(one, is_sample=sheet.is_sample) for one in sheet.fluids],
        "shims": [
            {"place": row.place, "thickness_mm": float(row.thickness_mm), "count": row.count, "version": row.version}
            for row in family.shims.all()
        ],
    }
