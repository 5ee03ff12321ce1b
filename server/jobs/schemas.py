"""Jobs over the API."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Literal
from uuid import UUID

from ninja import Schema
from pydantic import Field, StringConstraints

from shared.schemas import Line, Paragraph, Typed, Written
from stores.schemas import LimitOut, RatioOut

LayoutName = Literal["rear_drive", "four_wheel_drive"]
AxleName = Literal["front", "rear"]
UseName = Literal["road", "towing", "off_road", "rail", "shore"]
StateName = Literal["booked", "in_work", "waiting", "to_sign", "done"]
WaitsName = Literal["nothing", "parts", "cure", "cool_down", "customer", "sign_off"]
PlaceName = Literal["engine", "gearbox", "transfer_case", "front_shaft", "rear_shaft", "front_axle", "rear_axle"]
StationStateName = Literal["not_looked_at", "in_work", "good", "fault"]
VerdictName = Literal["in", "edge", "out", "unknown"]
CheckName = Literal[
    "confirm", "bolts", "gear_set", "bench_backlash", "bench_pattern", "bench_final", "torque", "litres", "odometer", "spread"
]

Named = Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=200)]
Told = Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=2000)]
Teeth = Annotated[int, Field(ge=3, le=200)]
Turns = Annotated[float, Field(ge=-10000.0, le=10000.0, allow_inf_nan=False)]


class JobIn(Schema):
    id: UUID
    customer: Named
    vehicle: Named
    layout: LayoutName
    axle: AxleName
    family: Named
    complaint: Told
    use: UseName
    use_note: Paragraph = ""


class JobEdit(Schema):
    """Only what is given changes."""

    version: int
    customer: Named | None = None
    vehicle: Named | None = None
    layout: LayoutName | None = None
    axle: AxleName | None = None
    family: Named | None = None
    complaint: Told | None = None
    use: UseName | None = None
    use_note: Paragraph | None = None
    waits_for: WaitsName | None = None
    waits_note: Line | None = None


class StationIn(Schema):
    state: StationStateName
    note: Line = ""


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


class StationOut(Schema):
    place: PlaceName
    label: str
    state: StationStateName
    word: str
    note: str
    under_work: bool


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
    group: str
    title: str
    why: str
    check: CheckName
    hold: bool
    caution: str
    state: Literal["passed", "open", "shut"]
    held_by: str | None
    bench_missing: str | None
    is_next: bool
    limit: LimitOut | None
    entered: str
    note: str
    due: str | None
    by_name: str | None
    at: datetime | None


class MatchOut(Schema):
    """Front against rear; `verdict` out keeps the road test shut. Circumferences count as equal while no tyre is known."""

    mismatch_pct: float
    leads: Literal["front", "rear", "neither"]
    scrub_m_per_km: float
    windup_prop_turns_per_km: float
    front_ratio_for_zero: float
    verdict: VerdictName
    text: str
    tyres_known: bool


class AxleFactIn(Written):
    """One end of the vehicle: the tyre as written, a measured roll-out, and teeth; what is empty is not known."""

    end: AxleName
    tyre: Annotated[str, Field(max_length=60)] = ""
    rollout_mm: Annotated[float, Field(ge=100, le=1e6, allow_inf_nan=False)] | None = None
    turns: Annotated[float, Field(ge=0.25, le=1000, allow_inf_nan=False)] = 1.0
    pinion_teeth: Annotated[int, Field(ge=3, le=60)] | None = None
    ring_teeth: Annotated[int, Field(ge=4, le=150)] | None = None


class JobOut(Schema):
    id: UUID
    number: int
    version: int
    customer: str
    vehicle: str
    layout: LayoutName
    axle: AxleName
    family: str
    family_name: str
    family_build: str
    is_sample: bool
    ratios: list[RatioOut]
    complaint: str
    use: UseName
    use_note: str
    state: StateName
    state_word: str
    waits_for: WaitsName
    waits_word: str
    waits_note: str
    next_action: str
    backlash_verdict: VerdictName
    created_by_name: str
    created_at: datetime
    updated_at: datetime
    signed_off_at: datetime | None
    imported_by_name: str
    imported_at: datetime | None
    stations: list[StationOut]
    gear_set: GearSetOut | None
    match: MatchOut | None
    steps: list[StepOut]
