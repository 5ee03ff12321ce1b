"""The open file of a job, version 9: documented in docs/formats.md, its JSON schema made from these classes.

Versions 3 to 8 are read as they are: 8 had no quotes, 7 no hand-over, 6 no Diff bench, 5 no Parts wall, 3 ring and pinion alone. 1 and 2
had one piece of work, laid flat; they are read by `OldJobFile` and turned into this one.
"""

from __future__ import annotations

from collections.abc import Callable
from datetime import UTC, date, datetime
from typing import Annotated, Any, Literal, Self
from uuid import NAMESPACE_OID, UUID, uuid5

from pydantic import AfterValidator, AwareDatetime, Base64Bytes, BaseModel, ConfigDict, Field, StringConstraints, model_validator

from amber_core.driveline.inspection import JointFelt
from amber_core.planning.quote import QuoteQuestion
from amber_core.vibration.felt import Felt, FeltQuestion
from amber_core.words import Said, say, storing
from diff_bench.schemas import BenchInputs, BenchSummary
from driveline_desk.schemas import DrivelineAnswer, DrivelineInputs
from hand_over.content import PageContent
from jobs.schemas import StationStateName, UseName, WaitsName
from noise_finder.schemas import RecordedAnswer, RecordedInputs
from parts_wall.quoted import QuoteContent
from parts_wall.schemas import DecisionName, DrawnIn, NeedStateName, SideName, StackPieceOut
from parts_wall.schemas import Key as PartKey
from ratio_desk.schemas import RatioAnswer, RatioInputs
from records.writing import hash_of
from setup_bench.schemas import DriveFlankName, EdgeName, FlankName, PhotoPlace, PreloadPartName, SetStateName, Share, VehicleSideName
from stores.schemas import CarrierMethodName, FastenerPlaceName, LayoutOfBoltsName, PartName, QuantityName
from vehicles.schemas import AxleName, LayoutName, PlaceName
from work.schemas import KindName

FORMAT: Literal["amber-pinion.job"] = "amber-pinion.job"
VERSION: Literal[9] = 9
FIRST_OF_WORKS = 3
"""The first version in which a job has pieces of work."""

Text = Annotated[str, StringConstraints(max_length=2000)]
Short = Annotated[str, StringConstraints(max_length=200)]
Name = Annotated[str, StringConstraints(min_length=1, max_length=120)]
Told = Annotated[str, StringConstraints(min_length=1, max_length=2000)]
Number = Annotated[float, Field(ge=-1e6, le=1e6, allow_inf_nan=False)]
Count = Annotated[int, Field(ge=0, le=1_000_000)]
Teeth = Annotated[int, Field(ge=3, le=200)]
Thickness = Annotated[float, Field(ge=0.001, le=50.0, allow_inf_nan=False)]
Piece = tuple[Thickness, Annotated[int, Field(ge=1, le=100)]]
Notches = Annotated[int, Field(ge=-10000, le=10000)]


def _plausible(moment: datetime) -> datetime:
    """No workshop wrote anything before 1970, and no clock is years ahead."""
    if not 1970 <= moment.year <= datetime.now(UTC).year + 2:
        raise ValueError(say("this date cannot be right. Check the year."))
    return moment


Moment = Annotated[AwareDatetime, AfterValidator(_plausible)]
Hash = Annotated[str, StringConstraints(pattern=r"^[0-9a-f]{64}$")]


class Part(BaseModel):
    model_config = ConfigDict(extra="forbid")


def _shown_as(content: type[BaseModel]) -> Callable[[dict[str, Any]], dict[str, Any]]:
    """A check of what was given to somebody: kept unchanged, when it can be shown as this."""

    def unchanged(document: dict[str, Any]) -> dict[str, Any]:
        content.model_validate(document)
        return document

    return unchanged


class Written(Part):
    """Who wrote it and when; `id` is the client-made id of the write."""

    id: UUID
    by: Name
    at: Moment


