"""Jobs over the API."""

from __future__ import annotations

from datetime import date, datetime
from typing import Annotated, Literal

from pydantic import Field, StringConstraints

from amber_core.words import Said
from shared.schemas import Edit, Line, Paragraph, Plain, Written
from vehicles.schemas import AxleName, LayoutName, Named, PlaceName, Registration

UseName = Literal["road", "towing", "off_road", "rail", "shore"]
StateName = Literal["booked", "in_work", "waiting", "to_sign", "done"]
WaitsName = Literal["nothing", "parts", "cure", "cool_down", "customer", "sign_off"]
StationStateName = Literal["not_looked_at", "in_work", "good", "fault"]
VerdictName = Literal["in", "edge", "out", "unknown"]
Told = Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=2000)]
Teeth = Annotated[int, Field(ge=3, le=200)]
Turns = Annotated[float, Field(ge=-10000.0, le=10000.0, allow_inf_nan=False)]


class JobEdit(Edit):
    """Only what is given changes; `vehicle`, `registration` and `layout` are the vehicle's."""

    version: int
    customer: Named | None = None
    vehicle: Named | None = None
    registration: Registration | None = None
    layout: LayoutName | None = None
    complaint: Told | None = None
    use: UseName | None = None
    use_note: Paragraph | None = None
    promised_on: date | None = None
    waits_for: WaitsName | None = None
    waits_note: Line | None = None


class StationIn(Edit):
    """`version` is the station's as it was read."""

    state: StationStateName
    note: Line = ""
    version: int


class StationSaidOut(Plain):
    """What was said of a part before."""

    word: Said
    note: str
    by_name: str
    at: datetime


class StationOut(Plain):
    place: PlaceName
    label: Said
    state: StationStateName
    word: Said
    note: str
    version: int
    under_work: bool
    history: list[StationSaidOut]


class AxleFactIn(Written):
    """One end of the vehicle: the tyre as written, a measured roll-out, and teeth; what is empty is not known."""

    end: AxleName
    tyre: Annotated[str, Field(max_length=60)] = ""
    rollout_mm: Annotated[float, Field(ge=100, le=1e6, allow_inf_nan=False)] | None = None
    turns: Annotated[float, Field(ge=0.25, le=1000, allow_inf_nan=False)] = 1.0
    pinion_teeth: Annotated[int, Field(ge=3, le=60)] | None = None
    ring_teeth: Annotated[int, Field(ge=4, le=150)] | None = None
