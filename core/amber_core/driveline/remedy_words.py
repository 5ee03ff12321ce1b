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


@dataclass(frozen=True, slots=True, kw_only=True)
class Change:
    """One change: its variable, by how much (deg, mm, or whole teeth where a spline is turned), and sentences."""

    name: str
    amount: float
    teeth: int | None
    text: str
    does: str
    costs: list[str]


def reasons_of(within: bool, changed: list[int], others: list[list[str]]) -> Iterator[str]:
    if within and not changed:
        yield "Everything is within its limits as it is: nothing needs changing."
    elif within:
        yield "The fewest changes that bring every case into its limits; of as few, those of least work."
    else:
        yield (
            "What may be changed does not bring every case into its limits; this comes nearest. "
            "Look at ride height, or at a double Cardan joint."
        )
    if others:
        yield "Other changes as few would do as well."


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
    does = (
        f"Alone, at {main.name or 'ride'}: equivalent angle {was.b_eq_deg:.1f} to {becomes.b_eq_deg:.1f} degrees; "
        + "joints "
        + ", ".join(f"{a:.1f} to {b:.1f}" for a, b in zip(was.joint_angle_deg, becomes.joint_angle_deg, strict=True))
        + " degrees."
    )
    if one.shaft is not None:
        return _clocked(one, amount, does)
    if one.name == "wedge_deg":
        way = "up" if amount > 0 else "down"
        text = f"Wedges of {abs(amount):g} degrees under the spring pads, the pinion's nose {way}."
        costs = [
            f"The pinion's joint moves {moved:.0f} mm with it, which is counted in.",
            "The axle turns in its springs: look at brake pipes, bump stops, spring bolts and, on a steered axle, the caster.",
        ]
        return Change(name=one.name, amount=amount, teeth=None, text=text, does=does, costs=costs)
    way = "Raise" if amount > 0 else "Lower"
    if one.name == "shim_mm":
        lift = abs(becomes.points_mm[1][2] - was.points_mm[1][2])
        text = f"{way} the centre bearing by {abs(amount):g} mm."
        costs = [f"The joint behind it moves {lift:.0f} mm, more than the bearing does.", "Look that the shaft clears its tunnel and loop."]
        return Change(name=one.name, amount=amount, teeth=None, text=text, does=does, costs=costs)
    text = f"{way} the tail of the gearbox or transfer case by {abs(amount):g} mm at its mount."
    tilt = becomes.output_side_deg - was.output_side_deg
    costs = [f"The output slopes {abs(tilt):.1f} degrees {'more' if tilt > 0 else 'less'}; look at fan, exhaust, levers and hoses."]
    if front is not None:
        state_word = "stays within its limits" if front[1] <= 1.0 else "is out of its limits"
        costs.append(
            f"The front shaft changes too and {state_word}: {100 * front[0]:.0f} to {100 * front[1]:.0f} % of the tightest of them."
        )
    else:
        costs.append("On a transfer case the front shaft changes too: enter it to see by how much.")
    return Change(name=one.name, amount=amount, teeth=None, text=text, does=does, costs=costs)


def _clocked(one: Variable, turn_deg: float, does: str) -> Change:
    costs = [
        "The forks no longer stand in line: mark both halves, or somebody will put them back in line.",
        "Joint planes turn with the suspension; the cases show what is left elsewhere.",
    ]
    way = "clockwise" if turn_deg > 0 else "anticlockwise"
    seen = f"{way} looking along the chain from the driver to the axle"
    if one.teeth is None:
        text = f"Turn the rear fork of shaft {one.shaft} by {abs(turn_deg):.0f} degrees {seen}."
        return Change(name=one.name, amount=turn_deg, teeth=None, text=text, does=does, costs=costs)
    # forks repeat after half a turn: the same place may be met by other teeth, on an odd spline only so
    tries = [(m, abs(wrap90(turn_of(m, one.teeth) - turn_deg))) for m in range(-(one.teeth // 2), one.teeth // 2 + 1)]
    teeth = min(tries, key=lambda pair: (round(pair[1], 6), abs(pair[0]), -pair[0]))[0]
    seen = f"{'clockwise' if teeth > 0 else 'anticlockwise'} looking along the chain from the driver to the axle"
    word = "tooth" if abs(teeth) == 1 else "teeth"
    text = f"Set the rear half of shaft {one.shaft} over by {abs(teeth)} {word} {seen} ({turn_of(abs(teeth), one.teeth):.1f} degrees)."
    return Change(name=one.name, amount=turn_deg, teeth=teeth, text=text, does=does, costs=costs)


def _state(vehicle: Vehicle, variables: list[Variable], values: Field, case: Case) -> State:
    given = dict(zip([one.name for one in variables], values.tolist(), strict=True))
    clocks = [given.get(f"clock_shaft_{number}", clock) for number, clock in enumerate(vehicle.clocks, start=1)]
    plain = {name: given.get(name, 0.0) for name in ("wedge_deg", "shim_mm", "mount_mm")}
    return state(StateQuestion(vehicle=vehicle, clock_deg=clocks, case=case, **plain))