class LimitPart(Part):
    quantity: QuantityName
    least: Number | None
    greatest: Number | None
    source_note: Annotated[str, StringConstraints(min_length=1, max_length=200)]


class RatioPart(Part):
    pinion_teeth: Teeth
    ring_teeth: Teeth
    needs_carrier: bool = False
    needs_thick_ring: bool = False


class FastenerPart(Part):
    place: FastenerPlaceName
    count: Annotated[int, Field(ge=1, le=200)]
    layout: LayoutOfBoltsName
    torque_nm: Annotated[float, Field(gt=0, le=10_000)] | None
    angle_deg: Annotated[float, Field(gt=0, le=720)] | None
    thread: Annotated[str, StringConstraints(max_length=40)]
    oiled: bool
    one_time_use: bool
    left_hand: bool
    locked_by: Annotated[str, StringConstraints(max_length=80)]
    source_note: Annotated[str, StringConstraints(min_length=1, max_length=200)]


class FluidPart(Part):
    oil: Annotated[str, StringConstraints(min_length=1, max_length=80)]
    litres: Annotated[float, Field(gt=0, le=200)]
    level_below_plug_mm: Annotated[float, Field(ge=0, le=500)]
    modifier_ml: Annotated[float, Field(gt=0, le=200_000)] | None
    modifier: Annotated[str, StringConstraints(max_length=80)]
    source_note: Annotated[str, StringConstraints(min_length=1, max_length=200)]


class FamilyPart(Part):
    """The family and its spec sheet as they stood; lengths in mm."""

    part: PartName = "axle"

    code: Annotated[str, StringConstraints(pattern=r"^[a-z0-9-]{1,60}$")]
    name: Name
    maker: Name
    build: Annotated[str, StringConstraints(max_length=300)]
    carrier_method: CarrierMethodName
    shim_place: Literal["under_head", "behind_cup", "under_cartridge_flange"]
    preload_method: Literal["crush_sleeve", "spacer", "outer_shims"]
    wheel_end: Annotated[str, StringConstraints(max_length=120)]
    shafts: Literal["", "clip", "retainer", "full_float", "half_shafts"] = ""
    has_spreader: bool
    has_speed_ring: bool
    ring_outer_diameter_mm: Annotated[float, Field(ge=50, le=1000)]
    offset_mm: Annotated[float, Field(ge=0, le=400)]
    tooth_form: Literal["tapered", "uniform"]
    notch_mm: Annotated[float, Field(gt=0, le=5)] | None
    torque_window_seal: Literal["included", "excluded"] = "excluded"
    bearing_offset_mm: Annotated[float, Field(ge=-2, le=2)] | None = None
    backlash_places: Annotated[int, Field(ge=4, le=16)] = 8
    is_sample: bool
    limits: Annotated[list[LimitPart], Field(max_length=60)]
    ratios: Annotated[list[RatioPart], Field(max_length=100)]
    fasteners: Annotated[list[FastenerPart], Field(max_length=40)] = []
    fluids: Annotated[list[FluidPart], Field(max_length=20)] = []


class VehiclePart(Part):
    """The vehicle; its id is the shop's own, and the same vehicle is found by it again."""

    id: UUID
    owner: Annotated[str, StringConstraints(min_length=1, max_length=200)]
    name: Annotated[str, StringConstraints(min_length=1, max_length=200)]
    registration: Annotated[str, StringConstraints(max_length=40)] = ""
    layout: LayoutName
    mass_kg: Annotated[float, Field(ge=50, le=200_000)] | None = None
    gearbox: Annotated[str, StringConstraints(max_length=60)] = ""
    transfer_case: Annotated[str, StringConstraints(max_length=60)] = ""
    note: Text = ""


