"""From the desk's inputs to its answers, by the core alone."""

from __future__ import annotations

from dataclasses import fields, replace
from typing import Any

import numpy as np

from amber_core.driveline.analyse import AnalyseQuestion, analyse
from amber_core.driveline.axes import wrap90
from amber_core.driveline.clocking import turn_of
from amber_core.driveline.readings import Read, from_readings
from amber_core.driveline.recommend import Recommended, RecommendQuestion, recommend
from amber_core.driveline.remedies import uses
from amber_core.driveline.slip import SlipQuestion, slip
from amber_core.driveline.state import StateQuestion, states_of, worked_of
from amber_core.driveline.travel import Travel, TravelQuestion, travel
from amber_core.driveline.vehicle import Case, Vehicle
from amber_core.errors import InvalidInput
from amber_core.shafts.bending import FittedShaft, SupportedShaft, on_supports, with_ends
from amber_core.shafts.torque import TorqueQuestion, design_torque
from amber_core.shafts.tube import Shaft, ShaftQuestion, Tube, TubePair, compare_tubes, shaft
from amber_core.verdicts import worst
from amber_core.words import Said, say
from driveline_desk.schemas import CaseOut, DrivelineAnswer, DrivelineInputs, RemedyIn, Setting, SettingsIn, TravelIn, TubeIn, TubeOut


def shaft_rpm(given: DrivelineInputs) -> float:
    """Shaft speed: as typed, or n = v / 3.6 / C x ratio x 60; 0 while neither is known."""
    speed = given.speed
    if speed.rpm is not None:
        return speed.rpm
    if speed.speed_kmh is None or speed.circumference_m is None or speed.ratio is None:
        return 0.0
    return speed.speed_kmh / 3.6 / speed.circumference_m * speed.ratio * 60.0


def read_in(given: DrivelineInputs) -> Read:
    """The readings as places, phased as the yokes are set over, with the places of the axle as cases.

    Raises
    ------
    InvalidInput
        With the field of the inputs.
    """
    try:
        found = from_readings(given.readings)
    except InvalidInput as wrong:
        raise wrong.under("readings") from None
    clocks, cases = _clocks(given, found.vehicle), _cases(given.travel, found.vehicle, shaft_rpm(given))
    return replace(found, vehicle=replace(found.vehicle, clock_deg=clocks, cases=cases))


def _clocks(given: DrivelineInputs, vehicle: Vehicle) -> list[float]:
    """Clocking of every shaft: its degrees, and the whole teeth it is set over by."""
    found = list(vehicle.clocks)
    for index, steps in enumerate((given.set_over or [])[: len(found)]):
        if steps:
            teeth = given.teeth[index] if given.teeth and index < len(given.teeth) else None
            if teeth is None:
                raise InvalidInput(
                    f"set_over[{index}]",
                    say(
                        "Enter the spline teeth of propshaft {number}: without them, the angle of one tooth is not known.", number=index + 1
                    ),
                )
            found[index] = float(wrap90(found[index] + turn_of(steps, teeth)))
    return found


def _travel_question(given: TravelIn, vehicle: Vehicle, **settings: float) -> TravelQuestion:
    centre = vehicle.axle_centre_mm
    pivot = None if given.pivot_ahead_mm is None else [centre[0] - given.pivot_ahead_mm, centre[2] + given.pivot_above_mm]
    sweep = {name: getattr(given, name) for name in ("droop_mm", "bump_mm", "pitch_ratio")}
    try:
        return TravelQuestion(vehicle=vehicle, pivot_mm=pivot, **sweep, **settings)
    except InvalidInput as wrong:
        raise wrong.under("travel") from None


