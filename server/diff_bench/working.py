"""A tool at work: what was typed, read, asked of the core, and told."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Any

from amber_core import payload as codec
from amber_core import registry
from amber_core.bench.gauges import GAUGES, too_coarse
from amber_core.errors import InvalidInput
from amber_core.verdicts import Reason, VerdictWord
from amber_core.words import NOTHING, Said, say
from diff_bench.fields import Tool
from diff_bench.reading import Slip, Units, Values, read
from diff_bench.tools import TOOLS
from work.as_left import Line

_SIDES = {"ring_side": say("Ring side"), "far_side": say("Far side")}


@dataclass(frozen=True)
class Worked:
    """What a tool makes of what was typed; without an answer while something is missing or wrong.

    `question` and `answer` are the core's own dataclasses.
    """

    tool: Tool
    question: Any = None
    answer: Any = None
    wrong: list[Slip] = field(default_factory=list)
    missing: list[Said] = field(default_factory=list)
    beside: dict[str, Any] = field(default_factory=dict)
    verdict: VerdictWord | None = None
    lines: list[Line] = field(default_factory=list)
    reasons: list[Said] = field(default_factory=list)

    @property
    def fills(self) -> dict[str, str]:
        """Readings for the step of a run sheet."""
        return {name: text for name, text in self.tool.fills(self.question, self.answer, self.beside).items() if text}


def tool_named(code: str) -> Tool:
    """A tool of the bench.

    Raises
    ------
    InvalidInput
        When there is none of that name.
    """
    if code not in TOOLS:
        raise InvalidInput("tool", say("The bench has no tool called “{name}”.", name=code[:40]))
    return TOOLS[code]


def worked(code: str, values: Values, units: Units, gauge: str = "") -> Worked:
    """Read what was typed and, once all is there, ask the core.

    Raises
    ------
    InvalidInput
        For a tool, a field or an instrument that there is not.
    """
    tool = tool_named(code)
    if gauge and gauge not in GAUGES:
        raise InvalidInput("gauge", say("Choose one of these."))
    found = read(tool, values, units)
    if found.wrong or found.missing:
        return Worked(tool, wrong=found.wrong, missing=found.missing)
    computation = registry.find(tool.computation)
    try:
        asked = tool.shapes(found.question, found.beside)
        if gauge and "resolution_mm" in computation.question.__dataclass_fields__:
            asked = {"resolution_mm": GAUGES[gauge].step_mm, **asked}
        question = codec.read(computation.question, asked)
        answer = computation.function(question)
    except InvalidInput as slip:
        return Worked(tool, wrong=[Slip(slip.field, slip.message)])
    reasons = _why(answer)
    if gauge and tool.window is not None:
        low, high = (getattr(question, name, None) if name else None for name in tool.window)
        coarse = too_coarse(GAUGES[gauge], low, high)
        reasons = [coarse, *reasons] if coarse else reasons
    return Worked(
        tool,
        question=question,
        answer=answer,
        beside=found.beside,
        verdict=tool.verdict(answer),
        lines=tool.tells(question, answer, found.beside),
        reasons=list(dict.fromkeys(reasons)),
    )


def _why(answer: Any) -> list[Said]:
    """What the answer says why, then the limits that are broken or near; a part's own after its name."""
    parts = [(NOTHING, answer), *((name, getattr(answer, field)) for field, name in _SIDES.items() if _judged(answer, field))]
    said: list[Said] = []
    near: list[Said] = []
    for name, part in parts:
        for kind, into in (("reasons", said), ("limits", near)):
            into += [_of(name, one) for one in getattr(part, kind, []) if not one.code.startswith("inside")]
    return [*said, *near]


def _judged(answer: Any, field: str) -> bool:
    return hasattr(getattr(answer, field, None), "verdict")


def _of(name: Said, reason: Reason) -> Said:
    return say("{side}: {text}", side=name, text=reason.text) if name else reason.text
