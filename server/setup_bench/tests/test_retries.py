"""Every write of the bench sent twice is one row; a signed job takes none; nobody reaches another's rows by a wrong id."""

from __future__ import annotations

import uuid
from typing import Any

from django.core.files.uploadedfile import SimpleUploadedFile

from setup_bench.models import (
    Basis,
    BenchFinding,
    ConditionCheck,
    DepthReading,
    InstrumentCheck,
    PatternPhoto,
    PatternReading,
    SleeveStep,
    SpacerTry,
    TorqueReading,
    Trial,
)
from test_support.api_case import API, ApiTestCase, picture
from test_support.finished import finished_job
from work.models import Work

JPEG = picture()
PATTERN = {"flank": "drive", "u": 0.5, "v": 0.5, "length": 0.5, "height": 0.5, "tilt_deg": 0.0}
TORQUE = {"what": "pinion", "typed": "2 Nm", "bearings": "new", "seal": "absent"}
DEPTH = {"tool": "bar", "reading": "68.42", "bar": "10"}


class Twice(ApiTestCase):
    def setUp(self) -> None:
        self.job = self.make_job()
        self.trial = self.trial_id(self.begin(self.job))

    def writes(self) -> list[tuple[str, dict[str, Any], type[Any]]]:
        return [
            (f"/trials/{self.trial}/conditions", {}, ConditionCheck),
            (f"/trials/{self.trial}/patterns", PATTERN, PatternReading),
            (f"/trials/{self.trial}/torques", TORQUE, TorqueReading),
            (f"/trials/{self.trial}/depths", DEPTH, DepthReading),
            (f"/work/{self.job}/basis", {"set_state": "new", "drive_flank": "convex"}, Basis),
            (f"/work/{self.job}/sleeve-steps", {"sleeve": 1, "nut_turn_deg": 0, "typed": "0.3 Nm"}, SleeveStep),
            (f"/work/{self.job}/spacer-tries", {"stack": "0.4 mm", "end_play": "0.1 mm"}, SpacerTry),
            (f"/work/{self.job}/instrument-checks", {"zero": "0", "block": "1 mm", "block_read": "1 mm", "back": "0"}, InstrumentCheck),
        ]

    def test_a_retry_after_a_lost_answer_writes_nothing_twice(self) -> None:
        for path, body, kind in self.writes():
            sent = {**body, "client_id": str(uuid.uuid4())}
            with self.subTest(path.rsplit("/", 1)[1]):
                for _ in range(3):
                    self.assertEqual(self.call("post", path, sent).status_code, 201)
                self.assertEqual(kind.objects.count(), 1)
                row = kind.objects.get()
                self.assertEqual((str(row.client_id), row.by_name), (sent["client_id"], "Isla Moray"))

    def test_a_photo_sent_twice_is_one_photo(self) -> None:
        client_id = str(uuid.uuid4())
        for _ in range(2):
            file = SimpleUploadedFile("tooth.jpg", JPEG, "image/jpeg")
            sent = {"client_id": client_id, "flank": "coast", "file": file}
            self.assertEqual(self.client_of("isla").post(f"{API}/trials/{self.trial}/photos", sent).status_code, 201)
        self.assertEqual(PatternPhoto.objects.count(), 1)

    def test_conditions_confirmed_by_two_people_are_one_row_by_the_first(self) -> None:
        for by in ("isla", "tam"):
            self.assertEqual(self.confirm(self.trial, by=by).status_code, 201)
        self.assertEqual([row.by_name for row in ConditionCheck.objects.all()], ["Isla Moray"])

    def test_a_signed_job_takes_nothing_more(self) -> None:
        self.job = finished_job(self.who["isla"])
        self.trial = str(Trial.objects.filter(work_id=self.job).latest("number").client_id)
        self.post(f"/work/{self.job}/sign-off", {}, by="greta")
        self.assertIsNotNone(Work.objects.get(pk=self.job).signed_off_at)
        counts = [kind.objects.count() for _, _, kind in self.writes()]
        for path, body, _ in self.writes():
            with self.subTest(path.rsplit("/", 1)[1]):
                self.assert_refused(self.post(path, body), 409, "signed_off")
        self.assertEqual([kind.objects.count() for _, _, kind in self.writes()], counts)

    def test_ids_of_nothing_are_not_found(self) -> None:
        nowhere = str(uuid.uuid4())
        for path, body, _ in self.writes():
            elsewhere = path.replace(self.trial, nowhere).replace(self.job, nowhere)
            with self.subTest(path.rsplit("/", 1)[1]):
                self.assertEqual(self.post(elsewhere, body).status_code, 404)


