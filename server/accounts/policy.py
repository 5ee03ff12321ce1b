"""Who may do what. Nobody is not everybody, and there is no way round."""

from __future__ import annotations

from typing import Literal

from accounts.models import Role, User
from shared.refusals import NotAllowed

Action = Literal["record", "edit_job", "edit_stores", "import_job", "sign_off", "shop_settings"]

_ALLOWED: dict[Action, frozenset[str]] = {
    "record": frozenset({Role.TECHNICIAN, Role.FOREMAN}),
    "edit_job": frozenset({Role.TECHNICIAN, Role.FOREMAN, Role.COUNTER}),
    "edit_stores": frozenset({Role.FOREMAN, Role.COUNTER}),
    "import_job": frozenset({Role.TECHNICIAN, Role.FOREMAN, Role.COUNTER}),
    "sign_off": frozenset({Role.TECHNICIAN, Role.FOREMAN}),
    "shop_settings": frozenset({Role.FOREMAN}),
}
_WORDS: dict[Action, str] = {
    "record": "record work at a job",
    "edit_job": "make or change a job",
    "edit_stores": "change the Stores",
    "import_job": "import a job",
    "sign_off": "sign a job off",
    "shop_settings": "change the shop's settings",
}


def may(user: User, action: Action) -> bool:
    """Whether this person's role allows it; a superuser works as a foreman."""
    return user.is_authenticated and user.is_active and user.works_as in _ALLOWED[action]


def require(user: User, action: Action) -> None:
    """Refuse what the role does not allow.

    Raises
    ------
    NotAllowed
        Saying which roles may.
    """
    if not may(user, action):
        roles = " or ".join(sorted(Role(role).label.lower() for role in _ALLOWED[action]))
        raise NotAllowed(f"Your login cannot {_WORDS[action]}; a {roles} can.")
