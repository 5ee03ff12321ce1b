"""The quote as the customer sees it by a link: made once from the wall, answered once, called back when wanted."""

from __future__ import annotations

from datetime import datetime
from typing import Any
from uuid import UUID

from django.db import transaction
from django.http import Http404
from django.utils import timezone

from accounts import policy
from amber_core import payload
from amber_core.parts.findings import DECISIONS, FINDINGS
from amber_core.planning.quote import QuoteQuestion, compare_quotes
from amber_core.words import NOTHING, listed, say, stored
from jobs.models import WaitsFor
from jobs.services import touch, wait_begins
from parts_wall.models import PartPhoto, PartRecord, QuoteAnswer, QuoteLink, QuoteLinkEnd
from parts_wall.services import money_in
from parts_wall.wall import Wall, find_wall
from records.writing import Writing
from shared.links import new_token, token_hash
from shared.refusals import Conflict, Refusal
from work.services import open_work


@transaction.atomic
def make_link(
    writing: Writing, *, work_id: UUID, hourly: str, tax_pct: float, intro: str, keys: list[str], days: int
) -> tuple[str, datetime]:
    """A link to what was found, with the ways and their prices as they are now; its token is told once.

    Raises
    ------
    Refusal, InvalidInput
        For a part on which nothing is decided, or an hour without a price.
    """
    work = open_work(work_id, writing, "edit_job")
    wall = find_wall(work_id)
    an_hour = money_in(hourly, "hourly")
    if an_hour is None:
        raise Refusal(say("Enter the price of an hour of work."), field="hourly")
    lines = [_line(wall, key, an_hour, tax_pct) for key in keys]
    token, kept, until = new_token(days)
    document = {"intro": intro, "tax_pct": tax_pct, "lines": lines}
    QuoteLink.objects.create(work=work, token_hash=kept, expires_at=until, document=document, **writing.row())
    return token, until


def _line(wall: Wall, key: str, hourly: int, tax_pct: float) -> dict[str, Any]:
    state = wall.states.get(key)
    seen = state.look if state is not None else None
    if state is None or seen is None or not seen.decision:
        raise Refusal(say("Nothing is decided yet on {part}.", part=wall.name_of(key)), field="keys")
    drawn_on = seen.photo if seen.photo in wall.photo_ids else None
    found = listed(FINDINGS[one].word for one in seen.findings) if seen.findings else NOTHING
    return {
        "key": key,
        "part": stored(state.name),
        "found": stored(found),
        "note": seen.note,
        "decision": stored(DECISIONS[seen.decision]),  # type: ignore[index]
        "photo": str(drawn_on or (state.photos[-1].client_id if state.photos else "")) or None,
        "drawn": seen.drawn if drawn_on else [],
        "ways": _priced(seen, hourly, tax_pct),
    }


def _priced(seen: PartRecord, hourly: int, tax_pct: float) -> list[dict[str, Any]]:
    if seen.ways is None:
        return []
    priced = compare_quotes(payload.read(QuoteQuestion, {**seen.ways, "hourly": hourly, "tax_pct": tax_pct}))
    return [{"name": one.name, "total": one.total, "wait_days": one.wait_days, "chosen": one.name == seen.way} for one in priced.ways]


def lent(token: str) -> QuoteLink:
    """The link of a token, while it lasts and is not called back.

    Raises
    ------
    Http404
        A stranger is told no difference.
    """
    rows = QuoteLink.objects.select_related("work__job__vehicle", "end", "answer")
    found: QuoteLink | None = rows.filter(token_hash=token_hash(token)).first()
    if found is None or found.expires_at <= timezone.now() or getattr(found, "end", None) is not None:
        raise Http404
    return found


def lent_photo(token: str, photo_id: UUID) -> PartPhoto:
    """A picture that a link shows.

    Raises
    ------
    Http404
        When the link shows no such picture.
    """
    link = lent(token)
    if str(photo_id) not in {line["photo"] for line in link.document["lines"]}:
        raise Http404
    found: PartPhoto | None = PartPhoto.objects.filter(client_id=photo_id, work__job=link.work.job_id).first()
    if found is None:
        raise Http404
    return found


@transaction.atomic
def answer(token: str, *, client_id: UUID, answers: dict[str, bool], name: str, note: str) -> QuoteLink:
    """What the customer says, once; the same answer sent again is answered as before.

    Raises
    ------
    Refusal, Conflict
        Without a yes or no to every line, or when the link was answered already.
    """
    link = QuoteLink.objects.select_for_update().get(pk=lent(token).pk)
    before = QuoteAnswer.objects.filter(link=link).first()
    if before is not None:
        if before.client_id == client_id:
            return link
        raise Conflict(say("This quote is answered already. Ring the workshop to change it."), code="already_answered")
    wanted = {line["key"] for line in link.document["lines"]}
    if set(answers) != wanted:
        raise Refusal(say("Say yes or no to every line."), field="answers")
    QuoteAnswer.objects.create(client_id=client_id, link=link, answers=answers, name=name, note=note)
    job = link.work.job
    if job.waits_for == WaitsFor.CUSTOMER:  # whoever looks at the Floor sees that the wait is over; what lies where stays said
        yes = sum(answers.values())
        wait_begins(job, WaitsFor.CUSTOMER, f"Answered by {name}: yes to {yes} of {len(answers)}. {job.waits_note}")
    touch(job)
    return link


@transaction.atomic
def call_back(writing: Writing, *, link_id: UUID) -> UUID:
    """A link stops working; the work that it belonged to.

    Raises
    ------
    Http404, Conflict
        When there is no such link, or it is withdrawn already.
    """
    policy.require(writing.by, "edit_job")
    link = QuoteLink.objects.select_for_update().filter(client_id=link_id).first()
    if link is None:
        raise Http404
    if QuoteLinkEnd.objects.filter(link=link).exists():
        raise Conflict(say("This link is withdrawn already."), code="already_called_back")
    QuoteLinkEnd.objects.create(link=link, **writing.row())
    return link.work_id


def work_of(link_id: UUID) -> UUID:
    """The piece of work that a link belongs to.

    Raises
    ------
    Http404
        When there is no such link.
    """
    found = QuoteLink.objects.filter(client_id=link_id).values_list("work_id", flat=True).first()
    if found is None:
        raise Http404
    return found
