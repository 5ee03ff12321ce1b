"""Handing a vehicle over, and what comes due after."""

from __future__ import annotations

import json
from datetime import date
from typing import Any
from uuid import UUID

from django.db import transaction
from django.db.models import Exists, F, OuterRef, Q, QuerySet, Subquery
from django.http import Http404
from django.utils import timezone

from accounts import policy
from amber_core.procedures.handing_over import WORKSHOPS_OWN
from amber_core.quantities import parse
from amber_core.words import Said, say
from hand_over.models import Ended, FollowUp, FollowUpEnd, HandOver
from hand_over.page import content_of, plan_of, works_of
from jobs.models import Job
from records.writing import Writing
from shared.refusals import Conflict, Refusal
from shared.scope import within
from vehicles.models import OdometerReading
from vehicles.services import log_odometer

MOST_DUE = 60


def find_job(job_id: UUID) -> Job:
    """The job with its vehicle.

    Raises
    ------
    Http404
        When there is none.
    """
    found = Job.objects.select_related("vehicle").filter(pk=job_id).first()
    if found is None:
        raise Http404
    return found


@transaction.atomic
def hand_over(writing: Writing, *, job_id: UUID, odometer: str, received_by: str, told: dict[str, str], sure: bool) -> HandOver:
    """Give the vehicle back: the page is stored as it is now, and what comes due is noted.

    Raises
    ------
    NotAllowed, Refusal, Http404
        While any piece of work is not signed off, or the odometer or the name is missing.
    """
    policy.require(writing.by, "edit_job")
    job = Job.objects.select_for_update(of=("self",)).select_related("vehicle").filter(pk=job_id).first()
    if job is None:
        raise Http404
    if job.signed_off_at is None:
        raise Refusal(say("Not every piece of work is signed off yet. Sign them off first."), code="not_ready")
    if not received_by:
        raise Refusal(say("Write who receives the vehicle."), field="received_by")
    log_odometer(writing, job.vehicle_id, odometer, follows=True, sure=sure, field="odometer")
    km = parse(odometer, dimension="distance", unit="km", field="odometer").value
    content = content_of(job, odometer_km=km, told=told)
    given = HandOver.objects.create(
        job=job, odometer_km=km, received_by=received_by, text=json.dumps(content, ensure_ascii=False), **writing.row()
    )
    FollowUp.objects.bulk_create(
        FollowUp(
            hand_over=given,
            vehicle=job.vehicle,
            code=one.code,
            text=one.text.as_text(),
            kind=one.kind,
            at_km=one.at_km,
            from_km=one.from_km,
            until_km=one.until_km,
            on_date=date.fromisoformat(one.on_date) if one.on_date else None,
        )
        for one in plan_of(job, works_of(job), km)
    )
    return given


@transaction.atomic
def end_follow_up(writing: Writing, *, follow_up_id: int, missed: bool, note: str) -> None:
    """A follow-up was done, or the customer did not come.

    Raises
    ------
    Conflict, Http404
        When somebody said so already.
    """
    policy.require(writing.by, "record")
    one = FollowUp.objects.select_for_update(of=("self",)).filter(pk=follow_up_id).first()
    if one is None:
        raise Http404
    if FollowUpEnd.objects.filter(follow_up=one).exists():
        raise Conflict(say("This follow-up is ticked off already."), code="ended_already")
    FollowUpEnd.objects.create(follow_up=one, outcome=Ended.MISSED if missed else Ended.DONE, note=note, **writing.row())


_DUE = ("code", "text", "kind", "at_km", "from_km", "until_km", "on_date")


def due_now(today: date | None = None) -> QuerySet[FollowUp]:
    """What the workshop has to do by now, by day or by the last odometer reading, oldest first; a newer hand-over of a job replaces it."""
    last_km = OdometerReading.objects.filter(vehicle=OuterRef("vehicle")).order_by("-at", "-id").values("km")[:1]
    newer = HandOver.objects.filter(job=OuterRef("hand_over__job"), pk__gt=OuterRef("hand_over"))
    by_km = Q(at_km__isnull=False, last_km__gte=F("at_km")) | Q(at_km__isnull=True, from_km__isnull=False, last_km__gte=F("from_km"))
    return (
        within(FollowUp.objects.filter(end__isnull=True, code__in=WORKSHOPS_OWN), "hand_over__job__shop")
        .alias(last_km=Subquery(last_km))
        .filter(Q(on_date__lte=today or timezone.localdate()) | by_km)
        .exclude(Exists(newer))
        .select_related("hand_over__job", "vehicle", "end")
        .only(*_DUE, "hand_over__job__number", "vehicle__name", "end__outcome", "end__by_name")
        .order_by("on_date", "id")[:MOST_DUE]
    )


def follow_up_out(one: FollowUp) -> dict[str, Any]:
    """A follow-up as the API shows it."""
    end = getattr(one, "end", None)
    plain = {name: getattr(one, name) for name in ("id", *_DUE)}
    return {
        **plain,
        "text": Said.of(one.text),
        "job_id": one.hand_over.job_id,
        "number": one.hand_over.job.number,
        "vehicle": one.vehicle.name,
        "ended": end.outcome if end else None,
        "by_name": end.by_name if end else None,
    }
