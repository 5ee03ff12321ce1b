"""What nobody means to send: each gets a sentence in the one documented shape, and nothing is stored."""

from __future__ import annotations

import io
import json
import struct
import uuid
import zlib
from typing import Any
from unittest import mock

import psycopg
from django.core.files.uploadedfile import SimpleUploadedFile
from django.db import InternalError, OperationalError
from django.test import Client
from psycopg.errors import InFailedSqlTransaction, ReadOnlySqlTransaction

from config.gate import largest
from setup_bench.models import Basis, InstrumentCheck, PatternPhoto, SleeveStep, SpacerTry, TorqueReading
from stores.models import Gearbox
from test_support.api_case import API, ApiTestCase, picture
from work.models import GearSetRecord


def huge_png(side: int) -> bytes:
    """A picture that is small as a file and gigabytes in memory."""

    def chunk(kind: bytes, data: bytes) -> bytes:
        return struct.pack(">I", len(data)) + kind + data + struct.pack(">I", zlib.crc32(kind + data))

    head = struct.pack(">IIBBBBB", side, side, 8, 2, 0, 0, 0)
    return b"\x89PNG\r\n\x1a\n" + chunk(b"IHDR", head) + chunk(b"IDAT", zlib.compress(b"\0" * 10_000)) + chunk(b"IEND", b"")


class TheShape(ApiTestCase):
    def shaped(self, reply: Any, status: int) -> dict[str, Any]:
        self.assertEqual(reply.status_code, status, reply.content[:300])
        self.assertEqual(reply.headers["Content-Type"].split(";")[0], "application/json")
        error = reply.json()["error"]
        self.assertEqual(set(error), {"code", "message", "field"})
        self.assertRegex(error["message"], r"^\S.*[.?]$")
        return dict(error)

    def with_token(self) -> Client:
        """As a browser asks: with the token that guards a session."""
        strict = Client(enforce_csrf_checks=True)
        strict.force_login(self.who["isla"], backend="django.contrib.auth.backends.ModelBackend")
        token = strict.get(f"{API}/csrf").json()["token"]
        strict.defaults["HTTP_X_CSRFTOKEN"] = token
        return strict

    def test_every_error_has_it(self) -> None:
        client = self.client_of("isla")
        cut = b'--X\r\nContent-Disposition: form-data; name="file"; filename="a"\r\nContent-Transfer-Encoding: base64\r\n\r\n!\r\n--X--\r\n'
        of_form = "multipart/form-data; boundary=X"
        cases: list[tuple[str, Any, int]] = [
            ("no such address", client.get(f"{API}/nowhere"), 404),
            ("no such id", client.get(f"{API}/jobs/{uuid.uuid4()}"), 404),
            ("no id at all", client.get(f"{API}/jobs/none"), 404),
            ("not this method", client.delete(f"{API}/floor"), 405),
            ("no JSON", client.post(f"{API}/jobs", "{", content_type="application/json"), 422),
            ("a form where JSON is expected", self.with_token().post(f"{API}/jobs", {"customer": "x"}), 415),
            ("a form cut off", client.post(f"{API}/import", cut, content_type=of_form), 400),
            ("a form without its boundary", client.post(f"{API}/import", b"x", content_type="multipart/form-data"), 400),
            ("NUL in the address", client.get(f"{API}/floor?search=%00"), 400),
            ("NUL in the path", client.get(f"{API}/families/%00/shim-moves"), 400),
            ("too long", client.post(f"{API}/jobs", b" " * (2 * 2**20), content_type="application/json"), 413),
        ]
        for name, reply, status in cases:
            with self.subTest(name):
                self.shaped(reply, status)

    def test_a_body_is_capped_before_it_is_read(self) -> None:
        """Only the length is told; nothing of 150 MB is sent."""
        for path, size in (("/sign-in", 150 * 2**20), ("/import", 150 * 2**20), ("/jobs", 2 * 2**20)):
            with self.subTest(path):
                client = self.client_of("isla")
                reply = client.post(API + path, b"", content_type="application/json", headers={"Content-Length": str(size)})
                self.assertIn("Nothing was stored", self.shaped(reply, 413)["message"])
        for length in ("-5", "many", "9" * 30):
            with self.subTest(length):
                headers = {"Content-Length": length}
                self.shaped(Client().post(f"{API}/sign-in", b"", content_type="application/json", headers=headers), 400)

    def test_nobody_signed_in_sends_no_file(self) -> None:
        file = SimpleUploadedFile("job.json", b"{}", "application/json")
        self.assertEqual(self.shaped(Client().post(f"{API}/import", {"file": file}), 401)["code"], "signed_out")

    def test_each_upload_has_its_limit_and_everything_else_a_megabyte(self) -> None:
        nowhere = uuid.uuid4()
        paths = ("/import", f"/work/{nowhere}/recordings", "/stores/gearboxes/import", f"/trials/{nowhere}/photos", "/jobs")
        self.assertEqual([largest(API + path) > 2**20 for path in paths], [True, True, True, True, False])

    def test_a_character_that_cannot_be_stored(self) -> None:
        job = self.make_job()
        cases: list[tuple[str, str, dict[str, Any]]] = [
            ("post", "/sign-in", {"username": "is\0la", "password": "x"}),
            ("post", "/jobs", self.card(customer="Skerrow\0Post")),
            ("post", "/jobs", self.card(complaint="howl \ud83d")),
            ("patch", f"/jobs/{job}", {"version": 1, "customer": "\0"}),
            ("post", f"/work/{job}/steps/on_stands/pass", {"client_id": str(uuid.uuid4()), "note": "\0"}),
        ]
        for method, path, body in cases:
            with self.subTest(path):
                self.assertIn("cannot be stored", self.shaped(self.call(method, path, body), 422)["message"])
        for raw in ('{"client_id": NaN}', '{"customer": 1e999}', '{"version": ' + "9" * 400 + "}"):
            with self.subTest(raw[:30]):
                self.shaped(self.client_of("isla").post(f"{API}/jobs", raw, content_type="application/json"), 422)
        self.assertEqual(self.client_of(None).get(f"{API}/me", headers={"Cookie": 'sessionid="a\\000b"'}).status_code, 400)
        self.assertEqual(Client().get("/jobs/%00").status_code, 400)


