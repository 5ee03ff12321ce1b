"""What the shop adds to a kind of work: stored step by step, never changed; work keeps the procedure that it began with."""

from __future__ import annotations

from typing import Any

from django.db import transaction

from accounts import policy
from amber_core import payload
from amber_core.errors import InvalidInput
from amber_core.procedures import library
from amber_core.procedures.kinds import Kind
from amber_core.procedures.making import OwnKind, made
from amber_core.procedures.shaping import OWN, Shape, shaped
from amber_core.procedures.steps import LibraryStep
from amber_core.words import say
from records.writing import Writing
from shared.refusals import Conflict, Refusal
from work.models import KindShape, OwnKindRevision


def own_kinds() -> dict[str, OwnKindRevision]:
    """The shop's own kinds of work as they are now, by their code."""
    return {one.kind: one for one in OwnKindRevision.objects.order_by("kind", "number")}


def kind_in(own: OwnKindRevision) -> Kind:
    """The kind of work that a revision holds."""
    return made(payload.read(OwnKind, own.content))


def find_kind(code: str) -> Kind:
    """A kind of work, of the library or of the shop's own.

    Raises
    ------
    InvalidInput
        When there is none of that code.
    """
    if code.startswith(OWN):
        own = OwnKindRevision.objects.filter(kind=code).order_by("number").last()
        if own is not None:
            return kind_in(own)
    return library.kind_of(code)


def shape_of(kind: str) -> KindShape | None:
    """The shape that counts now."""
    return KindShape.objects.filter(kind=kind).order_by("number").last()


def steps_of(kind: str) -> list[LibraryStep]:
    """The library of a kind with what the shop adds; of an older shape that no longer fits this release's library, the library alone."""
    base, kept = find_kind(kind).steps, shape_of(kind)
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
    shaped(find_kind(kind).steps, shape)
    last = KindShape.objects.select_for_update().filter(kind=kind).order_by("number").last()
    if (last.number if last else 0) != number:
        raise Conflict(say("Somebody else changed this kind of work in the meantime. Look at it again."), code="conflict")
    return KindShape.objects.create(kind=kind, number=number + 1, content=payload.plain(shape), reason=reason, **writing.row())


MOST_OWN_KINDS = 100


@transaction.atomic
def make_kind(writing: Writing, *, code: str, number: int, reason: str, given: dict[str, Any]) -> OwnKindRevision:
    """Put a kind of work together from blocks; work that was booked keeps the steps that it began with.

    Raises
    ------
    NotAllowed, InvalidInput, Refusal, Conflict
        With the field that does not fit, or when somebody else changed it in the meantime.
    """
    policy.require(writing.by, "shop_settings")
    if number and not reason:
        raise Refusal(say("Give a reason for the change."), field="reason")
    kind = OwnKind(code=code, **given)
    last = OwnKindRevision.objects.select_for_update().filter(kind=code).order_by("number").last()
    if (last.number if last else 0) != number:
        raise Conflict(say("Somebody else changed this kind of work in the meantime. Look at it again."), code="conflict")
    others = own_kinds()
    if any(one.content["title"].casefold() == kind.title.strip().casefold() for name, one in others.items() if name != code):
        raise Refusal(say("There is a kind of work with this name already. Choose another name."), field="title")
    if code not in others and len(others) >= MOST_OWN_KINDS:
        raise Refusal(say("A shop can have {most} own kinds of work at most.", most=MOST_OWN_KINDS), field="title")
    plain = {**payload.plain(kind), "title": kind.title.strip()}
    return OwnKindRevision.objects.create(kind=code, number=number + 1, content=plain, reason=reason or say("Added"), **writing.row())
