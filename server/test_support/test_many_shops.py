"""Several workshops in one installation: each finds what is its own, and nothing of another, by whatever address."""

from __future__ import annotations

import json
import re
import uuid
from datetime import timedelta
from typing import Any

from django.apps import apps
from django.core.files.uploadedfile import SimpleUploadedFile
from django.utils import timezone

from accounts.models import PersonChange, Shop, User
from build_sheet.documents import document_of
from config.whose import OWNERS, WITHIN
from hand_over.models import FollowUp, HandOver
from jobs.models import Job
from noise_finder.models import Recording
from noise_finder.tests.test_finder import VAN
from parts_wall.models import PartPhoto, QuoteLink
from ratio_desk.tests.test_desk import inputs as ratio_inputs
from setup_bench.models import PatternPhoto
from stores.models import AxleFamily, ShimRow
from test_support import test_permissions as permissions
from test_support.api_case import API, ApiTestCase, picture
from work.models import StepPhoto

PASSWORD = "anvil-lantern-47"  # noqa: S105 - of nobody outside this test
WEAK = "short"
DRIVE = b"time,acceleration\n0,0.1\n0.01,0.2\n0.02,0.1\n"
MARKS = ("Skerrow Post", "Post van", "Corrie", "Tam Birsay", "Skerrow Island")


class ManyShops(ApiTestCase):
    """The first workshop with all its demo people, one who looks after both, and a second one whose foreman is Edda."""

    def setUp(self) -> None:
        User.objects.filter(username="greta").update(organisation=True)
        self.who["greta"].refresh_from_db()
        self.assertEqual(self.add_shop().status_code, 201)
        self.second = Shop.objects.get(name="North Pier Garage")
        self.who["edda"] = User.objects.get(username="edda")

    def add_shop(self, **more: Any) -> Any:
        body = {"name": "North Pier Garage", "username": "edda", "display_name": "Edda Quoy", "password": PASSWORD}
        return self.post("/shops", {**body, **more}, by="greta")

    def look_at(self, shop: int) -> dict[str, Any]:
        """What the one who looks after both sees of themselves."""
        found: dict[str, Any] = self.call("patch", "/me", {"client_id": str(uuid.uuid4()), "looking_at": shop}, by="greta").json()
        return found

    def vehicle(self, by: str = "edda", **more: Any) -> str:
        body = {"id": str(uuid.uuid4()), "owner": "Pier Ferries", "name": "Tow truck", "layout": "rear_drive", **more}
        self.assertEqual(self.post("/vehicles", body, by=by).status_code, 201)
        return str(body["id"])

    def names(self, path: str, by: str) -> list[str]:
        (rows,) = [value for value in self.call("get", path, by=by).json().values() if isinstance(value, list)]
        return [one.get("vehicle") or one["name"] for one in rows]


