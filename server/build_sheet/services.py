"""Signing a job off, and taking that back."""

from __future__ import annotations

from uuid import UUID

from django.db import transaction
from django.http import Http404
from django.utils import timezone

from accounts import policy
from accounts.models import Role, Shop, User
from build_sheet.models import SignOff, Withdrawal
from jobs.models import AxleEnd, Job, Place, StationState, Verdict
from jobs.run_sheet import RunSheet
from jobs.services import open_job, refresh
from setup_bench.estimate import live
from shared.refusals import NotAllowed, Refusal

STATEMENT = "The readings of the final trial, the hold points and the record are complete, and the maker's manual was followed."


def why_not(job: Job, user: User) -> str | None:
    """What keeps this person from signing this job off; None when nothing does."""
    if job.signed_off_at is not None:
        return "The job is signed off."
    if not policy.may(user, "sign_off"):
        return "Your login cannot sign a job off; a foreman or technician can."
    if Shop.get().foreman_signs:
        if user.role != Role.FOREMAN:
            return "In this shop a foreman signs off."
        if _measured(job, user):
            return "You measured the final trial yourself: another foreman signs it off."
    step = RunSheet(job).next
    if step is not None:
        return f"Not every step is passed: “{step.title}” is next."
    if job.backlash_verdict not in (Verdict.IN, Verdict.EDGE):
        return "The backlash of the final trial is not in its window."
    return None


def _measured(job: Job, user: User) -> bool:
    last = job.trials.with_readings().last()
    readings = live(last) if last else []
    return any(one.by_id == user.pk or (one.by_id is None and one.by_name == str(user)) for one in readings)


@transaction.atomic
def sign_off(*, by: User, job_id: UUID, client_id: UUID) -> Job:
    """Answer for the job; nothing more is written to it afterwards.

    Raises
    ------
    Refusal, NotAllowed
        With what is missing, or who may.
    """
    if (kept := SignOff.objects.filter(client_id=client_id, job_id=job_id).first()) is not None:
        return kept.job
    job = open_job(job_id, by, "sign_off")
    reason = why_not(job, by)
    if reason is not None:
        raise Refusal(reason, code="not_ready")
    signed = SignOff.objects.create(client_id=client_id, job=job, by=by, by_name=str(by), statement=STATEMENT, verdict=job.backlash_verdict)
    job.signed_off_at = signed.at
    axle = Place.FRONT_AXLE if job.axle == AxleEnd.FRONT else Place.REAR_AXLE
    job.stations.filter(place=axle).update(state=StationState.GOOD)
    refresh(job)
    return job


@transaction.atomic
def withdraw(*, by: User, job_id: UUID, client_id: UUID, reason: str) -> Job:
    """A foreman takes a sign-off back, with a reason; the job is open again and both rows stay."""
    policy.require(by, "sign_off")
    if by.role != Role.FOREMAN:
        raise NotAllowed("Only a foreman takes a sign-off back.")
    job = Job.objects.select_for_update(of=("self",)).select_related("family").filter(pk=job_id).first()
    if job is None:
        raise Http404
    if Withdrawal.objects.filter(client_id=client_id).exists():
        return job
    standing = job.sign_offs.filter(withdrawal__isnull=True).last()
    if standing is None:
        raise Refusal("The job is not signed off.", code="not_signed")
    if not reason:
        raise Refusal("Say why the sign-off is taken back.", field="reason")
    Withdrawal.objects.create(client_id=client_id, sign_off=standing, by=by, by_name=str(by), reason=reason, at=timezone.now())
    job.signed_off_at = None
    refresh(job)
    return job
