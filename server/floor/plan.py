"""The day's plan: the open pieces of work over the shop's hours and hands, by what is left of their run sheets."""

from __future__ import annotations

from datetime import date, datetime
from typing import Any
from uuid import UUID

from django.utils import timezone

from accounts.models import ShopHours
from amber_core import payload
from amber_core.planning.schedule import ScheduledStep, ScheduleQuestion, schedule_job
from jobs.models import WaitsFor
from shared.scope import within
from work.checks import arrivals_of
from work.habits import Minutes, minutes_here
from work.models import Work
from work.run_sheet import RunSheet

MOST_WORKS = 60
Planned = tuple[Work, list[dict[str, int]]]
LOOK_MINUTES = 5  # whatever ran on the clock last is looked at once more before the work is ready


def _works() -> list[Work]:
    """What can be worked on, and who waits for nothing but parts, in the order of the Floor."""
    rows = within(Work.objects.with_job(), "job__shop").prefetch_related("step_records", "way_choices", "gear_sets")
    open_works = rows.filter(job__waits_for__in=(WaitsFor.NOTHING, WaitsFor.PARTS), signed_off_at__isnull=True)
    # what waits comes after the rest, and so takes no place from it where there are more than can be planned
    return list(open_works.order_by("job__waits_for", "job__floor_order", "job__promised_on", "job__number", "number")[:MOST_WORKS])


def _arriving(works: list[Work], today: date) -> dict[UUID, date]:
    """When the parts come that jobs wait for, by job; a day that is over says nothing."""
    waiting = {work.job_id for work in works if work.job.waits_for == WaitsFor.PARTS}
    return {job: day for job, day in arrivals_of(waiting).items() if day >= today}


def segments(work: Work, learnt: Minutes) -> list[dict[str, int]]:
    """What is left of a run sheet, as stretches of hands-on minutes with what runs on the clock after each."""
    sheet = RunSheet(work)
    found: list[dict[str, int]] = [{"minutes": 0, "wait_minutes": 0}]
    for step in sheet.steps:
        if step.code in sheet.passed:
            continue
        found[-1]["minutes"] += learnt.get((work.kind, step.code), step.minutes)
        if step.act == "clock":
            left = sheet.to_go(step)
            found[-1]["wait_minutes"] = round(left) if left is not None else step.wait_minutes
            found.append({"minutes": 0, "wait_minutes": 0})
    if len(found) > 1 and not found[-1]["minutes"]:
        found[-1]["minutes"] = LOOK_MINUTES
    return [{**one, "minutes": max(one["minutes"], 1)} for one in found if one["minutes"] or one["wait_minutes"]]


def plan_out(now: datetime | None = None) -> dict[str, Any]:
    """The plan, from now on; nothing to do is an empty one. What waits for parts comes after the rest, from the day that they are due."""
    start, shop, works = timezone.localtime(now).replace(second=0, microsecond=0, tzinfo=None), ShopHours.now(), _works()
    learnt, arriving = minutes_here() if works else {}, _arriving(works, start.date())
    works = [work for work in works if work.job.waits_for == WaitsFor.NOTHING or work.job_id in arriving]
    works.sort(key=lambda work: arriving.get(work.job_id, date.min))
    hands: list[list[Planned]] = [[] for _ in range(shop.hands)]
    for work in works:
        if left := segments(work, learnt):
            # whoever has the least to do takes the next one of the Floor
            min(hands, key=lambda mine: sum(part["minutes"] for _, parts in mine for part in parts)).append((work, left))
    asked = {"start": start.isoformat(timespec="minutes"), "hours": shop.hours, "hands": 1, "closed": shop.closed}
    rows = [
        {**_row(work, steps, start.date()), "parts_due_on": arriving.get(work.job_id)}
        for mine in hands
        for work, steps in _laid(mine, asked, arriving)
    ]
    return {"hands": shop.hands, "works": sorted(rows, key=lambda row: (row["begin"], row["number"]))}


def _laid(mine: list[Planned], asked: dict[str, Any], arriving: dict[UUID, date]) -> list[tuple[Work, list[ScheduledStep]]]:
    """One person's work over the hours: in order, the next one begun while a clock of the last one runs, never a third beside them."""
    steps: list[dict[str, Any]] = []
    found: dict[str, ScheduledStep] = {}
    for place, (work, parts) in enumerate(mine):
        for index, part in enumerate(parts):
            after = [f"{work.pk} {index - 1}"] if index else []
            if place > 1 and not index:
                before, its_parts = mine[place - 2]
                after = [f"{before.pk} {len(its_parts) - 1}"]
            begun = found[f"{mine[place - 1][0].pk} 0"].end if place and not index else None
            if work.job_id in arriving and not index:
                begun = max(begun or "", f"{arriving[work.job_id].isoformat()}T00:00")
            steps.append({"code": f"{work.pk} {index}", "after": after, "not_before": begun, **part})
        laid = schedule_job(payload.read(ScheduleQuestion, {**asked, "steps": steps}))
        found = {one.code: one for one in laid.steps}
    return [(work, [found[f"{work.pk} {index}"] for index in range(len(parts))]) for work, parts in mine]


def _row(work: Work, steps: list[ScheduledStep], today: date) -> dict[str, Any]:
    begin, ready = (timezone.make_aware(datetime.fromisoformat(one)) for one in (steps[0].begin, steps[-1].free_at))
    promised = work.job.promised_on
    return {
        "job_id": work.job_id,
        "work_id": work.pk,
        "number": work.job.number,
        "vehicle": work.job.vehicle.name,
        "title": work.title,
        "begin": begin,
        "ready": ready,
        "today": begin.date() == today,
        "late": promised is not None and ready.date() > promised,
    }
