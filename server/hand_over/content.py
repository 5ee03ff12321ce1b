"""What a hand-over page says, as it is kept and as files carry it."""

from __future__ import annotations

from datetime import date
from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field, StringConstraints

from amber_core.words import Said

_Text = Annotated[str, StringConstraints(max_length=2000)]
_Kilometres = Annotated[float, Field(ge=0, le=5_000_000, allow_inf_nan=False)]


class _Page(BaseModel):
    model_config = ConfigDict(extra="forbid")


class PageLine(_Page):
    """One thing and what is said of it."""

    what: Said
    said: Said = Said("")
    entered: Said = Said("")
    found: Said = Said("")
    why: _Text = ""


class PageWork(_Page):
    """A piece of work as the customer reads of it."""

    title: Said
    kind: Said
    signed: bool
    found: list[PageLine] = []
    measured: list[PageLine] = []
    chosen: list[PageLine] = []
    left_out: list[PageLine] = []
    oil: _Text = ""


class PageItem(_Page):
    """One thing to do, keep to or check, as `runin.plan` gives it."""

    code: Annotated[str, StringConstraints(max_length=40)]
    text: Said
    kind: Literal["do", "limit", "check"]
    at_km: _Kilometres | None = None
    from_km: _Kilometres | None = None
    until_km: _Kilometres | None = None
    on_date: date | None = None
    after_hours: Annotated[float, Field(ge=0, le=100_000)] | None = None
    status: Annotated[str, StringConstraints(max_length=20)] = ""


class PageContent(_Page):
    """The whole page."""

    shop: _Text
    number: int
    customer: _Text
    vehicle: _Text
    registration: _Text
    complaint: _Text
    day: date
    odometer_km: _Kilometres | None
    signed: bool
    works: Annotated[list[PageWork], Field(max_length=100)]
    plan: Annotated[list[PageItem], Field(max_length=200)]
    driver: Annotated[list[Said], Field(max_length=100)]
    stop_if: Annotated[list[Said], Field(max_length=100)]
    told: dict[Annotated[str, StringConstraints(max_length=40)], _Text]
