"""Long lists and histories are read from a standby that is not more than a second behind; everything else, and all that is written, goes
to the primary."""

from __future__ import annotations

import re
import time
from collections import deque
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from contextvars import ContextVar
from threading import Lock
from typing import Any

from django.conf import settings
from django.db import Error, connections, transaction
from django.db.backends.base.base import BaseDatabaseWrapper
from django.http import HttpRequest, HttpResponse

STANDBY = "standby"
MOST_BEHIND_S = 1.0
_SAMPLE_S = 0.2
_LEAVE_ALONE_S = 5.0
_WROTE = "amber_wrote"
_WROTE_FOR_S = 2
_SAFE = ("GET", "HEAD")
SAYS = "X-Amber-Read"
"""The header that says where an answer was read, when that was a standby."""

_there: ContextVar[bool] = ContextVar("read from the standby", default=False)


class Router:
    """Django's router: what is written goes to the primary, always; what is read goes there too unless a request chose otherwise."""

    def db_for_read(self, model: type[Any], **hints: Any) -> str | None:
        """The standby within a request that reads there."""
        return STANDBY if _there.get() else None

    def db_for_write(self, model: type[Any], **hints: Any) -> str:
        """The primary."""
        return "default"

    def allow_relation(self, one: Any, other: Any, **hints: Any) -> bool:
        """Both are the same data."""
        return True

    def allow_migrate(self, db: str, app_label: str, **hints: Any) -> bool:
        """The standby follows by itself."""
        return db == "default"


class Freshness:
    """How far the primary had written, and when that was asked: a standby that has replayed as much is no older than the asking.

    A clock is not needed, nor a row that is written every moment; of a primary that does not answer nothing is known, and nobody reads from
    a standby then.
    """

    def __init__(self, ask: Callable[[], str], clock: Callable[[], float] = time.monotonic) -> None:
        self._ask, self._clock = ask, clock
        self._samples: deque[tuple[float, str]] = deque(maxlen=16)
        self._one_at_a_time = Lock()

    def place(self) -> str:
        """The oldest place in the log that the primary had reached within the last second: what a standby must have replayed."""
        with self._one_at_a_time:
            now = self._clock()
            if not self._samples or now - self._samples[-1][0] > _SAMPLE_S:
                self._samples.append((now, self._ask()))  # the time before it was asked: the standby is never thought newer than it is
                now = self._clock()
            while len(self._samples) > 1 and now - self._samples[0][0] > MOST_BEHIND_S:
                self._samples.popleft()
            return self._samples[0][1]


class ReadsThere:
    """Middleware after the login, which is read where it is written.

    A browser that wrote something in the last two seconds reads from the primary, so that it finds what it wrote. A standby that does not
    answer is left alone for five seconds, and the request is answered from the primary.
    """

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response
        self._paths = [re.compile(one) for one in settings.STANDBY_READS]
        self._fresh = Freshness(_written_by_primary)
        self._not_before = 0.0

    def __call__(self, request: HttpRequest) -> HttpResponse:
        if request.method not in _SAFE:
            response = self.get_response(request)
            response.set_cookie(_WROTE, "1", max_age=_WROTE_FOR_S, httponly=True, samesite="Lax", secure=settings.SESSION_COOKIE_SECURE)
            return response
        if self._may(request):
            answered = self._from_standby(request)
            if answered is not None:
                return answered
        return self.get_response(request)

    def _may(self, request: HttpRequest) -> bool:
        if _WROTE in request.COOKIES or time.monotonic() < self._not_before or not any(one.fullmatch(request.path) for one in self._paths):
            return False
        return bool(request.user.is_authenticated)

    def _from_standby(self, request: HttpRequest) -> HttpResponse | None:
        """The answer; None when the standby is behind or away."""
        try:
            place = self._fresh.place()
            # one transaction: behind a pooler every statement of it is then asked of the same standby that was looked at
            with transaction.atomic(using=STANDBY):
                if not _has_replayed(connections[STANDBY], place):
                    return None
                with _reading_there():
                    response = self.get_response(request)
                if response.status_code < 500:
                    response[SAYS] = STANDBY
                    return response
        except Error:
            pass
        self._not_before = time.monotonic() + _LEAVE_ALONE_S
        return None


@contextmanager
def _reading_there() -> Iterator[None]:
    token = _there.set(True)
    try:
        yield
    finally:
        _there.reset(token)


def _written_by_primary() -> str:
    with connections["default"].cursor() as cursor:
        cursor.execute("SELECT pg_current_wal_flush_lsn()::text")
        return str(cursor.fetchone()[0])


def _has_replayed(connection: BaseDatabaseWrapper, place: str) -> bool:
    with connection.cursor() as cursor:
        cursor.execute("SELECT pg_is_in_recovery() AND pg_last_wal_replay_lsn() >= %s::pg_lsn", [place])
        return bool(cursor.fetchone()[0])
