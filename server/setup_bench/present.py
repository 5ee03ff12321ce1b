"""The bench as the API shows it."""

from __future__ import annotations

from dataclasses import asdict
from typing import Any

import numpy as np

from amber_core.gearset.complete import completed
from amber_core.gearset.flank import local_depth_mm
from amber_core.gearset.macro import build_macro
from amber_core.setup.question import PatternWindow
from amber_core.verdicts import SLACK
from jobs.models import Job
from setup_bench.estimate import RESOLUTION_MM, Window, assess, geometry_of, ring_move_mm
from setup_bench.models import PatternReading, Reading, TorqueReading, Trial, TrialBearings
from setup_bench.preload import preload_out
from setup_bench.question import aim_of, counts, depth_shim_mm, depth_shims_mm, latest_pattern, question_of, set_of, start_of
from setup_bench.stacks import Pieces, stored, total_mm
from setup_bench.verdicts import PatternVerdict, judge_patterns, judge_pinion, judge_total, latest_torque
from stores.api import limit_out
from stores.models import Quantity

POSITIONS_DEG = [45.0 * k for k in range(8)]


def bench_out(job: Job) -> dict[str, Any]:
    """What was put in and read, with its verdicts; the next move is asked for by itself."""
    family, window, geometry = job.family, aim_of(job), geometry_of(set_of(job))
    trials = sorted(job.trials.all(), key=lambda trial: trial.number)
    question = question_of(job, trials)
    shown: list[dict[str, Any]] = []
    for index, trial in enumerate(trials):
        verdict = assess(trial, window, geometry)
        moved = ring_move_mm(family, trials[index - 1], trial) if index else None
        # the question holds the last trials only
        at = index - len(trials)
        pattern = PatternVerdict("unknown", []) if question is None or -at > len(question.trials) else judge_patterns(trial, question, at)
        shown.append(_trial_out(job, trial, window, moved, asdict(verdict) if verdict else None, pattern))
    start = start_of(job)
    return {
        "job_id": job.pk,
        "job_number": job.number,
        "vehicle": job.vehicle,
        "axle_label": job.get_axle_display(),
        "family_name": family.name,
        "carrier_method": family.carrier_method,
        "carrier_label": family.get_carrier_method_display(),
        "shim_place": family.shim_place,
        "shim_place_label": family.get_shim_place_display(),
        "preload_method": family.preload_method,
        "preload_label": family.get_preload_method_display(),
        "bearing_offset_mm": family.bearing_offset_mm,
        "depth_with_final_bearings_mm": depth_shims_mm(trials, family, bearings=TrialBearings.FINAL)[-1] if trials else None,
        "nominal_depth_mm": next((one.least for one in family.limits.all() if one.quantity == Quantity.DEPTH), None),
        "start": {
            "set_state": start.set_state,
            "drive_flank": start.drive_flank,
            "asked": start.asked,
            "ring_on": start.ring_on,
            "as_found": asdict(start.as_found) if start.as_found else None,
        },
        "has_depth_drawer": any(one.place == "depth" for one in family.shims.all()),
        "final_missing": job.final_missing,
        "instrument": _instrument_out(job),
        "notch_mm": family.notch_mm,
        "signed_off": job.signed_off_at is not None,
        "limits": [
            limit_out(one, is_sample=family.is_sample)
            for one in family.limits.all()
            if one.quantity in (Quantity.BACKLASH, Quantity.VARIATION)
        ],
        "min_mm": window.min_mm,
        "max_mm": window.max_mm,
        "max_variation_mm": window.max_variation_mm,
        "resolution_mm": RESOLUTION_MM,
        "positions_deg": POSITIONS_DEG,
        "slope": None
        if geometry is None
        else {
            "ring_teeth": geometry.ring_teeth,
            "ratio": geometry.ring_teeth / geometry.pinion_teeth,
            "backlash_per_ring_move": geometry.backlash_per_ring_move,
            "plunger_per_arc": geometry.plunger_per_arc,
            "estimated": geometry.estimated,
        },
        "proportions": _proportions(job),
        "pattern_window": asdict(question.goal.pattern if question else PatternWindow()),
        "trials": shown,
        "preload": preload_out(job),
    }


def pieces_out(pieces: Pieces) -> list[dict[str, Any]]:
    return [{"thickness_mm": thickness, "count": count} for thickness, count in pieces]


def _proportions(job: Job) -> dict[str, Any] | None:
    """How long and how deep the ring's flank is, [mm]."""
    known = set_of(job)
    if known is None:
        return None
    macro = build_macro(completed(known)[0])
    toe, heel = (float(one) for one in local_depth_mm(macro, np.array([0.0, 1.0])))
    return {"face_mm": macro.given.face_mm, "toe_depth_mm": toe, "heel_depth_mm": heel}


def _instrument_out(job: Job) -> dict[str, Any] | None:
    """The last check of the dial."""
    last = max(job.instrument_checks.all(), key=lambda one: one.pk, default=None)
    return None if last is None else {"good": last.good, "by_name": last.by_name, "at": last.at}


