"""Accounts: signing in and out, who am I, preferences."""

from __future__ import annotations

from dataclasses import asdict
from typing import Any, get_args

from django.conf import settings
from django.contrib.auth import logout
from django.http import HttpRequest
from django.middleware.csrf import get_token
from ninja import Router
from ninja.utils import check_csrf

from accounts import demo, policy, services
from accounts.models import Shop, User
from accounts.schemas import CsrfOut, MeOut, PreferencesIn, ShopIn, SignInIn, WelcomeOut
from shared.refusals import NotAllowed
from shared.schemas import ErrorOut

router = Router(tags=["accounts"])


def me_out(user: User) -> dict[str, Any]:
    """The person, what they may, and the shop."""
    shop = Shop.get()
    return {
        "username": user.username,
        "display_name": str(user),
        "role": user.role,
        "length_unit": user.length_unit,
        "torque_unit": user.torque_unit,
        "theme": user.theme,
        "may": {action: policy.may(user, action) for action in get_args(policy.Action)},
        "shop": {"name": shop.name, "foreman_signs": shop.foreman_signs, "is_demo": shop.is_demo},
    }


@router.get("/csrf", auth=None, response=CsrfOut, operation_id="csrf_token")
def csrf_token(request: HttpRequest) -> dict[str, str]:
    """A token for a client that has no cookie yet."""
    return {"token": get_token(request)}


@router.get("/welcome", auth=None, response=WelcomeOut, operation_id="welcome")
def welcome(request: HttpRequest) -> dict[str, Any]:
    """The shop's name; in the demo, the demo logins too."""
    shop = Shop.get()
    shown = shop.is_demo and settings.RELAXED
    return {
        "shop_name": shop.name,
        "is_demo": shown,
        "demo_logins": [asdict(one) for one in demo.PEOPLE] if shown else [],
        "demo_password": demo.PASSWORD if shown else "",
    }


@router.post("/sign-in", auth=None, response={200: MeOut, 401: ErrorOut, 429: ErrorOut}, operation_id="sign_in")
def sign_in(request: HttpRequest, data: SignInIn) -> dict[str, Any]:
    """Start a session."""
    if check_csrf(request) is not None:
        raise NotAllowed("This page is out of date: load it again and sign in.")
    return me_out(services.sign_in(request, data.username, data.password))


@router.post("/sign-out", response={204: None}, operation_id="sign_out")
def sign_out(request: HttpRequest) -> tuple[int, None]:
    """End the session."""
    logout(request)
    return 204, None


@router.get("/me", auth=None, response=MeOut | None, operation_id="me")
def me(request: HttpRequest) -> dict[str, Any] | None:
    """Who is signed in; null when nobody is, which is no error."""
    return me_out(request.user) if isinstance(request.user, User) else None


@router.patch("/me", response={200: MeOut, 422: ErrorOut}, operation_id="set_preferences")
def set_preferences(request: HttpRequest, data: PreferencesIn) -> dict[str, Any]:
    """Own units and theme."""
    return me_out(services.set_preferences(user=request.user, **data.dict()))  # type: ignore[arg-type]


@router.patch("/shop", response={200: MeOut, 403: ErrorOut}, operation_id="set_shop")
def set_shop(request: HttpRequest, data: ShopIn) -> dict[str, Any]:
    """The shop's settings."""
    services.set_foreman_signs(by=request.user, foreman_signs=data.foreman_signs)  # type: ignore[arg-type]
    return me_out(request.user)  # type: ignore[arg-type]
