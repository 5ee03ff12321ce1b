"""The driveline desk over the API; what is asked of the core and what it answers are the core's own shapes."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Literal
from uuid import UUID

from ninja import Schema
from pydantic import Field, StringConstraints

from amber_core.driveline.analyse import Analysed
from amber_core.driveline.inspection import JointFelt, JointJudged
from amber_core.driveline.limits import Allowed
from amber_core.driveline.readings import Read, ReadingsQuestion
from amber_core.driveline.recommend import Free, Recommended
from amber_core.driveline.slip import Slip
from amber_core.driveline.state import State
from amber_core.driveline.travel import Travel
from amber_core.shafts.bending import SupportedSpeed
from amber_core.shafts.torque import DesignTorque
from amber_core.shafts.tube import Shaft, Tube
from amber_core.verdicts import VerdictWord
from amber_core.words import Said
from shared.schemas import Line, Plain, Written
from vehicles.schemas import LayoutName

ShaftWord = Literal["rear", "front"]
DecisionWord = Literal["reuse", "mend", "replace", "look"]
Support = Annotated[float, Field(ge=0.001, le=1e6, allow_inf_nan=False)]
Amount = Annotated[float, Field(ge=-3000, le=3000, allow_inf_nan=False)]


class SpeedIn(Schema):
    """Shaft speed: typed, or from a road speed with tyre and all reduction behind the shaft."""

    rpm: Annotated[float, Field(ge=0, le=20000, allow_inf_nan=False)] | None = None
    speed_kmh: Annotated[float, Field(ge=0, le=500, allow_inf_nan=False)] | None = None
    circumference_m: Annotated[float, Field(ge=0.3, le=12, allow_inf_nan=False)] | None = None
    ratio: Annotated[float, Field(ge=0.2, le=100, allow_inf_nan=False)] | None = None


class TravelIn(Schema):
    """How the axle moves: droop and bump [mm], pivot from the wheel axis [mm: ahead of it along the vehicle, above it], share of the arm's
    turn that the axle makes, wind-up on drive and on overrun [deg], shaft speed at full bump and droop against that at ride."""

    droop_mm: Annotated[float, Field(ge=-600, le=0, allow_inf_nan=False)] = -80
    bump_mm: Annotated[float, Field(ge=0, le=600, allow_inf_nan=False)] = 70
    pivot_ahead_mm: Amount | None = None
    pivot_above_mm: Amount = 0
    pitch_ratio: Annotated[float, Field(ge=-1, le=2, allow_inf_nan=False)] = 0.5
    drive_wrap_deg: Annotated[float, Field(ge=0, le=15, allow_inf_nan=False)] = 0
    overrun_wrap_deg: Annotated[float, Field(ge=0, le=15, allow_inf_nan=False)] = 0
    extreme_share: Annotated[float, Field(ge=0.1, le=1, allow_inf_nan=False)] = 0.6


class SlipIn(Schema):
    spline_diameter_mm: Annotated[float, Field(ge=10, le=200, allow_inf_nan=False)]
    engaged_ride_mm: Annotated[float, Field(ge=0, le=600, allow_inf_nan=False)]
    collapse_ride_mm: Annotated[float, Field(ge=-200, le=600, allow_inf_nan=False)]


class LoadIn(Schema):
    """What the shaft has to carry: greatest engine torque [Nm], lowest gear times transfer ratio, load on the axle [kg]."""

    engine_nm: Annotated[float, Field(ge=1, le=20000, allow_inf_nan=False)]
    low_ratio: Annotated[float, Field(ge=0.2, le=200, allow_inf_nan=False)]
    axle_load_kg: Annotated[float, Field(ge=50, le=60000, allow_inf_nan=False)]


class TubeIn(Schema):
    """The tube as it is and one to compare it with; every shaft of the driveline is of the first. Length and mass of an end fitting; how
    stiff that is what holds a shaft's front and rear end [MN/m], empty where nobody knows."""

    tube: Tube
    other: Tube | None = None
    end_length_mm: Annotated[float, Field(ge=1, le=1000, allow_inf_nan=False)] = 90
    end_mass_kg: Annotated[float, Field(ge=0, le=100, allow_inf_nan=False)] = 2.0
    support_front_mn_per_m: Support | None = None
    support_rear_mn_per_m: Support | None = None


