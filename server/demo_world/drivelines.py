"""What the demo workshop measured of propshafts, felt of joints, and recorded of vibrations."""

from __future__ import annotations

from dataclasses import asdict
from typing import TYPE_CHECKING, Any

from amber_core import payload
from amber_core.driveline.inspection import JointFelt, inspect_joint
from amber_core.simulated.recorder import RecorderQuestion, csv_lines, record
from amber_core.vibration.felt import FeltQuestion, FeltTest, Outcome, felt
from amber_core.vibration.orders import Drivetrain
from driveline_desk.models import JointInspection
from driveline_desk.schemas import DrivelineInputs
from driveline_desk.work import work_out
from noise_finder.models import Kind, Recording, RecordingChunk, RecordingReading, Source
from noise_finder.schemas import RecordedInputs
from noise_finder.services import read_in
from noise_finder.services import work_out as hold_against
from work.models import Area

if TYPE_CHECKING:
    from demo_world.world import JobBuilder

_GOOD = JointFelt(first_way="free", other_way="free", play=False, rust=False, clips="seated", nipple="reachable")
_NOTCHY = JointFelt(first_way="free", other_way="notchy", play=False, rust=True, clips="seated", nipple="reachable")


def _member(value: float, left_mm: float = 0.0, over_mm: float = 1000.0) -> dict[str, Any]:
    return {"side": {"value_deg": value, "axle_end": "lower"}, "left_mm": left_mm, "over_mm": over_mm}


def raised_pickup() -> dict[str, Any]:
    """A pick-up raised by 50 mm: shaft steeper, pinion left where it was."""
    return {
        "readings": {
            "output": _member(3.5),
            "shafts": [{"length_mm": 1180, "member": _member(8.6, 35.0, 1170.0)}],
            "pinion": _member(1.5),
            "axle": {"along_mm": 265, "down_mm": 30},
            "joints": ["cardan", "cardan"],
        },
        "teeth": [32],
        "speed": {"speed_kmh": 90, "circumference_m": 2.44, "ratio": 4.1},
        "allowed": {},
        "travel": {
            "droop_mm": -90,
            "bump_mm": 75,
            "pivot_ahead_mm": 620,
            "pivot_above_mm": 40,
            "drive_wrap_deg": 1.5,
            "overrun_wrap_deg": 0.5,
        },
        "slip": {"spline_diameter_mm": 35, "engaged_ride_mm": 84, "collapse_ride_mm": 52},
        "tube": {"tube": {"outer_mm": 76.2, "wall_mm": 2.1}, "other": {"outer_mm": 88.9, "wall_mm": 2.1}},
        "load": {"engine_nm": 320, "low_ratio": 9.8, "axle_load_kg": 1450},
        "order": {
            "at_ride_height": True,
            "vehicle_level": True,
            "suspension_loaded": True,
            "flange_out_mm": 46,
            "flange_pinion_mm": 48,
            "ends": "Four-bolt flanges, slip joint at the front",
        },
    }


def keep_driveline(builder: JobBuilder, title: str, given: dict[str, Any]) -> None:
    """A kept answer of the driveline desk."""
    inputs = DrivelineInputs.model_validate(given)
    kept = {"inputs": inputs.model_dump(mode="json"), "answer": work_out(inputs).model_dump(mode="json")}
    builder.keep(Area.DRIVELINE, title, about=inputs.readings.chain, **kept)


def feel_joints(builder: JobBuilder, *, notchy: int | None = None, joints: int = 2) -> None:
    """Joints of the rear driveline by hand and eye, one of them with a notch."""
    for joint in range(1, joints + 1):
        found = _NOTCHY if joint == notchy else _GOOD
        decision = inspect_joint(found).decision
        JointInspection.objects.create(
            work=builder.work, shaft="rear", joint=joint, felt=asdict(found), proposed=decision, decision=decision, **builder.record(2, 5)
        )


def hear_rumble(builder: JobBuilder, drivetrain: Drivetrain) -> None:
    """What was felt first, then a drive that was recorded; both kept."""
    asked = FeltQuestion(
        drivetrain=drivetrain,
        tests=[FeltTest(speed_kmh=55.0, gear_ratio=1.35)],
        quality="buzz",
        loads=["drive", "float"],
        where="floor",
        outcomes=[Outcome(code="standing", result="changed")],
    )
    kept = {"inputs": payload.plain(asked), "answer": payload.plain(felt(asked))}
    builder.keep(Area.NOISE, "As the crew tells it", about=Kind.FELT, **kept)
    run = RecorderQuestion(
        drivetrain=drivetrain, faults=["prop_balance", "joint_angles"], from_kmh=30.0, to_kmh=70.0, gear_ratio=1.35, seconds=40.0, seed=7
    )
    content = "".join(csv_lines(record(run))).encode()
    recording = Recording.objects.create(
        work=builder.work,
        name="slipway road, phone on the floor.csv",
        source=Source.FILE,
        size_bytes=len(content),
        from_kmh=30.0,
        to_kmh=70.0,
        **builder.record(10, 20),
    )
    RecordingChunk.objects.create(recording=recording, index=0, content=content)
    RecordingReading.objects.create(recording=recording)
    read_in(recording.pk)
    held = RecordedInputs(recording=recording.client_id, drivetrain=drivetrain, gear_ratio=1.35)
    kept = {"inputs": held.model_dump(mode="json"), "answer": hold_against(held).model_dump(mode="json")}
    builder.keep(Area.NOISE, "Slipway road, up to 70", about=Kind.RECORDED, **kept)
