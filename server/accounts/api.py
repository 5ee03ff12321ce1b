"""Accounts: signing in and out, who am I, preferences."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import asdict
from typing import Any, get_args

from django.conf import settings
from django.contrib.auth import logout
from django.http import HttpRequest, HttpResponse
from django.middleware.csrf import get_token
from ninja import Router
from ninja.utils import check_csrf

from accounts import demo, people, policy, services
from accounts.door import Browser
from accounts.models import Shop, ShopHours, ShopRule, User
from accounts.schemas import (
    CsrfOut,
    MeOut,
    NewShopIn,
    PasswordIn,
    PeopleOut,
    PersonChangeIn,
    PersonIn,
    PersonOut,
    PersonPasswordIn,
    PreferencesIn,
    RuleOut,
    ShopHoursIn,
    ShopHoursOut,
    ShopIn,
    SignInIn,
    WelcomeOut,
)
from amber_core.words import say
from records.writing import Writing, answered, write
from shared.refusals import NotAllowed
from shared.schemas import Edit, ErrorOut
from shared.scope import in_shop, within

router = Router(tags=["accounts"])


def me_out(user: User) -> dict[str, Any]:
    """The person, what they may, and the shop."""
    with in_shop(user.works_in):
        return _me_out(user)


def _me_out(user: User) -> dict[str, Any]:
    shop = Shop.get()
    rule = shop.rule
    shops = list(Shop.objects.all())
    return {
        "username": user.username,
        "display_name": str(user),
        "role": user.works_as,
        "length_unit": user.length_unit,
        "torque_unit": user.torque_unit,
        "theme": user.theme,
        "may": {action: policy.may(user, action) for action in get_args(policy.Action)},
        "shop": {
            "name": shop.name,
            "foreman_signs": rule.foreman_signs,
            "rule": _rule_out(rule),
            "is_demo": shop.is_demo,
            "others": len(shops) > 1,
        },
        "shops": [{"id": one.pk, "name": one.name} for one in shops if user.sees_every_shop],
        "looking_at": 0 if user.sees_every_shop and user.looking_at_id is None and len(shops) > 1 else user.works_in,
    }


def _rule_out(rule: ShopRule) -> dict[str, Any]:
    return {name: getattr(rule, name) for name in ("foreman_signs", "export_roles", "reason", "by_name")} | {
        "at": rule.at if rule.pk else None
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
        "demo_logins": [asdict(one) for one in demo.there()] if shown else [],
        "demo_password": demo.PASSWORD if shown else "",
    }


@router.post("/sign-in", auth=None, response={200: MeOut, 401: ErrorOut, 429: ErrorOut}, operation_id="sign_in")
def sign_in(request: HttpRequest, response: HttpResponse, data: SignInIn) -> dict[str, Any]:
    """Start a session; the browser is known for this person from then on."""
    if check_csrf(request) is not None:
        raise NotAllowed(say("This page is out of date. Load it again and sign in."))
    user = services.sign_in(request, data.username, data.password)
    Browser.of(request).remember(response, user)
    return me_out(user)


@router.post("/sign-out", response={204: None}, operation_id="sign_out")
def sign_out(request: HttpRequest) -> tuple[int, None]:
    """End the session."""
    logout(request)
    return 204, None


@router.get("/me", auth=None, response=MeOut | None, operation_id="me")
def me(request: HttpRequest) -> dict[str, Any] | None:
    """Who is signed in; null when nobody is, which is no error."""
    return me_out(request.user) if isinstance(request.user, User) else None


@router.patch("/me", response={200: MeOut, 409: ErrorOut, 422: ErrorOut}, operation_id="set_preferences")
def set_preferences(request: HttpRequest, data: PreferencesIn) -> HttpResponse:
    """Own units and theme."""
    given = {name: getattr(data, name) for name in ("length_unit", "torque_unit", "theme", "looking_at")}
    return write(
        request,
        data,
        command="set_preferences",
        do=lambda writing: services.set_preferences(user=writing.by, **given),
        show=lambda: me_out(request.user),  # type: ignore[arg-type]
        out=MeOut,
        status=200,
    )


@router.post("/me/password", response={200: MeOut, 401: ErrorOut, 422: ErrorOut, 429: ErrorOut}, operation_id="change_password")
def change_password(request: HttpRequest, data: PasswordIn) -> dict[str, Any]:
    """Another password of one's own."""
    return me_out(services.change_password(request, data.current, data.new))