class CardPart(Part):
    id: UUID
    number: Annotated[int, Field(ge=1, le=2_000_000_000)]
    customer: Annotated[str, StringConstraints(min_length=1, max_length=200)]
    complaint: Told
    use: UseName
    use_note: Text
    promised_on: date | None = None
    waits_for: WaitsName
    waits_note: Short
    created_by: Name
    created_at: Moment
    updated_at: Moment


class OldCardPart(Part):
    """The card of versions 1 and 2, with vehicle, layout and axle on it."""

    id: UUID
    number: Annotated[int, Field(ge=1, le=2_000_000_000)]
    customer: Annotated[str, StringConstraints(min_length=1, max_length=200)]
    vehicle: Annotated[str, StringConstraints(min_length=1, max_length=200)]
    layout: Literal["rear_drive", "four_wheel_drive"]
    axle: AxleName
    complaint: Told
    use: UseName
    use_note: Text
    waits_for: WaitsName
    waits_note: Short
    created_by: Name
    created_at: Moment
    updated_at: Moment


class StationPart(Part):
    place: PlaceName
    state: StationStateName
    note: Short


class StationRecordPart(Written):
    """What was said of a part of the driveline, in order."""

    place: PlaceName
    state: StationStateName
    note: Short


class GearSetPart(Written):
    pinion_teeth: Teeth
    ring_teeth: Teeth
    question: dict[str, Any]
    answer: dict[str, Any]


class StepReadingPart(Written):
    """One value that a step read: as it was typed, and in mm, N m, l, km or as a plain figure."""

    name: Annotated[str, StringConstraints(pattern=r"^[a-z0-9_.]{1,60}$")]
    entered: Annotated[str, StringConstraints(min_length=1, max_length=60)]
    value: Annotated[float, Field(ge=-1e7, le=1e7, allow_inf_nan=False)]


class StepPart(Written):
    step: Annotated[str, StringConstraints(pattern=r"^[a-z0-9_]{1,40}$")]
    outcome: Literal["passed", "cut_short", "skipped", "begun", "out", "taken_back"]
    entered: Short
    value: Annotated[float, Field(ge=-1e7, le=1e7, allow_inf_nan=False)] | None
    note: Annotated[str, StringConstraints(max_length=400)]
    until: Moment | None = None
    readings: Annotated[list[StepReadingPart], Field(max_length=20)] = []


class StepPhotoPart(Written):
    """A picture taken at a step, base64."""

    step: Annotated[str, StringConstraints(pattern=r"^[a-z0-9_]{1,40}$")]
    media_type: Literal["image/jpeg", "image/png", "image/webp"]
    content: Base64Bytes


class MiddlePart(Part):
    u: Number
    v: Number


class ExpectedPart(Part):
    """What the estimate of the trials before said of a trial: backlash with its spread [mm], patterns, odds, place of the gears [mm]."""

    backlash_mm: Number
    backlash_sd_mm: Number
    drive: MiddlePart
    coast: MiddlePart
    odds: Share
    pinion_mm: Number
    ring_mm: Number


class TrialPart(Written):
    """Stacks as [[thickness_mm, count], ...], or adjuster positions in notches from the first trial."""

    number: Annotated[int, Field(ge=1, le=10000)]
    ring_side_pieces: Annotated[list[Piece], Field(max_length=50)] | None
    far_side_pieces: Annotated[list[Piece], Field(max_length=50)] | None
    ring_side_notches: Notches | None
    far_side_notches: Notches | None
    expected_backlash_mm: Number | None
    note: Short
    depth_pieces: Annotated[list[Piece], Field(max_length=50)] | None = None
    spacer_pieces: Annotated[list[Piece], Field(max_length=50)] | None = None
    preload_part: PreloadPartName = "nothing"
    bearings: Literal["final", "set_up"] = "final"
    is_final: bool = False
    conditions_asked: bool = False
    expected: ExpectedPart | None = None
    bearing_offset_mm: Annotated[float, Field(ge=-2, le=2)] | None = None