def _cases(given: TravelIn | None, vehicle: Vehicle, rpm: float) -> list[Case]:
    """Ride counts most; bump and droop run slower; wind-up stands for full drive and for the overrun."""
    found = [Case(name="ride", weight=3.0)]
    if given is None:
        return found
    ends = np.array([given.bump_mm, given.droop_mm])
    axle = _travel_question(given, vehicle).axle(ends)
    for name, height, move, nose in zip(("bump", "droop"), ends.tolist(), axle.move_mm.tolist(), axle.nose_deg.tolist(), strict=True):
        if height:
            found.append(Case(name=name, dz_mm=height, dx_mm=move[0], pitch_deg=nose, rpm=given.extreme_share * rpm))
    # driving torque lifts a rear pinion's nose and lowers a front one's
    way = vehicle.forward
    if given.drive_wrap_deg:
        found.append(Case(name=say("full drive"), wrap_deg=way * given.drive_wrap_deg, rpm=given.extreme_share * rpm))
    if given.overrun_wrap_deg:
        found.append(Case(name="overrun", wrap_deg=-way * given.overrun_wrap_deg))
    return found


def work_out(given: DrivelineInputs) -> DrivelineAnswer:
    """Everything that the desk shows.

    Raises
    ------
    InvalidInput
        With the field of the inputs.
    """
    read, rpm = read_in(given), shaft_rpm(given)
    now = _setting(given, read.vehicle, rpm, SettingsIn())
    tried = _setting(given, read.vehicle, rpm, given.tried) if given.tried is not None else None
    lengths = (tried or now).analysed.shaft_length_mm or []
    tubes = _tubes(given, lengths, rpm)
    face = lengths[-1] if lengths else 0.0
    face += given.order.flange_pinion_mm + (given.order.flange_out_mm if len(lengths) == 1 else 0.0)
    return DrivelineAnswer(
        read=read,
        rpm=rpm,
        now=now,
        tried=tried,
        tubes=tubes,
        torque=_torque(given),
        face_to_face_mm=face,
        warnings=_warnings(tubes, rpm),
    )


def _setting(given: DrivelineInputs, vehicle: Vehicle, rpm: float, chosen: SettingsIn) -> Setting:
    clocks = chosen.clock_deg if chosen.clock_deg is not None else vehicle.clocks
    plain: dict[str, Any] = {"wedge_deg": chosen.wedge_deg, "shim_mm": chosen.shim_mm, "mount_mm": chosen.mount_mm}
    try:
        worked = worked_of(StateQuestion(vehicle=vehicle, clock_deg=clocks, **plain), vehicle.places)
    except InvalidInput as wrong:
        raise wrong.under("tried") from None
    clocked = vehicle.with_clocks(clocks)
    states = states_of(worked)
    used = uses(worked, clocked, rpm, given.allowed)[0].tolist()
    ride = states[0]
    analysed = analyse(
        AnalyseQuestion(
            points_mm=ride.points_mm,
            output_axis=ride.axes[0],
            pinion_axis=ride.axes[-1],
            chain=vehicle.chain,
            joints=vehicle.joints,
            front_share=vehicle.front_share,
            clock_deg=clocks,
            teeth=given.teeth,
            rpm=rpm,
            allowed=given.allowed,
        )
    )
    cases = [
        CaseOut(
            name=case.name, weight=case.weight, rpm=rpm if case.rpm is None else case.rpm, use=share, within=share <= 1.0 + 1e-9, state=one
        )
        for case, share, one in zip(vehicle.places, used, states, strict=True)
    ]
    swept = _travel(given, clocked, plain)
    return Setting(analysed=analysed, cases=cases, travel=swept, slip=_slip(given, swept))


def _travel(given: DrivelineInputs, vehicle: Vehicle, plain: dict[str, float]) -> Travel | None:
    if given.travel is None:
        return None
    return travel(_travel_question(given.travel, vehicle, **plain))


def _slip(given: DrivelineInputs, swept: Travel | None) -> Any:
    if given.slip is None or swept is None:
        return None
    lengths = {name: getattr(swept, name) for name in ("length_ride_mm", "length_min_mm", "length_max_mm")}
    try:
        return slip(SlipQuestion(**given.slip.dict(), **lengths))
    except InvalidInput as wrong:
        raise wrong.under("slip") from None


