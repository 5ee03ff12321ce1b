"""The Diff bench over the API."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Any, Literal
from uuid import UUID

from ninja import Schema
from pydantic import Field, StringConstraints

from amber_core.words import Said
from diff_bench.fields import Kind, Section
from jobs.schemas import VerdictName
from shared.schemas import LengthUnitName, Line, Plain, TorqueUnitName, Written

Typed = Annotated[str, StringConstraints(max_length=200)]
Values = Annotated[
    dict[
        Annotated[str, StringConstraints(max_length=60)],
        Typed
        | Annotated[list[Typed], Field(max_length=2000)]
        | Annotated[list[Annotated[dict[str, Typed], Field(max_length=12)]], Field(max_length=2000)],
    ],
    Field(max_length=60),
]
ToolCode = Annotated[str, StringConstraints(max_length=20)]
GaugeCode = Annotated[str, StringConstraints(max_length=20)]


class OptionOut(Plain):
    """One of a choice."""

    code: str
    label: Said


class ColumnOut(Plain):
    """A column of a table."""

    name: str
    label: Said
    kind: Kind
    needed: bool
    unit: Said
    options: list[OptionOut]
    begin: str
    hint: Said


class FieldOut(ColumnOut):
    """One thing that a tool asks for; `source` says where the sheet has what stands there to begin with."""

    section: Section
    many: list[int] | None
    places: list[Said]
    angles: int
    columns: list[ColumnOut]
    when: list[str] | None
    source: str
    rows: list[dict[str, str]]


class ToolOut(Plain):
    """A tool of the bench; `clocks` are steps of the run sheet whose clock is started with this work."""

    code: str
    group: Said
    title: Said
    about: Said
    computation: str
    cautions: list[Said]
    clocks: list[str]
    fields: list[FieldOut]


class GaugeOut(Plain):
    code: str
    name: Said
    step_mm: float


class BenchClockOut(Plain):
    """A clock of the run sheet that runs, or that is begun at this bench and takes so many minutes."""

    step: str
    title: Said
    running: bool
    until: datetime | None
    minutes: int


class DiffLineOut(Plain):
    """One figure of an answer."""

    name: str
    what: Said
    said: Said
    verdict: VerdictName


class DiffResultOut(Plain):
    """A kept answer."""

    id: UUID
    tool: str
    tool_title: Said
    title: str
    step: str
    verdict: VerdictName | None
    lines: list[DiffLineOut]
    by_name: str
    at: datetime
    engine_version: str
    is_current: bool


class DiffResultWholeOut(DiffResultOut):
    """A kept answer with what was typed, what was asked of the core, and what it answered."""

    inputs: dict[str, Any]
    answer: dict[str, Any]


class DiffBenchOut(Plain):
    """The bench: its tools, instruments, and on a piece of work what was kept and which clocks run."""

    tools: list[ToolOut]
    gauges: list[GaugeOut]
    job_id: UUID | None = None
    work_id: UUID | None = None
    job_number: int | None = None
    vehicle: str = ""
    title: str = ""
    sheet: str = ""
    is_sample: bool = False
    signed_off: bool = False
    results: list[DiffResultOut] = []
    clocks: list[BenchClockOut] = []


class DiffWorkIn(Schema):
    """What was typed at a tool; bare figures are in these units, else in the person's own."""

    tool: ToolCode
    values: Values
    gauge: GaugeCode = ""


class SlipOut(Plain):
    field: str
    text: Said


class DiffAnswer(Plain):
    """What a tool makes of it: slips and what is missing, or question and answer as the core has them, with verdict, figures and why.

    `beside` is what was read and is no part of the question: where a pit lies.
    """

    tool: str
    wrong: list[SlipOut]
    missing: list[Said]
    question: dict[str, Any] | None
    answer: dict[str, Any] | None
    beside: dict[str, Any]
    verdict: VerdictName | None
    lines: list[DiffLineOut]
    reasons: list[Said]


class BenchLine(Plain):
    """One figure of a kept answer, as it is stored."""

    name: Annotated[str, StringConstraints(max_length=60)]
    what: Said
    said: Said
    found: Annotated[str, StringConstraints(max_length=200)] = ""
    verdict: VerdictName
    value: Annotated[float, Field(ge=-1e9, le=1e9, allow_inf_nan=False)] | None = None
    found_value: Annotated[float, Field(ge=-1e9, le=1e9, allow_inf_nan=False)] | None = None


class BenchSummary(Plain):
    """The little of a kept answer that lists, the run sheet and the build sheet show."""

    verdict: VerdictName | None
    lines: Annotated[list[BenchLine], Field(max_length=400)]
    reasons: Annotated[list[Said], Field(max_length=400)]
    fills: Annotated[dict[Annotated[str, StringConstraints(max_length=60)], Typed], Field(max_length=20)]


class BenchInputs(Plain):
    """What was typed with the units of bare figures, the instrument, and the question as the core was asked it."""

    values: Values
    gauge: GaugeCode
    length_unit: LengthUnitName
    torque_unit: TorqueUnitName
    question: Annotated[dict[str, Any], Field(max_length=60)]


class DiffResultIn(Written):
    """Save an answer to the work, and to the step of its run sheet that it was measured for."""

    tool: ToolCode
    values: Values
    gauge: GaugeCode = ""
    title: Line
    step: Annotated[str, StringConstraints(max_length=40)] = ""


class GasketFileIn(Schema):
    """What was typed at the gasket tool, and the file wanted of it."""

    values: Values
    kind: Literal["svg", "dxf", "pdf"]
    paper: Literal["a4", "letter"] = "a4"