class Slips(ApiTestCase):
    """A decimal place slipped, or the wrong unit: 422 with a sentence, never stored, and everything still opens."""

    def setUp(self) -> None:
        self.job = self.make_job()
        self.trial = self.trial_id(self.begin(self.job))

    def test_an_id_that_something_else_has(self) -> None:
        made = {"id": str(uuid.uuid4()), "owner": "Post", "name": "Van", "layout": "rear_drive"}
        self.assertEqual(self.call("post", "/vehicles", {**made, "client_id": str(uuid.uuid4())}).status_code, 201)
        self.assert_refused(self.call("post", "/vehicles", {**made, "client_id": str(uuid.uuid4())}), 409, "id_reused")

    def test_a_database_that_is_away_is_no_fault_and_is_asked_again(self) -> None:
        client = self.client_of("isla")
        client.raise_request_exception = False
        follows = InternalError("cannot execute INSERT in a read-only transaction")
        follows.__cause__ = ReadOnlySqlTransaction()
        cut_off = InternalError("received 2 results from command 'COMMIT'")
        cut_off.__cause__ = psycopg.InternalError(str(cut_off))
        fault = InternalError("current transaction is aborted")
        fault.__cause__ = InFailedSqlTransaction()
        for where in ("accounts.models.Shop.get", "django.contrib.sessions.backends.db.SessionStore.load"):
            for wrong in (OperationalError("the database system is starting up"), follows, cut_off):
                with self.subTest(where, wrong=wrong), mock.patch(where, side_effect=wrong):
                    self.assert_refused(client.get(f"{API}/me"), 503, "away", words="What you typed is kept")
            for wrong in (InternalError("something else"), fault):
                with self.subTest(where, wrong=wrong), mock.patch(where, side_effect=wrong):
                    self.assert_refused(client.get(f"{API}/me"), 500, "failed")

    def test_a_job_without_a_vehicle(self) -> None:
        for vehicle in ("", "   ", "\u2003"):
            with self.subTest(vehicle):
                self.assert_refused(self.call("post", "/jobs", self.card(vehicle=vehicle)), 422, "bad_input", field="vehicle")

    def test_slips_at_the_bench(self) -> None:
        work, trial = f"/work/{self.job}", f"/trials/{self.trial}"
        basis = {"set_state": "used", "drive_flank": "convex"}
        torque = {"what": "pinion", "bearings": "new", "seal": "absent"}
        dial = {"zero": "0", "block": "1 mm", "block_read": "1 mm", "back": "0"}
        cases: list[tuple[str, dict[str, Any]]] = [
            (f"{work}/basis", {**basis, "found_backlash": "20 mm"}),
            (f"{work}/basis", {**basis, "found_backlash": "-1 mm"}),
            (f"{work}/basis", {**basis, "places": 3}),
            (f"{work}/basis", {**basis, "places": 17}),
            (f"{work}/spacer-tries", {"stack": "0.4 mm", "end_play": "8 mm"}),
            (f"{work}/spacer-tries", {"stack": "0.4 mm", "rotating_torque": "600 Nm"}),
            (f"{work}/sleeve-steps", {"sleeve": 1, "nut_turn_deg": 0, "typed": "250 Nm"}),
            (f"{trial}/torques", {**torque, "typed": "2 Nm", "seal": "fitted", "seal_drag": "500 Nm"}),
            (f"{trial}/torques", {**torque, "typed": "1000 N", "radius": "1000 mm"}),
            (f"{work}/instrument-checks", {**dial, "block": "1000 mm"}),
            (f"{work}/gear-set", {"pinion_teeth": 3, "ring_teeth": 4}),
            (f"{work}/gear-set", {"pinion_teeth": 3, "ring_teeth": 200}),
        ]
        kinds = (Basis, SpacerTry, SleeveStep, TorqueReading, InstrumentCheck, GearSetRecord)
        before = [kind.objects.count() for kind in kinds]
        for path, body in cases:
            with self.subTest(path.rsplit("/", 1)[1], body=str(body)[-60:]):
                reply = self.post(path, body)
                self.assertEqual(reply.status_code, 422, reply.content)
                self.assertRegex(reply.json()["error"]["message"], r"^\S.*[.?]$")
        self.assertEqual([kind.objects.count() for kind in kinds], before)
        for path in (f"{work}/bench", f"{work}/sheet.html", work):
            self.assertEqual(self.call("get", path).status_code, 200)

    def test_a_roll_out_in_the_wrong_unit(self) -> None:
        for typed in (220, 22_000):
            with self.subTest(typed):
                body = {"end": "rear", "rollout_mm": typed, "rollout_turns": 1}
                self.assert_refused(self.post(f"/jobs/{self.job}/axle-facts", body), 422, "bad_input", words="0.3 to 12 m")

    def test_what_an_older_release_stored_wrongly_is_shown_with_what_is_wrong(self) -> None:
        """A step of 250 Nm and a gear set of 3/200 came into the database before they were judged first."""
        isla = {"by": self.who["isla"], "by_name": "Isla Moray"}
        work = GearSetRecord.objects.get(work_id=self.job).work
        SleeveStep.objects.create(work=work, sleeve=1, nut_turn_deg=0, rotating_torque_nm=250.0, typed="250", unit="nm", **isla)
        GearSetRecord.objects.create(
            work=work, pinion_teeth=3, ring_teeth=200, question={}, answer=GearSetRecord.objects.get().answer, **isla
        )
        bench = self.call("get", f"/work/{self.job}/bench")
        self.assertEqual(bench.status_code, 200, bench.content)
        sleeve = bench.json()["preload"]["sleeve"]
        for path in ("", "/sheet.html", "/advice", "/sheet"):
            self.assertEqual(self.call("get", f"/work/{self.job}{path}").status_code, 200, path)
        step = sleeve["steps"][0]["id"]
        reply = self.post(f"/work/{self.job}/sleeve-steps/{step}/take-back", {"reason": "slipped decimal"})
        self.assertEqual(reply.status_code, 201, reply.content)
        self.assertEqual(self.post(f"/work/{self.job}/gear-set", {"pinion_teeth": 10, "ring_teeth": 41}).status_code, 201)


