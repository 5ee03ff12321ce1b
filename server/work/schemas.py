"""Pieces of work over the API."""

from __future__ import annotations

from datetime import date, datetime
from typing import Annotated, Literal
from uuid import UUID

from ninja import Schema
from pydantic import Field, StringConstraints

from amber_core.words import Said
from jobs.schemas import StateName, StationOut, Told, UseName, VerdictName, WaitsName
from shared.schemas import Edit, Line, Paragraph, Plain, Typed, Written
from stores.schemas import FastenerOut, FluidOut, LimitOut, RatioOut
from vehicles.schemas import AxleName, Code, LayoutName, Named, PlaceName

KindName = Annotated[str, StringConstraints(pattern=r"^[a-z0-9_]{1,40}$")]
"""A kind of work, as `GET /kinds` lists them."""
ActName = Literal["confirm", "read", "count", "choose", "bolts", "clock", "wait", "measure", "take_off", "put_back"]
Slug = Annotated[str, StringConstraints(pattern=r"^[a-z0-9_]{1,40}$")]
Teeth = Annotated[int, Field(ge=3, le=200)]
Turns = Annotated[float, Field(ge=-10000.0, le=10000.0, allow_inf_nan=False)]


class WorkBooked(Schema):
    """A piece of work as it is booked; `id` is made by the client. Without a family nothing is judged by a sheet."""

    id: UUID
    kind: KindName
    place: PlaceName
    family: Code = ""


class JobIn(Written):
    """A visit with its first piece of work. `id` is the job's, made by the client; without `client_id` it is the write's too.

    A vehicle that is known is named by `vehicle_id`; otherwise `vehicle` and `layout` make a new one, owned by the customer. The first
    piece of work is on `place`, or on the axle of the end `axle`; `more` are further ones. `sure` takes an odometer below the last.
    """

    client_id: UUID | None = None  # type: ignore[assignment]
    id: UUID
    customer: Named
    vehicle_id: UUID | None = None
    vehicle: Annotated[str, StringConstraints(strip_whitespace=True, max_length=200)] = ""
    layout: LayoutName = "rear_drive"
    kind: KindName = "ring_and_pinion"
    axle: AxleName | None = None
    place: PlaceName | None = None
    family: Code = ""
    more: Annotated[list[WorkBooked], Field(max_length=10)] = []
    complaint: Told
    use: UseName
    use_note: Paragraph = ""
    promised_on: date | None = None
    odometer: Typed = ""
    sure: bool = False

    @property
    def write_id(self) -> UUID:
        """The write's own id, or the job's."""
        return self.client_id or self.id


class WorkIn(Written):
    """One more piece of work on a job; `id` is made by the client."""

    id: UUID
    kind: KindName = "ring_and_pinion"
    axle: AxleName | None = None
    place: PlaceName | None = None
    family: Code = ""


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
    """The answer to a question of the run sheet; the recommended one needs no reason the first time."""

    question: Slug
    way: Slug
    reason: Line = ""


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
    """What a step asks for: one value as `typed`, several by the names of its asks. `keep` records a reading that is out, and the step
    stays open; `sure` records an odometer that is less than before.
    """

    typed: Typed = ""
    values: Annotated[dict[str, Typed], Field(max_length=20)] = {}
    note: Annotated[str, StringConstraints(strip_whitespace=True, max_length=400)] = ""
    keep: bool = False
    sure: bool = False


class StepBeginIn(Written):
    """Start a clock, for its usual minutes or others; or park the work: what it waits for, and what lies where."""

    minutes: Annotated[int, Field(ge=1, le=60 * 24 * 60)] | None = None
    waits_for: Literal["parts", "customer"] = "parts"
    note: Annotated[str, StringConstraints(strip_whitespace=True, max_length=400)] = ""


class StepSkipIn(Written):
    """Leave a step out, or cut its clock short."""

    reason: Line


class StepPhotoIn(Written):
    """What goes beside a picture taken at a step."""


class StepBackIn(Written):
    reason: Line


class GearSetOut(Plain):
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


class AskOut(Plain):
    """One value that a step reads: `unit` where a bare figure is not in the person's own, what judges it, and what was found before."""

    name: str
    what: Said
    dimension: Literal["length", "torque", "force", "volume", "distance", "number"]
    unit: str
    limit: LimitOut | None
    as_found: bool
    may_skip: bool
    beside: Said | None
    entered: str
    verdict: VerdictName
    text: Said


