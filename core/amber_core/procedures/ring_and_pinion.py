"""The run sheet of a ring-and-pinion set-up, in the order of the work."""

from __future__ import annotations

from amber_core.procedures.steps import LibraryStep, Step, steps_for

_PREPARE = [
    Step(
        code="stands_and_chocks",
        group="Prepare",
        title="Vehicle on stands, chocked both ways",
        why="Everything after this happens under or inside it.",
        hold=True,
        caution="Stands and chocks, never a jack alone. With a shaft out, Park, first gear and a transmission handbrake hold nothing.",
    ),
    Step(
        code="fill_plug",
        group="Prepare",
        title="Fill plug loose, before the drain plug is touched",
        why="An axle that is drained and cannot be filled stands where it is.",
        hold=True,
        caution="Old oil goes to collection. It may be hot.",
    ),
    Step(
        code="gear_set",
        group="Prepare",
        title="Gear set identified",
        why="Guessed ratios are wrong often enough. Count teeth or turns.",
        check="gear_set",
        caution="Fingers out of the gears while someone turns a wheel.",
    ),
]
_TAKE_APART = [
    Step(
        code="as_found",
        group="Measure and take apart",
        title="As-found backlash, rotating torque and nut position noted",
        why="Later somebody asks whether it was like this before.",
    ),
    Step(
        code="match_marks",
        group="Measure and take apart",
        title="Flange, shaft and pinion nut match-marked",
        why="What was balanced together goes back together.",
        caution="Chock before a shaft comes out: the gearbox no longer holds the vehicle.",
    ),
    Step(
        code="caps_marked",
        group="Measure and take apart",
        title="Bearing caps and adjusters marked: side and way up",
        why="Caps are bored with the housing and fit one way only.",
        hold=True,
    ),
]
_SPREADER = Step(
    code="spreader",
    group="Measure and take apart",
    title="Case spreader: dial on the housing, opening read, spreader off again",
    why="A housing opened past the maker's limit stays open.",
    check="spread",
    hold=True,
    caution="Never past the maker's limit, never left on. The carrier is heavier than it looks.",
    limit="case_spread",
)
_BUILD_UP = [
    Step(
        code="shims_kept",
        group="Measure and take apart",
        title="Shims bagged by side, order and thickness",
        why="They are the starting point of every move.",
    ),
    Step(
        code="inspected",
        group="Inspect",
        title="Teeth, bearings, bores and splines inspected",
        why="A brinelled cup makes every reading after it a lie.",
        caution="Never spin a bearing with compressed air.",
    ),
    Step(
        code="ring_bolts",
        group="Set up",
        title="Ring bolts torqued crosswise and ticked one by one",
        why="A missed bolt comes out through the cover.",
        check="bolts",
        hold=True,
        caution="Clean the flange first: dried thread locker or a burr reads as runout.",
        limit="ring_bolts",
    ),
    Step(
        code="cap_bolts",
        group="Set up",
        title="Cap bolts at full torque, ticked one by one",
        why="Readings with loose caps are void.",
        check="bolts",
        hold=True,
        limit="cap_bolts",
    ),
    Step(
        code="backlash",
        group="Set up",
        title="Backlash round the ring inside its window",
        why="The least counts against the lower limit, the spread against the variation.",
        check="bench_backlash",
        hold=True,
    ),
    Step(
        code="pattern",
        group="Set up",
        title="Pattern painted and read, drive and coast",
        why="Backlash alone does not say where the teeth meet.",
        check="bench_pattern",
        hold=True,
    ),
    Step(
        code="preload",
        group="Assemble",
        title="Pinion rotating torque inside its window, turning steadily",
        why="A crush sleeve goes one way: once past, it is replaced.",
        check="torque",
        hold=True,
        caution="Reaction bar: where will it go when it slips?",
        limit="pinion_torque",
    ),
    Step(
        code="final_reading",
        group="Assemble",
        title="Everything read once more after the final assembly",
        why="Final bearings, sleeve, seal and nut can move what the trial showed: torque, backlash round the ring and both patterns.",
        check="bench_final",
        hold=True,
        caution="Fingers out of the gears while someone turns the pinion.",
    ),
]
_SPEED_RING = Step(
    code="speed_ring",
    group="Assemble",
    title="Speed ring and sensor refitted",
    why="Forgotten, it is a second strip-down.",
    hold=True,
)
_FINISH = [
    Step(
        code="breather",
        group="Assemble",
        title="Breather open",
        why="A blocked one pumps oil out and draws water in.",
        hold=True,
    ),
    Step(
        code="cover",
        group="Assemble",
        title="Cover on, bolts staged crosswise, sealant cured",
        why="Sealant that has not cured is not a seal.",
        caution="Small bolts into alloy strip: low torque. A bolt that turns without gaining torque is stretching: stop.",
    ),
    Step(
        code="oil",
        group="Assemble",
        title="Oil in: litres poured",
        why="Before any turn under power.",
        check="litres",
        hold=True,
        limit="oil",
    ),
    Step(
        code="wheel_nuts",
        group="Prove",
        title="Wheel nuts torqued by hand; odometer read",
        why="Due again after 50 to 100 km.",
        check="odometer",
        hold=True,
    ),
    Step(
        code="brakes",
        group="Prove",
        title="Brakes firm before the vehicle moves",
        why="Brakes disturbed are brakes checked.",
        hold=True,
        caution="Brake dust is wetted, never blown.",
    ),
    Step(
        code="road_test",
        group="Prove",
        title="Road test in stages: drive, float, overrun",
        why="Listen on each; measure the pinion and the wheel ends with a thermometer.",
        caution="Hot parts. No road speed on stands.",
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
