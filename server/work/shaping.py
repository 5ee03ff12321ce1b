"""What the shop adds to a kind of work: stored step by step, never changed; work keeps the procedure that it began with."""

from __future__ import annotations

from typing import Any

from django.db import transaction

from accounts import policy
from amber_core import payload
from amber_core.errors import InvalidInput
from amber_core.procedures import library
from amber_core.procedures.shaping import Shape, shaped
from amber_core.procedures.steps import LibraryStep
from amber_core.words import say
from records.writing import Writing
from shared.refusals import Conflict, Refusal
from work.models import KindShape


def shape_of(kind: str) -> KindShape | None:
    """The shape that counts now."""
    return KindShape.objects.filter(kind=kind).order_by("number").last()


def steps_of(kind: str) -> list[LibraryStep]:
    """The library of a kind with what the shop adds; of an older shape that no longer fits this release's library, the library alone."""
    base, kept = library.library(kind), shape_of(kind)
    if kept is None:
        return base
    try:
        return shaped(base, payload.read(Shape, kept.content))
    except InvalidInput:
        return base


@transaction.atomic
def shape_kind(writing: Writing, *, kind: str, number: int, reason: str, content: dict[str, Any]) -> KindShape:
    """Store what the shop adds to a kind from now on; `number` is that of the shape that was read, 0 where there was none.

    Raises
    ------
    NotAllowed, InvalidInput, Refusal, Conflict
        With the field that does not fit, or when somebody else changed it in the meantime.
    """
    policy.require(writing.by, "shop_settings")
    if not reason:
        raise Refusal(say("Give a reason for the change."), field="reason")
    shape: Shape = payload.read(Shape, content)
    shaped(library.library(kind), shape)
    last = KindShape.objects.select_for_update().filter(kind=kind).order_by("number").last()
    if (last.number if last else 0) != number:
        raise Conflict(say("Somebody else changed this kind of work in the meantime. Look at it again."), code="conflict")
    return KindShape.objects.create(kind=kind, number=number + 1, content=payload.plain(shape), reason=reason, **writing.row())