class Pictures(ApiTestCase):
    def setUp(self) -> None:
        self.trial = self.trial_id(self.begin(self.make_job()))

    def send(self, content: bytes, name: str = "tooth.png") -> Any:
        fields = {"client_id": str(uuid.uuid4()), "flank": "drive", "file": SimpleUploadedFile(name, content, "image/png")}
        return self.client_of("isla").post(f"{API}/trials/{self.trial}/photos", fields)

    def test_what_is_no_picture_or_far_too_large_a_one(self) -> None:
        cases = (
            ("60 000 x 60 000", huge_png(60_000)),
            ("a recording of sound", b"RIFF\x24\x00\x00\x00WAVEfmt " + b"\0" * 40),
            ("cut off", picture("PNG", (400, 300))[:200]),
            ("a page", b"<svg xmlns='http://www.w3.org/2000/svg'/>"),
        )
        for name, content in cases:
            with self.subTest(name):
                self.assertEqual(self.send(content).status_code, 422)
        self.assertEqual(PatternPhoto.objects.count(), 0)
        self.assertEqual(self.send(picture("PNG")).status_code, 201)


class Lists(ApiTestCase):
    def send(self, content: bytes) -> Any:
        fields = {"client_id": str(uuid.uuid4()), "file": SimpleUploadedFile("list.csv", content, "text/csv")}
        return self.client_of("callum").post(f"{API}/stores/gearboxes/import", fields)

    def test_bare_carriage_returns_long_cells_and_many_rows(self) -> None:
        head = b"code,name,maker,gears"
        self.assertEqual(self.send(head + b"\rone,One,M,4 2 1\rtwo,Two,M,3 2 1\r").json()["added"], 2)
        reply = self.send(head + b"\n" + b"x" * 200_000 + b",X,M,4 2 1\n")
        self.assertEqual(reply.status_code, 422, reply.content[:200])
        rows = b"".join(b"box-%d,Box %d,M,4 2 1\n" % (n, n) for n in range(5000))
        reply = self.send(head + b"\n" + rows)
        self.assertIn(reply.status_code, (200, 422))
        if reply.status_code == 200:
            self.assertEqual((reply.json()["added"], Gearbox.objects.filter(code__startswith="box-").count()), (5000, 5000))

    def test_no_cell_is_run_by_a_spreadsheet_whatever_its_width(self) -> None:
        for sign in ("=", "+", "-", "@", "＝", "＋", "－", "＠", "\t="):
            with self.subTest(sign):
                name = f"{sign}cmd()"
                row = io.StringIO()
                row.write(f'code,name,maker,gears\nbox,"{name}",M,4 2 1\n')
                self.assertEqual(self.send(row.getvalue().encode()).status_code, 200)
                text = self.call("get", "/stores/gearboxes.csv").content.decode("utf-8-sig")
                cell = next(line for line in text.splitlines() if line.startswith("box,")).split(",")[1].strip('"')
                self.assertTrue(cell.startswith("'"), cell)
                self.assertEqual(json.loads(self.call("get", "/gearboxes").content)[-1]["name"].strip(), name.strip())
