"""The set-up bench over the API. Lengths in mm, angles in degrees clockwise seen from the ring's teeth, 0 at the top."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Literal
from uuid import UUID

from ninja import Schema
from pydantic import Field

from amber_core.words import Said
from jobs.schemas import VerdictName
from shared.schemas import Degrees, Line, Plain, ReasonOut, Typed, Written
from stores.schemas import CarrierMethodName, LimitOut

PreloadPartName = Literal["nothing", "sleeve", "spacer", "outer_shims"]
PreloadMethodName = Literal["crush_sleeve", "spacer", "outer_shims"]
FlankName = Literal["drive", "coast"]
EdgeName = Literal["toe", "heel", "root", "tip"]
SetStateName = Literal["new", "used"]
DriveFlankName = Literal["convex", "concave"]
VehicleSideName = Literal["", "left", "right"]
Share = Annotated[float, Field(ge=0.0, le=1.0, allow_inf_nan=False)]
Share2 = Annotated[float, Field(ge=-2.0, le=3.0, allow_inf_nan=False)]
Notches = Annotated[int, Field(ge=-10000, le=10000)]


class TrialIn(Written):
    """Typed stacks such as "0.60 + 0.50 mm", or adjuster positions in notches from the first trial. No depth: it stayed."""

    after: Annotated[int, Field(ge=0, le=1000)]
    ring_side: Typed | None = None
    far_side: Typed | None = None
    ring_side_notches: Notches | None = None
    far_side_notches: Notches | None = None
    depth: Typed | None = None
    spacer: Typed | None = None
    preload_part: PreloadPartName = "nothing"
    bearings: Literal["final", "set_up"] = "final"
    is_final: bool = False
    bearing_offset: Typed | None = None
    from_drawer: bool = False
    note: Line = ""


class PhotoPlace(Schema):
    """Where a photo lies on the drawn flank: middle [flank lengths and depths], scale and turn [deg]."""

    x: Share2
    y: Share2
    scale: Annotated[float, Field(ge=0.05, le=20.0)]
    turn_deg: Annotated[float, Field(ge=-360.0, le=360.0)]


class PatternIn(Written):
    """A painted patch: middle, length and height as shares of the flank from toe (u) and root (v), lean [deg].

    It counts beside what was read before; `replaces` names a reading that was drawn wrongly.
    """

    flank: FlankName
    u: Share
    v: Share
    length: Annotated[float, Field(ge=0.02, le=1.5, allow_inf_nan=False)]
    height: Annotated[float, Field(ge=0.02, le=1.5, allow_inf_nan=False)]
    tilt_deg: Annotated[float, Field(ge=-90.0, le=90.0, allow_inf_nan=False)]
    runs_off: Annotated[list[EdgeName], Field(max_length=4)] = []
    photo: UUID | None = None
    photo_place: PhotoPlace | None = None
    note: Line = ""
    replaces: UUID | None = None


class PhotoIn(Written):
    """What goes beside a picture of a painted tooth."""

    flank: FlankName


class TorqueIn(Written):
    """A torque as typed; with a radius, the force on a string or lever there. Empty drag: not known."""

    what: Literal["pinion", "total"]
    typed: Typed
    radius: Typed = ""
    bearings: Literal["new", "used", "mixed"]
    seal: Literal["fitted", "absent"]
    seal_drag: Typed = ""


class DepthIn(Written):
    """Typed lengths: what the tool reads, its bar, the arbor's radius, the reference face, the nominal distance, the pinion's mark."""

    tool: Literal["arbor", "bar", "face"]
    reading: Typed
    bar: Typed = ""
    arbor_radius: Typed = ""
    reference_offset: Typed = ""
    nominal: Typed = ""
    mark: Typed = ""


class BasisIn(Written):
    set_state: SetStateName
    drive_flank: DriveFlankName
    ring_on: VehicleSideName = ""
    places: Annotated[int, Field(ge=4, le=16)] | None = None
    found_backlash: Typed = ""
    found_drive_u: Share | None = None
    found_drive_v: Share | None = None
    found_coast_u: Share | None = None
    found_coast_v: Share | None = None


class SleeveStepIn(Written):
    sleeve: Annotated[int, Field(ge=1, le=100)]
    nut_turn_deg: Annotated[float, Field(ge=0.0, le=1440.0, allow_inf_nan=False)]
    typed: Typed
    nut_torque_nm: Annotated[float, Field(ge=0.0, le=2000.0, allow_inf_nan=False)] | None = None


class SpacerTryIn(Written):
    stack: Typed
    end_play: Typed = ""
    torque: Typed = ""


class InstrumentCheckIn(Written):
    """What the dial shows on its zero, the block's size and what it shows there, and back at the mark."""

    zero: Typed
    block: Typed
    block_read: Typed
    back: Typed
    instrument: Line = ""
    resolution: Typed = ""


