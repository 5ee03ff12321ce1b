"""The preload run: the crush sleeve's plot, the spacer's loop, as the core judges them."""

from __future__ import annotations

from dataclasses import asdict
from typing import Any

from amber_core.errors import InvalidInput
from amber_core.preload.sleeve import SleeveRun, follow_sleeve
from amber_core.preload.sleeve import SleeveStep as CoreStep
from amber_core.preload.spacer import SpacerQuestion, SpacerTrial, next_spacer_stack
from setup_bench.bench import Bench
from setup_bench.models import SleeveStep
from setup_bench.stacks import stored, total_mm
from stores.models import DrawerPlace, Quantity


def standing_steps(bench: Bench) -> list[SleeveStep]:
    """The steps that were not taken back, oldest first."""
    rows = bench.sleeve_steps
    gone = {one.takes_back_id for one in rows if one.takes_back_id is not None}
    return [one for one in rows if one.takes_back_id is None and one.pk not in gone]


def preload_out(bench: Bench) -> dict[str, Any]:
    """Windows, the sleeve now in hand, sleeves used up, and the spacer's stacks."""
    windows = {
        name: {"least": one.least, "greatest": one.greatest} if (one := bench.sheet.limit(quantity)) else None
        for name, quantity in (("new", Quantity.PINION_TORQUE), ("used", Quantity.PINION_TORQUE_USED), ("total", Quantity.TOTAL_TORQUE))
    }
    nut = bench.sheet.limit(Quantity.NUT_TORQUE)
    return {
        "method": bench.sheet.preload_method,
        "windows": windows,
        "window_seal": bench.sheet.torque_window_seal,
        "nut_torque_least_nm": nut.least if nut else None,
        "sleeve": _sleeve_out(bench) if bench.sheet.preload_method == "crush_sleeve" else None,
        "spacer": None if bench.sheet.preload_method == "crush_sleeve" else _spacer_out(bench),
    }


def _sleeve_out(bench: Bench) -> dict[str, Any]:
    rows = bench.sleeve_steps
    by_pk = {one.pk: one for one in rows}
    number = max((one.sleeve for one in rows), default=1)
    steps = [one for one in standing_steps(bench) if one.sleeve == number]
    wrong = ""
    try:
        found = followed(bench, number)
    except InvalidInput as bad:  # stored before steps were judged first: it can be taken back
        found, wrong = None, bad.message
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
        "wrong": wrong,
    }


def followed(bench: Bench, number: int) -> dict[str, Any] | None:
    """What the core says of a sleeve's run; None while there is no step, or no window.

    Raises
    ------
    InvalidInput
        For a run that cannot be followed.
    """
    steps = [one for one in standing_steps(bench) if one.sleeve == number]
    window = bench.sheet.limit(Quantity.PINION_TORQUE)
    if not steps or window is None or window.least is None or window.greatest is None:
        return None
    return asdict(follow_sleeve(_run(bench, steps, window.least, window.greatest)))


def _run(bench: Bench, steps: list[SleeveStep], least: float, greatest: float) -> SleeveRun:
    nut = bench.sheet.limit(Quantity.NUT_TORQUE)
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


def _spacer_out(bench: Bench) -> dict[str, Any]:
    tries, window = list(bench.work.spacer_tries.all()), bench.sheet.limit(Quantity.PINION_TORQUE)
    target = (window.least + window.greatest) / 2.0 if window and window.least is not None and window.greatest is not None else None
    answer: dict[str, Any] | None = None
    if tries:
        last = tries[-1]
        read = [
            SpacerTrial(stack_mm=total_mm(stored(one.pieces)), rotating_torque_nm=one.rotating_torque_nm)
            for one in tries
            if one.rotating_torque_nm is not None and not one.end_play_mm
        ]
        drawer = bench.free_shims(DrawerPlace.SPACER, last.pieces) if bench.has_drawer(DrawerPlace.SPACER) else None
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
