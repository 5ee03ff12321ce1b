"""Keeping an answer on the work, and lending it out by a link."""

from __future__ import annotations

from datetime import datetime
from uuid import UUID

from django.db import transaction
from django.http import Http404
from django.utils import timezone

from accounts import policy
from amber_core.words import say
from jobs.services import EndGiven, record_axle_fact
from ratio_desk.models import RatioLink
from ratio_desk.schemas import RatioInputs
from ratio_desk.work import work_out
from records.writing import Writing
from shared.links import new_token, token_hash
from shared.refusals import Refusal
from vehicles.models import AXLE_OF, PLACES
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
def put_on_vehicle(writing: Writing, *, result_id: UUID, gearing: int) -> KeptAnswer:
    """One gearing of a kept result is what was fitted: its tyres and teeth go onto every driven end of the vehicle.

    Raises
    ------
    Refusal
        When the result has no such gearing, or a tyre of it cannot be stored.
    """
    result = result_by_id(result_id)
    inputs = RatioInputs.model_validate(result.inputs)
    compared = (result.answer.get("compared") or {}).get("gearings", [])
    if not 0 <= gearing < len(compared):
        raise Refusal(say("This saved answer has no such gearing. Choose another."), field="gearing")
    candidate = gearing - (len(compared) - len(inputs.candidates))
    pairing = inputs.candidates[candidate] if candidate >= 0 else inputs.now
    axle, tyre = inputs.axles[pairing.axle], inputs.tyre_now if gearing == 0 else inputs.tyre_planned
    if not tyre.text.strip() and tyre.rollout_mm is None:
        tyre = inputs.tyre_now
    job = result.work.job
    ends = [end for end, place in AXLE_OF.items() if place in PLACES[job.vehicle.layout]]
    for index, end in enumerate(ends):
        given = EndGiven(
            end=end,
            tyre=tyre.text,
            rollout_mm=tyre.rollout_mm,
            turns=tyre.turns,
            pinion_teeth=axle.pinion_teeth,
            ring_teeth=axle.ring_teeth,
        )
        record_axle_fact(writing, job_id=job.pk, given=given, follows=index > 0)
    return result


@transaction.atomic
def lend(writing: Writing, *, result_id: UUID, days: int) -> tuple[str, datetime]:
    """A new link to a result; its token is told once."""
    policy.require(writing.by, "edit_job")
    result = result_by_id(result_id)
    token, kept, until = new_token(days)
    RatioLink.objects.create(result=result, token_hash=kept, expires_at=until, **writing.row())
    return token, until


def lent(token: str) -> RatioLink:
    """The link of a token, while it lasts.

    Raises
    ------
    Http404
        When there is none, or it has expired: a stranger is told no difference.
    """
    found: RatioLink | None = RatioLink.objects.select_related("result__work__job__vehicle").filter(token_hash=token_hash(token)).first()
    if found is None or found.expires_at <= timezone.now():
        raise Http404
    return found


def ratio_work(work_id: UUID) -> Work:
    """The work with all that the desk shows, in a fixed number of queries.

    Raises
    ------
    Http404
        When there is none.
    """
    return desk_work(work_id, kept_of(Area.RATIO), "kept__ratio_links")
