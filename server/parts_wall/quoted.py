"""What a quote says, as it is kept and as files carry it."""

from __future__ import annotations

from typing import Annotated
from uuid import UUID

from pydantic import BaseModel, ConfigDict, Field, StringConstraints

from amber_core.words import Said
from parts_wall.schemas import DrawnIn, Key


class _Quoted(BaseModel):
    model_config = ConfigDict(extra="forbid")


class QuotedWay(_Quoted):
    """One way with its price, in the smallest unit of money; less than nothing where more comes back than it costs."""

    name: str
    total: int
    wait_days: Annotated[float, Field(ge=0, allow_inf_nan=False)]
    chosen: bool


class QuotedLine(_Quoted):
    """A part: what was found, and what it would take."""

    key: Key
    part: Said
    found: Said
    note: Annotated[str, StringConstraints(max_length=400)]
    decision: Said
    photo: UUID | None
    drawn: Annotated[list[DrawnIn], Field(max_length=20)]
    ways: Annotated[list[QuotedWay], Field(max_length=100)]


class QuoteContent(_Quoted):
    """The whole quote."""

    intro: Annotated[str, StringConstraints(max_length=1000)]
    tax_pct: Annotated[float, Field(ge=0, le=100, allow_inf_nan=False)]
    lines: Annotated[list[QuotedLine], Field(min_length=1, max_length=60)]
