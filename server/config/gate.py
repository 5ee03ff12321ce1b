"""What comes before any address: a request that nothing here can take is refused unread, and every refusal of the API has one shape."""

from __future__ import annotations

import re
from collections.abc import Callable

import psycopg
from django.conf import settings
from django.db import InterfaceError, InternalError, OperationalError
from django.http import HttpRequest, HttpResponse, JsonResponse
from psycopg.errors import ReadOnlySqlTransaction

from amber_core.words import NOTHING, Said, reading_as, say
from config.reading import stranger

_NUL = re.compile(r"\0|%00|\\000")
_SAID = {
    400: ("bad_request", say("The request was cut off or cannot be read. Nothing was stored. Load the page again.")),
    403: ("stale_page", say("This page is out of date. Load it again; what you typed is kept.")),
    404: ("not_found", say("There is no such address in this API.")),
    405: ("method_not_allowed", say("This address does not take that method.")),
    413: ("too_large", say("That is too large. Nothing was stored.")),
    503: ("away", say("The server is starting or has stopped. What you typed is kept. Try again in a moment.")),
    500: (
        "failed",
        say("Something went wrong and nothing was stored. Try again. If it happens again, tell whoever looks after this server."),
    ),
}


def is_away(wrong: BaseException | None) -> bool:
    """Whether the database was not to be had: gone, starting, one that only reads because it no longer leads, or cut off in mid-answer."""
    if isinstance(wrong, InternalError):
        cause = wrong.__cause__
        # without a state it was not said by the database: a pooler that loses it in a COMMIT puts an answer of its own behind
        return isinstance(cause, ReadOnlySqlTransaction) or (isinstance(cause, psycopg.InternalError) and cause.sqlstate is None)
    return isinstance(wrong, OperationalError | InterfaceError)


class Gate:
    """The outermost middleware.

    Refused unread, so that neither memory nor the disk fills: a body larger than its address takes (`settings.UPLOADS`), a file from
    nobody who is signed in, a character that no database keeps (NUL) in address, query or cookies.
    """

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        with reading_as(stranger(request)):
            return self._answered(request)

    def _answered(self, request: HttpRequest) -> HttpResponse:
        of_api = request.path_info.startswith("/api/")
        response = self._refused(request, of_api=of_api) or self.get_response(request)
        if of_api and response.status_code >= 400 and not response.get("Content-Type", "").startswith("application/json"):
            shaped = refusal(response.status_code)
            for name in ("Allow", "Retry-After"):
                if name in response:
                    shaped[name] = response[name]
            return shaped
        return response

    def _refused(self, request: HttpRequest, *, of_api: bool) -> HttpResponse | None:
        cookies = request.META.get("HTTP_COOKIE", "")
        if _NUL.search(request.path_info) or _NUL.search(request.META.get("QUERY_STRING", "")) or _NUL.search(cookies):
            return _plain(400, say("The address holds a character that cannot be stored (NUL)."), of_api=of_api)
        size = _size(request.META.get("CONTENT_LENGTH"))
        if size is None:
            return _plain(400, say("The request does not say how long it is."), of_api=of_api)
        most = largest(request.path_info)
        if size > most:
            text = say(
                "That is {size:.0f} MB; the most is {most:.0f} MB. Nothing was stored.",
                size=size / 2**20,
                most=most / 2**20,
            )
            return _plain(413, text, of_api=of_api)
        if most > settings.DATA_UPLOAD_MAX_MEMORY_SIZE and settings.SESSION_COOKIE_NAME not in request.COOKIES:
            return _plain(401, say("You are signed out. Sign in again; what you typed is kept."), of_api=of_api)
        return None


def _size(text: str | None) -> int | None:
    """The length that a request says it has; None for what is no length."""
    if not text:
        return 0
    return int(text) if text.isascii() and text.isdigit() and len(text) < 16 else None


def largest(path: str) -> int:
    """How long a body may be at an address [bytes]."""
    found = next((most for pattern, most in settings.UPLOADS if re.fullmatch(pattern, path)), None)
    return settings.DATA_UPLOAD_MAX_MEMORY_SIZE if found is None else found + settings.FORM_AROUND_A_FILE


def refusal(status: int, message: Said = NOTHING, code: str = "") -> JsonResponse:
    """The one shape of every error of the API."""
    known_code, known = _SAID.get(status, ("refused", say("This cannot be done.")))
    return JsonResponse({"error": {"code": code or known_code, "message": (message or known).told(), "field": ""}}, status=status)


def _plain(status: int, text: Said, *, of_api: bool) -> HttpResponse:
    if of_api:
        return refusal(status, text, "signed_out" if status == 401 else "")
    return HttpResponse(text.told(), status=status, content_type="text/plain; charset=utf-8")
