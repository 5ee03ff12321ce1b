"""Signing in and out, and what a person sets for themselves or for the shop."""

from __future__ import annotations

from typing import Any

from axes.handlers.proxy import AxesProxyHandler
from django.contrib.auth import authenticate, login, update_session_auth_hash
from django.contrib.auth.password_validation import validate_password
from django.core.exceptions import ValidationError as PasswordInvalid
from django.db import transaction
from django.http import HttpRequest, JsonResponse

from accounts import policy
from accounts.models import ShopHours, ShopRule, User
from amber_core import payload
from amber_core.planning.schedule import ScheduleQuestion
from amber_core.words import Said, say
from records.writing import Writing
from shared.refusals import Refusal


class WrongLogin(Refusal):
    """No such name and password together."""

    status = 401


class LockedOut(Refusal):
    """Too many wrong passwords."""

    status = 429


def _locked_out() -> LockedOut:
    return LockedOut(say("Too many wrong passwords for this login. Wait 15 minutes, or ask a foreman."), code="locked_out")


def locked_out_answer(request: HttpRequest, credentials: object = None, *args: object, **kwargs: object) -> JsonResponse:
    """What the lockout's own middleware answers with: the same shape as every other no."""
    return JsonResponse(_locked_out().as_dict(), status=LockedOut.status)


def sign_in(request: HttpRequest, username: str, password: str) -> User:
    """Start a session.

    Raises
    ------
    LockedOut, WrongLogin
        With what to do.
    """
    credentials = {"username": username}
    if not AxesProxyHandler.is_allowed(request, credentials):
        raise _locked_out()
    user = authenticate(request, username=username, password=password)
    if user is None:
        if not AxesProxyHandler.is_allowed(request, credentials):
            raise _locked_out()
        raise WrongLogin(say("The name or the password is wrong."), code="wrong_login", field="password")
    assert isinstance(user, User)
    login(request, user)
    return user


@transaction.atomic
def set_preferences(*, user: User, length_unit: str | None, torque_unit: str | None, theme: str | None) -> User:
    """Change the person's own units and theme; None leaves one as it is."""
    for field, value in (("length_unit", length_unit), ("torque_unit", torque_unit), ("theme", theme)):
        if value is not None:
            setattr(user, field, value)
    user.save(update_fields=["length_unit", "torque_unit", "theme"])
    return user


@transaction.atomic
def set_rule(writing: Writing, *, foreman_signs: bool, reason: str) -> ShopRule:
    """Whether only a foreman who did not measure may sign off; what was in force before stays on the record."""
    policy.require(writing.by, "shop_settings")
    return ShopRule.objects.create(foreman_signs=foreman_signs, reason=reason, **writing.row())


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


@transaction.atomic
def change_password(request: HttpRequest, current: str, new: str) -> User:
    """Another password of one's own; other sessions of this login end.

    Raises
    ------
    WrongLogin, Refusal
        When the present one is wrong, or the new one too weak.
    """
    user = request.user
    assert isinstance(user, User)
    if not user.check_password(current):
        raise WrongLogin(say("This is not your current password."), code="wrong_login", field="current")
    try:
        validate_password(new, user)
    except PasswordInvalid as weak:
        raise Refusal(Said.of(" ".join(weak.messages)), field="new") from None
    user.set_password(new)
    user.save(update_fields=["password"])
    update_session_auth_hash(request, user)
    return user
