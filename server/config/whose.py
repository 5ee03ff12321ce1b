"""Whose records a request is about: one workshop's, from its first line on.

An address with the id of something belongs to the workshop that this belongs to, and is not there for anybody else. Any other address
belongs to the workshop of whoever asks; lists that an organisation looks at may hold those of every workshop.
"""

from __future__ import annotations

import re
from collections.abc import Callable
from dataclasses import dataclass
from functools import cache
from typing import Any
from uuid import UUID

from django.apps import apps
from django.conf import settings
from django.db import connection, models, router
from django.http import HttpRequest, HttpResponse

from accounts.models import User
from amber_core.words import say
from config.gate import refusal
from shared.gathering import prepared_cursor
from shared.links import token_hash
from shared.scope import EVERY, NOBODY, in_shop, turn_to


@dataclass(frozen=True)
class Owned:
    """What an id in an address names: a model, the field that the id is, and the path from there to the workshop."""

    model: str
    key: str
    shop: str

    def shop_of(self, value: Any) -> int | None:
        """The workshop that it belongs to; None when there is no such thing."""
        statement, field = _compiled(self)
        with prepared_cursor(router.db_for_read(field.model)) as cursor:
            cursor.execute(statement, [field.get_db_prep_value(value, connection)])
            row = cursor.fetchone()
        return None if row is None else row[0]


@cache
def _compiled(owned: Owned) -> tuple[str, models.Field[Any, Any]]:
    """The statement that asks for the workshop, its only parameter the id, and the field that this is: every request asks it."""
    model = apps.get_model(owned.model)
    field = model._meta.pk if owned.key == "pk" else model._meta.get_field(owned.key)
    anything = {"UUIDField": UUID(int=1), "BigAutoField": 1}.get(field.get_internal_type(), "a")
    with in_shop(EVERY):
        rows = model._default_manager.filter(**{owned.key: anything}).order_by().values_list(owned.shop)[:1]
        statement, given = rows.query.sql_with_params()
    if given != (field.get_db_prep_value(anything, connection),):
        raise TypeError(f"The workshop of {owned.model} hangs on more than its id.")
    return statement, field


_OF_WORK = "work__job__shop"
OWNERS = {
    "job_id": Owned("jobs.Job", "pk", "shop"),
    "work_id": Owned("work.Work", "pk", "job__shop"),
    "vehicle_id": Owned("vehicles.Vehicle", "pk", "shop"),
    "trial_id": Owned("setup_bench.Trial", "client_id", _OF_WORK),
    "reading_id": Owned("setup_bench.Reading", "client_id", "trial__work__job__shop"),
    "recording_id": Owned("noise_finder.Recording", "client_id", _OF_WORK),
    "result_id": Owned("work.KeptAnswer", "client_id", _OF_WORK),
    "finding_id": Owned("work.KeptAnswer", "client_id", _OF_WORK),
    "link_id": Owned("parts_wall.QuoteLink", "client_id", _OF_WORK),
    "follow_up_id": Owned("hand_over.FollowUp", "pk", "hand_over__job__shop"),
    "person_id": Owned("accounts.User", "pk", "shop"),
    "part-photos": Owned("parts_wall.PartPhoto", "client_id", _OF_WORK),
    "photos": Owned("setup_bench.PatternPhoto", "client_id", "trial__work__job__shop"),
    "step-photos": Owned("work.StepPhoto", "client_id", _OF_WORK),
    "shared-quotes": Owned("parts_wall.QuoteLink", "token_hash", _OF_WORK),
    "shared-ratios": Owned("ratio_desk.RatioLink", "token_hash", "result__work__job__shop"),
}
"""By the name of a parameter; pictures and links, whose names are the same, by the first word of the address."""
WITHIN = {"place", "code", "kind", "name", "step_id"}
"""Parameters that name something within the workshop, or within what another parameter names."""


def owner_of(path: str, given: dict[str, Any]) -> tuple[Owned, Any] | None:
    """What of an address says whose it is; None when nothing does."""
    first = path.strip("/").split("/")[0]
    if "token" in given:
        return OWNERS[first], token_hash(str(given["token"]))
    if "photo_id" in given:
        return OWNERS[first], given["photo_id"]
    return next(((OWNERS[name], value) for name, value in given.items() if name in OWNERS), None)


class Whose:
    """Middleware after the login."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response
        self._lists = [re.compile(one) for one in settings.LISTS_OF_ORGANISATION]

    def __call__(self, request: HttpRequest) -> HttpResponse:
        if not request.path_info.startswith(_API):
            return self.get_response(request)  # the one page, which asks for nothing, and the operators' own
        with in_shop(NOBODY):
            return self.get_response(request)

    def process_view(self, request: HttpRequest, view: Any, args: Any, kwargs: dict[str, Any]) -> HttpResponse | None:
        """Once it is known what the address names."""
        if not request.path_info.startswith(_API):
            return None
        user = request.user if isinstance(request.user, User) else None
        owner = owner_of(request.path_info.removeprefix(_API), kwargs)
        shop = owner[0].shop_of(owner[1]) if owner is not None and (user is not None or "token" in kwargs) else None
        if "token" in kwargs:
            turn_to(shop or NOBODY)  # whoever has the link needs no login
        elif user is not None:
            if shop is not None and shop != user.shop_id and not user.sees_every_shop:
                return refusal(404, say("Not found. The address may have been mistyped."))
            turn_to(shop or self._shop_of(user, request))
        return None

    def _shop_of(self, user: User, request: HttpRequest) -> int | None:
        """The workshop that somebody works in just now; EVERY for a list that an organisation looks at."""
        chosen = user.looking_at_id is not None or not user.sees_every_shop
        over_all = not chosen and request.method == "GET" and any(one.fullmatch(request.path_info) for one in self._lists)
        return EVERY if over_all else user.works_in


_API = "/api/v1/"