class WhatCannotBe(ApiTestCase):
    def setUp(self) -> None:
        self.job = self.make_job()
        self.trial = self.trial_id(self.begin(self.job))

    def refused(self, path: str, body: dict[str, Any], field: str) -> None:
        reply = self.post(path, body)
        self.assertEqual(reply.status_code, 422, reply.content)
        self.assertIn(field, reply.json()["error"]["field"])

    def test_absurd_empty_and_wrong_units(self) -> None:
        trial, job = f"/trials/{self.trial}", f"/work/{self.job}"
        cases: list[tuple[str, dict[str, Any], str]] = [
            (f"{trial}/patterns", {**PATTERN, "u": 1.4}, "u"),
            (f"{trial}/patterns", {**PATTERN, "length": 0}, "length"),
            (f"{trial}/patterns", {**PATTERN, "runs_off": ["middle"]}, "runs_off"),
            (f"{trial}/patterns", {**PATTERN, "photo": str(uuid.uuid4())}, "photo"),
            (f"{trial}/torques", {**TORQUE, "typed": ""}, "typed"),
            (f"{trial}/torques", {**TORQUE, "typed": "2 mm"}, "typed"),
            (f"{trial}/torques", {**TORQUE, "typed": "9000"}, "typed"),
            (f"{trial}/torques", {**TORQUE, "typed": "20 N", "radius": "four"}, "radius"),
            (f"{trial}/depths", {**DEPTH, "reading": ""}, "reading"),
            (f"{trial}/depths", {**DEPTH, "reading": "6842"}, "reading"),
            (f"{trial}/depths", {**DEPTH, "reading": "90.00"}, "reading"),
            (f"{job}/basis", {"set_state": "worn", "drive_flank": "convex"}, "set_state"),
            (f"{job}/basis", {"set_state": "used", "drive_flank": "convex", "found_backlash": "loose"}, "found_backlash"),
            (f"{job}/sleeve-steps", {"sleeve": 1, "nut_turn_deg": -5, "typed": "1 Nm"}, "nut_turn_deg"),
            (f"{job}/sleeve-steps", {"sleeve": 1, "nut_turn_deg": 5, "typed": "much"}, "typed"),
            (f"{job}/spacer-tries", {"stack": "0.4 mm +", "end_play": "0.1 mm"}, "stack"),
            (f"{job}/instrument-checks", {"zero": "0", "block": "0", "block_read": "1 mm", "back": "0"}, "block"),
        ]
        for path, body, field in cases:
            with self.subTest(path.rsplit("/", 1)[1], field=field, body=str(body)[:60]):
                self.refused(path, body, field)
        self.assertEqual((PatternReading.objects.count(), TorqueReading.objects.count(), DepthReading.objects.count()), (0, 0, 0))

    def test_a_decimal_comma_is_a_decimal_point(self) -> None:
        found = self.post(f"/trials/{self.trial}/torques", {**TORQUE, "typed": "2,1 Nm"}).json()["trials"][0]["pinion_torque"]
        self.assertEqual((found["value_nm"], found["typed"]), (2.1, "2,1 Nm"))

    def test_a_second_sleeve_begins_from_nothing_and_the_first_is_used_up(self) -> None:
        path = f"/work/{self.job}/sleeve-steps"
        for turn, typed in ((0, "0.3 Nm"), (40, "1.5 Nm"), (60, "4.0 Nm")):
            past = self.post(path, {"sleeve": 1, "nut_turn_deg": turn, "typed": typed}).json()["preload"]["sleeve"]
        self.assertEqual(past["answer"]["state"], "past")
        self.refused(path, {"sleeve": 1, "nut_turn_deg": 50, "typed": "2 Nm"}, "nut_turn_deg")
        fresh = self.post(path, {"sleeve": 2, "nut_turn_deg": 0, "typed": "0.3 Nm"}).json()["preload"]["sleeve"]
        self.assertEqual((fresh["number"], fresh["used_up"], len(fresh["steps"])), (2, 1, 1))
        self.assert_refused(self.post(path, {"sleeve": 9, "nut_turn_deg": 0, "typed": "1 Nm"}), 409, "newer_sleeve")


class TheHousing(ApiTestCase):
    def test_what_is_in_is_kept_with_its_bearings_and_preload_part(self) -> None:
        job = self.make_job(family="brannoch-bf21")
        body = {"after": 0, "depth": "0.80 mm", "ring_side_notches": 0, "far_side_notches": 0}
        self.post(f"/work/{job}/trials", {**body, "preload_part": "spacer", "spacer": "0.40 mm + 0.06 mm", "bearings": "set_up"})
        shown = self.call("get", f"/work/{job}/bench").json()["trials"][0]
        self.assertEqual((shown["preload_part"], shown["bearings"], shown["is_final"]), ("spacer", "set_up", False))
        self.assertEqual([(one["thickness_mm"], one["count"]) for one in shown["spacer"]], [(0.4, 1), (0.06, 1)])
        again = self.post(f"/work/{job}/trials", {**body, "after": 1, "depth": "", "preload_part": "spacer"}).json()["trials"][1]
        self.assertEqual(([one["thickness_mm"] for one in again["spacer"]], again["depth_shim_mm"]), ([0.4, 0.06], 0.8))

    def test_the_first_trial_says_its_depth_shim(self) -> None:
        job = self.make_job()
        self.assert_refused(self.begin(job, depth=None), 422, "bad_input", field="depth")
        self.assertEqual(Trial.objects.count(), 0)

    def test_readings_before_the_conditions_are_kept_and_count_once_they_are_confirmed(self) -> None:
        job = self.make_job()
        trial = self.trial_id(self.begin(job))
        for place in range(8):
            self.read(trial, "0.17 mm", 45.0 * place)
        self.assertEqual(BenchFinding.objects.get(work_id=job).backlash, "unknown")
        self.confirm(trial)
        self.assertEqual(BenchFinding.objects.get(work_id=job).backlash, "in")
