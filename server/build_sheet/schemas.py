"""The build sheet over the API."""

from __future__ import annotations

from datetime import datetime
from uuid import UUID

from ninja import Schema

from shared.schemas import Line, Written


class SignOffIn(Written):
    pass


class WithdrawIn(Written):
    reason: Line


class SignOffOut(Schema):
    by_name: str
    at: datetime
    statement: str
    withdrawn_reason: str | None


class SheetOut(Schema):
    """`cannot_sign` says what keeps this person from signing; null when nothing does."""

    job_id: UUID
    job_number: int
    vehicle: str
    signed: bool
    cannot_sign: str | None
    sign_offs: list[SignOffOut]


class ImportedOut(Schema):
    job_id: UUID
    number: int
