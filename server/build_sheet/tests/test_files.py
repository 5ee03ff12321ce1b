"""Open files: the whole job out and in again, and every way a file can be wrong."""

from __future__ import annotations

import csv
import io
import json
import zipfile
from pathlib import Path
from typing import Any

from django.conf import settings
from django.core.files.uploadedfile import SimpleUploadedFile
from django.db import connection
from django.test import TransactionTestCase

from accounts import demo as people
from build_sheet.job_file import VERSION, json_schema
from jobs.models import Job
from setup_bench.models import Reading, Trial
from stores.models import AxleFamily
from test_support.api_case import API, ApiTestCase
from test_support.demo import demo_workshop
from work.models import StepRecord


def without_clock(plain: dict[str, Any]) -> dict[str, Any]:
    """What stays the same on the way there and back: all but the clock, the hash of it, and that a sign-off is now said by a file."""
    for work in plain["works"]:
        work["sheet_revision"] = 1
        for sign_off in work["sign_offs"]:
            sign_off["origin"] = "file"
    return {key: value for key, value in plain.items() if key not in ("exported_at", "hash")}


class Files(ApiTestCase):
    def exported(self) -> dict[str, Any]:
        job = self.make_job()
        trial = self.measured(job, "0.10 mm")
        first = Reading.objects.earliest("id")
        self.post(f"/readings/{first.client_id}/strike-out", {"reason": "=cmd()"})
        self.read(trial, "4 thou", 0.0)
        self.pass_all(job, until="as_found")
        found: dict[str, Any] = self.call("get", f"/jobs/{job}/job.json").json()
        return found

    def send(self, content: bytes, *, by: str = "isla") -> Any:
        return self.client_of(by).post(f"{API}/import", {"file": SimpleUploadedFile("job.json", content, "application/json")})

    def test_csv_has_every_reading_and_runs_nothing(self) -> None:
        plain = self.exported()
        text = self.call("get", f"/work/{plain['job']['id']}/readings.csv").content.decode()
        rows = list(csv.DictReader(io.StringIO(text)))
        self.assertEqual(len(rows), 9)
        self.assertEqual(
            (rows[0]["typed"], rows[0]["backlash_mm"], rows[0]["struck_out"], rows[0]["reason"]), ("0.10 mm", "0.1000", "yes", "'=cmd()")
        )
        self.assertEqual((rows[-1]["typed"], rows[-1]["unit"]), ("4 thou", "thou"))

    def test_the_documented_schema_is_what_the_code_reads(self) -> None:
        kept = json.loads((Path(settings.ROOT) / "docs/formats/job.schema.json").read_text())
        self.assertEqual(kept, json.loads(json.dumps(json_schema())))

    def test_a_job_that_is_here_already(self) -> None:
        self.assert_refused(self.send(json.dumps(self.exported()).encode()), 409, "here_already")

    def test_wrong_files_each_get_one_sentence_and_leave_nothing(self) -> None:
        good = self.exported()
        text = json.dumps(good)

        def changed(**parts: Any) -> bytes:
            return json.dumps({**good, **parts}).encode()

        other_job = {**good["job"], "id": "00000000-0000-4000-8000-000000000001", "number": 9999}
        work = good["works"][0]

        def changed_work(**parts: Any) -> bytes:
            return changed(job=other_job, works=[{**work, "id": other_job["id"], **parts}])

        lost = [{**work["readings"][0], "trial": "00000000-0000-4000-8000-00000000000f"}]
        twice = [*work["steps"], work["steps"][0]]
        cases: list[tuple[str, bytes, int, str, str]] = [
            ("cut off", text[: len(text) // 2].encode(), 422, "not_json", "cut off"),
            ("empty", b"", 422, "not_json", "cut off"),
            ("a picture", b"\x89PNG\xff\xfe\x00", 422, "not_json", "not text"),
            ("deeply nested", b"[" * 100_000, 422, "not_json", "nested too deeply"),
            ("something else", b'{"format": "shopping list"}', 422, "other_format", "not an Amber Pinion job file"),
            ("newer", changed(version=VERSION + 1), 422, "newer_version", "newer release"),
            ("no version", changed(version="one"), 422, "no_version", "does not give its version"),
            ("a reference into nothing", changed_work(readings=lost), 422, "missing_reference", "points to a trial"),
            ("a field that is missing", changed(job={}), 422, "bad_file", "job.id"),
            (
                "an absurd reading",
                changed_work(readings=[{**work["readings"][0], "value_mm": 900}]),
                422,
                "bad_file",
                "readings[0].value_mm",
            ),
            ("an unknown field", changed(mood="good"), 422, "bad_file", "mood"),
            (
                "shims on an axle with adjusters",
                changed_work(sheet={**work["sheet"], "carrier_method": "adjusters", "notch_mm": 0.05}),
                422,
                "bad_file",
                "does not fit",
            ),
            ("an entry twice", changed_work(steps=twice), 409, "here_already", "in the file twice"),
            ("fifty megabytes", b"[" + b" " * (50 * 2**20) + b"]", 413, "too_large", "50 MB"),
        ]
        before = (Job.objects.count(), Trial.objects.count(), Reading.objects.count(), StepRecord.objects.count())
        for name, content, status, code, words in cases:
            with self.subTest(name):
                reply = self.send(content)
                self.assert_refused(reply, status, code, words=words)
                self.assertIn("Nothing was imported", reply.json()["error"]["message"])
                self.assertEqual((Job.objects.count(), Trial.objects.count(), Reading.objects.count(), StepRecord.objects.count()), before)

    def test_who_may(self) -> None:
        content = json.dumps(self.exported()).encode()
        self.assertEqual(self.send(content, by="visitor").status_code, 403)


class IntoAnEmptyDatabase(TransactionTestCase):
    """Every demo job, signed or not, comes back the same."""

    def test_there_and_back(self) -> None:
        demo_workshop()
        client = self.client_class()
        both = people.load_second()[1]["halla"]  # who looks after both workshops
        client.force_login(both, backend="django.contrib.auth.backends.ModelBackend")
        files = {str(job.pk): client.get(f"{API}/jobs/{job.pk}/job.zip").content for job in Job.objects.all()}
        self.assertGreaterEqual(len(files), 8)
        tables = [
            table
            for table in connection.introspection.table_names()
            if table.split("_")[0]
            in ("jobs", "work", "vehicles", "records", "setup", "build", "stores", "accounts", "driveline", "noise", "ratio", "parts")
        ]
        with connection.cursor() as cursor:
            cursor.execute(f"TRUNCATE {', '.join(tables)} CASCADE")
        self.assertEqual((Job.objects.count(), AxleFamily.objects.count()), (0, 0))

        client.force_login(people.load()["greta"], backend="django.contrib.auth.backends.ModelBackend")
        for job, content in files.items():
            reply = client.post(f"{API}/import", {"file": SimpleUploadedFile("job.zip", content, "application/zip")})
            self.assertEqual(reply.status_code, 201, reply.content)
            again = client.get(f"{API}/jobs/{job}/job.json")
            with zipfile.ZipFile(io.BytesIO(content)) as packed:
                self.assertEqual(without_clock(again.json()), without_clock(json.loads(packed.read("job.json"))))
        self.assertEqual(client.get(f"{API}/floor?state=done").json()["jobs"], [])  # nobody has signed anything here
        (van,) = client.get(f"{API}/floor?search=417").json()["jobs"]
        shown = client.get(f"{API}/jobs/{van['id']}").json()
        self.assertEqual((shown["imported_by_name"], shown["imported_note"], shown["state"]), ("Greta Fell", "", "to_sign"))
        (said,) = client.get(f"{API}/work/{van['id']}/sheet").json()["sign_offs"]
        self.assertEqual((said["origin"], said["by_name"], said["document"]["changed"]), ("file", "Greta Fell", False))