class StepWayOut(Plain):
    """One way; `chosen` by whom and why stands in the work's ways. `shut` says why it is not open to this work, empty where it is."""

    code: str
    title: Said
    fits: Said
    risk: Said
    recommended: bool
    chosen: bool
    shut: Said


class ClockOut(Plain):
    """A clock that runs, or a wait (`until` is null): begun when, over when, and minutes to go."""

    begun_at: datetime
    until: datetime | None
    minutes_to_go: float | None


class StepPhotoOut(Plain):
    """A picture taken at a step."""

    id: UUID
    by_name: str
    at: datetime


class StepFastenerOut(FastenerOut):
    """Bolts or nuts that a step tightens: their numbers in tightening order, on each of `sides`, and the torque of each stage."""

    sides: int
    order: list[int]
    stages_nm: list[float]


class ToolLineOut(Plain):
    """One figure of what a bench tool gave."""

    name: str
    what: Said
    said: Said
    verdict: VerdictName


class StepMeasuredOut(Plain):
    """The latest answer of a bench tool for a step, and the readings found for it, by the name of the ask."""

    id: UUID
    title: str
    verdict: VerdictName | None
    lines: list[ToolLineOut]
    readings: dict[str, str]
    by_name: str
    at: datetime


class StepToolOut(Plain):
    """A bench tool that measures a step."""

    code: str
    title: Said


class StepOut(Plain):
    """A step of the run sheet. `is_next` is the one in hand; `fastener` is what is tightened here, `fluids` what may be poured."""

    code: str
    group: Said
    title: Said
    why: Said
    act: ActName
    measure: str
    hold: bool
    caution: Said
    state: Literal["passed", "open", "shut"]
    outcome: Literal["passed", "cut_short", "skipped", "begun", "out", "taken_back"] | None
    held_by: Said | None
    missing: Said | None
    is_next: bool
    asks: list[AskOut]
    ways: list[StepWayOut]
    clock: ClockOut | None
    wait_minutes: int
    minutes: int
    may_skip: bool
    note_asked: Said
    photo: bool
    photos: list[StepPhotoOut]
    tools: list[StepToolOut]
    measured: StepMeasuredOut | None
    aid: Literal["", "heat", "speed", "quote"]
    fastener: StepFastenerOut | None
    fluids: list[FluidOut]
    entered: str
    note: str
    due: Said | None
    by_name: str | None
    at: datetime | None


class SheetRevisionOut(Plain):
    """A revision of a spec sheet; `changes` says what is another than in the one that the work is judged by."""

    number: int
    by_name: str
    at: datetime
    reason: str
    changes: list[Said]


class WayOut(Plain):
    question: str
    way: str
    reason: str
    by_name: str
    at: datetime


class AsFoundReadingOut(Plain):
    """A line of the as-found book, with what was read of it since."""

    name: str
    what: Said
    entered: str
    since: str
    by_name: str
    at: datetime


class BlockOut(Plain):
    """A block that a kind of work can be put together from; `wants` have to come with it."""

    code: str
    title: Said
    places: list[PlaceName]
    wants: list[str]
    steps: list[Said]


class OwnKindIn(Edit):
    """A kind of work put together from blocks; `number` is that of the revision that was read, 0 for a new one."""

    number: Annotated[int, Field(ge=0, le=1_000_000)]
    reason: Line = ""
    title: Annotated[str, StringConstraints(strip_whitespace=True, max_length=80)]
    about: Line = ""
    places: Annotated[list[PlaceName], Field(max_length=10)]
    blocks: Annotated[list[Slug], Field(max_length=40)]


class OwnKindOut(Plain):
    """How a kind of the shop's own is put together."""

    number: int
    by_name: str
    reason: str
    title: str
    about: str
    places: list[PlaceName]
    blocks: list[str]


class KindOut(Plain):
    """A kind of work that can be booked: where, how long it usually takes, and whether it wants an axle family."""

    code: str
    title: Said
    about: Said
    places: list[PlaceName]
    bench: bool
    minutes: int


class BookablePlaceOut(Plain):
    """A part of a vehicle that work can be booked on; `sheet` is what a sheet must be for to belong there, empty where none can."""

    place: PlaceName
    label: Said
    sheet: Literal["", "axle", "transfer_case", "propshaft"]


