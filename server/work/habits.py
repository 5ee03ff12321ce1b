"""What this shop's own jobs say of the minutes that a step takes."""

from __future__ import annotations

from collections import defaultdict
from datetime import datetime
from statistics import median

from shared.scope import within
from work.models import Outcome, StepRecord
from work.run_sheet import library_of

_LOOKED_BACK = 4000
"""Records of the run sheets, the latest first."""
_LAST, _ENOUGH = 10, 5
"""The median of the last ten counts, once there are five."""
_WITHIN = 4.0
"""Four times the usual minutes was a break, a quarter of them several steps ticked one after the other."""

Minutes = dict[tuple[str, str], int]
"""By the code of the kind and of the step."""


def minutes_here(kind: str = "") -> Minutes:
    """How long a step of a kind of work takes here, for those that were done often enough lately; of one kind or of all.

    Notes
    -----
    From the record before of the same person on the same piece of work to the one that passes the step. A clock or a wait says nothing of
    hands.
    """
    rows = within(StepRecord.objects.select_related("work__procedure"), "work__job__shop").order_by("-id")
    rows = rows.only("work", "step_code", "outcome", "by", "at", "work__kind", "work__procedure__content_hash")
    latest = list((rows.filter(work__kind=kind) if kind else rows)[:_LOOKED_BACK])
    before: dict[tuple[object, object], datetime] = {}
    took: defaultdict[tuple[str, str], list[float]] = defaultdict(list)
    usual: dict[int, dict[str, int]] = {}
    for one in reversed(latest):
        work = one.work
        began = before.get((work.pk, one.by_id))
        before[work.pk, one.by_id] = one.at
        if began is None or one.outcome != Outcome.PASSED:
            continue
        if work.procedure_id not in usual:
            steps = library_of(work.procedure)
            usual[work.procedure_id] = {step.step.code: step.step.minutes for step in steps if step.step.act not in ("clock", "wait")}
        minutes, expected = (one.at - began).total_seconds() / 60.0, usual[work.procedure_id].get(one.step_code, 0)
        if expected / _WITHIN <= minutes <= expected * _WITHIN:
            took[work.kind, one.step_code].append(minutes)
    return {code: max(1, round(median(found[-_LAST:]))) for code, found in took.items() if len(found) >= _ENOUGH}
