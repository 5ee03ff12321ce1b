"""Pieces that the schemas of several areas share."""

from __future__ import annotations

from typing import Annotated, Any, Literal
from uuid import UUID, uuid4

from ninja import Schema
from pydantic import AwareDatetime, BaseModel, ConfigDict, Field, StringConstraints

from amber_core.words import Said

Millimetres = Annotated[float, Field(ge=-1000.0, le=1000.0, allow_inf_nan=False)]
Degrees = Annotated[float, Field(ge=0.0, lt=360.0, allow_inf_nan=False)]
Line = Annotated[str, StringConstraints(strip_whitespace=True, max_length=200)]
Paragraph = Annotated[str, StringConstraints(strip_whitespace=True, max_length=2000)]
Typed = Annotated[str, StringConstraints(max_length=200)]


class Plain(BaseModel):
    """An answer made of plain data: without the wrapper that reads rows of the database, of which a bench would have hundreds."""

    model_config = ConfigDict(from_attributes=True)


class ErrorBody(Schema):
    """What went wrong: a code, a sentence, and the field it is about."""

    code: str
    message: str
    field: str
    hint: str | None = None


class ErrorOut(Schema):
    """Every error of this API; a conflict also carries what is stored now, a question its choices."""

    error: ErrorBody
    current: dict[str, Any] | None = None
    question: dict[str, Any] | None = None


LengthUnitName = Literal["thou", "hundredths_mm", "mm"]
TorqueUnitName = Literal["nm", "inlb"]
ENVELOPE = {"client_id", "person", "device", "written_at"}
"""What says who wrote something where and when, and not what was written."""


class Written(Schema):
    """The envelope of a write. The same id with the same content again changes nothing and is answered as before.

    `person` is the login it was typed under, and `length_unit` and `torque_unit` are what its bare numbers are in; left out, they are those
    of whoever sends it. `device` and `written_at` are the device's own name and clock.
    """

    client_id: UUID
    person: Annotated[str, Field(max_length=150)] = ""
    device: Annotated[str, Field(max_length=120)] = ""
    length_unit: LengthUnitName | None = None
    torque_unit: TorqueUnitName | None = None
    written_at: AwareDatetime | None = None

    @property
    def write_id(self) -> UUID:
        """The id that this write is known by."""
        return self.client_id

    def content(self) -> dict[str, Any]:
        """What was written, in plain JSON types: what the id is bound to."""
        return self.model_dump(mode="json", exclude=ENVELOPE)

    def fields(self, *left_out: str) -> dict[str, Any]:
        """What was written, for the service, without the envelope."""
        return self.dict(exclude={*ENVELOPE, "length_unit", "torque_unit", *left_out})


class Edit(Written):
    """A change of something that is there; a client that gives no id gets one, and cannot send it again."""

    client_id: UUID = Field(default_factory=uuid4)


class ReasonOut(Plain):
    """Why a verdict says what it says."""

    code: str
    text: Said
    field: str | None = None
