"""Run sheets of other kinds: readings beside the as-found ones, ways, clocks, waits, counting, and what does not fit."""

from __future__ import annotations

import uuid
from datetime import timedelta
from typing import Any

from jobs.models import Job
from test_support.api_case import API, ApiTestCase
from vehicles.models import OdometerReading
from work.models import StepReading, StepRecord, WayChoice, Work
from work.run_sheet import RunSheet


class OtherKinds(ApiTestCase):
    def book(self, kind: str, place: str = "rear_axle", **more: Any) -> str:
        return self.make_job(kind=kind, axle=None, place=place, teeth=None, **{"family": "corrie-ls19", **more})

    def step(self, work: str, code: str) -> dict[str, Any]:
        found: dict[str, Any] = next(one for one in self.call("get", f"/work/{work}").json()["steps"] if one["code"] == code)
        return found

    def passes(self, work: str, code: str, values: dict[str, str] | None = None, **more: Any) -> Any:
        return self.post(f"/work/{work}/steps/{code}/pass", {"values": values or {}, **more})

    def chooses(self, work: str, question: str, way: str, reason: str = "") -> Any:
        return self.post(f"/work/{work}/ways", {"question": question, "way": way, "reason": reason})


class PinionSeal(OtherKinds):
    FOUND = {"as_found.rotating_torque": "1.2 Nm", "as_found.nut_thread_exposed": "6.2", "as_found.nut_clock": "40"}

    def at_the_nut(self) -> str:
        work = self.book("pinion_seal")
        self.pass_all(work, until="as_found_nut")
        self.assertEqual(self.passes(work, "as_found_nut", self.FOUND).status_code, 201)
        self.pass_all(work, until="nut")
        return work

    def test_the_nut_is_not_touched_before_it_is_read(self) -> None:
        work = self.book("pinion_seal")
        self.pass_all(work, until="as_found_nut")
        self.assert_refused(self.passes(work, "flange_off"), 422, "held", words="Before the nut is touched")
        self.assert_refused(
            self.passes(work, "as_found_nut", {**self.FOUND, "as_found.nut_clock": ""}), 422, "bad_input", words="Clock position"
        )

    def test_back_to_its_mark_stands_beside_what_was_found(self) -> None:
        work = self.at_the_nut()
        self.chooses(work, "nut", "back_to_mark")
        asks = self.step(work, "nut_to_mark")["asks"]
        self.assertEqual([one["beside"] for one in asks], ["As found 1.20 Nm", "As found 6.20 mm"])
        low = {"rotating_torque": "1.0 Nm", "nut_thread_exposed": "6.1"}
        self.assert_refused(self.passes(work, "nut_to_mark", low), 422, "out_of_window", words="0.20 Nm under the minimum")
        self.assertEqual(self.passes(work, "nut_to_mark", {**low, "rotating_torque": "1.3 Nm"}).status_code, 201)
        self.assertEqual(self.step(work, "nut_to_mark")["asks"][0]["beside"], "As found 1.20 Nm: +0.10 Nm")
        book = {one["name"]: (one["entered"], one["since"]) for one in self.call("get", f"/work/{work}").json()["as_found"]}
        self.assertEqual(book["as_found.rotating_torque"], ("1.2 Nm", "1.3 Nm"))

    def test_what_was_taken_back_does_not_count_until_it_is_read_again(self) -> None:
        work = self.at_the_nut()
        self.chooses(work, "nut", "back_to_mark")
        self.post(f"/work/{work}/steps/as_found_nut/take-back", {"reason": "Read with the wheels on"})
        self.assertEqual([one["name"] for one in self.call("get", f"/work/{work}").json()["as_found"]], ["as_found.oil"])
        self.assertEqual([one["beside"] for one in self.step(work, "nut_to_mark")["asks"]], [None, None])
        self.assert_refused(self.passes(work, "nut_to_mark"), 422, "held", words="Before the nut is touched")

    def test_past_the_mark_it_goes_over_to_a_new_sleeve_and_the_record_shows_why(self) -> None:
        work = self.at_the_nut()
        self.chooses(work, "nut", "back_to_mark")
        past = {"rotating_torque": "3.4 Nm", "nut_thread_exposed": "6.5"}
        self.assert_refused(self.passes(work, "nut_to_mark", past), 422, "out_of_window", words="hold point stays closed")
        self.assertEqual(StepRecord.objects.filter(work_id=work, step_code="nut_to_mark").count(), 0)
        self.assertEqual(self.passes(work, "nut_to_mark", past, keep=True).status_code, 201)
        step = self.step(work, "nut_to_mark")
        self.assertEqual((step["state"], step["outcome"], step["asks"][0]["verdict"]), ("open", "out", "out"))
        self.assertTrue(self.step(work, "nut_to_mark")["is_next"])
        self.assert_refused(self.chooses(work, "nut", "new_sleeve"), 422, "bad_input", field="reason")
        before = {one["code"] for one in self.call("get", f"/work/{work}").json()["steps"] if one["state"] == "passed"}
        reply = self.chooses(work, "nut", "new_sleeve", "Past the mark: 3.4 Nm")
        after = {one["code"] for one in reply.json()["steps"] if one["state"] == "passed"}
        self.assertEqual(before, after)
        self.assertEqual(next(one["code"] for one in reply.json()["steps"] if one["is_next"]), "sleeve_new")
        self.assertNotIn("nut_to_mark", [one["code"] for one in reply.json()["steps"]])
        ways = [(one.way, one.reason) for one in WayChoice.objects.filter(work_id=work, question="nut")]
        self.assertEqual(ways, [("back_to_mark", "Recommended"), ("new_sleeve", "Past the mark: 3.4 Nm")])
        self.pass_all(work)
        self.assertEqual(self.call("get", f"/jobs/{work}").json()["state"], "to_sign")
        self.assertEqual(self.post(f"/work/{work}/sign-off", {}, by="greta").status_code, 201)
        page = self.client_of("isla").get(f"{API}/work/{work}/sheet.html")
        self.assertContains(page, "New crush sleeve, measured")
        self.assertContains(page, "Past the mark: 3.4 Nm")

    def test_a_flange_of_another_length_shuts_the_way_back_to_the_mark(self) -> None:
        work = self.book("pinion_seal")
        self.pass_all(work, until="as_found_nut")
        self.passes(work, "as_found_nut", self.FOUND)
        self.pass_all(work, until="flange_land")
        self.chooses(work, "flange_land", "new_flange", "Pitted")
        alike = {"as_found.flange_length": "84.20 mm", "flange_length": "84.24 mm"}
        self.passes(work, "flange_length", alike)
        self.pass_all(work, until="nut")

        def ways() -> dict[str, Any]:
            return {one["code"]: (one["recommended"], one["shut"]) for one in self.step(work, "nut")["ways"]}

        self.assertEqual(ways()["back_to_mark"], (True, ""))
        self.chooses(work, "nut", "back_to_mark")
        self.post(f"/work/{work}/steps/flange_length/take-back", {"reason": "Read at the wrong face"})
        self.assertEqual(self.passes(work, "flange_length", {**alike, "flange_length": "83.50 mm"}).status_code, 201)
        self.assertIn("0.70 mm shorter", ways()["back_to_mark"][1])
        self.assertEqual(ways()["new_sleeve"], (True, ""))
        good = {"rotating_torque": "1.3 Nm", "nut_thread_exposed": "6.2"}
        self.assert_refused(self.passes(work, "nut_to_mark", good), 422, "held", words="the marks mean nothing")
        self.assertEqual(self.chooses(work, "nut", "new_sleeve", "Another flange").status_code, 201)
        self.assert_refused(self.chooses(work, "nut", "back_to_mark", "All the same"), 422, "held", field="way")
        self.chooses(work, "flange_land", "polish", "The old one after all")
        self.assertEqual(ways()["back_to_mark"], (True, ""))