class ReadingPart(Written):
    """Backlash, plunger square to the tooth at its outer end: value_mm, and as it was typed."""

    trial: UUID
    angle_deg: Annotated[float, Field(ge=0, lt=360)]
    value_mm: Annotated[float, Field(ge=0, le=10)]
    typed: Annotated[str, StringConstraints(min_length=1, max_length=40)]
    unit: Annotated[str, StringConstraints(min_length=1, max_length=20)]


class StrikeOutPart(Written):
    reading: UUID
    reason: Annotated[str, StringConstraints(min_length=1, max_length=200)]


class ConditionPointPart(Part):
    code: Short
    text: Short


class ConditionPart(Written):
    """Who confirmed what before a trial's readings counted."""

    trial: UUID
    points: Annotated[list[ConditionPointPart], Field(max_length=50)] = []


class BasisPart(Written):
    """New or used, which ring flank drives, and what a used set was found with."""

    set_state: SetStateName
    drive_flank: DriveFlankName
    ring_on: VehicleSideName = ""
    places: Annotated[int, Field(ge=4, le=16)] | None = None
    found_backlash_mm: Annotated[float, Field(ge=0, le=10)] | None
    found_drive_u: Share | None
    found_drive_v: Share | None
    found_coast_u: Share | None
    found_coast_v: Share | None


class PhotoPart(Written):
    """A picture of a painted tooth, base64."""

    trial: UUID
    flank: FlankName
    media_type: Literal["image/jpeg", "image/png", "image/webp"]
    content: Base64Bytes


class PatternPart(Written):
    """A painted patch: middle, length and height as shares of the flank from toe and root, lean in degrees."""

    trial: UUID
    flank: FlankName
    u: Share
    v: Share
    length: Annotated[float, Field(ge=0.02, le=1.5)]
    height: Annotated[float, Field(ge=0.02, le=1.5)]
    tilt_deg: Annotated[float, Field(ge=-90, le=90)]
    runs_off: Annotated[list[EdgeName], Field(max_length=4)]
    photo: UUID | None
    photo_place: PhotoPlace | None
    note: Short
    replaces: UUID | None = None


class TorquePart(Written):
    trial: UUID
    what: Literal["pinion", "total"]
    value_nm: Annotated[float, Field(ge=0, le=500)]
    typed: Annotated[str, StringConstraints(min_length=1, max_length=40)]
    unit: Annotated[str, StringConstraints(min_length=1, max_length=20)]
    radius_mm: Annotated[float, Field(ge=1, le=2000)] | None
    bearings: Literal["new", "used", "mixed"]
    seal: Literal["fitted", "absent"]
    seal_drag_nm: Annotated[float, Field(ge=0, le=50)] | None


class DepthPart(Written):
    trial: UUID
    tool: Literal["arbor", "bar", "face"]
    question: dict[str, Any]
    distance_mm: Number
    error_mm: Annotated[float, Field(ge=-5, le=5)]


class SleeveStepPart(Written):
    """A step of crushing a sleeve, or the taking back of one."""

    sleeve: Annotated[int, Field(ge=1, le=100)]
    nut_turn_deg: Annotated[float, Field(ge=0, le=1440)]
    rotating_torque_nm: Annotated[float, Field(ge=0, le=500)]
    typed: Annotated[str, StringConstraints(min_length=1, max_length=40)]
    unit: Annotated[str, StringConstraints(min_length=1, max_length=20)]
    nut_torque_nm: Annotated[float, Field(ge=0, le=2000)] | None
    takes_back: UUID | None
    reason: Short


class SpacerTryPart(Written):
    pieces: Annotated[list[Piece], Field(max_length=50)]
    end_play_mm: Annotated[float, Field(ge=0, le=5)] | None
    rotating_torque_nm: Annotated[float, Field(ge=0, le=500)] | None


