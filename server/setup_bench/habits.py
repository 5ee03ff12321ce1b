"""What this shop's own jobs say of the work at the bench: how well people read a patch, and how long a move and a reading take."""

from __future__ import annotations

from dataclasses import replace
from datetime import datetime
from itertools import pairwise
from statistics import median

from django.db.models import BooleanField, Count, ExpressionWrapper, Max, Q, Variance

from amber_core.setup.question import Costs, HowRead, Reader
from setup_bench.models import PatternReading, Trial
from shared.scope import within
from work.models import Work

_LOOKED_BACK = 400
_ENOUGH = 12
"""So many of a kind have to be there before they are believed."""
_MOVE_MINUTES, _READ_MINUTES = (5.0, 240.0), (1.0, 60.0)
"""What lies outside was a break, or noted afterwards."""


def readers_of(names: set[str], but: Work) -> list[Reader]:
    """How far the repeats of these people scattered on other work, by eye and by photo.

    Notes
    -----
    Of every patch that one person read more than once in one way, the squares about its middle; a patch of n readings teaches n - 1.
    """
    rows = (
        within(PatternReading.objects.filter(by_name__in=names, replaced_by__isnull=True), "trial__work__job__shop")
        .exclude(trial__work=but)
        .order_by()
        .annotate(by_photo=ExpressionWrapper(Q(photo__isnull=False), BooleanField()))
        .values("trial", "flank", "by_name", "by_photo")
        .annotate(count=Count("id"), along=Variance("u"), across=Variance("v"))
        .filter(count__gt=1)
    )
    found: dict[tuple[str, HowRead], list[float]] = {}
    for row in rows:
        kept = found.setdefault((row["by_name"], "photo" if row["by_photo"] else "eye"), [0, 0.0, 0.0])
        kept[0] += row["count"] - 1
        kept[1] += row["count"] * row["along"]
        kept[2] += row["count"] * row["across"]
    return [
        Reader(by=by, how=how, repeats=int(count), sd_u=min(1.0, (along / count) ** 0.5), sd_v=min(1.0, (across / count) ** 0.5))
        for (by, how), (count, along, across) in sorted(found.items())
    ]


def costs_here() -> tuple[Costs, list[str]]:
    """What a move and a reading take in this shop, and which of them come from its own jobs; the usual ones until there are enough."""
    learnt = {"move_minutes": _usual(_moves(), _MOVE_MINUTES, 5.0), "read_minutes": _usual(_repeats(), _READ_MINUTES, 1.0)}
    known = {name: minutes for name, minutes in learnt.items() if minutes is not None}
    return replace(Costs(), **known), sorted(known)


def _usual(minutes: list[float], sane: tuple[float, float], step: float) -> float | None:
    """The median in whole steps; None when too few say it."""
    kept = [one for one in minutes if sane[0] <= one <= sane[1]]
    return max(step, step * round(median(kept) / step)) if len(kept) >= _ENOUGH else None


def _moves() -> list[float]:
    """From the last patch read in a trial to the next trial of the same work, [min]."""
    rows = within(Trial.objects.filter(is_final=False), "work__job__shop").order_by("-id").annotate(read_at=Max("patterns__at"))
    by_work: dict[object, list[tuple[int, datetime, datetime | None]]] = {}
    for work, number, at, read_at in rows.values_list("work_id", "number", "at", "read_at")[:_LOOKED_BACK]:
        by_work.setdefault(work, []).append((number, at, read_at))
    found = []
    for trials in by_work.values():
        trials.sort()
        for (number, _, read_at), (following, at, _) in pairwise(trials):
            if following == number + 1 and read_at is not None:
                found.append((at - read_at).total_seconds() / 60.0)
    return found


def _repeats() -> list[float]:
    """From one reading of a patch to the next of the same patch, [min]."""
    readings = within(PatternReading.objects.filter(Q(replaces__isnull=True)), "trial__work__job__shop")
    rows = readings.order_by("-id").values_list("trial_id", "flank", "at")[:_LOOKED_BACK]
    last: dict[tuple[int, str], datetime] = {}
    found = []
    for trial, flank, at in rows:
        if (after := last.get((trial, flank))) is not None:
            found.append((after - at).total_seconds() / 60.0)
        last[(trial, flank)] = at
    return found
