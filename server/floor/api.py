"""The Floor: today's jobs, each with its next action and what it waits for."""

from __future__ import annotations

from typing import Annotated, Any

from django.http import HttpRequest
from ninja import Query, Router

from floor.schemas import FloorOut
from jobs.models import Job
from jobs.schemas import StateName

router = Router(tags=["floor"])

PAGE = 40
_PLAIN = ["id", "number", "customer", "complaint", "state", "waits_for", "waits_note", "next_action", "updated_at"]


@router.get("/floor", response=FloorOut, operation_id="floor")
def floor(
    request: HttpRequest,
    state: Query[StateName | None] = None,
    search: Annotated[str, Query(max_length=100)] = "",
    page: Annotated[int, Query(ge=1, le=2000)] = 1,
) -> dict[str, Any]:
    """Jobs by what can be worked on now; search looks at customer, vehicle, number plate and number."""
    jobs = Job.objects.for_floor()
    if state is not None:
        jobs = jobs.filter(state=state).order_by("-updated_at", "id")
    for word in search.lower().split():
        jobs = jobs.filter(search__contains=word)
    found = list(jobs[(page - 1) * PAGE : page * PAGE + 1])
    return {"jobs": [_row(job) for job in found[:PAGE]], "page": page, "more": len(found) > PAGE}


def _row(job: Job) -> dict[str, Any]:
    words = {"state_word": job.get_state_display(), "waits_word": job.get_waits_for_display()}
    return {**{field: getattr(job, field) for field in _PLAIN}, "vehicle": job.vehicle.name, **words}