class OwnStepPart(Schema):
    """A step of the shop's own; `code` begins with own_."""

    code: Slug
    after: Slug
    title: Annotated[str, StringConstraints(strip_whitespace=True, max_length=200)]
    why: Annotated[str, StringConstraints(strip_whitespace=True, max_length=300)]
    caution: Annotated[str, StringConstraints(strip_whitespace=True, max_length=300)] = ""
    hold: bool = False
    note: Line = ""
    minutes: Annotated[int, Field(ge=0, le=10_000)] = 5


class OwnWayPart(Schema):
    """One more way of answering a question of the library."""

    question: Slug
    code: Slug
    title: Line
    fits: Line = ""
    risk: Line = ""


class ShapePart(Schema):
    """What a shop adds to a kind of work; cautions and minutes by the code of the step."""

    steps: Annotated[list[OwnStepPart], Field(max_length=100)] = []
    cautions: Annotated[dict[str, Line], Field(max_length=200)] = {}
    minutes: Annotated[dict[str, Annotated[int, Field(ge=0, le=10_000)]], Field(max_length=200)] = {}
    ways: Annotated[list[OwnWayPart], Field(max_length=100)] = []


class ShapeIn(Written):
    """`number` is that of the shape that was read, 0 where there was none."""

    number: Annotated[int, Field(ge=0, le=1_000_000)]
    reason: Line
    shape: ShapePart


class LibraryStepOut(Plain):
    """A step of a kind of work, the shop's own among them; `learnt` is what it took here lately, [min], once it was done often enough."""

    code: str
    group: Said
    title: Said
    why: Said
    act: ActName
    hold: bool
    caution: Said
    minutes: int
    learnt: int | None
    own: bool
    needs: list[str]


class LibraryOut(Plain):
    """A kind of work with its steps, and what the shop adds to it."""

    kind: str
    title: Said
    made: OwnKindOut | None
    number: int
    by_name: str
    reason: str
    shape: ShapePart
    steps: list[LibraryStepOut]


class KindsOut(Plain):
    """All kinds, those that a complaint points at, likeliest first, and what each layout of vehicle has."""

    kinds: list[KindOut]
    places: dict[LayoutName, list[BookablePlaceOut]]
    pointed_at: list[str]


class MatchOut(Plain):
    """Front against rear; `verdict` out keeps the road test shut. Circumferences count as equal while no tyre is known."""

    mismatch_pct: float
    leads: Literal["front", "rear", "neither"]
    scrub_m_per_km: float
    windup_prop_turns_per_km: float
    front_ratio_for_zero: float
    verdict: VerdictName
    text: Said
    tyres_known: bool


class WorkRowOut(Plain):
    """A piece of work in the job's list."""

    id: UUID
    number: int
    kind: KindName
    title: Said
    axle: AxleName
    place: PlaceName
    family_name: str
    on_bench: bool
    state: StateName
    state_word: Said
    next_action: Said
    signed_off_at: datetime | None


class JobOut(Plain):
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


class WorkOut(Plain):
    """One piece of work: what it is judged by, its gear set and its run sheet."""

    id: UUID
    job_id: UUID
    number: int
    version: int
    kind: KindName
    title: Said
    axle: AxleName
    place: PlaceName
    on_bench: bool
    state: StateName
    state_word: Said
    next_action: Said
    signed_off_at: datetime | None
    family: str
    family_name: str
    family_build: str
    is_sample: bool
    sheet_revision: int | None
    newer_sheet: SheetRevisionOut | None
    ratios: list[RatioOut]
    gear_set: GearSetOut | None
    ways: list[WayOut]
    as_found: list[AsFoundReadingOut]
    steps: list[StepOut]


class LeftLineOut(Plain):
    """One quantity as it was left, beside as it was found; as numbers too where there are any."""

    name: str
    what: Said
    said: Said
    found: str
    verdict: VerdictName
    value: float | None = None
    found_value: float | None = None


class WorkLeftOut(Plain):
    """What one piece of work measured when it left; open work shows what it has read so far."""

    work_id: UUID
    place: PlaceName
    label: Said
    signed_off_at: datetime | None
    lines: list[LeftLineOut]


class VisitOut(Plain):
    """One job of a vehicle, and what each piece of work was left with."""

    job_id: UUID
    number: int
    complaint: str
    state: StateName
    state_word: Said
    booked: datetime
    work: list[Said]
    finals: list[Said]
    left: list[WorkLeftOut]
