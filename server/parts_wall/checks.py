"""What the wall says before a step of the run sheet closes over parts, and before a work is signed off."""

from __future__ import annotations

from collections.abc import Collection
from datetime import date
from uuid import UUID

from amber_core.procedures.steps import Step
from amber_core.words import NOTHING, Said, listed, say
from parts_wall.models import ON_ITS_WAY, NeedState, PartNeed, PartRecord
from parts_wall.services import left_said, pieces_said
from parts_wall.wall import find_wall
from work.checks import register_arrivals, register_closing, register_gate
from work.models import Work

_CLOSES = {
    "pieces_all": (),
    "cover": ("cover",),
    "unit_in": ("tm", "unit"),
    "oil": ("oil",),
    "side_cover_bolts": ("scover.ring", "scover.far"),
}
"""Steps that close over parts, and the parts that do it."""


def closing_held(work: Work, step: Step) -> Said:
    """Pieces that are missing and parts that still lie on the wall keep it open."""
    if step.code not in _CLOSES:
        return NOTHING
    wall = find_wall(work.pk)
    if not wall.used:
        return NOTHING
    if missing := wall.pieces_missing:
        return pieces_said(missing)
    left = {one.key: one for closing in _CLOSES[step.code] if closing in wall.assembly.places for one in wall.inside(closing)}
    return left_said(list(left.values())) if left else NOTHING


def unsettled(work: Work) -> Said:
    """Everything on the wall is on again, new, or stays out with a reason before the last work on an assembly is signed off.

    A strip and report ends with the axle in parts; so does work that another one on the same assembly goes on from.
    """
    if work.kind == "strip_and_report" or not PartRecord.objects.filter(work__job=work.job_id, work__assembly=work.assembly_id).exists():
        return NOTHING
    wall = find_wall(work.pk)
    if any(one.pk != work.pk and one.signed_off_at is None for one in wall.works):
        return NOTHING
    if wall.pieces_missing:
        return pieces_said(wall.pieces_missing)
    if left := wall.in_order:
        return say("Parts still lie on the Parts wall: {parts}.", parts=listed(one.name for one in left[:6]))
    return NOTHING


def parts_due(jobs: Collection[UUID]) -> dict[UUID, date]:
    """The latest day of what is on its way to each job; a job that has a part to get without a day is left out."""
    rows = PartNeed.objects.filter(work__job__in=jobs).order_by("line", "-pk").distinct("line")
    last: dict[UUID, list[date | None]] = {}
    for job, state, due_on in rows.values_list("work__job", "state", "due_on"):
        if state in ON_ITS_WAY or state == NeedState.WANTED:
            last.setdefault(job, []).append(due_on if state in ON_ITS_WAY else None)
    return {job: max(known) for job, days in last.items() if len(known := [day for day in days if day]) == len(days)}


def register_checks() -> None:
    """At start-up."""
    register_gate(closing_held)
    register_arrivals(parts_due)
    register_closing(unsettled)