class OnPaper(OtherKinds):
    def test_it_has_boxes_for_readings_cautions_ways_and_bolts(self) -> None:
        work = self.book("clutch_packs")
        page = self.client_of("isla").get(f"{API}/work/{work}/run-sheet.html").content.decode()
        for words in (
            "Caution:",
            "Hold point.",
            "Stack, left (mm)",
            "Clip in the differential",
            "begun ",
            "Cover bolts: 10, stage 1: 16 Nm",
        ):
            with self.subTest(words):
                self.assertIn(words, page)
        self.assertIn("80 ml of friction modifier first, then 1.57 l of oil", page)
        ring = self.make_job()
        page = self.client_of("isla").get(f"{API}/work/{ring}/run-sheet.html").content.decode()
        self.assertEqual(page.count("<text"), 10 + 4 + 10 + 4)  # ring gear, caps, cover, propshaft
        self.assertTrue(self.client_of("isla").get(f"{API}/work/{ring}/run-sheet.pdf").content.startswith(b"%PDF-"))


class Clocks(OtherKinds):
    def test_the_soak_runs_while_the_work_goes_on(self) -> None:
        work = self.book("clutch_packs")
        self.pass_all(work, until="soak")
        self.assert_refused(self.passes(work, "soak"), 422, "held", words="Start the clock")
        reply = self.post(f"/work/{work}/steps/soak/begin", {"minutes": 30})
        steps = {one["code"]: one for one in reply.json()["steps"]}
        self.assertAlmostEqual(steps["soak"]["clock"]["minutes_to_go"], 30.0, places=1)
        self.assertEqual((steps["soak"]["is_next"], steps["stands_and_chocks"]["is_next"]), (False, True))
        self.assert_refused(self.passes(work, "soak"), 422, "running", words="another 30 minutes")
        self.assert_refused(self.post(f"/work/{work}/steps/soak/begin", {}), 422, "running")
        self.assert_refused(self.post(f"/work/{work}/steps/soak/skip", {"reason": ""}), 422, "bad_input", field="reason")
        cut = self.post(f"/work/{work}/steps/soak/skip", {"reason": "Soaked overnight in a tin"})
        self.assertEqual(cut.status_code, 201)
        self.assertEqual((self.step(work, "soak")["outcome"], self.step(work, "soak")["state"]), ("cut_short", "passed"))

    def test_a_clock_that_is_over_comes_up_again(self) -> None:
        work = self.book("clutch_packs")
        self.pass_all(work, until="soak")
        self.post(f"/work/{work}/steps/soak/begin", {"minutes": 30})
        running = StepRecord.objects.get(work_id=work, step_code="soak")
        sheet = RunSheet(Work.objects.with_job().get(pk=work))
        self.assertEqual(sheet.to_go(next(one for one in sheet.steps if one.code == "soak"), running.at + timedelta(minutes=31)), 0.0)

    def test_a_hold_cannot_be_skipped_and_what_can_wants_a_reason(self) -> None:
        work = self.book("oil_service", family="")
        self.pass_all(work, until="stands_and_chocks")
        self.assert_refused(
            self.post(f"/work/{work}/steps/stands_and_chocks/skip", {"reason": "In a hurry"}), 422, "held", words="hold point"
        )
        self.pass_all(work, until="leak_warm")
        self.assert_refused(self.post(f"/work/{work}/steps/leak_warm/skip", {"reason": ""}), 422, "bad_input", field="reason")
        self.assertEqual(self.post(f"/work/{work}/steps/leak_warm/skip", {"reason": "Not driven"}).status_code, 201)


