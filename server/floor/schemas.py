"""The Floor over the API."""

from __future__ import annotations

from datetime import datetime
from uuid import UUID

from ninja import Schema

from amber_core.words import Said
from jobs.schemas import StateName, WaitsName


class FloorJobOut(Schema):
    id: UUID
    number: int
    customer: str
    vehicle: str
    complaint: str
    state: StateName
    state_word: Said
    waits_for: WaitsName
    waits_word: Said
    waits_note: str
    next_action: Said
    updated_at: datetime


class FloorOut(Schema):
    """A page of jobs; `more` when another follows."""

    jobs: list[FloorJobOut]
    page: int
    more: bool
