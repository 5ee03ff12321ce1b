"""Changing what lies in the drawer."""

from __future__ import annotations

from collections import Counter
from decimal import Decimal
from typing import Any

from django.db import transaction

from accounts import policy
from amber_core.words import say
from records.writing import Writing
from shared.refusals import Conflict, Refusal
from stores.models import AxleFamily, DrawerPlace, ShimMove, ShimRow, Why

MOST_MOVES = 200
Pieces = list[tuple[float, int]]
"""Shims as (thickness_mm, count)."""


def family_by_code(code: str) -> AxleFamily:
    """The family of that code.

    Raises
    ------
    Refusal
        When the Stores have no such family.
    """
    family = AxleFamily.objects.coded(code)
    if family is None:
        raise Refusal(say("The Stores do not have this axle family."), code="not_found", field="family")
    return family


@transaction.atomic
def set_count(writing: Writing, *, code: str, place: str, thickness_mm: float, count: int, version: int) -> AxleFamily:
    """Set how many shims of a thickness lie in the drawer; 0 keeps the row, and why it holds so many stays on the record.

    Raises
    ------
    Conflict
        When somebody else counted, took or returned one since it was read.
    """
    policy.require(writing.by, "edit_stores")
    family = _locked(family_by_code(code))
    row = ShimRow.objects.filter(family=family, place=place, thickness_mm=_key(thickness_mm)).first()
    if (row.version if row else 0) != version:
        there = row.count if row else 0
        raise Conflict(
            say("This drawer has changed since you looked: it now holds {there}. Look at it again.", there=there), code="conflict"
        )
    row = row or ShimRow(family=family, place=place, thickness_mm=_key(thickness_mm), count=0, version=0)
    _move(row, count - row.count, Why.COUNTED, writing.row())
    return family


def _move(row: ShimRow, change: int, why: str, who: dict[str, Any]) -> None:
    """Change what a drawer holds, and say why."""
    row.count, row.version = row.count + change, row.version + 1
    row.save()
    ShimMove.objects.create(row=row, why=why, change=change, count=row.count, **who)


def _locked(family: AxleFamily) -> AxleFamily:
    """The family's drawers for this transaction alone: two that give back one thickness at once wait for one another."""
    return AxleFamily.objects.select_for_update().get(pk=family.pk)


def exchange(writing: Writing, family: AxleFamily, place: DrawerPlace, *, give_back: Pieces, take: Pieces, must_have: bool) -> None:
    """Put the shims of the last trial back into the drawer and take those of the next one; within the caller's transaction.

    Raises
    ------
    Conflict
        With `must_have`, when somebody else has taken one in the meantime.
    """
    _locked(family)
    rows = {row.thickness_mm: row for row in ShimRow.objects.filter(family=family, place=place)}
    back, out = _counted(give_back), _counted(take)
    for thickness in back.keys() | out.keys():
        row = rows.get(thickness)
        there = (row.count if row else 0) + back[thickness]
        if must_have and there < out[thickness]:
            raise Conflict(
                say("The {shim:mm3} shim is no longer in the drawer. Look at the new proposal.", shim=float(thickness)),
                code="stock_changed",
            )
        if row is None and not back[thickness]:
            continue  # a typed stack may hold shims that never lay in this drawer
        row = row or ShimRow(family=family, place=place, thickness_mm=thickness, count=0, version=0)
        change = max(0, there - out[thickness]) - row.count
        if change:
            _move(row, change, Why.RETURNED if change > 0 else Why.TAKEN, writing.also())


def moves_of(code: str, place: str, thickness_mm: float) -> list[ShimMove]:
    """What came and went of one thickness, the latest first."""
    rows = ShimRow.objects.filter(family=family_by_code(code), place=place, thickness_mm=_key(thickness_mm))
    return list(ShimMove.objects.filter(row__in=rows).order_by("-id")[:MOST_MOVES])


def _key(thickness_mm: float) -> Decimal:
    return Decimal(str(round(thickness_mm, 4))).quantize(Decimal("0.0001"))


def _counted(pieces: Pieces) -> Counter[Decimal]:
    counted: Counter[Decimal] = Counter()
    for thickness, count in pieces:
        counted[_key(thickness)] += count
    return counted
