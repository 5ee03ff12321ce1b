"""The bench as the API shows it."""

from __future__ import annotations

import csv
import io
from typing import Any

from amber_core import payload
from amber_core.bench.gauges import GAUGES
from amber_core.words import Said, retold
from diff_bench.fields import GROUPS, Field, Tool
from diff_bench.reading import Units
from diff_bench.tools import TOOLS
from diff_bench.working import Worked
from shared.csv_out import inert
from stores.sheets import Sheet
from work.as_left import told
from work.kept import shown
from work.models import KeptAnswer, Work
from work.run_sheet import RunSheet

Drawer = dict[str, list[dict[str, str]]]
"""Rows of shims as they would be typed, by the drawer's place."""


def bench_out(units: Units, work: Work | None = None) -> dict[str, Any]:
    """The tools; on a piece of work with its sheet's limits, its drawer, and what was kept."""
    sheet = work.sheet if work is not None and work.sheet_revision_id else None
    drawer = _drawer(work)
    found: dict[str, Any] = {
        "tools": [_tool(one, sheet, drawer, units) for one in TOOLS.values()],
        "gauges": [{"code": one.code, "name": one.name, "step_mm": one.step_mm} for one in GAUGES.values()],
    }
    if work is None:
        return found
    return {
        **found,
        "job_id": work.job_id,
        "work_id": work.pk,
        "job_number": work.job.number,
        "vehicle": work.job.vehicle.name,
        "title": work.title,
        "sheet": sheet.name if sheet else "",
        "is_sample": sheet.is_sample if sheet else False,
        "signed_off": work.signed_off_at is not None,
        "results": [result_out(one) for one in work.kept],
        "clocks": _clocks(RunSheet(work)),
    }


def _clocks(sheet: RunSheet) -> list[dict[str, Any]]:
    """Clocks of the run sheet that run, and those that a tool's work is begun with and that are not over with."""
    begun_here = {code for tool in TOOLS.values() for code in tool.clocks}
    found = []
    for step in sheet.steps:
        running = sheet.running(step) if step.act == "clock" else None
        if running is not None or (step.act == "clock" and step.code in begun_here and step.code not in sheet.passed):
            until = running.until if running is not None else None
            found.append(
                {"step": step.code, "title": step.title, "running": running is not None, "until": until, "minutes": step.wait_minutes}
            )
    return found


def _drawer(work: Work | None) -> Drawer:
    found: Drawer = {}
    if work is not None and work.sheet_revision is not None:
        for row in work.sheet_revision.family.shims.all():
            if row.count:
                found.setdefault(row.place, []).append({"thickness_mm": f"{row.thickness_mm.normalize():f} mm", "count": str(row.count)})
    return found


def _tool(tool: Tool, sheet: Sheet | None, drawer: Drawer, units: Units) -> dict[str, Any]:
    plain = {name: getattr(tool, name) for name in ("code", "title", "about", "computation", "cautions", "clocks")}
    return {**plain, "group": GROUPS[tool.group], "fields": [_field(one, sheet, drawer, units) for one in tool.fields]}


def _field(one: Field, sheet: Sheet | None, drawer: Drawer, units: Units) -> dict[str, Any]:
    begin, source = one.begin, ""
    limit = sheet.limit(one.limit) if sheet is not None and one.limit else None
    if limit is not None and (bound := getattr(limit, one.side)) is not None:
        begin, source = f"{bound:g} {limit.unit}".strip(), limit.source_note
    plain = {name: getattr(one, name) for name in ("section", "many", "places", "angles", "when")}
    rows = drawer.get(one.drawer, []) if one.drawer else []
    return {
        **_column(one, units),
        **plain,
        "begin": begin,
        "source": source,
        "rows": rows,
        "columns": [_column(column, units) for column in one.columns],
    }


def _column(one: Field, units: Units) -> dict[str, Any]:
    plain = {name: getattr(one, name) for name in ("name", "label", "kind", "needed", "begin", "hint")}
    return {**plain, "unit": units.shown(one), "options": [{"code": code, "label": label} for code, label in one.options.items()]}


def answer_out(found: Worked) -> dict[str, Any]:
    """What a tool makes of what was typed; a drawing that is asked for as a file stays out."""
    answer = None if found.answer is None else {name: value for name, value in payload.plain(found.answer).items() if name != "svg"}
    return {
        "tool": found.tool.code,
        "wrong": [{"field": one.field, "text": one.text} for one in found.wrong],
        "missing": found.missing,
        "question": None if found.question is None else payload.plain(found.question),
        "answer": answer,
        "beside": payload.plain(found.beside),
        "verdict": found.verdict,
        "lines": found.lines,
        "reasons": found.reasons,
    }


def lines_of(kept: KeptAnswer) -> list[dict[str, Any]]:
    """The figures of a kept answer."""
    return told(kept.summary["lines"])


def tool_title(code: str) -> Said:
    """The name of a tool; one of another release by its code."""
    return TOOLS[code].title if code in TOOLS else Said.of(code.replace("_", " ").capitalize())


def result_out(kept: KeptAnswer, *, whole: bool = False) -> dict[str, Any]:
    """A kept answer, with or without what it holds."""
    listed = {
        **shown(kept),
        "tool": kept.about,
        "tool_title": tool_title(kept.about),
        "step": kept.step_code,
        "verdict": kept.summary["verdict"],
        "lines": lines_of(kept),
    }
    return {**listed, "inputs": kept.inputs, "answer": retold(kept.answer)} if whole else listed


def result_csv(kept: KeptAnswer) -> str:
    """The figures of a kept answer, a line each."""
    out = io.StringIO()
    writer = csv.writer(out)
    writer.writerow(["name", "figure", "value_inside", "said", "verdict"])
    for one in lines_of(kept):
        value = "" if one["value"] is None else f"{one['value']:.6g}"
        writer.writerow([one["name"], inert(str(one["what"])), value, inert(str(one["said"])), one["verdict"]])
    return out.getvalue()
