"""A no with its reason: every error of the API has one shape."""

from __future__ import annotations

from typing import Any

from amber_core.words import Said


class Refusal(Exception):
    """Something is not allowed or not possible now.

    `code` is for programs, `message` one sentence for the person, `field` the path of what is wrong, `extra` goes beside `error`.
    """

    status = 422

    def __init__(self, message: Said, *, code: str = "bad_input", field: str = "", extra: dict[str, Any] | None = None) -> None:
        super().__init__(str(message))
        self.message, self.code, self.field, self.extra = message, code, field, extra or {}

    def as_dict(self) -> dict[str, Any]:
        """The body of the answer."""
        return {"error": {"code": self.code, "message": self.message.told(), "field": self.field}, **self.extra}


class NotAllowed(Refusal):
    """The person's role does not allow it."""

    status = 403

    def __init__(self, message: Said) -> None:
        super().__init__(message, code="not_allowed")


class Conflict(Refusal):
    """Somebody else changed it in the meantime, or it is there already."""

    status = 409


class TooLarge(Refusal):
    """More than is taken in one piece."""

    status = 413
