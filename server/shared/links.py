"""Links that show one thing to somebody without a login: a random token, told once, of which only the hash is kept."""

from __future__ import annotations

import hashlib
import secrets
from datetime import datetime, timedelta
from typing import Any

from django.utils import timezone

from amber_core.words import say
from shared.refusals import Refusal


def new_token(days: int) -> tuple[str, str, datetime]:
    """A token, its hash, and until when it lasts."""
    token = secrets.token_urlsafe(32)
    return token, token_hash(token), timezone.now() + timedelta(days=days)


def token_hash(token: str) -> str:
    """What is kept of a token."""
    return hashlib.sha256(token.encode()).hexdigest()


class ToldOnce:
    """The token of a link that was just made; a retry of the same write makes none, and is told so."""

    def __init__(self) -> None:
        self._made: tuple[str, datetime] | None = None

    def keep(self, made: tuple[str, datetime]) -> None:
        """What the service made."""
        self._made = made

    def told(self) -> dict[str, Any]:
        """The answer.

        Raises
        ------
        Refusal
            When the link was made by an earlier try.
        """
        if self._made is None:
            raise Refusal(say("This link was already made and is shown only once. Make another."), code="told_once", field="client_id")
        return {"token": self._made[0], "expires_at": self._made[1]}