class Everything(ManyShops):
    """One of each thing of the first workshop."""

    def setUp(self) -> None:
        super().setUp()
        self.job = self.make_job()
        trial = self.trial_id(self.begin(self.job))
        reading = self.read(trial, "20").json()["trials"][0]["readings"][0]["id"]
        result = self.post(f"/work/{self.job}/ratio-results", {"title": "kept", "inputs": ratio_inputs()}).json()["id"]
        self.token = self.post(f"/ratio-results/{result}/links", {}).json()["token"]
        client = self.client_of("isla")
        for path, body in (
            (f"/trials/{trial}/photos", {"flank": "drive"}),
            (f"/work/{self.job}/steps/complaint/photos", {}),
            (f"/work/{self.job}/parts/photos", {"key": "cover"}),
        ):
            content = {"client_id": str(uuid.uuid4()), **body, "file": SimpleUploadedFile("part.jpg", picture(), "image/jpeg")}
            self.assertEqual(client.post(API + path, content).status_code, 201, path)
        drive = {"client_id": str(uuid.uuid4()), "from_kmh": 60, "to_kmh": 90, "file": SimpleUploadedFile("d.csv", DRIVE, "text/csv")}
        recorded = client.post(f"{API}/work/{self.job}/recordings", drive)
        self.assertEqual(recorded.status_code, 201, recorded.content)
        job = Job.objects.get(pk=self.job)
        given = HandOver.objects.create(job=job, odometer_km=1.0, text="{}", received_by="x", by_name="x")
        due = FollowUp.objects.create(
            hand_over=given, vehicle=job.vehicle, code="look", text="look", kind="do", on_date=timezone.localdate()
        )
        link = QuoteLink.objects.create(
            work_id=self.job, token_hash="0" * 64, expires_at=timezone.now() + timedelta(days=1), document={}, by_name="x"
        )
        self.ids = {"job_id": self.job, "work_id": self.job, "vehicle_id": str(job.vehicle_id), "trial_id": trial, "reading_id": reading}
        self.ids |= {"result_id": result, "finding_id": result, "link_id": str(link.client_id), "follow_up_id": str(due.pk)}
        self.ids |= {"person_id": str(self.who["tam"].pk), "recording_id": str(Recording.objects.get().client_id)}
        self.photos = {
            "photos": PatternPhoto.objects.get().client_id,
            "part-photos": PartPhoto.objects.get().client_id,
            "step-photos": StepPhoto.objects.get().client_id,
        }

    def test_every_parameter_says_whose_it_is(self) -> None:
        for _, path, name in permissions.operations():
            for found in re.findall(r"\{([^}]+)\}", path):
                with self.subTest(name, parameter=found):
                    parameter = found.rpartition(":")[2]
                    first = path.strip("/").split("/")[0]
                    self.assertTrue(parameter in OWNERS or parameter in WITHIN or first in OWNERS, f"{parameter} of {path}")

    def test_what_belongs_to_another_is_not_there_and_nothing_is_stored(self) -> None:
        client, before, asked = self.client_of("edda"), permissions.Permissions.counts(), 0
        for method, path, name in permissions.operations():
            mine = self.filled(path)
            if mine is None:
                continue
            with self.subTest(name):
                sent = json.dumps({"client_id": str(uuid.uuid4())})
                reply = client.get(API + mine) if method == "get" else client.generic(method.upper(), API + mine, sent, "application/json")
                self.assert_refused(reply, 404, "not_found")
                asked += 1
        self.assertGreater(asked, 90)
        self.assertEqual(permissions.Permissions.counts(), before)

    def filled(self, path: str) -> str | None:
        """The address of something of the first workshop; None for one that names nothing."""
        parameters = [found.rpartition(":")[2] for found in re.findall(r"\{([^}]+)\}", path)]
        if "token" in parameters or not {*self.ids, "photo_id"} & {*parameters}:
            return None
        ids = {**self.ids, "photo_id": str(self.photos.get(path.strip("/").split("/")[0])), "code": "complaint", "place": "rear_axle"}
        return re.sub(r"\{([^}]+)\}", lambda found: ids.get(found[1].rpartition(":")[2], str(uuid.uuid4())), path)

    def test_a_recording_named_in_a_question_is_not_there_for_another(self) -> None:
        asked = {"drivetrain": VAN, "recording": self.ids["recording_id"]}
        self.assertNotEqual(self.call("post", "/noise-recorded", asked).status_code, 404)
        self.assert_refused(self.call("post", "/noise-recorded", asked, by="edda"), 404, "not_found")

    def test_no_list_holds_anything_of_another(self) -> None:
        rows = {"shim_moves": "?place=side&thickness_mm=1", "typed_length": "?typed=1"}
        for method, path, name in permissions.operations():
            if method != "get" or re.search(r"\{[^}]*_id\}|token|\{code\}", path) or name == "welcome":
                continue
            with self.subTest(name):
                asked = path.replace("{kind}", "gearboxes" if "stores" in path else "oil_service") + rows.get(name, "")
                shown = self.call("get", asked, by="edda").content.decode(errors="replace")
                for mark in MARKS:
                    self.assertNotIn(mark, shown)

    def test_a_link_opens_without_a_login_and_names_its_workshop(self) -> None:
        for by in (None, "edda"):
            shown = self.call("get", f"/shared-ratios/{self.token}", by=by)
            self.assertEqual((shown.status_code, shown.json()["shop_name"]), (200, "Skerrow Island Transport Workshop"))


