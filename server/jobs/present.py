"""A job as the API shows it."""

from __future__ import annotations

from typing import Any
from uuid import UUID

from django.http import Http404

from jobs.match import match_out
from jobs.models import AxleEnd, Job, Outcome, Place
from jobs.run_sheet import NUTS_DUE_KM, RunSheet
from stores.api import limit_out, ratio_out

_PLAIN = (
    "id",
    "number",
    "version",
    "customer",
    "vehicle",
    "layout",
    "axle",
    "complaint",
    "use",
    "use_note",
    "state",
    "waits_for",
    "waits_note",
    "next_action",
    "backlash_verdict",
    "created_by_name",
    "created_at",
    "updated_at",
    "signed_off_at",
    "imported_by_name",
    "imported_at",
)


def find_job(job_id: UUID) -> Job:
    """The job with all that its page shows, in a fixed number of queries.

    Raises
    ------
    Http404
        When there is none.
    """
    job = (
        Job.objects.select_related("family")
        .prefetch_related("family__limits", "family__ratios", "stations", "gear_sets", "step_records", "axle_facts")
        .filter(pk=job_id)
        .first()
    )
    if job is None:
        raise Http404
    return job


def job_out(job: Job) -> dict[str, Any]:
    """Card, map, gear set and run sheet."""
    sheet = RunSheet(job)
    return {
        **{field: getattr(job, field) for field in _PLAIN},
        "family": job.family.code,
        "family_name": job.family.name,
        "family_build": job.family.build,
        "is_sample": job.family.is_sample,
        "ratios": [ratio_out(one) for one in job.family.ratios.all()],
        "state_word": job.get_state_display(),
        "waits_word": job.get_waits_for_display(),
        "stations": _stations(job),
        "gear_set": _gear_set(job, sheet),
        "match": match_out(job),
        "steps": _steps(sheet),
    }


def _stations(job: Job) -> list[dict[str, Any]]:
    order = list(Place)
    worked = Place.FRONT_AXLE if job.axle == AxleEnd.FRONT else Place.REAR_AXLE
    return [
        {
            "place": station.place,
            "label": station.get_place_display(),
            "state": station.state,
            "word": station.get_state_display(),
            "note": station.note,
            "under_work": station.place == worked,
        }
        for station in sorted(job.stations.all(), key=lambda one: order.index(Place(one.place)))
    ]


def _gear_set(job: Job, sheet: RunSheet) -> dict[str, Any] | None:
    record = sheet.gear_set
    if record is None:
        return None
    return {
        "pinion_teeth": record.pinion_teeth,
        "ring_teeth": record.ring_teeth,
        "ratio": record.ring_teeth / record.pinion_teeth,
        "hunting": hunting_class(record.pinion_teeth, record.ring_teeth),
        "counted_ratio": record.answer.get("counted_ratio"),
        "guess_ratio": record.question.get("guess_ratio"),
        "guess_agrees": record.answer.get("guess_agrees"),
        "in_family": any((one.pinion_teeth, one.ring_teeth) == (record.pinion_teeth, record.ring_teeth) for one in job.family.ratios.all()),
        "by_name": record.by_name,
        "at": record.at,
    }


def hunting_class(pinion_teeth: int, ring_teeth: int) -> str | None:
    """The class of a pair of tooth counts, from the core."""
    from amber_core.gearset.identify import GearSetClues, identify_gear_set

    return identify_gear_set(GearSetClues(pinion_teeth=pinion_teeth, ring_teeth=ring_teeth)).hunting


def _steps(sheet: RunSheet) -> list[dict[str, Any]]:
    upcoming = sheet.next
    sample = sheet.job.family.is_sample
    found = []
    for step in sheet.steps:
        held, done = sheet.hold_before(step.code), step.code in sheet.passed
        record = sheet.latest.get(step.code)
        if record is not None and record.outcome != Outcome.PASSED:
            record = None
        limit = sheet.limits.get(step.limit)
        by = record or (sheet.gear_set if step.check == "gear_set" else None)
        found.append(
            {
                "code": step.code,
                "group": step.group,
                "title": step.title,
                "why": step.why,
                "check": step.check,
                "hold": step.hold,
                "caution": step.caution,
                "state": "passed" if done else ("shut" if held else "open"),
                "held_by": held.title if held and not done else None,
                "bench_missing": sheet.bench_missing(step),
                "is_next": upcoming is not None and step.code == upcoming.code,
                "limit": limit_out(limit, is_sample=sample) if limit else None,
                "entered": record.entered if record else "",
                "note": record.note if record else "",
                "due": _due(step.check, record.value if record else None),
                "by_name": by.by_name if by else None,
                "at": by.at if by else None,
            }
        )
    return found


def _due(check: str, value: float | None) -> str | None:
    if check != "odometer" or value is None:
        return None
    return f"Torque the nuts again between {value + NUTS_DUE_KM[0]:.0f} and {value + NUTS_DUE_KM[1]:.0f} km."
