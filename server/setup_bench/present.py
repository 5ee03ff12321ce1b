"""The bench as the API shows it."""

from __future__ import annotations

from functools import lru_cache
from typing import Any

import numpy as np

from amber_core.bench.judge import TrialVerdicts, patterns_allowed
from amber_core.gearset.complete import completed
from amber_core.gearset.description import GearSetDescription
from amber_core.gearset.flank import local_depth_mm
from amber_core.gearset.macro import build_macro
from amber_core.preload.carrier import Window
from amber_core.setup.painted import PatchRead
from amber_core.verdicts import SLACK
from amber_core.words import together
from setup_bench.bench import Bench, counts, depth_shim_mm, latest_torque, patterns_of
from setup_bench.models import PatternReading, Reading, TorqueReading, Trial, TrialBearings
from setup_bench.preload import preload_out
from setup_bench.recording import conditions_of
from setup_bench.stacks import Pieces, stored, total_mm
from shared.gathering import rows_of
from stores.models import DrawerPlace, Quantity
from stores.present import limit_out


def bench_out(bench: Bench) -> dict[str, Any]:
    """What was put in and read, with its verdicts; the next move is asked for by itself."""
    work, sheet, state, verdicts = bench.work, bench.sheet, bench.state, bench.verdicts
    window, geometry = state.aim, verdicts.geometry
    start = bench.basis
    depths = state.depth_shims_mm(bearings=TrialBearings.FINAL)  # type: ignore[arg-type]
    nominal = sheet.limit(Quantity.DEPTH)
    return {
        "job_id": work.job_id,
        "work_id": work.pk,
        "job_number": work.job.number,
        "vehicle": work.job.vehicle.name,
        "axle_label": work.assembly.get_place_display(),
        "family_name": sheet.name,
        "sheet_revision": work.sheet_revision.number if work.sheet_revision else 0,
        "carrier_method": sheet.carrier_method,
        "carrier_label": sheet.carrier_label,
        "shim_place": sheet.shim_place,
        "shim_place_label": sheet.shim_place_label,
        "preload_method": sheet.preload_method,
        "preload_label": sheet.preload_label,
        "bearing_offset_mm": next(
            (one.bearing_offset_mm for one in reversed(bench.trials) if one.bearing_offset_mm is not None), sheet.bearing_offset_mm
        ),
        "depth_with_final_bearings_mm": depths[-1] if depths else None,
        "nominal_depth_mm": nominal.least if nominal else None,
        "start": {
            "set_state": bench.set_state,
            "drive_flank": bench.drive_flank,
            "asked": start is not None,
            "ring_on": start.ring_on if start else "",
            "places": len(bench.places_deg),
            "as_found": bench.as_found,
        },
        "has_depth_drawer": bench.has_drawer(DrawerPlace.DEPTH),
        "final_missing": together(one.text for one in verdicts.missing),
        "set_wrong": bench.set_wrong,
        "instrument": _instrument_out(bench),
        "notch_mm": sheet.notch_mm,
        "signed_off": work.signed_off_at is not None,
        "limits": [
            limit_out(one, is_sample=sheet.is_sample) for one in sheet.limits if one.quantity in (Quantity.BACKLASH, Quantity.VARIATION)
        ],
        "min_mm": window.min,
        "max_mm": window.max,
        "max_variation_mm": state.limits.variation_max_mm,
        "resolution_mm": bench.resolution_mm,
        "positions_deg": bench.places_deg,
        "slope": None
        if geometry is None
        else {
            "ring_teeth": geometry.ring_teeth,
            "ratio": geometry.ring_teeth / geometry.pinion_teeth,
            "backlash_per_ring_move": geometry.backlash_per_ring_move,
            "plunger_per_arc": geometry.plunger_per_arc,
            "estimated": geometry.estimated,
        },
        "proportions": _proportions(bench.known_set),
        "pattern_window": patterns_allowed(state),
        "trials": [_trial_out(bench, trial, found) for trial, found in zip(bench.trials, verdicts.trials, strict=True)],
        "preload": preload_out(bench),
    }


def pieces_out(pieces: Pieces) -> list[dict[str, Any]]:
    return [{"thickness_mm": thickness, "count": count} for thickness, count in pieces]


@lru_cache(maxsize=256)
def _flank(known: GearSetDescription) -> tuple[float, float, float]:
    macro = build_macro(completed(known)[0])
    toe, heel = (float(one) for one in local_depth_mm(macro, np.array([0.0, 1.0])))
    return macro.given.face_mm, toe, heel


def _proportions(known: GearSetDescription | None) -> dict[str, Any] | None:
    """How long and how deep the ring's flank is, [mm]."""
    if known is None:
        return None
    face, toe, heel = _flank(known)
    return {"face_mm": face, "toe_depth_mm": toe, "heel_depth_mm": heel}


