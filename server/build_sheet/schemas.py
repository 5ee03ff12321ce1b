"""The build sheet over the API."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Literal
from uuid import UUID

from pydantic import StringConstraints

from amber_core.words import Said
from shared.schemas import Edit, Line, Plain, Written


class SignOffIn(Written):
    pass


class WithdrawIn(Written):
    reason: Line


class DocumentOut(Plain):
    """What was signed: its hash, the version that worked it out, the rule in force; `changed` when the text does not fit the hash."""

    hash: str
    core_version: str
    reconstructed: bool
    changed: bool
    rule: bool


class SignOffOut(Plain):
    """`origin` file: the file said so, and nobody signed it here."""

    id: UUID
    by_name: str
    at: datetime
    statement: Said
    origin: Literal["here", "file"]
    withdrawn_reason: str | None
    document: DocumentOut | None


class SheetOut(Plain):
    """`cannot_sign` says what keeps this person from signing; null when nothing does."""

    job_id: UUID
    work_id: UUID
    job_number: int
    vehicle: str
    title: str
    signed: bool
    imported_note: str
    cannot_sign: Said | None
    sign_offs: list[SignOffOut]


class ImportIn(Edit):
    """What goes beside a job file: the vehicle that it is of, by its id, or `new`; empty until somebody was asked."""

    vehicle: Annotated[str, StringConstraints(pattern=r"^(new|[0-9a-f-]{36})?$")] = ""


class ImportedOut(Plain):
    job_id: UUID
    number: int
