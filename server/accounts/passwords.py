"""Whether a password is good enough."""

from __future__ import annotations

from django.contrib.auth.password_validation import validate_password
from django.core.exceptions import ValidationError as PasswordInvalid

from accounts.models import User
from amber_core.words import Said
from shared.refusals import Refusal


def require_strong(password: str, user: User, *, field: str) -> None:
    """Refuse a password that is easily guessed.

    Raises
    ------
    Refusal
        Saying why.
    """
    try:
        validate_password(password, user)
    except PasswordInvalid as weak:
        raise Refusal(Said.of(" ".join(weak.messages)), field=field) from None