def _instrument_out(bench: Bench) -> dict[str, Any] | None:
    """The last check of the dial."""
    last = bench.instrument
    if last is None:
        return None
    return {"good": last.good, "name": last.instrument, "resolution_mm": last.resolution_mm, "by_name": last.by_name, "at": last.at}


def _patch_out(trial: Trial, flank: str, read: PatchRead | None) -> dict[str, Any] | None:
    """The last reading of a patch, with all of them and their mean."""
    rows = patterns_of(trial, flank)
    if not rows or read is None:
        return None
    mean = {name: getattr(read, name) for name in ("u", "v", "sd_u", "sd_v", "count", "runs_off", "apart")}
    return {**_pattern_out(rows[-1]), "mean": mean, "readings": [_pattern_out(one) for one in rows]}


def _pattern_out(read: PatternReading) -> dict[str, Any]:
    fields = ("u", "v", "length", "height", "tilt_deg", "runs_off", "photo_place", "note", "by_name", "at")
    photo = read.photo.client_id if read.photo is not None else None
    return {"id": read.client_id, "photo": photo, **{name: getattr(read, name) for name in fields}}


def _torque_out(read: TorqueReading | None, verdict: Any) -> dict[str, Any] | None:
    if read is None:
        return None
    fields = ("value_nm", "typed", "unit", "radius_mm", "bearings", "seal", "seal_drag_nm", "by_name", "at")
    judged = {"verdict": "unknown", "reasons": []} if verdict is None else {"verdict": verdict.verdict, "reasons": verdict.reasons}
    return {"id": read.client_id, **{name: getattr(read, name) for name in fields}, **judged}


def _depth_out(trial: Trial) -> dict[str, Any] | None:
    read = max(rows_of(trial, "depths"), key=lambda one: one.pk, default=None)
    if read is None:
        return None
    return {"tool": read.tool, "distance_mm": read.distance_mm, "error_mm": read.error_mm, "by_name": read.by_name, "at": read.at}


def _trial_out(bench: Bench, trial: Trial, found: TrialVerdicts) -> dict[str, Any]:
    window = bench.state.aim
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
        "ring_move_mm": found.ring_move_mm,
        "depth_shim_mm": depth_shim_mm(trial),
        "depth": pieces_out(stored(depth)) if depth is not None else None,
        "spacer": pieces_out(stored(spacer)) if spacer is not None else None,
        "preload_part": trial.preload_part,
        "preload_part_label": trial.get_preload_part_display(),
        "bearings": trial.bearings,
        "is_final": trial.is_final,
        "bearing_offset_mm": trial.bearing_offset_mm,
        "counts": counts(trial),
        "to_confirm": [one["text"] for one in conditions_of(trial, bench.sheet.carrier_method)],
        "conditions": _conditions_out(trial),
        "drive": _patch_out(trial, "drive", found.drive),
        "coast": _patch_out(trial, "coast", found.coast),
        "pattern_verdict": found.pattern,
        "pattern_reasons": found.pattern_reasons,
        "pinion_torque": _torque_out(latest_torque(trial, "pinion"), found.pinion),
        "total_torque": _torque_out(latest_torque(trial, "total"), found.total),
        "measured_depth": _depth_out(trial),
        "expected": _expected_out(trial, found),
        "expected_backlash_mm": trial.expected_backlash_mm,
        "note": trial.note,
        "by_name": trial.by_name,
        "at": trial.at,
        "readings": [_reading_out(reading, window) for reading in rows_of(trial, "readings")],
        "wrong": found.wrong,
        "assessment": found.backlash,
    }


def _conditions_out(trial: Trial) -> dict[str, Any] | None:
    """Who confirmed what."""
    record = getattr(trial, "conditions", None)
    if record is None:
        return None
    return {"by_name": record.by_name, "at": record.at, "points": [one["text"] for one in record.points]}


def _expected_out(trial: Trial, found: TrialVerdicts) -> dict[str, Any] | None:
    """What was said of this trial before it was read, beside what then happened."""
    said = trial.expected
    if said is None:
        return None
    kept = {name: said[name] for name in ("backlash_mm", "backlash_sd_mm", "drive", "coast", "pinion_mm", "ring_mm")}
    return {**kept, "odds_percent": odds_percent(said["odds"]), "landed": landed(found)}


def landed(found: TrialVerdicts) -> bool | None:
    """Whether a trial came out as it should; None while it was not read."""
    words = (found.backlash.verdict if found.backlash else "unknown", found.pattern)
    return None if "unknown" in words else "out" not in words


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
    if window.min is not None and value_mm < window.min - SLACK:
        return "under"
    if window.max is not None and value_mm > window.max + SLACK:
        return "over"
    return "unjudged" if window.min is None and window.max is None else "inside"
