"""The Floor over the API."""

from __future__ import annotations

from datetime import date, datetime
from uuid import UUID

from amber_core.words import Said
from hand_over.schemas import FollowUpOut
from jobs.schemas import StateName, WaitsName
from shared.schemas import Plain


class FloorJobOut(Plain):
    id: UUID
    number: int
    customer: str
    vehicle: str
    shop: str
    """The workshop's name where every workshop is looked at; else empty."""
    complaint: str
    state: StateName
    state_word: Said
    waits_for: WaitsName
    waits_word: Said
    waits_note: str
    next_action: Said
    updated_at: datetime


class RunningOut(Plain):
    """A clock that runs on a piece of work, and when it is over."""

    job_id: UUID
    work_id: UUID
    number: int
    vehicle: str
    title: Said
    until: datetime


class PromisedOut(Plain):
    """A job that was promised for today or before, and is not signed off."""

    job_id: UUID
    number: int
    vehicle: str
    promised_on: date


class TodayOut(Plain):
    """What runs, what is due, and what was promised."""

    clocks: list[RunningOut]
    due: list[FollowUpOut]
    promised: list[PromisedOut]


class PlannedOut(Plain):
    """A piece of work in the plan, in the shop's own time: `late` when it is ready after the promised day."""

    job_id: UUID
    work_id: UUID
    number: int
    vehicle: str
    title: Said
    begin: datetime
    ready: datetime
    today: bool
    late: bool
    parts_due_on: date | None
    """The day of the last of the parts that the job waits for."""


class PlanOut(Plain):
    """The open pieces of work over the shop's hours, with so many people."""

    hands: int
    works: list[PlannedOut]


class FloorOut(Plain):
    """A page of jobs; `more` when another follows."""

    jobs: list[FloorJobOut]
    page: int
    more: bool
