"""Changing what lies in the drawer."""

from __future__ import annotations

from collections import Counter
from decimal import Decimal

from django.db import transaction

from accounts import policy
from accounts.models import User
from shared.refusals import Conflict, Refusal
from stores.models import AxleFamily, DrawerPlace, ShimRow

Pieces = list[tuple[float, int]]
"""Shims as (thickness_mm, count)."""


def family_by_code(code: str) -> AxleFamily:
    """The family of that code.

    Raises
    ------
    Refusal
        When the Stores have no such family.
    """
    family = AxleFamily.objects.filter(code=code).first()
    if family is None:
        raise Refusal("The Stores have no axle family of that name.", code="not_found", field="family")
    return family


@transaction.atomic
def set_count(*, by: User, code: str, place: str, thickness_mm: float, count: int) -> AxleFamily:
    """Set how many shims of a thickness lie in the drawer; 0 keeps the row. Setting the same count again changes nothing."""
    policy.require(by, "edit_stores")
    family = family_by_code(code)
    thickness = _key(thickness_mm)
    ShimRow.objects.update_or_create(family=family, place=place, thickness_mm=thickness, defaults={"count": count})
    return family


def exchange(family: AxleFamily, place: DrawerPlace, *, give_back: Pieces, take: Pieces, must_have: bool) -> None:
    """Put the shims of the last trial back into the drawer and take those of the next one; within the caller's transaction.

    Raises
    ------
    Conflict
        With `must_have`, when somebody else has taken one in the meantime.
    """
    rows = {row.thickness_mm: row for row in ShimRow.objects.select_for_update().filter(family=family, place=place)}
    for thickness, count in _counted(give_back).items():
        row = rows.setdefault(thickness, ShimRow(family=family, place=place, thickness_mm=thickness, count=0))
        row.count += count
    for thickness, count in _counted(take).items():
        held = rows.get(thickness)
        there = held.count if held else 0
        if must_have and there < count:
            raise Conflict(
                f"The {thickness.normalize():f} mm shim is no longer in the drawer; look at the new proposal.", code="stock_changed"
            )
        if held is not None:
            held.count = max(0, there - count)  # a typed stack may hold shims that never lay in this drawer
    for row in rows.values():
        row.save()


def _key(thickness_mm: float) -> Decimal:
    return Decimal(str(round(thickness_mm, 4))).quantize(Decimal("0.0001"))


def _counted(pieces: Pieces) -> Counter[Decimal]:
    counted: Counter[Decimal] = Counter()
    for thickness, count in pieces:
        counted[_key(thickness)] += count
    return counted
