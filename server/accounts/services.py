"""Signing in and out, and what a person sets for themselves or for the shop."""

from __future__ import annotations

from axes.handlers.proxy import AxesProxyHandler
from django.contrib.auth import authenticate, login
from django.db import transaction
from django.http import HttpRequest, JsonResponse

from accounts import policy
from accounts.models import Shop, User
from shared.refusals import Refusal


class WrongLogin(Refusal):
    """No such name and password together."""

    status = 401


class LockedOut(Refusal):
    """Too many wrong passwords."""

    status = 429


def _locked_out() -> LockedOut:
    return LockedOut("Too many wrong passwords for this login. Wait 15 minutes, or ask a foreman.", code="locked_out")


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
        raise WrongLogin("This name and password do not belong together.", code="wrong_login", field="password")
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
def set_foreman_signs(*, by: User, foreman_signs: bool) -> Shop:
    """Whether only a foreman who did not measure may sign off."""
    policy.require(by, "shop_settings")
    Shop.get()
    shop = Shop.objects.select_for_update().get(pk=1)
    shop.foreman_signs = foreman_signs
    shop.save(update_fields=["foreman_signs"])
    return shop