def _pattern_out(read: PatternReading | None) -> dict[str, Any] | None:
    if read is None:
        return None
    fields = ("u", "v", "length", "height", "tilt_deg", "runs_off", "photo_place", "note", "by_name", "at")
    photo = read.photo.client_id if read.photo is not None else None
    return {"id": read.client_id, "photo": photo, **{name: getattr(read, name) for name in fields}}


def _torque_out(read: TorqueReading | None, verdict: Any) -> dict[str, Any] | None:
    if read is None:
        return None
    fields = ("value_nm", "typed", "unit", "radius_mm", "bearings", "seal", "seal_drag_nm", "by_name", "at")
    found = asdict(verdict) if verdict is not None else None
    judged = {"verdict": found["verdict"], "reasons": found["reasons"]} if found else {"verdict": "unknown", "reasons": []}
    return {"id": read.client_id, **{name: getattr(read, name) for name in fields}, **judged}


def _depth_out(trial: Trial) -> dict[str, Any] | None:
    read = max(trial.depths.all(), key=lambda one: one.pk, default=None)
    if read is None:
        return None
    return {"tool": read.tool, "distance_mm": read.distance_mm, "error_mm": read.error_mm, "by_name": read.by_name, "at": read.at}


def _trial_out(
    job: Job, trial: Trial, window: Window, moved: float | None, verdict: dict[str, Any] | None, pattern: PatternVerdict
) -> dict[str, Any]:
    depth, spacer = trial.depth_pieces, trial.spacer_pieces
    shims = trial.ring_side_notches is None
    ring, far = stored(trial.ring_side_pieces), stored(trial.far_side_pieces)
    return {
        "id": trial.client_id,
        "number": trial.number,
        "ring_side_mm": total_mm(ring) if shims else None,
        "far_side_mm": total_mm(far) if shims else None,
        "ring_side": pieces_out(ring) if shims else None,
        "far_side": pieces_out(far) if shims else None,
        "ring_side_notches": trial.ring_side_notches,
        "far_side_notches": trial.far_side_notches,
        "ring_move_mm": moved,
        "depth_shim_mm": depth_shim_mm(trial),
        "depth": pieces_out(stored(depth)) if depth is not None else None,
        "spacer": pieces_out(stored(spacer)) if spacer is not None else None,
        "preload_part": trial.preload_part,
        "preload_part_label": trial.get_preload_part_display(),
        "bearings": trial.bearings,
        "is_final": trial.is_final,
        "counts": counts(trial),
        "conditions": _who(getattr(trial, "conditions", None)),
        "drive": _pattern_out(latest_pattern(trial, "drive")),
        "coast": _pattern_out(latest_pattern(trial, "coast")),
        "pattern_verdict": pattern.verdict,
        "pattern_reasons": [asdict(one) for one in pattern.reasons],
        "pinion_torque": _torque_out(latest_torque(trial, "pinion"), judge_pinion(job, trial)),
        "total_torque": _torque_out(latest_torque(trial, "total"), judge_total(job, trial)),
        "measured_depth": _depth_out(trial),
        "expected": _expected_out(trial, verdict, pattern),
        "expected_backlash_mm": trial.expected_backlash_mm,
        "note": trial.note,
        "by_name": trial.by_name,
        "at": trial.at,
        "readings": [_reading_out(reading, window) for reading in trial.readings.all()],
        "assessment": verdict,
    }


def _who(record: Any) -> dict[str, Any] | None:
    return None if record is None else {"by_name": record.by_name, "at": record.at}


def _expected_out(trial: Trial, verdict: dict[str, Any] | None, pattern: PatternVerdict) -> dict[str, Any] | None:
    """What was said of this trial before it was read, beside what then happened."""
    said = trial.expected
    if said is None:
        return None
    backlash = verdict["verdict"] if verdict else "unknown"
    landed = None if "unknown" in (backlash, pattern.verdict) else backlash != "out" and pattern.verdict != "out"
    kept = {name: said[name] for name in ("backlash_mm", "backlash_sd_mm", "drive", "coast", "pinion_mm", "ring_mm")}
    return {**kept, "odds_percent": odds_percent(said["odds"]), "landed": landed}


def odds_percent(odds: float) -> int:
    """The model's odds in steps of ten per cent; never 0 and never 100, which no model knows."""
    return min(90, max(10, 10 * round(10.0 * odds)))


def _reading_out(reading: Reading, window: Window) -> dict[str, Any]:
    strike = getattr(reading, "strike_out", None)
    return {
        "id": reading.client_id,
        "angle_deg": reading.angle_deg,
        "value_mm": reading.value_mm,
        "typed": reading.typed,
        "unit": reading.unit,
        "standing": _standing(reading.value_mm, window),
        "by_name": reading.by_name,
        "at": reading.at,
        "struck": {"reason": strike.reason, "by_name": strike.by_name, "at": strike.at} if strike else None,
    }


def _standing(value_mm: float, window: Window) -> str:
    if window.min_mm is not None and value_mm < window.min_mm - SLACK:
        return "under"
    if window.max_mm is not None and value_mm > window.max_mm + SLACK:
        return "over"
    return "unjudged" if window.min_mm is None and window.max_mm is None else "inside"
