"""Jobs of several pieces of work on a vehicle that comes again: each judged by its own sheet, signed for itself."""

from __future__ import annotations

import uuid
from typing import Any

from django.db import IntegrityError, transaction

from amber_core.words import NOTHING
from jobs.models import Job, StationRecord
from setup_bench.models import Trial
from stores.models import AxleFamily, SheetRevision
from test_support.api_case import API, ApiTestCase
from test_support.finished import finished_job
from vehicles.models import Vehicle
from work.checks import check_of, register
from work.models import ProcedureRevision, Work


class SeveralPieces(ApiTestCase):
    def four_wheel(self) -> str:
        return self.make_job(vehicle="Four-wheel-drive", layout="four_wheel_drive", teeth=(10, 41))

    def add(self, job: str, **more: Any) -> Any:
        return self.post(f"/jobs/{job}/work", {"id": str(uuid.uuid4()), "axle": "front", "family": "halden-hf25", **more})

    def test_front_and_rear_are_two_pieces_of_one_job(self) -> None:
        job = self.four_wheel()
        added = self.add(job)
        self.assertEqual(added.status_code, 201, added.content)
        works = added.json()["works"]
        self.assertEqual([(one["number"], one["axle"]) for one in works], [(1, "rear"), (2, "front")])
        self.assertEqual(works[0]["id"], job)  # the first keeps the job's id, so that addresses from before lead to it
        front = works[1]["id"]
        self.post(f"/work/{front}/gear-set", {"pinion_teeth": 8, "ring_teeth": 41})
        shown = self.call("get", f"/jobs/{job}").json()
        self.assertEqual((shown["match"]["verdict"], abs(shown["match"]["mismatch_pct"]) > 5), ("out", True))
        road_test = next(one for one in self.call("get", f"/work/{front}").json()["steps"] if one["code"] == "road_test")
        self.assertEqual(road_test["state"], "shut")
        first = self.call("get", f"/work/{job}").json()
        self.assertEqual((first["family"], self.call("get", f"/work/{front}").json()["family"]), ("corrie-ls19", "halden-hf25"))

    def test_each_is_signed_for_itself_and_the_job_is_done_with_the_last(self) -> None:
        job = finished_job(self.who["isla"])
        Vehicle.objects.update(layout="four_wheel_drive")
        front = self.add(job).json()["works"][1]["id"]
        self.assertEqual(self.post(f"/work/{job}/sign-off", {}, by="greta").status_code, 201)
        self.assertEqual([one.state for one in Work.objects.filter(job_id=job)], ["done", "booked"])
        shown = self.call("get", f"/jobs/{job}").json()
        self.assertNotEqual(shown["state"], "done")
        self.assertEqual(self.post(f"/work/{front}/gear-set", {"pinion_teeth": 8, "ring_teeth": 41}).status_code, 201)
        self.assert_refused(self.post(f"/work/{job}/gear-set", {"pinion_teeth": 8, "ring_teeth": 41}), 409, "signed_off")
        self.assert_refused(self.post(f"/work/{front}/sign-off", {}, by="greta"), 422, "not_ready")

    def test_a_job_whose_only_work_is_signed_takes_no_more_and_a_vehicle_has_only_what_it_has(self) -> None:
        job = self.make_job()
        self.assert_refused(self.add(job), 422, "bad_input", field="axle")
        done = finished_job(self.who["isla"], vehicle="Done van")
        self.post(f"/work/{done}/sign-off", {}, by="greta")
        self.assertEqual(self.add(done, axle="rear").status_code, 409)
        self.assertEqual(Work.objects.count(), 2)

    def test_who_may_and_a_retry(self) -> None:
        job = self.four_wheel()
        body = {"id": str(uuid.uuid4()), "client_id": str(uuid.uuid4()), "axle": "front", "family": "halden-hf25"}
        self.assertEqual(self.call("post", f"/jobs/{job}/work", body, by="visitor").status_code, 403)
        for _ in range(2):
            self.assertEqual(self.call("post", f"/jobs/{job}/work", body).status_code, 201)
        self.assertEqual(Work.objects.filter(job_id=job).count(), 2)
        with self.assertRaises(IntegrityError), transaction.atomic():
            Work.objects.filter(pk=body["id"]).update(number=1)

    def test_a_bearing_offset_is_the_trials_and_moves_no_other_job(self) -> None:
        mine, other = self.make_job(family="brannoch-bf21"), self.make_job(family="brannoch-bf21", vehicle="Other")
        body = {"after": 0, "depth": "0.80 mm", "ring_side_notches": 0, "far_side_notches": 0, "bearings": "set_up"}
        self.post(f"/work/{other}/trials", body)
        before = (SheetRevision.objects.count(), AxleFamily.objects.get(code="brannoch-bf21").bearing_offset_mm)
        self.assertEqual(self.post(f"/work/{mine}/trials", {**body, "bearing_offset": "0.29 mm"}).status_code, 201)
        self.assertEqual((SheetRevision.objects.count(), AxleFamily.objects.get(code="brannoch-bf21").bearing_offset_mm), before)
        self.assertEqual({one.bearing_offset_mm for one in Trial.objects.all()}, {None, 0.29})
        shown = [self.call("get", f"/work/{one}/bench").json()["bearing_offset_mm"] for one in (mine, other)]
        self.assertEqual(shown, [0.29, before[1]])

    def test_a_reading_does_not_push_somebody_off_the_card(self) -> None:
        job = self.make_job()
        version = self.call("get", f"/jobs/{job}").json()["version"]
        trial = self.trial_id(self.begin(job))
        self.confirm(trial)
        self.read(trial, "0.17 mm")
        self.call("put", f"/jobs/{job}/stations/gearbox", {"state": "fault", "note": "wet", "version": 1}, by="tam")
        self.assertEqual(self.call("patch", f"/jobs/{job}", {"version": version, "complaint": "Howl"}).status_code, 200)

    def test_two_people_at_one_station_both_stay_on_the_record(self) -> None:
        job = self.make_job()
        path = f"/jobs/{job}/stations/gearbox"
        first = self.call("put", path, {"state": "fault", "note": "seal wet", "version": 1})
        self.assertEqual(first.status_code, 200)
        self.assert_refused(self.call("put", path, {"state": "good", "note": "", "version": 1}, by="tam"), 409, "conflict")
        self.assertEqual(self.call("put", path, {"state": "good", "note": "mended", "version": 2}, by="tam").status_code, 200)
        rows = [(one.state, one.by_name) for one in StationRecord.objects.filter(place="gearbox")]
        self.assertEqual(rows, [("fault", "Isla Moray"), ("good", "Tam Birsay")])

    def test_the_steps_of_a_release_stay_with_the_work_that_began_under_it(self) -> None:
        first = Work.objects.get(pk=self.make_job()).procedure
        self.assertEqual((first.number, len(first.content) > 20), (1, True))
        ProcedureRevision.objects.create(
            kind=first.kind, number=2, core_version="9.9", content=[], content_hash="0" * 64, by_name="Amber Pinion"
        )
        again = Work.objects.get(pk=self.make_job(vehicle="Another")).procedure
        self.assertEqual((again.number, again.content), (1, first.content))

    def test_only_one_area_answers_for_a_step(self) -> None:
        asks = check_of("bench_backlash")
        assert asks is not None
        register("bench_backlash", asks)
        with self.assertRaises(ValueError):
            register("bench_backlash", lambda work: NOTHING)