@router.patch("/shop", response={200: MeOut, 403: ErrorOut, 409: ErrorOut, 422: ErrorOut}, operation_id="set_shop")
def set_shop(request: HttpRequest, data: ShopIn) -> HttpResponse:
    """The workshop's rules and name; the rules before stay on the record."""
    return write(
        request,
        data,
        command="set_shop",
        do=lambda writing: services.set_rule(writing, **data.fields()),
        show=lambda: me_out(request.user),  # type: ignore[arg-type]
        out=MeOut,
        status=200,
    )


@router.post("/shops", response={201: MeOut, 403: ErrorOut, 409: ErrorOut, 422: ErrorOut}, operation_id="shop_add")
def shop_add(request: HttpRequest, data: NewShopIn) -> HttpResponse:
    """One more workshop of the installation, with its first foreman."""
    given = {name: getattr(data, name) for name in ("name", "username", "display_name", "password")}
    return write(
        request,
        data,
        command="shop_add",
        do=lambda writing: services.add_shop(writing, **given),
        show=lambda: me_out(request.user),  # type: ignore[arg-type]
        out=MeOut,
    )


@router.get("/shop/rules", response=list[RuleOut], operation_id="shop_rules")
def shop_rules(request: HttpRequest) -> list[dict[str, Any]]:
    """Every rule that was in force, the latest first."""
    return [_rule_out(one) for one in ShopRule.objects.order_by("-id")[:200]]


@router.get("/shop/hours", response=ShopHoursOut, operation_id="shop_hours")
def shop_hours(request: HttpRequest) -> HttpResponse:
    """When the shop is open, and how many work."""
    return answered(ShopHoursOut, _hours_out())


@router.put("/shop/hours", response={200: ShopHoursOut, 403: ErrorOut, 409: ErrorOut, 422: ErrorOut}, operation_id="set_shop_hours")
def set_shop_hours(request: HttpRequest, data: ShopHoursIn) -> HttpResponse:
    """Opening hours, people and closing days from now on."""
    hours = [{"weekday": one.weekday, "from": one.from_, "to": one.to} for one in data.hours]
    return write(
        request,
        data,
        command="set_shop_hours",
        do=lambda writing: services.set_hours(writing, hours=hours, hands=data.hands, closed=data.closed),
        show=_hours_out,
        out=ShopHoursOut,
        status=200,
    )


def _hours_out() -> dict[str, Any]:
    now = ShopHours.now()
    return {name: getattr(now, name) for name in ("hours", "hands", "closed", "by_name")}


@router.get("/people", response={200: list[PersonOut], 403: ErrorOut}, operation_id="people")
def people_list(request: HttpRequest) -> list[dict[str, Any]]:
    """Every login of the workshop."""
    policy.require(request.user, "shop_settings")  # type: ignore[arg-type]
    return _people_out()


@router.post("/people", response={201: list[PersonOut], 403: ErrorOut, 409: ErrorOut, 422: ErrorOut}, operation_id="add_person")
def add_person(request: HttpRequest, data: PersonIn) -> HttpResponse:
    """A new login."""
    given = {name: getattr(data, name) for name in ("username", "display_name", "role", "password")}
    return _people_write(request, data, "add_person", "", lambda writing: people.add(writing, **given), status=201)


@router.patch(
    "/people/{int:person_id}",
    response={200: list[PersonOut], 403: ErrorOut, 404: ErrorOut, 409: ErrorOut, 422: ErrorOut},
    operation_id="change_person",
)
def change_person(request: HttpRequest, person_id: int, data: PersonChangeIn) -> HttpResponse:
    """Another name or role; a login closed or opened again."""
    return _people_write(request, data, "change_person", person_id, lambda writing: people.change(writing, person_id, **data.fields()))


@router.post(
    "/people/{int:person_id}/password",
    response={200: list[PersonOut], 403: ErrorOut, 404: ErrorOut, 409: ErrorOut, 422: ErrorOut},
    operation_id="set_persons_password",
)
def set_persons_password(request: HttpRequest, person_id: int, data: PersonPasswordIn) -> HttpResponse:
    """Another password for somebody who lost theirs."""
    return _people_write(
        request,
        data,
        "set_persons_password",
        person_id,
        lambda writing: people.set_password(writing, person_id, password=data.password),
    )


def _people_write(
    request: HttpRequest, data: Edit, command: str, target: object, do: Callable[[Writing], object], *, status: int = 200
) -> HttpResponse:
    return write(request, data, command=command, target=target, do=do, show=_people_out, out=PeopleOut, status=status)


def _people_out() -> list[dict[str, Any]]:
    return [
        {
            "id": one.pk,
            "username": one.username,
            "display_name": str(one),
            "role": one.works_as,
            "active": one.is_active,
            "operator": one.is_superuser,
            "last_login": one.last_login,
        }
        for one in within(User.objects.order_by("-is_active", "display_name", "pk"))
    ]
