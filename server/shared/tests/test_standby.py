"""When a list may be read from a standby, and when it may not. The standby itself is in the tests of the cluster."""

from __future__ import annotations

from collections.abc import Callable
from contextlib import contextmanager
from types import SimpleNamespace
from typing import Any
from unittest import mock

from django.db import OperationalError
from django.http import HttpRequest, HttpResponse
from django.test import RequestFactory, SimpleTestCase

from jobs.models import Job
from records import replicated
from shared import standby
from shared.standby import STANDBY, Freshness, ReadsThere, Router


class HowOldItIs(SimpleTestCase):
    """A primary that writes a byte every tenth of a second."""

    def setUp(self) -> None:
        self.now = 0.0
        self.asked: list[float] = []
        self.fresh = Freshness(self.written, lambda: self.now)

    def written(self) -> str:
        self.asked.append(self.now)
        return repr(self.now)

    def at(self, now: float) -> float:
        self.now = now
        return float(self.fresh.place())

    def test_the_primary_is_asked_at_most_five_times_a_second(self) -> None:
        for step in range(100):
            self.at(step / 50.0)
        self.assertLessEqual(len(self.asked), 11)

    def test_a_standby_need_not_be_newer_than_a_second_ago_and_may_not_be_older(self) -> None:
        for step in range(400):
            now = step / 37.0
            place = self.at(now)
            self.assertGreaterEqual(place, now - standby.MOST_BEHIND_S - 1e-9)
            self.assertLessEqual(place, now)
        self.assertLess(place, self.now - 0.5)  # one that lags by half a second is read from

    def test_after_a_pause_only_what_is_asked_now_counts(self) -> None:
        self.at(1.0)
        self.assertEqual(self.at(60.0), 60.0)

    def test_of_a_primary_that_does_not_answer_nothing_is_known(self) -> None:
        away = Freshness(mock.Mock(side_effect=OperationalError), lambda: self.now)
        with self.assertRaises(OperationalError):
            away.place()


class WhereARequestReads(SimpleTestCase):
    def setUp(self) -> None:
        self.read_from: list[str | None] = []
        self.status = 200
        self.replayed: bool | Exception = True
        patches: dict[str, Any] = {
            "_written_by_primary": lambda: "0/1",
            "_has_replayed": self.looked,
            "transaction": self,
            "connections": mock.MagicMock(),
        }
        for name, value in patches.items():
            self.enterContext(mock.patch.object(standby, name, value))
        self.middleware = ReadsThere(self.view)

    @contextmanager
    def atomic(self, using: str) -> Any:
        self.assertEqual(using, STANDBY)
        yield

    def looked(self, connection: object, place: str) -> bool:
        if isinstance(self.replayed, Exception):
            raise self.replayed
        return self.replayed

    def view(self, request: HttpRequest) -> HttpResponse:
        self.read_from.append(Router().db_for_read(Job))
        self.assertEqual(Router().db_for_write(Job), "default")
        return HttpResponse(status=self.status if self.read_from[-1] else 200)

    def ask(self, path: str = "/api/v1/floor", method: str = "GET", *, signed_in: bool = True, wrote: bool = False) -> HttpResponse:
        make: Callable[..., Any] = getattr(RequestFactory(), method.lower())
        request = make(path)
        request.user = SimpleNamespace(is_authenticated=signed_in)
        if wrote:
            request.COOKIES["amber_wrote"] = "1"
        return self.middleware(request)

    def test_long_lists_and_histories_come_from_the_standby(self) -> None:
        for path in ("/api/v1/floor", "/api/v1/floor/plan", "/api/v1/vehicles", "/api/v1/vehicles/x"):
            self.assertEqual(self.ask(path)[standby.SAYS], STANDBY)
        self.assertEqual(set(self.read_from), {STANDBY})
        self.assertIsNone(Router().db_for_read(Job))

    def test_everything_else_comes_from_the_primary(self) -> None:
        self.ask("/api/v1/jobs/x")
        self.ask(signed_in=False)
        self.ask(wrote=True)
        self.ask(method="POST")
        self.assertEqual(set(self.read_from), {None})

    def test_who_writes_reads_from_the_primary_for_a_moment(self) -> None:
        cookie = self.ask(method="POST").cookies["amber_wrote"]
        self.assertEqual((cookie["max-age"], cookie["httponly"]), (2, True))

    def test_a_standby_that_is_behind_is_passed_by(self) -> None:
        self.replayed = False
        self.assertNotIn(standby.SAYS, self.ask())
        self.replayed = True
        self.assertIn(standby.SAYS, self.ask())

    def test_a_standby_that_is_away_is_left_alone_for_a_while(self) -> None:
        for wrong in (OperationalError("gone"), None):
            with self.subTest(wrong):
                self.middleware = ReadsThere(self.view)
                self.replayed, self.status = wrong or True, 503
                self.assertEqual(self.ask().status_code, 200)
                self.replayed, self.status = True, 200
                self.assertNotIn(standby.SAYS, self.ask())
                with mock.patch("time.monotonic", return_value=1e9):
                    self.assertIn(standby.SAYS, self.ask())

    def test_only_the_primary_is_migrated(self) -> None:
        self.assertEqual([Router().allow_migrate(name, "jobs") for name in ("default", STANDBY)], [True, False])


class ACommitCutShort(SimpleTestCase):
    def test_it_is_not_acknowledged_once_and_then_forgotten(self) -> None:
        heard: list[Any] = []
        raw = SimpleNamespace(add_notice_handler=heard.append)
        wrapper: Any = SimpleNamespace(connection=raw)
        replicated.listen(None, wrapper)
        with mock.patch.object(replicated, "connection", wrapper):
            heard[0](SimpleNamespace(source_function="exec_something"))
            replicated.make_sure()
            heard[0](SimpleNamespace(source_function="SyncRepWaitForLSN"))
            with self.assertRaises(OperationalError):
                replicated.make_sure()
            replicated.make_sure()
