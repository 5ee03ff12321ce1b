"""Hand-over over the API."""

from __future__ import annotations

from datetime import date, datetime
from typing import Annotated, Literal
from uuid import UUID

from pydantic import StringConstraints

from amber_core.words import Said
from shared.schemas import Line, Paragraph, Plain, Typed, Written

Received = Annotated[str, StringConstraints(strip_whitespace=True, max_length=120)]


class HandOverIn(Written):
    """Who receives the vehicle, at how many kilometres, and what is written on the page; `sure` takes an odometer below the last."""

    odometer: Typed
    received_by: Received
    not_done: Paragraph = ""
    guarantee: Paragraph = ""
    old_parts: Line = ""
    come_back: Line = ""
    sure: bool = False


class FollowUpEndIn(Written):
    missed: bool = False
    note: Line = ""


class FollowUpOut(Plain):
    """One thing that comes due, by day or by odometer [km]; `ended` when it was ticked off."""

    id: int
    code: str
    text: Said
    kind: Literal["do", "limit", "check"]
    at_km: float | None
    from_km: float | None
    until_km: float | None
    on_date: date | None
    job_id: UUID
    number: int
    vehicle: str
    ended: Literal["done", "missed"] | None
    by_name: str | None


class DueOut(Plain):
    """What is due today, by day or by odometer."""

    due: list[FollowUpOut]


class HandOverOut(Plain):
    """Whether the vehicle may be handed over, to whom it was, and what comes due; `by_file` where only an imported file says so."""

    job_id: UUID
    number: int
    vehicle: str
    signed: bool
    last_km: float | None
    received_by: str | None
    by_name: str | None
    at: datetime | None
    by_file: bool
    follow_ups: list[FollowUpOut]