class Vehicles(ApiTestCase):
    def test_a_vehicle_comes_again(self) -> None:
        first = self.make_job()
        vehicle = self.call("get", f"/jobs/{first}").json()["vehicle_id"]
        again = self.make_job(vehicle="", vehicle_id=vehicle, complaint="Back again")
        self.assertEqual(Vehicle.objects.count(), 1)
        visits = self.call("get", f"/vehicles/{vehicle}/visits").json()
        self.assertEqual({one["job_id"] for one in visits}, {first, again})
        shown = self.call("get", f"/vehicles/{vehicle}").json()
        rear = next(one for one in shown["assemblies"] if one["place"] == "rear_axle")
        self.assertEqual((rear["family"], rear["teeth"]), ("corrie-ls19", "10/41"))

    def test_made_changed_and_found(self) -> None:
        body = {"id": str(uuid.uuid4()), "owner": "Island Roads", "name": "Gritter", "layout": "four_wheel_drive", "registration": "GR 17"}
        for _ in range(2):
            self.assertEqual(self.call("post", "/vehicles", {**body, "client_id": body["id"]}).status_code, 201)
        found = self.call("get", "/vehicles?search=gr+17").json()
        self.assertEqual([(one["name"], one["jobs"]) for one in found["vehicles"]], [("Gritter", 0)])
        path = f"/vehicles/{body['id']}"
        version = self.call("get", path).json()["version"]
        self.assertEqual(self.call("patch", path, {"version": version, "registration": "GR 18"}).json()["registration"], "GR 18")
        self.assert_refused(self.call("patch", path, {"version": version, "registration": "GR 19"}), 409, "conflict")
        self.assertEqual(self.call("patch", path, {"version": version, "registration": "x"}, by="visitor").status_code, 403)

    def test_a_renamed_vehicle_is_found_on_the_floor(self) -> None:
        job = self.make_job()
        vehicle = self.call("get", f"/jobs/{job}").json()["vehicle_id"]
        self.call("patch", f"/vehicles/{vehicle}", {"version": 1, "name": "Mail coach", "registration": "SK 1"})
        for words in ("mail", "sk+1", "skerrow", str(Job.objects.get().number)):
            with self.subTest(words):
                self.assertEqual(len(self.call("get", f"/floor?search={words}").json()["jobs"]), 1)
        self.assertEqual(self.call("get", "/floor?search=van").json()["jobs"], [])

    def test_the_odometers_log_keeps_each_reading_and_who_read_it(self) -> None:
        vehicle = self.call("get", f"/jobs/{self.make_job()}").json()["vehicle_id"]
        path = f"/vehicles/{vehicle}/odometer"
        self.assertEqual(self.post(path, {"typed": "81240"}).json()["odometer"][-1]["km"], 81240)
        self.assertEqual(self.post(path, {"typed": "81300 km"}).status_code, 201)
        for typed in ("", "far", "20 Nm", "9000000"):
            with self.subTest(typed):
                self.assertEqual(self.post(path, {"typed": typed}).status_code, 422)
        self.assertEqual(len(self.call("get", f"/vehicles/{vehicle}").json()["odometer"]), 2)

    def test_the_lists_in_a_fixed_number_of_queries(self) -> None:
        client = self.client_of("isla")
        vehicle = self.call("get", f"/jobs/{self.make_job()}").json()["vehicle_id"]
        counts = []
        for _ in range(3):
            for path in ("/vehicles", f"/vehicles/{vehicle}/visits", "/floor"):
                with self.subTest(path), self.assertNumQueries(_QUERIES[path.split("/")[-1]]):
                    client.get(API + path)
            counts.append(len(client.get(f"{API}/vehicles/{vehicle}/visits").json()))
            self.make_job(vehicle="", vehicle_id=vehicle)
            self.make_job(vehicle="More")
        self.assertEqual(counts, [1, 2, 3])


_QUERIES = {"vehicles": 4, "visits": 4, "floor": 3}