class SettingsIn(Schema):
    """A remedy that is tried: wedge [deg], shims [mm], clocking of every shaft [deg]."""

    wedge_deg: Annotated[float, Field(ge=-20, le=20, allow_inf_nan=False)] = 0
    shim_mm: Annotated[float, Field(ge=-150, le=150, allow_inf_nan=False)] = 0
    mount_mm: Annotated[float, Field(ge=-150, le=150, allow_inf_nan=False)] = 0
    clock_deg: Annotated[list[Annotated[float, Field(ge=-180, le=180, allow_inf_nan=False)]], Field(max_length=3)] | None = None


class OrderIn(Schema):
    """What the shaft maker has to know beside the figures; the three conditions are ticked before the length counts."""

    at_ride_height: bool = False
    vehicle_level: bool = False
    suspension_loaded: bool = False
    flange_out_mm: Annotated[float, Field(ge=0, le=400, allow_inf_nan=False)] = 0
    flange_pinion_mm: Annotated[float, Field(ge=0, le=400, allow_inf_nan=False)] = 0
    ends: Line = ""
    note: Line = ""


class DrivelineInputs(Schema):
    """All of the desk for one driveline. `set_over`: whole spline teeth by which the rear half of each shaft is set over, on top of the
    clocking in degrees; + clockwise looking along the chain."""

    readings: ReadingsQuestion
    teeth: Annotated[list[Annotated[int, Field(ge=4, le=120)] | None], Field(max_length=3)] | None = None
    set_over: Annotated[list[Annotated[int, Field(ge=-60, le=60)] | None], Field(max_length=3)] | None = None
    speed: SpeedIn
    allowed: Allowed
    travel: TravelIn | None = None
    slip: SlipIn | None = None
    tube: TubeIn | None = None
    load: LoadIn | None = None
    tried: SettingsIn | None = None
    order: OrderIn = OrderIn()


class CaseOut(Plain):
    """A place of the axle: its state, and the greatest share of a limit that is used [-]."""

    name: str
    weight: float
    rpm: float
    use: float
    within: bool
    state: State


class Setting(Schema):
    """One setting of the driveline: at ride height in full, and at every place of the axle."""

    analysed: Analysed
    cases: list[CaseOut]
    travel: Travel | None
    slip: Slip | None


class TubeOut(Plain):
    """A shaft of the driveline as a tube: as it is, the other tube, b over a; its bending speed with end fittings [rpm], and with them on
    what holds its ends, with the road speed that is safe there [km/h]; the worse verdict of the two."""

    number: int
    shaft: Shaft
    other: Shaft | None
    ratios: dict[str, float] | None
    with_ends_rpm: float | None
    on_supports: SupportedSpeed | None = None
    on_supports_kmh: float | None = None
    verdict: VerdictWord = "unknown"


class DrivelineAnswer(Schema):
    """What came out: the readings as places, as it is, with what is tried, the tubes, the torque they carry."""

    read: Read
    rpm: float
    now: Setting
    tried: Setting | None
    tubes: list[TubeOut]
    torque: DesignTorque | None
    face_to_face_mm: float
    warnings: list[Said]


class RemedyIn(Schema):
    """What may be changed, and the other driveline of the transfer case."""

    inputs: DrivelineInputs
    free: Free
    objective: Literal["rms", "max"] = "rms"
    front: DrivelineInputs | None = None


class RemedyOut(Plain):
    recommended: Recommended


class InspectionIn(Written):
    shaft: ShaftWord
    joint: Annotated[int, Field(ge=1, le=4)]
    felt: JointFelt
    decision: DecisionWord
    note: Line = ""


class InspectionOut(Plain):
    id: UUID
    shaft: ShaftWord
    joint: int
    felt: JointFelt
    judged: JointJudged
    decision: DecisionWord
    note: str
    by_name: str
    at: datetime


class DrivelineResultOut(Plain):
    id: UUID
    title: str
    shaft: ShaftWord
    engine_version: str
    is_current: bool
    can_order: bool
    by_name: str
    at: datetime


class DrivelineResultWholeOut(DrivelineResultOut):
    inputs: DrivelineInputs
    answer: DrivelineAnswer


class DrivelineResultIn(Written):
    title: Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=200)]
    inputs: DrivelineInputs


class DrivelineDeskOut(Plain):
    """What the desk begins with."""

    job_id: UUID
    work_id: UUID
    job_number: int
    vehicle: str
    layout: LayoutName
    complaint: str
    signed_off: bool
    circumference_m: float | None
    ratio: float | None
    first_rear: DrivelineInputs
    first_front: DrivelineInputs | None
    results: list[DrivelineResultOut]
    inspections: list[InspectionOut]
