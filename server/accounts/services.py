"""Signing in and out, and what a person sets for themselves or for the shop."""

from __future__ import annotations

from typing import Any

from django.contrib.auth import authenticate, login, update_session_auth_hash
from django.db import transaction
from django.http import HttpRequest

from accounts import door, people, policy
from accounts.models import Role, Shop, ShopHours, ShopRule, User
from accounts.passwords import require_strong
from amber_core import payload
from amber_core.planning.schedule import ScheduleQuestion
from amber_core.words import say
from records.writing import Writing
from shared.refusals import Refusal
from shared.scope import in_shop


class WrongLogin(Refusal):
    """No such name and password together."""

    status = 401


def sign_in(request: HttpRequest, username: str, password: str) -> User:
    """Start a session.

    Raises
    ------
    LockedOut, WrongLogin
        With what to do.
    """
    admitted = door.admit(request, username)
    with door.QUEUE.turn(known=admitted.known):
        user = authenticate(request, username=username, password=password)
    if user is None:
        raise WrongLogin(say("The name or the password is wrong."), code="wrong_login", field="password")
    assert isinstance(user, User)
    admitted.succeeded()
    login(request, user)
    return user


@transaction.atomic
def set_preferences(*, user: User, length_unit: str | None, torque_unit: str | None, theme: str | None, looking_at: int | None) -> User:
    """Change the person's own units and theme, and which workshop they look at, 0 for all; None leaves one as it is.

    Raises
    ------
    NotAllowed, Refusal
        When they may not look at another workshop, or there is no such one.
    """
    if looking_at is not None:
        policy.require_organisation(user)
        if looking_at and not Shop.objects.filter(pk=looking_at).exists():
            raise Refusal(say("There is no such workshop."), field="looking_at")
        user.looking_at_id = looking_at or None
    for field, value in (("length_unit", length_unit), ("torque_unit", torque_unit), ("theme", theme)):
        if value is not None:
            setattr(user, field, value)
    user.save(update_fields=["length_unit", "torque_unit", "theme", "looking_at"])
    return user


@transaction.atomic
def set_rule(writing: Writing, *, foreman_signs: bool | None, export_roles: list[str] | None, name: str | None, reason: str) -> None:
    """Whether only a foreman who did not measure may sign off, who may export, and the workshop's name; None leaves one as it is. The rules
    that were in force before stay on the record."""
    policy.require(writing.by, "shop_settings")
    shop = Shop.get()
    if name is not None:
        if not name:
            raise Refusal(say("Enter the workshop's name."), field="name")
        Shop.objects.filter(pk=shop.pk).update(name=name)
    if foreman_signs is None and export_roles is None:
        return
    signs = shop.rule.foreman_signs if foreman_signs is None else foreman_signs
    export = shop.rule.export_roles if export_roles is None else sorted({*export_roles, Role.FOREMAN})
    ShopRule.objects.create(foreman_signs=signs, export_roles=export, reason=reason, **writing.row())


@transaction.atomic
def add_shop(writing: Writing, *, name: str, username: str, display_name: str, password: str) -> Shop:
    """One more workshop of the installation, with its first foreman.

    Raises
    ------
    NotAllowed, Refusal, Conflict
        When it has no name, there is one of that name, or the login cannot be made.
    """
    policy.require_organisation(writing.by)
    if not name:
        raise Refusal(say("Enter the workshop's name."), field="name")
    shops = list(Shop.objects.select_for_update().order_by("pk"))  # two that are added at once wait for one another
    if any(one.name.casefold() == name.casefold() for one in shops):
        raise Refusal(say("There is a workshop with this name already. Choose another name."), field="name")
    shop = Shop.objects.create(pk=shops[-1].pk + 1, name=name)
    with in_shop(shop.pk):
        people.add(writing, username=username, display_name=display_name, role=Role.FOREMAN, password=password)
    return shop


@transaction.atomic
def set_hours(writing: Writing, *, hours: list[dict[str, Any]], hands: int, closed: list[str]) -> ShopHours:
    """Opening hours, people and closing days from now on; what counted before stays on the record.

    Raises
    ------
    NotAllowed, InvalidInput
        Saying which line is wrong.
    """
    policy.require(writing.by, "shop_settings")
    asked = {"start": "2026-01-05T08:00", "hours": hours, "hands": hands, "closed": closed, "steps": [{"code": "any", "minutes": 1}]}
    payload.read(ScheduleQuestion, asked)
    return ShopHours.objects.create(hours=hours, hands=hands, closed=sorted(set(closed)), **writing.row())


def change_password(request: HttpRequest, current: str, new: str) -> User:
    """Another password of one's own; other sessions of this login end.

    Raises
    ------
    WrongLogin, Refusal, LockedOut
        When the present one is wrong, the new one too weak, or it was tried too often.
    """
    user = request.user
    assert isinstance(user, User)
    own = door.admit_own(user)
    with door.QUEUE.turn(known=True):
        right = user.check_password(current)
    if not right:
        raise WrongLogin(say("This is not your current password."), code="wrong_login", field="current")
    require_strong(new, user, field="new")
    own.succeeded()
    user.set_password(new)
    user.save(update_fields=["password"])
    update_session_auth_hash(request, user)
    return user
