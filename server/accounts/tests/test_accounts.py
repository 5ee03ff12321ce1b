"""Signing in, lockout, CSRF, roles, and the strict settings of a real server."""

from __future__ import annotations

import os
import subprocess
import sys
from typing import Any

from django.contrib.auth.hashers import Argon2PasswordHasher
from django.core.exceptions import ImproperlyConfigured
from django.core.management import call_command
from django.core.management.base import CommandError
from django.db import IntegrityError, transaction
from django.test import Client, SimpleTestCase, override_settings

from accounts import demo as people
from accounts.models import Shop, User
from config.strictness import proxy_count, refuse_weak_settings
from test_support.api_case import API, ApiTestCase
from test_support.hashing import QuickArgon2


class SigningIn(ApiTestCase):
    def sign_in(self, client: Client, password: str) -> object:
        return client.post(f"{API}/sign-in", {"username": "isla", "password": password}, content_type="application/json")

    def test_the_right_password_opens_a_session(self) -> None:
        client = Client()
        reply = self.sign_in(client, people.PASSWORD)
        self.assertEqual(reply.status_code, 200)  # type: ignore[attr-defined]
        self.assertEqual(client.get(f"{API}/me").json()["display_name"], "Isla Moray")

    def test_a_wrong_one_is_refused_with_a_sentence(self) -> None:
        self.assert_refused(self.sign_in(Client(), "nonsense"), 401, "wrong_login", field="password")

    def test_passwords_are_kept_as_argon2(self) -> None:
        self.assertTrue(User.objects.get(username="isla").password.startswith("argon2$"))

    def test_a_form_without_the_token_is_refused(self) -> None:
        strict = Client(enforce_csrf_checks=True)
        self.assert_refused(self.sign_in(strict, people.PASSWORD), 403, "not_allowed")
        strict.force_login(self.who["isla"], backend="django.contrib.auth.backends.ModelBackend")
        reply = strict.patch(f"{API}/me", {"theme": "pit"}, content_type="application/json")
        self.assert_refused(reply, 403, "stale_page")

    def test_nobody_signed_in_is_no_error_and_sees_nothing(self) -> None:
        self.assertIsNone(self.call("get", "/me", by=None).json())
        for path in ("/floor", "/families", f"/jobs/{self.make_job()}"):
            with self.subTest(path):
                self.assert_refused(self.call("get", path, by=None), 401, "signed_out")

    def test_signing_out(self) -> None:
        client = self.client_of("isla")
        self.assertEqual(client.post(f"{API}/sign-out", content_type="application/json").status_code, 204)
        self.assertEqual(client.get(f"{API}/floor").status_code, 401)


class OnesOwnPassword(ApiTestCase):
    NEW = "anvil-lantern-47"

    def change(self, client: Client, current: str, new: str) -> object:
        return client.post(f"{API}/me/password", {"current": current, "new": new}, content_type="application/json")

    def test_it_is_changed_with_the_present_one_and_ends_other_sessions(self) -> None:
        here, elsewhere = self.client_of("isla"), self.client_of("isla")
        self.assert_refused(self.change(here, "nonsense", self.NEW), 401, "wrong_login", field="current")
        for weak in ("short", "1234567890", "isla-isla"):
            with self.subTest(weak):
                self.assert_refused(self.change(here, people.PASSWORD, weak), 422, "bad_input", field="new")
        self.assertEqual(self.change(here, people.PASSWORD, self.NEW).status_code, 200)  # type: ignore[attr-defined]
        self.assertEqual(here.get(f"{API}/floor").status_code, 200)
        self.assertEqual(elsewhere.get(f"{API}/floor").status_code, 401)
        signed_in = Client().post(f"{API}/sign-in", {"username": "isla", "password": self.NEW}, content_type="application/json")
        self.assertEqual(signed_in.status_code, 200)

    def test_nobody_changes_another_persons(self) -> None:
        self.assert_refused(self.change(Client(), people.PASSWORD, self.NEW), 401, "signed_out")


class Superuser(ApiTestCase):
    def test_whoever_was_made_at_the_command_line_works_as_a_foreman(self) -> None:
        self.who["root"] = User.objects.create_superuser("root", password="lantern-anvil-47")
        shown = self.call("get", "/me", by="root").json()
        self.assertEqual((shown["role"], shown["may"]["record"], shown["may"]["shop_settings"]), ("foreman", True, True))
        self.assertEqual(shown["looking_at"], 1)  # of one workshop there is nothing to choose
        self.assertEqual(self.call("post", "/jobs", self.card(), by="root").status_code, 201)