class InstrumentCheckPart(Written):
    zero_mm: Number
    block_mm: Annotated[float, Field(ge=0.01, le=50)]
    block_read_mm: Number
    return_mm: Number
    instrument: Annotated[str, StringConstraints(max_length=120)] = ""
    resolution_mm: Annotated[float, Field(ge=0.0001, le=0.1)] = 0.01
    good: bool


class AxleFactPart(Written):
    """What was known of one end of the vehicle: tyre as written, rolling circumference [m], teeth."""

    end: AxleName
    tyre: Annotated[str, StringConstraints(max_length=60)]
    circumference_m: Annotated[float, Field(ge=0.3, le=12)] | None
    measured: bool
    pinion_teeth: Teeth | None
    ring_teeth: Teeth | None


class RatioResultPart(Written):
    """A kept answer of the ratio desk with its inputs, as it was; links are not in the file."""

    title: Annotated[str, StringConstraints(min_length=1, max_length=200)]
    inputs: RatioInputs
    answer: RatioAnswer
    engine_version: Annotated[str, StringConstraints(min_length=1, max_length=20)]


class DrivelineResultPart(Written):
    """A kept answer of the driveline desk with its inputs, as it was."""

    title: Annotated[str, StringConstraints(min_length=1, max_length=200)]
    shaft: Literal["rear", "front"]
    inputs: DrivelineInputs
    answer: DrivelineAnswer
    engine_version: Annotated[str, StringConstraints(min_length=1, max_length=20)]


class BenchResultPart(Written):
    """A kept answer of a tool of the Diff bench: what was typed, what was asked of the core and what it answered, as it was."""

    title: Annotated[str, StringConstraints(min_length=1, max_length=200)]
    tool: Annotated[str, StringConstraints(pattern=r"^[a-z_]{1,20}$")]
    step: Annotated[str, StringConstraints(pattern=r"^[a-z0-9_-]{0,40}$")] = ""
    inputs: BenchInputs
    answer: Annotated[dict[str, Any], Field(max_length=40)]
    summary: BenchSummary
    engine_version: Annotated[str, StringConstraints(min_length=1, max_length=20)]


class JointInspectionPart(Written):
    """A joint by feel and by eye, what the rules made of it then, and what was decided."""

    shaft: Literal["rear", "front"]
    joint: Annotated[int, Field(ge=1, le=4)]
    felt: JointFelt
    proposed: Literal["reuse", "mend", "replace", "look"]
    decision: Literal["reuse", "mend", "replace", "look"]
    note: Annotated[str, StringConstraints(max_length=500)]


class NoiseFindingPart(Written):
    """A finding of the noise finder, felt or recorded; the recording's chart is in it, the recording itself is not."""

    title: Annotated[str, StringConstraints(min_length=1, max_length=200)]
    kind: Literal["felt", "recorded"]
    felt: FeltQuestion | None = None
    felt_answer: Felt | None = None
    recorded: RecordedInputs | None = None
    recorded_answer: RecordedAnswer | None = None
    engine_version: Annotated[str, StringConstraints(min_length=1, max_length=20)]


class SignOffPart(Written):
    """Who signed, and the document as text with its hash; what a file says of a sign-off is never this shop's own."""

    statement: Annotated[str, StringConstraints(max_length=400)]
    verdict: Literal["in", "edge", "out", "unknown"]
    origin: Literal["here", "file"] = "file"
    document: Annotated[str, StringConstraints(max_length=4_000_000)] | None = None
    document_hash: Hash | None = None
    core_version: Annotated[str, StringConstraints(max_length=20)] = ""
    reconstructed: bool = False


class WithdrawalPart(Written):
    sign_off: UUID
    reason: Annotated[str, StringConstraints(min_length=1, max_length=200)]


class AdoptionPart(Written):
    """The work went over from one revision of its sheet to another."""

    before: Annotated[int, Field(ge=1, le=1_000_000)]
    after: Annotated[int, Field(ge=1, le=1_000_000)]
    reason: Annotated[str, StringConstraints(min_length=1, max_length=200)]


