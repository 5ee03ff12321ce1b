"""The noise finder over the API; what is asked of the core and what it answers are the core's own shapes."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Literal
from uuid import UUID

from ninja import Schema
from pydantic import Field, StringConstraints

from amber_core.vibration.felt import Felt, FeltQuestion
from amber_core.vibration.order_chart import OrderChart
from amber_core.vibration.orders import Drivetrain
from amber_core.vibration.tell_apart import CheckAdvised
from amber_core.words import Said
from shared.schemas import Plain, Written

StateWord = Literal["queued", "reading", "done", "failed"]
Kmh = Annotated[float, Field(gt=0, le=500, allow_inf_nan=False)]
FaultWord = Literal["tyre_balance", "oval_tyre", "prop_balance", "joint_angles", "gear_whine", "weak_cylinder", "engine_mount", "nothing"]


class RecordingOut(Plain):
    id: UUID
    name: str
    source: Literal["file", "simulated"]
    size_bytes: int
    from_kmh: float
    to_kmh: float
    state: StateWord
    share_read: float
    error: Said
    notes: list[str]
    by_name: str
    at: datetime


class RecordingWholeOut(RecordingOut):
    chart: OrderChart | None


class RunIn(Schema):
    """A run of the simulated recorder."""

    drivetrain: Drivetrain
    faults: Annotated[list[FaultWord], Field(min_length=1, max_length=4)]
    from_kmh: Kmh = 60
    to_kmh: Kmh = 110
    gear_ratio: Annotated[float, Field(ge=0.2, le=30, allow_inf_nan=False)] = 1.0
    seconds: Annotated[float, Field(ge=2, le=120, allow_inf_nan=False)] = 60
    rate_hz: Annotated[float, Field(ge=50, le=1600, allow_inf_nan=False)] = 200
    speed_error: Annotated[float, Field(ge=-0.2, le=0.2, allow_inf_nan=False)] = 0


class RecordingIn(Written):
    """What goes beside a file: the road speed as it was told, where the file has none."""

    from_kmh: Kmh
    to_kmh: Kmh


class ReadAgainIn(Written):
    """Begin a reading again that failed."""


class SimulateIn(RunIn, Written):
    """The same, with the id of the write."""


class RecordedInputs(Schema):
    """A recording held against a drivetrain in a gear, with the checks made so far."""

    recording: UUID
    drivetrain: Drivetrain
    gear_ratio: Annotated[float, Field(ge=0.2, le=30, allow_inf_nan=False)] | None = None
    engine_rpm: Annotated[float, Field(ge=0, le=20000, allow_inf_nan=False)] | None = None
    made: Annotated[list[Annotated[str, Field(max_length=40)]], Field(max_length=20)] = []


class LineOut(Plain):
    """A source's line on the chart: hertz per km/h, or a steady frequency where it does not follow the road speed."""

    name: str
    words: Said
    hz_per_kmh: float
    at_reference_hz: float


class PeakOut(Plain):
    hz: float
    amplitude: float
    source: str
    words: Said


class SourceOut(Plain):
    name: str
    words: Said
    share: float
    word: str
    reason: Said


class RecordedAnswer(Schema):
    """Sources ranked by what they explain of the peaks; the lines to lay over the chart; the cheapest checks."""

    chart: OrderChart
    lines: list[LineOut]
    peaks: list[PeakOut]
    sources: list[SourceOut]
    unknown: float
    speed_scale: float
    inseparable: list[list[str]]
    next_checks: list[CheckAdvised]
    reason: Said


class FeltIn(Schema):
    felt: FeltQuestion


class NoiseFindingOut(Plain):
    id: UUID
    title: str
    kind: Literal["felt", "recorded"]
    first: Said
    engine_version: str
    is_current: bool
    by_name: str
    at: datetime


class NoiseFindingIn(Written):
    title: Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=200)]
    felt: FeltQuestion | None = None
    recorded: RecordedInputs | None = None


class NoiseFindingWholeOut(NoiseFindingOut):
    felt: FeltQuestion | None
    recorded: RecordedInputs | None
    felt_answer: Felt | None
    recorded_answer: RecordedAnswer | None


class NoiseDeskOut(Plain):
    """What the finder begins with."""

    job_id: UUID
    work_id: UUID
    job_number: int
    vehicle: str
    complaint: str
    four_wheel_drive: bool
    signed_off: bool
    circumference_m: float | None
    axle_ratio: float | None
    pinion_teeth: int | None
    faults: list[FaultWord]
    first: FeltQuestion
    first_run: RunIn
    recordings: list[RecordingOut]
    findings: list[NoiseFindingOut]
