"""What the run sheet and the vehicle's history have of the bench."""

from __future__ import annotations

from amber_core.procedures.steps import Step
from amber_core.words import Said
from diff_bench.present import lines_of
from diff_bench.tools import TOOLS
from work.as_left import Line
from work.as_left import register as register_as_left
from work.checks import register_tools
from work.models import Area, Work


def tools_of_step(step: Step) -> list[tuple[str, Said]]:
    """The tools that measure a step."""
    return [(tool.code, tool.title) for tool in TOOLS.values() if step.code in tool.steps]


def left(work: Work) -> list[Line]:
    """The last answer of each tool, where it is a reading that was judged."""
    latest = {one.about: one for one in work.kept_answers.all() if one.area == Area.DIFF}
    return [
        Line(f"{tool}.{line['name']}", line["what"], line["said"], verdict=line["verdict"], value=line["value"])
        for tool, kept in latest.items()
        for line in lines_of(kept)
        if line["verdict"] != "unknown" and line["value"] is not None
    ]


def register_steps() -> None:
    """At start-up."""
    register_tools(tools_of_step)
    register_as_left(left)
