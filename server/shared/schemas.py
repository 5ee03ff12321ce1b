"""Pieces that the schemas of several areas share."""

from __future__ import annotations

from typing import Annotated, Any
from uuid import UUID

from ninja import Schema
from pydantic import Field, StringConstraints

Millimetres = Annotated[float, Field(ge=-1000.0, le=1000.0, allow_inf_nan=False)]
Degrees = Annotated[float, Field(ge=0.0, lt=360.0, allow_inf_nan=False)]
Line = Annotated[str, StringConstraints(strip_whitespace=True, max_length=200)]
Paragraph = Annotated[str, StringConstraints(strip_whitespace=True, max_length=2000)]
Typed = Annotated[str, StringConstraints(max_length=200)]


class ErrorBody(Schema):
    """What went wrong: a code, a sentence, and the field it is about."""

    code: str
    message: str
    field: str


class ErrorOut(Schema):
    """Every error of this API; a conflict also carries what is stored now, a question its choices."""

    error: ErrorBody
    current: dict[str, Any] | None = None
    question: dict[str, Any] | None = None


class Written(Schema):
    """The client-made id of a write: the same id again changes nothing."""

    client_id: UUID


class ReasonOut(Schema):
    """Why a verdict says what it says."""

    code: str
    text: str
    field: str | None = None
