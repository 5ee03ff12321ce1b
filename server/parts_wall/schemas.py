"""The Parts wall over the API."""

from __future__ import annotations

from datetime import date, datetime
from typing import Annotated, Any, Literal
from uuid import UUID

from ninja import Schema
from pydantic import Field, StringConstraints

from amber_core.words import Said
from shared.schemas import Line, Plain, Typed, Written

Key = Annotated[str, StringConstraints(pattern=r"^(own_[a-z0-9]{4,32}|[a-z0-9]{1,20}(\.[a-z]{1,10})?)$")]
"""A part: of the assembly's graph, with its side behind a point, or one that was typed (`own_` and a client-made id)."""
Code = Annotated[str, StringConstraints(pattern=r"^[A-Za-z0-9_.]{1,40}$")]
Short = Annotated[str, StringConstraints(strip_whitespace=True, max_length=80)]
Tag = Annotated[str, StringConstraints(strip_whitespace=True, max_length=20)]
SideName = Literal["", "left", "right", "ring", "far", "front", "centre", "rear"]
DecisionName = Literal["", "good", "clean", "repair", "replace"]
NeedStateName = Literal["wanted", "asked", "ordered", "arrived", "fitted", "returned", "dropped"]
Count = Annotated[int, Field(ge=0, le=10_000)]


class BuildIn(Written):
    """How the assembly is built (`parts.plan` has the facts), and what comes off beside the usual."""

    facts: dict[Code, str | bool]
    asked: Annotated[list[Code], Field(max_length=60)] = []


class OffIn(Written):
    """A part is off; all but the key may be empty. `replaces` is the record that this one corrects. `damaged` are places in the stack."""

    key: Key
    name: Short = ""
    side: SideName = ""
    facing: Short = ""
    mark: Annotated[str, StringConstraints(strip_whitespace=True, max_length=40)] = ""
    bag: Tag = ""
    counted: Count | None = None
    stack: Typed = ""
    damaged: Annotated[list[Annotated[int, Field(ge=0, le=99)]], Field(max_length=40)] = []
    note: Annotated[str, StringConstraints(strip_whitespace=True, max_length=400)] = ""
    replaces: UUID | None = None
    sure: bool = False


Fraction = Annotated[float, Field(ge=0.0, le=1.0, allow_inf_nan=False)]


class DrawnIn(Schema):
    """A ring or an arrow drawn on a picture; places as shares of its width and height. A ring has its middle and a point on it."""

    shape: Literal["ring", "arrow"]
    x: Fraction
    y: Fraction
    to_x: Fraction
    to_y: Fraction


class LookIn(Written):
    """What was found on a part and what is decided; `ways` is the question of quote.compare, `way` the one that is chosen."""

    key: Key
    findings: Annotated[list[Code], Field(max_length=12)] = []
    decision: DecisionName = ""
    measured: Line = ""
    photo: UUID | None = None
    drawn: Annotated[list[DrawnIn], Field(max_length=20)] = []
    ways: dict[str, Any] | None = None
    way: Short = ""
    note: Annotated[str, StringConstraints(strip_whitespace=True, max_length=400)] = ""


class PiecesIn(Written):
    """How many pieces of a broken part are missing; 0 is all found."""

    key: Key
    missing: Annotated[int, Field(ge=0, le=1000)]
    given_up: bool = False
    note: Annotated[str, StringConstraints(strip_whitespace=True, max_length=400)] = ""


class BackIn(Written):
    """A part is on again, or a new one in its place, or it stays out with a reason."""

    key: Key
    is_new: bool = False
    stays_out: bool = False
    counted: Count | None = None
    sure: bool = False
    note: Annotated[str, StringConstraints(strip_whitespace=True, max_length=400)] = ""


class UndoIn(Written):
    """A record of this wall is taken back."""

    record: UUID


class PartPhotoIn(Written):
    """What goes beside the file."""

    key: Key


class NeedIn(Written):
    """A line of the parts list as it is from now on. `version` is the last write of the line; none for a new one."""

    line: UUID
    version: UUID | None = None
    key: Annotated[str, StringConstraints(pattern=r"^[a-z0-9_.]{0,40}$")] = ""
    name: Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=120)]
    count: Annotated[int, Field(ge=1, le=10_000)] = 1
    price: Annotated[str, StringConstraints(max_length=40)] = ""
    supplier: Short = ""
    state: NeedStateName = "wanted"
    due_on: date | None = None
    note: Line = ""


class NeedAllIn(Written):
    """Proposals that become lines."""

    keys: Annotated[list[Key], Field(max_length=200)]


class AnnounceIn(Written):
    """How many writes of this wall the device still holds."""

    waiting: Annotated[int, Field(ge=0, le=10_000)]


class FactChoiceOut(Plain):
    code: str
    label: Said


class FactOut(Plain):
    """A fact of the build; without choices it is yes or no."""

    name: str
    label: Said
    value: str | bool
    choices: list[FactChoiceOut]


class AskedOut(Plain):
    """What can come off beside the usual."""

    code: str
    label: Said
    on: bool


class StackPieceOut(Plain):
    entered: str
    mm: float
    damaged: bool


class SeenOut(Plain):
    """What was found last, and what was decided."""

    id: UUID
    findings: list[str]
    findings_word: Said
    then: list[Said]
    decision: DecisionName
    decision_word: Said
    measured: str
    photo: UUID | None
    drawn: list[dict[str, Any]]
    ways: dict[str, Any] | None
    way: str
    total: int | None
    note: str
    by_name: str
    at: datetime