class WayPart(Written):
    question: Annotated[str, StringConstraints(pattern=r"^[a-z0-9_]{1,40}$")]
    way: Annotated[str, StringConstraints(pattern=r"^[a-z0-9_]{1,40}$")]
    reason: Annotated[str, StringConstraints(min_length=1, max_length=200)]


class WallBuildPart(Written):
    """How the assembly is built, as facts of `parts.plan`, and what comes off beside the usual."""

    facts: dict[Annotated[str, StringConstraints(max_length=40)], bool | Annotated[str, StringConstraints(max_length=40)]]
    asked: Annotated[list[Annotated[str, StringConstraints(max_length=40)]], Field(max_length=60)]


class PartRecordPart(Written):
    """One thing that happened to one part; `undoes` points to another of the same list, `photo` to a picture."""

    key: PartKey
    act: Literal["off", "look", "pieces", "back", "stays_out", "undo"]
    name: Annotated[str, StringConstraints(max_length=80)] = ""
    side: SideName = ""
    facing: Annotated[str, StringConstraints(max_length=80)] = ""
    mark: Annotated[str, StringConstraints(max_length=40)] = ""
    bag: Annotated[str, StringConstraints(max_length=20)] = ""
    counted: Count | None = None
    stack: Annotated[list[StackPieceOut], Field(max_length=40)] = []
    findings: Annotated[list[Annotated[str, StringConstraints(max_length=20)]], Field(max_length=12)] = []
    decision: DecisionName = ""
    measured: Short = ""
    photo: UUID | None = None
    drawn: Annotated[list[DrawnIn], Field(max_length=20)] = []
    ways: QuoteQuestion | None = None
    way: Annotated[str, StringConstraints(max_length=80)] = ""
    missing: Annotated[int, Field(ge=0, le=1000)] | None = None
    given_up: bool = False
    is_new: bool = False
    note: Annotated[str, StringConstraints(max_length=400)] = ""
    undoes: UUID | None = None


class PartPhotoPart(Written):
    """A picture of a part. Its bytes are `pictures/<id>.jpg` of the zip; a file without them leaves it out when it is read."""

    key: PartKey


class PartNeedPart(Written):
    """A line of the parts list as it was then; the latest of a line counts. Money in the smallest unit."""

    line: UUID
    key: Annotated[str, StringConstraints(max_length=60)] = ""
    name: Annotated[str, StringConstraints(min_length=1, max_length=120)]
    count: Annotated[int, Field(ge=1, le=10_000)]
    price: Annotated[int, Field(ge=0, le=10**12)] | None = None
    supplier: Annotated[str, StringConstraints(max_length=80)] = ""
    state: NeedStateName
    due_on: date | None = None
    note: Short = ""


class QuoteAnswerPart(Part):
    """What the customer said: yes or no to each line, with the name typed."""

    id: UUID
    name: Name
    at: Moment
    answers: dict[PartKey, bool]
    note: Annotated[str, StringConstraints(max_length=1000)] = ""


class QuotePart(Written):
    """A quote as the customer saw it, whether it was withdrawn, and the answer. The link itself is not in the file: it opens nothing
    elsewhere."""

    expires_at: Moment
    document: Annotated[dict[str, Any], AfterValidator(_shown_as(QuoteContent))]
    end: Written | None = None
    answer: QuoteAnswerPart | None = None

    @model_validator(mode="after")
    def _holds_together(self) -> Self:
        if self.expires_at <= self.at:
            raise ValueError(say("this expires before it was made."))
        if self.answer is not None and set(self.answer.answers) != {line["key"] for line in self.document["lines"]}:
            raise ValueError(say("the answer is to other lines than the quote has."))
        return self