class ConditionsIn(Written):
    """Somebody looked."""


class ReadingIn(Written):
    angle_deg: Degrees
    typed: Typed
    sure: bool = False


class StrikeOutIn(Written):
    reason: Line


class TypedLengthOut(Plain):
    """What a typed text would be; null while it is not yet a reading."""

    value_mm: float | None


class PieceOut(Plain):
    thickness_mm: float
    count: int


class StruckOut(Plain):
    reason: str
    by_name: str
    at: datetime


class ReadingOut(Plain):
    id: UUID
    angle_deg: float
    value_mm: float
    typed: str
    unit: str
    standing: Literal["under", "inside", "over", "unjudged"]
    by_name: str
    at: datetime
    struck: StruckOut | None


class OncePerTurnOut(Plain):
    amplitude_mm: float
    high_at_deg: float
    share: float


class AssessmentOut(Plain):
    least_mm: float
    greatest_mm: float
    mean_mm: float
    variation_mm: float
    once_per_turn: OncePerTurnOut | None
    runout_tir_mm: float | None
    positions_enough: bool
    verdict: VerdictName
    reasons: list[ReasonOut]


class WhoOut(Plain):
    by_name: str
    at: datetime


class ConfirmedOut(WhoOut):
    """Who confirmed which conditions; no points for a check older than they are kept."""

    points: list[Said]


class MiddleOut(Plain):
    u: float
    v: float


class PlaceOut(Plain):
    pinion_mm: float
    ring_mm: float


class ExpectedReadingsOut(Plain):
    backlash_mm: float
    backlash_sd_mm: float
    drive: MiddleOut
    coast: MiddleOut


class SaidOut(ExpectedReadingsOut):
    """What was said of a trial before it was read; `landed` is what then happened, null while it is not known."""

    odds_percent: int
    pinion_mm: float
    ring_mm: float
    landed: bool | None


class PatternOut(WhoOut):
    id: UUID
    u: float
    v: float
    length: float
    height: float
    tilt_deg: float
    runs_off: list[EdgeName]
    photo: UUID | None
    photo_place: PhotoPlace | None
    note: str


class PatchMeanOut(Plain):
    """All readings of a patch together: middle and its standard error [-], how many, and where it runs off."""

    u: float
    v: float
    sd_u: float
    sd_v: float
    count: int
    runs_off: list[EdgeName]
    apart: bool


class PatchOut(PatternOut):
    """The last reading of a patch, with all that count and their mean."""

    mean: PatchMeanOut
    readings: list[PatternOut]


class TorqueOut(WhoOut):
    id: UUID
    value_nm: float
    typed: str
    unit: str
    radius_mm: float | None
    bearings: Literal["new", "used", "mixed"]
    seal: Literal["fitted", "absent"]
    seal_drag_nm: float | None
    verdict: VerdictName
    reasons: list[ReasonOut]


class DepthOut(WhoOut):
    tool: Literal["arbor", "bar", "face"]
    distance_mm: float
    error_mm: float