def _tubes(given: DrivelineInputs, lengths: list[float], rpm: float) -> list[TubeOut]:
    if given.tube is None:
        return []
    found = []
    for number, length in enumerate(lengths, start=1):
        one = shaft(_as_shaft(given.tube.tube, length, given, rpm))
        other, ratios = None, None
        if given.tube.other is not None:
            pair = TubePair(a=_as_shaft(given.tube.tube, length, given, rpm), b=_as_shaft(given.tube.other, length, given, rpm))
            compared = compare_tubes(pair)
            other, ratios = compared.b, compared.ratios
        found.append(TubeOut(number=number, shaft=one, other=other, ratios=ratios, **_bending(given.tube, one, length, rpm)))
    return found


def _bending(given: TubeIn, stiff: Shaft, length_mm: float, rpm: float) -> dict[str, Any]:
    """Bending speed with end fittings, as far as the shaft has room for them; on what holds its ends, once both stiffnesses are known."""
    found: dict[str, Any] = {"with_ends_rpm": None, "verdict": stiff.verdict}
    if 2 * given.end_length_mm >= length_mm:
        return found
    fitted = FittedShaft(**_fields(given.tube), length_mm=length_mm, end_length_mm=given.end_length_mm, end_mass_kg=given.end_mass_kg)
    found["with_ends_rpm"] = with_ends(fitted).critical_rpm
    front, rear = given.support_front_mn_per_m, given.support_rear_mn_per_m
    if front is None or rear is None:
        return found
    held = on_supports(
        SupportedShaft(
            mass_kg=fitted.mass_kg,
            shaft_critical_rpm=found["with_ends_rpm"],
            support_front_n_per_m=front * 1e6,
            support_rear_n_per_m=rear * 1e6,
            rpm=rpm if rpm > 0.0 else None,
        )
    )
    road = None if stiff.max_speed_kmh is None else stiff.max_speed_kmh * held.allowed_rpm / stiff.allowed_rpm
    return {**found, "on_supports": held, "on_supports_kmh": road, "verdict": worst([stiff.verdict, held.verdict])}


def _fields(tube: Tube) -> dict[str, Any]:
    return {one.name: getattr(tube, one.name) for one in fields(tube)}


def _as_shaft(tube: Tube, length_mm: float, given: DrivelineInputs, rpm: float) -> ShaftQuestion:
    speed = given.speed
    return ShaftQuestion(
        **_fields(tube), length_mm=length_mm, circumference_m=speed.circumference_m, ratio=speed.ratio, rpm=rpm if rpm > 0.0 else None
    )


def _torque(given: DrivelineInputs) -> Any:
    speed = given.speed
    if given.load is None or speed.circumference_m is None or speed.ratio is None:
        return None
    return design_torque(TorqueQuestion(**given.load.dict(), circumference_m=speed.circumference_m, ratio=speed.ratio))


def _warnings(tubes: list[TubeOut], rpm: float) -> list[Said]:
    found = []
    for one in tubes:
        if one.verdict == "out":
            safe = min(held.allowed_rpm for held in (one.shaft, one.on_supports) if held is not None)
            found.append(
                say(
                    "A propshaft that lets go at speed comes through the floor: propshaft {number} turns at {rpm:.0f} "
                    "rpm and is safe to {safe:.0f} rpm. Stay below that speed, fit a larger tube, or fit a two-piece "
                    "propshaft.",
                    number=one.number,
                    rpm=rpm,
                    safe=safe,
                )
            )
    return found


def remedies(given: RemedyIn) -> Recommended:
    """The best settings, and the smallest plan of changes.

    Raises
    ------
    InvalidInput, with the field of the inputs.
    """
    vehicle = _vehicle(given.inputs, "inputs")
    front = _vehicle(given.front, "front") if given.front is not None else None
    return recommend(
        RecommendQuestion(
            vehicle=vehicle,
            free=given.free,
            objective=given.objective,
            teeth=given.inputs.teeth,
            rpm=shaft_rpm(given.inputs),
            allowed=given.inputs.allowed,
            front=front,
        )
    )


def _vehicle(given: DrivelineInputs, field: str) -> Vehicle:
    try:
        return read_in(given).vehicle
    except InvalidInput as wrong:
        raise wrong.under(field) from None
