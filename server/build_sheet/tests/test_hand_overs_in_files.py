"""A job's file with its hand-over: the page, what comes due after it, and the vehicle's odometer."""

from __future__ import annotations

import json
import re
import uuid
from collections import defaultdict
from pathlib import Path
from typing import Any

from django.core.files.uploadedfile import SimpleUploadedFile

from build_sheet.job_file import VERSION, content_hash
from hand_over.models import FollowUp, HandOver
from test_support.api_case import API, ApiTestCase
from test_support.finished import finished_job
from vehicles.models import OdometerReading
from work.models import Work

_ID = re.compile(r"[0-9a-f]{8}(?:-[0-9a-f]{4}){3}-[0-9a-f]{12}")


class HandOversInFiles(ApiTestCase):
    def setUp(self) -> None:
        self.job = finished_job(self.who["isla"])
        self.post(f"/work/{self.job}/sign-off", {}, by="greta")
        told = {"not_done": "Worn front tyres: {declined}", "guarantee": "Two years"}
        given = self.post(f"/jobs/{self.job}/hand-over", {"odometer": "81260", "received_by": "A. Postmistress", **told}, by="callum")
        nuts = next(one for one in given.json()["follow_ups"] if one["code"] == "wheel_nuts")
        self.post(f"/follow-ups/{nuts['id']}/end", {"note": "140 Nm"})

    def file(self, job: str) -> dict[str, Any]:
        return dict(self.call("get", f"/jobs/{job}/job.json").json())

    def elsewhere(self) -> dict[str, Any]:
        """The same job under other ids, so that it can come in beside this one."""
        new: defaultdict[str, str] = defaultdict(lambda: str(uuid.uuid4()))
        return dict(json.loads(_ID.sub(lambda found: new[found[0]], json.dumps(self.file(self.job)))))

    def send(self, plain: dict[str, Any]) -> Any:
        file = SimpleUploadedFile("job.json", json.dumps({**plain, "hash": content_hash(plain)}).encode(), "application/json")
        return self.client_of("isla").post(f"{API}/import", {"client_id": str(uuid.uuid4()), "vehicle": "new", "file": file})

    def test_page_follow_ups_and_odometer_come_again(self) -> None:
        plain = self.elsewhere()
        reply = self.send(plain)
        self.assertEqual(reply.status_code, 201, reply.content)
        job = reply.json()["job_id"]
        again = self.file(job)
        self.assertEqual((again["hand_overs"], again["odometer"]), (plain["hand_overs"], plain["odometer"]))
        here, there = (self.client_of("isla").get(f"{API}/jobs/{one}/hand-over.html").content.decode() for one in (self.job, job))
        self.assertEqual(here.replace("to A. Postmistress", "to A. Postmistress, as the imported file says"), there)
        self.assertIn("Worn front tyres: {declined}", there)
        found = self.call("get", f"/jobs/{job}/hand-over").json()
        self.assertEqual((found["by_file"], self.call("get", f"/jobs/{self.job}/hand-over").json()["by_file"]), (True, False))
        shown = {one["code"]: one["ended"] for one in found["follow_ups"]}
        self.assertEqual((shown["wheel_nuts"], shown["leak_morning"]), ("done", None))
        self.assertEqual(HandOver.objects.get(job=job).by, None)  # a name in a file is no login here

    def test_a_second_job_of_the_vehicle_brings_its_odometer_once(self) -> None:
        first = self.elsewhere()
        self.send(first)
        readings, text = OdometerReading.objects.count(), json.dumps({**first, "odometer": []})
        kept = {first["vehicle"]["id"], *(one["id"] for one in first["odometer"])}
        new: defaultdict[str, str] = defaultdict(lambda: str(uuid.uuid4()))
        second = json.loads(_ID.sub(lambda found: found[0] if found[0] in kept else new[found[0]], text))
        self.assertEqual(self.send({**second, "odometer": first["odometer"]}).status_code, 201)
        self.assertEqual(OdometerReading.objects.count(), readings)

    def test_a_page_that_cannot_be_shown_is_refused_and_leaves_nothing(self) -> None:
        plain, jobs = self.elsewhere(), Work.objects.count()
        page = plain["hand_overs"][0]["page"]
        for wrong in (
            {name: one for name, one in page.items() if name != "works"},
            {**page, "day": "yesterday"},
            {**page, "plan": [{**page["plan"][0], "at_km": 1e300}]},
            {**page, "script": "x"},
        ):
            with self.subTest(sorted(wrong)[:3]):
                reply = self.send({**plain, "hand_overs": [{**plain["hand_overs"][0], "page": wrong}]})
                self.assert_refused(reply, 422, "bad_file")
        due = {**plain["hand_overs"][0]["follow_ups"][0], "text": "x" * 601}
        reply = self.send({**plain, "hand_overs": [{**plain["hand_overs"][0], "follow_ups": [due]}]})
        self.assert_refused(reply, 422, "bad_file", words="empty or too long")
        self.assertEqual((Work.objects.count(), FollowUp.objects.exclude(hand_over__job_id=uuid.UUID(self.job)).count()), (jobs, 0))

    def test_version_7_comes_in_without_a_hand_over(self) -> None:
        plain = json.loads((Path(__file__).parent / "older_files/version-7-bench-tools.json").read_text())
        self.assertEqual((plain["version"], plain["hash"]), (7, content_hash(plain)))
        job = self.send(plain).json()["job_id"]
        again = self.file(job)
        self.assertEqual((again["version"], again["hand_overs"]), (VERSION, []))
        self.assertEqual(len(again["works"][0]["bench_results"]), 2)
        self.assertEqual(self.call("get", f"/jobs/{job}/hand-over").json()["follow_ups"], [])