class WorkParts(Part):
    """What was recorded of a piece of work. `trial`, `reading` and `sign_off` point to ids in the same piece of work."""

    gear_sets: Annotated[list[GearSetPart], Field(max_length=1000)]
    steps: Annotated[list[StepPart], Field(max_length=5000)]
    trials: Annotated[list[TrialPart], Field(max_length=1000)]
    readings: Annotated[list[ReadingPart], Field(max_length=64000)]
    strike_outs: Annotated[list[StrikeOutPart], Field(max_length=64000)]
    sign_offs: Annotated[list[SignOffPart], Field(max_length=1000)]
    withdrawals: Annotated[list[WithdrawalPart], Field(max_length=1000)]
    conditions: Annotated[list[ConditionPart], Field(max_length=1000)] = []
    bases: Annotated[list[BasisPart], Field(max_length=1000)] = []
    photos: Annotated[list[PhotoPart], Field(max_length=200)] = []
    patterns: Annotated[list[PatternPart], Field(max_length=5000)] = []
    torques: Annotated[list[TorquePart], Field(max_length=5000)] = []
    depths: Annotated[list[DepthPart], Field(max_length=5000)] = []
    sleeve_steps: Annotated[list[SleeveStepPart], Field(max_length=5000)] = []
    spacer_tries: Annotated[list[SpacerTryPart], Field(max_length=1000)] = []
    instrument_checks: Annotated[list[InstrumentCheckPart], Field(max_length=1000)] = []
    ratio_results: Annotated[list[RatioResultPart], Field(max_length=200)] = []
    driveline_results: Annotated[list[DrivelineResultPart], Field(max_length=200)] = []
    joint_inspections: Annotated[list[JointInspectionPart], Field(max_length=1000)] = []
    noise_findings: Annotated[list[NoiseFindingPart], Field(max_length=200)] = []
    bench_results: Annotated[list[BenchResultPart], Field(max_length=200)] = []
    wall_builds: Annotated[list[WallBuildPart], Field(max_length=200)] = []
    part_records: Annotated[list[PartRecordPart], Field(max_length=3000)] = []
    part_photos: Annotated[list[PartPhotoPart], Field(max_length=400)] = []
    part_needs: Annotated[list[PartNeedPart], Field(max_length=3000)] = []
    quotes: Annotated[list[QuotePart], Field(max_length=200)] = []


class WorkPart(WorkParts):
    """One piece of work: its kind, the assembly it is on, the steps it is worked by, and the revision of the sheet that judges it, if any.

    Files of version 3 do not carry the steps: what they hold was worked by the run sheet of before.
    """

    id: UUID
    number: Annotated[int, Field(ge=1, le=100)]
    kind: KindName
    title: Annotated[str, StringConstraints(max_length=80)] = ""
    place: PlaceName
    procedure: Annotated[list[dict[str, Any]], Field(max_length=500)] | None = None
    sheet_revision: Annotated[int, Field(ge=1, le=1_000_000)] | None = 1
    sheet: FamilyPart | None
    created_by: Name
    created_at: Moment
    sheet_adoptions: Annotated[list[AdoptionPart], Field(max_length=100)] = []
    ways: Annotated[list[WayPart], Field(max_length=1000)] = []
    step_photos: Annotated[list[StepPhotoPart], Field(max_length=500)] = []


def _short_enough(text: Said) -> Said:
    """What a line of the follow-ups holds."""
    if not 0 < len(text.as_text()) <= 600:
        raise ValueError(say("this is empty or too long."))
    return text


Kilometres = Annotated[float, Field(ge=0, le=5_000_000, allow_inf_nan=False)]


class OdometerPart(Written):
    """How far the vehicle had run, and as it was typed."""

    km: Kilometres
    typed: Annotated[str, StringConstraints(max_length=40)]


class FollowUpEndPart(Written):
    outcome: Literal["done", "missed"]
    note: Short = ""


