"""A family's sheet made or changed in the application; earlier revisions stay, and judge the work that was begun under them."""

from __future__ import annotations

from typing import Any

from django.db import models, transaction
from django.utils.text import slugify

from accounts import policy
from accounts.models import own_shop
from amber_core.words import say
from records.writing import Writing
from shared.refusals import Conflict, NotAllowed, Refusal
from stores.models import COUNTED, AxleFamily, FastenerPlace, Quantity, RatioOption, SheetPart, SpecFastener, SpecFluid, SpecLimit
from stores.sheets import current_revision, newest_revision

Lists = dict[str, list[dict[str, Any]]]
_MODELS: dict[str, type[models.Model]] = {"limits": SpecLimit, "ratios": RatioOption, "fasteners": SpecFastener, "fluids": SpecFluid}


@transaction.atomic
def save_family(
    writing: Writing,
    *,
    code: str,
    revision: int,
    reason: str,
    facts: dict[str, Any],
    lists: Lists,
) -> AxleFamily:
    """Store a whole sheet as it shall be from now on; `lists` are its limits, ratios, fasteners and fluids.

    Raises
    ------
    NotAllowed, Refusal, Conflict
        With the line that is wrong, or when somebody else changed the sheet since it was read.
    """
    policy.require(writing.by, "edit_stores")
    if code != slugify(code) or not 1 <= len(code) <= 60:
        raise Refusal(say("A code has 1 to 60 lower-case letters, digits and hyphens."), field="code")
    check(facts, lists)
    family = AxleFamily.objects.owned().select_for_update().filter(code=code).first()
    if family is None and revision > 0 and (lent := AxleFamily.objects.select_related("shop").coded(code)) is not None:
        raise NotAllowed(say("This sheet belongs to {shop}. Copy it to change it.", shop=lent.shop.name))
    last = newest_revision(family.pk) if family is not None else None
    if (last.number if last else 0) != revision:
        there = say("There is a family with this code already. Choose another code.")
        changed = say("Somebody else changed this sheet while you were editing it. Look at it again.")
        raise Conflict(there if revision == 0 else changed, code="conflict")
    if family is not None and not reason:
        raise Refusal(say("Give a reason for changing the sheet."), field="reason")
    if family is not None and family.part != facts["part"]:
        raise Refusal(say("What a sheet is for cannot be changed. Copy it to a new family."), field="part")
    family = family or AxleFamily(code=code)
    for name, value in facts.items():
        setattr(family, name, value)
    family.save()
    store_lists(family, lists)
    current_revision(family, writing, reason or say("Added"))
    return family


@transaction.atomic
def share_family(writing: Writing, *, code: str, shared: bool) -> AxleFamily:
    """Let the other workshops work by this sheet, or no longer.

    Raises
    ------
    NotAllowed, Refusal
        When it is another workshop's, or there is none.
    """
    policy.require(writing.by, "edit_stores")
    family = AxleFamily.objects.select_for_update(of=("self",)).select_related("shop").coded(code)
    if family is None:
        raise Refusal(say("The Stores do not have this axle family."), code="not_found", field="family")
    if family.shop_id != own_shop():
        raise NotAllowed(say("This sheet belongs to {shop}. Copy it to change it.", shop=family.shop.name))
    family.shared = shared
    family.save(update_fields=["shared"])
    return family


def store_lists(family: AxleFamily, lists: Lists) -> None:
    """Limits, ratios, fasteners and fluids of a family as they shall be from now on; within the caller's transaction."""
    for name, model in _MODELS.items():
        model._default_manager.filter(family=family).delete()
        model._default_manager.bulk_create(model(family=family, **one) for one in lists[name])


def check(facts: dict[str, Any], lists: Lists) -> None:
    """Refuse a sheet with the line that is wrong.

    Raises
    ------
    Refusal
        With the path of the field.
    """
    part = facts["part"]
    if part == SheetPart.AXLE and facts["carrier_method"] == "adjusters" and facts["notch_mm"] is None:
        raise Refusal(say("Threaded adjusters need the travel of one notch."), field="notch_mm")
    if part != SheetPart.AXLE and lists["ratios"]:
        raise Refusal(say("Only an axle has ring gear and pinion ratios. Remove them from this sheet."), field="ratios[0]")
    for name, key in _KEYS.items():
        for index, one in enumerate(lists[name]):
            where = f"{name}[{index}]"
            if any(other[key] == one[key] for other in lists[name][:index]):
                raise Refusal(say("{label} stands twice on the sheet.", label=_label(name, one)), field=f"{where}.{key}")
            check_line(name, one, where)
    pairs = [(one["pinion_teeth"], one["ring_teeth"]) for one in lists["ratios"]]
    for index, (pinion, ring) in enumerate(pairs):
        if ring <= pinion:
            raise Refusal(say("The ring gear must have more teeth than the pinion."), field=f"ratios[{index}].ring_teeth")
        if (pinion, ring) in pairs[:index]:
            raise Refusal(say("{pinion}/{ring} stands twice on the sheet.", pinion=pinion, ring=ring), field=f"ratios[{index}]")


_KEYS = {"limits": "quantity", "fasteners": "place", "fluids": "oil"}


def _label(name: str, line: dict[str, Any]) -> str:
    """What a line is about, in words."""
    if name == "fluids":
        return str(line["oil"])
    return str(Quantity(line["quantity"]).label if name == "limits" else FastenerPlace(line["place"]).label)


def check_line(name: str, line: dict[str, Any], where: str) -> None:
    """Refuse one line of limits, fasteners or fluids.

    Raises
    ------
    Refusal
        With the field behind `where`.
    """
    label = _label(name, line)
    if name == "limits":
        if line["quantity"] in COUNTED:
            raise Refusal(say("{label}: enter it under Fasteners.", label=label), field=f"{where}.quantity")
        if line["least"] is None and line["greatest"] is None:
            raise Refusal(say("{label}: give the least, the greatest, or both.", label=label), field=f"{where}.least")
        if line["least"] is not None and line["greatest"] is not None and line["least"] > line["greatest"]:
            raise Refusal(say("{label}: the least is over the greatest. Check which is which.", label=label), field=f"{where}.least")
    if name == "fluids" and line["modifier_ml"] is not None and line["modifier_ml"] > 1000.0 * line["litres"]:
        text = say("{label}: this is more friction modifier than the whole fill. Check the unit.", label=label)
        raise Refusal(text, field=f"{where}.modifier_ml")
    if not line["source_note"]:
        raise Refusal(say("{label}: say where the figure comes from.", label=label), field=f"{where}.source_note")
