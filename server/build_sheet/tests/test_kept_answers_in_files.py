"""What desks and the bench keep, in the job's file and on its sheet: out, in again, and what a damaged one gets."""

from __future__ import annotations

import json
import uuid
from copy import deepcopy
from typing import Any

from django.core.files.uploadedfile import SimpleUploadedFile

from driveline_desk.models import JointInspection
from driveline_desk.tests.test_desk import inputs as driveline_inputs
from jobs.models import Job
from noise_finder.tests.test_finder import VAN
from test_support.api_case import API, ApiTestCase
from work.models import Area, KeptAnswer


class TakenAlong(ApiTestCase):
    def setUp(self) -> None:
        self.job = self.make_job()
        self.post(f"/work/{self.job}/driveline-results", {"title": "Lifted", "inputs": driveline_inputs(tried={"wedge_deg": 2})})
        felt = {"first_way": "free", "other_way": "notchy", "play": False, "rust": False, "clips": "seated", "nipple": "none"}
        self.post(f"/work/{self.job}/joint-inspections", {"shaft": "rear", "joint": 2, "felt": felt, "decision": "replace"})
        asked = {"drivetrain": VAN, "tests": [{"speed_kmh": 90, "f_hz": 46.6}], "outcomes": [{"code": "gear", "result": "stayed"}]}
        self.post(f"/work/{self.job}/noise-findings", {"title": "Buzz", "felt": asked})
        typed = {"gap_now_mm": "4.9 mm", "gap_before_mm": "2.0 mm"}
        self.post(f"/work/{self.job}/diff-results", {"title": "Left, not home", "tool": "half_shaft", "values": typed, "gauge": "caliper"})

    def file(self) -> dict[str, Any]:
        """The job's file under other ids, as if it came from another workshop."""
        found: dict[str, Any] = self.call("get", f"/jobs/{self.job}/job.json").json()
        plain = deepcopy(found)
        plain["job"]["id"] = plain["works"][0]["id"] = str(uuid.uuid4())
        for rows in [*plain["works"][0].values(), plain["station_records"], plain["axle_facts"]]:
            for row in rows if isinstance(rows, list) else []:
                if "id" in row:
                    row["id"] = str(uuid.uuid4())
        return plain

    def send(self, plain: dict[str, Any]) -> Any:
        content = json.dumps(plain).encode()
        return self.client_of("isla").post(f"{API}/import", {"file": SimpleUploadedFile("job.json", content, "application/json")})

    def test_all_of_it_comes_in_again_as_it_was(self) -> None:
        plain = self.file()
        self.assertEqual(self.send(plain).status_code, 201)
        other = Job.objects.get(pk=plain["job"]["id"])
        kept = ("title", "about", "inputs", "answer", "engine_version")
        for rows, fields in (
            (KeptAnswer.objects.filter(area=Area.DRIVELINE), kept),
            (JointInspection.objects.all(), ("shaft", "joint", "felt", "proposed", "decision", "note")),
            (KeptAnswer.objects.filter(area=Area.NOISE), kept),
            (KeptAnswer.objects.filter(area=Area.DIFF), (*kept, "step_code", "summary")),
        ):
            first, second = (rows.get(work_id=job) for job in (self.job, other.pk))
            with self.subTest(fields):
                for field in fields:
                    self.assertEqual(getattr(second, field), getattr(first, field), field)
                self.assertIsNone(second.by)  # a name in a file is no login here
                self.assertEqual(second.by_name, first.by_name)

    def test_the_sheet_of_the_imported_job_is_the_same(self) -> None:
        plain = self.file()
        self.send(plain)
        pages = [self.call("get", f"/work/{job}/sheet.html").content.decode() for job in (self.job, plain["job"]["id"])]
        for page in pages:
            for words in ("Rear driveline: Lifted", "With the remedy", "joint 2: <strong>replace</strong>", "Noise and vibration", "Buzz"):
                with self.subTest(words):
                    self.assertIn(words, page)

    def test_a_damaged_part_is_named_and_nothing_is_kept(self) -> None:
        before = (Job.objects.count(), KeptAnswer.objects.count())
        changes: list[tuple[str, Any]] = [
            ("driveline_results", lambda row: row["inputs"]["readings"].update(shafts=[])),
            ("driveline_results", lambda row: row.update(shaft="middle")),
            ("joint_inspections", lambda row: row.update(joint=9)),
            ("joint_inspections", lambda row: row["felt"].update(first_way="so-so")),
            ("noise_findings", lambda row: row.update(felt=None)),
            ("noise_findings", lambda row: row.update(kind="dreamt")),
        ]
        for part, change in changes:
            plain = self.file()
            change(plain["works"][0][part][0])
            reply = self.send(plain)
            with self.subTest(part):
                self.assertEqual(reply.status_code, 422, reply.content)
                self.assertRegex(reply.json()["error"]["message"], r"^\S.*\.$")
        self.assertEqual((Job.objects.count(), KeptAnswer.objects.count()), before)

    def test_a_decision_without_its_reason_is_refused(self) -> None:
        plain = self.file()
        plain["works"][0]["joint_inspections"][0]["decision"] = "reuse"
        self.assert_refused(self.send(plain), 422, "bad_file", field="joint_inspections", words="does not say why")
        self.assertFalse(Job.objects.filter(pk=plain["job"]["id"]).exists())
