"""The one page of the front end: whatever address was asked for, and what is said while it is not built."""

from __future__ import annotations

from pathlib import Path
from tempfile import TemporaryDirectory

from django.test import TestCase, override_settings


class ThePage(TestCase):
    def setUp(self) -> None:
        folder = Path(self.enterContext(TemporaryDirectory()))
        self.enterContext(override_settings(WEB_BUILD=folder))
        self.index = folder / "index.html"

    def test_every_address_of_the_front_end_is_the_same_page(self) -> None:
        self.index.write_text("<!doctype html><title>Amber Pinion</title>é", encoding="utf-8")
        for path in ("/", "/jobs/new", "/jobs/7/bench", "/nowhere/at/all"):
            with self.subTest(path):
                answer = self.client.get(path)
                self.assertEqual((answer.status_code, answer["Content-Type"]), (200, "text/html; charset=utf-8"))
                self.assertIn("é", answer.content.decode())
                self.assertIn("no-cache", answer["Cache-Control"])
                self.assertIn("csrftoken", answer.cookies)

    def test_not_built_it_says_what_to_do(self) -> None:
        answer = self.client.get("/")
        self.assertEqual(answer.status_code, 503)
        self.assertIn("Run ./amber demo", answer.content.decode())

    def test_it_takes_nothing(self) -> None:
        self.assertEqual(self.client.post("/jobs/new", {"a": "b"}).status_code, 405)

    def test_an_address_of_the_api_that_is_none_is_no_page(self) -> None:
        for ask in (self.client.get, self.client.post):
            answer = ask("/api/v1/no-such-thing")
            self.assertEqual((answer.status_code, answer.json()["error"]["code"]), (404, "not_found"))
