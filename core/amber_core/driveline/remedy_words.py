"""What a plan of remedies says: each change in a sentence, what it does, and what it costs elsewhere."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np

from amber_core.driveline.axes import wrap90
from amber_core.driveline.clocking import turn_of
from amber_core.driveline.state import State, StateQuestion, state
from amber_core.driveline.variables import Variable
from amber_core.driveline.vehicle import Case, Field, Vehicle
from amber_core.words import Said, say, together


@dataclass(frozen=True, slots=True, kw_only=True)
class Change:
    """One change: its variable, by how much (deg, mm, or whole teeth where a spline is turned), and sentences."""

    name: str
    amount: float
    teeth: int | None
    text: Said
    does: Said
    costs: list[Said]


def reasons_of(within: bool, changed: list[int], others: list[list[str]]) -> Iterator[Said]:
    if within and not changed:
        yield say("Everything is within its limits. Nothing needs changing.")
    elif within:
        yield say("The fewest changes that bring every position within its limits, with the least work.")
    else:
        yield (
            say(
                "Nothing that may be changed brings every position within its limits. This comes nearest. Look at "
                "the ride height, or at a double Cardan joint."
            )
        )
    if others:
        yield say("Other changes would do as well.")


def change_of(
    vehicle: Vehicle, variables: list[Variable], now: Field, values: Field, index: int, front: tuple[float, float] | None
) -> Change:
    """One change of a plan; `front` is what the other driveline uses of its limits before and after, where there is one."""
    one, amount = variables[index], float(values[index] - now[index])
    main = max(vehicle.places, key=lambda case: case.weight)
    alone = now.copy()
    alone[index] = values[index]
    was, becomes = _state(vehicle, variables, now, main), _state(vehicle, variables, alone, main)
    moved = float(np.linalg.norm(np.subtract(becomes.pinion_joint_mm, was.pinion_joint_mm)))
    joints = [
        say("{before:.1f} to {after:.1f}", before=before, after=after)
        for before, after in zip(was.joint_angle_deg, becomes.joint_angle_deg, strict=True)
    ]
    does = say(
        "On its own, at {place}: equivalent angle {before:.1f} to {after:.1f} degrees; joint angles {joints} degrees.",
        place=main.name or say("ride height"),
        before=was.b_eq_deg,
        after=becomes.b_eq_deg,
        joints=together(joints, ", "),
    )
    if one.shaft is not None:
        return _clocked(one, amount, does)
    if one.name == "wedge_deg":
        text = (
            say("Fit wedges of {amount:g} degrees under the spring pads, pinion nose up.", amount=abs(amount))
            if amount > 0
            else say("Fit wedges of {amount:g} degrees under the spring pads, pinion nose down.", amount=abs(amount))
        )
        costs = [
            say("The pinion joint moves {moved:mm0} with it; that is included.", moved=moved),
            say("The axle turns on its springs. Check brake pipes, bump stops, U-bolts and, on a steered axle, the castor."),
        ]
        return Change(name=one.name, amount=amount, teeth=None, text=text, does=does, costs=costs)
    if one.name == "shim_mm":
        lift = abs(becomes.points_mm[1][2] - was.points_mm[1][2])
        text = (
            say("Raise the centre bearing by {amount:mmg}.", amount=abs(amount))
            if amount > 0
            else say("Lower the centre bearing by {amount:mmg}.", amount=abs(amount))
        )
        costs = [
            say("The joint behind it moves {lift:mm0}, more than the centre bearing itself.", lift=lift),
            say("Check that the propshaft clears its tunnel and safety loop."),
        ]
        return Change(name=one.name, amount=amount, teeth=None, text=text, does=does, costs=costs)
    text = (
        say("Raise the tail of the gearbox or transfer case by {amount:mmg} at its mount.", amount=abs(amount))
        if amount > 0
        else say("Lower the tail of the gearbox or transfer case by {amount:mmg} at its mount.", amount=abs(amount))
    )
    tilt = becomes.output_side_deg - was.output_side_deg
    costs = [
        say("The output slopes {tilt:.1f} degrees more. Check the fan, exhaust, levers and hoses.", tilt=abs(tilt))
        if tilt > 0
        else say("The output slopes {tilt:.1f} degrees less. Check the fan, exhaust, levers and hoses.", tilt=abs(tilt))
    ]
    if front is not None:
        before, after = 100 * front[0], 100 * front[1]
        costs.append(
            say(
                "The front propshaft changes too and stays within its limits: {before:.0f} to {after:.0f} "
                "% of the limit it comes nearest to.",
                before=before,
                after=after,
            )
            if front[1] <= 1.0
            else say(
                "The front propshaft changes too and goes out of its limits: {before:.0f} to {after:.0f} % "
                "of the limit it comes nearest to.",
                before=before,
                after=after,
            )
        )
    else:
        costs.append(say("Tilting the transfer case changes the front propshaft too. Enter it to see by how much."))
    return Change(name=one.name, amount=amount, teeth=None, text=text, does=does, costs=costs)


def _clocked(one: Variable, turn_deg: float, does: Said) -> Change:
    costs = [
        say("The yokes are no longer in phase. Mark both halves, or somebody will put them back in phase."),
        say("The joint planes turn with the suspension. See what is left at the other positions."),
    ]
    if one.teeth is None:
        text = (
            say(
                "Turn the rear yoke of propshaft {shaft} by {angle:.0f} degrees clockwise, seen from the gearbox end.",
                shaft=one.shaft,
                angle=abs(turn_deg),
            )
            if turn_deg > 0
            else say(
                "Turn the rear yoke of propshaft {shaft} by {angle:.0f} degrees anticlockwise, seen from the gearbox end.",
                shaft=one.shaft,
                angle=abs(turn_deg),
            )
        )
        return Change(name=one.name, amount=turn_deg, teeth=None, text=text, does=does, costs=costs)
    # yokes repeat after half a turn: the same place may be met by other teeth, on an odd spline only so
    tries = [(m, abs(wrap90(turn_of(m, one.teeth) - turn_deg))) for m in range(-(one.teeth // 2), one.teeth // 2 + 1)]
    teeth = min(tries, key=lambda pair: (round(pair[1], 6), abs(pair[0]), -pair[0]))[0]
    count = say("1 tooth") if abs(teeth) == 1 else say("{teeth} teeth", teeth=abs(teeth))
    angle = turn_of(abs(teeth), one.teeth)
    text = (
        say(
            "Turn the rear half of propshaft {shaft} by {count} clockwise ({angle:.1f} degrees), seen from the gearbox end.",
            shaft=one.shaft,
            count=count,
            angle=angle,
        )
        if teeth > 0
        else say(
            "Turn the rear half of propshaft {shaft} by {count} anticlockwise ({angle:.1f} degrees), seen from the gearbox end.",
            shaft=one.shaft,
            count=count,
            angle=angle,
        )
    )
    return Change(name=one.name, amount=turn_deg, teeth=teeth, text=text, does=does, costs=costs)


def _state(vehicle: Vehicle, variables: list[Variable], values: Field, case: Case) -> State:
    given = dict(zip([one.name for one in variables], values.tolist(), strict=True))
    clocks = [given.get(f"clock_shaft_{number}", clock) for number, clock in enumerate(vehicle.clocks, start=1)]
    plain = {name: given.get(name, 0.0) for name in ("wedge_deg", "shim_mm", "mount_mm")}
    return state(StateQuestion(vehicle=vehicle, clock_deg=clocks, case=case, **plain))
