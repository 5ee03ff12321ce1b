"""Keeping an answer and an inspection on the job."""

from __future__ import annotations

from dataclasses import asdict
from typing import Any
from uuid import UUID

from django.db import transaction
from django.http import Http404

import amber_core
from accounts.models import User
from amber_core.driveline.inspection import JointFelt, inspect_joint
from driveline_desk.models import DrivelineResult, JointInspection
from driveline_desk.schemas import DrivelineInputs
from driveline_desk.work import work_out
from jobs.models import Job, Layout
from jobs.services import open_job
from shared.refusals import Refusal

MOST_RESULTS = 200


@transaction.atomic
def keep_result(*, by: User, job_id: UUID, client_id: UUID, title: str, inputs: DrivelineInputs) -> DrivelineResult:
    """Work an answer out and keep it with its inputs.

    Raises
    ------
    Refusal, InvalidInput
        When it cannot be worked out, or the job has no such driveline.
    """
    job = open_job(job_id, by, "edit_job")
    kept: DrivelineResult | None = DrivelineResult.objects.filter(client_id=client_id).first()
    if kept is not None:
        return kept
    if job.driveline_results.count() >= MOST_RESULTS:
        raise Refusal(f"This job keeps {MOST_RESULTS} results already.", field="title")
    shaft = inputs.readings.chain
    _has(job, shaft, "inputs.readings.chain")
    fields = {"inputs": inputs.model_dump(mode="json"), "answer": work_out(inputs).model_dump(mode="json")}
    return DrivelineResult.objects.create(
        client_id=client_id, job=job, by=by, by_name=str(by), title=title, shaft=shaft, engine_version=amber_core.__version__, **fields
    )


@transaction.atomic
def keep_inspection(
    *, by: User, job_id: UUID, client_id: UUID, shaft: str, joint: int, felt: JointFelt, decision: str, note: str
) -> JointInspection:
    """Keep what hand and eye said of a joint and what was decided; another decision than the rules' wants a reason.

    Raises
    ------
    Refusal
        When the reason is missing, or the job has no such driveline.
    """
    job = open_job(job_id, by, "record")
    kept: JointInspection | None = JointInspection.objects.filter(client_id=client_id).first()
    if kept is not None:
        return kept
    _has(job, shaft, "shaft")
    proposed = inspect_joint(felt).decision
    if decision != proposed and not note:
        raise Refusal("What hand and eye say asks for something else: write why you decide otherwise.", field="note")
    fields = {"shaft": shaft, "joint": joint, "felt": asdict(felt), "proposed": proposed, "decision": decision, "note": note}
    return JointInspection.objects.create(client_id=client_id, job=job, by=by, by_name=str(by), **fields)


def _has(job: Job, shaft: str, field: str) -> None:
    if shaft == "front" and job.layout != Layout.FOUR:
        raise Refusal("This vehicle has no front driveline.", field=field)


def result_by_id(result_id: UUID) -> DrivelineResult:
    """A kept result.

    Raises
    ------
    Http404
        When there is none.
    """
    found: DrivelineResult | None = DrivelineResult.objects.select_related("job").filter(client_id=result_id).first()
    if found is None:
        raise Http404
    return found


def desk_job(job_id: UUID) -> Job:
    """The job with all that the desk shows, in a fixed number of queries.

    Raises
    ------
    Http404
        When there is none.
    """
    wanted: tuple[Any, ...] = ("gear_sets", "axle_facts", "driveline_results", "joint_inspections")
    job: Job | None = Job.objects.prefetch_related(*wanted).filter(pk=job_id).first()
    if job is None:
        raise Http404
    return job
