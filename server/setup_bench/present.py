"""The bench as the API shows it."""

from __future__ import annotations

from dataclasses import asdict
from typing import Any
from uuid import UUID

from django.http import Http404

from amber_core.verdicts import SLACK
from jobs.models import Job
from setup_bench.estimate import (
    RESOLUTION_MM,
    NextMove,
    Window,
    assess,
    geometry_of,
    next_move,
    ring_move_mm,
    window_of,
)
from setup_bench.models import Reading, Trial
from setup_bench.stacks import Pieces, stored, total_mm
from stores.api import limit_out
from stores.models import Quantity

POSITIONS_DEG = [45.0 * k for k in range(8)]


def bench_job(job_id: UUID) -> Job:
    """The job with all that the bench shows, in a fixed number of queries.

    Raises
    ------
    Http404
        When there is none.
    """
    job = (
        Job.objects.select_related("family")
        .prefetch_related("family__limits", "family__shims", "gear_sets", "step_records", "trials__readings__strike_out")
        .filter(pk=job_id)
        .first()
    )
    if job is None:
        raise Http404
    return job


def bench_out(job: Job) -> dict[str, Any]:
    """Window, trials with their verdicts, and the next move."""
    family, window, geometry = job.family, window_of(job.family), geometry_of(job)
    trials = sorted(job.trials.all(), key=lambda trial: trial.number)
    shown, before, verdict = [], None, None
    for trial in trials:
        verdict = assess(trial, window, geometry)
        moved = ring_move_mm(family, before, trial) if before else None
        shown.append(_trial_out(trial, window, moved, asdict(verdict) if verdict else None))
        before = trial
    move = next_move(family, trials[-1], verdict, window, geometry) if trials else NextMove("measure", "Say what stands in the housing.")
    return {
        "job_id": job.pk,
        "job_number": job.number,
        "vehicle": job.vehicle,
        "axle_label": job.get_axle_display(),
        "family_name": family.name,
        "carrier_method": family.carrier_method,
        "carrier_label": family.get_carrier_method_display(),
        "ring_side_hint": "behind the ring gear's back",
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
        "trials": shown,
        "next": _next_out(move, trials[-1] if trials else None),
    }


def _pieces(pieces: Pieces) -> list[dict[str, Any]]:
    return [{"thickness_mm": thickness, "count": count} for thickness, count in pieces]


def _trial_out(trial: Trial, window: Window, moved: float | None, verdict: dict[str, Any] | None) -> dict[str, Any]:
    shims = trial.ring_side_notches is None
    ring, far = stored(trial.ring_side_pieces), stored(trial.far_side_pieces)
    return {
        "id": trial.client_id,
        "number": trial.number,
        "ring_side_mm": total_mm(ring) if shims else None,
        "far_side_mm": total_mm(far) if shims else None,
        "ring_side": _pieces(ring) if shims else None,
        "far_side": _pieces(far) if shims else None,
        "ring_side_notches": trial.ring_side_notches,
        "far_side_notches": trial.far_side_notches,
        "ring_move_mm": moved,
        "expected_backlash_mm": trial.expected_backlash_mm,
        "note": trial.note,
        "by_name": trial.by_name,
        "at": trial.at,
        "readings": [_reading_out(reading, window) for reading in trial.readings.all()],
        "assessment": verdict,
    }


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


def _typed(pieces: Pieces) -> str:
    return " + ".join(f"{thickness:g} mm" for thickness, count in pieces for _ in range(count)) or "none"


def _next_out(found: NextMove, trial: Trial | None) -> dict[str, Any]:
    move = found.move
    if move is None or trial is None:
        return {"kind": found.kind, "text": found.text, "move": None}
    ring = far = None
    if move.picks is not None:
        ring = [(one.thickness_mm, one.count) for one in move.picks.ring_side.pieces]
        far = [(one.thickness_mm, one.count) for one in move.picks.far_side.pieces]
    turned = move.ring_side_notches is not None and move.far_side_notches is not None
    shown = {
        "ring_move_mm": move.ring_move_mm,
        "wanted_ring_move_mm": move.wanted_ring_move_mm,
        "expected_backlash_mm": move.expected_backlash_mm,
        "expected_least_mm": move.expected_least_mm,
        "expected_greatest_mm": found.expected_greatest_mm,
        "lands": found.lands,
        "ring_side": _pieces(ring) if ring is not None else None,
        "far_side": _pieces(far) if far is not None else None,
        "ring_side_mm": total_mm(ring) if ring is not None else None,
        "far_side_mm": total_mm(far) if far is not None else None,
        "typed_ring_side": _typed(ring) if ring is not None else None,
        "typed_far_side": _typed(far) if far is not None else None,
        "ring_side_notches_move": move.ring_side_notches,
        "far_side_notches_move": move.far_side_notches,
        "ring_side_notches": (trial.ring_side_notches or 0) + (move.ring_side_notches or 0) if turned else None,
        "far_side_notches": (trial.far_side_notches or 0) + (move.far_side_notches or 0) if turned else None,
        "reasons": [asdict(reason) for reason in move.reasons],
    }
    return {"kind": found.kind, "text": found.text, "move": shown}
