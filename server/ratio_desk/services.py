"""Keeping an answer on the job, and lending it out by a link."""

from __future__ import annotations

import hashlib
import secrets
from datetime import datetime, timedelta
from typing import Any
from uuid import UUID

from django.db import transaction
from django.http import Http404
from django.utils import timezone

import amber_core
from accounts import policy
from accounts.models import User
from jobs.models import Job
from jobs.services import open_job
from ratio_desk.models import RatioLink, RatioResult
from ratio_desk.schemas import RatioInputs
from ratio_desk.work import work_out
from shared.refusals import Refusal

MOST_RESULTS = 200


@transaction.atomic
def keep_result(*, by: User, job_id: UUID, client_id: UUID, title: str, inputs: RatioInputs) -> RatioResult:
    """Work an answer out and keep it with its inputs.

    Raises
    ------
    Refusal, InvalidInput
        When there is nothing to keep yet.
    """
    job = open_job(job_id, by, "edit_job")
    kept: RatioResult | None = RatioResult.objects.filter(client_id=client_id).first()
    if kept is not None:
        return kept
    if job.ratio_results.count() >= MOST_RESULTS:
        raise Refusal(f"This job keeps {MOST_RESULTS} results already.", field="title")
    answer = work_out(inputs)
    if answer.compared is None:
        bad = next((one.reasons[0].text for one in (answer.tyre_now, answer.tyre_planned) if one.reasons), "Type the tyre first.")
        raise Refusal(bad, field="tyre_now")
    fields = {"inputs": inputs.model_dump(mode="json"), "answer": answer.model_dump(mode="json")}
    return RatioResult.objects.create(
        client_id=client_id, job=job, by=by, by_name=str(by), title=title, engine_version=amber_core.__version__, **fields
    )


def result_by_id(result_id: UUID) -> RatioResult:
    """A kept result.

    Raises
    ------
    Http404
        When there is none.
    """
    found: RatioResult | None = RatioResult.objects.select_related("job").prefetch_related("links").filter(client_id=result_id).first()
    if found is None:
        raise Http404
    return found


@transaction.atomic
def lend(*, by: User, result_id: UUID, client_id: UUID, days: int) -> tuple[str, datetime]:
    """A new link to a result; its token is told once.

    Raises
    ------
    Refusal
        When this very link was made before: its token is not stored.
    """
    policy.require(by, "edit_job")
    result = result_by_id(result_id)
    if RatioLink.objects.filter(client_id=client_id).exists():
        raise Refusal("This link was made already and is told only once: make another.", code="told_once", field="client_id")
    token, until = secrets.token_urlsafe(32), timezone.now() + timedelta(days=days)
    RatioLink.objects.create(client_id=client_id, result=result, by=by, by_name=str(by), token_hash=_hash(token), expires_at=until)
    return token, until


def lent(token: str) -> RatioLink:
    """The link of a token, while it lasts.

    Raises
    ------
    Http404
        When there is none, or it has expired: a stranger is told no difference.
    """
    found: RatioLink | None = RatioLink.objects.select_related("result__job").filter(token_hash=_hash(token)).first()
    if found is None or found.expires_at <= timezone.now():
        raise Http404
    return found


def _hash(token: str) -> str:
    return hashlib.sha256(token.encode()).hexdigest()


def desk_job(job_id: UUID) -> Job:
    """The job with all that the desk shows, in a fixed number of queries.

    Raises
    ------
    Http404
        When there is none.
    """
    wanted: tuple[Any, ...] = ("family__ratios", "gear_sets", "axle_facts", "ratio_results__links")
    job = Job.objects.select_related("family").prefetch_related(*wanted).filter(pk=job_id).first()
    if job is None:
        raise Http404
    return job
