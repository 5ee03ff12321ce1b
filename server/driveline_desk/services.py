"""Keeping an answer and an inspection on the work."""

from __future__ import annotations

from dataclasses import asdict
from uuid import UUID

from django.db import transaction

from amber_core.driveline.inspection import JointFelt, inspect_joint
from amber_core.words import say
from driveline_desk.models import JointInspection
from driveline_desk.schemas import DrivelineInputs
from driveline_desk.work import work_out
from records.writing import Writing
from shared.refusals import Refusal
from vehicles.models import PLACES, Place
from work.kept import desk_work, keep_answer, kept_answer, kept_of
from work.models import Area, KeptAnswer, Work
from work.services import open_work


@transaction.atomic
def keep_result(writing: Writing, *, work_id: UUID, title: str, inputs: DrivelineInputs) -> KeptAnswer:
    """Work an answer out and keep it with its inputs.

    Raises
    ------
    Refusal, InvalidInput
        When it cannot be worked out, or the vehicle has no such driveline.
    """
    work = open_work(work_id, writing, "edit_job")
    shaft = inputs.readings.chain
    _has(work, shaft, "inputs.readings.chain")
    return keep_answer(work, writing, Area.DRIVELINE, about=shaft, title=title, inputs=inputs, answer=work_out(inputs))


@transaction.atomic
def keep_inspection(
    writing: Writing, *, work_id: UUID, shaft: str, joint: int, felt: JointFelt, decision: str, note: str
) -> JointInspection:
    """Keep what hand and eye said of a joint and what was decided; another decision than the rules' wants a reason.

    Raises
    ------
    Refusal
        When the reason is missing, or the vehicle has no such driveline.
    """
    work = open_work(work_id, writing, "record")
    _has(work, shaft, "shaft")
    proposed = inspect_joint(felt).decision
    if decision != proposed and not note:
        raise Refusal(say("The check of this joint points to another decision. Write why you decide otherwise."), field="note")
    fields = {"shaft": shaft, "joint": joint, "felt": asdict(felt), "proposed": proposed, "decision": decision, "note": note}
    return JointInspection.objects.create(work=work, **fields, **writing.row())


def _has(work: Work, shaft: str, field: str) -> None:
    if shaft == "front" and Place.FRONT_SHAFT not in PLACES[work.job.vehicle.layout]:
        raise Refusal(say("This vehicle has no front propshaft."), field=field)


def result_by_id(result_id: UUID) -> KeptAnswer:
    """A kept result.

    Raises
    ------
    Http404
        When there is none.
    """
    return kept_answer(result_id, Area.DRIVELINE)


def driveline_work(work_id: UUID) -> Work:
    """The work with all that the desk shows, in a fixed number of queries.

    Raises
    ------
    Http404
        When there is none.
    """
    return desk_work(work_id, kept_of(Area.DRIVELINE), "joint_inspections")
