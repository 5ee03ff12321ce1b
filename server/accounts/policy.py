"""Who may do what. Nobody is not everybody, and there is no way round."""

from __future__ import annotations

from typing import Any, Literal

from django.http import HttpRequest
from ninja.security import SessionAuth

from accounts.models import Role, ShopRule, User
from amber_core.words import Said, listed, say
from shared.refusals import NotAllowed

Action = Literal["record", "edit_job", "edit_stores", "import_job", "sign_off", "shop_settings", "export"]
"""What a role allows; who may look after several workshops is said of the person."""

_ALLOWED: dict[Action, frozenset[str]] = {
    "record": frozenset({Role.TECHNICIAN, Role.FOREMAN}),
    "edit_job": frozenset({Role.TECHNICIAN, Role.FOREMAN, Role.COUNTER}),
    "edit_stores": frozenset({Role.FOREMAN, Role.COUNTER}),
    "import_job": frozenset({Role.TECHNICIAN, Role.FOREMAN, Role.COUNTER}),
    "sign_off": frozenset({Role.TECHNICIAN, Role.FOREMAN}),
    "shop_settings": frozenset({Role.FOREMAN}),
}
_ROLES: dict[str, Said] = {
    Role.TECHNICIAN: say("technician"),
    Role.FOREMAN: say("foreman"),
    Role.COUNTER: say("counter"),
    Role.READ_ONLY: say("read only"),
}
_WORDS: dict[Action, Said] = {
    "record": say("record work on a job"),
    "edit_job": say("add or edit a job"),
    "edit_stores": say("change the Stores"),
    "import_job": say("import a job"),
    "sign_off": say("sign off a job"),
    "shop_settings": say("change the shop's settings"),
    "export": say("export files"),
}


def allowed(action: Action) -> frozenset[str]:
    """The roles that may; who may export is the workshop's own rule."""
    if action == "export":
        return frozenset({Role.FOREMAN, *ShopRule.now().export_roles})
    return _ALLOWED[action]


def may(user: User, action: Action) -> bool:
    """Whether this person's role allows it; a superuser works as a foreman."""
    return user.is_authenticated and user.is_active and user.works_as in allowed(action)


def require(user: User, action: Action) -> None:
    """Refuse what the role does not allow.

    Raises
    ------
    NotAllowed
        Saying which roles may.
    """
    if not may(user, action):
        text = say(
            "Your login cannot {act}. These roles can: {roles}.",
            act=_WORDS[action],
            roles=listed(_ROLES[role] for role in sorted(allowed(action))),
        )
        raise NotAllowed(text)


def require_organisation(user: User) -> None:
    """Refuse whoever does not look after all the workshops of the installation.

    Raises
    ------
    NotAllowed
        Saying who may.
    """
    if not (user.is_authenticated and user.is_active and user.sees_every_shop):
        raise NotAllowed(say("Your login cannot change workshops. A foreman of the organisation can."))


class ForExport(SessionAuth):
    """The login of an endpoint that hands out a file: the workshop says which roles may take one away."""

    def authenticate(self, request: HttpRequest, key: str | None) -> Any:
        """Who is signed in; NotAllowed when that role may not."""
        user = super().authenticate(request, key)
        if user:
            require(user, "export")
        return user


for_export = ForExport()