class FollowUpPart(Part):
    """One thing that comes due after a hand-over, by day, by odometer [km], or both."""

    code: Annotated[str, StringConstraints(pattern=r"^[a-z0-9_]{1,40}$")]
    text: Annotated[Said, AfterValidator(_short_enough)]
    kind: Literal["do", "limit", "check"]
    at_km: Kilometres | None = None
    from_km: Kilometres | None = None
    until_km: Kilometres | None = None
    on_date: date | None = None
    end: FollowUpEndPart | None = None


class HandOverPart(Written):
    """The page that the customer took home, as it was given, and what comes due after it; the last of a job counts."""

    odometer_km: Kilometres
    received_by: Annotated[str, StringConstraints(min_length=1, max_length=120)]
    page: Annotated[dict[str, Any], AfterValidator(_shown_as(PageContent))]
    follow_ups: Annotated[list[FollowUpPart], Field(max_length=60)] = []


class JobFile(Part):
    """A whole job. Every id stands once; `hash` is the SHA-256 of all the rest but `exported_at`."""

    format: Literal["amber-pinion.job"]
    version: Literal[3, 4, 5, 6, 7, 8, 9]
    exported_at: datetime
    hash: Hash
    job: CardPart
    vehicle: VehiclePart
    stations: Annotated[list[StationPart], Field(max_length=7)]
    station_records: Annotated[list[StationRecordPart], Field(max_length=5000)] = []
    axle_facts: Annotated[list[AxleFactPart], Field(max_length=1000)] = []
    works: Annotated[list[WorkPart], Field(min_length=1, max_length=20)]
    odometer: Annotated[list[OdometerPart], Field(max_length=5000)] = []
    hand_overs: Annotated[list[HandOverPart], Field(max_length=100)] = []


class OldJobFile(WorkParts):
    """A whole job of versions 1 and 2: one piece of work, laid flat."""

    format: Literal["amber-pinion.job"]
    version: Literal[1, 2]
    exported_at: datetime
    job: OldCardPart
    family: FamilyPart
    stations: Annotated[list[StationPart], Field(max_length=7)]
    axle_facts: Annotated[list[AxleFactPart], Field(max_length=1000)] = []


_NO_HASH = "0" * 64


def upgraded(old: OldJobFile) -> JobFile:
    """A file of version 1 or 2 as one of version 3: its one piece of work has the job's own id, as jobs from before have."""
    card = old.job
    parts = {name: getattr(old, name) for name in WorkParts.model_fields}
    work = WorkPart.model_construct(
        id=card.id,
        number=1,
        kind="ring_and_pinion",
        place="front_axle" if card.axle == "front" else "rear_axle",
        procedure=None,
        sheet_revision=1,
        sheet=old.family,
        created_by=card.created_by,
        created_at=card.created_at,
        sheet_adoptions=[],
        ways=[],
        **parts,
    )
    vehicle = VehiclePart(
        id=uuid5(NAMESPACE_OID, f"{card.customer}|{card.vehicle}|{card.layout}"), owner=card.customer, name=card.vehicle, layout=card.layout
    )
    plain = {name: getattr(card, name) for name in CardPart.model_fields if name != "promised_on"}
    return JobFile.model_construct(
        format=FORMAT,
        version=VERSION,
        exported_at=old.exported_at,
        hash=_NO_HASH,
        job=CardPart(**plain),
        vehicle=vehicle,
        stations=old.stations,
        station_records=[],
        axle_facts=old.axle_facts,
        works=[work],
        odometer=[],
        hand_overs=[],
    )


def content_hash(plain: dict[str, Any]) -> str:
    """What a file's hash is of: everything but the hash itself and the time it was written out."""
    return hash_of({name: one for name, one in plain.items() if name not in ("hash", "exported_at")})


def json_schema() -> dict[str, Any]:
    """The documented schema."""
    with storing():
        return {"$schema": "https://json-schema.org/draft/2020-12/schema", **JobFile.model_json_schema()}
