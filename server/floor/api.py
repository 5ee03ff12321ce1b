"""The Floor: today's jobs, each with its next action and what it waits for."""

from __future__ import annotations

from typing import Annotated, Any

from django.http import HttpRequest, HttpResponse
from django.utils import timezone
from ninja import Query, Router

from floor.plan import plan_out
from floor.schemas import FloorOut, PlanOut, TodayOut
from hand_over.services import due_now, follow_up_out
from jobs.models import Job
from jobs.schemas import StateName
from records.writing import answered
from shared.scope import EVERY, shop_now
from work.clocks import running_clocks, title_of

router = Router(tags=["floor"])

PAGE = 40
MOST_TODAY = 60
_PLAIN = ["id", "number", "customer", "complaint", "state", "waits_for", "waits_note", "next_action", "updated_at"]


@router.get("/floor", response=FloorOut, operation_id="floor")
def floor(
    request: HttpRequest,
    state: Query[StateName | None] = None,
    search: Annotated[str, Query(max_length=100)] = "",
    page: Annotated[int, Query(ge=1, le=2000)] = 1,
) -> HttpResponse:
    """Jobs by what can be worked on now; search looks at customer, vehicle, number plate and number."""
    jobs = Job.objects.for_floor()
    if state is not None:
        jobs = jobs.filter(state=state).order_by("-updated_at", "id")
    for word in search.lower().split():
        jobs = jobs.filter(search__contains=word)
    # the place in the list is found in its index alone; the rows of this page are read after that
    here = jobs.values("pk")[(page - 1) * PAGE : page * PAGE + 1]
    found = list(jobs.filter(pk__in=here) if page > 1 else jobs[: PAGE + 1])
    return answered(FloorOut, {"jobs": [_row(job) for job in found[:PAGE]], "page": page, "more": len(found) > PAGE})


@router.get("/floor/today", response=TodayOut, operation_id="floor_today")
def floor_today(request: HttpRequest) -> HttpResponse:
    """Clocks that run, follow-ups that are due, and jobs promised for today or before."""
    promised = (
        Job.objects.select_related("vehicle")
        .only("number", "promised_on", "vehicle__name")
        .filter(promised_on__lte=timezone.localdate(), signed_off_at__isnull=True)
        .order_by("promised_on", "number")[:MOST_TODAY]
    )
    found = {
        "clocks": [
            {
                "job_id": one.work.job_id,
                "work_id": one.work_id,
                "number": one.work.job.number,
                "vehicle": one.work.job.vehicle.name,
                "title": title_of(one),
                "until": one.until,
            }
            for one in running_clocks()[:MOST_TODAY]
        ],
        "due": [follow_up_out(one) for one in due_now()],
        "promised": [
            {"job_id": one.pk, "number": one.number, "vehicle": one.vehicle.name, "promised_on": one.promised_on} for one in promised
        ],
    }
    return answered(TodayOut, found)


@router.get("/floor/plan", response=PlanOut, operation_id="floor_plan")
def floor_plan(request: HttpRequest) -> dict[str, Any]:
    """When each piece of work begins and is ready, by the shop's hours and people."""
    return plan_out()


def _row(job: Job) -> dict[str, Any]:
    words = {"state_word": job.get_state_display(), "waits_word": job.get_waits_for_display()}
    shop = job.shop.name if shop_now() is EVERY else ""
    return {**{field: getattr(job, field) for field in _PLAIN}, "vehicle": job.vehicle.name, "shop": shop, **words}
