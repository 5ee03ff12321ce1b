"""Accounts over the API."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Literal

from ninja import Schema
from pydantic import Field, StringConstraints

from shared.schemas import Edit, LengthUnitName, Line, TorqueUnitName

ThemeName = Literal["bay", "pit"]
RoleName = Literal["technician", "foreman", "counter", "read_only"]


class SignInIn(Schema):
    username: Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=150)]
    password: Annotated[str, StringConstraints(min_length=1, max_length=200)]


class MayOut(Schema):
    """What this login's role allows."""

    record: bool
    edit_job: bool
    edit_stores: bool
    import_job: bool
    sign_off: bool
    shop_settings: bool


class RuleOut(Schema):
    """The rule that work is signed off by, who set it, and when; no time for the one it was installed with."""

    foreman_signs: bool
    reason: str
    by_name: str
    at: datetime | None


class OpeningPart(Schema):
    """A weekday (0 Monday) and from when to when."""

    weekday: Annotated[int, Field(ge=0, le=6)]
    from_: Annotated[str, Field(alias="from", max_length=5)]
    to: Annotated[str, Field(max_length=5)]


class ShopHoursIn(Edit):
    """Opening hours, people, and closing days (YYYY-MM-DD) from now on."""

    hours: Annotated[list[OpeningPart], Field(min_length=1, max_length=21)]
    hands: Annotated[int, Field(ge=1, le=8)]
    closed: Annotated[list[Annotated[str, Field(max_length=10)]], Field(max_length=400)] = []


class ShopHoursOut(Schema):
    """The hours that count now; a person's word is in `by_name`."""

    hours: list[OpeningPart]
    hands: int
    closed: list[str]
    by_name: str


class ShopOut(Schema):
    name: str
    foreman_signs: bool
    rule: RuleOut
    is_demo: bool


class MeOut(Schema):
    username: str
    display_name: str
    role: RoleName
    length_unit: LengthUnitName
    torque_unit: TorqueUnitName
    theme: ThemeName
    may: MayOut
    shop: ShopOut


class DemoLoginOut(Schema):
    username: str
    display_name: str
    role: RoleName


class WelcomeOut(Schema):
    """What the sign-in page may show to a stranger."""

    shop_name: str
    is_demo: bool
    demo_logins: list[DemoLoginOut]
    demo_password: str


class PreferencesIn(Edit):
    """Own units and theme; None leaves one as it is."""

    length_unit: LengthUnitName | None = None
    torque_unit: TorqueUnitName | None = None
    theme: ThemeName | None = None


class ShopIn(Edit):
    foreman_signs: bool
    reason: Line = ""


class PasswordIn(Schema):
    current: Annotated[str, StringConstraints(min_length=1, max_length=200)]
    new: Annotated[str, StringConstraints(min_length=1, max_length=200)]


class CsrfOut(Schema):
    token: str
