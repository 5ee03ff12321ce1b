"""One way for every command of every area: id first, then rights, state and the core's judgement, then it is stored and answered.

All of it is one transaction: what cannot be answered is not stored.
"""

from __future__ import annotations

import hashlib
import json
from collections.abc import Callable
from dataclasses import dataclass, field
from datetime import datetime
from typing import TYPE_CHECKING, Any, TypeVar
from uuid import UUID, uuid4

from django.db import connection, transaction
from django.http import HttpRequest, HttpResponse
from django.utils import timezone
from pydantic import BaseModel

from amber_core.words import say
from records.models import Write
from records.replicated import make_sure
from shared.refusals import Conflict
from shared.schemas import Written

if TYPE_CHECKING:
    from accounts.models import User

_Brought = TypeVar("_Brought")
_FIRST_YEAR, _LAST_YEAR = 2000, 2100


@dataclass(frozen=True, slots=True)
class Writing:
    """A write on its way: its id, the person, and the units that its bare numbers are in."""

    by: User
    length_unit: str
    torque_unit: str
    id: UUID = field(default_factory=uuid4)
    device: str = ""
    written_at: datetime | None = None

    @classmethod
    def of(cls, by: User, given: Written | None = None) -> Writing:
        """What a person's screen sent; without units told, the ones this person works in."""
        if given is None:
            return cls(by=by, length_unit=by.length_unit, torque_unit=by.torque_unit)
        units = {name: getattr(given, name) or getattr(by, name) for name in ("length_unit", "torque_unit")}
        at = given.written_at
        # a device whose clock is years off still has its reading stored; when it came is known anyway
        believed = at if at is not None and _FIRST_YEAR <= at.year <= _LAST_YEAR else None
        return cls(by=by, id=given.write_id, device=given.device, written_at=believed, **units)

    def row(self) -> dict[str, Any]:
        """The fields of the row that this write makes."""
        return {"client_id": self.id, "by": self.by, "by_name": str(self.by)}

    def also(self) -> dict[str, Any]:
        """The fields of a further row that follows from this write."""
        return {"by": self.by, "by_name": str(self.by)}


_INSERT = """
INSERT INTO records_write
    (id, command, target, content_hash, by_id, by_name, device, length_unit, torque_unit, written_at, received_at)
VALUES (%s, %s, %s, %s, %s, %s, %s, %s, %s, %s, %s) ON CONFLICT (id) DO NOTHING
"""


def begin(writing: Writing, *, command: str, target: str, content: Any) -> bool:
    """Note the envelope; False when this very write is stored already. Within the caller's transaction.

    Two of the same id at once wait for one another here, so that only one of them goes on. A repeated id takes the lock of the row that
    is there: only then does the commit wait for the standby, as the first one's did, before anything is acknowledged again.

    Raises
    ------
    Conflict
        When the id belongs to another write, or to another content.
    """
    content_hash = hash_of(content)
    fields = (command, target, content_hash, writing.by.pk, str(writing.by), writing.device, writing.length_unit, writing.torque_unit)
    with connection.cursor() as cursor:
        cursor.execute(_INSERT, (writing.id, *fields, writing.written_at, timezone.now()))
        if cursor.rowcount == 1:
            return True
    kept = Write.objects.select_for_update().get(pk=writing.id)
    if (kept.command, kept.target, kept.content_hash) != (command, target, content_hash):
        raise Conflict(say("Something else was already stored under this id. Nothing was stored. Enter it again."), code="id_reused")
    return False


def hash_of(content: Any) -> str:
    """SHA-256 of plain JSON types, whatever order their fields came in."""
    plain = json.dumps(content, sort_keys=True, separators=(",", ":"), ensure_ascii=False, allow_nan=False)
    return hashlib.sha256(plain.encode()).hexdigest()


def write(
    request: HttpRequest,
    given: Written,
    *,
    command: str,
    target: object = "",
    do: Callable[[Writing], Any],
    show: Callable[[], Any],
    out: type[BaseModel],
    status: int = 201,
    more: Any = None,
) -> HttpResponse:
    """Do one command, once, and answer it.

    Parameters
    ----------
    command, target
        What is done, and to what: with the content they are what an id is bound to.
    do
        The service; left out when this very write is stored already.
    show
        What the answer holds, read after it was stored.
    out
        The answer's schema.
    more
        What belongs to the content beside the fields: the hash of a file.

    Raises
    ------
    Conflict
        `id_reused`, or `other_person` when the write is another person's than the one signed in.
    OperationalError
        When it may not be on the standby that has to have it.
    """
    by: User = request.user  # type: ignore[assignment]
    writing = Writing.of(by, given)
    with transaction.atomic():
        if begin(writing, command=command, target=str(target), content=[given.content(), more]):
            if given.person and given.person != by.username:
                raise Conflict(
                    say(
                        "This was entered by {person}, and {username} is signed in. It waits until {person} signs in here.",
                        person=given.person,
                        username=by.username,
                    ),
                    code="other_person",
                )
            do(writing)
        response = answered(out, show(), status)
    make_sure()
    return response


def bringing(
    do: Callable[[Writing], _Brought | None], read: Callable[[], _Brought]
) -> tuple[Callable[[Writing], None], Callable[[], _Brought]]:
    """The write, and what to show after it: what the write left, or read again where it left nothing or was stored before."""
    kept: list[_Brought | None] = []

    def done(writing: Writing) -> None:
        kept.append(do(writing))

    return done, lambda: (kept[0] if kept else None) or read()


def answered(out: type[BaseModel], shown: Any, status: int = 200) -> HttpResponse:
    """What is shown, checked against its schema and written as JSON in one go."""
    return in_json(body_of(out, shown), status)


def body_of(out: type[BaseModel], shown: Any) -> str:
    """The text of such an answer."""
    return out.model_validate(shown).model_dump_json(by_alias=True)


def in_json(body: str, status: int = 200) -> HttpResponse:
    """The answer with this text."""
    return HttpResponse(body, status=status, content_type="application/json; charset=utf-8")


def file_hash(content: bytes) -> str:
    """What a file adds to the content of its write."""
    return hashlib.sha256(content).hexdigest()
