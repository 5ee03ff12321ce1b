"""The API as a whole: every operation is named and guarded, every write asks who may, migrations go both ways."""

from __future__ import annotations

import json
import re
import uuid
from io import StringIO
from pathlib import Path
from typing import Any

from django.apps import apps
from django.conf import settings
from django.core.files.uploadedfile import SimpleUploadedFile
from django.core.management import call_command
from django.db import connection
from django.test import TransactionTestCase

from accounts.models import User
from driveline_desk.tests.test_desk import inputs as driveline_inputs
from noise_finder.tests.test_finder import VAN
from ratio_desk.tests.test_desk import inputs as ratio_inputs
from test_support.api_case import API, ApiTestCase, picture

OPEN = {"csrf_token", "welcome", "sign_in", "me", "shared_ratio", "shared_quote", "shared_quote_answer"}

SHEET = {
    "revision": 1,
    "name": "x",
    "maker": "x",
    "build": "x",
    "carrier_method": "side_shims",
    "shim_place": "behind_cup",
    "preload_method": "spacer",
    "ring_outer_diameter_mm": 190,
    "tooth_form": "tapered",
}


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

    def test_all_but_the_sign_in_are_closed_to_strangers(self) -> None:
        for method, path, one in operations():
            address = (
                path.removeprefix("/api/v1")
                .replace("{code}", "corrie-ls19")
                .replace("{place}", "engine")
                .replace("{kind}", "gearboxes")
                .replace("{token}", "x" * 43)
                .replace("{follow_up_id}", "1")
            )
            for name in (
                "job_id",
                "work_id",
                "vehicle_id",
                "trial_id",
                "reading_id",
                "step_id",
                "result_id",
                "recording_id",
                "finding_id",
                "link_id",
            ):
                address = address.replace(f"{{{name}}}", str(uuid.uuid4()))
            with self.subTest(one["operationId"]):
                status = self.call(method, address, {}, by=None).status_code
                (self.assertNotEqual if one["operationId"] in OPEN else self.assertEqual)(status, 401)

    def test_a_visitor_writes_nothing_anywhere(self) -> None:
        job = self.make_job()
        trial = self.trial_id(self.begin(job))
        reading = self.read(trial, "20").json()["trials"][0]["readings"][0]["id"]
        vehicle = self.call("get", f"/jobs/{job}").json()["vehicle_id"]
        result = self.post(f"/work/{job}/ratio-results", {"title": "kept", "inputs": ratio_inputs()}).json()["id"]
        writes: list[tuple[str, str, dict[str, Any]]] = [
            ("post", "/jobs", self.card()),
            ("patch", f"/jobs/{job}", {"version": 1, "customer": "x"}),
            ("put", f"/jobs/{job}/stations/engine", {"state": "good", "version": 1}),
            ("post", f"/work/{job}/gear-set", {"pinion_teeth": 9, "ring_teeth": 41}),
            ("post", f"/work/{job}/steps/complaint/pass", {}),
            ("post", f"/work/{job}/steps/complaint/take-back", {"reason": "x"}),
            ("post", f"/work/{job}/trials", {"after": 1, "ring_side": "1 mm", "far_side": "1 mm"}),
            ("post", f"/trials/{trial}/readings", {"angle_deg": 45, "typed": "20"}),
            ("post", f"/readings/{reading}/strike-out", {"reason": "x"}),
            ("post", f"/trials/{trial}/conditions", {}),
            (
                "post",
                f"/trials/{trial}/patterns",
                {"flank": "drive", "u": 0.5, "v": 0.5, "length": 0.5, "height": 0.5, "tilt_deg": 0.0},
            ),
            ("post", f"/trials/{trial}/torques", {"what": "pinion", "typed": "2 Nm", "bearings": "new", "seal": "absent"}),
            ("post", f"/trials/{trial}/depths", {"tool": "face", "reading": "58.4"}),
            ("post", f"/work/{job}/basis", {"set_state": "new", "drive_flank": "convex"}),
            ("post", f"/work/{job}/sleeve-steps", {"sleeve": 1, "nut_turn_deg": 0, "typed": "0.3 Nm"}),
            ("post", f"/work/{job}/sleeve-steps/{uuid.uuid4()}/take-back", {"reason": "x"}),
            ("post", f"/work/{job}/spacer-tries", {"stack": "0.4 mm", "end_play": "0.1 mm"}),
            ("post", f"/work/{job}/instrument-checks", {"zero": "0", "block": "1 mm", "block_read": "1 mm", "back": "0"}),
            ("post", f"/jobs/{job}/axle-facts", {"end": "rear", "tyre": "215/75R16"}),
            ("post", f"/work/{job}/ratio-results", {"title": "x", "inputs": ratio_inputs()}),
            ("post", f"/ratio-results/{result}/links", {}),
            ("post", f"/ratio-results/{result}/fitted", {"gearing": 0}),
            ("post", f"/work/{job}/driveline-results", {"title": "x", "inputs": driveline_inputs()}),
            ("post", f"/work/{job}/joint-inspections", {"shaft": "rear", "joint": 1, "felt": {}, "decision": "look"}),
            ("post", f"/work/{job}/simulated-recordings", {"drivetrain": VAN, "faults": ["nothing"], "seconds": 5}),
            ("post", f"/work/{job}/noise-findings", {"title": "x", "felt": {"drivetrain": VAN, "tests": [{"speed_kmh": 90}]}}),
            ("post", f"/work/{job}/sign-off", {}),
            ("post", f"/work/{job}/withdraw", {"reason": "x"}),
            ("post", f"/jobs/{job}/work", {"id": str(uuid.uuid4()), "axle": "rear", "family": "corrie-ls19"}),
            ("patch", f"/work/{job}", {"version": 1, "family": "ostrel-ir20"}),
            ("post", f"/work/{job}/sheet-revision", {"revision": 1, "version": 1, "reason": "x"}),
            ("post", f"/work/{job}/ways", {"question": "preload", "way": "spacer", "reason": "x"}),
            ("post", "/vehicles", {"id": str(uuid.uuid4()), "owner": "x", "name": "y", "layout": "rear_drive"}),
            ("patch", f"/vehicles/{vehicle}", {"version": 1, "name": "z"}),
            ("put", f"/vehicles/{vehicle}/assemblies/rear_axle", {"family": "ostrel-ir20"}),
            ("post", f"/vehicles/{vehicle}/odometer", {"typed": "81000"}),
            ("post", f"/recordings/{uuid.uuid4()}/read-again", {}),
            ("put", "/families/corrie-ls19/shims", {"place": "side", "thickness_mm": 1.0, "count": 1, "version": 0}),
            ("put", "/families/corrie-ls19", SHEET),
            ("post", f"/jobs/{job}/hand-over", {"odometer": "81000", "received_by": "x"}),
            ("post", "/follow-ups/1/end", {}),
            ("put", "/kinds/own_a", {"number": 0, "title": "A", "places": ["rear_axle"], "blocks": ["seal"]}),
            ("put", "/kinds/oil_service/library", {"number": 0, "reason": "x", "shape": {}}),
            ("post", f"/work/{job}/steps/complaint/begin", {}),
            ("post", f"/work/{job}/steps/complaint/skip", {"reason": "x"}),
            ("post", f"/work/{job}/diff-results", {"tool": "bolts", "values": {"count": "4", "target_nm": "20"}, "title": "Bolts"}),
            ("post", f"/work/{job}/parts/build", {"facts": {"unit": "beam"}}),
            ("post", f"/work/{job}/parts/off", {"key": "cover"}),
            ("post", f"/work/{job}/parts/looks", {"key": "cover", "decision": "good"}),
            ("post", f"/work/{job}/parts/pieces", {"key": "ring", "missing": 1}),
            ("post", f"/work/{job}/parts/back", {"key": "cover"}),
            ("post", f"/work/{job}/parts/undo", {"record": str(uuid.uuid4())}),
            ("post", f"/work/{job}/parts/needs", {"line": str(uuid.uuid4()), "name": "Seal"}),
            ("post", f"/work/{job}/parts/needs/proposed", {"keys": ["pnut"]}),
            ("post", f"/work/{job}/parts/announced", {"waiting": 1}),
            ("post", f"/work/{job}/parts/quotes", {"hourly": "60", "keys": ["ring"]}),
            ("post", f"/quote-links/{uuid.uuid4()}/end", {}),
            ("patch", "/shop", {"foreman_signs": False}),
            ("put", "/shop/hours", {"hours": [{"weekday": 0, "from": "08:00", "to": "16:00"}], "hands": 1}),
        ]
        self.assert_all_covered(
            [path for _, path, _ in writes]
            + [f"/trials/{trial}/photos", f"/work/{job}/steps/complaint/photos", f"/work/{job}/parts/photos"]
            + ["/stores/ratios/import", f"/work/{job}/recordings"]
        )
        before = self.counts()
        for method, path, body in writes:
            with self.subTest(f"{method} {path}"):
                reply = self.call(method, path, {"client_id": str(uuid.uuid4()), **body}, by="visitor")
                self.assert_refused(reply, 403, "not_allowed", words="Your login cannot")
        for path in (f"/trials/{trial}/photos", f"/work/{job}/steps/complaint/photos", f"/work/{job}/parts/photos"):
            photo = SimpleUploadedFile("tooth.jpg", picture(), "image/jpeg")
            sent = {"client_id": str(uuid.uuid4()), "flank": "drive", "key": "cover", "file": photo}
            self.assert_refused(self.client_of("visitor").post(API + path, sent), 403, "not_allowed")
        drive = {"client_id": str(uuid.uuid4()), "from_kmh": 60, "to_kmh": 90, "file": SimpleUploadedFile("d.csv", b"1,2\n", "text/csv")}
        self.assert_refused(self.client_of("visitor").post(f"{API}/work/{job}/recordings", drive), 403, "not_allowed")
        listed = {"file": SimpleUploadedFile("list.csv", b"code,name,maker,gears\nx,X,M,2 1\n", "text/csv")}
        self.assert_refused(self.client_of("visitor").post(f"{API}/stores/gearboxes/import", listed), 403, "not_allowed")
        self.assertEqual(self.counts(), before)

    def assert_all_covered(self, tried: list[str]) -> None:
        """Every write but those that are anybody's own; a new one has to be tried too."""
        own = {"sign_in", "sign_out", "set_preferences", "change_password", "patch_preview", "job_import", "ratio_work"}
        own |= {"driveline_work", "driveline_remedies", "noise_felt", "noise_recorded", "shared_quote_answer", "diff_work", "gasket_file"}
        for method, path, one in operations():
            if method != "get" and one["operationId"] not in own and "/compute/" not in path:
                template = re.compile(re.sub(r"\{\w+\}", "[^/]+", path.removeprefix("/api/v1")))
                self.assertTrue(any(template.fullmatch(address) for address in tried), path)

    @staticmethod
    def counts() -> dict[str, int]:
        ours = (
            "records",
            "accounts",
            "stores",
            "vehicles",
            "jobs",
            "work",
            "ratio_desk",
            "driveline_desk",
            "noise_finder",
            "parts_wall",
            "setup_bench",
            "build_sheet",
            "hand_over",
        )
        return {model._meta.label: model._default_manager.count() for app in ours for model in apps.get_app_config(app).get_models()}

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
        self.assertEqual(len(guards), 47)
        for app in self.OURS:
            call_command("migrate", app, "zero", verbosity=0, interactive=False, stdout=StringIO())
        call_command("migrate", "accounts", "0001_initial", verbosity=0, interactive=False, stdout=StringIO())
        self.assertEqual(self.triggers(), set())
        call_command("migrate", verbosity=0, interactive=False, stdout=StringIO())
        self.assertEqual(self.triggers(), guards)

    def test_the_models_are_what_the_migrations_say(self) -> None:
        call_command("makemigrations", check=True, dry_run=True, verbosity=0)
