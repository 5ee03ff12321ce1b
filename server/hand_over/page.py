"""The hand-over page: what it says of a job, from the records, in plain words for the customer."""

from __future__ import annotations

import json
from datetime import date
from typing import Any

from django.core.serializers.json import DjangoJSONEncoder
from django.template.loader import render_to_string
from django.utils import timezone

from accounts.models import Shop
from amber_core.procedures.handing_over import STOP_IF, driver_notes, fitted_by
from amber_core.road_test.run_in import RunInItem, RunInQuestion, plan_run_in
from amber_core.words import Said, retold, say, stored
from hand_over.models import HandOver
from jobs.models import Job, Use
from shared.pdf import pdf_of
from work.as_left import lines_of_steps, plain
from work.models import LETS_ON, Outcome, Work
from work.run_sheet import RunSheet

_FOUND = ("magnet", "inspected", "findings", "plates_judged", "flange_land", "breather_first", "complaint")
"""Steps whose note or choice is a finding."""


def works_of(job: Job) -> list[Work]:
    """The pieces of work of a job with all that the page says of them."""
    wanted = ("step_records__readings", "gear_sets", "way_choices")
    return list(Work.objects.with_job().prefetch_related(*wanted).filter(job=job).order_by("number"))


def plan_of(job: Job, works: list[Work], odometer_km: float) -> list[RunInItem]:
    """The run-in plan of everything that was fitted."""
    fitted = [one for work in works for one in fitted_by(work.kind, RunSheet(work).ways)]
    day = timezone.localdate().isoformat()
    return plan_run_in(RunInQuestion(fitted=fitted, odometer_km=odometer_km, date=day, tows=job.use == Use.TOWING)).items


def content_of(job: Job, *, odometer_km: float | None, told: dict[str, str]) -> dict[str, Any]:
    """All that the page shows, in plain JSON types; `told` is what somebody writes on it."""
    works = works_of(job)
    found = {
        "shop": Shop.get().name,
        "number": job.number,
        "customer": job.customer,
        "vehicle": job.vehicle.name,
        "registration": job.vehicle.registration,
        "complaint": job.complaint,
        "day": timezone.localdate().isoformat(),
        "odometer_km": odometer_km,
        "signed": job.signed_off_at is not None,
        "works": [_work(work) for work in works],
        "plan": plan_of(job, works, odometer_km) if odometer_km is not None else [],
        "driver": driver_notes([work.kind for work in works]),
        "stop_if": list(STOP_IF),
        "told": told,
    }
    return dict(json.loads(json.dumps(stored(found), cls=DjangoJSONEncoder, allow_nan=False)))


def _work(work: Work) -> dict[str, Any]:
    sheet = RunSheet(work)
    latest = sheet.latest
    kept = [(step, latest[step.code]) for step in sheet.steps if step.code in latest]
    return {
        "title": work.title,
        "kind": work.kind_word,
        "signed": work.signed_off_at is not None,
        "found": [
            {"what": step.title, "said": _found(record.entered if step.act == "choose" else "", record.note)}
            for step, record in kept
            if step.code in _FOUND and record.outcome in LETS_ON and (record.note or (step.act == "choose" and step.code != "complaint"))
        ],
        "measured": [
            {"what": line["what"], "entered": line["said"], "found": line["found"]}
            for line in work.as_left or plain(lines_of_steps(work))
            if Said.of(line["said"])
        ],
        "chosen": [
            {"what": step.title, "said": next((way.title for way in step.ways if way.code == sheet.ways.get(step.code)), "")}
            for step in sheet.steps
            if step.act == "choose" and step.code in ("nut", "cover_seal", "flange_land", "answer", "school")
        ],
        "left_out": [{"what": step.title, "why": record.note} for step, record in kept if record.outcome == Outcome.SKIPPED],
        "oil": next((record.note for step, record in kept if step.code == "oil" and record.outcome in LETS_ON), ""),
    }


def _found(entered: str, note: str) -> str:
    """What was chosen, with what was written beside it."""
    return f"{entered} ({note})" if entered and note else entered or note


def latest_of(job: Job) -> HandOver | None:
    """What was handed over last."""
    return job.hand_overs.order_by("id").last()


def page_html(job: Job) -> str:
    """The page as it was handed over; before that, as it would be now."""
    given = latest_of(job)
    read = job.vehicle.odometer.order_by("at", "id").last()
    content = json.loads(given.text) if given is not None else content_of(job, odometer_km=read.km if read else None, told={})
    plan = [{**one, "when": _when(one)} for one in content["plan"]]
    km = content["odometer_km"]
    shown = {"plan": retold(plan), "given": given, "day": _day(content["day"]), "odometer": say("{km:.0f} km", km=km) if km else ""}
    told = retold(content)
    for work in told["works"]:
        for line in work["measured"]:  # they stand in a row
            line["entered"] = line["entered"].removesuffix(".")
    return render_to_string("hand_over/page.html", {**told, **shown})


def _day(text: str) -> str:
    day = date.fromisoformat(text)
    return f"{day.day} {day:%B %Y}"


def _when(one: dict[str, Any]) -> Said:
    """When an item of the plan comes up, in words."""
    if one["on_date"] is not None:
        return say("{day}", day=_day(one["on_date"]))
    if one["at_km"] is not None:
        return say("at {km:.0f} km", km=one["at_km"])
    if one["kind"] == "limit":
        return say("until {km:.0f} km", km=one["until_km"])
    if one["from_km"] is not None:
        return say("between {from_km:.0f} and {until_km:.0f} km", from_km=one["from_km"], until_km=one["until_km"])
    return say("first")


def page_pdf(job: Job) -> bytes:
    """The same page as PDF."""
    return pdf_of(page_html(job))
