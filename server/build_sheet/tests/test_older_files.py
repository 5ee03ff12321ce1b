"""Files of older releases come in, and no file can take what the next job needs."""

from __future__ import annotations

import json
import uuid
from pathlib import Path
from typing import Any

from django.core.files.uploadedfile import SimpleUploadedFile

from amber_core.procedures.library import before_acts
from build_sheet.importing import NO_HASH
from build_sheet.job_file import VERSION, content_hash
from jobs.models import Job
from setup_bench.models import Reading
from test_support.api_case import API, ApiTestCase
from vehicles.models import Vehicle
from work.models import Work

_OLD = (Path(__file__).parent / "older_files/version-2-signed.json").read_text()
_NOT_IN_VERSION_1 = (
    *("conditions", "bases", "photos", "patterns", "torques", "depths", "sleeve_steps", "spacer_tries", "instrument_checks", "axle_facts"),
    *("ratio_results", "driveline_results", "joint_inspections", "noise_findings"),
)


def version_1() -> dict[str, Any]:
    """What the first release wrote: no depth, patterns or torques yet."""
    plain = {name: one for name, one in json.loads(_OLD).items() if name not in _NOT_IN_VERSION_1}
    later = ("depth_pieces", "spacer_pieces", "preload_part", "bearings", "is_final", "conditions_asked", "expected")
    trials = [{name: one for name, one in trial.items() if name not in later} for trial in plain["trials"]]
    return {**plain, "version": 1, "trials": trials}


