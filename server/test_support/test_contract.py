"""The API as a whole: every operation is named and guarded, every write asks who may, migrations go both ways."""

from __future__ import annotations

import json
from io import StringIO
from pathlib import Path
from typing import Any

from django.conf import settings
from django.core.management import call_command
from django.db import connection
from django.test import TransactionTestCase

from accounts.models import User
from test_support.api_case import ApiTestCase


def operations() -> list[tuple[str, str, dict[str, Any]]]:
    """(method, path, operation) of the committed schema."""
    schema = json.loads((Path(settings.ROOT) / "docs" / "openapi.json").read_text(encoding="utf-8"))
    return [(method, path, one) for path, methods in schema["paths"].items() for method, one in methods.items()]


class Operations(ApiTestCase):
    def test_each_has_a_name_of_its_own_and_an_answer(self) -> None:
        names = [one["operationId"] for _, _, one in operations()]
        self.assertEqual(len(names), len(set(names)))
        for method, path, one in operations():
            with self.subTest(f"{method} {path}"):
                self.assertTrue(set(one["responses"]) & {"200", "201", "204"})

    def test_an_inactive_login_is_nobody(self) -> None:
        job = self.make_job()
        client = self.client_of("isla")
        User.objects.filter(username="isla").update(is_active=False)
        self.assertEqual(client.get(f"/api/v1/jobs/{job}").status_code, 401)

    def test_absurd_bodies_get_one_sentence(self) -> None:
        client = self.client_of("isla")
        for body in ("", "[]", "null", '"text"', "{", '{"id": 7}', "9" * 5000):
            with self.subTest(body[:12]):
                reply = client.post("/api/v1/jobs", body, content_type="application/json")
                self.assertIn(reply.status_code, (400, 422))
                self.assertEqual(set(reply.json()), {"error"})


class Migrations(TransactionTestCase):
    OURS = (
        "records",
        "hand_over",
        "build_sheet",
        "setup_bench",
        "ratio_desk",
        "driveline_desk",
        "noise_finder",
        "work",
        "jobs",
        "vehicles",
        "stores",
    )

    def triggers(self) -> set[str]:
        with connection.cursor() as cursor:
            cursor.execute("SELECT tgname FROM pg_trigger WHERE tgname LIKE '%%_append_only'")
            return {row[0] for row in cursor.fetchall()}

    def test_they_go_back_and_forth_and_the_guards_with_them(self) -> None:
        guards = self.triggers()
        self.assertEqual(len(guards), 48)
        for app in self.OURS:
            call_command("migrate", app, "zero", verbosity=0, interactive=False, stdout=StringIO())
        call_command("migrate", "accounts", "0001_initial", verbosity=0, interactive=False, stdout=StringIO())
        self.assertEqual(self.triggers(), set())
        call_command("migrate", verbosity=0, interactive=False, stdout=StringIO())
        self.assertEqual(self.triggers(), guards)

    def test_the_models_are_what_the_migrations_say(self) -> None:
        call_command("makemigrations", check=True, dry_run=True, verbosity=0)