class PiecesOut(Plain):
    id: UUID
    missing: int
    given_up: bool
    note: str
    by_name: str
    at: datetime


class BackOut(Plain):
    id: UUID
    is_new: bool
    stays_out: bool
    note: str
    by_name: str
    at: datetime


class OffOut(Plain):
    """What was said of it when it came off; `order` counts from 1."""

    id: UUID
    order: int
    side: str
    facing: str
    mark: str
    bag: str
    counted: int | None
    stack: list[StackPieceOut]
    stack_mm: float | None
    note: str
    by_name: str
    at: datetime


class DrawnPartOut(Plain):
    """Where it stands in the drawing."""

    x: float
    y: float
    turned_deg: float


class PartOut(Plain):
    """One place of the assembly, or a part that was typed."""

    key: str
    name: Said
    group: Said
    kind: str
    planned: bool
    state: Literal["on", "off", "back", "stays_out"]
    count: int | None
    wants_count: bool
    stacked: bool
    faces: bool
    suggested_mark: Said
    one_time: Literal["", "always", "if_disturbed"]
    trap: Said
    after: list[str]
    off: OffOut | None
    seen: SeenOut | None
    pieces: PiecesOut | None
    back: BackOut | None
    look_at: Said
    photos: list[UUID]
    drawn: DrawnPartOut | None
    need: NeedStateName | None


class BackStepOut(Plain):
    """A place in the order that parts go back in."""

    key: str
    why: list[Said]
    closes: bool


class NeedOut(Plain):
    line: UUID
    version: UUID
    key: str
    name: str
    count: int
    price: int | None
    supplier: str
    state: NeedStateName
    state_word: Said
    due_on: date | None
    late: bool
    note: str
    by_name: str
    at: datetime


class PartProposalOut(Plain):
    key: str
    name: Said
    count: int
    why: Said


class FindingOut(Plain):
    code: str
    word: Said
    then: Said
    pieces: bool


class ClassOut(Plain):
    """What can be found on parts of a class, what decides, and the ways beside a new one."""

    kind: str
    findings: list[str]
    decides: Said
    tools: list[str]
    ways: list[Said]


class AxisOut(Plain):
    axis: str
    x1: float
    y1: float
    x2: float
    y2: float


class PhoneOut(Plain):
    """A device that holds writes that are not here yet."""

    device: str
    person_name: str
    waiting: int
    at: datetime


class QuoteAnswerOut(Plain):
    name: str
    note: str
    at: datetime
    answers: dict[str, bool]


class QuoteLinkOut(Plain):
    """A link that was made: `state` says whether it can still be answered; one that came with a file opens nothing here."""

    id: UUID
    state: Literal["open", "expired", "called_back", "answered", "by_file"]
    by_name: str
    at: datetime
    expires_at: datetime
    lines: int
    answer: QuoteAnswerOut | None


class BuildBeforeOut(Plain):
    """Who said on an earlier visit how the assembly is built."""

    by_name: str
    at: datetime


class WallOut(Plain):
    """Everything of a wall."""

    work_id: UUID
    job_id: UUID
    number: int
    title: str
    vehicle: str
    signed: bool
    guessed: bool
    taken_over: BuildBeforeOut | None
    build: list[FactOut]
    asked: list[AskedOut]
    parts: list[PartOut]
    back: list[BackStepOut]
    hold: Said
    needs: list[NeedOut]
    proposals: list[PartProposalOut]
    findings: list[FindingOut]
    classes: list[ClassOut]
    width: float
    height: float
    axes: list[AxisOut]
    phones: list[PhoneOut]
    links: list[QuoteLinkOut]


class QuoteIn(Written):
    """A quote for the customer: the parts that are to be decided on, each with its ways, and how long the link lasts."""

    hourly: Annotated[str, StringConstraints(max_length=40)]
    tax_pct: Annotated[float, Field(ge=0, le=100, allow_inf_nan=False)] = 0.0
    intro: Annotated[str, StringConstraints(strip_whitespace=True, max_length=1000)] = ""
    keys: Annotated[list[Key], Field(min_length=1, max_length=60)]
    days: Annotated[int, Field(ge=1, le=90)] = 14


class QuoteMadeOut(Plain):
    """The token is told once."""

    token: str
    expires_at: datetime


class QuoteEndIn(Written):
    """The link is called back."""


class QuotedWayOut(Plain):
    name: str
    total: int
    wait_days: float
    chosen: bool


class QuoteLineOut(Plain):
    key: str
    part: Said
    found: Said
    note: str
    decision: Said
    photo: UUID | None
    drawn: list[dict[str, Any]]
    ways: list[QuotedWayOut]


class SharedQuoteOut(Plain):
    """What a link shows."""

    shop_name: str
    vehicle: str
    number: int
    intro: str
    at: datetime
    expires_at: datetime
    tax_pct: float
    lines: list[QuoteLineOut]
    answer: QuoteAnswerOut | None


class QuoteAnswerIn(Schema):
    """Yes or no to each line, with the name of whoever says so."""

    client_id: UUID
    answers: dict[Key, bool]
    name: Annotated[str, StringConstraints(strip_whitespace=True, min_length=2, max_length=120)]
    note: Annotated[str, StringConstraints(strip_whitespace=True, max_length=1000)] = ""