class Waits(OtherKinds):
    def test_a_job_is_parked_and_taken_up_by_somebody_else(self) -> None:
        work = self.book("shaft_made", "rear_shaft", family="")
        for code in ("angles", "tube"):
            self.pass_all(work, until=code)
            self.assert_refused(self.passes(work, code), 422, "held", words="Driveline desk")
            StepRecord.objects.create(work_id=work, step_code=code, outcome="passed", by_name="Isla Moray")
        self.pass_all(work, until="shaft_away")
        path = f"/work/{work}/steps/shaft_away"
        self.assert_refused(self.post(f"{path}/begin", {"waits_for": "parts"}), 422, "bad_input", field="note")
        lies = "Flange bolts in tray 4, may be rolled"
        self.assertEqual(self.post(f"{path}/begin", {"waits_for": "parts", "note": lies}).status_code, 201)
        job = self.call("get", f"/jobs/{work}").json()
        self.assertEqual((job["state"], job["waits_for"], job["waits_note"]), ("waiting", "parts", lies))
        self.post(f"{path}/take-back", {"reason": "The shaft was here"})
        self.assertEqual(self.call("get", f"/jobs/{work}").json()["waits_for"], "nothing")
        self.post(f"{path}/begin", {"waits_for": "parts", "note": lies})
        self.assertEqual(self.post(f"{path}/pass", {}, by="tam").status_code, 201)
        job = self.call("get", f"/jobs/{work}").json()
        self.assertEqual((job["state"], job["waits_for"], job["waits_note"]), ("in_work", "nothing", ""))
        self.assertEqual(self.step(work, "shaft_away")["by_name"], "Tam Birsay")


