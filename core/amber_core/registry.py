"""The one list of public computations; the HTTP endpoints, the command line and the API schema all come from it."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from functools import cache
from importlib import import_module
from typing import Any, get_type_hints

from amber_core import payload as codec
from amber_core.errors import NotFinite, UnknownComputation

_WHERE = {
    "air.hold": ("amber_core.air_lines.hold", "judge_air_hold"),
    "backlash.assess": ("amber_core.backlash.assess", "assess_backlash"),
    "backlash.from_flange": ("amber_core.backlash.from_flange", "backlash_from_flange"),
    "bearing.compare": ("amber_core.bearings.compare", "compare_bearings"),
    "bearing.full_complement": ("amber_core.bearings.full_complement", "count_rollers"),
    "carrier.move": ("amber_core.carrier.move", "move_carrier"),
    "clutchpack.breakaway": ("amber_core.clutch_pack.breakaway", "judge_breakaway"),
    "clutchpack.order": ("amber_core.clutch_pack.order", "check_order"),
    "clutchpack.shims": ("amber_core.clutch_pack.shims", "shim_packs"),
    "contact.estimate": ("amber_core.contact.estimate", "estimate_contact"),
    "contact.simulate": ("amber_core.contact.simulate", "simulate_contact"),
    "depth.measure": ("amber_core.depth.measure", "measure_depth"),
    "depth.start": ("amber_core.depth.start", "start_depth"),
    "driveline.analyse": ("amber_core.driveline.analyse", "analyse"),
    "driveline.angles": ("amber_core.driveline.angles", "joint_angles"),
    "driveline.clocking": ("amber_core.driveline.clocking", "best_clocking"),
    "driveline.clocking_floor": ("amber_core.driveline.clocking", "clocking_floor"),
    "driveline.convert_axis": ("amber_core.driveline.angles", "convert_axis"),
    "driveline.equivalent": ("amber_core.driveline.equivalent", "excitation"),
    "driveline.extremes": ("amber_core.driveline.kinematics", "extremes"),
    "driveline.inspect_joint": ("amber_core.driveline.inspection", "inspect_joint"),
    "driveline.joint_from_flange": ("amber_core.driveline.flanges", "joint_from_flange"),
    "driveline.kinematics": ("amber_core.driveline.kinematics", "motion"),
    "driveline.length": ("amber_core.driveline.flanges", "shaft_length"),
    "driveline.limits": ("amber_core.driveline.limits", "speed_limits"),
    "driveline.points": ("amber_core.driveline.points", "point_angles"),
    "driveline.readings": ("amber_core.driveline.readings", "from_readings"),
    "driveline.recommend": ("amber_core.driveline.recommend", "recommend"),
    "driveline.slip": ("amber_core.driveline.slip", "slip"),
    "driveline.state": ("amber_core.driveline.state", "state"),
    "driveline.travel": ("amber_core.driveline.travel", "travel"),
    "endplay.hot": ("amber_core.endplay.hot", "play_when_hot"),
    "endplay.shims": ("amber_core.endplay.shims", "shim_end_play"),
    "fit.clearance": ("amber_core.fits.clearance", "judge_clearance"),
    "fit.land": ("amber_core.fits.land", "compare_land_ways"),
    "fit.press": ("amber_core.fits.press", "press_fit"),
    "fluid.plan": ("amber_core.fluids.plan", "plan_fluid"),
    "gasket.template": ("amber_core.gaskets.template", "make_template"),
    "gearset.geometry": ("amber_core.gearset.geometry", "complete_geometry"),
    "gearset.identify": ("amber_core.gearset.identify", "identify_gear_set"),
    "halfshaft.home": ("amber_core.wheel_ends.half_shaft", "judge_home"),
    "heat.judge": ("amber_core.road_test.heat", "judge_heat"),
    "job.schedule": ("amber_core.planning.schedule", "schedule_job"),
    "lash.side_gear": ("amber_core.differential.side_gear", "judge_side_gear"),
    "locker.gap": ("amber_core.differential.locker", "judge_locker_gap"),
    "nut.castle": ("amber_core.fasteners.castle", "set_castle_nut"),
    "parts.look": ("amber_core.parts.look", "think_through"),
    "parts.plan": ("amber_core.parts.plan", "plan_parts"),
    "preload.assess": ("amber_core.preload.assess", "assess_preload"),
    "preload.carrier": ("amber_core.preload.carrier", "assess_carrier_preload"),
    "preload.pull": ("amber_core.preload.pull", "torque_from_pull"),
    "preload.sleeve": ("amber_core.preload.sleeve", "follow_sleeve"),
    "preload.spacer": ("amber_core.preload.spacer", "next_spacer_stack"),
    "quote.compare": ("amber_core.planning.quote", "compare_quotes"),
    "ratio.choose": ("amber_core.ratios.choose", "choose_ratio"),
    "ratio.compare": ("amber_core.ratios.compare", "compare_gearings"),
    "ratio.crawl": ("amber_core.ratios.engine_speed", "crawl"),
    "ratio.engine_speed": ("amber_core.ratios.engine_speed", "engine_speed"),
    "ratio.grade": ("amber_core.ratios.grade", "grade"),
    "ratio.grip": ("amber_core.ratios.grade", "grip"),
    "ratio.match": ("amber_core.ratios.match", "match_axles"),
    "ratio.speedometer": ("amber_core.ratios.tyre_change", "speedometer"),
    "ratio.tyre_change": ("amber_core.ratios.tyre_change", "tyre_change"),
    "ratio.upshift": ("amber_core.ratios.engine_speed", "upshift"),
    "runin.plan": ("amber_core.road_test.run_in", "plan_run_in"),
    "runout.assess": ("amber_core.runout.assess", "assess_runout"),
    "setup.advise": ("amber_core.setup.advise", "advise_setup"),
    "shaft.compare": ("amber_core.shafts.tube", "compare_tubes"),
    "shaft.design_torque": ("amber_core.shafts.torque", "design_torque"),
    "shaft.engagement": ("amber_core.wheel_ends.engagement", "judge_engagement"),
    "shaft.max_length": ("amber_core.shafts.tube", "max_length"),
    "shaft.supports": ("amber_core.shafts.bending", "on_supports"),
    "shaft.tube": ("amber_core.shafts.tube", "shaft"),
    "shaft.with_ends": ("amber_core.shafts.bending", "with_ends"),
    "shims.pick": ("amber_core.shims.pick", "pick_shims"),
    "speed.check": ("amber_core.road_test.speed_check", "check_speed"),
    "torque.estimate": ("amber_core.fasteners.estimate", "estimate_torque"),
    "torque.plan": ("amber_core.fasteners.sequence", "plan_torque"),
    "torque.turning": ("amber_core.fasteners.turning", "follow_turning"),
    "tube.register": ("amber_core.wheel_ends.tube_register", "plan_tube_end"),
    "tyre.parse": ("amber_core.tyres.designation", "parse_tyre"),
    "tyre.rollout": ("amber_core.tyres.rollout", "roll_out"),
    "vibration.bearing": ("amber_core.vibration.orders", "bearing"),
    "vibration.felt": ("amber_core.vibration.felt", "felt"),
    "vibration.orders": ("amber_core.vibration.orders", "orders"),
    "vibration.rank": ("amber_core.vibration.rank", "rank"),
    "vibration.rank_spectrum": ("amber_core.vibration.rank", "rank_spectrum"),
    "vibration.spectrum": ("amber_core.vibration.spectrum", "spectrum"),
    "vibration.tell_apart": ("amber_core.vibration.tell_apart", "tell_apart"),
}


@dataclass(frozen=True, slots=True, kw_only=True)
class Computation:
    """A public computation: one question in, one answer out."""

    name: str
    function: Callable[[Any], Any]
    question: type[Any]
    answer: type[Any]


def names() -> list[str]:
    """All public names, in order."""
    return sorted(_WHERE)


@cache
def find(name: str) -> Computation:
    """The computation of that name, imported when it is first asked for.

    Raises
    ------
    UnknownComputation
        When there is none.
    """
    if name not in _WHERE:
        raise UnknownComputation(name)
    module, function_name = _WHERE[name]
    function = getattr(import_module(module), function_name)
    hints = get_type_hints(function)
    answer = hints.pop("return")
    (question,) = hints.values()
    return Computation(name=name, function=function, question=question, answer=answer)


def run(name: str, payload: dict[str, Any]) -> dict[str, Any]:
    """Answer a question given and returned in plain JSON types.

    Raises
    ------
    UnknownComputation
        When there is no such name.
    InvalidInput
        When something in the payload can be mended; carries the field's path. An unknown field carries the nearest known name as its hint.
    """
    computation = find(name)
    question = codec.read(computation.question, payload)
    try:
        answer = computation.function(question)
    except ArithmeticError:  # figures possible one by one, and absurd together
        raise NotFinite("answer") from None
    return codec.plain(answer)
