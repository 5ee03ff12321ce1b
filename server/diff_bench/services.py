"""Keeping an answer of the bench on a piece of work."""

from __future__ import annotations

from dataclasses import asdict
from typing import Any
from uuid import UUID

from django.db import transaction

from amber_core.errors import InvalidInput
from amber_core.words import say, stored
from diff_bench.reading import Units, Values
from diff_bench.working import Worked, worked
from records.writing import Writing
from shared.refusals import Refusal
from work.kept import desk_work, dumped, keep_answer, kept_answer, kept_of
from work.models import Area, KeptAnswer, Work
from work.run_sheet import RunSheet
from work.services import open_work


@transaction.atomic
def keep_result(writing: Writing, *, work_id: UUID, tool: str, values: Values, gauge: str, title: str, step: str) -> KeptAnswer:
    """Work an answer out and keep it with what was typed.

    Raises
    ------
    InvalidInput
        For the first slip.
    Refusal
        While something is missing, or for a step that this tool does not measure.
    """
    work = open_work(work_id, writing, "record")
    found = finished(worked(tool, values, Units(writing.length_unit, writing.torque_unit), gauge))
    if step and (step not in found.tool.steps or all(one.code != step for one in RunSheet(work).steps)):
        raise Refusal(say("This step of the run sheet is not measured with this tool."), field="step")
    typed = {"values": values, "gauge": gauge, "length_unit": writing.length_unit, "torque_unit": writing.torque_unit}
    return keep_answer(
        work,
        writing,
        Area.DIFF,
        about=tool,
        title=title,
        inputs={**typed, "question": dumped(found.question)},
        answer=found.answer,
        step_code=step,
        summary=summary(found),
    )


def finished(found: Worked) -> Worked:
    """What a tool made of what was typed, once there is an answer.

    Raises
    ------
    InvalidInput
        For the first slip.
    Refusal
        While something is missing.
    """
    if found.wrong:
        raise InvalidInput(f"values.{found.wrong[0].field}", found.wrong[0].text)
    if found.missing:
        raise Refusal(say("Still missing: {what}.", what=found.missing[0]), field="values")
    return found


def summary(found: Worked) -> dict[str, Any]:
    """The little that lists, the run sheet and the build sheet show."""
    return dict(
        stored({"verdict": found.verdict, "lines": [asdict(one) for one in found.lines], "reasons": found.reasons, "fills": found.fills})
    )


def result_by_id(result_id: UUID) -> KeptAnswer:
    """A kept answer.

    Raises
    ------
    Http404
        When there is none.
    """
    return kept_answer(result_id, Area.DIFF)


def bench_work(work_id: UUID) -> Work:
    """The work with what the bench shows of it.

    Raises
    ------
    Http404
        When there is none.
    """
    of_run_sheet = ("step_records__readings", "way_choices", "gear_sets")
    return desk_work(work_id, kept_of(Area.DIFF), "sheet_revision__family__shims", *of_run_sheet)