class Work(ManyShops):
    def test_each_works_on_its_own(self) -> None:
        first = self.make_job()
        vehicle = self.vehicle()
        card = self.card(vehicle_id=vehicle, family="", kind="oil_service")
        reply = self.call("post", "/jobs", {**card, "client_id": str(uuid.uuid4())}, by="edda")
        self.assertEqual(reply.status_code, 201, reply.content)
        self.assertEqual(self.names("/floor", "isla"), ["Post van"])
        self.assertEqual(self.names("/floor", "edda"), ["Tow truck"])
        self.assertNotEqual(Job.objects.get(pk=first).number, Job.objects.get(pk=card["id"]).number)
        taken = self.post("/jobs", self.card(vehicle_id=vehicle), by="isla")
        self.assert_refused(taken, 422, "not_found", words="not here")

    def test_what_is_signed_names_its_own_workshop_whoever_asks(self) -> None:
        self.call("patch", "/shop", {"client_id": str(uuid.uuid4()), "foreman_signs": False, "reason": "small"}, by="edda")
        card = self.card(vehicle_id=self.vehicle(), family="", kind="oil_service")
        self.assertEqual(self.call("post", "/jobs", card, by="edda").status_code, 201)
        for job, shop, signs in ((card["id"], "North Pier Garage", False), (self.make_job(), "Skerrow Island Transport Workshop", True)):
            document = document_of(uuid.UUID(job))
            self.assertEqual((document["shop"], document["rule"]["foreman_signs"]), (shop, signs))

    def test_who_looks_after_both_sees_both_or_the_one_they_look_at(self) -> None:
        self.vehicle()
        self.vehicle("isla", name="Post van")
        self.look_at(0)
        rows = self.call("get", "/vehicles", by="greta").json()["vehicles"]
        self.assertEqual({one["name"]: one["shop"] for one in rows}["Tow truck"], "North Pier Garage")
        self.assertEqual(len(rows), 2)
        me = self.look_at(self.second.pk)
        self.assertEqual((me["shop"]["name"], me["looking_at"]), ("North Pier Garage", self.second.pk))
        self.assertEqual(self.names("/vehicles", "greta"), ["Tow truck"])
        made = self.vehicle("greta", name="Crane")  # it lands where they look
        self.assertIn("Crane", self.names("/vehicles", "edda"))
        self.look_at(0)
        self.assertEqual(self.call("get", f"/vehicles/{made}", by="greta").status_code, 200)
        self.assert_refused(self.call("get", f"/vehicles/{made}", by="isla"), 404, "not_found")

    def test_nobody_else_looks_elsewhere(self) -> None:
        for by in ("isla", "edda"):
            body = {"client_id": str(uuid.uuid4()), "looking_at": self.second.pk}
            self.assert_refused(self.call("patch", "/me", body, by=by), 403, "not_allowed", words="organisation")
            self.assertEqual(self.call("get", "/me", by=by).json()["shops"], [])

    def test_rules_hours_and_logins_are_each_ones_own(self) -> None:
        rule = {"client_id": str(uuid.uuid4()), "foreman_signs": False}
        self.assertEqual(self.call("patch", "/shop", rule, by="edda").status_code, 200)
        self.assertFalse(self.call("get", "/me", by="edda").json()["shop"]["foreman_signs"])
        self.assertTrue(self.call("get", "/me", by="isla").json()["shop"]["foreman_signs"])
        hours = {"client_id": str(uuid.uuid4()), "hours": [{"weekday": 0, "from": "08:00", "to": "12:00"}], "hands": 1}
        self.assertEqual(self.call("put", "/shop/hours", hours, by="edda").status_code, 200)
        self.assertEqual(self.call("get", "/shop/hours", by="isla").json()["hands"], 2)
        self.assertEqual([one["username"] for one in self.call("get", "/people", by="edda").json()], ["edda"])
        self.assertNotIn("edda", [one["username"] for one in self.call("get", "/people", by="greta").json()])
        last = self.call("patch", f"/people/{self.who['edda'].pk}", {"client_id": str(uuid.uuid4()), "role": "counter"}, by="edda")
        self.assert_refused(last, 409, "last_foreman")
        self.assertEqual(PersonChange.objects.filter(person=self.who["edda"]).count(), 1)

    def test_a_workshop_needs_a_name_of_its_own_and_a_foreman(self) -> None:
        self.assert_refused(self.add_shop(username="other"), 422, "bad_input", field="name")
        self.assert_refused(self.add_shop(name="West Shore"), 409, "name_in_use")
        self.assert_refused(self.add_shop(name="", username="other"), 422, "bad_input", field="name")
        weak = self.add_shop(name="West Shore", username="other", password=WEAK)
        self.assert_refused(weak, 422, "bad_input", field="password")
        self.assertEqual(Shop.objects.count(), 2)

    def test_a_file_of_another_workshops_job_is_refused_and_its_number_stays_free(self) -> None:
        job = self.make_job()
        content = self.call("get", f"/jobs/{job}/job.json").content
        sent = {"client_id": str(uuid.uuid4()), "file": SimpleUploadedFile("job.json", content, "application/json")}
        reply = self.client_of("edda").post(f"{API}/import", sent)
        self.assert_refused(reply, 409, "here_already")
        self.assertEqual(self.names("/floor", "edda"), [])


