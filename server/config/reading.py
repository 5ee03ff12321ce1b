"""Every answer is told in the units of who asks, and in the language their browser prefers of those there are."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace

from babel.core import negotiate_locale
from django.conf import settings
from django.http import HttpRequest, HttpResponse
from django.utils.translation.trans_real import parse_accept_lang_header

from amber_core.words import Reader, reading_as
from amber_core.words.catalogue import WRITTEN_IN, languages


class Reading:
    """Middleware after the login: sets who reads what is said."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        with reading_as(reader_of(request)):
            return self.get_response(request)


def reader_of(request: HttpRequest) -> Reader:
    """The person's units where somebody is signed in; who has no login reads millimetres."""
    known = stranger(request)
    if settings.SESSION_COOKIE_NAME not in request.COOKIES or not request.user.is_authenticated:
        return known
    return replace(known, length=request.user.length_unit, torque=request.user.torque_unit)


def stranger(request: HttpRequest) -> Reader:
    """Whoever it is: their language alone, before anything is known of a login."""
    return Reader(language=_language(request.META.get("HTTP_ACCEPT_LANGUAGE", "")))


def _language(accepted: str) -> str:
    known = languages()
    if len(known) == 1:
        return WRITTEN_IN
    wanted = [name for name, _ in parse_accept_lang_header(accepted)]
    return negotiate_locale(wanted, known, sep="-") or WRITTEN_IN
