"""Logins made and changed by a foreman, and who may take files away."""

from __future__ import annotations

import uuid
from typing import Any

from django.db import IntegrityError, transaction
from django.test import Client

from accounts.models import PersonChange, Shop, ShopRule, User
from records.models import Write
from test_support.api_case import API, ApiTestCase

NEW = "anvil-lantern-47"


class People(ApiTestCase):
    def add(self, *, by: str = "greta", **more: Any) -> Any:
        body = {"username": "Fergus", "display_name": "Fergus Holm", "role": "technician", "password": NEW, **more}
        return self.call("post", "/people", body, by=by)

    def pk(self, name: str) -> int:
        return User.objects.get(username=name).pk

    def change(self, name: str, *, by: str = "greta", **change: Any) -> Any:
        return self.call("patch", f"/people/{self.pk(name)}", change, by=by)

    def sign_in(self, name: str, password: str) -> Any:
        return Client().post(f"{API}/sign-in", {"username": name, "password": password}, content_type="application/json")

    def test_a_foreman_adds_somebody_who_can_then_work(self) -> None:
        reply = self.add()
        self.assertEqual(reply.status_code, 201)
        mine = next(one for one in reply.json() if one["username"] == "fergus")
        self.assertEqual((mine["display_name"], mine["role"], mine["active"]), ("Fergus Holm", "technician", True))
        self.assertEqual(self.sign_in("fergus", NEW).status_code, 200)
        noted = PersonChange.objects.get()
        self.assertEqual((noted.by_name, noted.role, noted.password_set), ("Greta Fell", "technician", True))

    def test_nobody_else_sees_or_changes_people(self) -> None:
        for by in ("isla", "callum", "visitor"):
            with self.subTest(by):
                self.assert_refused(self.call("get", "/people", by=by), 403, "not_allowed")
                self.assert_refused(self.add(by=by), 403, "not_allowed")
                self.assert_refused(self.change("tam", by=by, role="foreman"), 403, "not_allowed")

    def test_what_is_typed_wrongly_gets_its_sentence(self) -> None:
        for change, status, code, field in (
            ({"username": "two words"}, 422, "bad_input", "username"),
            ({"username": ""}, 422, "bad_input", "username"),
            ({"display_name": " "}, 422, "bad_input", "display_name"),
            ({"password": "short"}, 422, "bad_input", "password"),
            ({"password": "fergus.holm"}, 422, "bad_input", "password"),
            ({"username": "ISLA"}, 409, "name_in_use", ""),
            ({"role": "owner"}, 422, "bad_input", "role"),
        ):
            with self.subTest(change):
                self.assert_refused(self.add(**change), status, code, field=field)
        self.assertEqual(PersonChange.objects.count(), 0)

    def test_the_same_again_makes_one_login_and_no_trace_of_the_password(self) -> None:
        client_id = str(uuid.uuid4())
        for _ in range(2):
            self.assertEqual(self.add(client_id=client_id).status_code, 201)
        self.assertEqual(User.objects.filter(username="fergus").count(), 1)
        self.assertEqual(self.add(client_id=client_id, password="another-lantern-48").status_code, 201)
        self.assertEqual(Write.objects.get(pk=client_id).command, "add_person")
        self.assertEqual(self.sign_in("fergus", NEW).status_code, 200)

    def test_a_closed_login_is_out_at_once_and_its_name_stays_on_the_record(self) -> None:
        client = self.client_of("isla")
        job = self.make_job()
        self.assertEqual(self.change("isla", active=False).status_code, 200)
        self.assertEqual(client.get(f"{API}/floor").status_code, 401)
        self.assertEqual(self.call("get", f"/jobs/{job}", by="tam").status_code, 200)
        self.assertEqual(self.change("isla", active=True).status_code, 200)
        self.assertEqual([one.active for one in PersonChange.objects.all()], [False, True])

    def test_there_is_always_a_foreman(self) -> None:
        self.assert_refused(self.change("greta", role="technician"), 409, "last_foreman")
        self.assert_refused(self.change("greta", active=False), 422, "bad_input", field="active")
        self.assertEqual(self.change("tam", role="foreman").status_code, 200)
        self.assertEqual(self.change("greta", by="tam", role="technician").status_code, 200)
        self.assert_refused(self.change("tam", by="tam", role="counter"), 409, "last_foreman")

    def test_a_lost_password_is_set_and_the_devices_are_signed_out(self) -> None:
        client = self.client_of("tam")
        path = f"/people/{self.pk('tam')}/password"
        self.assert_refused(self.call("post", path, {"password": "1234567890"}, by="greta"), 422, "bad_input", field="password")
        self.assertEqual(self.call("post", path, {"password": NEW}, by="greta").status_code, 200)
        self.assertEqual(client.get(f"{API}/floor").status_code, 401)
        self.assertEqual(self.sign_in("tam", NEW).status_code, 200)
        own = f"/people/{self.pk('greta')}/password"
        self.assert_refused(self.call("post", own, {"password": NEW}, by="greta"), 422, "bad_input", field="password")

    def test_an_operators_login_is_not_changed_here(self) -> None:
        User.objects.create_superuser("root", password=NEW)
        self.assert_refused(self.change("root", active=False), 422, "bad_input", words="looks after the server")

    def test_changes_of_people_are_written_once(self) -> None:
        self.add()
        with self.assertRaises(IntegrityError), transaction.atomic():
            PersonChange.objects.update(role="foreman")


