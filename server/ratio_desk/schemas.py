"""The ratio desk over the API; what is asked of the core and what it answers are the core's own shapes."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Literal
from uuid import UUID

from ninja import Schema
from pydantic import Field, StringConstraints

from amber_core.ratios.choose import AxleOption, Chosen, GearboxOption, Use, Weights
from amber_core.ratios.compare import Compared
from amber_core.ratios.tyre_change import ChangedGearing, Speedometer
from amber_core.ratios.vehicle import Engine, Load
from amber_core.tyres.designation import Tyre
from amber_core.words import Said
from shared.schemas import Plain, Written
from stores.schemas import GearboxOut, RatioOut, TransferCaseOut
from vehicles.schemas import AxleName, LayoutName
from work.schemas import MatchOut

Shown = Annotated[str, StringConstraints(strip_whitespace=True, max_length=120)]
Circumference = Annotated[float, Field(ge=100, le=1e6, allow_inf_nan=False)]


class TyreIn(Schema):
    """As written on the side; a measured roll-out [mm] over turns counts before it."""

    text: Annotated[str, Field(max_length=120)] = ""
    rollout_mm: Circumference | None = None
    turns: Annotated[float, Field(ge=0.25, le=1000, allow_inf_nan=False)] = 1.0


class PairingIn(Schema):
    """A gearbox with its transfer case and a ring and pinion."""

    gearbox: Annotated[int, Field(ge=0, le=99)]
    axle: Annotated[int, Field(ge=0, le=999)]


class SpeedometerIn(Schema):
    source: Literal["prop", "wheel"] = "prop"
    factor_before: Annotated[float, Field(ge=0.5, le=2.0, allow_inf_nan=False)] = 1.0
    driven_teeth: Annotated[int, Field(ge=5, le=100)] | None = None


class RatioInputs(Schema):
    """All of the desk: gearboxes and axles to choose among; `now` and `candidates` point into them."""

    tyre_now: TyreIn
    tyre_planned: TyreIn
    gearboxes: Annotated[list[GearboxOption], Field(min_length=1, max_length=20)]
    axles: Annotated[list[AxleOption], Field(min_length=1, max_length=100)]
    now: PairingIn
    candidates: Annotated[list[PairingIn], Field(max_length=4)] = []
    engine: Engine
    load: Load
    use: Use
    weights: Weights
    speedometer: SpeedometerIn
    grades_pct: Annotated[list[float], Field(max_length=4)] = [5.0, 10.0, 20.0]


class RatioAnswer(Schema):
    """What came out; what needs a tyre is null until it can be read. `feel`: what a change of tyre does, and what would undo it."""

    tyre_now: Tyre
    tyre_planned: Tyre
    change: ChangedGearing | None
    feel: list[Said] = []
    speedometers: list[Speedometer]
    compared: Compared | None
    chosen: Chosen | None


class FittedIn(Written):
    """Which gearing of a saved answer was fitted, as the answer lists them."""

    gearing: Annotated[int, Field(ge=0, le=20)]


class ResultOut(Plain):
    id: UUID
    title: str
    engine_version: str
    is_current: bool
    by_name: str
    at: datetime
    links: list[datetime]


class ResultWholeOut(ResultOut):
    inputs: RatioInputs
    answer: RatioAnswer


class EndOut(Plain):
    tyre: str
    circumference_m: float | None
    measured: bool
    pinion_teeth: int | None
    ring_teeth: int | None


class FirstFigures(Schema):
    """Typical figures to begin with, each to be replaced by the vehicle's own."""

    engine: Engine
    load: Load
    use: Use
    weights: Weights
    speedometer: SpeedometerIn
    grades_pct: list[float]


class DeskOut(Plain):
    job_id: UUID
    work_id: UUID
    job_number: int
    vehicle: str
    vehicle_id: UUID
    vehicle_version: int
    gearbox: str
    transfer_case: str
    layout: LayoutName
    axle: AxleName
    use: str
    family_name: str
    is_sample: bool
    ring_outer_diameter_mm: float
    signed_off: bool
    ratios: list[RatioOut]
    front: EndOut | None
    rear: EndOut
    match: MatchOut | None
    gearboxes: list[GearboxOut]
    transfer_cases: list[TransferCaseOut]
    first: FirstFigures
    results: list[ResultOut]


class ResultIn(Written):
    title: Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=200)]
    inputs: RatioInputs


class LinkIn(Written):
    days: Annotated[int, Field(ge=1, le=90)] = 14


class LinkOut(Plain):
    """The only time that the token is told."""

    token: str
    expires_at: datetime


class SharedOut(Plain):
    """What a link shows: the result, the vehicle in words and the shop's name; nothing else of the job."""

    shop_name: str
    vehicle: str
    title: str
    at: datetime
    expires_at: datetime
    inputs: RatioInputs
    answer: RatioAnswer
