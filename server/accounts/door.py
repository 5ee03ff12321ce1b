"""Before a password is looked at: how often that may be tried, by whom, and how many at a time.

A password check is made slow and large on purpose (argon2), so strangers must not be able to ask for many, and what strangers try must
not keep anybody out who works here. A browser in which a person has signed in before is known by a signed cookie: it has a count of its
own and its own place in the queue, and nothing that is tried from elsewhere touches either. Whoever is signed in passes no door.
"""

from __future__ import annotations

import secrets
import threading
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass

from django.conf import settings
from django.core import signing
from django.http import HttpRequest, HttpResponse

from accounts.models import User
from amber_core.words import say
from records.allowance import forget, give_back, take
from shared.address import client_address, network_of
from shared.refusals import Refusal

COOKIE = "amber_known_here"
_SALT = "accounts.door"
_COOKIE_AGE_S = 400 * 24 * 3600
_MOST_PEOPLE = 12
_SPAN_S = 15 * 60
_MOST_WRONG = 6
_MOST_ELSEWHERE = 30
_MOST_AN_ADDRESS = 30
_MOST_A_MINUTE = 60
_WAIT_S = 8.0


class LockedOut(Refusal):
    """Too many tries."""

    status = 429


def locked_out() -> LockedOut:
    """Six wrong ones for one name from one place."""
    return LockedOut(say("Too many wrong passwords for this login. Wait 15 minutes, or ask a foreman."), code="locked_out")


def _busy() -> LockedOut:
    return LockedOut(say("Many people are signing in at the moment. Try again in a few seconds."), code="busy")


@dataclass(frozen=True)
class Browser:
    """A browser by its cookie: a random name, and who signed in there; both empty for a stranger's."""

    name: str = ""
    people: tuple[int, ...] = ()

    @classmethod
    def of(cls, request: HttpRequest) -> Browser:
        """The browser that sends this; a cookie that was changed or is too old makes it a stranger."""
        try:
            kept = signing.loads(request.COOKIES.get(COOKIE, ""), salt=_SALT, max_age=_COOKIE_AGE_S)
            return cls(str(kept["name"]), tuple(int(one) for one in kept["people"]))
        except (signing.BadSignature, ValueError, KeyError, TypeError):
            return cls()

    def knows(self, username: str) -> bool:
        """Whether this person signed in here before."""
        return bool(self.people) and User.objects.filter(username=username, pk__in=self.people).exists()

    def remember(self, response: HttpResponse, user: User) -> None:
        """Set the cookie, with this person among those who signed in here."""
        people = [user.pk, *(one for one in self.people if one != user.pk)][:_MOST_PEOPLE]
        value = signing.dumps({"name": self.name or secrets.token_urlsafe(12), "people": people}, salt=_SALT)
        response.set_cookie(
            COOKIE, value, max_age=_COOKIE_AGE_S, secure=bool(settings.SESSION_COOKIE_SECURE), httponly=True, samesite="Lax"
        )


@dataclass(frozen=True)
class Admitted:
    """A try that was let through: from a known browser or a stranger's, and what it was counted under."""

    known: bool
    own: str
    shared: tuple[str, ...] = ()

    def succeeded(self) -> None:
        """A right password: the wrong ones before it count no longer, and this try does not count against others."""
        forget(self.own)
        give_back(*self.shared)


def admit(request: HttpRequest, username: str) -> Admitted:
    """Count one try.

    Raises
    ------
    LockedOut
        With code `locked_out` when this name from this place, this name from strange places, or this address had too many tries; with
        `busy` when all strangers together had too many in a minute.
    """
    browser = Browser.of(request)
    name = username.lower()
    if browser.knows(username):
        own = f"sign-in {browser.name} {name}"
        if not take(own, most=_MOST_WRONG, span_s=_SPAN_S):
            raise locked_out()
        return Admitted(True, own)
    place = network_of(client_address(request))
    here = f"sign-in {place} {name}"
    at_place, as_name = f"sign-in at {place}", f"sign-in as {name}"
    for key, most in ((here, _MOST_WRONG), (at_place, _MOST_AN_ADDRESS), (as_name, _MOST_ELSEWHERE)):
        if not take(key, most=most, span_s=_SPAN_S):
            raise locked_out()
    if not take("sign-in of strangers", most=_MOST_A_MINUTE, span_s=60):
        raise _busy()
    return Admitted(False, here, (at_place, as_name))


def admit_own(user: User) -> Admitted:
    """Count a try of the present password by somebody who is signed in.

    Raises
    ------
    LockedOut
        After six in 15 minutes.
    """
    own = f"password of {user.pk}"
    if not take(own, most=_MOST_WRONG, span_s=_SPAN_S):
        raise locked_out()
    return Admitted(True, own)


class Queue:
    """One password check at a time in each worker: a few who are known here may wait for their turn, and one stranger."""

    def __init__(self) -> None:
        self._turn = threading.BoundedSemaphore(1)
        self._places = {True: threading.BoundedSemaphore(3), False: threading.BoundedSemaphore(1)}

    @contextmanager
    def turn(self, *, known: bool) -> Iterator[None]:
        """Hold the one turn.

        Raises
        ------
        LockedOut
            With code `busy` when there is no place to wait, or the wait is too long.
        """
        place = self._places[known]
        if not place.acquire(blocking=False):
            raise _busy()
        try:
            if not self._turn.acquire(timeout=_WAIT_S):
                raise _busy()
            try:
                yield
            finally:
                self._turn.release()
        finally:
            place.release()


QUEUE = Queue()
