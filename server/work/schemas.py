"""Pieces of work over the API."""

from __future__ import annotations

from datetime import date, datetime
from typing import Annotated, Literal
from uuid import UUID

from ninja import Schema
from pydantic import Field, StringConstraints

from amber_core.words import Said
from jobs.schemas import StateName, StationOut, Told, UseName, VerdictName, WaitsName
from shared.schemas import Edit, Line, Paragraph, Typed, Written
from stores.schemas import LimitOut, RatioOut
from vehicles.schemas import AxleName, LayoutName, Named

KindName = Literal["ring_and_pinion"]
CheckName = Literal[
    "confirm", "bolts", "gear_set", "bench_backlash", "bench_pattern", "bench_final", "torque", "litres", "odometer", "spread"
]
Slug = Annotated[str, StringConstraints(pattern=r"^[a-z0-9_]{1,40}$")]
Teeth = Annotated[int, Field(ge=3, le=200)]
Turns = Annotated[float, Field(ge=-10000.0, le=10000.0, allow_inf_nan=False)]


class JobIn(Written):
    """A visit with its first piece of work. `id` is the job's, made by the client; without `client_id` it is the write's too.

    A vehicle that is known is named by `vehicle_id`; otherwise `vehicle` and `layout` make a new one, owned by the customer.
    """

    client_id: UUID | None = None  # type: ignore[assignment]
    id: UUID
    customer: Named
    vehicle_id: UUID | None = None
    vehicle: Annotated[str, StringConstraints(strip_whitespace=True, max_length=200)] = ""
    layout: LayoutName = "rear_drive"
    kind: KindName = "ring_and_pinion"
    axle: AxleName
    family: Named
    complaint: Told
    use: UseName
    use_note: Paragraph = ""

    @property
    def write_id(self) -> UUID:
        """The write's own id, or the job's."""
        return self.client_id or self.id


class WorkIn(Written):
    """One more piece of work on a job; `id` is made by the client."""

    id: UUID
    kind: KindName = "ring_and_pinion"
    axle: AxleName
    family: Named


class WorkEdit(Edit):
    """Only what is given changes."""

    version: int
    axle: AxleName | None = None
    family: Named | None = None


class SheetAdoptIn(Written):
    """Go over to another revision of the sheet, with a reason."""

    revision: Annotated[int, Field(ge=1, le=1_000_000)]
    version: int
    reason: Line


class WayIn(Written):
    question: Slug
    way: Slug
    reason: Line


class GearSetIn(Written):
    """Tooth counts, or turns with the pair of teeth they were taken for."""

    pinion_teeth: Teeth
    ring_teeth: Teeth
    by_turns: bool = False
    pinion_turns: Turns | None = None
    wheel_turns: Turns | None = None
    other_wheel: Literal["held", "turning_together"] | None = None
    turn_uncertainty: Annotated[float, Field(ge=0.0, le=1.0, allow_inf_nan=False)] = 0.05
    guess_ratio: Annotated[float, Field(ge=1.0, le=20.0, allow_inf_nan=False)] | None = None


class StepPassIn(Written):
    typed: Typed = ""
    note: Line = ""


class StepBackIn(Written):
    reason: Line


class GearSetOut(Schema):
    pinion_teeth: int
    ring_teeth: int
    ratio: float
    hunting: Literal["hunting", "partial", "non_hunting"]
    counted_ratio: float | None
    guess_ratio: float | None
    guess_agrees: bool | None
    in_family: bool
    by_name: str
    at: datetime


class StepOut(Schema):
    code: str
    group: Said
    title: Said
    why: Said
    check: CheckName
    hold: bool
    caution: Said
    state: Literal["passed", "open", "shut"]
    held_by: Said | None
    missing: Said | None
    is_next: bool
    limit: LimitOut | None
    entered: str
    note: str
    due: Said | None
    by_name: str | None
    at: datetime | None


class SheetRevisionOut(Schema):
    """A revision of a spec sheet; `changes` says what is another than in the one that the work is judged by."""

    number: int
    by_name: str
    at: datetime
    reason: str
    changes: list[Said]


class WayOut(Schema):
    question: str
    way: str
    reason: str
    by_name: str
    at: datetime


class MatchOut(Schema):
    """Front against rear; `verdict` out keeps the road test shut. Circumferences count as equal while no tyre is known."""

    mismatch_pct: float
    leads: Literal["front", "rear", "neither"]
    scrub_m_per_km: float
    windup_prop_turns_per_km: float
    front_ratio_for_zero: float
    verdict: VerdictName
    text: Said
    tyres_known: bool


class WorkRowOut(Schema):
    """A piece of work in the job's list."""

    id: UUID
    number: int
    kind: KindName
    title: Said
    axle: AxleName
    family_name: str
    state: StateName
    state_word: Said
    next_action: Said
    signed_off_at: datetime | None


class JobOut(Schema):
    """A visit: card, map, its pieces of work, and whether both ends of the vehicle fit."""

    id: UUID
    number: int
    version: int
    customer: str
    vehicle_id: UUID
    vehicle: str
    registration: str
    layout: LayoutName
    complaint: str
    use: UseName
    use_note: str
    promised_on: date | None
    state: StateName
    state_word: Said
    waits_for: WaitsName
    waits_word: Said
    waits_note: str
    next_action: Said
    created_by_name: str
    created_at: datetime
    updated_at: datetime
    signed_off_at: datetime | None
    imported_by_name: str
    imported_at: datetime | None
    imported_note: str
    stations: list[StationOut]
    works: list[WorkRowOut]
    match: MatchOut | None


class WorkOut(Schema):
    """One piece of work: what it is judged by, its gear set and its run sheet."""

    id: UUID
    job_id: UUID
    number: int
    version: int
    kind: KindName
    title: Said
    axle: AxleName
    state: StateName
    state_word: Said
    next_action: Said
    signed_off_at: datetime | None
    family: str
    family_name: str
    family_build: str
    is_sample: bool
    sheet_revision: int
    newer_sheet: SheetRevisionOut | None
    ratios: list[RatioOut]
    gear_set: GearSetOut | None
    ways: list[WayOut]
    steps: list[StepOut]


class VisitOut(Schema):
    """One job of a vehicle, and what each piece of work was left with."""

    job_id: UUID
    number: int
    complaint: str
    state: StateName
    state_word: Said
    booked: datetime
    work: list[Said]
    finals: list[Said]