class TrialOut(Plain):
    id: UUID
    number: int
    depth_shim_mm: float | None
    depth: list[PieceOut] | None
    spacer: list[PieceOut] | None
    preload_part: PreloadPartName
    preload_part_label: Said
    bearings: Literal["final", "set_up"]
    is_final: bool
    bearing_offset_mm: float | None
    counts: bool
    to_confirm: list[Said]
    conditions: ConfirmedOut | None
    drive: PatchOut | None
    coast: PatchOut | None
    pattern_verdict: VerdictName
    pattern_reasons: list[ReasonOut]
    pinion_torque: TorqueOut | None
    total_torque: TorqueOut | None
    measured_depth: DepthOut | None
    expected: SaidOut | None
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
    wrong: list[ReasonOut]
    assessment: AssessmentOut | None


class ProposalOut(Plain):
    """A move; `typed_depth`, `typed_ring_side` and `typed_far_side` are what to send to carry it out."""

    kind: Literal["best", "smallest", "depth_only", "ring_only"]
    text: Said
    odds_percent: int
    expected: ExpectedReadingsOut
    place: PlaceOut
    depth_shim_mm: float
    depth_changes: bool
    depth: list[PieceOut] | None
    typed_depth: str
    ring_side_mm: float | None
    far_side_mm: float | None
    ring_side: list[PieceOut] | None
    far_side: list[PieceOut] | None
    typed_ring_side: str
    typed_far_side: str
    ring_side_notches: int | None
    far_side_notches: int | None
    ring_side_notches_move: int | None
    far_side_notches_move: int | None
    spacer_change_mm: float | None
    preload_changes_mm: float | None


class ConflictOut(Plain):
    trial: int
    field: str
    text: Said


class NextReadingOut(Plain):
    what: str
    gain: float
    text: Said


class EstimateOut(Plain):
    pinion_mm: float
    ring_mm: float
    covariance: list[list[float]]
    backlash_per_ring_move: float


class ActOut(Plain):
    """Something that can be done now: until the set-up is done it is expected to cost so many minutes."""

    act: Literal["finished", "read_again", "measure", "move"]
    minutes: float
    odds_percent: int


class CostsOut(Plain):
    """What an act takes here [min]; `learnt` names those that come from this shop's own jobs."""

    move_minutes: float
    press_minutes: float
    read_minutes: float
    measure_minutes: float
    wrong_minutes: float
    learnt: list[Said]


class AdviceBodyOut(Plain):
    reasons: list[ReasonOut]
    conflicts: list[ConflictOut]
    estimate: EstimateOut
    stay_percent: int
    why: Said
    acts: list[ActOut]
    costs: CostsOut
    next_reading: NextReadingOut | None
    look_for: list[Said]
    proposals: list[ProposalOut]
    order: Said | None


class ChartOut(Plain):
    """Places across and up [mm]; `margin` >= 0 passes; trials and ellipse as [ring, pinion]."""

    ring_mm: list[float]
    pinion_mm: list[float]
    margin: list[list[float]]
    trials: list[list[float]]
    ellipse: list[list[float]]


class AdviceOut(Plain):
    kind: Literal["begin", "conditions", "identify", "no_window", "finished", "move", "measure", "read_again", "not_by_shims"]
    text: Said
    advice: AdviceBodyOut | None
    chart: ChartOut | None


class FlankPatternOut(Plain):
    """A pattern of the model: middle, size and lean; `mask` root first, to be shifted by `shift_u` and `shift_v`."""

    u: float
    v: float
    length: float
    height: float
    tilt_deg: float
    shift_u: float
    shift_v: float
    mask: list[list[float]]


class ContactOut(Plain):
    pinion_mm: float
    ring_mm: float
    drive: FlankPatternOut
    coast: FlankPatternOut


class PatchIn(Schema):
    """A patch that is being drawn."""

    flank: FlankName
    u: Share
    v: Share
    runs_off: Annotated[list[EdgeName], Field(max_length=4)] = []


class PreviewOut(Plain):
    """Where the gears would stand if the patch were read so, [mm]."""

    pinion_mm: float
    pinion_sd_mm: float
    ring_mm: float
    ring_sd_mm: float
    contradicts: Said | None
    text: Said


class OddsKeptOut(Plain):
    percent: int
    moves: int
    landed: int


