"""Clocks that run on the Floor: soaks, cures and cool-downs that were begun and are not over with."""

from __future__ import annotations

from django.db.models import Exists, OuterRef, QuerySet

from amber_core.words import Said, say
from shared.scope import within
from work.models import StepRecord
from work.run_sheet import library_of


def running_clocks() -> QuerySet[StepRecord]:
    """The latest record of each step whose clock runs, or has run out and was not confirmed, soonest first; of unsigned work alone."""
    later = StepRecord.objects.filter(work=OuterRef("work"), step_code=OuterRef("step_code"), pk__gt=OuterRef("pk"))
    return (
        within(StepRecord.objects.filter(until__isnull=False, work__signed_off_at__isnull=True), "work__job__shop")
        .exclude(Exists(later))
        .select_related("work__job__vehicle", "work__procedure")
        .only("step_code", "until", "work__job__number", "work__job__vehicle__name", "work__procedure__content_hash")
        .order_by("until", "pk")
    )


def title_of(record: StepRecord) -> Said:
    """What the step of a record is called in the procedure of its work."""
    steps = library_of(record.work.procedure)
    return next((one.step.title for one in steps if one.step.code == record.step_code), say("{code}", code=record.step_code))