class OlderFiles(ApiTestCase):
    def send(self, plain: dict[str, Any], **more: str) -> Any:
        file = SimpleUploadedFile("job.json", json.dumps(plain).encode(), "application/json")
        return self.client_of("isla").post(f"{API}/import", {"client_id": str(uuid.uuid4()), **more, "file": file})

    def test_both_older_versions_come_in_with_all_that_was_recorded(self) -> None:
        for plain in (json.loads(_OLD), version_1()):
            with self.subTest(version=plain["version"]):
                plain["job"]["id"] = str(uuid.uuid4())
                text = json.dumps(plain)
                for one in {row["id"] for rows in plain.values() if isinstance(rows, list) for row in rows if "id" in row}:
                    text = text.replace(one, str(uuid.uuid4()))
                reply = self.send(json.loads(text))
                self.assertEqual(reply.status_code, 201, reply.content)
                job = reply.json()["job_id"]
                self.assertEqual(job, plain["job"]["id"])
                work = self.call("get", f"/work/{job}").json()
                self.assertEqual((work["family"], work["gear_set"]["pinion_teeth"]), (plain["family"]["code"], 11))
                self.assertEqual(Reading.objects.filter(trial__work=job).count(), len(plain["readings"]))
                sheet = self.call("get", f"/work/{job}/sheet").json()
                self.assertEqual([(one["origin"], one["by_name"]) for one in sheet["sign_offs"]], [("file", "Greta Fell")])
                self.assertEqual((sheet["signed"], sheet["imported_note"]), (False, NO_HASH))
                again = self.call("get", f"/jobs/{job}/job.json").json()
                self.assertEqual((again["version"], len(again["works"][0]["trials"])), (VERSION, len(plain["trials"])))

    def test_version_3_is_worked_on_by_the_run_sheet_that_it_was_worked_by(self) -> None:
        plain = json.loads(_OLD)
        job = self.send(plain).json()["job_id"]
        steps = [one["code"] for one in self.call("get", f"/work/{job}").json()["steps"]]
        self.assertEqual((steps[0], steps[-1]), ("stands_and_chocks", "road_test"))
        newer = self.call("get", f"/jobs/{job}/job.json").json()
        work = newer["works"][0]
        self.assertEqual(work.pop("procedure"), before_acts())
        work["sheet"].pop("shafts")
        for step in work["steps"]:
            self.assertEqual((step.pop("until"), step.pop("readings")), (None, []))
        text = json.dumps({**newer, "version": 3})
        for one in {newer["job"]["id"], *(row["id"] for rows in work.values() if isinstance(rows, list) for row in rows if "id" in row)}:
            text = text.replace(one, str(uuid.uuid4()))
        again = json.loads(text)
        reply = self.send({**again, "hash": content_hash(again)})
        self.assertEqual(reply.status_code, 201, reply.content)
        self.assertEqual([one["code"] for one in self.call("get", f"/work/{reply.json()['job_id']}").json()["steps"]], steps)

    def test_version_4_is_judged_by_the_sheet_that_it_brings(self) -> None:
        plain = json.loads((Path(__file__).parent / "older_files/version-4-clutch-packs.json").read_text())
        self.assertEqual((plain["version"], plain["hash"]), (4, content_hash(plain)))
        reply = self.send(plain)
        self.assertEqual(reply.status_code, 201, reply.content)
        work = Work.objects.get(job_id=reply.json()["job_id"])
        assert work.sheet_revision is not None
        self.assertTrue(work.sheet_revision.from_file)
        caps, ring = work.sheet.fastener("cap_bolts"), work.sheet.fastener("ring_bolts")
        self.assertEqual((caps and (caps.count, caps.torque_nm), ring and ring.count), ((4, None), 10))
        self.assertFalse(work.sheet.fluids)

    def test_a_file_cannot_leave_out_a_hold_point(self) -> None:
        job = self.make_job()
        plain = self.call("get", f"/jobs/{job}/job.json").json()
        work = plain["works"][0]
        steps = len(self.call("get", f"/work/{job}").json()["steps"])
        for name, procedure in (("none", []), ("all but one", [one for one in work["procedure"] if one["step"]["code"] != "fill_plug"])):
            with self.subTest(name):
                text = json.dumps({**plain, "works": [{**work, "procedure": procedure}]})
                for one in {plain["job"]["id"], *(row["id"] for row in [*work["gear_sets"], *plain["station_records"]])}:
                    text = text.replace(one, str(uuid.uuid4()))
                again = json.loads(text)
                reply = self.send({**again, "hash": content_hash(again)})
                self.assertEqual(reply.status_code, 201, reply.content)
                self.assertEqual(len(self.call("get", f"/work/{reply.json()['job_id']}").json()["steps"]), steps)

    def test_version_5_comes_in_without_a_wall(self) -> None:
        plain = json.loads((Path(__file__).parent / "older_files/version-5-final-drive.json").read_text())
        self.assertEqual((plain["version"], plain["hash"]), (5, content_hash(plain)))
        job = self.send(plain).json()["job_id"]
        self.assertEqual(Job.objects.get(pk=job).imported_note, "")
        wall = self.call("get", f"/work/{job}/parts").json()
        self.assertEqual((wall["guessed"], [one for one in wall["parts"] if one["off"]]), (True, []))
        again = self.call("get", f"/jobs/{job}/job.json").json()
        self.assertEqual((again["version"], again["works"][0]["steps"]), (VERSION, plain["works"][0]["steps"]))

    def test_version_6_comes_in_with_its_wall_and_an_empty_bench(self) -> None:
        plain = json.loads((Path(__file__).parent / "older_files/version-6-final-drive-in-parts.json").read_text())
        self.assertEqual((plain["version"], plain["hash"]), (6, content_hash(plain)))
        job = self.send(plain).json()["job_id"]
        wall = self.call("get", f"/work/{job}/parts").json()
        self.assertGreater(len([one for one in wall["parts"] if one["off"]]), 3)
        self.assertEqual(self.call("get", f"/work/{job}/diff-bench").json()["results"], [])
        again = self.call("get", f"/jobs/{job}/job.json").json()
        self.assertEqual((again["version"], again["works"][0]["part_records"]), (VERSION, plain["works"][0]["part_records"]))

    def test_two_jobs_of_one_vehicle_come_to_one_vehicle(self) -> None:
        plain = json.loads(_OLD)
        bare = {name: [] if isinstance(one, list) and name != "stations" else one for name, one in plain.items()}
        jobs = []
        for number in (1, 2):
            bare["job"] = {**plain["job"], "id": str(uuid.uuid4()), "number": 9000 + number}
            jobs.append(self.send(bare).json()["job_id"])
        vehicles = {Job.objects.get(pk=job).vehicle_id for job in jobs}
        self.assertEqual(len(vehicles), 1)
        visits = self.call("get", f"/vehicles/{vehicles.pop()}/visits").json()
        self.assertEqual({one["job_id"] for one in visits}, set(jobs))

    def test_a_sheet_for_another_part_is_refused(self) -> None:
        plain = json.loads((Path(__file__).parent / "older_files/version-4-clutch-packs.json").read_text())
        plain["version"] = 6
        plain["works"][0]["sheet"]["part"] = "propshaft"
        self.assert_refused(self.send(plain), 422, "bad_file", field="works[0].sheet.part", words="another part")

    def test_a_vehicle_that_looks_the_same_is_asked_about_and_never_doubled(self) -> None:
        plain = json.loads((Path(__file__).parent / "older_files/version-4-clutch-packs.json").read_text())
        part = plain["vehicle"]
        here = self.make_job(customer=part["owner"].upper(), vehicle=part["name"].lower())
        mine = Job.objects.get(pk=here).vehicle
        asked = self.send(plain)
        self.assert_refused(asked, 409, "same_vehicle", field="vehicle", words="Is it that one?")
        self.assertEqual([one["id"] for one in asked.json()["current"]["vehicles"]], [str(mine.pk)])
        self.assert_refused(self.send(plain, vehicle=str(uuid.uuid4())), 422, "bad_input", field="vehicle")
        self.assert_refused(self.send(plain, vehicle="the other one"), 422, "bad_input", field="form.vehicle")
        self.assertEqual((Job.objects.count(), Vehicle.objects.count()), (1, 1))
        taken = self.send(plain, vehicle=str(mine.pk))
        self.assertEqual(taken.status_code, 201, taken.content)
        self.assertEqual((Job.objects.get(pk=taken.json()["job_id"]).vehicle, Vehicle.objects.count()), (mine, 1))

    def test_whatever_number_a_file_has_the_next_job_gets_one(self) -> None:
        plain = json.loads(_OLD)
        bare = {name: [] if isinstance(one, list) and name != "stations" else one for name, one in plain.items()}
        first = Job.objects.get(pk=self.make_job()).number
        for number in (first + 1, first + 2, first, 2_000_000_000):
            with self.subTest(number=number - first):
                bare["job"] = {**plain["job"], "id": str(uuid.uuid4()), "number": number}
                reply = self.send(bare)
                self.assertEqual(reply.status_code, 201, reply.content)
                self.assertNotEqual(reply.json()["number"], first)
                for _ in range(2):
                    self.make_job()
        numbers = list(Job.objects.values_list("number", flat=True))
        self.assertEqual((len(numbers), len(set(numbers))), (13, 13))

    def test_a_year_nobody_lives_in_and_figures_that_are_none(self) -> None:
        plain = json.loads(_OLD)
        plain["job"]["id"] = str(uuid.uuid4())
        text = json.dumps(plain)
        value = json.dumps(plain["readings"][0]["value_mm"])
        cases = (
            ("year 9999", text.replace(plain["job"]["created_at"], "9999-12-31T23:59:59Z", 1), "cannot be right"),
            ("NaN", text.replace(f'"value_mm": {value}', '"value_mm": NaN', 1), "NaN"),
            ("1e999", text.replace(f'"value_mm": {value}', '"value_mm": 1e999', 1), "too long"),
            (
                "ten megabytes of digits",
                text.replace(f'"value_mm": {value}', f'"value_mm": {"9" * (10**7 - len(text))}', 1),
                "too long",
            ),
            ("NUL", text.replace("Skerrow Post", "Skerrow\\u0000Post", 1), "cannot be stored"),
            ("half a character", text.replace("Skerrow Post", "Skerrow\\ud83dPost", 1), "cannot be stored"),
        )
        for name, changed, words in cases:
            with self.subTest(name):
                file = SimpleUploadedFile("job.json", changed.encode(), "application/json")
                reply = self.client_of("isla").post(f"{API}/import", {"file": file})
                self.assertEqual(reply.status_code, 422, reply.content[:200])
                self.assertIn(words, reply.json()["error"]["message"])
        self.assertEqual(Work.objects.count(), 0)
