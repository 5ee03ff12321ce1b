"""The set-up bench over the API. Lengths in mm, angles in degrees clockwise seen from the ring's teeth, 0 at the top."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Literal
from uuid import UUID

from ninja import Schema
from pydantic import Field

from jobs.schemas import VerdictName
from shared.schemas import Degrees, Line, ReasonOut, Typed, Written
from stores.schemas import CarrierMethodName, LimitOut

Notches = Annotated[int, Field(ge=-10000, le=10000)]


class TrialIn(Written):
    """Typed stacks such as "0.60 + 0.50 mm", or adjuster positions in notches from the first trial."""

    after: Annotated[int, Field(ge=0, le=1000)]
    ring_side: Typed | None = None
    far_side: Typed | None = None
    ring_side_notches: Notches | None = None
    far_side_notches: Notches | None = None
    from_drawer: bool = False
    note: Line = ""


class ReadingIn(Written):
    angle_deg: Degrees
    typed: Typed
    sure: bool = False


class StrikeOutIn(Written):
    reason: Line


class TypedLengthOut(Schema):
    """What a typed text would be; null while it is not yet a reading."""

    value_mm: float | None


class PieceOut(Schema):
    thickness_mm: float
    count: int


class StruckOut(Schema):
    reason: str
    by_name: str
    at: datetime


class ReadingOut(Schema):
    id: UUID
    angle_deg: float
    value_mm: float
    typed: str
    unit: str
    standing: Literal["under", "inside", "over", "unjudged"]
    by_name: str
    at: datetime
    struck: StruckOut | None


class OncePerTurnOut(Schema):
    amplitude_mm: float
    high_at_deg: float
    share: float


class AssessmentOut(Schema):
    least_mm: float
    greatest_mm: float
    mean_mm: float
    variation_mm: float
    once_per_turn: OncePerTurnOut | None
    runout_tir_mm: float | None
    positions_enough: bool
    verdict: VerdictName
    reasons: list[ReasonOut]


class TrialOut(Schema):
    id: UUID
    number: int
    ring_side_mm: float | None
    far_side_mm: float | None
    ring_side: list[PieceOut] | None
    far_side: list[PieceOut] | None
    ring_side_notches: int | None
    far_side_notches: int | None
    ring_move_mm: float | None
    expected_backlash_mm: float | None
    note: str
    by_name: str
    at: datetime
    readings: list[ReadingOut]
    assessment: AssessmentOut | None


class MoveOut(Schema):
    """The proposal; `typed_ring_side` and `typed_far_side` are what to send to carry it out."""

    ring_move_mm: float
    wanted_ring_move_mm: float
    expected_backlash_mm: float
    expected_least_mm: float
    expected_greatest_mm: float
    lands: bool
    ring_side: list[PieceOut] | None
    far_side: list[PieceOut] | None
    ring_side_mm: float | None
    far_side_mm: float | None
    typed_ring_side: str | None
    typed_far_side: str | None
    ring_side_notches_move: int | None
    far_side_notches_move: int | None
    ring_side_notches: int | None
    far_side_notches: int | None
    reasons: list[ReasonOut]


class NextOut(Schema):
    kind: Literal["measure", "finished", "move", "look_for_runout", "identify", "no_window"]
    text: str
    move: MoveOut | None


class SlopeOut(Schema):
    """How the gear set answers: plunger backlash per ring move, and what was estimated to know it."""

    ring_teeth: int
    ratio: float
    backlash_per_ring_move: float
    plunger_per_arc: float
    estimated: list[str]


class BenchOut(Schema):
    job_id: UUID
    job_number: int
    vehicle: str
    axle_label: str
    family_name: str
    carrier_method: CarrierMethodName
    carrier_label: str
    ring_side_hint: str
    notch_mm: float | None
    signed_off: bool
    limits: list[LimitOut]
    min_mm: float | None
    max_mm: float | None
    max_variation_mm: float | None
    resolution_mm: float
    positions_deg: list[float]
    slope: SlopeOut | None
    trials: list[TrialOut]
    next: NextOut
