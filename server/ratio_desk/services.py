"""Keeping an answer on the work, and lending it out by a link."""

from __future__ import annotations

import hashlib
import secrets
from datetime import datetime, timedelta
from uuid import UUID

from django.db import transaction
from django.http import Http404
from django.utils import timezone

from accounts import policy
from amber_core.words import say
from ratio_desk.models import RatioLink
from ratio_desk.schemas import RatioInputs
from ratio_desk.work import work_out
from records.writing import Writing
from shared.refusals import Refusal
from work.kept import desk_work, keep_answer, kept_answer, kept_of
from work.models import Area, KeptAnswer, Work
from work.services import open_work


@transaction.atomic
def keep_result(writing: Writing, *, work_id: UUID, title: str, inputs: RatioInputs) -> KeptAnswer:
    """Work an answer out and keep it with its inputs.

    Raises
    ------
    Refusal, InvalidInput
        When there is nothing to keep yet.
    """
    work = open_work(work_id, writing, "edit_job")
    answer = work_out(inputs)
    if answer.compared is None:
        bad = next(
            (one.reasons[0].text for one in (answer.tyre_now, answer.tyre_planned) if one.reasons), say("Enter the tyre size first.")
        )
        raise Refusal(bad, field="tyre_now")
    return keep_answer(work, writing, Area.RATIO, title=title, inputs=inputs, answer=answer)


def result_by_id(result_id: UUID) -> KeptAnswer:
    """A kept result.

    Raises
    ------
    Http404
        When there is none.
    """
    return kept_answer(result_id, Area.RATIO)


@transaction.atomic
def lend(writing: Writing, *, result_id: UUID, days: int) -> tuple[str, datetime]:
    """A new link to a result; its token is told once."""
    policy.require(writing.by, "edit_job")
    result = result_by_id(result_id)
    token, until = secrets.token_urlsafe(32), timezone.now() + timedelta(days=days)
    RatioLink.objects.create(result=result, token_hash=_hash(token), expires_at=until, **writing.row())
    return token, until


def lent(token: str) -> RatioLink:
    """The link of a token, while it lasts.

    Raises
    ------
    Http404
        When there is none, or it has expired: a stranger is told no difference.
    """
    found: RatioLink | None = RatioLink.objects.select_related("result__work__job__vehicle").filter(token_hash=_hash(token)).first()
    if found is None or found.expires_at <= timezone.now():
        raise Http404
    return found


def _hash(token: str) -> str:
    return hashlib.sha256(token.encode()).hexdigest()


def ratio_work(work_id: UUID) -> Work:
    """The work with all that the desk shows, in a fixed number of queries.

    Raises
    ------
    Http404
        When there is none.
    """
    return desk_work(work_id, kept_of(Area.RATIO), "kept__ratio_links")
