"""The preload run: the crush sleeve's plot, the spacer's loop, as the core judges them."""

from __future__ import annotations

from dataclasses import asdict
from typing import Any

from amber_core.errors import InvalidInput
from amber_core.preload.sleeve import SleeveRun, follow_sleeve
from amber_core.preload.sleeve import SleeveStep as CoreStep
from amber_core.preload.spacer import SpacerQuestion, SpacerTrial, next_spacer_stack
from jobs.models import Job
from jobs.run_sheet import RunSheet
from setup_bench.models import SleeveStep
from setup_bench.question import free_shims, has_drawer
from setup_bench.stacks import stored, total_mm
from stores.models import DrawerPlace, PreloadMethod, Quantity


def standing_steps(job: Job) -> list[SleeveStep]:
    """The steps that were not taken back, oldest first."""
    rows = list(job.sleeve_steps.all())
    gone = {one.takes_back_id for one in rows if one.takes_back_id is not None}
    return [one for one in rows if one.takes_back_id is None and one.pk not in gone]


def preload_out(job: Job) -> dict[str, Any]:
    """Windows, the sleeve now in hand, sleeves used up, and the spacer's stacks."""
    limits = RunSheet(job).limits
    windows = {
        name: {"least": limits[quantity].least, "greatest": limits[quantity].greatest} if quantity in limits else None
        for name, quantity in (("new", Quantity.PINION_TORQUE), ("used", Quantity.PINION_TORQUE_USED), ("total", Quantity.TOTAL_TORQUE))
    }
    nut = limits.get(Quantity.NUT_TORQUE)
    return {
        "method": job.family.preload_method,
        "windows": windows,
        "window_seal": job.family.torque_window_seal,
        "nut_torque_least_nm": nut.least if nut else None,
        "sleeve": _sleeve_out(job) if job.family.preload_method == PreloadMethod.CRUSH_SLEEVE else None,
        "spacer": None if job.family.preload_method == PreloadMethod.CRUSH_SLEEVE else _spacer_out(job),
    }


def _sleeve_out(job: Job) -> dict[str, Any]:
    rows, standing = list(job.sleeve_steps.all()), standing_steps(job)
    by_pk = {one.pk: one for one in rows}
    number = max((one.sleeve for one in rows), default=1)
    steps = [one for one in standing if one.sleeve == number]
    window = RunSheet(job).limits.get(Quantity.PINION_TORQUE)
    found: dict[str, Any] | None = None
    if steps and window is not None and window.least is not None and window.greatest is not None:
        found = asdict(follow_sleeve(_run(job, steps, window.least, window.greatest)))
    return {
        "number": number,
        "used_up": number - 1,
        "steps": [_step_out(one) for one in steps],
        "taken_back": [
            {**_step_out(by_pk[one.takes_back_id]), "reason": one.reason}
            for one in rows
            if one.takes_back_id is not None and one.sleeve == number
        ],
        "answer": found,
    }


def _run(job: Job, steps: list[SleeveStep], least: float, greatest: float) -> SleeveRun:
    nut = RunSheet(job).limits.get(Quantity.NUT_TORQUE)
    return SleeveRun(
        steps=[CoreStep(nut_turn_deg=one.nut_turn_deg, rotating_torque_nm=one.rotating_torque_nm) for one in steps],
        min_nm=least,
        max_nm=greatest,
        nut_torque_nm=steps[-1].nut_torque_nm,
        nut_torque_min_nm=nut.least if nut else None,
    )


def _step_out(one: SleeveStep) -> dict[str, Any]:
    fields = ("nut_turn_deg", "rotating_torque_nm", "typed", "unit", "nut_torque_nm", "by_name", "at")
    return {"id": one.client_id, **{name: getattr(one, name) for name in fields}}


def _spacer_out(job: Job) -> dict[str, Any]:
    tries, window = list(job.spacer_tries.all()), RunSheet(job).limits.get(Quantity.PINION_TORQUE)
    target = (window.least + window.greatest) / 2.0 if window and window.least is not None and window.greatest is not None else None
    answer: dict[str, Any] | None = None
    if tries:
        last = tries[-1]
        read = [
            SpacerTrial(stack_mm=total_mm(stored(one.pieces)), rotating_torque_nm=one.rotating_torque_nm)
            for one in tries
            if one.rotating_torque_nm is not None and not one.end_play_mm
        ]
        drawer = free_shims(job.family, DrawerPlace.SPACER, last.pieces) if has_drawer(job.family, DrawerPlace.SPACER) else None
        question = SpacerQuestion(
            stack_mm=total_mm(stored(last.pieces)),
            end_play_mm=last.end_play_mm,
            rotating_torque_nm=last.rotating_torque_nm,
            target_nm=target,
            trials=read if len(read) > 1 else None,
            stock=drawer,
        )
        try:
            answer = asdict(next_spacer_stack(question))
        except InvalidInput as wrong:
            answer = {
                "stack_mm": question.stack_mm,
                "step": "from_torque",
                "pick": None,
                "reasons": [{"code": "bad", "text": wrong.message}],
            }
    inside = bool(tries and window and _inside(tries[-1].rotating_torque_nm, tries[-1].end_play_mm, window.least, window.greatest))
    return {
        "tries": [
            {
                "id": one.client_id,
                "stack_mm": total_mm(stored(one.pieces)),
                "pieces": [{"thickness_mm": mm, "count": count} for mm, count in stored(one.pieces)],
                "end_play_mm": one.end_play_mm,
                "rotating_torque_nm": one.rotating_torque_nm,
                "by_name": one.by_name,
                "at": one.at,
            }
            for one in tries
        ],
        "target_nm": target,
        "answer": answer,
        "inside": inside,
    }


def _inside(torque: float | None, play: float | None, least: float | None, greatest: float | None) -> bool:
    return torque is not None and not play and (least is None or torque >= least) and (greatest is None or torque <= greatest)