class Preferences(ApiTestCase):
    def test_units_and_theme_are_the_persons_own(self) -> None:
        reply = self.call("patch", "/me", {"length_unit": "thou", "theme": "pit"})
        self.assertEqual((reply.json()["length_unit"], reply.json()["theme"]), ("thou", "pit"))
        self.assert_refused(self.call("patch", "/me", {"length_unit": "cubits"}), 422, "bad_input", field="length_unit")

    def test_only_a_foreman_changes_the_shop(self) -> None:
        for by, status in (("isla", 403), ("callum", 403), ("visitor", 403), ("greta", 200)):
            with self.subTest(by):
                self.assertEqual(self.call("patch", "/shop", {"foreman_signs": False}, by=by).status_code, status)
        self.assertFalse(Shop.get().rule.foreman_signs)

    def test_the_database_knows_the_roles_too(self) -> None:
        with self.assertRaises(IntegrityError), transaction.atomic():
            User.objects.create(username="x", role="owner")


class Pages(ApiTestCase):
    def test_every_answer_carries_a_strict_policy(self) -> None:
        policy = self.client_of(None).get(f"{API}/welcome").headers["Content-Security-Policy"]
        self.assertIn("default-src 'none'", policy)
        self.assertNotIn("unsafe", policy)

    def test_an_address_that_is_no_endpoint_answers_in_json(self) -> None:
        self.assert_refused(self.call("get", "/no/such/thing"), 404, "not_found")

    def test_the_demo_logins_show_in_the_demo_alone(self) -> None:
        self.assertEqual(len(self.call("get", "/welcome", by=None).json()["demo_logins"]), 5)
        with override_settings(RELAXED=False):
            self.assertEqual(self.call("get", "/welcome", by=None).json()["demo_password"], "")


class Serving(ApiTestCase):
    def test_a_database_with_the_demo_logins_is_not_served(self) -> None:
        with self.assertRaisesMessage(CommandError, "passwords are public"):
            call_command("check_serving")

    def test_the_demo_world_is_refused_outside_the_demo(self) -> None:
        with override_settings(RELAXED=False), self.assertRaisesMessage(CommandError, "./amber demo only"):
            call_command("prepare_demo")


class AsServed(SimpleTestCase):
    def test_only_the_tests_check_passwords_the_quick_way(self) -> None:
        served = {
            "AMBER_SECRET_KEY": WeakSettings.GOOD["secret_keys"][0],
            "AMBER_ALLOWED_HOSTS": "bench.example",
            "DATABASE_URL": "postgres://x@y/z",
        }
        for mode, hasher in (("serve", Argon2PasswordHasher), ("demo", Argon2PasswordHasher), ("test", QuickArgon2)):
            with self.subTest(mode):
                asked = [sys.executable, "-c", "from config import settings; print(*settings.PASSWORD_HASHERS)"]
                done = subprocess.run(asked, env={**os.environ, **served, "AMBER_MODE": mode}, capture_output=True, text=True, check=True)
                self.assertEqual(done.stdout.split(), [f"{hasher.__module__}.{hasher.__name__}"])


class WeakSettings(SimpleTestCase):
    GOOD: dict[str, Any] = {
        "secret_keys": ["k3-" + "abcdefghij" * 6],
        "allowed_hosts": ["bench.example"],
        "database_url": "postgres://x@y/z",
    }
    WEAK: list[tuple[dict[str, Any], str]] = [
        ({"secret_keys": [""]}, "AMBER_SECRET_KEY"),
        ({"secret_keys": ["short"]}, "AMBER_SECRET_KEY"),
        ({"secret_keys": ["a" * 80]}, "AMBER_SECRET_KEY"),
        ({"secret_keys": ["k3-" + "abcdefghij" * 6, "short"]}, "AMBER_OLD_SECRET_KEYS"),
        ({"allowed_hosts": []}, "AMBER_ALLOWED_HOSTS"),
        ({"allowed_hosts": ["*"]}, "AMBER_ALLOWED_HOSTS"),
        ({"database_url": ""}, "DATABASE_URL"),
        ({"database_url": "sqlite:///x"}, "DATABASE_URL"),
    ]

    def test_each_is_refused_by_name(self) -> None:
        refuse_weak_settings(**self.GOOD)
        for change, name in self.WEAK:
            with self.subTest(name), self.assertRaisesMessage(ImproperlyConfigured, name):
                refuse_weak_settings(**{**self.GOOD, **change})

    def test_how_many_proxies(self) -> None:
        self.assertEqual((proxy_count("0"), proxy_count(" 2 ")), (0, 2))
        for text in ("", "-1", "many", "17"):
            with self.subTest(text), self.assertRaisesMessage(ImproperlyConfigured, "AMBER_PROXIES"):
                proxy_count(text)