class Sheets(ManyShops):
    def share(self, shared: bool, by: str = "greta") -> Any:
        return self.call("put", "/families/corrie-ls19/sharing", {"client_id": str(uuid.uuid4()), "shared": shared}, by=by)

    def families(self, by: str) -> dict[str, dict[str, Any]]:
        return {one["code"]: one for one in self.call("get", "/families", by=by).json()}

    def count(self, count: int, version: int, by: str) -> Any:
        body = {"client_id": str(uuid.uuid4()), "place": "side", "thickness_mm": 4.6, "count": count, "version": version}
        return self.call("put", "/families/corrie-ls19/shims", body, by=by)

    def test_a_sheet_is_its_workshops_until_it_is_shared(self) -> None:
        self.assertEqual(self.families("edda"), {})
        self.assertEqual(self.share(True).json()["lent_by"], "")
        lent = self.families("edda")
        self.assertEqual([one["lent_by"] for one in lent.values()], ["Skerrow Island Transport Workshop"])
        self.assertEqual(self.call("post", "/jobs", self.card(), by="edda").status_code, 201)
        self.assert_refused(self.share(False, by="edda"), 403, "not_allowed", words="Copy it")
        self.share(False)
        self.assertEqual(self.families("edda"), {})

    def test_who_works_by_a_lent_sheet_cannot_change_it_and_may_have_one_of_the_same_code(self) -> None:
        self.share(True)
        lent = self.families("edda")["corrie-ls19"]
        plain = {
            name: lent[name] for name in ("part", "name", "maker", "build", "carrier_method", "shim_place", "preload_method", "notch_mm")
        }
        body = {**plain, "ring_outer_diameter_mm": lent["ring_outer_diameter_mm"], "tooth_form": lent["tooth_form"], "name": "Ours"}
        edit = {"client_id": str(uuid.uuid4()), "revision": 1, "reason": "x", **body}
        self.assert_refused(self.call("put", "/families/corrie-ls19", edit, by="edda"), 403, "not_allowed", words="Copy it")
        made = self.call("put", "/families/corrie-ls19", {**edit, "client_id": str(uuid.uuid4()), "revision": 0}, by="edda")
        self.assertEqual((made.status_code, made.json()["name"]), (200, "Ours"), made.content)
        self.assertEqual(self.families("edda")["corrie-ls19"]["name"], "Ours")
        self.assertNotEqual(self.families("isla")["corrie-ls19"]["name"], "Ours")
        self.assertEqual(AxleFamily.objects.filter(code="corrie-ls19").count(), 2)

    def test_drawers_of_one_sheet_are_each_workshops_own(self) -> None:
        self.share(True)
        before = ShimRow.objects.get(family__code="corrie-ls19", place="side", thickness_mm="4.6")
        reply = self.count(7, 0, "edda")
        self.assertEqual(reply.status_code, 200, reply.content)
        self.assertEqual([one["count"] for one in reply.json()["shims"]], [7])
        before.refresh_from_db()
        rows = ShimRow.objects.filter(family__code="corrie-ls19", place="side", thickness_mm="4.6")
        self.assertEqual({one.shop_id: one.count for one in rows}, {1: before.count, self.second.pk: 7})
        card = self.card()
        self.assertEqual(self.call("post", "/jobs", card, by="edda").status_code, 201)
        teeth = {"pinion_teeth": 10, "ring_teeth": 41}
        self.assertEqual(self.post(f"/work/{card['id']}/gear-set", teeth, by="edda").status_code, 201)
        found = {"after": 0, "ring_side": "4.50 mm", "far_side": "4.50 mm", "depth": "0.80 mm"}
        self.assertEqual(self.post(f"/work/{card['id']}/trials", found, by="edda").status_code, 201)
        taken = {"after": 1, "ring_side": "4.60 mm", "far_side": "4.40 mm"}
        self.assertEqual(self.post(f"/work/{card['id']}/trials", taken, by="edda").status_code, 201)
        self.assertEqual({one.shop_id: one.count for one in rows.all()}, {1: before.count, self.second.pk: 6})

    def test_lists_take_in_ones_own_sheets_alone(self) -> None:
        self.share(True)
        content = b"family,pinion_teeth,ring_teeth,needs_carrier,needs_thick_ring\ncorrie-ls19,9,41,no,no\n"
        gearbox = b"code,name,maker,gears\nford-four,Four,X,3 2 1\n"
        self.assertEqual(self.taken("gearboxes", gearbox, "greta").status_code, 200)
        for kind, sent, words in (("ratios", content, "corrie-ls19"), ("gearboxes", gearbox, "another workshop")):
            with self.subTest(kind):
                reply = self.taken(kind, sent, "edda")
                self.assertIn(words, reply.content.decode())
                self.assertNotIn('"added": 1', reply.content.decode())

    def taken(self, kind: str, content: bytes, by: str) -> Any:
        sent = {"client_id": str(uuid.uuid4()), "file": SimpleUploadedFile("list.csv", content, "text/csv")}
        return self.client_of(by).post(f"{API}/stores/{kind}/import", sent)


class NothingForgotten(ManyShops):
    def test_every_table_leads_to_a_workshop_or_belongs_to_all(self) -> None:
        """A new table says whose its rows are."""
        everybodys = {"accounts.Shop", "records.Write", "records.Allowance", "work.ProcedureRevision"}
        for model in apps.get_models():
            if model._meta.app_label not in {one.split(".")[0] for one in everybodys} | OURS or model._meta.label in everybodys:
                continue
            with self.subTest(model._meta.label):
                self.assertTrue(_leads_to_shop(model, set()))


OURS = {
    "stores",
    "vehicles",
    "jobs",
    "hand_over",
    "ratio_desk",
    "driveline_desk",
    "noise_finder",
    "parts_wall",
    "setup_bench",
    "build_sheet",
}


def _leads_to_shop(model: Any, seen: set[Any]) -> bool:
    """Whether foreign keys lead from it to a workshop, not by way of whoever wrote it."""
    if model is Shop:
        return True
    seen.add(model)
    ahead = [one.related_model for one in model._meta.get_fields() if one.many_to_one or (one.one_to_one and one.concrete)]
    return any(one not in seen and (one is not User or model is PersonChange) and _leads_to_shop(one, seen) for one in ahead)
