"""Answers of the desks that are kept on a piece of work: one way in, one way out."""

from __future__ import annotations

from typing import Any
from uuid import UUID

from django.db.models import Prefetch, QuerySet
from django.http import Http404
from pydantic import BaseModel

import amber_core
from amber_core import payload
from amber_core.words import say, stored, storing
from records.writing import Writing
from shared.refusals import Refusal
from work.models import Area, KeptAnswer, Work

MOST_KEPT = 200
WITH_ENDS = ("job__axle_facts", "job__works__assembly", "job__works__gear_sets")
"""What is read along with a piece of work to know both ends of its vehicle."""


def keep_answer(
    work: Work, writing: Writing, area: Area, *, title: str, inputs: Any, answer: Any, about: str = "", **more: Any
) -> KeptAnswer:
    """Keep what was asked and what came out, dataclasses of the core or schemas; within the caller's transaction.

    Raises
    ------
    Refusal
        When the work keeps as many already as anybody would look through.
    """
    if work.kept_answers.filter(area=area).count() >= MOST_KEPT:
        raise Refusal(say("This work already has {most_kept} of these, which is the most.", most_kept=MOST_KEPT), field="title")
    kept = {"inputs": dumped(inputs), "answer": dumped(answer)}
    return KeptAnswer.objects.create(
        work=work, area=area, about=about, title=title, **kept, **more, engine_version=amber_core.__version__, **writing.row()
    )


def dumped(part: Any) -> dict[str, Any]:
    """A dataclass of the core, a schema or plain types as they are stored, with every sentence as its template and parameters."""
    with storing():
        if isinstance(part, dict):
            return dict(stored(part))
        return part.model_dump(mode="json") if isinstance(part, BaseModel) else payload.plain(part)


def kept_answer(kept_id: UUID, area: Area) -> KeptAnswer:
    """A kept answer of a desk.

    Raises
    ------
    Http404
        When there is none.
    """
    found: KeptAnswer | None = KeptAnswer.objects.select_related("work__job__vehicle").filter(client_id=kept_id, area=area).first()
    if found is None:
        raise Http404
    return found


def kept_of(area: Area) -> Prefetch[str, QuerySet[KeptAnswer], str]:
    """The kept answers of one desk, to be read along with a piece of work as `kept`, without what they hold."""
    rows = KeptAnswer.objects.filter(area=area)
    return Prefetch("kept_answers", rows if area == Area.NOISE else rows.defer("answer"), to_attr="kept")


def desk_work(work_id: UUID, *more: Any) -> Work:
    """A piece of work with both ends of its vehicle and whatever else a desk shows, in a fixed number of queries.

    Raises
    ------
    Http404
        When there is none.
    """
    found = Work.objects.with_job().prefetch_related(*WITH_ENDS, *more).filter(pk=work_id).first()
    if found is None:
        raise Http404
    return found


def shown(kept: KeptAnswer) -> dict[str, Any]:
    """What every list of kept answers shows."""
    current = kept.engine_version == amber_core.__version__
    fields = {name: getattr(kept, name) for name in ("title", "engine_version", "by_name", "at")}
    return {"id": kept.client_id, "is_current": current, **fields}
