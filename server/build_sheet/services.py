"""Signing a piece of work off, and taking that back."""

from __future__ import annotations

from uuid import UUID

from django.db import transaction
from django.http import Http404

from accounts import policy
from accounts.models import Role, Shop, User
from amber_core.verdicts import VerdictWord, worst
from amber_core.words import Said, say
from build_sheet.documents import document_of, keep_document
from build_sheet.models import Origin, SignOff, SignOffDocument, Withdrawal
from jobs.models import StationState
from jobs.services import find_station
from records.writing import Writing
from setup_bench.bench import bench_of, live
from shared.refusals import NotAllowed, Refusal
from work.as_left import as_left, plain
from work.checks import left_open
from work.models import Work
from work.run_sheet import RunSheet
from work.services import forget, open_work, refresh

STATEMENT_OF_STEPS = say("The hold points and the record are complete, and the maker's manual was followed.")
"""For work that is not set up on the bench."""
STATEMENT = say("The readings of the final trial, the hold points and the record are complete, and the maker's manual was followed.")


def why_not(work: Work, user: User) -> Said | None:
    """What keeps this person from signing this work off; None when nothing does."""
    if work.signed_off_at is not None:
        return say("The work is signed off.")
    if not policy.may(user, "sign_off"):
        return say("Your login cannot sign off work. A foreman or technician can.")
    if Shop.get().rule.foreman_signs:
        if user.works_as != Role.FOREMAN:
            return say("In this workshop a foreman signs off.")
        if _measured(work, user):
            return (
                say("You measured the final trial yourself, so another foreman has to sign it off.")
                if work.on_bench
                else say("You did the hold points yourself, so another foreman has to sign it off.")
            )
    step = RunSheet(work).next
    if step is not None:
        return say("Not every step is done. Next: “{title}”.", title=step.title)
    if left := left_open(work):
        return left
    if not work.on_bench:
        return None
    finding = getattr(work, "bench_finding", None)
    if finding is None or finding.backlash not in ("in", "edge"):
        return say("The backlash of the final trial is not in its window.")
    return None


def worst_read(sheet: RunSheet) -> VerdictWord:
    """The worst verdict of what the steps read last; as found counts for nothing."""
    read = [(ask, sheet.found[ask.name].value) for step in sheet.steps for ask in step.asks if ask.name in sheet.found and not ask.as_found]
    return worst([sheet.judged(ask, value).verdict for ask, value in read])


def _measured(work: Work, user: User) -> bool:
    """Whether this person read anything of the final trial: backlash, a pattern or a torque; off the bench, passed any hold point."""
    if not work.on_bench:
        sheet = RunSheet(work)
        holds = [sheet.latest[one.code] for one in sheet.steps if one.hold and one.code in sheet.latest]
        return any(one.by_id == user.pk or (one.by_id is None and one.by_name == str(user)) for one in holds)
    trials = bench_of(work.pk).trials
    if not trials:
        return False
    read = [*live(trials[-1]), *trials[-1].patterns.all(), *trials[-1].torques.all()]
    return any(one.by_id == user.pk or (one.by_id is None and one.by_name == str(user)) for one in read)


@transaction.atomic
def sign_off(writing: Writing, *, work_id: UUID) -> Work:
    """Answer for the work: its document is stored as it is now, and shown from that for ever.

    Raises
    ------
    Refusal, NotAllowed
        With what is missing, or who may.
    """
    work = open_work(work_id, writing, "sign_off")
    reason = why_not(work, writing.by)
    if reason is not None:
        raise Refusal(reason, code="not_ready")
    said = (
        {"statement": STATEMENT, "verdict": work.bench_finding.backlash}
        if work.on_bench
        else {"statement": STATEMENT_OF_STEPS, "verdict": worst_read(RunSheet(work))}
    )
    signed = SignOff.objects.create(work=work, **said, **writing.row())
    work.signed_off_at = signed.at
    work.as_left = plain(as_left(work))
    find_station(work.job, work.assembly.place, StationState.GOOD, writing)
    refresh(work)
    keep_document(signed, document_of(work.pk))
    return work


@transaction.atomic
def withdraw(writing: Writing, *, work_id: UUID, reason: str) -> Work:
    """A foreman takes a sign-off back, with a reason; the work is open again and both rows and the document stay."""
    policy.require(writing.by, "sign_off")
    if writing.by.works_as != Role.FOREMAN:
        raise NotAllowed(say("Only a foreman can take back a sign-off."))
    work = Work.objects.select_for_update(of=("self", "job")).with_job().filter(pk=work_id).first()
    if work is None:
        raise Http404
    standing = work.sign_offs.filter(withdrawal__isnull=True, origin=Origin.HERE).last()
    if standing is None:
        raise Refusal(say("The work is not signed off."), code="not_signed")
    if not reason:
        raise Refusal(say("Give a reason for taking back the sign-off."), field="reason")
    Withdrawal.objects.create(sign_off=standing, reason=reason, **writing.row())
    work.signed_off_at, work.as_left = None, []
    forget(work, "step_records")
    refresh(work)
    return work


@transaction.atomic
def reconstruct_documents() -> int:
    """Documents for sign-offs that are older than documents are, made once from the records and marked so."""
    missing = SignOff.objects.filter(document__isnull=True, origin=Origin.HERE).order_by("id")
    for one in missing:
        keep_document(one, document_of(one.work_id), reconstructed=True)
    return SignOffDocument.objects.filter(reconstructed=True).count()
