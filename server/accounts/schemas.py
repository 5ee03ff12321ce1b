"""Accounts over the API."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Literal

from ninja import Schema
from pydantic import Field, RootModel, StringConstraints

from shared.schemas import Edit, LengthUnitName, Line, Plain, TorqueUnitName

ThemeName = Literal["bay", "pit"]
RoleName = Literal["technician", "foreman", "counter", "read_only"]


class SignInIn(Schema):
    username: Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=150)]
    password: Annotated[str, StringConstraints(min_length=1, max_length=200)]


class MayOut(Plain):
    """What this login's role allows."""

    record: bool
    edit_job: bool
    edit_stores: bool
    import_job: bool
    sign_off: bool
    shop_settings: bool
    export: bool


class RuleOut(Plain):
    """The rules of the workshop, who set them, and when; no time for those it was installed with."""

    foreman_signs: bool
    export_roles: list[RoleName]
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


class ShopHoursOut(Plain):
    """The hours that count now; a person's word is in `by_name`."""

    hours: list[OpeningPart]
    hands: int
    closed: list[str]
    by_name: str


class ShopNameOut(Plain):
    """A workshop of the installation."""

    id: int
    name: str


class ShopOut(Plain):
    name: str
    foreman_signs: bool
    rule: RuleOut
    is_demo: bool
    others: bool
    """Whether the installation has other workshops."""


class MeOut(Plain):
    username: str
    display_name: str
    role: RoleName
    length_unit: LengthUnitName
    torque_unit: TorqueUnitName
    theme: ThemeName
    may: MayOut
    shop: ShopOut
    shops: list[ShopNameOut]
    """Those that this person may look at; empty for who works in one."""
    looking_at: int
    """The one that is looked at, 0 for all of several."""


class DemoLoginOut(Plain):
    username: str
    display_name: str
    role: RoleName
    where: str


class WelcomeOut(Plain):
    """What the sign-in page may show to a stranger."""

    shop_name: str
    is_demo: bool
    demo_logins: list[DemoLoginOut]
    demo_password: str


class PreferencesIn(Edit):
    """Own units and theme, and which workshop is looked at, 0 for all; None leaves one as it is."""

    length_unit: LengthUnitName | None = None
    torque_unit: TorqueUnitName | None = None
    theme: ThemeName | None = None
    looking_at: Annotated[int, Field(ge=0, le=2_000_000_000)] | None = None


class ShopIn(Edit):
    """The workshop's rules and name; None leaves one as it is."""

    foreman_signs: bool | None = None
    export_roles: Annotated[list[RoleName], Field(max_length=10)] | None = None
    name: Annotated[str, StringConstraints(strip_whitespace=True, max_length=120)] | None = None
    reason: Line = ""


PersonName = Annotated[str, StringConstraints(strip_whitespace=True, max_length=120)]
# not part of what the write's hash is made of: a hash of a password would lie in the database
NewPassword = Annotated[str, Field(min_length=1, max_length=200, exclude=True)]


class PersonIn(Edit):
    """A new login."""

    username: Annotated[str, StringConstraints(strip_whitespace=True, to_lower=True, max_length=150)]
    display_name: PersonName
    role: RoleName
    password: NewPassword


class NewShopIn(Edit):
    """One more workshop, and its first foreman."""

    name: PersonName
    username: Annotated[str, StringConstraints(strip_whitespace=True, to_lower=True, max_length=150)]
    display_name: PersonName
    password: NewPassword


class PersonChangeIn(Edit):
    """Another name or role; `active` closes a login or opens it again. None leaves one as it is."""

    display_name: PersonName | None = None
    role: RoleName | None = None
    active: bool | None = None


class PersonPasswordIn(Edit):
    """Another password for somebody else."""

    password: NewPassword


class PersonOut(Plain):
    """A login, and when it was last used; an operator's is changed on the server only."""

    id: int
    username: str
    display_name: str
    role: RoleName
    active: bool
    operator: bool
    last_login: datetime | None


class PasswordIn(Schema):
    current: Annotated[str, StringConstraints(min_length=1, max_length=200)]
    new: Annotated[str, StringConstraints(min_length=1, max_length=200)]


class CsrfOut(Plain):
    token: str


class PeopleOut(RootModel[list[PersonOut]]):
    """Every login of the workshop."""