class Counting(OtherKinds):
    def test_a_missing_roller_keeps_it_shut(self) -> None:
        work = self.book("transfer_output", "transfer_case", layout="four_wheel_drive", family="")
        self.pass_all(work, until="as_found_play")
        self.passes(work, "as_found_play", {"as_found.end_play": "0.4 mm"})
        self.pass_all(work, until="rollers")
        short = {"rollers_due": "24", "rollers": "23"}
        self.assert_refused(self.passes(work, "rollers", short), 422, "out_of_window", words="23 counted, 24 should be there")
        self.assert_refused(self.passes(work, "rollers", {**short, "rollers": "2 dozen"}), 422, "bad_input", words="plain number")
        self.assertEqual(self.passes(work, "rollers", {**short, "rollers": "24"}).status_code, 201)
        self.assertEqual(StepReading.objects.filter(record__work_id=work, name="rollers").count(), 1)


class Booking(OtherKinds):
    def test_what_does_not_fit_gets_one_sentence(self) -> None:
        for name, card, code, field in (
            ("half shafts on a beam axle", {"kind": "half_shafts"}, "does_not_fit", "kind"),
            ("retention on half shafts", {"kind": "retention", "family": "ostrel-ir20"}, "does_not_fit", "kind"),
            ("a joint on an axle", {"kind": "joint", "family": ""}, "does_not_fit", "kind"),
            ("ring and pinion of nothing known", {"kind": "ring_and_pinion", "family": ""}, "bad_input", "family"),
            ("an axle's sheet for a shaft", {"kind": "joint", "place": "rear_shaft"}, "does_not_fit", "family"),
            ("no such kind", {"kind": "paint_job"}, "bad_input", "kind"),
            ("no such part", {"kind": "joint", "place": "front_shaft", "family": ""}, "bad_input", "place"),
            ("an odometer of words", {"kind": "oil_service", "odometer": "lots"}, "bad_input", "odometer"),
        ):
            with self.subTest(name):
                body = {**self.card(axle=None, place="rear_axle"), **card}
                jobs = Job.objects.count()
                self.assert_refused(self.call("post", "/jobs", body), 422, code, field=field)
                self.assertEqual(Job.objects.count(), jobs)

    def test_front_and_rear_in_one_job_with_two_benches_and_a_speedometer(self) -> None:
        more = [
            {"id": str(uuid.uuid4()), "kind": "ring_and_pinion", "place": "front_axle", "family": "brannoch-bf21"},
            {"id": str(uuid.uuid4()), "kind": "speedometer", "place": "vehicle"},
        ]
        job = self.make_job(layout="four_wheel_drive", odometer="84 200 km".replace(" ", ""), promised_on="2026-12-04", more=more)
        found = self.call("get", f"/jobs/{job}").json()
        self.assertEqual(
            [(one["title"], one["on_bench"]) for one in found["works"]][1:],
            [("Ring and pinion, front axle", True), ("Speedometer correction, whole vehicle", False)],
        )
        self.assertEqual(found["promised_on"], "2026-12-04")
        self.assertEqual(OdometerReading.objects.get(vehicle=Job.objects.get(pk=job).vehicle).km, 84200.0)
        self.assertEqual(self.call("get", f"/work/{more[1]['id']}/bench").status_code, 404)
        self.assertEqual(self.call("get", f"/work/{more[0]['id']}/bench").status_code, 200)

    def test_an_odometer_that_runs_backwards_is_asked_about(self) -> None:
        first = self.make_job(odometer="84200")
        vehicle = Job.objects.get(pk=first).vehicle_id
        body = {**self.card(vehicle_id=str(vehicle)), "odometer": "8420"}
        self.assert_refused(self.call("post", "/jobs", body), 422, "odometer_backwards", words="84\u2009200 km before")
        self.assertEqual(self.call("post", "/jobs", {**body, "sure": True}).status_code, 201)

    def test_a_complaint_points_at_kinds(self) -> None:
        found = self.call("get", "/kinds?complaint=Pinion%20seal%20weeps").json()
        self.assertEqual(len(found["kinds"]), 19)
        self.assertEqual(found["pointed_at"][0], "pinion_seal")
        ring = next(one for one in found["kinds"] if one["code"] == "ring_and_pinion")
        self.assertEqual((ring["bench"], ring["places"]), (True, ["front_axle", "rear_axle"]))

    def test_two_people_passing_the_same_step(self) -> None:
        work = self.book("oil_service", family="")
        self.assertEqual(self.passes(work, "complaint").status_code, 201)
        self.assert_refused(self.post(f"/work/{work}/steps/complaint/pass", {}, by="tam"), 409, "passed_already", words="Isla Moray")

    def test_every_kind_can_be_booked_worked_to_the_end_and_signed(self) -> None:
        kinds = self.call("get", "/kinds").json()["kinds"]
        for kind in (one for one in kinds if not one["bench"]):
            with self.subTest(kind["code"]):
                place = kind["places"][-1] if "vehicle" not in kind["places"] else "vehicle"
                work = self.book(kind["code"], place, layout="four_wheel_drive", family="", vehicle=kind["title"])
                for _ in range(6):  # what a desk answers for is taken as answered
                    sheet = RunSheet(Work.objects.with_job().get(pk=work))
                    asked = [
                        one
                        for one in sheet.steps
                        if one.act == "measure" and one.code not in sheet.passed and sheet.missing(one) is not None
                    ]
                    if not asked:
                        break
                    self.pass_all(work, until=asked[0].code)
                    StepRecord.objects.create(work_id=work, step_code=asked[0].code, outcome="passed", by_name="Isla Moray")
                if any(one.code == "gear_set" for one in sheet.steps):
                    self.pass_all(work, until="gear_set")
                    self.assertEqual(self.post(f"/work/{work}/gear-set", {"pinion_teeth": 10, "ring_teeth": 41}).status_code, 201)
                self.pass_all(work)
                self.assertEqual(self.call("get", f"/jobs/{work}").json()["state"], "to_sign")
                self.assertEqual(self.post(f"/work/{work}/sign-off", {}, by="greta").status_code, 201)
                self.assertEqual(self.client_of("isla").get(f"{API}/work/{work}/sheet.html").status_code, 200)
