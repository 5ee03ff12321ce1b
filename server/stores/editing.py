"""A family's sheet made or changed in the application; earlier revisions stay, and judge the work that was begun under them."""

from __future__ import annotations

from typing import Any

from django.db import transaction
from django.utils.text import slugify

from accounts import policy
from amber_core.words import say
from records.writing import Writing
from shared.refusals import Conflict, Refusal
from stores.models import AxleFamily, Quantity, RatioOption, SpecLimit
from stores.sheets import current_revision, newest_revision


@transaction.atomic
def save_family(
    writing: Writing,
    *,
    code: str,
    revision: int,
    reason: str,
    facts: dict[str, Any],
    limits: list[dict[str, Any]],
    ratios: list[dict[str, Any]],
) -> AxleFamily:
    """Store a whole sheet as it shall be from now on.

    Raises
    ------
    NotAllowed, Refusal, Conflict
        With the line that is wrong, or when somebody else changed the sheet since it was read.
    """
    policy.require(writing.by, "edit_stores")
    if code != slugify(code) or not 1 <= len(code) <= 60:
        raise Refusal(say("A code has 1 to 60 lower-case letters, digits and hyphens."), field="code")
    _check(facts, limits, ratios)
    family = AxleFamily.objects.select_for_update().filter(code=code).first()
    last = newest_revision(family.pk) if family is not None else None
    if (last.number if last else 0) != revision:
        there = say("There is a family with this code already. Choose another code.")
        changed = say("Somebody else changed this sheet while you were editing it. Look at it again.")
        raise Conflict(there if revision == 0 else changed, code="conflict")
    if family is not None and not reason:
        raise Refusal(say("Give a reason for changing the sheet."), field="reason")
    family = family or AxleFamily(code=code)
    for name, value in facts.items():
        setattr(family, name, value)
    family.save()
    family.limits.all().delete()
    family.ratios.all().delete()
    SpecLimit.objects.bulk_create(SpecLimit(family=family, **one) for one in limits)
    RatioOption.objects.bulk_create(RatioOption(family=family, **one) for one in ratios)
    current_revision(family, writing, reason or say("Added"))
    return family


def _check(facts: dict[str, Any], limits: list[dict[str, Any]], ratios: list[dict[str, Any]]) -> None:
    if facts["carrier_method"] == "adjusters" and facts["notch_mm"] is None:
        raise Refusal(say("Threaded adjusters need the travel of one notch."), field="notch_mm")
    seen: set[str] = set()
    for index, one in enumerate(limits):
        where, label = f"limits[{index}]", Quantity(one["quantity"]).label
        if one["quantity"] in seen:
            raise Refusal(say("{label} stands twice on the sheet.", label=label), field=f"{where}.quantity")
        seen.add(one["quantity"])
        if one["least"] is None and one["greatest"] is None:
            raise Refusal(say("{label}: give the least, the greatest, or both.", label=label), field=f"{where}.least")
        if one["least"] is not None and one["greatest"] is not None and one["least"] > one["greatest"]:
            raise Refusal(say("{label}: the least is over the greatest. Check which is which.", label=label), field=f"{where}.least")
        if not one["source_note"]:
            raise Refusal(say("{label}: say where the figure comes from.", label=label), field=f"{where}.source_note")
    pairs = [(one["pinion_teeth"], one["ring_teeth"]) for one in ratios]
    for index, (pinion, ring) in enumerate(pairs):
        if ring <= pinion:
            raise Refusal(say("The ring gear must have more teeth than the pinion."), field=f"ratios[{index}].ring_teeth")
        if (pinion, ring) in pairs[:index]:
            raise Refusal(say("{pinion}/{ring} stands twice on the sheet.", pinion=pinion, ring=ring), field=f"ratios[{index}]")