class Exports(ApiTestCase):
    def allow(self, *roles: str, by: str = "greta") -> Any:
        return self.call("patch", "/shop", {"export_roles": list(roles)}, by=by)

    def test_the_workshop_says_who_takes_files_away(self) -> None:
        job = self.make_job()
        paths = (f"/jobs/{job}/job.json", f"/work/{job}/readings.csv", "/stores/ratios.csv", "/stores/sheets.json")
        for path in paths:
            self.assertEqual(self.call("get", path, by="visitor").status_code, 200)
        reply = self.allow("technician")
        self.assertEqual(reply.json()["shop"]["rule"]["export_roles"], ["foreman", "technician"])
        for path in paths:
            with self.subTest(path):
                self.assert_refused(self.call("get", path, by="visitor"), 403, "not_allowed", words="export files")
                self.assert_refused(self.call("get", path, by="callum"), 403, "not_allowed")
                self.assertEqual(self.call("get", path, by="isla").status_code, 200)
        self.assertFalse(self.call("get", "/me", by="visitor").json()["may"]["export"])

    def test_a_foreman_always_may_and_only_a_foreman_says_so(self) -> None:
        self.assertEqual(self.allow().status_code, 200)
        self.assertEqual(self.call("get", "/stores/sheets.json", by="greta").status_code, 200)
        self.assert_refused(self.allow("read_only", by="isla"), 403, "not_allowed")

    def test_one_rule_does_not_move_the_other_and_each_stays_on_the_record(self) -> None:
        self.call("patch", "/shop", {"foreman_signs": False}, by="greta")
        self.allow("counter")
        self.call("patch", "/shop", {"foreman_signs": True}, by="greta")
        rules = [(one.foreman_signs, sorted(one.export_roles)) for one in ShopRule.objects.order_by("-id")[:3]]
        everybody = ["counter", "foreman", "read_only", "technician"]
        self.assertEqual(rules, [(True, ["counter", "foreman"]), (False, ["counter", "foreman"]), (False, everybody)])

    def test_the_workshops_name(self) -> None:
        self.assertEqual(self.call("patch", "/shop", {"name": "Holm Axles"}, by="greta").json()["shop"]["name"], "Holm Axles")
        self.assert_refused(self.call("patch", "/shop", {"name": "  "}, by="greta"), 422, "bad_input", field="name")
        self.assertEqual(Shop.get().name, "Holm Axles")