class PhotoOut(Plain):
    id: UUID


class SlopeOut(Plain):
    """How the gear set answers: plunger backlash per ring move, and what was estimated to know it."""

    ring_teeth: int
    ratio: float
    backlash_per_ring_move: float
    plunger_per_arc: float
    estimated: list[str]


class FoundOut(Plain):
    backlash_mm: float | None
    drive: MiddleOut | None
    coast: MiddleOut | None


class StartOut(Plain):
    """`asked` is false while it is only assumed; `ring_on` is the vehicle's side that the ring's back looks to."""

    set_state: SetStateName
    drive_flank: DriveFlankName
    ring_on: VehicleSideName
    places: int
    asked: bool
    as_found: FoundOut | None


class InstrumentOut(WhoOut):
    """The last check of the dial; readings are judged by its step."""

    good: bool
    name: str
    resolution_mm: float


class ProportionsOut(Plain):
    face_mm: float
    toe_depth_mm: float
    heel_depth_mm: float


class PatchWindowOut(Plain):
    u_min: float
    u_max: float
    v_min: float
    v_max: float


class PatternWindowOut(Plain):
    """Where the middle of each patch may lie."""

    drive: PatchWindowOut
    coast: PatchWindowOut


class RangeOut(Plain):
    least: float | None
    greatest: float | None


class WindowsOut(Plain):
    new: RangeOut | None
    used: RangeOut | None
    total: RangeOut | None


class SleeveStepOut(WhoOut):
    id: UUID
    nut_turn_deg: float
    rotating_torque_nm: float
    typed: str
    unit: str
    nut_torque_nm: float | None


class TakenBackOut(SleeveStepOut):
    reason: str


class SleeveAnswerOut(Plain):
    state: Literal["slack", "closing", "in", "past"]
    nut_turn_to_go_deg: float | None
    next_step_deg: float
    reasons: list[ReasonOut]


class SleeveOut(Plain):
    number: int
    used_up: int
    steps: list[SleeveStepOut]
    taken_back: list[TakenBackOut]
    answer: SleeveAnswerOut | None
    wrong: Said


class SpacerTryOut(WhoOut):
    id: UUID
    stack_mm: float
    pieces: list[PieceOut]
    end_play_mm: float | None
    rotating_torque_nm: float | None


class SpacerPickOut(Plain):
    pieces: list[PieceOut]
    total_mm: float


class SpacerAnswerOut(Plain):
    stack_mm: float
    step: Literal["first", "from_end_play", "from_torque"]
    pick: SpacerPickOut | None
    reasons: list[ReasonOut]


class SpacerOut(Plain):
    tries: list[SpacerTryOut]
    target_nm: float | None
    answer: SpacerAnswerOut | None
    inside: bool


class PreloadOut(Plain):
    method: PreloadMethodName
    windows: WindowsOut
    window_seal: Literal["included", "excluded"]
    nut_torque_least_nm: float | None
    sleeve: SleeveOut | None
    spacer: SpacerOut | None


class BenchOut(Plain):
    job_id: UUID
    work_id: UUID
    job_number: int
    vehicle: str
    axle_label: Said
    family_name: str
    sheet_revision: int
    carrier_method: CarrierMethodName
    carrier_label: Said
    shim_place: Literal["under_head", "behind_cup", "under_cartridge_flange"]
    shim_place_label: Said
    preload_method: PreloadMethodName
    preload_label: Said
    bearing_offset_mm: float | None
    depth_with_final_bearings_mm: float | None
    nominal_depth_mm: float | None
    start: StartOut
    has_depth_drawer: bool
    final_missing: Said
    set_wrong: Said
    instrument: InstrumentOut | None
    notch_mm: float | None
    signed_off: bool
    limits: list[LimitOut]
    min_mm: float | None
    max_mm: float | None
    max_variation_mm: float | None
    resolution_mm: float
    positions_deg: list[float]
    slope: SlopeOut | None
    proportions: ProportionsOut | None
    pattern_window: PatternWindowOut
    trials: list[TrialOut]
    preload: PreloadOut
