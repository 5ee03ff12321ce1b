"""The run sheet of a ring-and-pinion set-up, in the order of the work."""

from __future__ import annotations

from amber_core.procedures.steps import LibraryStep, Step, steps_for
from amber_core.words import say

_PREPARE = [
    Step(
        code="stands_and_chocks",
        group=say("Prepare"),
        title=say("Vehicle on axle stands, chocked both ways"),
        why=say("All the work after this is under or inside the vehicle."),
        hold=True,
        caution=say(
            "The vehicle can fall or roll: use axle stands and chocks, never a jack alone. With a propshaft or "
            "half shaft out, neither Park, first gear nor a transmission handbrake holds it."
        ),
    ),
    Step(
        code="fill_plug",
        group=say("Prepare"),
        title=say("Fill plug loose, before the drain plug is touched"),
        why=say("If the fill plug is stuck, a drained axle cannot be filled again."),
        hold=True,
        caution=say("Oil can be hot. Old oil goes to collection."),
    ),
    Step(
        code="gear_set",
        group=say("Prepare"),
        title=say("Gear set identified"),
        why=say("A guessed ratio is often wrong. Count teeth or turns."),
        check="gear_set",
        caution=say("Gears crush fingers: keep your hands out while somebody turns a wheel."),
    ),
]
_TAKE_APART = [
    Step(
        code="as_found",
        group=say("Measure and take apart"),
        title=say("As-found backlash, rotating torque and nut position noted"),
        why=say("Somebody will ask later whether it was like this before."),
    ),
    Step(
        code="match_marks",
        group=say("Measure and take apart"),
        title=say("Flange, propshaft and pinion nut match-marked"),
        why=say("Parts that were balanced together go back together."),
        caution=say("The vehicle can roll: with a propshaft out, neither Park nor first gear holds it. Chock both ways first."),
    ),
    Step(
        code="caps_marked",
        group=say("Measure and take apart"),
        title=say("Bearing caps and adjusters marked: side and way up"),
        why=say("Bearing caps are bored with the axle housing and fit one way only."),
        hold=True,
    ),
]
_SPREADER = Step(
    code="spreader",
    group=say("Measure and take apart"),
    title=say("Case spreader: opening read on a dial indicator, spreader off again"),
    why=say("An axle housing spread past the maker's limit does not spring back."),
    check="spread",
    hold=True,
    caution=say("The carrier is heavy and can drop: support it. Never spread past the maker's limit, and never leave the spreader on."),
    limit="case_spread",
)
_BUILD_UP = [
    Step(
        code="shims_kept",
        group=say("Measure and take apart"),
        title=say("Shims bagged by side, order and thickness"),
        why=say("They are the starting point for every move."),
    ),
    Step(
        code="inspected",
        group=say("Inspect"),
        title=say("Teeth, bearings, bores and splines inspected"),
        why=say("A brinelled cup gives false readings: replace it before you measure."),
        caution=say("A bearing spun with compressed air can burst: never do it."),
    ),
    Step(
        code="ring_bolts",
        group=say("Set up"),
        title=say("Ring gear bolts torqued crosswise and ticked one by one"),
        why=say("A loose ring gear bolt comes out through the cover."),
        check="bolts",
        hold=True,
        caution=say("Clean the flange first: dried thread locker or a burr shows as runout."),
        limit="ring_bolts",
    ),
    Step(
        code="cap_bolts",
        group=say("Set up"),
        title=say("Bearing cap bolts at full torque, ticked one by one"),
        why=say("Readings with loose bearing caps do not count."),
        check="bolts",
        hold=True,
        limit="cap_bolts",
    ),
    Step(
        code="backlash",
        group=say("Set up"),
        title=say("Backlash round the ring gear inside its window"),
        why=say("The least reading counts against the minimum, the difference between greatest and least against the variation."),
        check="bench_backlash",
        hold=True,
    ),
    Step(
        code="pattern",
        group=say("Set up"),
        title=say("Contact pattern painted and read, drive and coast"),
        why=say("Backlash alone does not show where the teeth meet."),
        check="bench_pattern",
        hold=True,
    ),
    Step(
        code="preload",
        group=say("Assemble"),
        title=say("Pinion rotating torque inside its window, turning steadily"),
        why=say("A crush sleeve only goes one way: once it is past the window, it has to be replaced."),
        check="torque",
        hold=True,
        caution=say("The reaction bar can slip and trap a hand: check where it will go before you pull."),
        limit="pinion_torque",
    ),
    Step(
        code="final_reading",
        group=say("Assemble"),
        title=say("Everything read once more after the final assembly"),
        why=say(
            "Final bearings, crush sleeve, seal and nut can change what the trial showed. Read the rotating "
            "torque, the backlash round the ring gear and both patterns again."
        ),
        check="bench_final",
        hold=True,
        caution=say("Gears crush fingers: keep your hands out while somebody turns the pinion."),
    ),
]
_SPEED_RING = Step(
    code="speed_ring",
    group=say("Assemble"),
    title=say("Reluctor ring and wheel-speed sensor refitted"),
    why=say("If it is forgotten, the axle has to come apart again."),
    hold=True,
)
_FINISH = [
    Step(
        code="breather",
        group=say("Assemble"),
        title=say("Breather open"),
        why=say("A blocked breather pushes oil out and draws water in."),
        hold=True,
    ),
    Step(
        code="cover",
        group=say("Assemble"),
        title=say("Cover on, bolts staged crosswise, sealant cured"),
        why=say("Sealant that has not cured leaks."),
        caution=say("Small bolts strip alloy threads: use low torque. A bolt that turns without gaining torque is stretching: stop."),
    ),
    Step(
        code="oil",
        group=say("Assemble"),
        title=say("Oil filled: litres poured"),
        why=say("Before anything turns under power."),
        check="litres",
        hold=True,
        limit="oil",
    ),
    Step(
        code="wheel_nuts",
        group=say("Prove"),
        title=say("Wheel nuts torqued by hand; odometer read"),
        why=say("Wheel nuts are due again after 50 to 100 km."),
        check="odometer",
        hold=True,
    ),
    Step(
        code="brakes",
        group=say("Prove"),
        title=say("Brakes firm before the vehicle moves"),
        why=say("Any brake that was disturbed has to be checked."),
        hold=True,
        caution=say("Brake dust is harmful: wet it, never blow it."),
    ),
    Step(
        code="road_test",
        group=say("Prove"),
        title=say("Road test in stages: drive, floating, overrun"),
        why=say("Listen at each stage, and measure the pinion and wheel ends with a thermometer."),
        caution=say("Parts get hot. Never run at road speed on axle stands."),
    ),
]


LIBRARY: list[LibraryStep] = [
    *(LibraryStep(step=one) for one in [*_PREPARE, *_TAKE_APART]),
    LibraryStep(step=_SPREADER, needs="has_spreader"),
    *(LibraryStep(step=one) for one in _BUILD_UP),
    LibraryStep(step=_SPEED_RING, needs="has_speed_ring"),
    *(LibraryStep(step=one) for one in _FINISH),
]
"""Every step of this kind of work, in its order, each with the fact of the axle that it needs."""


def ring_and_pinion_steps(*, has_spreader: bool, has_speed_ring: bool) -> list[Step]:
    """The steps for an axle.

    Parameters
    ----------
    has_spreader : bool
        The carrier comes out with a case spreader.
    has_speed_ring : bool
        A reluctor ring and its sensor sit on this axle.

    Returns
    -------
    list of Step
        In work order.
    """
    return steps_for(LIBRARY, {"has_spreader": has_spreader, "has_speed_ring": has_speed_ring})
